#' Two games on the same deals
#'
#' Plays both games on the same deals and counts how they differ, trial by trial. What the deals have in common
#' cancels out, so a small difference shows in far fewer trials than two separate simulations would need.
#'
#' @param x,y Games of one kind with the same number of seats that record at least one outcome in common; usually one
#'   and the same but for a rule. Of two decks, or shuffles, the trials of one number are not one deal: what is told
#'   then is no less true, but nothing cancels out, and the first line says so.
#' @param nsim,seed,threads As in [simulate()][simulate.habanera_experiment].
#' @param ... Not used.
#' @return Counts (a `habanera_counts_pairs`) with the columns `column`, `part`, `x`, `y`, `value`, `n` and
#'   `example_trial`. Of a category, `part` is "both", and `x` and `y` are its values in the two games (text). Of a
#'   number, `value` is its difference (`part` "difference", y less x), or its value in one game (`part` "x" or "y");
#'   where a game has no value (it never ends), `part` is "unpaired", and `x` and `y` say which of the games has one.
#'   `tidy()`: a
#'   row per number (`term`: its name; the mean difference) and per value of a category (`term`: as `winner=1`; the
#'   difference of the chances), with `estimate`, `std.error`, `conf.low`, `conf.high`, `statistic`, `p.value` (of a
#'   chance the score interval and test of matched pairs: Tango 1998, Stat. Med. 17, 891-908), `x` and `y` (the means or
#'   chances of the games), `saving`: how many times more trials two separate simulations would need for the same
#'   interval, (Var x + Var y) / Var(y - x) (Kahn & Marshall 1953, J. Oper. Res. Soc. Am. 1, section 4), `paired` (the
#'   share of the deals in which both games have a value), and `differed`, `differed.low` and `differed.high`: the share
#'   of those deals that differed with its exact interval (Clopper & Pearson 1934). Where fewer than 20 deals differed,
#'   the mean of a number has no interval (`NA`), or, where the game bounds the number, its range times
#'   `differed.high`. Of rounds from one shoe the counts have no rows: differences are of the means per round, with
#'   errors by shoe, and `differed` is `NA`.
#' @section Errors: `habanera_error_input` for games of two kinds, or that have no outcome in common or different seats.
#' @examples
#' compare(game_war(), game_war(face_down = 1), nsim = 2000, seed = 1)
#' @export
compare.habanera_game <- function(x, y, nsim = 1e5, seed = NULL, threads = NULL, ...) {
  call <- rlang::current_env()
  check_no_more(call, ...)
  checked_game(y)
  simulate(new_game_pair(x, y, call), nsim, seed, threads = threads)
}

new_game_pair <- function(x, y, call) {
  if (x$game != y$game) {
    refuse(sprintf("`x` and `y` are games of two kinds, %s and %s, which have no deals in common.", kind_of(x)$title,
                   kind_of(y)$title), call = call)
  }
  shared <- intersect(x$record, y$record)
  if (!length(shared)) {
    refuse(sprintf("The games record nothing in common: %s; and %s.", join_words(x$record), join_words(y$record)),
           call = call)
  }
  seats <- c(game_seats(x), game_seats(y))
  if (seats[1] != seats[2]) {
    refuse(sprintf("The games have %s and %s seats.", format_count(seats[1]), format_count(seats[2])),
           call = call)
  }
  if (has_function(x$shuffle) || has_function(y$shuffle)) {
    refuse("Games that R functions shuffle cannot be compared deal by deal.", call = call)
  }
  new_experiment("habanera_game_pair", x = with_record(x, shared), y = with_record(y, shared), record = shared)
}

#' @export
result_kind.habanera_game_pair <- function(experiment) "pairs"
#' @export
entries_per_trial.habanera_game_pair <- function(experiment) {
  if (pairs_rounds(experiment)) return(0)
  sum(ifelse(is_category(experiment$x, experiment$record), 1, 3))
}

# Whether a trial of one of the games holds several rounds: then only what trials add up to is counted.
pairs_rounds <- function(experiment) holds_rounds(experiment$x) || holds_rounds(experiment$y)

#' @export
total_columns.habanera_game_pair <- function(experiment) {
  c(paste("x:", total_columns(experiment$x)), paste("y:", total_columns(experiment$y)))
}

# A deal without a pair of values is one row instead of three.
#' @export
adds_up.habanera_game_pair <- function(experiment, n, trials) {
  if (pairs_rounds(experiment)) return(sum(n) == 0)
  sum(n) >= trials * length(experiment$record) && sum(n) <= trials * entries_per_trial(experiment)
}
#' @export
in_words.habanera_game_pair <- function(x, ...) {
  sprintf("%s, and %s %s", in_words(x$x),
          if (deals_match(x$x, x$y)) "on the same deals" else "trial by trial",
          in_words(x$y))
}

