# The race of tune_rules(): all candidates play the same deals, at doubled numbers of trials. At each of these looks an
# estimate is bounded with an error so small that all bounds of all looks hold together; what surely misses a wish, or
# is surely worse than what surely meets them, plays no further.

first_look <- 1000

# At how many trials candidates are looked at.
look_sizes <- function(nsim) {
  looks <- first_look * 2^(0:max(0, floor(log2(nsim / first_look))))
  unique(c(looks[looks <= nsim], nsim))
}

# Bounds of all estimates: a matrix each of `estimate`, `low`, `high`, with a row for each candidate at each line-up and
# a column for each name; `done` trials of each row; whether each candidate is `open`, and `worse` than another.
start_race <- function(tuning) {
  rows <- length(tuning$candidates) * length(tuning$line_ups)
  empty <- matrix(NA_real_, rows, length(tuning$names), dimnames = list(NULL, tuning$names))
  state <- list(estimate = empty, low = replace(empty, TRUE, -Inf), high = replace(empty, TRUE, Inf),
                done = numeric(rows), sure = TRUE, stopped = NULL)
  judged(tuning, with_known(tuning, state))
}

# What is known without playing.
with_known <- function(tuning, state) {
  for (name in names(tuning$known)) {
    state$estimate[, name] <- state$low[, name] <- state$high[, name] <- tuning$known[[name]]
  }
  state
}

# The race to its end, `until` so many trials, or as far as it comes.
run_race <- function(tuning, run, until = Inf) {
  if (!length(tuning$played)) return(start_race(tuning))
  state <- judged(tuning, with_kept_race(start_race(tuning), tuning, run))
  # Of each row the trials that its tally holds; after a checkpoint none.
  counted <- numeric(length(state$done))
  tallies <- vector("list", length(state$done))
  looks <- look_sizes(run$nsim)
  error <- error_of_each(tuning, run, length(looks))
  present <- list()
  bar <- local_progress("Tuning", run$progress, length(tuning$candidates), tells = TRUE)
  begun <- now()
  tryCatch({
    for (look in looks[looks <= until]) {
      if (length(tuning$now_names)) {
        present <- present_played(tuning, present, look, run, begun)
        state <- with_present(tuning, state, present, look, error)
      }
      for (row in rows_to_play(tuning, state)) {
        game <- tuning$game_at(row)
        if (state$done[row] >= look) next
        tallies[[row]] <- played_on(game, tallies[[row]], counted[row], look, run, begun)
        counted[row] <- look
        state <- looked_at(state, row, look, bounds_of(tuning$played, tuning, game, tallies[[row]], look, error))
        bar$move(sum(!state$open), race_in_words(state, look))
      }
      state <- judged(tuning, state)
      run["checkpoint"] <- list(keep_race(tuning, state, run))
      if (!length(rows_to_play(tuning, state))) break
    }
  }, interrupt = function(cnd) state$stopped <<- "interrupted",
  habanera_out_of_time = function(cnd) state$stopped <<- "out of time")
  if (!is.null(state$stopped)) keep_race(tuning, state, run)
  if (identical(state$stopped, "interrupted")) {
    warn_user("Interrupted: what is not decided by now is called open.", "interrupted")
  }
  judged(tuning, state)
}

# "12 left, 188 decided, at 8,000 trials ".
race_in_words <- function(state, look) {
  sprintf("%s left, %s decided, at %s trials ", format_count(sum(state$open)), format_count(sum(!state$open)),
          format_count(look))
}

# The chance of error of a single bound: all of them together, of what was not tried, too, are wrong with at most the
# level (Bonferroni).
error_of_each <- function(tuning, run, looks) {
  candidates <- length(tuning$candidates) + tuning$beside + (length(tuning$now_names) > 0)
  run$level / (looks * candidates * length(tuning$line_ups) * tuning$parts)
}

# The tally of a game played on, from so many trials to so many.
played_on <- function(game, tally, done, look, run, begun) UseMethod("played_on")

#' @export
played_on.default <- function(game, tally, done, look, run, begun) {
  for (part in lap_parts(game, done, look)) {
    refuse_late(run, begun)
    tally <- add_tallies(tally, run_lap(game, run$seed, part$first, part$count, run$threads))
  }
  tally
}

# That of trials which come after all that the race may play.
played_afresh <- function(game, trials, run) UseMethod("played_afresh")

#' @export
played_afresh.default <- function(game, trials, run) run_lap(game, run$seed, run$nsim + 1, trials, run$threads)

refuse_late <- function(run, begun) {
  if (now() - begun > run$seconds) rlang::abort("", class = "habanera_out_of_time")
}

