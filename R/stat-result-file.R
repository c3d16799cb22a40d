#' Results in files
#'
#' Writes counts or a distribution as CSV, JSON or Parquet, by the extension of the file, and reads
#' them back the same. A CSV begins with one line, `# ` and the provenance as JSON; a Parquet file
#' (package nanoparquet) has it in its metadata under the key `habanera`. Numbers have 17 significant
#' digits. Files are written whole or not at all.
#'
#' @param x Counts or a distribution.
#' @param file Path ending in `.csv`, `.json` or `.parquet`.
#' @return `write_result()`: `file`, invisibly. `read_result()`: the counts or distribution.
#' @section Errors: `habanera_error_file` for an unknown extension, a folder that cannot be written, or
#'   a file that holds no result or only a part of one.
#' @examples
#' x <- simulate(draws(deck_standard(), 5), nsim = 1000, seed = 1)
#' file <- tempfile(fileext = ".csv")
#' write_result(x, file)
#' identical(as.data.frame(read_result(file)), as.data.frame(x))
#' @export
write_result <- function(x, file) {
  call <- rlang::current_env()
  if (!is_result(x)) refuse(sprintf("`x` must be counts or a distribution, not %s.", said(x)))
  check_string(file)
  write <- switch(file_kind(file), csv = write_csv_result, json = write_json_result,
                  parquet = write_parquet_result, refuse_extension(file, call))
  write_whole_file(file, function(path) write(x, path), call)
}

#' @rdname write_result
#' @export
read_result <- function(file) {
  call <- rlang::current_env()
  check_readable(file, call)
  read <- switch(file_kind(file), csv = read_csv_result, json = read_json_result,
                 parquet = read_parquet_result, refuse_extension(file, call))
  refuse_if_fails(
    result_from(read(file)),
    sprintf("%s holds no result that write_result() wrote, or only a part.", file_name(file)),
    "file", call
  )
}

refuse_extension <- function(file, call) {
  refuse(sprintf("%s must end in .csv, .json or .parquet.", quoted(file)), "file", call)
}

# The table as written: what as.data.frame() gives, and `pairs` where they were counted.
result_columns <- function(x) {
  table <- as.data.frame(x)
  if (!is.null(x$pairs)) table$pairs <- x$pairs
  table
}

result_header <- function(x) {
  from <- x$provenance
  table <- result_columns(x)
  list(
    habanera = from$version, result = if (inherits(x, "habanera_counts")) "counts" else "distribution",
    words = in_words(from$experiment), experiment = as_plain(from$experiment), seed = from$seed,
    trials = from$trials, entries = from$entries, seconds = from$seconds, source = from$source,
    made_by = from$made_by, rows = nrow(table), columns = as.list(vapply(table, typeof, ""))
  )
}

# jsonlite writes at most 15 digits, so that doubles are handed to it ready made.
to_json <- function(x) {
  as.character(jsonlite::toJSON(whole_numbers_kept(x), auto_unbox = TRUE, na = "null",
                                null = "null", json_verbatim = TRUE))
}

whole_numbers_kept <- function(x) {
  if (is.list(x)) return(lapply(x, whole_numbers_kept))
  if (!is.double(x)) return(x)
  text <- ifelse(is.na(x), "null", full_digits(x))
  if (length(text) != 1) text <- sprintf("[%s]", paste(text, collapse = ","))
  structure(text, class = "json")
}

full_digits <- function(x) sprintf("%.17g", x)

from_json <- function(text) jsonlite::fromJSON(text, simplifyVector = TRUE, simplifyDataFrame = FALSE)

json_lines <- function(x) {
  sprintf("{\"provenance\": %s,\n\"table\": %s}", to_json(result_header(x)), to_json(result_columns(x)))
}

write_json_result <- function(x, path) {
  writeLines(enc2utf8(json_lines(x)), path, useBytes = TRUE)
}

read_json_result <- function(file) {
  kept <- from_json(paste(read_text_lines(file), collapse = "\n"))
  list(header = kept$provenance, table = kept$table)
}

csv_lines <- function(x) {
  table <- result_columns(x)
  table[] <- lapply(table, function(column) {
    if (is.double(column)) ifelse(is.na(column), NA, full_digits(column)) else column
  })
  c(paste("#", to_json(result_header(x))), fwrite_lines(table))
}

write_csv_result <- function(x, path) writeLines(enc2utf8(csv_lines(x)), path, useBytes = TRUE)

read_csv_result <- function(file) {
  lines <- read_text_lines(file)
  header <- from_json(sub("^# ", "", lines[1]))
  table <- data.table::fread(text = c(lines[-1], ""), header = TRUE, data.table = FALSE,
                             colClasses = "character", na.strings = NULL)
  list(header = header, table = as.list(table))
}

write_parquet_result <- function(x, path) {
  rlang::check_installed("nanoparquet", "to write Parquet files.")
  nanoparquet::write_parquet(result_columns(x), path,
                             metadata = c(habanera = to_json(result_header(x))))
}

read_parquet_result <- function(file) {
  rlang::check_installed("nanoparquet", "to read Parquet files.")
  metadata <- nanoparquet::read_parquet_metadata(file)$file_meta_data$key_value_metadata[[1]]
  list(header = from_json(metadata$value[metadata$key == "habanera"]),
       table = as.list(nanoparquet::read_parquet(file)))
}

# A result out of a header and columns, whatever file they came from.
result_from <- function(kept) {
  header <- kept$header
  table <- Map(typed_column, kept$table[names(header$columns)], header$columns)
  table <- as.data.frame(table, stringsAsFactors = FALSE, optional = TRUE)
  if (nrow(table) != header$rows) {
    stop(sprintf("it has %d rows, not %d", nrow(table), as.integer(header$rows)))
  }
  experiment <- restore_experiment(header$experiment)
  from <- new_provenance(experiment, header$entries, double_or_null(header$seed),
                         if (length(header$trials)) as.data.frame(header$trials),
                         double_or_null(header$seconds), header$source, header$made_by)
  from$version <- header$habanera
  outcomes <- table[setdiff(names(table), c("n", "example_trial", "probability", "pairs"))]
  if (header$result == "distribution") {
    return(new_distribution(result_kind(experiment), outcomes, table$probability, from))
  }
  new_counts(result_kind(experiment), outcomes, table$n, table$example_trial, table$pairs, from)
}

double_or_null <- function(x) if (!is.null(x)) as.double(x)

restore_experiment <- function(plain) from_plain(structure(plain, class = plain$kind))

typed_column <- function(values, type) {
  values <- unlist(lapply(values, function(value) if (is.null(value)) NA else value))
  if (type == "character") return(as.character(values))
  if (is.character(values)) values[!nzchar(values)] <- NA
  if (type == "logical") as.logical(values) else as.double(values)
}
