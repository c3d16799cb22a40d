# The rows of a strategy: totals and pairs, as "hard 16", "soft 18", "pair 8"; the very cards of a hand by their values,
# as "cards 10 6"; and those of a hand after a split, the card that was split first, as "split 8 3".

up_cards <- c(as.character(2:10), "A")

table_rows <- c(paste("hard", 4:40), paste("soft", 12:40), paste("pair", up_cards))

# An ace may also be "a", "ace" or 1 where people write it.
card_row_pattern <- "^(cards|split)( (A|[2-9]|10)){2,}$"

is_card_row <- function(rows) grepl(card_row_pattern, rows)

# Rows as people write them in the one form that we have: an ace first, then from high to low. Those that are none stay.
normal_rows <- function(rows) {
  rows <- gsub("[[:space:]]+", " ", trimws(tolower(as.character(rows))))
  rows <- sub("^pair (a|ace|1)$", "pair A", rows)
  with_aces <- gsub(" (a|ace|1)(?= |$)", " A", rows, perl = TRUE)
  of_cards <- is_card_row(with_aces)
  rows[of_cards] <- vapply(strsplit(with_aces[of_cards], " ", fixed = TRUE), function(words) {
    card_row(words[1], match(words[-1], c("A", 2:10)))
  }, "")
  rows
}

card_row <- function(kind, values) {
  sorted <- function(values) values[order(-ifelse(values == 1, 11, values))]
  values <- if (kind == "split") c(values[1], sorted(values[-1])) else sorted(values)
  paste(c(kind, value_names(values)), collapse = " ")
}

known_rows <- function(rows) rows %in% table_rows | is_card_row(rows)

# Totals and pairs first, then cards, fewer before more.
row_order <- function(rows) {
  order(match(rows, table_rows), startsWith(rows, "split"), nchar(gsub("[^ ]", "", rows)), rows)
}

# What rows of cards hold, as the core counts it: 32^(value - 1) for each card; and of a split the value that was split.
held_by_rows <- function(rows) {
  words <- strsplit(as.character(rows), " ", fixed = TRUE)
  values <- lapply(words, function(word) match(word[-1], c("A", 2:10)))
  split <- startsWith(as.character(rows), "split")
  list(held = vapply(values, function(each) sum(32^(each - 1)), 0),
       split = ifelse(split, vapply(values, `[`, 0L, 1L), 0L))
}

rows_of_held <- function(held, split) {
  unlist(Map(function(held, split) {
    counts <- held %/% 32^(0:9) %% 32
    values <- rep(1:10, times = counts)
    if (split > 0) card_row("split", c(split, values[-match(split, values)])) else card_row("cards", values)
  }, held, split))
}

# Rows as text without spaces, a letter for each kind, and back.
row_letters <- c(hard = "h", soft = "s", pair = "p", cards = "c", split = "x")

rows_as_text <- function(rows) {
  paste0(row_letters[sub(" .*$", "", rows)], gsub(" ", ".", sub("^[a-z]+ ", "", rows), fixed = TRUE))
}

rows_from_text <- function(text) {
  kind <- names(row_letters)[match(substr(text, 1, 1), row_letters)]
  paste(kind, gsub(".", " ", substring(text, 2), fixed = TRUE))
}
