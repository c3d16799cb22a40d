#' Draws made elsewhere
#'
#' Counts of draws that somebody else made: recorded in a file, added up in a table, drawn by an R
#' function or by a program in any language. Hold them against `exact(draws(deck, size))` with
#' [compare()], or read their [summary()][summary.habanera_counts].
#'
#' `draws_recorded()` reads one draw a line, cards as codes, as names in full or as numbers, separated by spaces,
#' commas, semicolons, tabs or `|`, or by nothing. A header, quotes, brackets, labels before a colon, notes at the end
#' of lines, blank lines and what follows a `#` are passed over, and a column headed `count` or `freq` is taken as such;
#' so are columns beside the cards: a trial's number, a date, a table's name. One line says what was understood. Where
#' there are two readings, both are told and one must be chosen. `as_counts()`
#' takes draws that were added up: a `table()`, a named vector or a data frame with `card` and `n`; or
#' a column of single cards; or what `draws_recorded()` takes. `draws_with()` and `draws_program()` are experiments to
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
#' @param file Path of a text file (`"-"` is standard input), of an `.xlsx` file where the package readxl is installed;
#'   or a data frame with columns of cards, a list of hands, or a vector of cards: each a draw, or with `size` so many
#'   of them one after the other.
#' @param notation As in [as_cards()].
#' @param deck The deck that the draws are from.
#' @param size Cards in a draw; `NULL`: as all rows have. Rows of other sizes are left out, and told.
#' @param replace Whether cards go back before the next is drawn.
#' @param columns Which columns hold the cards: names, or numbers such as `2:6`; `NULL`: those that do.
#' @param ... For `draws_recorded()`: questions by name, as in [draws()], asked of the recorded hands.
#' @param numbering See below; `NULL` for codes, or numbers in the deck's order, from 0 or from 1 as they show.
#' @return `draws_recorded()` and `as_counts()`: counts; see [counts]. Line numbers, less those passed
#'   over, are the trial numbers. With questions: counts of their outcomes, as those of a simulation, for
#'   [summary()][summary.habanera_counts_outcomes], [payout()] and [compare()]. Of hands of two cards or more
#'   [summary()][summary.habanera_counts] judges what a hand is, too. `draws_with()` and `draws_program()`: experiments.
#' @section Errors: `habanera_error_notation` for unknown codes and numbers,
#'   `habanera_error_conservation` for cards that are not in the deck, or of `draws_with()` and `draws_program()` that
#'   come too often in one draw,
#'   `habanera_error_file` for lines of unequal length and text that is not UTF-8,
#'   `habanera_error_program` for a program that fails, hangs or prints something else (with what it
#'   said). Each names the line.
#' @examples
#' as_counts(c(AS = 12, KD = 9, QC = 15), deck = as_cards("AS KD QC"))
#' mine <- draws_with(function(deck) sample(deck, 5), size = 5)
#' simulate(mine, nsim = 200, seed = 1)
#' @export
draws_recorded <- function(file, deck = deck_standard(), size = NULL, replace = FALSE,
                           numbering = NULL, notation = NULL, columns = NULL, ...) {
  check_given()
  call <- rlang::current_env()
  check_deck(deck)
  check_flag(replace)
  check_notation(notation)
  if (!is.null(size)) check_whole(size, 1, call = call)
  asked <- rlang::enquos(...)
  made <- recorded_kinds(file, deck, size, numbering, notation, columns, call)
  inform_user(sprintf("Read %s of %s as %s.", count_of(nrow(made$kinds), "draw"), format_count(ncol(made$kinds)),
                      paste(c(way_written(made$words, deck, numbering, notation), made$remarks), collapse = "; ")))
  made_by <- if (made$is_file) recorded_code(file, deck, size, replace, numbering, notation, columns)
  found <- counts_of_records(made$kinds, deck, replace, made$source, made_by, call)
  if (length(asked)) ask_records(found, asked, call) else found
}

