#' Does each card come up as often as it should?
#'
#' Sets the counts of draws or positions beside what a fair draw gives. Per row `z` is the deviation
#' in standard deviations of the exact law. Overall, with O the counts over N trials, k cards of n
#' drawn, m copies of a kind and E = N k m / n: without replacement (n - 1)/(n - k) times the sum of
#' (O - E)^2/E over kinds has the chi-square law on (kinds - 1) degrees of freedom; with replacement
#' the factor is 1. For positions the factor is (n - 1)/n, on (kinds - 1)(n - 1). When nothing can
#' vary (k = n, one kind) the test is `NA`.
#'
#' @section Recorded hands: Hands that [draws_recorded()] read are judged as hands, too, in one verdict at level 0.01
#'   over all tests (Holm 1979, Scand. J. Statist. 6, 65-70). `tidy()` gives a row per test: `term`, `statistic`, `df`
#'   (`NA` where the law was simulated), `p.value`, `p.adjusted` and `off` (what is furthest from what is expected, in
#'   words):
#'   - "single cards", "ranks", "suits": how often each comes;
#'   - "pairs of cards": what comes together. Pair counts with the part taken off that single cards explain, squared,
#'     over their number and C(n - 4, s - 2)/C(n, s), on n (n - 3)/2 degrees of freedom for n distinct cards in hands of
#'     s (the eigenspaces of the Johnson scheme: Delsarte 1973, section 4.2); beside hands that are simulated, where a
#'     pair is expected fewer than five times or cards repeat;
#'   - "categories": against [category_odds()]; "different ranks", "different suits": their mean number in a hand;
#'   - "place in the hand": which card lies first, second, ...; where all hands are written in order it is left out;
#'   - "repeats within a hand": hands that hold a card more often than the pack has it, against none, or with `replace`
#'     against the chance of it.
#'
#' @param object Counts of [draws()] or [positions()], or of draws made elsewhere.
#' @param group `NULL` for a row per card, or the name of an attribute for a row per value.
#' @param x What `summary()` gave.
#' @param ... Not used.
#' @return A `habanera_draw_summary`: a list with `table` (data frame: `card` or the attribute,
#'   `position` for positions; `count`, `percent` of all entries, `expected`, `deviation`, `z`; a row
#'   `total` last), `test` (a list: `statistic`, `df`, `p.value`), `unseen` (data frame of kinds that
#'   never came: `card`, `log10_chance` of that under a fair draw, and `at_most`, the upper end of the
#'   95% interval of Clopper & Pearson 1934 for how often it comes in a draw) and `words`.
#'   `as.data.frame()` gives the table.
#' @examples
#' x <- simulate(draws(deck_standard(), 5), nsim = 1e4, seed = 1)
#' summary(x, group = "suit")
#' @name summary.habanera_counts
NULL

#' @rdname summary.habanera_counts
#' @export
summary.habanera_counts_draws <- function(object, group = NULL, ...) summarise_draws(object, group)

#' @rdname summary.habanera_counts
#' @export
summary.habanera_counts_positions <- function(object, group = NULL, ...) {
  summarise_draws(object, group)
}

summarise_draws <- function(x, group, call = rlang::caller_env()) {
  cells <- grouped_cells(x, group, call)
  table <- fit_table(cells, trial_count(x))
  test <- scaled_chi_square(cells$n, table[["expected"]], cells$law$factor, cells$law$df, trial_count(x))
  structure(list(table = rbind(table, total_row(table)), test = test, unseen = unseen_kinds(x),
                 group = names(cells$outcomes)[1], words = run_in_words(x),
                 question = in_words(x$provenance$experiment), hands = if (!is.null(x$hands)) hands_judgement(x),
                 cards_alone = lacks_hands(x)),
            made = call_made(), class = result_class("habanera_draw_summary"))
}

# The cells to judge, with their law: as counted, or added up by an attribute.
grouped_cells <- function(x, group, call) {
  experiment <- x$provenance$experiment
  kinds <- kinds_of(experiment$deck)
  if (is.null(group)) {
    return(list(outcomes = x$outcomes, n = x$n, law = fair_law(experiment, kinds$copies)))
  }
  values <- group_values(experiment$deck, kinds, group, call)
  levels <- unique(values)
  copies <- as.double(rowsum(kinds$copies, match(values, levels))[, 1])
  cell_group <- match(values, levels)
  blocks <- length(x$n) / max(1, length(values))
  block <- rep(seq_len(blocks), each = length(values))
  key <- (block - 1) * length(levels) + rep(cell_group, times = blocks)
  outcomes <- x$outcomes[match(seq_len(blocks * length(levels)), key), , drop = FALSE]
  outcomes[["card"]] <- rep(levels, times = blocks)
  names(outcomes)[names(outcomes) == "card"] <- group
  rownames(outcomes) <- NULL
  list(outcomes = outcomes, n = as.double(rowsum(x$n, key)[, 1]),
       law = fair_law(experiment, copies))
}

group_values <- function(deck, kinds, group, call) {
  check_string(group, "group", call)
  data <- catalogue_of(deck)$data
  if (!group %in% names(data)) {
    refuse(sprintf("`group` must be an attribute of the deck (%s), not %s%s",
                   join_words(names(data)), quoted(group), did_you_mean(group, names(data))),
           call = call)
  }
  values <- data[[group]][kinds$codes]
  ifelse(is.na(values), paste("no", group), as.character(values))
}

