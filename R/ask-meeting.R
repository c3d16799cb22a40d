#' Everyone against everyone
#'
#' Seats the players at a game in every order and plays every line-up on the same deals: who is best, who beats whom,
#' what is it worth to sit first, and how much of a result is the deal, the seat and the player?
#'
#' A trial is one deal, played once by every line-up, so that all errors are by deal. A *score* is what a player has of
#' the win: 1, or a share of it where several are tied; of games for money its result of a round, in stakes.
#'
#' The variation of results, the variance of the score of a seat over deals and line-ups, is taken apart: `players` is
#' the variance of the mean scores of the players named, `seat` that of the seats' mean scores, both less what the luck
#' of the deals alone adds to them (the mean variance of the means, by deals, about their common mean), `deal` the mean
#' covariance of the scores of one seat in two different line-ups on the same deal, and `rest` what is left: how players
#' and deal go together, and the players' own luck (components of variance: Searle, Casella & McCulloch 1992, "Variance
#' Components", ch. 4). What comes out below nothing is shown as 0.
#'
#' A score that is a share of the win has an interval between 0 and 1: Wilson's, for as many independent deals as would
#' have the same error; of a player who won all or nothing the exact one (Clopper & Pearson 1934). Other intervals are
#' Student's t. Those of the variation are by leaving out one after the other of 32 groups of deals (the jackknife:
#' Miller 1974, Biometrika 61, 1-15), from 320 deals on.
#'
#' @param game A game with decisions and two seats or more, such as [game_pairs()]; who sits in it does not matter.
#' @param players A list of [players], or their names as text; names of the list name them. At least two; where they
#'   are fewer than the seats, they sit in every way in which all of them play.
#' @param nsim Number of deals, each played by all line-ups.
#' @param seed,threads,progress As in [simulate()][simulate.habanera_experiment].
#' @return Counts (a `habanera_counts_meeting`). `tidy()`: a row per player, per seat and per part of the variation:
#'   `part` ("player", "seat", "variation"), `term`, `estimate` (mean score, or share of the variation), `std.error`,
#'   `conf.low`, `conf.high` (95%; `NA` where deals are too few, below 6, or all alike). `as.data.frame()`: a row for
#'   each two players: `player`, `against`, `score` (the player's mean score at tables where both sit), `std.error`,
#'   `conf.low`, `conf.high`, and `lead` (its score less the other's) with `lead.low` and `lead.high`.
#' @section Errors: `habanera_error_input` for fewer than two players, two players of one name, a game without
#'   decisions or with one seat; `habanera_error_work` for more line-ups than can be counted.
#' @seealso [players]; the figure is a matrix of who beats whom.
#' @examples
#' round_robin(game_pairs(pairs = 6), c("full_memory", "careful", "random"), nsim = 500, seed = 1)
#' @export
round_robin <- function(game, players, nsim = 1e4, seed = NULL, threads = NULL, progress = NULL) {
  check_given()
  call <- rlang::current_env()
  simulate(new_meeting(checked_game(game), players, call), nsim, seed, threads = threads, progress = progress)
}

most_meeting_columns <- 600

new_meeting <- function(game, players, call) {
  refuse_without_decisions(game, call)
  scores <- capability(game, "scores", call)$columns(game$rules)
  if (holds_rounds(game)) refuse("A round robin is of single rounds: no `cut_after`.", "rules", call)
  seats <- length(scores)
  if (seats < 2) refuse("A round robin needs a game of two seats or more; with one seat use compare().", call = call)
  players <- met_players(game, players, call)
  line_ups <- line_ups_of(length(players), seats)
  if (nrow(line_ups) * (seats + 1) > most_meeting_columns) {
    refuse(sprintf("%s in %s seats make %s line-ups; at most %s are played. Take fewer players.",
                   format_count(length(players)), format_count(seats), format_count(nrow(line_ups)),
                   format_count(floor(most_meeting_columns / (seats + 1)))), "work", call)
  }
  game <- recording(change_game(game, list(players = unname(rep_len(players, seats))), call), scores)
  games <- lapply(seq_len(nrow(line_ups)), function(i) {
    change_game(game, list(players = unname(players[line_ups[i, ]])), call)
  })
  new_experiment("habanera_meeting", game = game, players = players, line_ups = line_ups, games = games)
}

