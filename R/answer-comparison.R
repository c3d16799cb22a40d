# Counts held against an exact answer, cell by cell: what draws and other outcomes have in common.

fit_table <- function(cells, trials) {
  expected <- trials * cells$law$expected
  sd <- sqrt(trials * cells$law$variance)
  deviation <- cells$n - expected
  cbind(cells$outcomes, count = cells$n, percent = 100 * cells$n / sum(cells$n),
        expected = expected, deviation = deviation, z = ifelse(sd > 0, deviation / sd, NA))
}

worst_cells <- function(cells, rows) {
  cells <- cells[!is.na(cells$z), , drop = FALSE]
  utils::head(cells[order(-abs(cells$z)), , drop = FALSE], rows)
}

# Figures rounded for reading; the object keeps them whole.
printed_table <- function(table) {
  shown <- table
  if ("position" %in% names(shown)) {
    shown$position <- ifelse(is.na(shown$position), "", format_count(shown$position))
  }
  shown$count <- format_count(table[["count"]])
  shown$percent <- format_fixed(table[["percent"]], 2)
  shown$expected <- format_fixed(table[["expected"]], 1)
  # Rounding in a sum must not show as -0.0.
  deviation <- ifelse(abs(table[["deviation"]]) < 1e-6, 0, table[["deviation"]])
  shown$deviation <- formatC(deviation, digits = 1, format = "f", flag = "+", big.mark = ",")
  shown$z <- ifelse(is.na(table[["z"]]), "", formatC(table[["z"]], digits = 2, format = "f", flag = "+"))
  shown
}

unseen_in_words <- function(unseen) {
  if (!nrow(unseen)) return(character())
  chances <- ifelse(unseen$log10_chance > -300, format_number(10^unseen$log10_chance, 2),
                    sprintf("1e%.0f", unseen$log10_chance))
  each <- sprintf("%s (chance %s in a fair draw)", unseen$card, chances)
  sprintf("Never came: %s. None seen means at most %s a draw (95%%).", join_some(each),
          format_number(unseen$at_most[1], 2))
}

#' @rdname compare.habanera_counts
#' @rawNamespace S3method(generics::tidy, habanera_comparison)
tidy.habanera_comparison <- function(x, ...) {
  p <- 2 * stats::pnorm(-abs(x$cells$z))
  outcomes <- x$counts$outcomes
  rbind(
    data.frame(term = "overall", estimate = NA_real_, exact = NA_real_,
               statistic = x$test$statistic, p.value = x$test$p.value, p.adjusted = x$test$p.value),
    data.frame(term = outcome_terms(outcomes), estimate = x$cells$count / x$trials,
               exact = x$cells$expected / x$trials, statistic = x$cells$z, p.value = p,
               p.adjusted = stats::p.adjust(p, "holm"))
  )
}

comparison_in_words <- function(x) {
  if (is.na(x$agree) && !is.na(x$test$statistic)) {
    return(sprintf("Too few trials to tell whether they agree: %s.", chi_square_in_words(x$test)))
  }
  if (is.na(x$agree)) return("There is nothing that could differ: every draw holds the same cards.")
  sprintf("%s with the exact answer: %s.", if (x$agree) "They agree" else "They do not agree",
          chi_square_in_words(x$test))
}

#' @export
tell.habanera_comparison <- function(x, rows = 5, ...) {
  cat("<comparison> ", x$question, "; ", x$words, "\n", sep = "")
  writeLines(c(comparison_in_words(x), unseen_in_words(x$unseen)))
  worst <- worst_cells(x$cells, rows)
  if (nrow(worst)) {
    cat("Furthest from what is expected:\n")
    print_rows(printed_table(worst))
  }
  invisible(x)
}
