# CSV files that people write: columns by name, numbers told with their line.

# The named columns as text, with `line`, the line of the file that each row stands in; blank lines and what follows a
# `#` are passed over. Of columns in `optional` those that there are.
read_csv_columns <- function(file, columns, call, optional = character()) {
  check_readable(file, call)
  lines <- sub("#.*$", "", read_text_lines(file, call))
  kept <- which(nzchar(trimws(lines)))
  if (!length(kept)) refuse(sprintf("%s is empty.", file_name(file)), "file", call)
  fields <- fields_in(lines[kept])
  uneven <- which(is.na(fields) | fields != fields[1])
  if (length(uneven)) {
    refuse(sprintf("%s, line %s: it has not the %s of the heading.", file_name(file), format_count(kept[uneven[1]]),
                   count_of(fields[1], "field")), "file", call)
  }
  table <- read_csv_text(lines[kept])
  missing <- setdiff(columns, names(table))
  if (length(missing)) {
    refuse(sprintf("%s has no column `%s`; it has %s.", file_name(file), missing[1],
                   join_words(paste0("`", names(table), "`"))), "file", call)
  }
  wanted <- c(columns, intersect(optional, names(table)))
  data.frame(lapply(table[wanted], trimws), line = kept[-1], check.names = FALSE)
}

# How many fields each line has; NA within a quote that goes on.
fields_in <- function(lines) {
  read <- textConnection(lines)
  on.exit(close(read))
  utils::count.fields(read, sep = ",", quote = "\"", blank.lines.skip = FALSE)
}

# Of such a table: a column as numbers, or whole ones from `least` on.
numbers_of_file <- function(table, column, file, call, least = -Inf, whole = FALSE) {
  values <- suppressWarnings(as.numeric(table[[column]]))
  bad <- which(!is.finite(values) | values < least | (whole & values != round(values)))
  if (!length(bad)) return(values)
  wanted <- paste0(if (whole) "whole ", "number",
                   if (is.finite(least)) paste(" of", format_statistic(least), "or more"))
  refuse(sprintf("%s, line %s, column `%s`: %s is no %s.", file_name(file), format_count(table[["line"]][bad[1]]),
                 column, quoted(table[[column]][bad[1]]), wanted), "file", call)
}
