#' Shuffles made elsewhere
#'
#' Arrangements that somebody else's shuffle left, for [audit()]: recorded in a file, or made by a program in
#' any language.
#'
#' `shuffle_recorded()` reads one arrangement a row from CSV, `.xlsx`, Parquet or plain lines, as codes or as numbers of
#' places in the deck, with all that [draws_recorded()] passes over. Rows keep their order. A row that is shorter than
#' the deck is one that lost cards. One line says what was understood.
#'
#' `shuffle_program()` is one shell command line, started once for a whole audit: it reads one deck a line on
#' standard input (codes from the top, separated by spaces; for a deck that repeats cards the numbers of
#' places, from 1) and writes one arrangement a line; it may read all before it writes. Its chance is its own.
#'
#' A deck that repeats cards: given numbers, all tests run; given codes, only those that need not know one
#' copy from another.
#'
#' A program that writes one deck and stops is run once for every trial with `each_trial = TRUE`; that takes some
#' milliseconds a trial.
#'
#' @param file Path of a file; `"-"` is standard input; or a data frame, a list or a vector of cards, as
#'   [draws_recorded()] takes them.
#' @param deck The deck as it lay before every shuffle; `NULL`: the standard deck, or that given to [audit()].
#' @param numbering As in [draws_recorded()]: `list(first = 0)` when cards are counted from 0.
#' @param notation As in [as_cards()].
#' @param columns As in [draws_recorded()].
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
shuffle_recorded <- function(file, deck = NULL, numbering = NULL, notation = NULL, columns = NULL) {
  check_given()
  call <- rlang::current_env()
  check_notation(notation)
  read <- function(deck) recorded_shuffles(file, deck, numbering, notation, columns, call)
  if (!is.null(deck)) return(read(check_deck(deck)))
  # Without a deck the standard one is tried; audit() may still be given another.
  if (!rlang::is_string(file)) return(read(deck_standard()))
  tryCatch(read(deck_standard()), habanera_error = function(cnd) {
    if (file == "-" || !file.exists(file)) rlang::cnd_signal(cnd)
    new_shuffles("recorded", NULL, list(), source = basename(file), file = file, numbering = numbering,
                 notation = notation, columns = columns, problem = cnd)
  })
}

recorded_shuffles <- function(file, deck, numbering, notation, columns, call) {
  if (!is.null(numbering)) card_numbering(numbering, deck, call)
  table <- read_arrangements(file, deck, columns, call)
  is_file <- rlang::is_string(file)
  name <- if (is_file) file_name(file) else "The table"
  label <- function(row) sprintf("%s, %s %s", name, if (is_file) "line" else "row", format_count(table[["line"]](row)))
  refuse_draws(table[["rows"]], deck, name, call)
  made <- arrangements_from(table[["rows"]], deck, numbering, label, call, notation)
  inform_user(sprintf("Read %s of %s as %s.", count_of(nrow(made$rows), "arrangement"), count_of(length(deck), "card"),
                      paste(c(made$way, table[["remarks"]]), collapse = "; ")))
  new_shuffles("recorded", deck, made, source = if (!is_file) "a table" else if (file == "-") "standard input" else
                 basename(file), file = if (is_file) file, numbering = numbering, notation = notation,
               columns = columns)
}

#' @rdname shuffle_recorded
#' @param command One shell command line.
#' @param time_limit Whole seconds that the program may take in all.
#' @param each_trial Whether the program is started anew for each deck, for programs that write one and stop.
#' @export
shuffle_program <- function(command, deck = deck_standard(), numbering = NULL, time_limit = 600, each_trial = FALSE) {
  check_given()
  check_string(command)
  check_deck(deck)
  check_flag(each_trial)
  check_whole(time_limit, 1, 1e6)
  if (!is.null(numbering)) card_numbering(numbering, deck, rlang::current_env())
  new_shuffles("program", deck, NULL, source = sprintf("the program %s", quoted(command)), command = command,
               numbering = numbering, time_limit = time_limit, each_trial = each_trial)
}

new_shuffles <- function(kind, deck, made, ...) {
  structure(list(deck = deck, rows = made$rows, identity = made$identity, ...),
            class = c(paste0("habanera_shuffles_", kind), "habanera_shuffles"))
}

#' @export
print.habanera_shuffles <- function(x, ...) {
  if (is.null(x$deck)) {
    cat(sprintf("<shuffles> from %s, which needs its deck: audit(x, deck = ). With a standard deck: %s\n", x$source,
                rlang::cnd_message(x$problem)))
    return(invisible(x))
  }
  cat(sprintf("<shuffles> of %s, from %s\n", deck_in_words(x$deck), x$source))
  if (!is.null(x$rows)) cat(sprintf("%s. Judge them with audit().\n", count_of(nrow(x$rows), "arrangement")))
  invisible(x)
}

