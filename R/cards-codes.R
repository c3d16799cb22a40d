# What one word means: the row of the catalogue that has it as its code, however it is spelt.

find_codes <- function(tokens, catalogue) {
  known <- catalogue$data$card
  codes <- match(tokens, known)
  left <- which(is.na(codes) & !is.na(tokens) & validUTF8(as.character(tokens)))
  if (!length(left)) return(codes)
  if (!is.null(catalogue$glyphs)) {
    codes[left] <- match(plain_code(tokens[left]), known)
  } else {
    # Case is forgiven where it cannot mean another card.
    lower <- tolower(known)
    clear <- !duplicated(lower) & !duplicated(lower, fromLast = TRUE)
    found <- match(tolower(tokens[left]), lower)
    codes[left] <- ifelse(clear[found], found, NA)
  }
  codes
}

# Upper case, letters for glyphs (filled or outlined) and names in full, 10 for T and X.
plain_code <- function(token) {
  # Glyphs are read where the locale does not know them, too.
  Encoding(token[validUTF8(token)]) <- "UTF-8"
  token <- toupper(gsub("\ufe0f", "", token, fixed = TRUE))
  token <- chartr("\u2660\u2665\u2666\u2663\u2664\u2661\u2662\u2667", "SHDCSHDC", token)
  suit_named <- grepl("^(SPADE|HEART|DIAMOND|CLUB)S?[ _-]", token)
  if (any(suit_named)) token[suit_named] <- sub("^([A-Z]+)[ _-]+([A-Z0-9]+)$", "\\2_\\1", token[suit_named])
  named <- grepl("[ _-](SPADE|HEART|DIAMOND|CLUB)S?$", token)
  if (any(named)) token[named] <- code_of_name(token[named])
  sub("^[TX]([SHDC])$", "10\\1", token)
}

rank_words <- c(ACE = "A", KING = "K", QUEEN = "Q", JACK = "J", TEN = "10", NINE = "9", EIGHT = "8", SEVEN = "7",
                SIX = "6", FIVE = "5", FOUR = "4", THREE = "3", TWO = "2", DEUCE = "2")

# "ACE OF SPADES", "10 OF HEARTS".
code_of_name <- function(name) {
  shape <- "^([A-Z0-9]+)([ _-]+OF)?[ _-]+(SPADE|HEART|DIAMOND|CLUB)S?$"
  rank <- sub(shape, "\\1", name)
  word <- rank_words[rank]
  ifelse(grepl(shape, name), paste0(ifelse(is.na(word), rank, word), substr(sub(shape, "\\3", name), 1, 1)), name)
}
