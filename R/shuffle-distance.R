#' Exact distance from uniform at full size
#'
#' The total variation distance from uniform after so many repeats, where a closed form is known: riffles
#' (Bayer & Diaconis 1992, theorem 1: the chance of an arrangement depends on its rising sequences), top
#' to random (Diaconis, Fill & Pitman 1992: on how many cards at the bottom lie in order) and shelves
#' (Diaconis, Fulman & Holmes 2013, theorem 3.1: on its valleys; k passes of m shelves equal one of
#' 2^(k-1) m^k). The distance is the sum, over these classes, of their share of all arrangements times
#' what the chance falls short of the uniform one; shares come by recurrences on probabilities.
#'
#' @param procedure `shuffle_riffle()` with its default cut and clump, `shuffle_top_to_random()` or
#'   `shuffle_shelf()`.
#' @param deck Cards, or how many: 1 to 1,000.
#' @param times Numbers of repeats, 0 or more.
#' @return A data frame: `times` (whole number), `total_variation` (0 to 1).
#' @section Errors: `habanera_error_work` for a procedure without a closed form.
#' @examples
#' exact_distance(shuffle_riffle(), 52)
#' @export
exact_distance <- function(procedure, deck = 52, times = 1:12) {
  check_given()
  check_procedure(procedure)
  deck_size <- counted_deck(deck, 1, 1000, rlang::current_env())
  fits <- is.numeric(times) && length(times) && all(is.finite(times)) && all(times >= 0 & times == floor(times))
  if (!fits) refuse(sprintf("`times` must be numbers of repeats, such as 1:12, not %s.", said(times)))
  law <- closed_form(procedure, rlang::current_env())
  repeats <- times * step_times(procedure)
  distance <- vapply(repeats, function(k) if (k == 0) start_distance(deck_size) else law(deck_size, k), 0)
  data.frame(times = as.double(times), total_variation = distance)
}

start_distance <- function(n) -expm1(-lfactorial(n))

closed_form <- function(procedure, call) {
  step <- procedure$steps[[1]]
  if (length(procedure$steps) == 1) {
    if (step$name == "riffle" && is.null(step$parameters$cut) && is.null(step$parameters$clump)) {
      return(riffle_distance)
    }
    if (step$name == "top_to_random") return(top_to_random_distance)
    if (step$name == "shelf") {
      return(function(n, k) shelf_distance(n, 2^(k - 1) * step$parameters$shelves^k))
    }
  }
  refuse(paste("A closed form is known for riffles with the default cut and clump, top-to-random moves",
               sprintf("and shelves, not for %s.", quoted(format(procedure)))), "work", call)
}

# What uniform exceeds the law by: shares of classes, and the law's chance over the uniform one.
shortfall <- function(share, log_ratio) sum(share * pmax(0, -expm1(pmin(log_ratio, 0))))

# Shares of arrangements with 1, 2, ..., n rising sequences (Eulerian).
rising_shares <- function(n) {
  share <- 1
  for (size in seq_len(n)[-1]) {
    r <- seq_len(size)
    share <- (r * c(share, 0) + (size - r + 1) * c(0, share)) / size
  }
  share
}

riffle_distance <- function(n, k) {
  packets <- 2^k
  log_ratio <- vapply(seq_len(n), function(r) {
    if (packets < r) return(-Inf)
    sum(log1p((n - r - (seq_len(n) - 1)) / packets))
  }, 0)
  shortfall(rising_shares(n), log_ratio)
}

top_to_random_distance <- function(n, k) {
  touched <- touched_law(n, k)
  in_order <- seq_len(n)
  # The share with at least m cards at the bottom in order is 1/m!.
  share <- exp(-lfactorial(in_order)) - c(exp(-lfactorial(in_order[-n] + 1)), 0)
  log_terms <- log(touched) + lfactorial(n - 0:n)
  log_ratio <- vapply(in_order, function(m) log_sum(log_terms[(n - m):n + 1]), 0)
  shortfall(share, log_ratio)
}

# The chance that k moves touched 0, 1, ..., n different cards.
touched_law <- function(n, k) {
  law <- c(1, numeric(n))
  j <- 0:n
  for (move in seq_len(k)) law <- law * j / n + c(0, law[-(n + 1)] * (n - j[-(n + 1)]) / n)
  law
}

log_sum <- function(logs) {
  most <- max(logs)
  if (!is.finite(most)) return(most)
  most + log(sum(exp(logs - most)))
}

# Shares of arrangements with 0, 1, ... valleys.
valley_shares <- function(n) {
  most <- (n - 1) %/% 2
  share <- c(1, numeric(most))
  v <- 0:most
  for (size in seq_len(n)[-1]) {
    share <- ((2 * v + 2) * share + pmax(size - 2 * v, 0) * c(0, share[-(most + 1)])) / size
  }
  share
}

shelf_distance <- function(n, shelves) {
  valleys <- 0:((n - 1) %/% 2)
  log_ratio <- vapply(valleys, function(v) {
    a <- v:min(n - 1 - v, shelves - 1)
    if (v > shelves - 1) return(-Inf)
    # Chance times n!: 4^(v+1) / 2^(n+1) sum_a choose(n-1-2v, a-v) prod_i (shelves - a - 1 + i)/shelves.
    products <- vapply(a, function(at) sum(log1p((seq_len(n) - at - 1) / shelves)), 0)
    (v + 1) * log(4) - (n + 1) * log(2) + log_sum(lchoose(n - 1 - 2 * v, a - v) + products)
  }, 0)
  shortfall(valley_shares(n), log_ratio)
}