# A table of tokens, one arrangement a row, and how many lines of the file stand before it.
read_arrangements <- function(file, deck, columns, call) {
  if (!rlang::is_string(file)) {
    read <- recorded_source(file, deck, length(deck), columns, call)$read
    return(rows_of_pieces(read, deck, function(row) sprintf("The table, row %s", format_count(read$line[row])), call))
  }
  check_string(file, "file", call)
  if (file != "-") check_readable(file, call)
  cards <- length(deck)
  if (file_kind(file) == "parquet") return(read_parquet_rows(file, cards, call))
  lines <- if (is_stream(file) || file_kind(file) == "xlsx") read_table_lines(file, call)
  head <- if (is.null(lines)) head_lines(file, 200) else utils::head(lines, 200)
  first <- match(TRUE, grepl("[^[:space:]]", head, useBytes = TRUE) & !grepl("^[[:space:]]*#", head, useBytes = TRUE))
  if (is.na(first)) refuse(sprintf("%s has no arrangements.", file_name(file)), "file", call)
  refuse_bytes(head, file, call)
  separator <- separator_of(head[first])
  has_head <- is_header(split_row(head[first], separator), deck)
  skip <- if (has_head) first else first - 1
  rows <- read_quickly(file, lines, skip, separator, cards)
  for (column in rows) if (is.character(column)) refuse_bytes(unique(column), file, call)
  if (!is.null(columns) || is.null(rows) || !is_plainly_written(rows, deck)) {
    return(read_as_it_comes(file, lines, deck, call, columns))
  }
  list(rows = rows, line = function(row) row + skip, remarks = if (has_head) "header skipped")
}

# Rows that all have the same few cards are no arrangements that lost some.
refuse_draws <- function(rows, deck, name, call) {
  filled <- rowSums(vapply(rows, function(column) nzchar(as.character(column)), logical(nrow(rows))) |>
                    matrix(nrow(rows)))
  if (length(unique(filled)) > 1 || filled[1] > length(deck) / 2 || !is_plainly_written(rows, deck)) return(invisible())
  cards <- matrix(vapply(rows[seq_len(filled[1])], as.character, character(nrow(rows))), nrow(rows))
  sorted <- unique(apply(cards, 1, function(row) paste(sort(row), collapse = " ")))
  same <- if (length(sorted) == 1 && nrow(rows) > 1) {
    sprintf("All rows have the same %s: if they are the deck, give it as it lay before each shuffle, deck = .",
            count_of(filled[1], "card"))
  }
  refuse(c(sprintf("%s has rows of %s, which are draws and no arrangements of %s: draws_recorded() reads them.",
                   name, count_of(filled[1], "card"), format_count(length(deck))), i = same), "file", call)
}

# Whether every word of a table is a card or a number, so that nothing has to be passed over.
is_plainly_written <- function(rows, deck) {
  words <- setdiff(unique(unlist(lapply(rows, function(column) as.character(unique(column))))), "")
  all(is_card_like(words, catalogue_of(deck)))
}

refuse_bytes <- function(text, file, call) {
  if (all(validUTF8(text))) return(invisible())
  refuse(sprintf("%s is not UTF-8 text: it has bytes that are not.", file_name(file)), "file", call)
}

# A header names columns: none of it is a code or a number.
is_header <- function(tokens, deck) {
  all(is.na(written_numbers(tokens))) && all(is.na(find_codes(tokens, catalogue_of(deck))))
}

# NULL where rows are not equally long, or longer than the deck: the slow reader says which.
read_quickly <- function(file, lines, skip, separator, cards) {
  read <- function(...) {
    fread_whole(..., header = FALSE, sep = separator, skip = skip, blank.lines.skip = TRUE, na.strings = NULL,
                strip.white = TRUE, keepLeadingZeros = TRUE)
  }
  rows <- if (is.null(lines)) read(file = file) else read(text = one_text(lines))
  if (is.null(rows) || ncol(rows) > cards) return(NULL)
  rows[seq_len(cards - ncol(rows)) + ncol(rows)] <- rep("", nrow(rows))
  rows
}

# As draws are read, rows that are too short being filled up.
read_as_it_comes <- function(file, lines, deck, call, columns = NULL) {
  if (is.null(lines)) lines <- read_table_lines(file, call)
  read <- read_card_lines(lines, deck, call, columns, if (is.null(file)) "The program" else file_name(file))
  if (is.null(read)) refuse(sprintf("%s has no arrangements.", file_name(file)), "file", call)
  rows_of_pieces(read, deck, function(row) sprintf("%s, line %s", file_name(file), format_count(read$line[row])), call)
}