# Whether trials of one number are one deal: of another deck, or shuffled otherwise, they are not.
deals_match <- function(x, y) {
  identical(codes_of(x$deck), codes_of(y$deck)) && identical(procedure_text(x$shuffle), procedure_text(y$shuffle)) &&
    identical(lapply(x$piles, codes_of), lapply(y$piles, codes_of))
}
#' @export
as_plain.habanera_game_pair <- function(experiment) {
  list(kind = "game_pair", x = as_plain(experiment$x), y = as_plain(experiment$y))
}
#' @export
from_plain.game_pair <- function(plain, game) {
  new_game_pair(restored_game(plain$x, game), restored_game(plain$y, game), NULL)
}
#' @export
finest_outcome.habanera_game_pair <- function(experiment) experiment$record[length(experiment$record)]
#' @export
precision_terms.habanera_game_pair <- function(experiment) character()
#' @export
experiment_code.habanera_game_pair <- function(experiment) {
  list(r = sprintf("%s, %s", experiment_code(experiment$x)$r, experiment_code(experiment$y)$r), shell = NULL)
}

#' @export
run_lap.habanera_game_pair <- function(experiment, seed, first, count, threads) {
  games <- experiment[c("x", "y")]
  if (any(vapply(games, runs_in_r, NA))) {
    if (pairs_rounds(experiment)) return(tally_of_sums(list(sums = sums_in_r(games, seed, first, count))))
    return(pairs_in_r(experiment, seed, first, count))
  }
  machines <- lapply(unname(games), game_machine)
  specs <- unname(lapply(games, `[[`, "spec"))
  if (pairs_rounds(experiment)) {
    return(tally_of_sums(core_count_rounds(machines, specs, unname(lapply(games, value_counts)),
                                           unname(lapply(games, core_classes)), list(), seed, first, count, threads)))
  }
  tally <- until_the_end(experiment$x, seed, core_count_pairs(machines[[1]], specs[[1]], machines[[2]], specs[[2]],
                                                              pair_columns(experiment), seed, first, count, threads))
  counted_rows(tally, pair_row_names)
}

pair_row_names <- c("column", "part", "one", "two")

# No rows, only what trials add up to.
tally_of_sums <- function(tally) {
  rows <- rlang::set_names(rep(list(numeric()), length(pair_row_names)), pair_row_names)
  list(rows = as.data.frame(rows), n = numeric(), example_trial = numeric(), sums = tally$sums)
}

# How the core is to take each column: numbers of both games in one unit.
pair_columns <- function(experiment) {
  units <- lapply(experiment[c("x", "y")], unit_of, experiment$record)
  common <- common_units(experiment)
  list(is_category = unname(is_category(experiment$x, experiment$record)), times_x = common / units$x,
       times_y = common / units$y)
}

common_units <- function(experiment) {
  mapply(function(a, b) a * b / greatest_divisor(c(a, b)), unit_of(experiment$x, experiment$record),
         unit_of(experiment$y, experiment$record))
}

# The same rows from games in which R functions decide, played here.
pairs_in_r <- function(experiment, seed, first, count) {
  trials <- first - 1 + seq_len(count)
  values <- lapply(experiment[c("x", "y")], function(game) {
    if (runs_in_r(game)) return(trials_in_r(game, seed, trials)$rows)
    until_the_end(game, seed, core_trial_game(game_machine(game), game$spec, seed, trials))$rows
  })
  about <- pair_columns(experiment)
  rows <- lapply(seq_along(experiment$record), function(i) {
    paired_rows(i - 1, values$x[[i]] * about$times_x[i], values$y[[i]] * about$times_y[i], about$is_category[i], trials)
  })
  rows <- do.call(rbind, rows)
  tally_of_rows(rows[pair_row_names], rows$trial)
}

paired_rows <- function(column, x, y, is_category, trials) {
  rows <- function(part, one, two, of = rep(TRUE, length(trials))) {
    data.frame(column = rep(column, sum(of)), part = rep(part, sum(of)), one = one[of], two = two[of],
               trial = trials[of])
  }
  none <- rep(0, length(trials))
  if (is_category) return(rows(0, x, y))
  paired <- !is.na(x) & !is.na(y)
  rbind(rows(1, y - x, none, paired), rows(2, x, none, paired), rows(3, y, none, paired),
        rows(4, as.double(!is.na(x)), as.double(!is.na(y)), !paired))
}

#' @export
counted_outcomes.habanera_game_pair <- function(experiment, tally) {
  rows <- tally$rows
  column <- experiment$record[rows$column + 1]
  category <- rows$part == 0
  unpaired <- rows$part == 4
  outcomes <- data.frame(column = column, part = c("both", "difference", "x", "y", "unpaired")[rows$part + 1],
                         x = pair_words(rows$one, column, category, experiment$x),
                         y = pair_words(rows$two, column, category, experiment$y),
                         value = ifelse(category | unpaired, NA, rows$one / common_units(experiment)[rows$column + 1]))
  outcomes[["x"]][unpaired] <- c("no value", "value")[rows$one[unpaired] + 1]
  outcomes[["y"]][unpaired] <- c("no value", "value")[rows$two[unpaired] + 1]
  in_text_order(outcomes, tally)
}

pair_words <- function(values, column, category, game) {
  text <- rep(NA_character_, length(values))
  for (name in unique(column[category])) {
    of <- column == name
    text[of] <- category_texts(game, name, values[of])
  }
  text
}
