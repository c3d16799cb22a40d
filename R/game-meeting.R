#' Everyone against everyone
#'
#' Seats the players at a game in every order and plays every line-up on the same deals: who is best, who beats whom,
#' what is it worth to sit first, and how much of a result is the deal, the seat and the player?
#'
#' A trial is one deal, played once by every line-up, so that all errors are by deal. A *score* is what a player has of
#' the win: 1, or a share of it where several are tied; of games for money its result of a round, in stakes.
#'
#' The variation of results, the variance of the score of a seat over deals and line-ups, is taken apart: `players` is
#' the variance of the players' mean scores, `seat` that of the seats' mean scores, `deal` the mean covariance of the
#' scores of one seat in two different line-ups on the same deal, and `rest` what is left: how players and deal go
#' together, and the players' own luck (components of variance: Searle, Casella & McCulloch 1992, "Variance Components",
#' ch. 4).
#'
#' @param game A game with decisions and two seats or more, such as [game_pairs()]; who sits in it does not matter.
#' @param players A list of [players], or their names as text; names of the list name them. As many as seats, or more.
#' @param nsim Number of deals, each played by all line-ups.
#' @param seed,threads As in [simulate()][simulate.habanera_experiment].
#' @return Counts (a `habanera_counts_meeting`). `tidy()`: a row per player, per seat and per part of the variation:
#'   `part` ("player", "seat", "variation"), `term`, `estimate` (mean score, or share of the variation), `std.error`,
#'   `conf.low`, `conf.high` (95%; `NA` for the variation). `as.data.frame()`: a row for each two players: `player`,
#'   `against`, `score` (the player's mean score at tables where both sit), `std.error`, `conf.low`, `conf.high`, and
#'   `lead` (its score less the other's) with `lead.low` and `lead.high`.
#' @section Errors: `habanera_error_input` for fewer players than seats, two players of one name, a game without
#'   decisions or with one seat; `habanera_error_work` for more line-ups than can be counted.
#' @seealso [players]; the figure is a matrix of who beats whom.
#' @examples
#' round_robin(game_pairs(pairs = 6), c("full_memory", "careful", "random"), nsim = 500, seed = 1)
#' @export
round_robin <- function(game, players, nsim = 1e4, seed = NULL, threads = NULL) {
  call <- rlang::current_env()
  simulate(new_meeting(checked_game(game), players, call), nsim, seed, threads = threads)
}

most_meeting_columns <- 600

new_meeting <- function(game, players, call) {
  scores <- game$kind$scores(game$rules)
  if (is.null(scores) || !"players" %in% names(game$rules)) {
    refuse(sprintf("In %s nobody decides anything: there is no round robin.", game$kind$title), call = call)
  }
  if (holds_rounds(game)) refuse("A round robin is of single rounds: no `cut_after`.", "rules", call)
  seats <- length(scores)
  if (seats < 2) refuse("A round robin needs a game of two seats or more; with one seat use compare().", call = call)
  players <- met_players(game, players, seats, call)
  line_ups <- seatings(length(players), seats)
  if (nrow(line_ups) * (seats + 1) > most_meeting_columns) {
    refuse(sprintf("%s in %s seats make %s line-ups; at most %s are played. Take fewer players.",
                   format_count(length(players)), format_count(seats), format_count(nrow(line_ups)),
                   format_count(floor(most_meeting_columns / (seats + 1)))), "work", call)
  }
  game <- recording(change_game(game, list(players = unname(players[seq_len(seats)])), call), scores)
  games <- lapply(seq_len(nrow(line_ups)), function(i) {
    change_game(game, list(players = unname(players[line_ups[i, ]])), call)
  })
  new_experiment("habanera_meeting", game = game, players = players, line_ups = line_ups, games = games)
}

