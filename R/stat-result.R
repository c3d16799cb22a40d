# What all results have, of the contract in util-result.R: words, a headline, a table.

# What a print begins with, without what kind of thing it is: a sentence, or what was asked and a sentence.
#' @export
in_words.habanera_result <- function(x, ...) paste(begin_of_print(x), collapse = ". ")

begin_of_print <- function(x) {
  lines <- trimws(rlang::with_options(lines_printed(function() tell(x)), width = 10000))
  lines <- sub("^<[^>]*>:? *", "", lines[nzchar(lines)])
  if (length(lines) > 1 && !grepl("[.]$", lines[1]) && grepl("[.]$", lines[2])) return(lines[1:2])
  lines[1]
}

# The answer without what was asked, for where that is told already.
answer_alone <- function(x) {
  classes <- setdiff(class(x), "habanera_result")
  own <- vapply(paste0("in_words.", classes), exists, NA, envir = topenv(), inherits = FALSE)
  if (inherits(x, "habanera_counts")) {
    lines <- rlang::with_options(first_answer(x), width = 10000)
    return(gsub("[[:space:]]+", " ", trimws(lines[1])))
  }
  if (!any(own)) return(utils::tail(begin_of_print(x), 1))
  words <- in_words(x)
  asked <- if (inherits(x, "habanera_distribution")) paste0(in_words(x$provenance$experiment), ", exact; ") else ""
  if (startsWith(words, asked)) substring(words, nchar(asked) + 1) else words
}

#' @export
in_words.habanera_counts <- function(x, ...) {
  answer <- paste(rlang::with_options(first_answer(x), width = 10000), collapse = "; ")
  paste0(in_words(x$provenance$experiment), ": ", gsub("[[:space:]]+", " ", answer))
}

#' @export
in_words.habanera_distribution <- function(x, ...) paste0(in_words(x$provenance$experiment), ", exact")

#' @importFrom generics glance
#' @export
generics::glance

#' The headline of a run
#'
#' @param x Counts or a distribution.
#' @param ... Not used.
#' @return A data frame of one row: `what` (the experiment in words), `outcomes` (different ones), and of counts
#'   `trials`, `seed`, `entries` (per trial; NA where that varies), `interrupted_of` (the trials asked for, of a run
#'   that was interrupted).
#' @examples
#' glance(simulate(game_war(), nsim = 100, seed = 1))
#' @name glance.habanera_counts
NULL

#' @rdname glance.habanera_counts
#' @rawNamespace S3method(generics::glance, habanera_counts)
glance.habanera_counts <- function(x, ...) {
  from <- x$provenance
  or_none <- function(value) if (is.null(value)) NA_real_ else value
  data.frame(what = in_words(from$experiment), outcomes = as.double(nrow(x$outcomes)),
             trials = as.double(trial_count(x)),
             seed = or_none(from$seed), entries = or_none(from$entries), interrupted_of = or_none(from$interrupted_of))
}

#' @rdname glance.habanera_counts
#' @rawNamespace S3method(generics::glance, habanera_distribution)
glance.habanera_distribution <- function(x, ...) {
  data.frame(what = in_words(x$provenance$experiment), outcomes = as.double(nrow(x$outcomes)))
}

#' @rawNamespace S3method(generics::tidy, habanera_table)
tidy.habanera_table <- function(x, ...) in_tidy_order(with_part(plain_table(x), x))

# What rows are told apart by comes first, then an estimate with its error and its interval, then all else.
estimate_columns <- c("term", "estimate", "std.error", "conf.low", "conf.high")

in_tidy_order <- function(table) {
  first <- intersect(estimate_columns, names(table))
  if (!length(first)) return(table)
  keys <- names(table)[seq_len(min(match(first, names(table))) - 1)]
  table[c(keys, first, setdiff(names(table), c(keys, first)))]
}
