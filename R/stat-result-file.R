#' Results in files
#'
#' Writes counts or a distribution as CSV, JSON or Parquet, by the extension of the file, and reads
#' them back the same. A CSV is a plain table that spreadsheets and `read.csv()` open; its provenance stands beside it,
#' in a file of the same name with `.provenance.json` after it, without which it cannot be read back as a result. A
#' Parquet file (package nanoparquet) has it in its metadata under the key `habanera`. Numbers have 17 significant
#' digits. Hands that [draws_recorded()] read stay with their counts. Files are written whole or not at all.
#'
#' With a result its digests (SHA-256) are kept: of the table, the sums, seed and trials, the experiment, the hands, and
#' the words. A file that was damaged or edited is refused by what was changed in it. They tell of accidents and slips;
#' who sets out to forge a file can make its digests anew. A file written before there were digests is read with a
#' warning.
#'
#' Of any other result (varied rules, a payout, an audit's tests ...) the table is written in the same way, with what
#' the result says first; what is read back is a table that says it.
#'
#' @param x Counts, a distribution, or another result.
#' @param file Path ending in `.csv`, `.json` or `.parquet`.
#' @param game Of results of a game with code of one's own ([game_custom()], [game_cpp()], R functions as players): the
#'   game, held to the code of which the file tells (not to what that code finds outside of itself). No file brings code
#'   back: without the game the counts, their words and where they come from are read, and with it all that can be
#'   asked.
#' @return `write_result()`: `file`, invisibly. `read_result()`: the counts or distribution, or the table.
#' @section Errors: `habanera_error_file` for an unknown extension, a folder that cannot be written, or
#'   a file that holds no result, or only a part of one, or one that was changed since. `habanera_warning_undigested`
#'   for a file without digests.
#' @examples
#' x <- simulate(draws(deck_standard(), 5), nsim = 1000, seed = 1)
#' file <- tempfile(fileext = ".csv")
#' write_result(x, file)
#' identical(as.data.frame(read_result(file)), as.data.frame(x))
#' @export
write_result <- function(x, file) {
  check_given()
  call <- rlang::current_env()
  check_string(file)
  if (!inherits(x, c("habanera_result", "habanera_strategy", "data.frame"))) {
    refuse(sprintf("`x` must be counts, a distribution or another result, not %s.", said(x)))
  }
  if (!length(result_columns(x))) refuse("`x` has no columns: there is nothing to write.")
  switch(file_kind(file), csv = write_csv_result(x, file, call),
         json = write_bytes_whole(text_bytes(json_lines(x)), file, call),
         parquet = write_bytes_whole(parquet_bytes(x), file, call), refuse_extension(file, call))
}

# The table and, beside it, where it comes from; both are ready before either takes its name.
write_csv_result <- function(x, file, call) {
  table <- text_bytes(csv_lines(x))
  header <- c(digested_header(x), list(digest = cli::hash_raw_sha256(table)))
  write_whole_file(provenance_file(file), function(path) {
    write_bytes(text_bytes(to_json(header)), path)
    write_bytes_whole(table, file, call)
  }, call)
  invisible(file)
}

# Beside the file itself, where a link leads to it.
provenance_file <- function(file) {
  paste0(if (file.exists(file)) normalizePath(file) else file, ".provenance.json")
}

#' @rdname write_result
#' @export
read_result <- function(file, game = NULL) {
  check_given()
  call <- rlang::current_env()
  check_readable(file, call)
  read <- switch(file_kind(file), csv = read_csv_result, json = read_json_result,
                 parquet = read_parquet_result, refuse_extension(file, call))
  not_ours <- function(cnd) {
    if (inherits(cnd, "habanera_error")) rlang::cnd_signal(cnd)
    refuse(sprintf("%s holds no result that write_result() wrote, or only a part, or was changed since.",
                   file_name(file)), "file", call)
  }
  kept <- tryCatch(suppressWarnings(read(file)), error = not_ours)
  tryCatch(suppressWarnings(refuse_changed(kept, file)), error = not_ours)
  found <- tryCatch(suppressWarnings(result_from(kept, game)), error = not_ours)
  if (is.null(kept$header$digests)) {
    warn_user(sprintf("%s was written before results had digests: whether it was changed since cannot be seen.",
                      file_name(file)), "undigested")
  }
  found
}

refuse_changed <- function(kept, file) {
  if (is.null(kept$header$habanera)) stop("it has no header")
  if (!is_read_here(kept$header)) refuse_other_form(kept$header)
  expected <- kept$header$digests
  if (is.null(expected)) return(invisible())
  found <- part_digests(kept$header, typed_table(kept))
  changed <- names(found)[!vapply(names(found), function(part) identical(expected[[part]], found[[part]]), NA)]
  if (!length(changed)) return(invisible())
  refuse(sprintf("%s was changed since it was written, in its %s.", file_name(file), join_words(changed)), "file", NULL)
}

