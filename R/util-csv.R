# CSV files that people write: columns by name, numbers told with their line.

# The named columns (NULL: all) as text, with `line`, the line of the file that each row stands in; blank lines and what
# follows a `#` are passed over. Of columns in `optional` those that there are.
read_csv_columns <- function(file, columns, call, optional = character()) {
  check_readable(file, call)
  lines <- sub("#.*$", "", read_text_lines(file, call))
  kept <- which(nzchar(trimws(lines)))
  if (!length(kept)) refuse(sprintf("%s is empty.", file_name(file)), "file", call)
  fields <- fields_in(lines[kept], ",", file, call)
  if (is.na(fields[1])) {
    refuse(sprintf("%s, line %s: a quote in the heading has no pair.", file_name(file), format_count(kept[1])), "file",
           call)
  }
  uneven <- which(is.na(fields) | fields != fields[1])
  if (length(uneven)) {
    refuse(sprintf("%s, line %s: it has not the %s of the heading.", file_name(file), format_count(kept[uneven[1]]),
                   count_of(fields[1], "field")), "file", call)
  }
  table <- read_csv_text(lines[kept], file, call)
  refuse_columns_twice(names(table), file_name(file), call)
  if (is.null(columns)) columns <- names(table)
  missing <- setdiff(columns, names(table))
  if (length(missing)) {
    refuse(sprintf("%s has no column `%s`; it has %s.", file_name(file), missing[1],
                   join_words(paste0("`", names(table), "`"))), "file", call)
  }
  wanted <- c(columns, intersect(optional, names(table)))
  data.frame(lapply(table[wanted], trimws), line = kept[-1], check.names = FALSE)
}

refuse_columns_twice <- function(names, source, call) {
  twice <- names[duplicated(names)]
  if (length(twice)) refuse(sprintf("%s has the column `%s` twice.", source, twice[1]), "input", call)
}

# How many fields each line has; NA within a quote that goes on.
fields_in <- function(lines, separator, file, call) {
  read <- textConnection(lines)
  on.exit(close(read))
  fields <- utils::count.fields(read, sep = separator, quote = "\"", comment.char = "", blank.lines.skip = FALSE)
  # A quote without its pair runs over the ends of lines.
  if (length(fields) != length(lines)) {
    refuse(sprintf("%s is not a whole CSV table: a quote has no pair.", file_name(file)), "file", call)
  }
  fields
}

# Of such a table: a column as numbers, or whole ones from `least` on.
numbers_of_file <- function(table, column, file, call, least = -Inf, whole = FALSE) {
  place <- function(line) sprintf("%s, line %s", file_name(file), format_count(line))
  numbers_of_column(table, column, place, "file", call, least, whole)
}

# The same of a table whose places have a name: the class of the error is of a file or of an argument.
numbers_of_column <- function(table, column, place, kind, call, least = -Inf, whole = FALSE) {
  values <- written_numbers(table[[column]])
  bad <- which(!is.finite(values) | values < least | (whole & values != round(values)))
  if (!length(bad)) return(values)
  wanted <- paste0(if (whole) "whole ", "number",
                   if (is.finite(least)) paste(" of", format_statistic(least), "or more"))
  refuse(sprintf("%s, column `%s`: %s is no %s.", place(table[["line"]][bad[1]]), column,
                 said(table[[column]][bad[1]]), wanted), kind, call)
}
