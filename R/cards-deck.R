#' Decks
#'
#' Constructors of decks, each a [`cards`][as_cards] vector with the top card first.
#'
#' `deck_standard()` gives packs of 52 from the standard catalogue, one pack after another, each with
#' its jokers last. `deck_numbered()` has cards 1 to n. `deck_crossed()` has every combination of a
#' rank and a suit, with codes made of the rank and then the suit: numbers in full, words by their
#' initial, or by their name where the vector has names. `deck_from()` takes a catalogue of yours.
#' `deck_sampled()` picks cards one after another, with chances in proportion to `weights` among the
#' kinds that have not reached `max_copies`, and tells which kinds never came; with `anew` it does so in each
#' trial of its own.
#'
#' @param packs Number of packs, 1 or more.
#' @param jokers Number of jokers in each pack, 0 or more.
#' @param ranks,suits The ranks ("2" to "10", "J", "Q", "K", "A") and suits (spades, hearts,
#'   diamonds, clubs, or their initials) wanted, in the order wanted; `NULL` means all.
#' @param arranged `"suit"`: all cards of a suit together; `"rank"`: all cards of a rank together.
#' @return A `cards` vector.
#' @section Errors: `habanera_error_input` for impossible numbers or names;
#'   `habanera_error_catalogue` for a catalogue without `card`, with a card twice, or with copies
#'   that are no whole number; `habanera_error_file` for a file that cannot be read as what its
#'   extension says.
#' @examples
#' deck_standard(packs = 6)
#' deck_standard(ranks = c("7", "8", "9", "10", "J", "Q", "K", "A"))
#' deck_crossed(rank = 1:11, suit = c("fig", "gage", "medlar", "pear"))
#' deck_from(data.frame(card = c("plum", "quince"), copies = c(3, 1)))
#' @export
deck_standard <- function(packs = 1, jokers = 0, ranks = NULL, suits = NULL,
                          arranged = c("suit", "rank")) {
  check_whole(packs, 1, 1000)
  check_whole(jokers, 0, 1000)
  arranged <- check_choice(arranged, c("suit", "rank"))
  ranks <- check_members(ranks, standard_ranks, "ranks")
  if (is.character(suits)) check_utf8(suits)
  suits <- check_members(full_suits(suits), names(suit_letters), "suits")
  faces <- if (arranged == "suit") {
    paste0(rep(ranks, times = length(suits)), rep(suit_letters[suits], each = length(ranks)))
  } else {
    paste0(rep(ranks, each = length(suits)), rep(suit_letters[suits], times = length(ranks)))
  }
  pack <- match(c(faces, rep("JOKER", jokers)), standard_catalogue$data$card)
  new_cards(rep(pack, times = packs))
}

check_members <- function(chosen, all, name, call = rlang::caller_env()) {
  if (is.null(chosen)) return(all)
  if (!is.character(chosen) && !is.numeric(chosen) && !is.factor(chosen)) {
    refuse(sprintf("`%s` must be among %s, not %s.", name, join_words(all), said(chosen)), call = call)
  }
  check_utf8(as.character(chosen), name, call)
  chosen <- toupper_if(as.character(chosen), name == "ranks")
  unknown <- setdiff(chosen, all)
  if (length(unknown)) {
    refuse(sprintf("`%s` must be among %s, not %s%s", name, join_words(all), quoted(unknown[1]),
                   did_you_mean(unknown[1], all)), call = call)
  }
  if (anyDuplicated(chosen)) {
    refuse(sprintf("`%s` has %s twice; for more copies use `packs`.", name,
                   quoted(chosen[duplicated(chosen)][1])), call = call)
  }
  chosen
}

toupper_if <- function(x, condition) if (condition) toupper(x) else tolower(x)

full_suits <- function(suits) {
  if (!is.character(suits)) return(suits)
  by_letter <- match(toupper(suits), suit_letters)
  ifelse(is.na(by_letter), suits, names(suit_letters)[by_letter])
}

