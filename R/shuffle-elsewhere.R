#' Shuffles made elsewhere
#'
#' Arrangements that somebody else's shuffle left, for [audit()]: recorded in a file, or made by a program in
#' any language.
#'
#' `shuffle_recorded()` reads one arrangement a row from CSV, Parquet or plain lines (cards separated by
#' spaces, commas, semicolons or tabs), as codes or as numbers of places in the deck. A header is recognised,
#' and not needed; lines at the top that begin with `#` are passed over. Rows keep their order. A row that is
#' shorter than the deck is one that lost cards.
#'
#' `shuffle_program()` is one shell command line, started once for a whole audit: it reads one deck a line on
#' standard input (codes from the top, separated by spaces; for a deck that repeats cards the numbers of
#' places, from 1) and writes one arrangement a line; it may read all before it writes. Its chance is its own.
#'
#' A deck that repeats cards: given numbers, all tests run; given codes, only those that need not know one
#' copy from another.
#'
#' @param file Path of a file; `"-"` is standard input.
#' @param numbering As in [draws_recorded()]: `list(first = 0)` when cards are counted from 0.
#' @param deck The deck as it lay before every shuffle.
#' @return An object for [audit()], with the arrangements of the file.
#' @section Errors: `habanera_error_notation` for unknown codes and numbers, `habanera_error_file` for rows
#'   longer than the deck and what cannot be read; each names the line. `habanera_error_program` for a program
#'   that fails, hangs or writes something else, with what it said; its field `audit` holds the audit of the
#'   arrangements written before, if any.
#' @examples
#' orchard <- deck_from(demo_file("orchard.csv"))
#' logged <- shuffle_recorded(demo_file("volunteer-shuffles.csv"), deck = orchard)
#' audit(logged)
#' @export
shuffle_recorded <- function(file, numbering = NULL, deck = deck_standard()) {
  check_deck(deck)
  call <- rlang::current_env()
  if (!is.null(numbering)) card_numbering(numbering, deck, call)
  table <- read_arrangements(file, deck, call)
  label <- function(row) sprintf("%s, line %s", file_name(file), format_count(row + table[["skipped"]]))
  new_shuffles("recorded", deck, arrangements_from(table[["rows"]], deck, numbering, label, call),
               source = if (file == "-") "standard input" else basename(file), file = file, numbering = numbering)
}

#' @rdname shuffle_recorded
#' @param command One shell command line.
#' @param time_limit Whole seconds that the program may take in all.
#' @export
shuffle_program <- function(command, numbering = NULL, deck = deck_standard(), time_limit = 600) {
  check_string(command)
  check_deck(deck)
  check_whole(time_limit, 1, 1e6)
  if (!is.null(numbering)) card_numbering(numbering, deck, rlang::current_env())
  new_shuffles("program", deck, NULL, source = sprintf("the program %s", quoted(command)), command = command,
               numbering = numbering, time_limit = time_limit)
}

new_shuffles <- function(kind, deck, made, ...) {
  structure(list(deck = deck, rows = made$rows, identity = made$identity, ...),
            class = c(paste0("habanera_shuffles_", kind), "habanera_shuffles"))
}

#' @export
print.habanera_shuffles <- function(x, ...) {
  cat(sprintf("<shuffles> of %s, from %s\n", deck_in_words(x$deck), x$source))
  if (!is.null(x$rows)) cat(sprintf("%s. Judge them with audit().\n", count_of(nrow(x$rows), "arrangement")))
  invisible(x)
}

# A table of tokens, one arrangement a row, and how many lines of the file stand before it.
read_arrangements <- function(file, deck, call) {
  check_string(file, "file", call)
  if (file != "-") check_readable(file, call)
  cards <- length(deck)
  if (file_kind(file) == "parquet") return(read_parquet_rows(file, cards, call))
  lines <- if (file == "-") read_text_lines(file, call)
  head <- if (is.null(lines)) readLines(file, 200, warn = FALSE) else utils::head(lines, 200)
  first <- match(TRUE, grepl("[^[:space:]]", head, useBytes = TRUE) & !grepl("^[[:space:]]*#", head, useBytes = TRUE))
  if (is.na(first)) refuse(sprintf("%s has no arrangements.", file_name(file)), "file", call)
  refuse_bytes(head, file, call)
  separator <- separator_of(head[first])
  skip <- if (is_header(split_row(head[first], separator), deck)) first else first - 1
  rows <- read_quickly(file, lines, skip, separator, cards)
  if (is.null(rows)) rows <- read_slowly(file, lines, skip, separator, cards, call)
  for (column in rows) if (is.character(column)) refuse_bytes(unique(column), file, call)
  list(rows = rows, skipped = skip)
}

refuse_bytes <- function(text, file, call) {
  if (all(validUTF8(text))) return(invisible())
  refuse(sprintf("%s is not UTF-8 text: it has bytes that are not.", file_name(file)), "file", call)
}

split_row <- function(line, separator) {
  trimws(strsplit(trimws(line), if (separator == " ") "[[:space:]]+" else separator)[[1]])
}

# A header names columns: none of it is a code or a number.
is_header <- function(tokens, deck) {
  all(is.na(suppressWarnings(as.numeric(tokens)))) && all(is.na(find_codes(tokens, catalogue_of(deck))))
}

separator_of <- function(line) {
  for (separator in c(",", ";", "\t")) if (grepl(separator, line, fixed = TRUE)) return(separator)
  " "
}

