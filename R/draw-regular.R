# Large files as machines write them, read column by column: as many cells in each line, each a card or a number. What
# people write is read line by line (recorded_source()), to the same end.

# Whether a file has so many bytes that it is worth looking.
is_large_text <- function(file, bytes) {
  rlang::is_string(file) && file_kind(file) %in% c("txt", "csv", "tsv") && names_a_file(file) &&
    file.size(file) >= bytes
}

# A list of `words` (the different cells), `cells` (which of them each is, a row for each draw), `line` (which number a
# row's line has) and `remarks`; NULL where it is no such file.
read_regular <- function(file, deck, size, columns, call) {
  # A mark within a line and blank lines would move its number.
  table <- fread_whole(file = file, header = FALSE, sep = separator_of(head_lines(file, 1)), quote = "",
                       colClasses = "character", na.strings = NULL, strip.white = TRUE)
  if (is.null(table) || nrow(table) < 3) return(NULL)
  # What stands before a colon is a label.
  if (any(grepl(":", unique(table[[1]]), fixed = TRUE))) return(NULL)
  refuse_many_rows(nrow(table), call)
  catalogue <- catalogue_of(deck)
  first <- unlist(table[1, ], use.names = FALSE)
  like <- function(row) sum(is_card_like(unlist(table[row, ], use.names = FALSE), catalogue))
  has_head <- is_head(first, unlist(table[2, ], use.names = FALSE), catalogue) && like(1) < like(2)
  if (has_head) table <- table[-1, , drop = FALSE]
  label <- function(row) sprintf("%s, line %s", file_name(file), format_count(row + has_head))
  of_cards <- if (is.null(columns)) regular_cells(table, catalogue, size)
  remarks <- NULL
  if (is.null(of_cards) || !of_cards$are_codes) {
    found <- card_columns(unname(as.list(table)), if (has_head) first, columns, catalogue, label, call)
    if (length(found$kept) < ncol(table)) remarks <- found$remarks
    of_cards <- regular_cells(table[found$kept], catalogue, size)
  }
  if (is.null(of_cards)) return(NULL)
  c(of_cards, list(line = function(row) row + has_head, remarks = c(remarks, if (has_head) "header skipped")))
}

# NULL unless all are cards in one notation, or all are numbers.
regular_cells <- function(table, catalogue, size) {
  if (!is.null(size) && !identical(as.double(size), as.double(ncol(table)))) return(NULL)
  words <- unique(unlist(lapply(table, unique), use.names = FALSE))
  are_codes <- !anyNA(coded_pieces(words, catalogue)$codes)
  if (!are_codes && anyNA(written_numbers(words))) return(NULL)
  list(words = words, are_codes = are_codes, cells = vapply(table, match, integer(nrow(table)), table = words))
}

kinds_of_regular <- function(read, file, deck, numbering, notation, call) {
  # The line in which a word stands first.
  label <- function(at) {
    row <- min(vapply(seq_len(ncol(read$cells)), function(j) match(at, read$cells[, j]), 0L), na.rm = TRUE)
    sprintf("%s, line %s", file_name(file), format_count(read$line(row)))
  }
  kinds <- kinds_from_tokens(read$words, deck, numbering, label, call, notation)
  matrix(kinds[read$cells], ncol = ncol(read$cells))
}