#' @rdname deck_standard
#' @param n Number of cards, 0 to 65,535; `rank`, `rank_high`, `rank_low` and `points` are the number.
#' @export
deck_numbered <- function(n) {
  check_given()
  check_whole(n, 0, most_cards)
  number <- seq_len(n)
  data <- data.frame(card = as.character(number), rank = as.double(number), rank_high = number, rank_low = number,
                     points = as.double(number))
  title <- if (n == 0) "no numbered cards" else sprintf("cards numbered 1 to %s", format_count(n))
  code <- sprintf("deck_numbered(%d)", n)
  new_cards(number, new_catalogue(data, title, recipe = new_recipe(code, rep(1, n))))
}

#' @rdname deck_standard
#' @param rank,suit For `deck_crossed()`: the values to combine. A rank that is a number is its own
#'   `rank_high`, `rank_low` and `points`; other ranks count from 1 in the order given.
#' @export
deck_crossed <- function(rank, suit) {
  check_given()
  rank_codes <- short_codes(rank, "rank", rlang::current_env())
  suit_codes <- short_codes(suit, "suit", rlang::current_env())
  height <- if (is.numeric(rank)) as.double(rank) else as.double(seq_along(rank))
  data <- data.frame(
    card = paste0(rep(rank_codes, times = length(suit)), rep(suit_codes, each = length(rank))),
    rank = rep(as.character(rank), times = length(suit)),
    suit = rep(as.character(suit), each = length(rank)),
    rank_high = rep(height, times = length(suit)), rank_low = rep(height, times = length(suit)),
    points = rep(height, times = length(suit))
  )
  title <- sprintf("%s by %s", count_of(length(rank), "rank"), count_of(length(suit), "suit"))
  code <- sprintf("deck_crossed(rank = %s, suit = %s)", as_code(rank), as_code(suit))
  data <- catalogue_data(data, "The crossed deck", rlang::current_env())
  new_cards(seq_len(nrow(data)), new_catalogue(data, title,
                                               recipe = new_recipe(code, rep(1, nrow(data)))))
}

short_codes <- function(values, name, call) {
  if (!is.atomic(values) || !length(values) || anyNA(values)) {
    refuse(sprintf("`%s` must be a vector of names or numbers, not %s.", name, said(values)),
           call = call)
  }
  given <- names(values)
  check_utf8(c(as.character(values), given), name, call)
  codes <- if (!is.null(given)) given else if (is.numeric(values)) format(values, trim = TRUE) else {
    ifelse(grepl("^[0-9]+$", values), as.character(values), toupper(substr(values, 1, 1)))
  }
  clash <- which(duplicated(codes))
  if (length(clash)) {
    refuse(sprintf(paste("`%s`: %s and %s would both be %s in the codes; name them, as in",
                         "c(PE = \"pear\", PL = \"plum\")."),
                   name, quoted(values[match(codes[clash[1]], codes)]), quoted(values[clash[1]]),
                   quoted(codes[clash[1]])), call = call)
  }
  unname(codes)
}

check_deck <- function(deck, call = rlang::caller_env()) {
  if (is_sampling(deck)) {
    refuse("A deck sampled anew in each trial is for draws() that ask questions; elsewhere use a deck sampled once.",
           call = call)
  }
  check_cards_argument(deck, "deck", call)
  if (length(deck) > most_cards) {
    refuse(sprintf("`deck` has %s; at most %s can be simulated.", count_of(length(deck), "card"),
                   format_count(most_cards)), call = call)
  }
  deck
}

# The kinds in a deck in the order of its catalogue: their codes there, copies, and the kind at each
# place (counted from 1).
kinds_of <- function(deck) {
  codes <- codes_of(deck)
  kinds <- sort(unique(codes))
  places <- match(codes, kinds)
  list(codes = kinds, copies = as.double(tabulate(places, length(kinds))), places = places,
       cards = catalogue_of(deck)$data$card[kinds])
}
