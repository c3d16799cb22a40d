# A catalogue is the list of distinct cards that the codes of a `cards` vector point into: a data
# frame with a row per card (column `card`, and any attributes), a title, and an id made from the
# data, by which two catalogues are told apart.
new_catalogue <- function(data, title, glyphs = NULL, recipe = NULL) {
  data[] <- lapply(data, function(column) if (is.integer(column)) as.double(column) else column)
  structure(
    list(data = data, title = title, id = catalogue_id(data), glyphs = glyphs, recipe = recipe),
    class = "habanera_catalogue"
  )
}

# Made from the values as text: R keeps equal vectors in several forms, which do not hash alike.
catalogue_id <- function(data) {
  columns <- vapply(data, function(column) {
    text <- if (is.double(column)) sprintf("%.17g", column) else as.character(column)
    paste(typeof(column), paste(text, collapse = "\r"))
  }, "")
  rlang::hash(paste(names(data), columns, sep = "\t", collapse = "\n"))
}

# Other people's words for our two columns, where these are not there: Card, name; count, number, freq.
usual_columns <- function(columns) {
  plain <- tolower(trimws(columns))
  for (ours in c("card", "copies")) {
    if (ours %in% columns) next
    others <- if (ours == "card") c("card", "name", "cards") else c("copies", "count", "freq", "quantity", "qty",
                                                                    "number", "n")
    found <- match(TRUE, plain %in% others)
    if (!is.na(found)) columns[found] <- ours
  }
  columns
}

# Data as somebody gave it: checked, `card` first and as text, plain columns only.
catalogue_data <- function(data, source, call) {
  columns <- names(data)
  if (!"card" %in% columns) {
    refuse(sprintf("%s needs a column `card`; it has %s.", source,
                   if (length(columns)) join_words(paste0("`", columns, "`")) else "no column"),
           "catalogue", call)
  }
  refuse_columns_twice(columns, source, call)
  data <- data[c("card", setdiff(columns, c("card", "copies")))]
  data$card <- trimws(as.character(data$card))
  check_card_column(data$card, source, call)
  check_attribute_columns(data[-1], source, call)
  data[] <- lapply(data, function(column) if (is.factor(column)) as.character(column) else column)
  data <- as.data.frame(data, stringsAsFactors = FALSE)
  rownames(data) <- NULL
  data
}

check_card_column <- function(card, source, call) {
  blank <- which(is.na(card) | !nzchar(card))
  if (length(blank)) {
    refuse(sprintf("%s has no `card` in row %d.", source, blank[1]), "catalogue", call)
  }
  twice <- which(duplicated(card))
  if (length(twice)) {
    refuse(sprintf("%s lists card %s twice, in rows %d and %d; use a column `copies` instead.",
                   source, quoted(card[twice[1]]), match(card[twice[1]], card), twice[1]),
           "catalogue", call)
  }
  if (any(grepl(",", card, fixed = TRUE))) {
    refuse(sprintf("%s has a comma in card %s; codes are separated by commas.", source,
                   quoted(card[grepl(",", card, fixed = TRUE)][1])), "catalogue", call)
  }
}

# Names that results use for their own columns.
reserved_columns <- c("n", "example_trial", "probability", "turn", "position")

check_attribute_columns <- function(attributes, source, call) {
  taken <- intersect(names(attributes), reserved_columns)
  if (length(taken)) {
    refuse(sprintf("%s has a column `%s`, a name that results need for their own.", source,
                   taken[1]), "catalogue", call)
  }
  plain <- vapply(attributes, is.atomic, TRUE)
  if (!all(plain)) {
    refuse(sprintf("%s: the column `%s` must hold one plain value per card.", source,
                   names(attributes)[!plain][1]), "catalogue", call)
  }
}

catalogue_copies <- function(copies, card, source, call) {
  if (is.null(copies)) return(rep(1, length(card)))
  number <- written_numbers(as.character(copies))
  bad <- which(is.na(number) | number < 0 | number != floor(number))
  if (length(bad)) {
    refuse(sprintf("%s: `copies` must be a whole number of 0 or more, not %s, in row %d (%s).",
                   source, said(copies[[bad[1]]]), bad[1], card[bad[1]]), "catalogue", call)
  }
  number
}

suit_letters <- c(spades = "S", hearts = "H", diamonds = "D", clubs = "C")
suit_glyphs <- c(spades = "\u2660", hearts = "\u2665", diamonds = "\u2666", clubs = "\u2663")
standard_ranks <- c(2:10, "J", "Q", "K", "A")

# The one catalogue of all standard decks and of as_cards(): 52 cards and the joker.
make_standard_catalogue <- function() {
  suit <- rep(names(suit_letters), each = 13)
  rank <- rep(standard_ranks, times = 4)
  high <- rep(2:14, times = 4)
  low <- rep(c(2:13, 1L), times = 4)
  points <- rep(c(2:10, 10L, 10L, 10L, 1L), times = 4)
  data <- data.frame(
    card = c(paste0(rank, suit_letters[suit]), "JOKER"), rank = c(rank, "joker"),
    suit = c(suit, NA), rank_high = c(high, NA), rank_low = c(low, NA),
    points = as.double(c(points, NA))
  )
  new_catalogue(data, "standard", glyphs = c(paste0(rank, suit_glyphs[suit]), "JOKER"))
}

standard_catalogue <- make_standard_catalogue()

# How many cards a deck may have: the core holds kinds in 16 bits.
most_cards <- 65535

# The code that makes a deck, kept with its catalogue: it holds for cards that are the whole
# catalogue, in order, in these numbers of copies.
new_recipe <- function(code, copies) list(code = code, copies = copies)