total_row <- function(table) {
  total <- table[0, , drop = FALSE][1, , drop = FALSE]
  total[[1]] <- "total"
  for (column in c("count", "percent", "expected", "deviation")) total[[column]] <- sum(table[[column]])
  rownames(total) <- NULL
  total
}

# Kinds that never came, with how unlikely that is.
unseen_kinds <- function(x) {
  experiment <- x$provenance$experiment
  kinds <- kinds_of(experiment$deck)
  if (inherits(experiment, "habanera_positions") || entries_per_trial(experiment) == 0) {
    return(data.frame(card = character(), log10_chance = numeric(), at_most = numeric()))
  }
  trials <- trial_count(x)
  chance <- log10_never(experiment, kinds$copies, trials)
  data.frame(card = kinds$cards, log10_chance = chance,
             at_most = none_seen_bound(trials))[x$n == 0, , drop = FALSE]
}

#' @export
as.data.frame.habanera_draw_summary <- function(x, row.names = NULL, optional = FALSE, ...) x$table

#' @export
verdict.habanera_counts <- function(x) verdict(summary(x))

#' @export
verdict.habanera_draw_summary <- function(x) {
  if (!is.null(x$hands) && any(x$hands$tests$p.adjusted < verdict_level)) return("biased")
  if (is.na(x$test$statistic)) return("no_bias_seen")
  if (x$test$too_few) "too_few" else if (is.null(x$hands) && is_surprising(x$test)) "biased" else "no_bias_seen"
}

# Of hands by all their tests, else of single cards.
verdict_in_words <- function(summary) {
  if (is.null(summary$hands)) draw_verdict(summary$test) else hands_verdict(summary)
}

#' @rdname summary.habanera_counts
#' @rawNamespace S3method(generics::tidy, habanera_draw_summary)
tidy.habanera_draw_summary <- function(x, ...) {
  if (!is.null(x$hands)) return(x$hands$tests)
  data.frame(term = "single cards", statistic = x$test$statistic, df = x$test$df, p.value = x$test$p.value,
             p.adjusted = x$test$p.value, off = NA_character_)
}

draw_verdict <- function(test, unseen = NULL) {
  if (is.na(test$statistic)) return("Nothing here could vary: every draw holds the same cards.")
  verdict <- if (test$too_few) "Too few draws to tell" else if (is_surprising(test)) "Biased" else "No bias seen"
  paste0(verdict, ": ", chi_square_in_words(test), ".")
}

#' @export
tell.habanera_draw_summary <- function(x, rows = 6, ...) {
  cat("<summary> ", x$question, "; ", x$words, "\n", sep = "")
  writeLines(c(console_lines(verdict_in_words(x)), console_lines(hands_notes(x)), unseen_in_words(x$unseen)))
  if (!is.null(x$hands)) print_rows(printed_hand_tests(x$hands$tests))
  body <- x$table[-nrow(x$table), , drop = FALSE]
  total <- x$table[nrow(x$table), , drop = FALSE]
  # A few more are no reason to leave them out.
  if (nrow(body) > rows + 6) {
    cat(sprintf("The %s furthest from what is expected, of %s rows (all: print(x, rows = Inf), --all):\n",
                format_count(rows), format_count(nrow(body))))
    body <- worst_cells(body, rows)
    total <- total[0, ]
  }
  print_rows(printed_table(rbind(body, total)))
  invisible(x)
}

#' @export
first_answer.habanera_counts_draws <- function(x) answer_line(x)
#' @export
first_answer.habanera_counts_positions <- function(x) answer_line(x)

answer_line <- function(x) {
  summary <- summarise_draws(x, NULL)
  c(sprintf("%s %s (%s.)", verdict_in_words(summary), range_line(summary$table), run_in_words(x)),
    hands_notes(summary), unseen_in_words(summary$unseen))
}

# How far the counts lie from what is expected.
range_line <- function(table) {
  table <- table[-nrow(table), , drop = FALSE]
  if (!nrow(table)) return("There is no card.")
  expected <- unique(round(table[["expected"]], 9))
  seen <- if (length(expected) == 1) {
    sprintf("Expected %s each; counted %s to %s", format_fixed(expected, 1),
            format_count(min(table[["count"]])), format_count(max(table[["count"]])))
  } else {
    sprintf("Counted %s in all", format_count(sum(table[["count"]])))
  }
  if (all(is.na(table[["z"]]))) return(paste0(seen, "."))
  sprintf("%s (z %+.1f to %+.1f).", seen, min(table[["z"]], na.rm = TRUE), max(table[["z"]], na.rm = TRUE))
}

#' @export
exact_columns.habanera_counts <- function(x) {
  experiment <- x$provenance$experiment
  law <- fair_law(experiment, kinds_of(experiment$deck)$copies)
  if (!is.null(experiment$shuffle) && !is_uniform(experiment$shuffle)) {
    # What a fair shuffle would give is not the exact value of this one.
    return(data.frame(exact = NA_real_, statistic = NA_real_, p.value = NA_real_)[rep(1, length(x$n)), ])
  }
  trials <- trial_count(x)
  sd <- sqrt(law$variance / trials)
  z <- ifelse(sd > 0, (x$n / trials - law$expected) / sd, NA)
  data.frame(exact = law$expected, statistic = z, p.value = 2 * stats::pnorm(-abs(z)))
}