# A list of players, each with the name that it goes by.
met_players <- function(game, players, call) {
  names <- names(players)
  rule <- Filter(function(rule) rule$name == "players", kind_of(game)$rules)[[1]]
  if (is.character(players)) check_utf8(players, "players", call)
  if (is.character(players)) players <- trimws(unlist(strsplit(players, ",", fixed = TRUE)))
  if (is.function(players)) players <- list(players)
  players <- lapply(unname(as.list(players)), function(player) rule$check(list(player), "players", call)[[1]])
  if (length(players) < 2) {
    refuse(sprintf("A round robin needs two players or more, not %s.", format_count(length(players))), call = call)
  }
  if (is.null(names) || length(names) != length(players)) names <- rep("", length(players))
  names <- ifelse(nzchar(names), names, player_labels(players))
  twice <- names[duplicated(names)]
  if (length(twice)) {
    refuse(sprintf("Two players are called %s; name them, as in list(one = ..., other = ...).", quoted(twice[1])),
           call = call)
  }
  rlang::set_names(players, names)
}

# Who sits where, a row for each line-up: nobody twice, or, where there are more seats than players, everybody once or
# more.
line_ups_of <- function(count, seats) {
  if (count >= seats) return(seatings(count, seats))
  grid <- all_seatings(count, seats)
  grid[apply(grid, 1, function(row) length(unique(row)) == count), , drop = FALSE]
}

# Every order of `seats` among so many, a row each.
seatings <- function(count, seats) {
  grid <- all_seatings(count, seats)
  grid[apply(grid, 1, function(row) !anyDuplicated(row)), , drop = FALSE]
}

all_seatings <- function(count, seats) {
  unname(as.matrix(expand.grid(rep(list(seq_len(count)), seats)))[, seats:1, drop = FALSE])
}

#' @export
result_kind.habanera_meeting <- function(experiment) "meeting"
#' @export
entries_per_trial.habanera_meeting <- function(experiment) 0
#' @export
adds_up.habanera_meeting <- function(experiment, n, trials) sum(n) == 0
#' @export
total_columns.habanera_meeting <- function(experiment) {
  unlist(lapply(seq_along(experiment$games), function(i) paste(i, total_columns(experiment$games[[i]]))))
}
#' @export
in_words.habanera_meeting <- function(x, ...) {
  sprintf("%s; round robin of %s", game_in_words(x$game, "players"), join_words(names(x$players)))
}
#' @export
as_plain.habanera_meeting <- function(experiment) {
  list(kind = "meeting", game = as_plain(experiment$game), names = names(experiment$players),
       players = plain_rule(new_players(experiment$players)))
}
#' @export
from_plain.meeting <- function(plain, game) {
  players <- rlang::set_names(as.list(as.character(plain$players)), as.character(plain$names))
  new_meeting(restored_game(plain$game, game), players, NULL)
}
#' @export
precision_terms.habanera_meeting <- function(experiment) character()
#' @export
experiment_code.habanera_meeting <- function(experiment) {
  names <- names(experiment$players)
  players <- sprintf("%s = %s", vapply(names, as_name_code, ""),
                     vapply(experiment$players, function(player) rule_code(new_players(list(player))), ""))
  list(r = sprintf("%s, list(%s)", experiment_code(experiment$game)$r, paste(players, collapse = ", ")), shell = NULL)
}

#' @export
run_lap.habanera_meeting <- function(experiment, seed, first, count, threads) {
  games <- experiment$games
  families <- meeting_families(experiment)
  if (any(vapply(games, has_r_function, NA))) {
    return(tally_of_sums(list(sums = sums_in_r(games, seed, first, count, families))))
  }
  counted <- until_the_end(experiment$game, seed, core_count_rounds(
    lapply(games, game_machine), lapply(games, `[[`, "spec"), lapply(games, value_counts),
    lapply(games, core_classes), families, seed, first, count, threads
  ))
  tally_of_sums(counted)
}

#' @export
counted_outcomes.habanera_meeting <- function(experiment, tally) {
  list(outcomes = tally$rows, n = numeric(), example_trial = numeric())
}

# Where among the columns the scores stand: line-ups by seats.
score_places <- function(experiment) {
  seats <- ncol(experiment$line_ups)
  columns <- nrow(experiment$line_ups) * (seats + 1)
  matrix(seq_len(columns), ncol = seats + 1, byrow = TRUE)[, -1, drop = FALSE]
}