# A table of tokens out of rows that were read, those that are too short filled up.
rows_of_pieces <- function(read, deck, label, call) {
  cards <- length(deck)
  long <- which(lengths(read$pieces) > cards)
  if (length(long)) {
    refuse(sprintf("%s has %s; the deck has %s.", label(long[1]), count_of(length(read$pieces[[long[1]]]), "card"),
                   format_count(cards)), "file", call)
  }
  check_row_weights(read$weight, label, call)
  times <- rep(seq_along(read$weight), times = read$weight)
  rows <- do.call(rbind, lapply(read$pieces[times], function(row) c(row, rep("", cards - length(row)))))
  list(rows = as.data.frame(rows), line = function(row) read$line[times[row]], remarks = read$remarks)
}

read_parquet_rows <- function(file, cards, call) {
  rows <- parquet_table(file, call)
  if (ncol(rows) != cards) {
    refuse(sprintf("%s has %s; the deck has %s.", quoted(file), count_of(ncol(rows), "column"),
                   count_of(cards, "card")), "file", call)
  }
  list(rows = rows, line = identity, remarks = NULL)
}

# Arrangements as numbers: of places when every card is known from all others (`identity`), otherwise of
# kinds; 0 where a row ends early.
arrangements_from <- function(table, deck, numbering, label, call, notation = NULL) {
  columns <- token_columns(table)
  tokens <- setdiff(unique(unlist(lapply(columns$tokens, as.character))), "")
  if (!length(tokens)) refuse(sprintf("%s: there are no arrangements.", label(1)), "file", call)
  label_of <- function(i) {
    label(min(vapply(table, function(column) match(tokens[i], as.character(column)), 0L), na.rm = TRUE))
  }
  numbers <- numbers_of_tokens(tokens, deck, numbering, label_of, call, notation)
  known <- lapply(columns$tokens, function(kept) {
    number <- numbers$number[match(as.character(kept), tokens)]
    ifelse(is.na(number), 0L, number)
  })
  rows <- mapply(function(which, type) known[[type]][which], columns$which, columns$type)
  list(rows = matrix(as.integer(rows), nrow = nrow(table)), identity = numbers$identity, way = numbers$way)
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

numbers_of_tokens <- function(tokens, deck, numbering, label, call, notation) {
  repeats <- anyDuplicated(codes_of(deck)) > 0
  if (repeats && !are_codes(tokens, deck, numbering)) {
    if (length(setdiff(names(numbering), "first"))) {
      refuse("A deck that repeats cards is numbered in its own order: only `first` can be set.", call = call)
    }
    places <- numbered_places(tokens, card_numbering(numbering, deck, call), label, call)
    return(list(number = as.integer(places), identity = TRUE, way = "numbers of places"))
  }
  kinds <- kinds_from_tokens(tokens, deck, numbering, label, call, notation)
  way <- coded_pieces(tokens, catalogue_of(deck), notation)$way
  if (!are_codes(tokens, deck, numbering)) way <- "numbers of places"
  if (repeats) return(list(number = kinds, identity = FALSE, way = way))
  list(number = match(kinds_of(deck)$codes[kinds], codes_of(deck)), identity = TRUE, way = way)
}

# Runs the program on so many decks: the arrangements it wrote, and its failure, if any.
run_shuffle_program <- function(x, count, call) {
  repeats <- anyDuplicated(codes_of(x$deck)) > 0
  numbering <- if (repeats && is.null(x$numbering)) list(first = 1) else x$numbering
  decks <- rep(paste(if (repeats) seq_along(x$deck) else as.character(x$deck), collapse = " "), count)
  answers <- ask_program(x$command, decks, x$time_limit, x$each_trial)
  # The last line of a program that was stopped may be cut off.
  lines <- if (is.null(answers$failure)) answers$lines else utils::head(answers$lines, -1)
  lines <- utils::head(lines[validUTF8(lines)], count)
  if (!length(lines)) return(list(failure = answers))
  label <- function(row) sprintf("%s, line %s", quoted(x$command), format_count(row))
  made <- tryCatch({
    table <- read_as_it_comes(NULL, lines, x$deck, call, columns = FALSE)
    arrangements_from(table[["rows"]], x$deck, numbering, label, call)
  }, habanera_error = function(cnd) {
    answers$failure <- paste("wrote no arrangement:", sub("\\.$", "", rlang::cnd_message(cnd)))
    refuse_program(answers, call)
  })
  c(made, list(failure = if (!is.null(answers$failure)) answers))
}
