# The numbers of answers, all in one shape.

# What tidy() tells of an answer, in the one shape that all answers have: a row for each number, with what tells its row
# apart (`what`), what number it is (`term`), and its error and interval, where it has them.
answer_table <- function(value) {
  if (is.null(value)) return(NULL)
  table <- plain_table(as.data.frame(generics::tidy(value)))
  table <- table[vapply(table, function(column) is.atomic(column) || is.factor(column), NA)]
  # Its rows are bets.
  if (inherits(value, "habanera_edge")) table <- cbind(bet = table[["term"]], within(table, term <- "edge"))
  keys <- telling_columns(table)
  estimates <- all(c("term", "estimate") %in% names(table)) && is.numeric(table[["estimate"]])
  what <- rows_in_words(table[setdiff(keys, if (estimates) "term")])
  if (estimates) {
    rest <- intersect(setdiff(estimate_columns, "term"), names(table))
    return(data.frame(what = what, term = as.character(table[["term"]]), lapply(table[rest], as.double)))
  }
  numbers <- setdiff(names(table)[vapply(table, function(column) is.numeric(column) || is.logical(column), NA)], keys)
  do.call(rbind, lapply(numbers, function(name) {
    data.frame(what = what, term = name, estimate = as.double(table[[name]]))
  }))
}

# What tells rows apart: what stands before an estimate, or as many columns as make them different.
telling_columns <- function(table) {
  first <- intersect(estimate_columns, names(table))
  if (all(c("term", "estimate") %in% first)) return(names(table)[seq_len(match("estimate", names(table)) - 1)])
  for (count in seq_along(table)) {
    if (!anyDuplicated(table[seq_len(count)]) && !is.double(table[[1]])) return(names(table)[seq_len(count)])
  }
  names(table)[vapply(table, is.character, NA)]
}

rows_in_words <- function(keys) {
  if (!length(keys)) return("")
  told <- Map(function(values, name) {
    if (is.numeric(values) || is.logical(values)) ifelse(is.na(values), "", paste(name, "=", format_all(values))) else
      ifelse(is.na(values), "", as.character(values))
  }, keys, names(keys))
  trimws(do.call(paste, unname(told)))
}

format_all <- function(values) vapply(values, function(value) as_code(unname(value)), "")

# One table of all, the run first.
joined_tables <- function(tables) {
  tables <- Filter(function(table) !is.null(table) && nrow(table), tables)
  columns <- c("run", "what", estimate_columns)
  if (!length(tables)) tables <- list(data.frame(what = character(), term = character(), estimate = numeric()))
  joined <- as.data.frame(data.table::rbindlist(tables, fill = TRUE, idcol = "run"))
  joined[intersect(columns, names(joined))]
}