refuse_extension <- function(file, call) {
  refuse(sprintf("%s must end in .csv, .json or .parquet.", quoted(file)), "file", call)
}

# The table as written: what as.data.frame() gives, and last `squares` where they were counted; of another result its
# rows.
result_columns <- function(x) {
  if (!is_result(x)) return(as_written(if (is.data.frame(x)) with_part(plain_table(x), x) else kept_rows(x)))
  table <- if (inherits(x, "habanera_counts")) count_table(x) else as.data.frame(x)
  if (!is.null(x[["squares"]])) table[["squares"]] <- x[["squares"]]
  table
}

# A factor is its words.
as_written <- function(table) {
  table[] <- lapply(table, function(column) if (is.object(column)) as.character(column) else column)
  table
}

result_header <- function(x) {
  if (!is_result(x)) return(table_header(x))
  from <- x$provenance
  table <- result_columns(x)
  list(
    habanera = from$version, result = if (inherits(x, "habanera_counts")) "counts" else "distribution",
    words = in_words(from$experiment), experiment = as_plain(from$experiment), seed = from$seed,
    trials = from$trials, entries = from$entries, source = from$source,
    made_by = from$made_by, interrupted_of = from$interrupted_of, rows = nrow(table),
    squares = !is.null(x[["squares"]]),
    sums = x[["sums"]], hands = plain_hands(x[["hands"]]), form = result_form,
    columns = as.list(vapply(table, typeof, ""))
  )
}

# Of a result that is no counts: what it is, and what it says.
table_header <- function(x) {
  table <- result_columns(x)
  made <- how_made(x)
  kept <- inherits(x, "habanera_kept_table")
  list(habanera = package_version_text(), result = if (kept) attr(x, "of") else class(x)[1],
       words = if (inherits(x, "habanera_result")) in_words(x), seed = made$seed,
       made_by = Filter(Negate(is.null), made[c("r", "shell")]), rows = nrow(table),
       form = result_form, columns = as.list(vapply(table, typeof, "")))
}

# The header with a digest of each part of the result. Digests are of what is read back, so that reading finds the same.
digested_header <- function(x) {
  header <- result_header(x)
  c(header, list(digests = part_digests(from_json(to_json(header)), result_columns(x))))
}

header_parts <- list(sums = "sums", `seed and trials` = c("seed", "trials", "entries", "interrupted_of"),
                     experiment = "experiment", hands = "hands")

part_digests <- function(header, table) {
  header[c("digests", "digest")] <- NULL
  digest <- function(names) cli::hash_sha256(to_json(header[intersect(names, names(header))]))
  c(list(table = cli::hash_sha256(table_text(table))), lapply(header_parts, digest),
    list(words = digest(setdiff(names(header), unlist(header_parts)))))
}

table_text <- function(table) {
  columns <- lapply(table, function(column) if (is.double(column)) full_digits(column) else as.character(column))
  paste(c(names(table), unlist(columns, use.names = FALSE)), collapse = "\n")
}

# Recorded hands one after the other, each card by its row in the table.
plain_hands <- function(hands) {
  if (!is.null(hands)) list(size = ncol(hands$kinds), in_order = hands$in_order, cards = as.vector(t(hands$kinds)))
}

# The same out of a file, where they are those that the table counts.
hands_as_kept <- function(plain, n) {
  if (is.null(plain)) return(NULL)
  cards <- as.integer(plain$cards)
  stopifnot(tabulate(cards, length(n)) == n, length(cards) == sum(n), length(cards) %% plain$size == 0)
  list(kinds = matrix(cards, ncol = plain$size, byrow = TRUE), in_order = isTRUE(plain$in_order))
}

json_lines <- function(x) {
  sprintf("{\"provenance\": %s,\n\"table\": %s}", to_json(digested_header(x)), to_json(result_columns(x)))
}

read_json_result <- function(file) {
  kept <- list_data(file, NULL, simplifyDataFrame = FALSE)
  list(header = kept$provenance, table = kept$table)
}

csv_lines <- function(x) {
  table <- result_columns(x)
  table[] <- lapply(table, function(column) {
    if (is.double(column)) ifelse(is.na(column), NA, full_digits(column)) else column
  })
  csv_table_lines(table)
}

read_csv_result <- function(file) {
  beside <- provenance_file(file)
  if (!file.exists(beside)) {
    refuse(sprintf("%s has no %s beside it, which tells where a table comes from; read.csv() reads the table alone.",
                   file_name(file), quoted(basename(beside))), "file", NULL)
  }
  header <- list_data(beside, NULL, simplifyDataFrame = FALSE)
  if (!identical(header$digest, cli::hash_raw_sha256(read_bytes(file)))) {
    refuse(sprintf("%s was changed since it was written, in its table.", file_name(file)), "file", NULL)
  }
  list(header = header, table = as.list(read_csv_text(read_text_lines(file), file)))
}

