# Reading codes. A text that is a whole code is one card (names may have spaces); otherwise it is
# split at commas and spaces.

# `notation` is NULL where it is to be found: ranks and suits have no letter in common.
read_codes <- function(text, catalogue, notation = NULL, call = rlang::caller_env()) {
  check_utf8(text, "x", call)
  tokens <- split_codes(text, catalogue)
  if (identical(notation, "suit_first")) tokens <- rank_before_suit(tokens, catalogue, call)
  codes <- find_codes(tokens, catalogue)
  if (anyNA(codes) && is.null(notation) && !anyNA(tokens)) {
    tokens <- parted_codes(unlist(line_pieces(tokens, catalogue)), catalogue)
    codes <- coded_pieces(tokens, catalogue)$codes
  }
  unknown <- which(is.na(codes))
  if (length(unknown)) refuse_code(tokens, unknown[1], catalogue, call)
  codes
}

# For texts each of which must be one code, or NA: comparisons and casts.
whole_codes <- function(text, catalogue) {
  codes <- find_codes(text, catalogue)
  unknown <- which(is.na(codes) & !is.na(text))
  if (length(unknown)) refuse_code(text, unknown[1], catalogue, call = NULL)
  codes
}

split_codes <- function(text, catalogue) {
  text <- trimws(text)
  whole <- is.na(text) | !is.na(find_codes(text, catalogue))
  if (all(whole)) return(text)
  pieces <- as.list(text)
  pieces[!whole] <- lapply(strsplit(text[!whole], ",", fixed = TRUE), split_parts, catalogue)
  tokens <- unlist(pieces)
  tokens[is.na(tokens) | nzchar(tokens)]
}

rank_before_suit <- function(tokens, catalogue, call) {
  if (is.null(catalogue$glyphs)) {
    refuse(sprintf("`notation = \"suit_first\"` is for standard cards, not for %s.",
                   catalogue$title), "notation", call)
  }
  plain <- plain_code(tokens)
  turned <- sub("^([SHDC])(10|[2-9TJQKA])$", "\\2\\1", plain)
  other <- which(turned == plain & plain != "JOKER")
  if (length(other)) {
    refuse(sprintf(paste("Unknown card %s at position %s. With `notation = \"suit_first\"` codes",
                         "are suit then rank, like \"SA\", \"H10\"."),
                   quoted(tokens[other[1]]), format_count(other[1])), "notation", call)
  }
  turned
}

refuse_code <- function(tokens, position, catalogue, call) {
  if (!validUTF8(tokens[position])) {
    refuse(sprintf("The card at position %s is not UTF-8 text.", format_count(position)), "notation", call)
  }
  token <- trimws(tokens[position])
  said <- if (is.na(tokens[position])) {
    sprintf("A card is missing (NA) at position %d.", position)
  } else {
    sprintf("Unknown card %s at position %s.", quoted(token), format_count(position))
  }
  refuse(paste0(said, " ", code_rule(catalogue), code_hint(token, catalogue)), "notation", call)
}

code_rule <- function(catalogue) {
  if (!is.null(catalogue$glyphs)) return("Codes are rank then suit, like \"AS\", \"10H\"")
  codes <- catalogue$data$card
  if (!length(codes)) return("The catalogue is empty")
  sprintf("Codes of %s are like %s", catalogue$title, join_words(quoted(utils::head(codes, 3))))
}

code_hint <- function(token, catalogue) {
  standard <- !is.null(catalogue$glyphs)
  turned <- sub("^([SHDC])(.+)$", "\\2\\1", plain_code(token))
  if (standard && turned != plain_code(token) && !is.na(find_codes(turned, catalogue))) {
    return("; for suit then rank say `notation = \"suit_first\"`.")
  }
  guess <- if (standard) sub("^1([SHDC])$", "A\\1", plain_code(token)) else token
  near <- nearest_word(guess, catalogue$data$card)
  if (is.null(near)) "." else sprintf("; did you mean %s?", quoted(near))
}
