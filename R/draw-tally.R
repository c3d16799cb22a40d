# Tallies of draws that were not made by the core: a matrix of kinds (numbers in the order of
# kinds_of()), one row per trial, from trial `first` on.
tally_of_draws <- function(kinds, count, first, repeats) {
  rows <- rep(seq_len(nrow(kinds)), times = ncol(kinds))
  held <- as.vector(kinds)
  seen <- !duplicated(held[order(rows)])
  example <- rep(Inf, count)
  example[held[order(rows)][seen]] <- first - 1 + sort(rows)[seen]
  list(n = as.double(tabulate(held, count)), example_trial = example,
       pairs = if (repeats) like_pairs(rows, held, count))
}

# How many pairs of like cards the rows hold, kind by kind.
like_pairs <- function(rows, held, count) {
  key <- sort((rows - 1) * count + held)
  runs <- rle(key)
  pairs <- rowsum(runs$lengths * (runs$lengths - 1) / 2, (runs$values - 1) %% count + 1)
  all <- numeric(count)
  all[as.integer(rownames(pairs))] <- pairs[, 1]
  all
}

# Stops at the first draw without replacement that holds more copies than the deck has.
refuse_doubled <- function(kinds, deck, replace, label, call) {
  if (replace || !length(kinds)) return(invisible())
  parts <- kinds_of(deck)
  count <- length(parts$codes)
  rows <- rep(seq_len(nrow(kinds)), times = ncol(kinds))
  runs <- rle(sort((rows - 1) * count + as.vector(kinds)))
  kind <- (runs$values - 1) %% count + 1
  bad <- which(runs$lengths > parts$copies[kind])
  if (!length(bad)) return(invisible())
  refuse(sprintf(paste("%s has %s %d times; the deck has it %d. If cards go back before the next is",
                       "drawn, say `replace = TRUE`."),
                 label((runs$values[bad[1]] - 1) %/% count + 1), quoted(parts$cards[kind[bad[1]]]),
                 runs$lengths[bad[1]], parts$copies[kind[bad[1]]]), "conservation", call)
}

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
kinds_from_tokens <- function(tokens, deck, numbering, label, call) {
  number <- suppressWarnings(as.numeric(tokens))
  as_codes <- find_codes(tokens, catalogue_of(deck))
  if (is.null(numbering) && (anyNA(number) || !anyNA(as_codes))) {
    unknown <- which(is.na(as_codes))
    if (length(unknown)) {
      refuse(sprintf("%s: unknown card %s. %s%s", label(unknown[1]), quoted(tokens[unknown[1]]),
                     code_rule(catalogue_of(deck)),
                     code_hint(tokens[unknown[1]], catalogue_of(deck))), "notation", call)
    }
    return(kinds_in_deck(as_codes, tokens, deck, label, call))
  }
  numbers <- card_numbering(numbering, deck, call)
  place <- number - numbers$first + 1
  bad <- which(is.na(number) | !place %in% seq_along(numbers$order))
  if (length(bad)) {
    refuse(sprintf(paste("%s: %s is no number of a card. With `numbering = list(first = %s)` cards",
                         "are %s to %s."),
                   label(bad[1]), quoted(tokens[bad[1]]), format(numbers$first), format(numbers$first),
                   format_count(numbers$first + length(numbers$order) - 1)), "notation", call)
  }
  kinds_in_deck(codes_of(numbers$order)[place], tokens, deck, label, call)
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
