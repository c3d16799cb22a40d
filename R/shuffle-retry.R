#' What a retry loop costs
#'
#' `simulate()` of [shuffle_retry()] counts how many random numbers a shuffle took. On average a deck of n
#' takes n H_n = n (1 + 1/2 + ... + 1/n) (Feller 1968, "An introduction to probability theory", vol. I,
#' p. 225).
#'
#' @param object `shuffle_retry()`, repeated at most.
#' @param nsim,seed,... As in [simulate()][simulate.habanera_experiment].
#' @param deck Cards, or how many.
#' @return Counts with the outcome column `numbers`.
#' @section Errors: `habanera_error_input` for any other procedure; simulate `positions(deck, procedure)`
#'   instead.
#' @examples
#' simulate(shuffle_retry(), nsim = 1000, seed = 1)
#' @export
simulate.habanera_procedure <- function(object, nsim = 1e5, seed = NULL, ..., deck = 52) {
  names <- vapply(object$steps, `[[`, "", "name")
  if (!length(names) || any(names != "retry")) {
    refuse(sprintf(paste("simulate() of a procedure counts the random numbers of shuffle_retry(); for %s",
                         "simulate positions(deck, procedure)."), quoted(format(object))))
  }
  deck_size <- counted_deck(deck, 0, most_cards, rlang::current_env())
  simulate(new_experiment("habanera_retry_cost", shuffle = object, deck_size = deck_size), nsim, seed, ...)
}

#' @export
result_kind.habanera_retry_cost <- function(experiment) "retry_cost"
#' @export
entries_per_trial.habanera_retry_cost <- function(experiment) 1
#' @export
in_words.habanera_retry_cost <- function(x, ...) {
  sprintf("random numbers that %s of %s cost", procedure_in_words(x$shuffle),
          count_of(x$deck_size, "card"))
}
#' @export
as_plain.habanera_retry_cost <- function(experiment) {
  list(kind = "retry_cost", shuffle = format(experiment$shuffle), deck_size = experiment$deck_size)
}
#' @export
from_plain.retry_cost <- function(plain, game) {
  new_experiment("habanera_retry_cost", shuffle = procedure(plain$shuffle),
                 deck_size = as.double(plain$deck_size))
}
#' @export
outcome_space.habanera_retry_cost <- function(experiment) {
  # More than n (log n + 40) numbers have a chance below exp(-40) a loop.
  n <- experiment$deck_size
  most <- ceiling(n * (log(max(n, 1)) + 40)) * sum(step_times(experiment$shuffle))
  data.frame(numbers = as.double(0:most))
}
#' @export
run_lap.habanera_retry_cost <- function(experiment, seed, first, count, threads) {
  cells <- nrow(outcome_space(experiment))
  tally <- core_count_asked(core_steps(experiment$shuffle), experiment$deck_size, cells, seed, first,
                            count, threads)
  tally["squares"] <- list(NULL)
  tally
}

#' @rawNamespace S3method(generics::tidy, habanera_counts_retry_cost)
tidy.habanera_counts_retry_cost <- function(x, conf.level = 0.95, ...) {
  trials <- sum(x$n)
  mean <- sum(x$n * x$outcomes[["numbers"]]) / trials
  error <- sqrt(sum(x$n * (x$outcomes[["numbers"]] - mean)^2) / (trials - 1) / trials)
  half <- stats::qnorm((1 + conf.level) / 2) * error
  n <- x$provenance$experiment$deck_size
  exact <- n * sum(1 / seq_len(n)) * sum(step_times(x$provenance$experiment$shuffle))
  z <- (mean - exact) / error
  data.frame(term = "numbers", estimate = mean, std.error = error, conf.low = mean - half,
             conf.high = mean + half, exact = exact, statistic = z, p.value = 2 * stats::pnorm(-abs(z)))
}

#' @export
first_answer.habanera_counts_retry_cost <- function(x) {
  row <- tidy(x)
  sprintf("On average %s random numbers (95%%: %s to %s); exactly %s. (%s.)", format_number(row$estimate, 6),
          format_number(row$conf.low, 6), format_number(row$conf.high, 6), format_number(row$exact, 6),
          run_in_words(x))
}