parquet_bytes <- function(x) {
  rlang::check_installed("nanoparquet", "to write Parquet files.")
  nanoparquet::write_parquet(result_columns(x), ":raw:", metadata = c(habanera = to_json(digested_header(x))))
}

read_parquet_result <- function(file) {
  table <- parquet_table(file, NULL)
  list(header = json_data(parquet_note(file, "habanera"), file, NULL, simplifyDataFrame = FALSE),
       table = as.list(table))
}

# A result out of a header and columns, whatever file they came from. Fails when they do not hold together; in which
# way is of no use to anybody.
result_from <- function(kept, game) {
  header <- kept$header
  table <- typed_table(kept)
  if (!header$result %in% c("counts", "distribution")) return(kept_table(table, header))
  experiment <- restore_experiment(c(header$experiment, list(words = header$words)), game)
  from <- new_provenance(experiment, if (is.null(header$entries)) NA else header$entries, double_or_null(header$seed),
                         if (length(header$trials)) as.data.frame(header$trials),
                         header$source, header$made_by)
  from$version <- header$habanera
  from$interrupted_of <- double_or_null(header$interrupted_of)
  numbers <- c("n", "example_trial", "probability", if (isTRUE(header$squares)) "squares")
  outcomes <- table[setdiff(names(table), numbers)]
  if (identical(header$result, "distribution")) {
    probability <- checked_numbers(table[["probability"]])
    stopifnot(is.na(from$entries) || abs(sum(probability) - from$entries) <= 1e-6 * max(1, from$entries))
    return(new_distribution(result_kind(experiment), outcomes, probability, from))
  }
  n <- checked_numbers(table[["n"]])
  stopifnot(identical(header$result, "counts"), n == floor(n),
            sum(n) > 0 || nrow(table) == 0 || isTRUE(from$entries == 0),
            from$source != "simulation" || adds_up(experiment, n, trial_count(list(provenance = from))))
  found <- new_counts(result_kind(experiment), outcomes, n, table[["example_trial"]],
                      if (isTRUE(header$squares)) table[["squares"]], from,
                      if (!inherits(experiment, "habanera_kept")) read_sums(header$sums, experiment))
  found$hands <- hands_as_kept(header$hands, n)
  found
}

# Rows of another result, which say what it said and how it was made.
kept_table <- function(table, header) {
  made <- c(header$made_by, if (!is.null(header$seed)) list(seed = header$seed))
  structure(table, made = made, class = table_class("habanera_kept_table"), of = header$result, words = header$words)
}

#' @export
tell.habanera_kept_table <- function(x, rows = 30, ...) {
  if (!is.null(attr(x, "words"))) cat_wrapped(attr(x, "words"))
  print_head(plain_table(x), rows)
}

# The form of the files: raised when what they hold changes.
result_form <- 3

# Of single trials the form before it holds all that this one does.
is_read_here <- function(header) {
  identical(as.double(header$form), result_form) ||
    (identical(as.double(header$form), result_form - 1) && !length(header$sums))
}

refuse_other_form <- function(header) {
  refuse(sprintf(paste("The result was written by version %s in another form (%s; this version reads %s).",
                       "Make it anew: %s."),
                 header$habanera, said(header$form), said(result_form),
                 if (is.null(header$seed)) header$words else sprintf("%s, seed %s", header$words, said(header$seed))),
         "file", NULL)
}

typed_table <- function(kept) {
  columns <- kept$header$columns
  stopifnot(is.list(kept$table), is.list(columns), names(columns) %in% names(kept$table))
  table <- Map(typed_column, kept$table[names(columns)], columns)
  table <- as.data.frame(table, stringsAsFactors = FALSE, optional = TRUE)
  stopifnot(nrow(table) == kept$header$rows)
  table
}

checked_numbers <- function(values) {
  stopifnot(is.numeric(values), is.finite(values), values >= 0)
  values
}

double_or_null <- function(x) if (!is.null(x)) as.double(x)

restore_experiment <- function(plain, game = NULL) from_plain(structure(plain, class = plain$kind), game)

typed_column <- function(values, type) {
  # A single value that is missing stands alone in JSON.
  if (is.null(values)) values <- NA
  values <- unlist(lapply(values, function(value) if (is.null(value)) NA else value))
  if (type == "character") return(as.character(values))
  if (is.character(values)) values[!nzchar(values)] <- NA
  if (type == "logical") as.logical(values) else as.double(values)
}