# NULL where rows are not equally long, or longer than the deck: the slow reader says which.
read_quickly <- function(file, lines, skip, separator, cards) {
  read <- function(...) {
    fread_whole(..., header = FALSE, sep = separator, skip = skip, blank.lines.skip = TRUE, na.strings = NULL,
                strip.white = TRUE, keepLeadingZeros = TRUE)
  }
  rows <- if (is.null(lines)) read(file = file) else read(text = lines)
  if (is.null(rows) || ncol(rows) > cards) return(NULL)
  rows[seq_len(cards - ncol(rows)) + ncol(rows)] <- rep("", nrow(rows))
  rows
}

read_slowly <- function(file, lines, skip, separator, cards, call) {
  if (is.null(lines)) lines <- read_text_lines(file, call)
  kept <- setdiff(which(grepl("[^[:space:]]", lines)), seq_len(skip))
  pieces <- lapply(lines[kept], split_row, separator = separator)
  long <- which(lengths(pieces) > cards)
  if (length(long)) {
    refuse(sprintf("%s, line %s has %s; the deck has %s.", file_name(file), format_count(kept[long[1]]),
                   count_of(length(pieces[[long[1]]]), "card"), format_count(cards)), "file", call)
  }
  rows <- do.call(rbind, lapply(pieces, function(row) c(row, rep("", cards - length(row)))))
  as.data.frame(rows)
}

read_parquet_rows <- function(file, cards, call) {
  if (!requireNamespace("nanoparquet", quietly = TRUE)) {
    refuse("Reading Parquet needs the package nanoparquet.", "file", call)
  }
  rows <- refuse_if_fails(as.data.frame(nanoparquet::read_parquet(file)),
                          sprintf("Cannot read %s.", quoted(file)), "file", call)
  if (ncol(rows) != cards) {
    refuse(sprintf("%s has %s; the deck has %s.", quoted(file), count_of(ncol(rows), "column"),
                   count_of(cards, "card")), "file", call)
  }
  list(rows = rows, skipped = 0)
}

# Arrangements as numbers: of places when every card is known from all others (`identity`), otherwise of
# kinds; 0 where a row ends early.
arrangements_from <- function(table, deck, numbering, label, call) {
  columns <- token_columns(table)
  tokens <- setdiff(unique(unlist(lapply(columns$tokens, as.character))), "")
  if (!length(tokens)) refuse(sprintf("%s: there are no arrangements.", label(1)), "file", call)
  label_of <- function(i) {
    label(min(vapply(table, function(column) match(tokens[i], as.character(column)), 0L), na.rm = TRUE))
  }
  numbers <- numbers_of_tokens(tokens, deck, numbering, label_of, call)
  known <- lapply(columns$tokens, function(kept) {
    number <- numbers$number[match(as.character(kept), tokens)]
    ifelse(is.na(number), 0L, number)
  })
  rows <- mapply(function(which, type) known[[type]][which], columns$which, columns$type)
  list(rows = matrix(as.integer(rows), nrow = nrow(table)), identity = numbers$identity)
}

# Columns as numbers of tokens, which columns of one type share: so that each is looked through once.
token_columns <- function(table) {
  tokens <- list()
  which <- lapply(table, function(column) {
    type <- typeof(column)
    at <- match(column, tokens[[type]])
    if (!anyNA(at)) return(at)
    tokens[[type]] <<- c(tokens[[type]], unique(column[is.na(at)]))
    match(column, tokens[[type]])
  })
  list(tokens = tokens, which = which, type = vapply(table, typeof, ""))
}

numbers_of_tokens <- function(tokens, deck, numbering, label, call) {
  repeats <- anyDuplicated(codes_of(deck)) > 0
  if (repeats && !are_codes(tokens, deck, numbering)) {
    if (length(setdiff(names(numbering), "first"))) {
      refuse("A deck that repeats cards is numbered in its own order: only `first` can be set.", call = call)
    }
    places <- numbered_places(tokens, card_numbering(numbering, deck, call), label, call)
    return(list(number = as.integer(places), identity = TRUE))
  }
  kinds <- kinds_from_tokens(tokens, deck, numbering, label, call)
  if (repeats) return(list(number = kinds, identity = FALSE))
  list(number = match(kinds_of(deck)$codes[kinds], codes_of(deck)), identity = TRUE)
}

# Runs the program on so many decks: the arrangements it wrote, and its failure, if any.
run_shuffle_program <- function(x, count, call) {
  repeats <- anyDuplicated(codes_of(x$deck)) > 0
  numbering <- if (repeats && is.null(x$numbering)) list(first = 1) else x$numbering
  decks <- rep(paste(if (repeats) seq_along(x$deck) else as.character(x$deck), collapse = " "), count)
  answers <- ask_program(x$command, decks, x$time_limit)
  # The last line of a program that was stopped may be cut off.
  lines <- if (is.null(answers$failure)) answers$lines else utils::head(answers$lines, -1)
  lines <- utils::head(lines[validUTF8(lines)], count)
  if (!length(lines)) return(list(failure = answers))
  label <- function(row) sprintf("%s, line %s", quoted(x$command), format_count(row))
  written <- tempfile("written-")
  on.exit(unlink(written))
  write_lines_whole(lines, written)
  made <- tryCatch({
    table <- read_arrangements(written, x$deck, call)
    arrangements_from(table[["rows"]], x$deck, numbering, label, call)
  }, habanera_error = function(cnd) {
    said <- sub(quoted(written), "its output", rlang::cnd_message(cnd), fixed = TRUE)
    answers$failure <- paste("wrote no arrangement:", sub("\\.$", "", said))
    refuse_program(answers, call)
  })
  c(made, list(failure = if (!is.null(answers$failure)) answers))
}
