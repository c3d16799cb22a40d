# Cards as others write them: codes, or numbers.

# Numbers for cards: which number means which place of which deck.
card_numbering <- function(numbering, deck, call) {
  numbering <- if (is.null(numbering)) list() else as.list(numbering)
  known <- c("first", "by", "ranks", "suits", "cards")
  unknown <- setdiff(names(numbering), known)
  if (length(unknown) || (length(numbering) && is.null(names(numbering)))) {
    refuse(sprintf("`numbering` must be a list with some of %s, not %s.", join_words(known),
                   said(unknown[1])), call = call)
  }
  first <- check_whole(if (is.null(numbering$first)) 1 else numbering$first,
                       name = "numbering$first", call = call)
  list(first = first, order = numbered_cards(numbering, deck, call))
}

numbered_cards <- function(numbering, deck, call) {
  if (!is.null(numbering$cards)) return(as_cards(numbering$cards, like = deck))
  if (is.null(numbering$by) && is.null(numbering$ranks) && is.null(numbering$suits)) return(deck)
  by <- check_choice(if (is.null(numbering$by)) "suit" else numbering$by, c("suit", "rank"),
                     "numbering$by", call)
  as_cards(deck_standard(ranks = numbering$ranks, suits = numbering$suits, arranged = by),
           like = deck)
}

# Kinds, counted as in kinds_of(), from cards as somebody wrote them: codes, or numbers.
# Numbers count from `counted_from`; NULL: as they show.
kinds_from_tokens <- function(tokens, deck, numbering, label, call, notation = NULL, counted_from = NULL) {
  if (are_codes(tokens, deck, numbering)) {
    refuse_two_notations(tokens, catalogue_of(deck), notation, label, call)
    as_codes <- coded_pieces(tokens, catalogue_of(deck), notation)$codes
    unknown <- which(is.na(as_codes))
    if (length(unknown)) {
      refuse(sprintf("%s: unknown card %s. %s%s", label(unknown[1]), quoted(tokens[unknown[1]]),
                     code_rule(catalogue_of(deck)),
                     code_hint(tokens[unknown[1]], catalogue_of(deck))), "notation", call)
    }
    return(kinds_in_deck(as_codes, tokens, deck, label, call))
  }
  if (is.null(numbering) && !is.null(counted_from)) numbering <- list(first = counted_from)
  numbers <- card_numbering(found_numbering(numbering, tokens, deck, call), deck, call)
  place <- numbered_places(tokens, numbers, label, call)
  kinds_in_deck(codes_of(numbers$order)[place], tokens, deck, label, call)
}

# Codes with the rank first and codes with the suit first, in one file: which are meant is clear, and still a slip.
refuse_two_notations <- function(tokens, catalogue, notation, label, call) {
  if (is.null(catalogue$glyphs) || !is.null(notation)) return(invisible())
  words <- unique(tokens)
  rank_first <- !is.na(find_codes(words, catalogue)) & toupper(words) != "JOKER"
  suit_first <- !rank_first & !is.na(find_codes(turned_code(words), catalogue))
  if (!any(rank_first) || !any(suit_first)) return(invisible())
  one <- match(words[rank_first], tokens)
  other <- match(words[suit_first], tokens)
  refuse(sprintf(paste("There are cards in two notations: rank then suit as at %s (%s), suit then rank as at %s (%s).",
                       "Write all one way, or say which is meant: `notation = \"rank_first\"` (--notation)."),
                 label(min(one)), quoted(tokens[min(one)]), label(min(other)), quoted(tokens[min(other)])), "notation",
                 call)
}

# Without a numbering, tokens are codes if some are no numbers, or if all are codes as well.
are_codes <- function(tokens, deck, numbering) {
  if (!is.null(numbering)) return(FALSE)
  anyNA(written_numbers(tokens)) || !anyNA(find_codes(tokens, catalogue_of(deck)))
}

# Whether numbers begin with 0 or with 1 shows when one of the ends comes up; otherwise it must be said.
found_numbering <- function(numbering, tokens, deck, call) {
  if (!is.null(numbering)) return(numbering)
  number <- written_numbers(tokens)
  if (any(number %in% 0) && !any(number %in% length(deck))) return(list(first = 0))
  if (any(number %in% 0) || any(number %in% length(deck)) || any(!number %in% seq_along(deck))) return(list(first = 1))
  refuse(sprintf(paste("The numbers %s to %s fit cards counted from 0 and cards counted from 1: say",
                       "`numbering = list(first = 0)` or `list(first = 1)` (--first-number)."),
                 format_count(min(number)), format_count(max(number))), "notation", call)
}

numbered_places <- function(tokens, numbers, label, call) {
  place <- written_numbers(tokens) - numbers$first + 1
  bad <- which(!place %in% seq_along(numbers$order))
  if (length(bad)) {
    refuse(sprintf(paste("%s: %s is no number of a card. With `numbering = list(first = %s)` cards",
                         "are %s to %s."),
                   label(bad[1]), quoted(tokens[bad[1]]), format(numbers$first), format(numbers$first),
                   format_count(numbers$first + length(numbers$order) - 1)), "notation", call)
  }
  place
}

kinds_in_deck <- function(codes, tokens, deck, label, call) {
  kinds <- match(codes, kinds_of(deck)$codes)
  foreign <- which(is.na(kinds))
  if (length(foreign)) {
    refuse(sprintf("%s: card %s is not in the deck.", label(foreign[1]), quoted(tokens[foreign[1]])),
           "conservation", call)
  }
  kinds
}
