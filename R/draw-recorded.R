#' Draws made elsewhere
#'
#' Counts of draws that somebody else made: recorded in a file, added up in a table, drawn by an R
#' function or by a program in any language. Hold them against `exact(draws(deck, size))` with
#' [compare()], or read their [summary()][summary.habanera_counts].
#'
#' `draws_recorded()` reads one draw a line, cards as codes, as names in full or as numbers, separated by spaces,
#' commas, semicolons, tabs or `|`, or by nothing. A header, quotes, brackets, labels before a colon, notes at the end
#' of lines, blank lines and what follows a `#` are passed over, and a column headed `count` or `freq` is taken as such;
#' one line says what was understood. Where there are two readings, both are told and one must be chosen. `as_counts()`
#' takes draws that were added up: a `table()`, a named vector or a data frame with `card` and `n`; or
#' a column of single cards. `draws_with()` and `draws_program()` are experiments to
#' [simulate()][simulate.habanera_experiment].
#'
#' In `draws_with()` R's generator is set from each trial's address before the function is called, and
#' put back afterwards, so that its trials can be replayed too. The program of `draws_program()` is
#' one shell command line, started once for all trials: it reads one deck a line on standard input
#' (codes from the top, separated by spaces) and writes one draw a line; it may read all before it
#' writes. Its chance is its own: neither `seed` nor trial numbers govern it.
#'
#' @section Numbering: `numbering` is a list with some of: `first`, the number of the first card (0 or
#'   1, default 1); and what order the numbers follow: the deck's (default), that of `cards` (codes),
#'   or `by` = "suit" or "rank" (all of a suit together, or of a rank) with `ranks` and `suits` in
#'   order, as in [deck_standard()].
#' @param file Path of a text file (`"-"` is standard input), of an `.xlsx` file where the package readxl is installed,
#'   or a data frame with columns of cards.
#' @param notation As in [as_cards()].
#' @param deck The deck that the draws are from.
#' @param size Cards in a draw; `NULL` takes it from the first.
#' @param replace Whether cards go back before the next is drawn.
#' @param numbering See below; `NULL` for codes, or numbers in the deck's order, from 0 or from 1 as they show.
#' @return `draws_recorded()` and `as_counts()`: counts; see [counts]. Line numbers, less those passed
#'   over, are the trial numbers. `draws_with()` and `draws_program()`: experiments.
#' @section Errors: `habanera_error_notation` for unknown codes and numbers,
#'   `habanera_error_conservation` for cards that are not in the deck or come too often in one draw,
#'   `habanera_error_file` for lines of unequal length and text that is not UTF-8,
#'   `habanera_error_program` for a program that fails, hangs or prints something else (with what it
#'   said). Each names the line.
#' @examples
#' as_counts(c(AS = 12, KD = 9, QC = 15), deck = as_cards("AS KD QC"))
#' mine <- draws_with(function(deck) sample(deck, 5), size = 5)
#' simulate(mine, nsim = 200, seed = 1)
#' @export
draws_recorded <- function(file, deck = deck_standard(), size = NULL, replace = FALSE,
                           numbering = NULL, notation = NULL) {
  call <- rlang::current_env()
  check_deck(deck)
  check_flag(replace)
  check_notation(notation)
  is_frame <- is.data.frame(file)
  name <- if (is_frame) "The data frame" else file_name(check_string(file))
  read <- if (is_frame) read_card_frame(file, deck, call) else {
    read_card_lines(read_table_lines(file, call), deck, call)
  }
  if (is.null(read)) refuse(sprintf("%s has no draws.", name), "file")
  label <- function(row) sprintf("%s, %s %s", name, if (is_frame) "row" else "line", format_count(read$line[row]))
  check_row_weights(read$weight, label, call)
  kinds <- kinds_from_pieces(read$pieces, deck, size, numbering, label, call, notation)
  tell_draws(kinds, read, deck, numbering, notation)
  refuse_doubled(kinds, deck, replace, label, call)
  times <- rep(seq_along(read$weight), times = read$weight)
  source <- if (is_frame) "a data frame" else if (file == "-") "standard input" else basename(file)
  made_by <- if (!is_frame) recorded_code(file, deck, replace, numbering)
  recorded_counts(kinds[times, , drop = FALSE], deck, replace, function(row) label(times[row]), source, made_by, call)
}

# One line that says what was understood.
tell_draws <- function(kinds, read, deck, numbering, notation) {
  tokens <- unique(unlist(read$pieces))
  way <- if (are_codes(tokens, deck, numbering)) coded_pieces(tokens, catalogue_of(deck), notation)$way else {
    sprintf("numbers from %s", found_numbering(numbering, tokens, deck, NULL)[["first"]])
  }
  inform_user(sprintf("Read %s of %s as %s.", count_of(sum(read$weight), "draw"), format_count(ncol(kinds)),
                      paste(c(way, read$remarks), collapse = "; ")))
}

