# Which columns of a table hold cards, where others stand beside them: a trial's number, a date, a table's name.

# The places of the columns kept, and `remarks` on what was read and what was passed over. `columns` are columns of
# text, `heads` their names (NULL: none), `wanted` names or numbers of those asked for (NULL: they are found); `label`
# names a row for errors.
card_columns <- function(columns, heads, wanted, catalogue, label, call) {
  if (!is.null(wanted)) {
    kept <- wanted_columns(wanted, heads, length(columns), call)
    return(list(kept = kept, remarks = columns_in_words(kept, heads, length(columns))))
  }
  kinds <- column_kinds(columns, catalogue)
  counting <- tolower(heads) %in% count_names
  kinds[counting] <- "count"
  refuse_half_cards(columns, kinds, heads, catalogue, label, call)
  # What counts the rows stands before them.
  beside <- seq_along(columns) == 1 & is_row_number(columns[[1]])
  if (!is.null(heads)) beside <- beside | tolower(heads) %in% other_heads
  of_cards <- kinds == if ("code" %in% kinds) "code" else "number"
  kept <- which(of_cards & !(beside & vapply(columns, is_whole_number, NA)))
  if (!length(kept)) kept <- which(of_cards)
  # Nothing to choose from: what it is will be told word by word.
  if (!length(kept)) return(list(kept = seq_along(columns), remarks = NULL))
  kept <- sort(c(kept, which(counting)))
  list(kept = kept, remarks = if (length(kept) < length(columns)) columns_in_words(kept, heads, length(columns)))
}

# Of each column: "code" where most of it are cards, "number" where all are numbers, "half" where some are cards, and
# "other".
column_kinds <- function(columns, catalogue) {
  words <- unique(unlist(lapply(columns, unique)))
  is_code <- are_all_codes(words, catalogue)
  is_number <- !is.na(written_numbers(words))
  vapply(columns, function(column) {
    at <- match(column[nzchar(column)], words)
    if (!length(at)) return("other")
    codes <- mean(is_code[at])
    if (codes >= 0.5) "code" else if (all(is_number[at])) "number" else if (codes > 0.05) "half" else "other"
  }, "")
}

# Whether a cell is a card, or several.
are_all_codes <- function(cells, catalogue) {
  found <- !is.na(coded_pieces(cells, catalogue)$codes)
  left <- which(!found & nzchar(cells))
  if (!length(left)) return(found)
  pieces <- strsplit(cells[left], "[[:space:],;]+")
  words <- unique(unlist(pieces))
  single <- vapply(words, function(word) {
    parts <- parted_codes(word, catalogue)
    !anyNA(coded_pieces(parts, catalogue)$codes)
  }, NA)
  found[left] <- vapply(pieces, function(parts) all(single[match(parts, words)]), NA)
  found
}

is_whole_number <- function(column) {
  number <- written_numbers(column)
  all(!is.na(number) & number == floor(number))
}

# Rows that are counted one by one, from any number.
is_row_number <- function(column) {
  if (length(column) < 5) return(FALSE)
  number <- written_numbers(column)
  !anyNA(number) && all(diff(number) == 1)
}

refuse_half_cards <- function(columns, kinds, heads, catalogue, label, call) {
  half <- which(kinds == "half")
  if (!length(half) || !"code" %in% kinds) return(invisible())
  column <- columns[[half[1]]]
  other <- which(nzchar(column) & is.na(coded_pieces(column, catalogue)$codes))[1]
  refuse(sprintf(paste("Column %s is cards in some rows and not in others: %s has %s there. Say which columns hold the",
                       "cards, as in `columns = 2:6` (--columns 2-6)."),
                 column_name(half[1], heads), label(other), quoted(column[other])), "file", call)
}

