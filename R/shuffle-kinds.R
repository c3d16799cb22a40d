# The kinds of steps there are: for each, in the order of the help page, what it does, its parameters,
# how it is said, how many seconds hands need for one, and where it comes from. The constructors, the
# text form, the checks and the command line all read this list.

# `default` NULL means "not given"; `check` returns the value or stops; `code` makes it a number for the
# core (NaN stands for NULL).
parameter <- function(default, words, check, code = function(value) if (is.null(value)) NaN else value) {
  list(default = default, words = words, check = check, code = code)
}

whole_parameter <- function(default, words, from, to = 2^53) {
  parameter(default, words, function(value, name, call) check_whole(value, from, to, name, call))
}

number_parameter <- function(default, words, from, to) {
  parameter(default, words, function(value, name, call) {
    if (is.null(value) && is.null(default)) return(NULL)
    fits <- is.numeric(value) && length(value) == 1 && is.finite(value) && value >= from && value <= to
    if (fits) return(as.double(value))
    refuse(sprintf("`%s` must be a number from %s to %s, not %s.", name, format_count(from),
                   format_count(to), said(value)), call = call)
  })
}

# The first word is the default; the core is given its place, from 0.
word_parameter <- function(choices, words) {
  parameter(choices[1], words,
            function(value, name, call) check_choice(value, choices, name, call),
            function(value) match(value, choices) - 1)
}

step_kind <- function(does, one, many, seconds, source, ...) {
  list(does = does, one = one, many = many, seconds = seconds, source = source, parameters = list(...))
}