# The game by the rules as they are, at each line-up.
present_played <- function(tuning, present, look, run, begun) {
  lapply(seq_along(tuning$line_ups), function(at) {
    before <- if (length(present)) present[[at]] else list(tally = NULL, done = 0)
    list(tally = played_on(tuning$present[[at]], before$tally, before$done, look, run, begun), done = look)
  })
}

with_present <- function(tuning, state, present, look, error) {
  for (at in seq_along(present)) {
    bounds <- bounds_of(tuning$now_names, tuning, tuning$present[[at]], present[[at]]$tally, look, error)
    names(bounds) <- now_name(names(bounds))
    rows <- (at - 1) * length(tuning$candidates) + seq_along(tuning$candidates)
    for (row in rows) state <- looked_at(state, row, state$done[row], bounds)
  }
  state
}

# Trials as shares that each take a while, and not long.
lap_parts <- function(game, done, look) {
  size <- most_in_lap(game, max(first_look, min(look - done, 2e5)))
  firsts <- seq(done, look - 1, by = size)
  lapply(firsts, function(first) list(first = first + 1, count = min(size, look - first)))
}

line_up_of <- function(tuning, row) (row - 1) %/% length(tuning$candidates) + 1

rows_to_play <- function(tuning, state) which(state$open[tuning$candidate_of])

# Bounds of earlier looks hold as well: what is known is where they meet.
looked_at <- function(state, row, look, bounds) {
  names <- names(bounds)
  state$estimate[row, names] <- vapply(bounds, `[[`, 0, "estimate")
  state$low[row, names] <- pmax(state$low[row, names], vapply(bounds, `[[`, 0, "low"))
  state$high[row, names] <- pmin(state$high[row, names], vapply(bounds, `[[`, 0, "high"))
  state$sure <- state$sure && all(vapply(bounds, `[[`, NA, "sure"))
  state$done[row] <- look
  state
}

bounds_of <- function(names, tuning, game, tally, done, error) {
  tuning$subject$bounds(names, game, tally, done, error, tuning$allowed)
}

# What each candidate is found to be: `meets` is "yes" where all wishes surely hold at every line-up, "no" where one
# surely does not, else "open"; `best` of what is aimed at. Those are open that must play on.
judged <- function(tuning, state) {
  scope <- scope_of(tuning, state)
  each <- lapply(tuning$wishes, function(wish) truth_of(wish$expr, scope))
  rows <- length(tuning$candidate_of)
  by_candidate <- function(values) matrix(rep_len(values, rows), length(tuning$candidates))
  none <- rep(FALSE, length(tuning$candidates))
  sure <- Reduce(`&`, lapply(each, function(truth) rowSums(!by_candidate(truth$sure)) == 0), !none)
  missed <- Reduce(`|`, lapply(each, function(truth) rowSums(!by_candidate(truth$possible)) > 0), none)
  state$meets <- ifelse(missed, "no", ifelse(sure, "yes", "open"))
  state$open <- state$meets == "open"
  if (!is.null(tuning$aim)) state <- aimed(tuning, state, scope, by_candidate)
  state
}

# The estimates by name as ranges, and the rules that wishes name.
scope_of <- function(tuning, state) {
  ranges <- lapply(rlang::set_names(tuning$names), function(name) {
    list(low = state$low[, name], high = state$high[, name])
  })
  c(ranges, lapply(tuning$rules, function(values) list(low = values, high = values)))
}

rounding <- 1e-12

# For each value the least of all others.
least_of_others <- function(values) {
  two <- c(sort(values), Inf)[1:2]
  ifelse(seq_along(values) == which.min(values), two[2], two[1])
}

# How near candidates come to what is aimed at, which is always least; at the worst of the line-ups.
aimed <- function(tuning, state, scope, by_candidate) {
  range <- range_of(tuning$aim$expr, scope)
  if (tuning$aim$most) range <- range_minus(range)
  low <- apply(by_candidate(range$low), 1, max)
  high <- apply(by_candidate(range$high), 1, max)
  sure <- state$meets == "yes"
  bar <- if (any(sure)) min(high[sure]) else Inf
  # What differs by rounding is the same.
  worse <- state$meets != "no" & low > bar + rounding
  left <- state$meets != "no" & !worse
  state$best <- ifelse(state$meets == "no", "no", ifelse(worse, "worse", "open"))
  # What is not beaten, and whose worst is no worse than any other's best.
  settled <- left & high <= least_of_others(ifelse(left, low, Inf)) + rounding
  state$best[settled & sure] <- "best"
  state$open <- left & !(settled & sure)
  if (all(state$meets[left] == "yes") && any(state$best == "best")) state$open[] <- FALSE
  state$aim <- list(low = if (tuning$aim$most) -high else low, high = if (tuning$aim$most) -low else high)
  state
}
