# Counts: what a simulation returns. A table of outcomes with how often each came and the smallest
# trial number that gave it. All whole numbers, so that merging is adding.
#
# What trials add up to (see stat-sums.R) is kept where a trial may hold several entries: `squares` of how often each
# outcome came in a trial (NA where it is not known), or, of rounds, `sums` of all columns and their products. Both are
# NULL where an outcome comes at most once in a trial.
#
# `example_trial` is Inf where an outcome never came, and NA where its trials are not known.
new_counts <- function(kind, outcomes, n, example_trial, squares, provenance, sums = NULL) {
  structure(
    list(outcomes = outcomes, n = as.double(n),
         example_trial = ifelse(n > 0, as.double(example_trial), Inf),
         squares = squares, sums = sums, provenance = provenance),
    class = result_class(paste0("habanera_counts_", kind), "habanera_counts")
  )
}

# An exact answer: the same table with the expected number per trial in place of n.
new_distribution <- function(kind, outcomes, probability, provenance) {
  structure(
    list(outcomes = outcomes, probability = as.double(probability), provenance = provenance),
    class = result_class(paste0("habanera_distribution_", kind), "habanera_distribution")
  )
}

# Where a result comes from. `trials` is a data frame of ranges, `first` to `last`; `source` says
# what was counted when it was not our own simulation, and `made_by` the code that then made it (a
# list of `r` and `shell`).
new_provenance <- function(experiment, entries, seed = NULL, trials = NULL,
                           source = "simulation", made_by = NULL) {
  if (!is.null(trials)) trials[] <- lapply(trials, as.double)
  list(experiment = experiment, entries = as.double(entries), seed = seed, trials = trials,
       source = source, made_by = made_by, version = package_version_text())
}

package_version_text <- function() as.character(utils::packageVersion("habanera"))

trial_count <- function(x) sum(x$provenance$trials$last - x$provenance$trials$first + 1)

is_result <- function(x) inherits(x, c("habanera_counts", "habanera_distribution"))

#' Counts, distributions and where they come from
#'
#' A simulation returns *counts*; an exact answer is a *distribution*. Both are tables of outcomes
#' and are read with the same verbs: `summary()`, `tidy()`, `as.data.frame()`, `autoplot()`,
#' `report()`, `write_result()`; `plot()` shows the figure. `c()` of counts of one experiment and seed adds them up.
#'
#' @param x Counts or a distribution.
#' @param row.names,optional,... As in [as.data.frame()]; not used.
#' @return `as.data.frame()`: the outcome columns, then for counts `n` (how often, a number) and
#'   `example_trial` (the smallest trial number that gave it, `NA` if none did), for a distribution
#'   `probability` (the expected number per trial).
#'
#'   `provenance()`: a list with `seed`, `trials` (data frame of ranges, `first` and `last`),
#'   `entries` (per trial), `experiment` (in words), `data` (the same as plain data) and `digest` (of
#'   these), `source` and `version`, and of a run that was interrupted `interrupted_of`, the trials asked for. How long
#'   it took is no part of a result: the same seed gives the same again.
#' @section Errors: `c()` refuses results that share trials, or are of different experiments or
#'   seeds (`habanera_error_merge`).
#' @examples
#' x <- simulate(draws(deck_standard(), 5), nsim = 1000, seed = 1)
#' y <- simulate(draws(deck_standard(), 5), nsim = 1000, seed = 1, first_trial = 1001)
#' c(x, y)
#' head(as.data.frame(x))
#' @name counts
NULL

#' @rdname counts
#' @export
as.data.frame.habanera_counts <- function(x, row.names = NULL, optional = FALSE, ...) count_table(x)

count_table <- function(x) cbind(x$outcomes, n = x$n, example_trial = ifelse(x$n > 0, x$example_trial, NA))

#' @rdname counts
#' @export
as.data.frame.habanera_distribution <- function(x, row.names = NULL, optional = FALSE, ...) {
  cbind(x$outcomes, probability = x$probability)
}

#' @rdname counts
#' @export
provenance <- function(x) {
  check_given()
  if (!is_result(x)) refuse(sprintf("`x` must be counts or a distribution, not %s.", said(x)))
  from <- x$provenance
  list(seed = from$seed, trials = from$trials, entries = from$entries,
       experiment = in_words(from$experiment), data = as_plain(from$experiment),
       source = from$source, version = from$version, digest = experiment_digest(from$experiment),
       interrupted_of = from$interrupted_of)
}

#' @export
c.habanera_counts <- function(...) Reduce(merge_counts, list(...))

