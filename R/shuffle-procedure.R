# A procedure says how a deck is shuffled: a name the core knows, and its parameters.
new_procedure <- function(name, words, code) {
  structure(list(name = name, words = words, code = code), class = "habanera_procedure")
}

#' Shuffling procedures
#'
#' Small value objects that say how a deck is shuffled. `shuffle_uniform()` is the fair shuffle:
#' every arrangement equally likely (Fisher & Yates 1938, example 12; Durstenfeld 1964, algorithm
#' 235), with unbiased whole numbers (Lemire 2019; Brackett-Rozinsky & Lemire 2024).
#'
#' @return A procedure.
#' @examples
#' shuffle_uniform()
#' @export
shuffle_uniform <- function() new_procedure("uniform", "a uniform shuffle", "shuffle_uniform()")

check_procedure <- function(x, name = rlang::caller_arg(x), call = rlang::caller_env()) {
  if (inherits(x, "habanera_procedure")) return(x)
  refuse(sprintf("`%s` must be a shuffling procedure, such as shuffle_uniform(), not %s.", name,
                 said(x)), call = call)
}

# Of draws made elsewhere the procedure is not known: NULL.
procedure_from_plain <- function(plain) {
  if (is.null(plain)) return(NULL)
  if (identical(plain, "uniform")) return(shuffle_uniform())
  refuse(sprintf("This version knows no shuffling procedure %s.", said(plain)), "file", call = NULL)
}

#' @export
format.habanera_procedure <- function(x, ...) x$words

#' @export
print.habanera_procedure <- function(x, ...) {
  cat("<procedure> ", format(x), "\n", sep = "")
  invisible(x)
}

#' Shuffle cards
#'
#' One shuffle: that of trial `trial` of `seed`, the same one that a simulation with this seed plays.
#'
#' @param x Cards, the top first.
#' @param procedure A shuffling procedure.
#' @param seed A whole number from 0 to below 2^53, or `NULL` to take one from R's generator.
#' @param trial The trial's number, a whole number of 0 or more.
#' @return The same cards in their new order.
#' @examples
#' shuffle(deck_standard(), seed = 1)
#' @export
shuffle <- function(x, procedure = shuffle_uniform(), seed = NULL, trial = 1) {
  check_cards_argument(x)
  check_procedure(procedure)
  check_whole(trial)
  if (length(x) > most_cards) {
    refuse(sprintf("A deck has at most %s cards, not %s.", format_count(most_cards),
                   format_count(length(x))))
  }
  x[core_shuffled_places(length(x), resolve_seed(seed), trial)]
}
