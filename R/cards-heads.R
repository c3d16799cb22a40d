# What stands above columns, in a file or a data frame.

# Heads of a column that counts.
count_names <- c("count", "freq", "frequency", "n", "times", "copies")

# Heads that are none of cards.
other_heads <- c("trial", "id", "no", "nr", "number", "index", "row", "line", "draw", "hand", "round", "date", "time",
                 "day", "night", "table", "dealer", "player", "seat", "stake", "bet", "amount", "result", "note",
                 "notes")

is_card_like <- function(pieces, catalogue) {
  !is.na(coded_pieces(pieces, catalogue)$codes) | !is.na(written_numbers(pieces))
}

# A first line without cards; or one that begins with a word, where the next begins with a card ("Card 1;Card 2").
is_head <- function(first, second, catalogue) {
  cards <- is_card_like(first, catalogue)
  !any(cards) || (!cards[1] && isTRUE(is_card_like(second, catalogue)[1]))
}