# The draws as `kinds`, a row for each; the different `words` that they were written in, `remarks` on what was passed
# over, and where they come from.
recorded_kinds <- function(file, deck, size, numbering, notation, columns, call, regular_from = 1e6) {
  regular <- if (is_large_text(file, regular_from)) read_regular(file, deck, size, columns, call)
  if (!is.null(regular)) {
    return(c(list(kinds = kinds_of_regular(regular, file, deck, numbering, notation, call), is_file = TRUE,
                  source = basename(file)), regular[c("words", "remarks")]))
  }
  source <- recorded_source(file, deck, size, columns, call)
  read <- of_one_size(source$read, source$label, size, call)
  label <- function(row) source$label(read$line[row])
  check_row_weights(read$weight, label, call)
  kinds <- kinds_from_pieces(read$pieces, deck, NULL, numbering, label, call, notation)
  list(kinds = kinds[rep(seq_along(read$weight), times = read$weight), , drop = FALSE], source = source$words,
       is_file = source$is_file, words = unique(unlist(read$pieces)), remarks = read$remarks)
}

# The counts of questions to recorded hands: of expressions by name, or of a question as it was asked elsewhere. What a
# question is, is known to the right of here.
ask_records <- function(x, question, call) UseMethod("ask_records")

# The rows of the size asked for; where none is and they have several, it is told which.
of_one_size <- function(read, label, size, call) {
  sizes <- lengths(read$pieces)
  told <- sort(unique(sizes))
  if (is.null(size)) {
    if (length(told) == 1) return(read)
    times <- tabulate(match(sizes, told))
    usual <- if (times[match(sizes[1], told)] == max(times)) sizes[1] else told[which.max(times)]
    each <- vapply(told, function(one) sprintf("%s of %s", count_of(sum(sizes == one), "row"), count_of(one, "card")),
                   "")
    refuse(sprintf("%s has %s, not %s. It holds %s: judge one size after the other, as with `size = %s` (--size).",
                   label(read$line[which(sizes != usual)[1]]),
                   count_of(sizes[which(sizes != usual)[1]], "card"), format_count(usual), join_words(each),
                   format_count(usual)), "file", call)
  }
  of_size <- sizes == size
  if (!any(of_size)) {
    refuse(sprintf("%s has %s, not %s.", label(read$line[1]), count_of(sizes[1], "card"), format_count(size)), "file",
           call)
  }
  if (all(of_size)) return(read)
  read$remarks <- c(read$remarks, sprintf("%s of other sizes left out", count_of(sum(!of_size), "row")))
  read[c("pieces", "line", "weight")] <- lapply(read[c("pieces", "line", "weight")], `[`, of_size)
  read
}

# Counts of what was recorded, a card that comes too often with it: that is told, and judged.
counts_of_records <- function(kinds, deck, replace, source, made_by, call) {
  experiment <- elsewhere(new_draws(check_deck(deck, call), as.double(ncol(kinds)), replace))
  count <- nrow(outcome_space(experiment))
  hands <- recorded_hands(kinds, deck)
  doubled <- if (is.null(hands)) FALSE else any(doubled_rows(kinds, kinds_of(deck)$copies))
  tally <- tally_of_draws(kinds, count, 1, can_repeat(experiment) || doubled)
  from <- new_provenance(experiment, ncol(kinds), trials = data.frame(first = 1, last = nrow(kinds)),
                         source = source, made_by = made_by)
  found <- new_counts("draws", outcome_space(experiment), tally$n, tally$example_trial, tally[["squares"]], from)
  found$hands <- hands
  found
}

# How cards were written, in words.
way_written <- function(words, deck, numbering, notation) {
  if (are_codes(words, deck, numbering)) return(coded_pieces(words, catalogue_of(deck), notation)$way)
  sprintf("numbers from %s", card_numbering(found_numbering(numbering, words, deck, NULL), deck, NULL)$first)
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
as_counts <- function(table, deck = deck_standard(), size = 1, replace = FALSE, numbering = NULL, columns = NULL) {
  check_given()
  call <- rlang::current_env()
  if (is.character(table)) check_utf8(table)
  if (holds_draws(table)) {
    return(draws_recorded(table, deck, if (size > 1) size, replace, numbering, columns = columns))
  }
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

# What is no table of counts, but the draws themselves: a list of hands, columns of cards, a file.
holds_draws <- function(table) {
  if (rlang::is_string(table)) return(file_kind(table) %in% c("csv", "tsv", "txt", "xlsx") && names_a_file(table))
  if (!is.data.frame(table)) return(is.list(table) && !is_cards(table) && length(table) > 0 &&
                                      all(vapply(table, function(hand) is.character(hand) || is_cards(hand), NA)))
  counted <- any(tolower(names(table)) %in% count_names) && any(tolower(names(table)) %in% c("card", "name", "var1"))
  !counted && ncol(table) > 1
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
