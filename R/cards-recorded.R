# Rows of cards as they were recorded elsewhere, in whatever form they come.

# What is read of a file, a data frame, a list of hands, or a vector: rows as `read`, how a row is named in an error
# (`label`), and where it comes from in `words`.
recorded_source <- function(file, deck, size, columns, call) {
  if (is.matrix(file)) file <- rows_of_matrix(file, deck, call)
  if (is_cards(file) || (is.character(file) && length(file) > 1)) file <- hands_of_vector(file, size, call)
  if (is.list(file) && !is.data.frame(file)) {
    pieces <- lapply(file, function(hand) unlist(line_pieces(as.character(hand), catalogue_of(deck))))
    pieces <- parted_rows(pieces, catalogue_of(deck))
    if (!length(pieces) || !all(lengths(pieces))) refuse("`file` is a list with a hand that has no card.", call = call)
    return(list(read = list(pieces = unname(pieces), line = seq_along(pieces), weight = rep(1, length(pieces))),
                label = function(row) sprintf("Hand %s", format_count(row)), words = "a list of hands",
                is_file = FALSE))
  }
  if (is.data.frame(file)) {
    return(list(read = read_card_frame(file, deck, call, columns), words = "a data frame", is_file = FALSE,
                label = function(row) sprintf("The data frame, row %s", format_count(row))))
  }
  name <- file_name(check_string(file, call = call))
  read <- read_card_lines(read_table_lines(file, call), deck, call, columns, name)
  if (is.null(read)) refuse(sprintf("%s has no draws.", name), "file", call)
  list(read = read, label = function(row) sprintf("%s, line %s", name, format_count(row)),
       words = if (file == "-") "standard input" else basename(file), is_file = TRUE)
}

# A matrix has a hand in each row; with a whole deck down each column it lies on its side.
rows_of_matrix <- function(file, deck, call) {
  down <- apply(file, 2, function(column) !anyDuplicated(column))
  if (nrow(file) == length(deck) && ncol(file) != nrow(file) && length(down) && all(down)) {
    refuse(sprintf("`file` has a deck of %s down each of its %s; give t(file), with one in each row.",
                   count_of(nrow(file), "card"), count_of(ncol(file), "column")), call = call)
  }
  as.data.frame(file)
}

# A vector of cards: each a draw, or `size` of them one after the other.
hands_of_vector <- function(cards, size, call) {
  cards <- as.character(cards)
  if (is.null(size) || size == 1 || any(grepl("[ ,]", cards))) return(as.list(cards))
  if (length(cards) %% size != 0) {
    refuse(sprintf("%s do not make draws of %s.", count_of(length(cards), "card"), format_count(size)), call = call)
  }
  unname(split(cards, (seq_along(cards) - 1) %/% size))
}
