# Rows of cards (draws, arrangements) out of lines or a data frame, as they come: which lines have cards, how they are
# written, and how often each came.

# A list of `pieces` (one vector for each row), `line` (where each stands), `weight` (how often each came) and
# `remarks` on what was passed over.
read_card_lines <- function(lines, deck, call, columns = NULL, name = "The text") {
  catalogue <- catalogue_of(deck)
  lines <- sub("[[:space:]]+#.*$", "", lines)
  at <- which(grepl("[^[:space:]]", lines) & !grepl("^[[:space:]]*#", lines))
  if (!length(at)) return(NULL)
  labelled <- without_labels(lines[at], catalogue)
  chosen <- lines_of_columns(labelled, at, columns, catalogue, name, call)
  pieces <- parted_rows(line_pieces(chosen$lines, catalogue), catalogue)
  remarks <- c(if (!identical(labelled, lines[at])) "what stands before a colon passed over", chosen$remarks)
  head <- if (length(pieces) > 1 && is_head(pieces[[1]], pieces[[2]], catalogue)) pieces[[1]]
  if (!is.null(head)) {
    remarks <- c(remarks, "header skipped")
    pieces <- pieces[-1]
    at <- at[-1]
  }
  weight <- rep(1, length(pieces))
  place <- match(TRUE, tolower(head) %in% count_names)
  if (!is.na(place)) {
    weight <- written_numbers(vapply(pieces, `[`, "", place))
    pieces <- lapply(pieces, `[`, -place)
    remarks <- c(remarks, sprintf("each as often as `%s` says", head[place]))
  }
  noted <- without_notes_at_end(pieces, catalogue)
  if (noted$notes > 0) {
    remarks <- c(remarks, sprintf("notes at the end of %s passed over", count_of(noted$notes, "line")))
  }
  list(pieces = noted$pieces, line = at, weight = weight, remarks = remarks)
}

# Codes without spaces between them one by one; each different word is looked at once.
parted_rows <- function(rows, catalogue) {
  words <- unique(unlist(rows))
  joined <- words[vapply(words, function(word) length(parted_codes(word, catalogue)) > 1, TRUE)]
  if (!length(joined)) return(rows)
  lapply(rows, function(row) if (any(row %in% joined)) parted_codes(row, catalogue) else row)
}

# Words that follow the last card or number of a line, where that leaves all lines with as many cards.
without_notes_at_end <- function(pieces, catalogue) {
  words <- unique(unlist(pieces))
  # A card with a slip in it is no note, and a note has a word of some length.
  unlike <- vapply(words, function(word) is.null(nearest_word(word, catalogue$data$card)), TRUE)
  known <- words[is_card_like(words, catalogue) | !unlike]
  shortened <- lapply(pieces, function(row) {
    last <- max(0, which(row %in% known))
    if (any(nchar(row[seq_along(row) > last]) >= 3)) row[seq_len(last)] else row
  })
  has_note <- lengths(shortened) < lengths(pieces)
  alike <- length(unique(lengths(shortened))) == 1 && length(shortened[[1]]) > 0
  if (!any(has_note) || !alike) return(list(pieces = pieces, notes = 0))
  list(pieces = shortened, notes = sum(has_note))
}

# A data frame, as read.csv() gives it: columns of cards, and perhaps one that counts.
read_card_frame <- function(table, deck, call, columns = NULL) {
  if (!length(table) || !nrow(table)) refuse("The data frame has no column of cards.", "file", call)
  counting <- which(tolower(names(table)) %in% count_names & vapply(table, is.numeric, NA))[1]
  texts <- lapply(table, function(column) trimws(ifelse(is.na(column), "", as.character(column))))
  label <- function(row) sprintf("The data frame, row %s", format_count(row))
  found <- card_columns(unname(texts), names(table), columns, catalogue_of(deck), label, call)
  kept <- setdiff(found$kept, counting)
  if (!length(kept)) refuse("The data frame has no column of cards.", "file", call)
  pieces <- do.call(Map, c(list(c), unname(texts[kept])))
  if (length(kept) == 1) pieces <- parted_rows(line_pieces(unlist(pieces), catalogue_of(deck)), catalogue_of(deck))
  pieces <- lapply(pieces, function(row) row[nzchar(row)])
  list(pieces = unname(pieces), line = seq_len(nrow(table)),
       weight = if (is.na(counting)) rep(1, nrow(table)) else as.double(table[[counting]]),
       remarks = c(found$remarks, if (!is.na(counting)) sprintf("each as often as `%s` says", names(table)[counting])))
}

most_rows_read <- 1e7

check_row_weights <- function(weight, label, call) {
  bad <- which(!(is.finite(weight) & weight >= 0 & weight == floor(weight)))
  if (length(bad)) {
    refuse(sprintf("%s: a count must be a whole number of 0 or more, not %s.", label(bad[1]), said(weight[bad[1]])),
           "file", call)
  }
  refuse_many_rows(sum(weight), call)
}

refuse_many_rows <- function(count, call) {
  if (count <= most_rows_read) return(invisible())
  refuse(sprintf("At most %s rows are read, not %s.", format_count(most_rows_read), format_count(count)), "work", call)
}
