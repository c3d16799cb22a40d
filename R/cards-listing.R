# A listing is what deck_from() reads: a catalogue and how many copies of each card there are.

read_listing <- function(source, call) {
  if (is.data.frame(source)) return(new_listing(source, "The data frame", "your catalogue", NULL, call))
  if (!is.character(source) || length(source) != 1 || is.na(source)) {
    refuse(sprintf("`catalogue` must be a data frame or the path of a file, not %s.", said(source)),
           call = call)
  }
  check_utf8(source, "catalogue", call)
  data <- read_listing_file(source, call)
  title <- if (source == "-") "standard input" else basename(source)
  new_listing(data, file_name(source), title, sprintf("deck_from(%s)", as_code(source)), call)
}

new_listing <- function(data, source, title, code, call) {
  names(data) <- usual_columns(names(data))
  checked <- catalogue_data(data, source, call)
  copies <- catalogue_copies(data[["copies"]], checked$card, source, call)
  if (sum(copies) > most_cards) {
    refuse(sprintf("A deck has at most %s cards; %s lists %s.", format_count(most_cards), source,
                   format_count(sum(copies))), "catalogue", call)
  }
  recipe <- if (!is.null(code)) new_recipe(code, copies)
  list(catalogue = new_catalogue(checked, title, recipe = recipe), copies = copies)
}

read_listing_file <- function(file, call) {
  lines <- read_table_lines(file, call)
  if (!any(nzchar(trimws(lines)))) refuse(sprintf("%s is empty.", file_name(file)), "file", call)
  read <- switch(listing_kind(file, lines), csv = , tsv = , xlsx = listing_from_csv, json = listing_from_json,
                 yaml = , yml = listing_from_yaml, listing_from_lines)
  refuse_if_fails(read(lines, file, call), sprintf("Cannot read %s as a catalogue.", file_name(file)),
                  "file", call)
}

# What comes by a stream has no ending: a head of several columns tells a CSV, a bracket JSON.
listing_kind <- function(file, lines) {
  if (!is_stream(file)) return(file_kind(file))
  first <- lines[match(TRUE, nzchar(trimws(lines)))]
  if (is.na(first)) return("txt")
  if (grepl("^[[:space:]]*[[{]", first)) return("json")
  head <- if (grepl("[,;\t]", first)) tolower(split_row(first, separator_of(first)))
  if (any(c("card", "name", "cards") %in% head)) "csv" else "txt"
}

listing_from_csv <- function(lines, file, call) {
  lines <- lines[!grepl("^#", lines)]
  if (!length(lines)) refuse(sprintf("%s is empty.", file_name(file)), "file", call)
  separator <- separator_of(lines[1])
  if (separator == " ") separator <- ","
  refuse_uneven(lines, separator, file, call)
  data <- fread_whole(text = one_text(lines), header = TRUE, sep = separator, na.strings = "")
  if (is.null(data)) refuse(sprintf("%s is not a whole CSV table.", file_name(file)), "file", call)
  undouble_quotes(data)
}

refuse_uneven <- function(lines, separator, file, call) {
  fields <- fields_in(lines, separator, file, call)
  uneven <- which(nzchar(trimws(lines)) & (is.na(fields) | fields != fields[1]))
  if (!length(uneven)) return(invisible())
  values <- fields[uneven[1]]
  refuse(sprintf("%s is not a whole CSV table: the row %s %s where the head has %s.", file_name(file),
                 quoted(shortened(lines[uneven[1]])),
                 if (is.na(values)) "has a quote without its pair" else paste("has", count_of(values, "value")),
                 format_count(fields[1])), "file", call)
}

listing_from_json <- function(lines, file, call) {
  rows_of(json_data(paste(lines, collapse = "\n"), file, call, simplifyVector = FALSE), file, call)
}

listing_from_yaml <- function(lines, file, call) {
  rows_of(yaml_data(paste(lines, collapse = "\n"), file, call), file, call)
}

# A list of cards, each a list of attributes, as a data frame; what a card lacks is NA.
rows_of <- function(cards, file, call) {
  is_rows <- is.list(cards) && length(cards) && is.null(names(cards)) &&
    all(vapply(cards, function(card) is.list(card) && !is.null(names(card)), TRUE))
  if (!is_rows) {
    refuse(sprintf("%s must be a list of cards, each with `card` and its attributes.",
                   file_name(file)), "file", call)
  }
  columns <- unique(unlist(lapply(cards, names)))
  data <- lapply(columns, function(column) {
    values <- lapply(cards, function(card) if (is.null(card[[column]])) NA else card[[column]])
    if (any(lengths(values) != 1)) {
      refuse(sprintf("%s: `%s` must be one plain value for each card.", file_name(file), column),
             "file", call)
    }
    unlist(values)
  })
  as.data.frame(rlang::set_names(data, columns), stringsAsFactors = FALSE, optional = TRUE)
}

listing_from_lines <- function(lines, file, call) {
  text <- trimws(sub("#.*$", "", lines))
  used <- which(nzchar(text))
  shape <- "^(-?[0-9.]+)[[:space:]]+(.+)$"
  # A bare list of names is one of each.
  if (!any(grepl("^-?[0-9]", text[used]))) return(data.frame(card = text[used], copies = "1"))
  bad <- used[!grepl(shape, text[used])]
  if (length(bad)) {
    refuse(sprintf("%s: line %d must be a number of copies and a name, like \"3 plum\", not %s.",
                   file_name(file), bad[1], quoted(lines[bad[1]])), "file", call)
  }
  data.frame(card = sub(shape, "\\2", text[used]), copies = sub(shape, "\\1", text[used]))
}