# The sets of scores whose squares tell of the variation: each score, those of a seat, those of a player, and all.
meeting_families <- function(experiment) {
  at <- score_places(experiment)
  list(as.list(as.double(at)), lapply(seq_len(ncol(at)), function(seat) as.double(at[, seat])),
       lapply(seq_along(experiment$players), function(player) as.double(at[experiment$line_ups == player])),
       list(as.double(at)))
}

# The scores of a meeting, ready to be averaged: `of(score)` is the mean, with its error and interval, of scores
# weighted by a matrix of line-ups by seats.
meeting_scores <- function(x) {
  experiment <- x$provenance$experiment
  columns <- total_columns(experiment)
  sums <- trial_sums(x[["sums"]], columns)
  unit <- unit_of(experiment$game, experiment$game$record[1])
  at <- score_places(experiment)
  deals <- trial_count(x)
  is_share <- scored_in(experiment$game) == "the win"
  list(line_ups = experiment$line_ups, of = function(weights) {
    against <- any(weights < 0)
    all <- numeric(length(columns))
    all[at] <- weights / sum(abs(weights)) * if (against) 2 else 1
    found <- ratio_of_sums(sums, deals, all / unit, as.double(seq_along(columns) == 1))
    score_row(found, deals, if (is_share) c(if (against) -1 else 0, 1))
  })
}

# An estimate with its interval, inside what `bounds` it; NULL: nothing does.
score_row <- function(found, deals, bounds) {
  half <- student_half_width(found$std.error, found$freedom)
  ends <- found$estimate + c(-half, half)
  if (!is.null(bounds)) {
    width <- bounds[2] - bounds[1]
    share <- (found$estimate - bounds[1]) / width
    # All or nothing in every deal.
    certain <- abs(share - round(share)) < 1e-12
    interval <- if (certain) exact_interval(round(share) * deals, deals) else {
      share_interval(share, found$std.error / width, found$freedom)
    }
    ends <- bounds[1] + width * c(interval$low, interval$high)
  }
  data.frame(estimate = found$estimate, std.error = found$std.error, conf.low = ends[1], conf.high = ends[2])
}

#' @rdname round_robin
#' @param x,object What `round_robin()` gave.
#' @param ... Not used.
#' @rawNamespace S3method(generics::tidy, habanera_counts_meeting)
tidy.habanera_counts_meeting <- function(x, ...) {
  scores <- meeting_scores(x)
  names <- names(x$provenance$experiment$players)
  seats <- seq_len(ncol(scores$line_ups))
  players <- lapply(seq_along(names), function(i) scores$of(scores$line_ups == i))
  by_seat <- lapply(seats, function(seat) scores$of(col(scores$line_ups) == seat))
  variation <- meeting_variation(x)
  found <- rbind(do.call(rbind, c(players, by_seat)), variation)
  data.frame(part = rep(c("player", "seat", "variation"), c(length(players), length(seats), nrow(variation))),
             term = c(names, paste("seat", seats), rownames(variation)), found, row.names = NULL)
}

# Shares of the variance of a score over deals and line-ups.
meeting_variation <- function(x) {
  experiment <- x$provenance$experiment
  families <- meeting_families(experiment)
  found <- grouped_estimate(x[["sums"]], function(sums) variation_parts(sums, families))
  half <- student_half_width(found$std.error, found$freedom)
  within <- function(value) pmin(1, pmax(0, value))
  data.frame(estimate = within(found$estimate), std.error = found$std.error, conf.low = within(found$estimate - half),
             conf.high = within(found$estimate + half))
}

# From the sums of columns and the squares of families, see meeting_families(). The variance of the means of sets is
# what they scatter, less what the deals alone would scatter them.
variation_parts <- function(sums, families) {
  deals <- sums$trials
  names(families) <- names(sums$square) <- c("each", "seat", "players", "all")
  totals <- lapply(families, vapply, function(set) sum(sums$sum[set]), 0)
  # The variances, by deals, of what the sets of a family come to, added up.
  scatter <- function(family) (sums$square[[family]] - sum(totals[[family]]^2) / deals) / (deals - 1)
  size <- function(family) length(families[[family]][[1]])
  par <- totals$all / deals / size("all")
  variance_of_means <- function(family) {
    by_deals <- scatter(family) / length(totals[[family]]) / size(family)^2 - scatter("all") / size("all")^2
    mean((totals[[family]] / deals / size(family) - par)^2) - by_deals / deals
  }
  shared <- (scatter("seat") - scatter("each")) / length(totals$seat) / size("seat") / (size("seat") - 1)
  parts <- c(players = variance_of_means("players"), seat = variance_of_means("seat"), deal = shared)
  total <- sums$square[["each"]] / deals / size("all") - par^2
  if (!isTRUE(total > 0)) return(c(parts * NA, rest = NA))
  c(parts / total, rest = 1 - sum(pmax(0, parts)) / total)
}