merge_counts <- function(x, y, call = rlang::caller_env()) {
  if (!inherits(y, "habanera_counts")) {
    refuse(sprintf("Counts can only be joined with counts, not with %s.", said(y)), "merge", call)
  }
  refuse_unlike(x$provenance, y$provenance, call)
  from <- x$provenance
  from$interrupted_of <- NULL
  from$trials <- join_ranges(rbind(from$trials, y$provenance$trials), call)
  x$provenance <- from
  x["sums"] <- list(add_sums(x[["sums"]], y[["sums"]]))
  if (!identical(x$outcomes, y$outcomes)) return(with_rows_joined(x, y))
  x$n <- x$n + y$n
  x$example_trial <- pmin(x$example_trial, y$example_trial)
  if (!is.null(x[["squares"]])) x[["squares"]] <- x[["squares"]] + y[["squares"]]
  x
}

# Counts of an experiment whose outcomes are not known beforehand: each may have rows that the other lacks.
with_rows_joined <- function(x, y) {
  rows <- gathered_rows(rbind(x$outcomes, y$outcomes))
  x$outcomes <- rows$outcomes
  x$n <- rows$sum(c(x$n, y$n))
  x$example_trial <- rows$least(c(x$example_trial, y$example_trial))
  x
}

# Like rows as one, in the order of their values: the `outcomes`, and what adds up (`sum`) or takes the
# smallest of (`least`) what goes with them.
gathered_rows <- function(rows) {
  group <- vctrs::vec_group_id(rows)
  first <- which(!duplicated(group))
  place <- do.call(order, c(unname(as.list(rows[first, , drop = FALSE])), list(method = "radix")))
  outcomes <- rows[first, , drop = FALSE][place, , drop = FALSE]
  rownames(outcomes) <- NULL
  list(
    outcomes = outcomes,
    sum = function(values) as.double(rowsum(values, group))[place],
    least = function(values) {
      sorted <- order(group, values)
      values[sorted][!duplicated(group[sorted])][place]
    }
  )
}

refuse_unlike <- function(one, two, call) {
  if (!identical(as_plain(one$experiment), as_plain(two$experiment))) {
    refuse(sprintf("These are counts of different experiments: %s; and %s.",
                   in_words(one$experiment), in_words(two$experiment)), "merge", call)
  }
  if (one$source != "simulation" || two$source != "simulation") {
    refuse("Counts made elsewhere have no trial numbers, so it cannot be told whether they overlap.",
           "merge", call)
  }
  if (one$seed != two$seed) {
    refuse(sprintf("These counts have different seeds, %s and %s.", whole_code(one$seed),
                   whole_code(two$seed)), "merge", call)
  }
}

# Ranges in order, neighbours joined; overlaps are refused.
join_ranges <- function(ranges, call) {
  ranges <- ranges[order(ranges$first), ]
  overlap <- which(ranges$first[-1] <= ranges$last[-nrow(ranges)])
  if (length(overlap)) {
    refuse(sprintf("Both counts hold trial %s; simulate other trials with `first_trial`.",
                   format_count(ranges$first[overlap[1] + 1])), "merge", call)
  }
  starts <- c(TRUE, ranges$first[-1] != ranges$last[-nrow(ranges)] + 1)
  ends <- c(starts[-1], TRUE)
  data.frame(first = ranges$first[starts], last = ranges$last[ends])
}

#' @export
tell.habanera_counts <- function(x, rows = 10, ...) {
  cat("<counts> ", in_words(x$provenance$experiment), "\n", sep = "")
  writeLines(first_answer(x))
  print_head(as.data.frame(x), rows)
  invisible(x)
}

#' @export
tell.habanera_distribution <- function(x, rows = 10, ...) {
  cat("<distribution> ", in_words(x$provenance$experiment), ", exact\n", sep = "")
  print_head(as.data.frame(x), rows)
  invisible(x)
}

# The one line that says everything; each kind of counts writes its own.
first_answer <- function(x) UseMethod("first_answer")

# "1,000 trials, seed 7"; or where recorded counts came from.
run_in_words <- function(x) {
  from <- x$provenance
  trials <- count_of(trial_count(x), "trial")
  if (from$source != "simulation") return(sprintf("%s from %s", trials, from$source))
  run <- sprintf("%s, seed %s", trials, whole_code(from$seed))
  if (is.null(from$interrupted_of)) return(run)
  sprintf("%s (interrupted: %s were asked for)", run, count_of(from$interrupted_of, "trial"))
}
