# Tables and lists: CSV, spreadsheets, JSON and YAML, read with the libraries' readers and bounded before they begin.

# Lines of text, or of the first sheet of a spreadsheet.
read_table_lines <- function(file, call = rlang::caller_env()) {
  if (file_kind(file) != "xlsx") return(read_text_lines(file, call))
  check_readable(file, call)
  if (!requireNamespace("readxl", quietly = TRUE)) {
    refuse(sprintf("Reading %s needs the package readxl; or save the sheet as CSV.", file_name(file)), "file", call)
  }
  sheet <- tryCatch(readxl::read_excel(file, col_names = FALSE, col_types = "text", .name_repair = "minimal"),
                    error = function(cnd) NULL)
  if (is.null(sheet)) refuse(sprintf("%s is no spreadsheet that can be read.", file_name(file)), "file", call)
  csv_table_lines(as.data.frame(sheet))[-1]
}

# Lines of CSV under a head as a data frame of text.
read_csv_text <- function(lines, file, call = NULL) {
  table <- fread_whole(text = one_text(lines), header = TRUE, sep = ",", colClasses = "character", na.strings = NULL,
                       strip.white = FALSE)
  if (is.null(table)) refuse(sprintf("%s is not a whole CSV table.", file_name(file)), "file", call)
  undouble_quotes(table)
}

# Of several texts fread() would make a temporary file, for which there may be no room.
one_text <- function(lines) paste(c(lines, ""), collapse = "\n")

# fread(), or NULL where it had anything to complain of. It must come to its end even then: left half way, it complains
# in the next call.
fread_whole <- function(...) {
  complains <- FALSE
  table <- withCallingHandlers(
    tryCatch(data.table::fread(..., data.table = FALSE, showProgress = FALSE), error = function(cnd) NULL),
    warning = function(cnd) {
      complains <<- TRUE
      rlang::cnd_muffle(cnd)
    }
  )
  if (!complains) table
}

# fread() leaves doubled quotes as they stand.
undouble_quotes <- function(table) {
  text <- vapply(table, is.character, TRUE)
  table[text] <- lapply(table[text], gsub, pattern = "\"\"", replacement = "\"", fixed = TRUE)
  table
}

# What divides the values of a line.
separator_of <- function(line) {
  for (separator in c(",", ";", "\t")) if (grepl(separator, line, fixed = TRUE)) return(separator)
  " "
}

# The values of a line, trimmed.
split_row <- function(line, separator) {
  trimws(strsplit(trimws(line), if (separator == " ") "[[:space:]]+" else separator)[[1]])
}

# A table as CSV; fwrite() minds the quotes.
csv_table_lines <- function(table) {
  # To the console it would take a % in a text for a format.
  file <- tempfile(fileext = ".csv")
  on.exit(unlink(file))
  data.table::fwrite(table, file, quote = "auto", na = "", showProgress = FALSE)
  readLines(file, encoding = "UTF-8", warn = FALSE)
}

json_table_lines <- function(table) {
  as.character(jsonlite::toJSON(table, dataframe = "rows", digits = NA, na = "null", pretty = TRUE))
}

# Lists out of YAML or JSON, by the ending of the file. `...` go to json_data().
list_data <- function(file, call, ...) {
  text <- paste(read_text_lines(file, call), collapse = "\n")
  if (file_kind(file) == "json") json_data(text, file, call, ...) else yaml_data(text, file, call)
}

# Lists out of a file's text. What goes deeper, or repeats itself by reference, is made to fill the memory.
deepest_nesting <- 50

yaml_data <- function(text, file, call) {
  bare <- gsub("\"[^\"\n]*\"|'[^'\n]*'|#[^\n]*", "", text)
  if (grepl("(^|[[:space:],\\[{:-])[&*][[:alnum:]_]", bare)) {
    refuse(sprintf("%s: references (& and *) are not read; write every value out, texts with * in quotes.",
                   file_name(file)), "file", call)
  }
  refuse_nested(bare, file, call)
  quietly_read(yaml::yaml.load(text, eval.expr = FALSE, handlers = plain_scalars), file, "YAML", call)
}

# Only true and false are logical (N may be a suit), and a number with a leading 0 is not taken as octal.
plain_scalars <- list(
  `int#oct` = identity, `int#hex` = identity, `int#base60` = identity, `float#base60` = identity,
  `bool#yes` = function(text) if (tolower(text) == "true") TRUE else text,
  `bool#no` = function(text) if (tolower(text) == "false") FALSE else text
)

# `...` go to jsonlite::fromJSON().
json_data <- function(text, file, call, ...) {
  refuse_nested(gsub("\"([^\"\\\\]|\\\\.)*\"", "", text), file, call)
  refuse_named_twice(quietly_read(jsonlite::fromJSON(text, ...), file, "JSON", call), file, call)
}

# What we wrote ourselves.
from_json <- function(text) jsonlite::fromJSON(text, simplifyVector = TRUE, simplifyDataFrame = FALSE)

refuse_named_twice <- function(data, file, call) {
  if (!is.list(data)) return(data)
  twice <- names(data)[duplicated(names(data)) & nzchar(names(data))]
  if (length(twice)) refuse(sprintf("%s says `%s` twice.", file_name(file), twice[1]), "file", call)
  for (part in data) refuse_named_twice(part, file, call)
  data
}

parquet_table <- function(file, call) {
  if (!requireNamespace("nanoparquet", quietly = TRUE)) {
    refuse("Reading Parquet needs the package nanoparquet.", "file", call)
  }
  refuse_if_fails(as.data.frame(nanoparquet::read_parquet(file)), sprintf("%s is no Parquet file.", file_name(file)),
                  "file", call)
}

# The text kept under a key; NULL where there is none.
parquet_note <- function(file, key) {
  notes <- nanoparquet::read_parquet_metadata(file)$file_meta_data$key_value_metadata[[1]]
  notes$value[match(key, notes$key)]
}

refuse_nested <- function(text, file, call) {
  marks <- utf8ToInt(gsub("[^][{}]", "", text))
  if (!length(marks)) return(invisible())
  depth <- cumsum(ifelse(marks %in% utf8ToInt("[{"), 1, -1))
  if (max(depth) > deepest_nesting) {
    refuse(sprintf("%s is nested more than %d deep.", file_name(file), deepest_nesting), "file", call)
  }
}

# The reader's words are about its own innards, but for the place.
quietly_read <- function(code, file, format, call) {
  tryCatch(suppressWarnings(code), error = function(cnd) {
    line <- sub("^.*line ([0-9]+).*$", "\\1", conditionMessage(cnd))
    where <- if (grepl("^[0-9]+$", line)) sprintf(": something is wrong near line %s", line) else ""
    refuse(sprintf("%s is no %s%s.", file_name(file), format, where), "file", call)
  })
}