#' @export
as.data.frame.habanera_counts_meeting <- function(x, row.names = NULL, optional = FALSE, ...) {
  scores <- meeting_scores(x)
  names <- names(x$provenance$experiment$players)
  pairs <- seatings(length(names), 2)
  rows <- lapply(seq_len(nrow(pairs)), function(i) {
    sits <- function(player) scores$line_ups == player
    both <- rowSums(sits(pairs[i, 1])) > 0 & rowSums(sits(pairs[i, 2])) > 0
    score <- scores$of(sits(pairs[i, 1]) & both)
    lead <- scores$of((sits(pairs[i, 1]) - sits(pairs[i, 2])) * both)
    data.frame(player = names[pairs[i, 1]], against = names[pairs[i, 2]], score = score$estimate,
               score[c("std.error", "conf.low", "conf.high")], lead = lead$estimate, lead.low = lead$conf.low,
               lead.high = lead$conf.high)
  })
  do.call(rbind, rows)
}

#' @export
first_answer.habanera_counts_meeting <- function(x) {
  found <- tidy(x)
  of <- function(part) found[found$part == part, , drop = FALSE]
  c(meeting_sentences(x, of("player"), of("seat"), of("variation")), "", aligned_lines(meeting_table(x)),
    "The score of a row's player at tables with the column's (* surely more or less than the other's).",
    sprintf("%s.", sentence(run_in_words(x))))
}

meeting_sentences <- function(x, players, seats, variation) {
  players <- players[order(-players$estimate), ]
  known <- function(rows) {
    interval <- interval_in_words(rows$conf.low, rows$conf.high, format_percent)
    paste0(format_percent(rows$estimate), ifelse(is.na(interval), "", sprintf(" (%s)", interval)))
  }
  score_of <- scored_in(x$provenance$experiment$game)
  even <- if (score_of == "the win") sprintf("an even share is %s", format_percent(1 / nrow(seats))) else {
    sprintf("all seats have %s on average", format_percent(mean(seats$estimate)))
  }
  c(sprintf("Of %s %s.", score_of, join_words(sprintf("%s has %s", players$term, known(players)))),
    sprintf("Who sits first has %s; %s.", known(seats[1, ]), even),
    if (!anyNA(variation$estimate)) variation_in_words(variation))
}

variation_in_words <- function(variation) {
  interval <- interval_in_words(variation$conf.low, variation$conf.high, function(end) sprintf("%.1f%%", 100 * end))
  interval[-1] <- sub("^95%: ", "", interval[-1])
  shares <- sprintf("%.1f%%%s", 100 * variation$estimate, ifelse(is.na(interval), "", sprintf(" (%s)", interval)))
  names(shares) <- variation$term
  sprintf(paste("Of how results vary, %s is the players, %s the seat, %s the deal alone, and %s the rest:",
                "how players and deal go together, and luck."),
          shares[["players"]], shares[["seat"]], shares[["deal"]], shares[["rest"]])
}

meeting_table <- function(x) {
  pairs <- as.data.frame(x)
  names <- names(x$provenance$experiment$players)
  sure <- ifelse(!is.na(pairs$lead.low) & (pairs$lead.low > 0 | pairs$lead.high < 0), " *", "")
  cells <- matrix("", length(names), length(names), dimnames = list(NULL, names))
  cells[cbind(match(pairs$player, names), match(pairs$against, names))] <- paste0(format_percent(pairs$score), sure)
  data.frame(player = names, cells, check.names = FALSE)
}

#' @export
tell.habanera_counts_meeting <- function(x, ...) {
  cat_wrapped("<round robin> ", game_in_words(x$provenance$experiment$game, "players"))
  lines <- first_answer(x)
  table <- which(!nzchar(lines))
  for (line in lines[seq_len(table - 1)]) cat_wrapped(line)
  writeLines(lines[-seq_len(table)])
  invisible(x)
}

#' @rdname round_robin
#' @export
summary.habanera_counts_meeting <- function(object, ...) object