# A list of players, each with the name that it goes by.
met_players <- function(game, players, seats, call) {
  names <- names(players)
  rule <- Filter(function(rule) rule$name == "players", game$kind$rules)[[1]]
  if (is.character(players)) players <- trimws(unlist(strsplit(players, ",", fixed = TRUE)))
  players <- lapply(unname(as.list(players)), function(player) rule$check(list(player), "players", call)[[1]])
  if (length(players) < max(2, seats)) {
    refuse(sprintf("A round robin needs %s players or more for %s seats, not %s.", format_count(max(2, seats)),
                   format_count(seats), format_count(length(players))), call = call)
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

# Every order of `seats` among so many, a row each.
seatings <- function(count, seats) {
  grid <- as.matrix(expand.grid(rep(list(seq_len(count)), seats)))[, seats:1, drop = FALSE]
  unname(grid[apply(grid, 1, function(row) !anyDuplicated(row)), , drop = FALSE])
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
in_words.habanera_meeting <- function(experiment) {
  sprintf("%s; round robin of %s", game_in_words(experiment$game, "players"), join_words(names(experiment$players)))
}
#' @export
as_plain.habanera_meeting <- function(experiment) {
  list(kind = "meeting", game = as_plain(experiment$game), names = names(experiment$players),
       players = plain_players(experiment$players))
}
#' @export
from_plain.meeting <- function(plain) {
  players <- rlang::set_names(as.list(as.character(plain$players)), as.character(plain$names))
  new_meeting(restore_experiment(plain$game), players, NULL)
}
#' @export
precision_terms.habanera_meeting <- function(experiment) character()
#' @export
experiment_code.habanera_meeting <- function(experiment) {
  names <- names(experiment$players)
  players <- sprintf("%s = %s", vapply(names, as_name_code, ""),
                     vapply(experiment$players, function(player) players_code(list(player)), ""))
  list(r = sprintf("%s, list(%s)", experiment_code(experiment$game)$r, paste(players, collapse = ", ")), shell = NULL)
}

as_name_code <- function(name) if (make.names(name) == name) name else sprintf("`%s`", name)

#' @export
run_lap.habanera_meeting <- function(experiment, seed, first, count, threads) {
  games <- experiment$games
  if (any(vapply(games, has_r_function, NA))) return(tally_of_sums(list(sums = sums_in_r(games, seed, first, count))))
  counted <- until_the_end(experiment$game, seed, core_count_rounds(
    lapply(games, game_machine), lapply(games, `[[`, "spec"), lapply(games, value_counts),
    lapply(games, core_classes), seed, first, count, threads
  ))
  tally_of_sums(counted)
}

#' @export
counted_outcomes.habanera_meeting <- function(experiment, tally) {
  list(outcomes = tally$rows, n = numeric(), example_trial = numeric())
}

# The scores of a meeting, ready to be averaged: `of(score)` is the mean, with its error, of scores weighted by a matrix
# of line-ups by seats.
meeting_scores <- function(x) {
  experiment <- x$provenance$experiment
  columns <- total_columns(experiment)
  sums <- trial_sums(x[["sums"]], columns)
  seats <- ncol(experiment$line_ups)
  unit <- unit_of(experiment$game, experiment$game$record[1])
  at <- matrix(seq_along(columns), ncol = seats + 1, byrow = TRUE)[, -1, drop = FALSE]
  trials <- trial_count(x)
  list(line_ups = experiment$line_ups, sum = matrix(sums$sum[at], ncol = seats) / unit / trials,
       covariance = function(seat) {
         of <- at[, seat]
         (sums$product[of, of] - tcrossprod(sums$sum[of]) / trials) / (trials - 1) / unit^2
       },
       mean_square = mean(diag(sums$product)[at]) / trials / unit^2,
       of = function(weights) {
         all <- numeric(length(columns))
         all[at] <- weights / sum(abs(weights)) * if (any(weights < 0)) 2 else 1
         entries <- as.double(seq_along(columns) == 1)
         found <- ratio_of_sums(sums, trials, all, entries)
         c(found$estimate, found$std.error) / unit
       })
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
  variation <- variation_parts(scores, vapply(players, `[`, 0, 1))
  estimate <- c(vapply(c(players, by_seat), `[`, 0, 1), variation)
  error <- c(vapply(c(players, by_seat), `[`, 0, 2), rep(NA_real_, length(variation)))
  half <- stats::qnorm(0.975) * error
  data.frame(part = rep(c("player", "seat", "variation"), c(length(players), length(seats), length(variation))),
             term = c(names, paste("seat", seats), names(variation)), estimate = estimate, std.error = error,
             conf.low = estimate - half, conf.high = estimate + half)
}

# Shares of the variance of a score over deals and line-ups.
variation_parts <- function(scores, players) {
  seats <- seq_len(ncol(scores$line_ups))
  line_ups <- nrow(scores$line_ups)
  par <- mean(scores$sum)
  total <- scores$mean_square - par^2
  deal <- mean(vapply(seats, function(seat) {
    covariance <- scores$covariance(seat)
    (sum(covariance) - sum(diag(covariance))) / (line_ups * (line_ups - 1))
  }, 0))
  parts <- c(players = mean((players - par)^2), seat = mean((colMeans(scores$sum) - par)^2), deal = max(0, deal))
  if (total <= 0) return(c(parts * NA, rest = NA))
  c(parts / total, rest = 1 - sum(parts) / total)
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
    half <- stats::qnorm(0.975) * c(score[2], lead[2])
    data.frame(player = names[pairs[i, 1]], against = names[pairs[i, 2]], score = score[1], std.error = score[2],
               conf.low = score[1] - half[1], conf.high = score[1] + half[1], lead = lead[1],
               lead.low = lead[1] - half[2], lead.high = lead[1] + half[2])
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
    sprintf("%s (95%%: %s to %s)", format_percent(rows$estimate), format_percent(rows$conf.low),
            format_percent(rows$conf.high))
  }
  shares <- rlang::set_names(sprintf("%.1f%%", 100 * variation$estimate), variation$term)
  score_of <- x$provenance$experiment$game$kind$score_of
  even <- if (score_of == "the win") sprintf("; an even share is %s", format_percent(1 / nrow(seats))) else ""
  c(sprintf("Of %s %s.", score_of, join_words(sprintf("%s has %s", players$term, known(players)))),
    sprintf("Who sits first has %s%s.", known(seats[1, ]), even),
    if (!anyNA(variation$estimate)) {
      sprintf(paste("Of how results vary, %s is the players, %s the seat, %s the deal alone, and %s the rest:",
                    "how players and deal go together, and luck."),
              shares[["players"]], shares[["seat"]], shares[["deal"]], shares[["rest"]])
    })
}

meeting_table <- function(x) {
  pairs <- as.data.frame(x)
  names <- names(x$provenance$experiment$players)
  sure <- ifelse(pairs$lead.low > 0 | pairs$lead.high < 0, " *", "")
  cells <- matrix("", length(names), length(names), dimnames = list(NULL, names))
  cells[cbind(match(pairs$player, names), match(pairs$against, names))] <- paste0(format_percent(pairs$score), sure)
  data.frame(player = names, cells, check.names = FALSE)
}

#' @export
print.habanera_counts_meeting <- function(x, ...) {
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
