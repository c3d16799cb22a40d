# Hands as users have them: a list of cards, one vector of cards with the size of a hand, or texts, one for each hand.

# A list of `catalogue`, `codes` (all hands end to end), `sizes`, and the codes of the `deck` where one is told.
read_hands <- function(hands, size, deck, call, columns = NULL) {
  if (is.data.frame(hands)) {
    read <- read_card_frame(hands, if (is.null(deck)) deck_standard(jokers = 1) else deck, call, columns)
    return(typed_hands(hands_as_often(read), deck, call))
  }
  if (is.character(hands)) check_utf8(hands, "hands", call)
  if (is.character(hands) && length(hands) == 1 && is_file_of_hands(hands)) {
    return(typed_hands(hands_of_file(hands, deck, columns, call), deck, call))
  }
  if (!is.null(columns)) refuse("`columns` is for hands in a data frame or a file.", call = call)
  if (is.character(hands) && is.null(size)) return(typed_hands(hands, deck, call))
  if (is.list(hands) && !is_cards(hands)) return(listed_hands(hands, deck, call))
  if (!is_cards(hands)) hands <- as_cards(hands, like = deck)
  if (is.null(size)) return(checked_hands(catalogue_of(hands), codes_of(hands), length(hands), deck, call))
  check_whole(size, 1, 9)
  if (length(hands) %% size != 0) {
    refuse(sprintf("%s do not make hands of %s.", count_of(length(hands), "card"), format_count(size)),
           call = call)
  }
  checked_hands(catalogue_of(hands), codes_of(hands), rep(size, length(hands) / size), deck, call)
}

# The name of a file, and no hand.
is_file_of_hands <- function(text) file_kind(text) %in% c("csv", "tsv", "txt", "xlsx") || text == "-"

# A text for each hand, in the order of the file; what stands beside the cards is told.
hands_of_file <- function(file, deck, columns, call) {
  lines <- read_table_lines(file, call)
  used <- trimws(sub("#.*$", "", lines))
  # Ranks alone are hands as they stand.
  if (is.null(deck) && is.null(columns) && !is.null(rank_texts(used[nzchar(used)]))) return(used[nzchar(used)])
  read <- read_card_lines(lines, if (is.null(deck)) deck_standard(jokers = 1) else deck, call, columns, file_name(file))
  if (is.null(read)) refuse(sprintf("%s has no hands.", file_name(file)), "file", call)
  if (length(read$remarks)) inform_user(sprintf("Read %s: %s.", count_of(length(read$pieces), "hand"),
                                                paste(read$remarks, collapse = "; ")))
  hands_as_often(read)
}

hands_as_often <- function(read) {
  rep(vapply(read$pieces, paste, "", collapse = ", "), times = read$weight)
}

listed_hands <- function(hands, deck, call) {
  if (length(hands) && all(vapply(hands, rlang::is_string, NA))) return(typed_hands(unlist(hands), deck, call))
  bad <- which(!vapply(hands, is_cards, NA))
  if (length(bad)) refuse(sprintf("Hand %d must be cards, not %s.", bad[1], said(hands[[bad[1]]])), call = call)
  if (!length(hands)) return(checked_hands(standard_catalogue, integer(), integer(), deck, call))
  catalogues <- vapply(hands, function(hand) catalogue_of(hand)$id, "")
  other <- which(catalogues != catalogues[1])
  if (length(other)) refuse(sprintf("Hand %d is of another catalogue than hand 1.", other[1]), "catalogue", call)
  checked_hands(catalogue_of(hands[[1]]), unlist(lapply(hands, codes_of)), lengths(hands), deck, call)
}

# A hand a text; without suits ("2 10 K K A", "T55J5") of a deck of ranks.
typed_hands <- function(texts, deck, call) {
  check_utf8(texts, "hands", call)
  texts <- trimws(texts)
  told <- deck
  if (is.null(deck)) {
    ranks <- rank_texts(texts)
    if (!is.null(ranks)) {
      deck <- deck_ranks(copies = 9)
      texts <- ranks
    } else {
      deck <- deck_standard()
    }
  }
  catalogue <- catalogue_of(deck)
  codes <- lapply(seq_along(texts), function(i) {
    tryCatch(read_codes(texts[i], catalogue), habanera_error_notation = function(cnd) {
      refuse(sprintf("Hand %d: %s", i, rlang::cnd_message(cnd)), "notation", call)
    })
  })
  checked_hands(catalogue, as.integer(unlist(codes)), lengths(codes), told, call)
}

# Texts of ranks alone, with spaces between them; NULL where any is something else.
rank_texts <- function(texts) {
  spaced <- ifelse(grepl("[[:space:],]", texts), gsub("[[:space:],]+", " ", texts), gsub("(10|.)", "\\1 ", texts))
  parts <- strsplit(trimws(toupper(spaced)), " ", fixed = TRUE)
  parts <- lapply(parts, function(part) ifelse(part == "T", "10", part))
  if (!length(parts) || !all(unlist(parts) %in% standard_ranks)) return(NULL)
  vapply(parts, paste, "", collapse = " ")
}

# No card is in a hand more often than the deck has it; of a deck that is not told, a card with a suit is there once.
checked_hands <- function(catalogue, codes, sizes, deck, call) {
  sizes <- as.integer(sizes)
  bad <- which(sizes < 1 | sizes > 9)
  if (length(bad)) {
    refuse(sprintf("Hand %d has %s; hands have 1 to 9.", bad[1], count_of(sizes[bad[1]], "card")), call = call)
  }
  if (!is.null(deck) && catalogue_of(deck)$id != catalogue$id) {
    refuse("`deck` must be of the catalogue of the hands.", "catalogue", call)
  }
  most <- if (!is.null(deck)) tabulate(codes_of(deck), nrow(catalogue$data)) else {
    if (is.null(catalogue$data$suit)) 9 else ifelse(is.na(catalogue$data$suit), 9, 1)
  }
  hand <- rep(seq_along(sizes), times = sizes)
  key <- (hand - 1) * nrow(catalogue$data) + codes
  runs <- rle(sort(key))
  code <- (runs$values - 1) %% nrow(catalogue$data) + 1
  doubled <- which(runs$lengths > rep_len(most, nrow(catalogue$data))[code])
  if (length(doubled)) {
    first <- doubled[1]
    refuse(sprintf("Hand %s has %s %d times; the deck has it %d.",
                   format_count((runs$values[first] - 1) %/% nrow(catalogue$data) + 1),
                   quoted(catalogue$data$card[code[first]]), runs$lengths[first],
                   rep_len(most, nrow(catalogue$data))[code[first]]), "conservation", call)
  }
  list(catalogue = catalogue, codes = codes, sizes = sizes, deck = if (!is.null(deck)) unique(codes_of(deck)))
}

# A card that is in a hand must have a rank, unless it is wild.
refuse_rankless <- function(bound, read, call) {
  rankless <- which(is.na(bound$rank[read$codes]) & !bound$wild[read$codes])
  if (!length(rankless)) return(invisible())
  refuse(sprintf("%s has no rank; say what is wild, as in hand_rules(wild = rank == \"joker\").",
                 quoted(read$catalogue$data$card[read$codes[rankless[1]]])), call = call)
}
