# Slips and habits that a diagnosis knows: families of procedures, each with words, text and, where it has a
# number that can be fitted, the numbers tried at first.

slip_family <- function(words, text, values = NULL) list(words = words, text = text, values = values)

slip_families <- function(n) {
  moves <- unique(pmax(1, round(n * c(0.25, 0.5, 1, 2, 4))))
  list(
    slip_family("nothing: the deck is played as it lies", "none"),
    slip_family("swap with any position", "naive_swap"),
    slip_family("swap with any position, last position skipped", "naive_swap skip_last=1"),
    slip_family("swap with any position, last %s positions skipped", "naive_swap skip_last=%s", 2:3),
    slip_family("swap with a strictly lower position: always one cycle", "one_cycle"),
    slip_family("%s swaps of two random positions", "transpositions x%s", moves),
    slip_family("sort by random keys of %s values", "random_keys values=%s", c(2, 4, 10, 52, 100, 256, 1000, 32768,
                                                                               65536)),
    slip_family("insertion sort that tosses coins", "coin_sort"),
    slip_family("merge sort that tosses coins", "coin_sort method=merge"),
    slip_family("a random number of %s bits reduced by remainder", "modulo bits=%s", 6:10),
    slip_family("a generator with 2^%s starting points", "small_seed bits=%s", c(4, 8, 12, 16)),
    slip_family("the swap that forgets to keep the first card", "overwrite"),
    slip_family("the swap with any position that forgets to keep the first card", "overwrite partner=any"),
    slip_family("one riffle", "riffle"),
    slip_family("%s riffles", "riffle x%s", 2:8),
    slip_family("%s riffles with clumps", "riffle x%s clump=0.6", 2:7),
    slip_family("%s neat riffles", "riffle x%s cut=1 clump=0.2", 2:8),
    slip_family("one overhand", "overhand"),
    slip_family("%s overhands", "overhand x%s", c(2, 4, 8, 16)),
    slip_family("%s overhands of large packets", "overhand packet=8 x%s", c(2, 4, 8, 16)),
    slip_family("%s strips", "strip x%s", c(2, 4, 8)),
    slip_family("piles of %s", "piles piles=%s", c(3, 5, 7)),
    slip_family("piles of %s picked up at random", "piles pick_up=random piles=%s", c(3, 5, 7)),
    slip_family("a cut", "cut"), slip_family("a wide cut", "cut spread=12"),
    slip_family("a wash that lets cards slide %s places", "wash reach=%s", unique(pmax(1, round(n * c(0.1, 0.25, 0.5,
                                                                                                      0.75))))),
    slip_family("%s cards moved from the top", "top_to_random x%s", moves),
    slip_family("a shelf machine with %s shelves", "shelf shelves=%s", c(4, 10)),
    slip_family("a perfect interleave", "faro")
  )
}

# One candidate for each number of a family; `at` is its place in the family.
expand_family <- function(family) {
  if (is.null(family$values)) return(list(new_candidate(family, NULL)))
  lapply(family$values, new_candidate, family = family)
}

new_candidate <- function(family, value) {
  put <- function(text) if (is.null(value)) text else sprintf(text, format(value, scientific = FALSE))
  list(words = put(family$words), text = put(family$text), family = family, value = value)
}

#' @rdname diagnose
#' @param deck Cards, or how many.
#' @export
known_slips <- function(deck = 52) {
  deck_size <- counted_deck(deck, 0, most_audited_cards, rlang::current_env())
  candidates <- unlist(lapply(slip_families(deck_size), expand_family), recursive = FALSE)
  rlang::set_names(vapply(candidates, `[[`, "", "text"), vapply(candidates, `[[`, "", "words"))
}

# Numbers between the ones beside a candidate's own, for a closer look; none when it has no number.
closer_values <- function(candidate, tried, most = 4) {
  if (is.null(candidate$value)) return(NULL)
  below <- max(c(tried[tried < candidate$value], ceiling(candidate$value / 2)))
  above <- min(c(tried[tried > candidate$value], candidate$value * 2))
  values <- setdiff(unique(round(exp(seq(log(below), log(above), length.out = most + 2)))), tried)
  values[values >= 1]
}
