#' Are two procedures the same?
#'
#' Tests whether two procedures leave the same distribution. On up to 5 cards, where both can be walked, the
#' answer is exact; two deterministic procedures are compared by what they do; otherwise both are simulated,
#' `x` on trials 1 to N and `y` on N + 1 to 2 N, and position by position the cards that came there are
#' compared (two-sample chi-square on kinds - 1 degrees of freedom, Holm over positions).
#'
#' @param x,y Procedures.
#' @param deck Cards.
#' @param nsim Trials for each, N.
#' @param seed A whole number, or `NULL`.
#' @param level The overall chance of a false alarm.
#' @param ... Not used.
#' @return A `habanera_procedure_comparison`: a list with `same` (logical; for a simulation: no difference
#'   seen), `how` ("exact", "deterministic" or "simulated"), `distance` (total variation between the two,
#'   when exact) and `tests` (data frame: `term`, "overall" first; `statistic`, `df`, `p.value`,
#'   `p.adjusted`), which `tidy()` gives.
#' @examples
#' compare(shuffle_riffle(2), procedure("riffle x2"), deck = deck_numbered(4))
#' @export
compare.habanera_procedure <- function(x, y, deck = deck_standard(), nsim = 1e5, seed = NULL, level = 0.01,
                                       ...) {
  check_procedure(y)
  check_deck(deck)
  check_whole(nsim, 1, 1e9)
  check_level(level)
  seed <- resolve_seed(seed)
  found <- compare_exactly(x, y, deck)
  exactly <- !is.null(found)
  if (!exactly) found <- compare_by_simulation(x, y, deck, nsim, seed, level)
  structure(c(found, list(x = format(x), y = format(y), deck = deck_in_words(deck), nsim = nsim, seed = seed)),
            made = call_made(by_luck = !exactly), class = result_class("habanera_procedure_comparison"))
}

# NULL where no exact comparison is to be had.
compare_exactly <- function(x, y, deck) {
  passes <- list(fixed_pass(x, length(deck)), fixed_pass(y, length(deck)))
  if (!any(vapply(passes, is.null, TRUE))) {
    same <- identical(as.character(deck[passes[[1]]]), as.character(deck[passes[[2]]]))
    return(list(same = same, how = "deterministic", distance = as.numeric(!same), tests = NULL))
  }
  if (length(deck) > 5 || has_function(x) || has_function(y)) return(NULL)
  laws <- tryCatch(list(exact(x, deck), exact(y, deck)), habanera_error_work = function(cnd) NULL)
  if (is.null(laws)) return(NULL)
  all <- unique(unlist(lapply(laws, function(law) law$outcomes[["arrangement"]])))
  chances <- lapply(laws, function(law) {
    p <- law$probability[match(all, law$outcomes[["arrangement"]])]
    ifelse(is.na(p), 0, p)
  })
  distance <- sum(abs(chances[[1]] - chances[[2]])) / 2
  # Sums of at most 120 probabilities round off by less than this.
  list(same = distance < 1e-12, how = "exact", distance = distance, tests = NULL)
}

compare_by_simulation <- function(x, y, deck, nsim, seed, level) {
  one <- position_counts(x, deck, seed, 1, nsim)
  two <- position_counts(y, deck, seed, nsim + 1, nsim)
  tests <- do.call(rbind, lapply(seq_len(ncol(one)), function(i) two_sample_row(one[, i], two[, i], i)))
  tests$p.adjusted <- stats::p.adjust(tests$p.value, "holm")
  overall <- data.frame(term = "overall", statistic = NA_real_, df = NA_real_,
                        p.value = suppressWarnings(min(tests$p.adjusted, na.rm = TRUE)),
                        p.adjusted = suppressWarnings(min(tests$p.adjusted, na.rm = TRUE)))
  list(same = !isTRUE(overall$p.value < level), how = "simulated", distance = NA_real_,
       tests = rbind(overall, tests))
}

# Two equally large samples of the cards at one position (Pearson's test of homogeneity).
two_sample_row <- function(one, two, position) {
  both <- one + two
  used <- both > 0
  df <- sum(used) - 1
  statistic <- sum((one - two)[used]^2 / both[used])
  data.frame(term = sprintf("position=%d", position), statistic = statistic, df = df,
             p.value = if (df > 0) stats::pchisq(statistic, df, lower.tail = FALSE) else NA_real_)
}

#' @rawNamespace S3method(generics::tidy, habanera_procedure_comparison)
tidy.habanera_procedure_comparison <- function(x, ...) {
  if (!is.null(x$tests)) return(x$tests)
  data.frame(term = "overall", statistic = x$distance, df = NA_real_, p.value = NA_real_, p.adjusted = NA_real_)
}

#' @export
tell.habanera_procedure_comparison <- function(x, ...) {
  cat(sprintf("<comparison> %s and %s, on %s\n", quoted(x$x), quoted(x$y), x$deck))
  cat(switch(
    x$how,
    deterministic = if (x$same) "They do the same." else "They do not do the same.",
    exact = if (x$same) "They leave exactly the same distribution." else
      sprintf("They differ: total variation %s between them.", fraction_in_words(x$distance)),
    simulated = sprintf("%s: smallest p over positions, adjusted, %s (%s trials each, seed %s).",
                        if (x$same) "No difference seen" else "They differ",
                        format_p_value(x$tests$p.value[1]), format_count(x$nsim), whole_code(x$seed))
  ), "\n", sep = "")
  invisible(x)
}