step_kinds <- list(
  uniform = step_kind("Every arrangement equally likely.", "a uniform shuffle", "uniform shuffles", 0,
                      "Fisher & Yates 1938; Durstenfeld 1964"),
  none = step_kind("Plays the deck as it lies.", "no shuffle", "times no shuffle", 0, "field practice"),
  naive_swap = step_kind(
    "Swaps each place in turn with any place of the whole deck.", "a naive swap loop",
    "naive swap loops", 0, "a common slip",
    skip_last = whole_parameter(0, "places at the end that the loop leaves out", 0, 65535)
  ),
  one_cycle = step_kind("Swaps each place, from the last, with a strictly lower one: always one cycle.",
                        "a one-cycle loop", "one-cycle loops", 0, "Sattolo 1986"),
  transpositions = step_kind("Swaps two places drawn independently, which may coincide.",
                             "a random transposition", "random transpositions", 0,
                             "Diaconis & Shahshahani 1981"),
  random_keys = step_kind(
    "Sorts by random keys; ties stay in their old order.", "a sort by random keys",
    "sorts by random keys", 0, "field practice",
    values = whole_parameter(2^53, "how many values a key can take", 1)
  ),
  coin_sort = step_kind(
    "Sorts with a comparison that tosses a coin.", "a coin-tossing sort", "coin-tossing sorts", 0,
    "a common slip", method = word_parameter(c("insertion", "merge"), "the sort: insertion or merge")
  ),
  modulo = step_kind(
    "The fair loop with a random number of few bits, reduced by remainder.", "a modulo loop",
    "modulo loops", 0, "a common slip",
    bits = whole_parameter(8, "bits of the random number", 1, 32)
  ),
  small_seed = step_kind(
    "The fair loop on a generator with few starting points.", "a small-seed shuffle",
    "small-seed shuffles", 0, "a common slip",
    bits = whole_parameter(32, "starting points, as a power of two", 0, 32)
  ),
  retry = step_kind("Draws random card numbers until an unused one comes up, place by place.",
                    "a retry loop", "retry loops", 0, "field practice"),
  overwrite = step_kind("The swap that forgets to keep the first card: cards are lost and doubled.",
                        "an overwriting loop", "overwriting loops", 0, "a common slip",
                        partner = word_parameter(c("later", "any"), "whose card it takes: of later places, or of any")),
  riffle = step_kind(
    "Cuts the deck in two packets and drops cards from both, mixed.", "a riffle", "riffles", 8,
    "Gilbert 1955; Reeds 1981; Bayer & Diaconis 1992",
    cut = number_parameter(NULL, "spread of the cut, in cards [binomial]", 0, 65535),
    clump = number_parameter(NULL, paste("chance that the next card is from the same packet, 0 to interleave",
                                         "perfectly [in proportion to what is left]"), 0, 1)
  ),
  faro = step_kind(
    "Interleaves two halves perfectly; of an odd deck the half that begins has one card more.",
    "a faro", "faros", 20, "Diaconis, Graham & Kantor 1983",
    side = word_parameter(c("out", "in"), "out keeps the top card on top, in sends it one down")
  ),
  overhand = step_kind(
    "Slips packets off the top, each upon the last.", "an overhand", "overhands", 5, "Pemantle 1989",
    packet = number_parameter(4, "mean size of a packet, in cards", 1, 65535)
  ),
  strip = step_kind(
    "Strips a set number of packets off the top, each upon the last.", "a strip", "strips", 6,
    "field practice", packets = whole_parameter(5, "number of packets", 1, 65535)
  ),
  piles = step_kind(
    "Deals into piles, card by card, and stacks the piles.", "a pile shuffle", "pile shuffles", 45,
    "field practice", piles = whole_parameter(7, "number of piles", 1, 65535),
    pick_up = word_parameter(c("in_order", "reversed", "random"),
                             "which pile is on top: in_order (the first), reversed, random")
  ),
  top_to_random = step_kind("Moves the top card to any place of the deck.", "a top-to-random move",
                            "top-to-random moves", 3, "Aldous & Diaconis 1986"),
  cut = step_kind(
    "Puts the upper packet under.", "a cut", "cuts", 3, "field practice",
    spread = number_parameter(5, "spread of the cut about the middle, in cards", 0, 65535)
  ),
  wash = step_kind(
    "Spreads the cards and gathers them: each slides down 0 to `reach` places.", "a wash", "washes",
    20, "field practice", reach = whole_parameter(26, "how far a card may slide, in places", 0, 65535)
  ),
  shelf = step_kind(
    "Drops each card on a random shelf, on top or beneath, and stacks the shelves.", "a shelf machine",
    "shelf machines", 60, "Diaconis, Fulman & Holmes 2013",
    shelves = whole_parameter(10, "number of shelves", 1, 65535)
  ),
  with = step_kind("Calls somebody else's R function, from cards to cards.", "a shuffle by an R function",
                   "shuffles by an R function", 0, "yours")
)

#' The steps of shuffling procedures
#'
#' What [procedure()] can be made of.
#'
#' @return A data frame of class `habanera_steps` with a row per step: `step` (its name), `does`, `seconds` (by hand),
#'   `source` and `parameters` (names, with a space between).
#' @examples
#' shuffle_steps()[c("step", "does")]
#' @export
shuffle_steps <- function() {
  rows <- lapply(names(step_kinds), function(name) {
    kind <- step_kinds[[name]]
    data.frame(step = name, does = kind$does, seconds = kind$seconds, source = kind$source,
               parameters = paste(names(kind$parameters), collapse = " "))
  })
  structure(do.call(rbind, rows), class = table_class("habanera_steps"))
}

#' @export
tell.habanera_steps <- function(x, ...) {
  if (is.null(x[["step"]])) return(NextMethod())
  writeLines(unlist(lapply(x[["step"]], step_lines)))
  invisible(x)
}

step_lines <- function(name) {
  kind <- step_kinds[[name]]
  settings <- vapply(names(kind$parameters), function(key) {
    parameter <- kind$parameters[[key]]
    sprintf("      %s=%s  %s", key, if (is.null(parameter$default)) "" else format(parameter$default, digits = 16),
            parameter$words)
  }, "")
  c(sprintf("%s: %s%s [%s]", name, kind$does, if (kind$seconds > 0) sprintf(" %s s.", format(kind$seconds)) else "",
            kind$source), unname(settings))
}
