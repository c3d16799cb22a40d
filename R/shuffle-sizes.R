#' An audit over deck sizes
#'
#' `audit(procedure, sizes = 0:10)` audits a procedure on numbered decks of each size, each at its share of the
#' level, and names the smallest deck on which it fails: one to follow by hand.
#'
#' @return `audit(sizes = )` gives a `habanera_audit_sizes`, a data frame with a row per size: `deck_size`,
#'   `verdict`, `term` (the clearest test) and `p.adjusted`. Its attribute `example` holds a trial on the smallest
#'   deck that fails, as [replay()] tells it (`NULL` when none fails, or for an R function); `exact` the worst
#'   arrangement there with its exact chance, in words, where it can be walked.
#' @name audit_sizes
#' @examples
#' audit(shuffle_naive_swap(), nsim = 1e4, seed = 1, sizes = 0:4)
NULL

audit_over_sizes <- function(procedure, sizes, nsim, seed, each, level, threads, call) {
  fits <- is.numeric(sizes) && length(sizes) %in% 1:1e4 && all(is.finite(sizes)) &&
    all(sizes >= 0 & sizes <= most_audited_cards & sizes == floor(sizes))
  if (!fits) refuse(sprintf("`sizes` must be numbers of cards, such as 0:10, not %s.", said(sizes)), call = call)
  check_level(level, call = call)
  bar <- local_progress("Auditing", total = length(sizes))
  audits <- lapply_until_interrupted(sizes, function(n) {
    audit_procedure(procedure, deck_numbered(n), nsim, seed, each, level / length(sizes), threads, call = call)
  }, "deck size", bar)
  table <- do.call(rbind, lapply(audits, size_row))
  bad <- which(table[["verdict"]] != "no_bias_seen")
  smallest <- if (length(bad)) audits[[bad[which.min(table[["deck_size"]][bad])]]]
  structure(table,
            made = call_made(), class = table_class("habanera_audit_sizes"), words = words_of(procedure), level = level,
            part = attr(audits, "part"),
            smallest = smallest, example = if (!is.null(smallest)) example_to_follow(smallest),
            exact = if (!is.null(smallest)) worst_arrangement(smallest))
}

size_row <- function(x) {
  clearest <- x$tests[which.min(x$tests$p.value), ]
  broken <- !is.null(x$broken)
  none <- broken || !nrow(clearest)
  data.frame(deck_size = as.double(length(x$plan$deck)), verdict = verdict(x),
             term = if (broken) "conservation" else if (none) NA_character_ else clearest$term,
             p.adjusted = if (none) NA_real_ else clearest$p.adjusted)
}

# The first trial that lost a card; otherwise the first one.
example_to_follow <- function(x) {
  if (has_function(x$made$procedure)) return(NULL)
  trial <- if (is.null(x$broken)) 1 else x$counts$all$example_trial$broken
  replay(x$made$procedure, x$made$seed, trial, deck = x$plan$deck)
}

worst_arrangement <- function(x) {
  n <- length(x$plan$deck)
  law <- if (n <= 6 && is.null(x$broken) && !has_function(x$made$procedure)) {
    tryCatch(exact(x$made$procedure, x$plan$deck), habanera_error_work = function(cnd) NULL)
  }
  if (is.null(law)) return(NULL)
  worst <- which.max(abs(law$probability - 1 / factorial(n)))
  sprintf("Exactly: %s has chance %s; uniform is 1/%s.", quoted(law$outcomes[["arrangement"]][worst]),
          fraction_in_words(law$probability[worst]), format_count(factorial(n)))
}

#' @export
tell.habanera_audit_sizes <- function(x, ...) {
  smallest <- attr(x, "smallest")
  cat(sprintf("<audit> %s on decks of %s cards, %s level in all%s\n", attr(x, "words"), said_sizes(x$deck_size),
              format_percent(attr(x, "level")), part_in_words(x)))
  if (is.null(smallest)) cat("No bias seen on any of them.\n") else {
    cat(sprintf("It fails; the smallest deck is one of %s.\n", count_of(length(smallest$plan$deck), "card")))
  }
  shown <- data.frame(cards = format_count(x$deck_size), verdict = x$verdict,
                      clearest = ifelse(is.na(x$term), "", x$term), `p, adjusted` = short_p(x$p.adjusted),
                        check.names = FALSE)
  writeLines(c("", aligned_lines(shown, indent = 2)))
  if (!is.null(attr(x, "exact"))) writeLines(c("", attr(x, "exact")))
  if (!is.null(attr(x, "example"))) {
    cat("\nTo follow by hand:\n")
    print(attr(x, "example"))
  }
  invisible(x)
}

said_sizes <- function(sizes) {
  if (length(sizes) > 1 && all(diff(sizes) == 1)) sprintf("%d to %d", sizes[1], sizes[length(sizes)]) else
    join_words(format_count(sizes))
}

#' @rawNamespace S3method(generics::tidy, habanera_audit_sizes)
tidy.habanera_audit_sizes <- function(x, ...) as.data.frame(unclass(x)[c("deck_size", "verdict", "term", "p.adjusted")])