kinds_from_lines <- function(lines, deck, size, numbering, label, call) {
  kinds_from_pieces(line_pieces(lines, catalogue_of(deck)), deck, size, numbering, label, call)
}

kinds_from_pieces <- function(pieces, deck, size, numbering, label, call, notation = NULL) {
  size <- if (is.null(size)) length(pieces[[1]]) else check_whole(size, 1, call = call)
  uneven <- which(lengths(pieces) != size)
  if (length(uneven)) {
    refuse(sprintf("%s has %s, not %s.", label(uneven[1]),
                   count_of(length(pieces[[uneven[1]]]), "card"), format_count(size)), "file", call)
  }
  line_of <- function(i) label((i - 1) %/% size + 1)
  tokens <- unlist(pieces)
  matrix(kinds_from_tokens(tokens, deck, numbering, line_of, call, notation), ncol = size, byrow = TRUE)
}

recorded_counts <- function(kinds, deck, replace, label, source, made_by, call) {
  refuse_doubled(kinds, deck, replace, label, call)
  experiment <- elsewhere(checked_draws(deck, ncol(kinds), replace, call))
  count <- nrow(outcome_space(experiment))
  tally <- tally_of_draws(kinds, count, 1, can_repeat(experiment))
  from <- new_provenance(experiment, ncol(kinds), trials = data.frame(first = 1, last = nrow(kinds)),
                         source = source, made_by = made_by)
  new_counts("draws", outcome_space(experiment), tally$n, tally$example_trial, tally[["squares"]], from)
}

# The same question, of draws whose shuffle is not ours.
elsewhere <- function(experiment) {
  experiment["shuffle"] <- list(NULL)
  experiment
}

#' @rdname draws_recorded
#' @param table For `as_counts()`: see above.
#' @export
as_counts <- function(table, deck = deck_standard(), size = 1, replace = FALSE, numbering = NULL) {
  call <- rlang::current_env()
  experiment <- elsewhere(checked_draws(deck, size, replace, call))
  if (is_raw_column(table)) {
    if (size != 1) refuse("A column of single cards needs `size = 1`; read files with draws_recorded().")
    label <- function(row) sprintf("Row %s", format_count(row))
    kinds <- kinds_from_tokens(as.character(table), deck, numbering, label, call)
    return(recorded_counts(matrix(kinds, ncol = 1), deck, replace, label, "a column of cards",
                           made_by = NULL, call))
  }
  added <- added_up(table, call)
  label <- function(row) sprintf("Row %s", format_count(row))
  kinds <- kinds_from_tokens(added$card, deck, numbering, label, call)
  n <- numeric(nrow(outcome_space(experiment)))
  sums <- rowsum(added$n, kinds)
  n[as.integer(rownames(sums))] <- sums[, 1]
  counts_of_totals(n, experiment, call)
}

is_raw_column <- function(table) {
  is_cards(table) || is.factor(table) || (is.character(table) && is.null(names(table)))
}

# Codes and numbers out of a table(), a named vector or a data frame with `card` and `n`.
added_up <- function(table, call) {
  if (is.data.frame(table)) {
    counting <- match(TRUE, tolower(names(table)) %in% count_names)
    of_cards <- match(TRUE, tolower(names(table)) %in% c("card", "name", "var1"))
    if (is.na(counting) || is.na(of_cards)) {
      refuse(sprintf("`table` needs the columns `card` and `n`; it has %s.",
                     join_words(paste0("`", names(table), "`"))), call = call)
    }
    card <- as.character(table[[of_cards]])
    n <- table[[counting]]
  } else if (is.numeric(table) && !is.null(names(table)) && length(dim(table)) < 2) {
    card <- names(table)
    n <- as.vector(table)
  } else {
    refuse(sprintf(paste("`table` must be a table(), a named vector, a data frame with `card` and",
                         "`n`, or a column of cards, not %s."), said(table)), call = call)
  }
  bad <- which(!is.numeric(n) | is.na(n) | n < 0 | n != floor(n))
  if (length(bad)) {
    refuse(sprintf("Row %d: a count must be a whole number of 0 or more, not %s.", bad[1],
                   said(n[bad[1]])), call = call)
  }
  list(card = card, n = as.double(n))
}

counts_of_totals <- function(n, experiment, call) {
  size <- experiment$size
  if (size < 1 || sum(n) %% size != 0 || sum(n) == 0) {
    refuse(sprintf("The counts add up to %s, which is no whole number of draws of %s.",
                   format_count(sum(n)), count_of(size, "card")), call = call)
  }
  from <- new_provenance(experiment, size, trials = data.frame(first = 1, last = sum(n) / size),
                         source = "a table of counts")
  squares <- if (can_repeat(experiment)) rep(NA_real_, length(n))
  new_counts("draws", outcome_space(experiment), n, rep(NA_real_, length(n)), squares, from)
}
