#' @rdname compare.habanera_counts
#' @section Questions: Counts of a question are held against its exact answer: the rows of outcomes with fewer than
#'   5 expected are put together, and Pearson's chi-square is taken over rows, on their number less 1. Of a
#'   question with turns the last turn is compared, since the turns of a trial hang together.
#' @export
compare.habanera_counts_outcomes <- function(x, y, ...) {
  if (!inherits(y, "habanera_distribution_outcomes")) {
    refuse(sprintf("`y` must be the exact answer to the same question, not %s.", said(y)))
  }
  if (!identical(as_plain(x$provenance$experiment), as_plain(y$provenance$experiment))) {
    refuse(sprintf("These are not the same questions: the counts are of %s; the distribution is of %s.",
                   in_words(x$provenance$experiment), in_words(y$provenance$experiment)))
  }
  seen <- at_last_turn(x$outcomes)
  expected <- at_last_turn(y$outcomes)
  rows <- gathered_rows(rbind(x$outcomes[seen, , drop = FALSE], y$outcomes[expected, , drop = FALSE]))
  n <- rows$sum(c(x$n[seen], rep(0, sum(expected))))
  p <- rows$sum(c(rep(0, sum(seen)), y$probability[expected]))
  trials <- trial_count(x)
  test <- pooled_chi_square(n, trials * p)
  cells <- fit_table(list(outcomes = rows$outcomes, n = n, law = list(expected = p, variance = p * (1 - p))), trials)
  structure(list(agree = agreement(test), test = test, cells = cells,
                 unseen = data.frame(card = character(), log10_chance = numeric(), at_most = numeric()),
                 trials = trials, words = run_in_words(x), question = in_words(x$provenance$experiment),
                 counts = within_rows(x, rows$outcomes, n)),
                 made = call_made(), class = result_class("habanera_comparison"))
}

# The counts with a row for every outcome compared, so that terms and rows stand side by side.
within_rows <- function(x, outcomes, n) {
  x$outcomes <- outcomes
  x$n <- n
  x$example_trial <- rep(Inf, length(n))
  x
}

pooled_chi_square <- function(n, expected) {
  # What cannot come at all, and did, needs no test.
  if (any(n > 0 & expected == 0)) return(list(statistic = Inf, df = length(n) - 1, too_few = FALSE, p.value = 0))
  rare <- expected < 5
  if (any(rare)) {
    n <- c(n[!rare], sum(n[rare]))
    expected <- c(expected[!rare], sum(expected[rare]))
  }
  scaled_chi_square(n, expected, 1, length(n) - 1)
}
