#' Shuffling procedures
#'
#' Small value objects that say how a deck is shuffled: what dealers' hands do, what a machine does, and
#' what programmers' loops do, fair ones and the slips that are made in them. `c()` joins procedures one
#' after another, `rep(x, 4)` repeats one, [procedure()] reads them from text. Each can be given to
#' [shuffle()], [draws()] and [positions()], and [exact()] works it out on small decks.
#'
#' `r step_kinds_rd()`
#'
#' @param times How often the step is made.
#' @param skip_last Places at the end that the loop leaves out.
#' @param values How many values a key can take.
#' @param method The sort: `"insertion"` or `"merge"`.
#' @param bits Bits of the random number; of the starting points, as a power of two.
#' @param cut,spread Spread of the cut about the middle (standard deviation, in cards); for a riffle
#'   `NULL` is a binomial cut.
#' @param clump Chance that the next card drops from the same packet as the last: 0 interleaves
#'   perfectly; `NULL` drops in proportion to what is left.
#' @param partner Whose card each place takes: of a `"later"` place (or its own), or of `"any"`.
#' @param side `"out"` keeps the top card on top, `"in"` sends it one down.
#' @param packet Mean size of a packet, in cards.
#' @param packets Number of packets.
#' @param piles Number of piles.
#' @param pick_up Which pile is on top: `"in_order"` (the first), `"reversed"` or `"random"`.
#' @param reach How far a card may slide, in places.
#' @param shelves Number of shelves.
#' @param seconds Seconds that one takes; `NULL`: as listed.
#' @return A procedure (class `habanera_procedure`).
#' @section Errors: `habanera_error_input` for impossible parameters.
#' @examples
#' c(shuffle_wash(), shuffle_riffle(4), shuffle_strip(packets = 6), shuffle_cut())
#' shuffle(deck_standard(), shuffle_riffle(3), seed = 1)
#' @name procedures
NULL

#' @rdname procedures
#' @export
shuffle_uniform <- function(seconds = NULL) one_step("uniform", seconds = seconds)

#' @rdname procedures
#' @export
shuffle_none <- function(seconds = NULL) one_step("none", seconds = seconds)

#' @rdname procedures
#' @export
shuffle_naive_swap <- function(skip_last = 0, seconds = NULL) {
  one_step("naive_swap", seconds = seconds, skip_last = skip_last)
}

#' @rdname procedures
#' @export
shuffle_one_cycle <- function(seconds = NULL) one_step("one_cycle", seconds = seconds)

#' @rdname procedures
#' @export
shuffle_transpositions <- function(times = 1, seconds = NULL) {
  one_step("transpositions", times, seconds = seconds)
}

#' @rdname procedures
#' @export
shuffle_random_keys <- function(values = 2^53, seconds = NULL) {
  one_step("random_keys", seconds = seconds, values = values)
}

#' @rdname procedures
#' @export
shuffle_coin_sort <- function(method = c("insertion", "merge"), seconds = NULL) {
  one_step("coin_sort", seconds = seconds, method = method)
}

#' @rdname procedures
#' @export
shuffle_modulo <- function(bits = 8, seconds = NULL) one_step("modulo", seconds = seconds, bits = bits)

#' @rdname procedures
#' @export
shuffle_small_seed <- function(bits = 32, seconds = NULL) {
  one_step("small_seed", seconds = seconds, bits = bits)
}

#' @rdname procedures
#' @export
shuffle_retry <- function(seconds = NULL) one_step("retry", seconds = seconds)

#' @rdname procedures
#' @export
shuffle_overwrite <- function(partner = c("later", "any"), seconds = NULL) {
  one_step("overwrite", seconds = seconds, partner = partner)
}

#' @rdname procedures
#' @export
shuffle_riffle <- function(times = 1, cut = NULL, clump = NULL, seconds = NULL) {
  one_step("riffle", times, seconds = seconds, cut = cut, clump = clump)
}

#' @rdname procedures
#' @export
shuffle_faro <- function(side = c("out", "in"), times = 1, seconds = NULL) {
  one_step("faro", times, seconds = seconds, side = side)
}

#' @rdname procedures
#' @export
shuffle_overhand <- function(times = 1, packet = 4, seconds = NULL) {
  one_step("overhand", times, seconds = seconds, packet = packet)
}

#' @rdname procedures
#' @export
shuffle_strip <- function(packets = 5, seconds = NULL) {
  one_step("strip", seconds = seconds, packets = packets)
}

#' @rdname procedures
#' @export
shuffle_piles <- function(piles = 7, pick_up = c("in_order", "reversed", "random"), seconds = NULL) {
  one_step("piles", seconds = seconds, piles = piles, pick_up = pick_up)
}

#' @rdname procedures
#' @export
shuffle_top_to_random <- function(times = 1, seconds = NULL) {
  one_step("top_to_random", times, seconds = seconds)
}

#' @rdname procedures
#' @export
shuffle_cut <- function(spread = 5, seconds = NULL) one_step("cut", seconds = seconds, spread = spread)

#' @rdname procedures
#' @export
shuffle_wash <- function(reach = 26, seconds = NULL) one_step("wash", seconds = seconds, reach = reach)

#' @rdname procedures
#' @export
shuffle_shelf <- function(shelves = 10, seconds = NULL) {
  one_step("shelf", seconds = seconds, shelves = shelves)
}

#' @rdname procedures
#' @param f An R function from cards to cards: somebody else's shuffle. R's generator is set from each
#'   trial's address before it is called. It cannot be read from text, walked, or watched.
#'   Single cards are swapped at a quarter of the speed of whole numbers; to be quicker, shuffle the places and take the
#'   cards once (`x[f(seq_along(x))]`).
#' @export
shuffle_with <- function(f, seconds = NULL) {
  check_given()
  check_function(f)
  if (!is.null(seconds)) check_seconds(seconds, rlang::current_env())
  new_procedure(list(list(name = "with", times = 1, parameters = list(), f = f,
                          seconds = if (is.null(seconds)) 0 else seconds)))
}

# The list of steps for the help page.
step_kinds_rd <- function() {
  lines <- vapply(names(step_kinds), function(name) {
    kind <- step_kinds[[name]]
    sprintf("* `%s`: %s %s%s.", name, kind$does,
            if (kind$seconds > 0) sprintf("%s s. ", format(kind$seconds)) else "", kind$source)
  }, "")
  paste(lines, collapse = "\n")
}