wanted_columns <- function(wanted, heads, count, call) {
  if (is.character(wanted) && length(wanted)) {
    unknown <- setdiff(wanted, heads)
    if (length(unknown)) {
      refuse(sprintf("`columns` names %s, which is no head%s", quoted(unknown[1]),
                     if (is.null(heads)) "; there are none: give numbers, as in 2:6." else
                       did_you_mean(unknown[1], heads)), call = call)
    }
    return(match(wanted, heads))
  }
  fits <- is.numeric(wanted) && length(wanted) && all(wanted %in% seq_len(count)) && !anyDuplicated(wanted)
  if (!fits) {
    refuse(sprintf("`columns` must be names, or whole numbers from 1 to %s, each once, not %s.", format_count(count),
                   if (is.numeric(wanted) && length(wanted) > 1) join_words(wanted) else said(wanted)), call = call)
  }
  as.integer(wanted)
}

column_name <- function(at, heads) if (is.null(heads)) format_count(at) else quoted(heads[at])

columns_in_words <- function(kept, heads, count) {
  name <- function(at) {
    if (is.null(heads)) return(if (length(at) > 2 && all(diff(at) == 1)) paste(at[1], "to", at[length(at)]) else
      join_words(at))
    join_some(quoted(heads[at]), 6)
  }
  passed <- setdiff(seq_len(count), kept)
  c(sprintf("cards in column%s %s", if (length(kept) > 1) "s" else "", name(kept)),
    if (length(passed)) sprintf("column%s %s passed over", if (length(passed) > 1) "s" else "", name(passed)))
}

# Lines with the columns of cards alone, and what was left out; lines that have no columns are as they were. `wanted`
# FALSE: nothing is left out, since a program is to write cards alone.
lines_of_columns <- function(lines, line, wanted, catalogue, name, call) {
  if (isFALSE(wanted)) return(list(lines = lines, remarks = NULL))
  parts <- column_parts(lines, catalogue)
  if (is.null(parts)) {
    if (!is.null(wanted)) refuse("`columns` is for lines that are divided alike, and these are not.", "file", call)
    return(list(lines = lines, remarks = NULL))
  }
  table <- parts$table
  clean <- gsub("[][{}()\"|]", "", table)
  clean[] <- trimws(clean)
  cards_in <- function(row) {
    sum(are_all_codes(clean[row, ], catalogue) | !is.na(written_numbers(clean[row, ])))
  }
  has_head <- nrow(clean) > 1 && is_head(clean[1, ], clean[2, ], catalogue) && cards_in(1) < cards_in(2)
  heads <- if (has_head) clean[1, ]
  body <- if (has_head) clean[-1, , drop = FALSE] else clean
  label <- function(row) sprintf("%s, line %s", name, format_count(line[row + has_head]))
  columns <- lapply(seq_len(ncol(body)), function(at) body[, at])
  found <- card_columns(columns, heads, wanted, catalogue, label, call)
  if (length(found$kept) == ncol(table)) return(list(lines = lines, remarks = NULL))
  kept <- table[, found$kept, drop = FALSE]
  list(lines = do.call(paste, c(lapply(seq_len(ncol(kept)), function(at) kept[, at]), sep = parts$separator)),
       remarks = found$remarks)
}

# Lines as a table of text, by a mark that stands in each of them equally often, or by spaces; NULL where there is none.
column_parts <- function(lines, catalogue) {
  for (mark in c("\t", ";", ",")) {
    times <- lengths(regmatches(lines, gregexpr(mark, lines, fixed = TRUE)))
    if (times[1] > 0 && all(times == times[1])) {
      pieces <- strsplit(paste0(lines, mark, "."), mark, fixed = TRUE)
      table <- matrix(unlist(pieces), nrow = length(lines), byrow = TRUE)
      return(list(table = table[, -ncol(table), drop = FALSE], separator = mark))
    }
    if (any(times > 0)) return(NULL)
  }
  if (any(grepl(" ", catalogue$data$card, fixed = TRUE)) || any(grepl("|", lines, fixed = TRUE))) return(NULL)
  pieces <- strsplit(trimws(lines), "[[:space:]]+")
  if (length(pieces[[1]]) < 2 || any(lengths(pieces) != length(pieces[[1]]))) return(NULL)
  list(table = matrix(unlist(pieces), nrow = length(lines), byrow = TRUE), separator = " ")
}
