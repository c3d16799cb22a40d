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
  x[core_shuffled_places(core_steps(procedure), length(x), resolve_seed(seed), trial)]
}
