# Rules that are more than a number or a word. Each takes its value as R has it, as files hold it and as the shell types
# it, and has one form afterwards.

#' @rdname own_rules
#' @export
rule_fraction <- function(name, default, from, to, meaning, without = NULL, tries = list()) {
  check_given()
  call <- rlang::current_env()
  check_rule_words(name, meaning, without, call)
  check_number(from, -Inf, Inf, "from", call)
  check_number(to, from, Inf, "to", call)
  allowed <- paste0("a number or a fraction such as 3:2, ", range_words(from, to),
                    if (!is.null(without)) paste(", or NULL:", without))
  new_rule(name, default, allowed, meaning, function(value, name, call) {
    if (is.null(value) && !is.null(without)) return(NULL)
    number <- if (is.numeric(value) && length(value) == 1) as.double(value) else fraction_value(value)
    if (is.na(number) || number < from || number > to) {
      refuse(sprintf("`%s` must be %s, not %s.", name, allowed, said(value)), call = call)
    }
    number
  }, tries = tries)
}

fraction_value <- function(text) {
  if (!rlang::is_string(text)) return(NA_real_)
  parts <- written_numbers(strsplit(text, "[:/]")[[1]])
  if (!length(parts) %in% 1:2 || anyNA(parts) || (length(parts) == 2 && parts[2] <= 0)) return(NA_real_)
  if (length(parts) == 1) parts else parts[1] / parts[2]
}

# Several numbers in their order; `named`: each has a name, as in c("0" = 1, "1" = 2).
# With `without`, what no value (NULL) means.
rule_numbers <- function(name, default, from, to, meaning, named = FALSE, size = NULL, without = NULL) {
  allowed <- sprintf("%s, each %s%s%s", if (is.null(size)) "numbers" else count_of(size, "number"),
                     range_words(from, to), if (named) ", by name" else "",
                     if (!is.null(without)) paste(", or NULL:", without) else "")
  new_rule(name, default, allowed, meaning, function(value, name, call) {
    if (is.null(value) && !is.null(without)) return(NULL)
    numbers <- listed_numbers(value)
    names <- names(numbers)
    fits <- length(numbers) > 0 && !anyNA(numbers) && all(numbers >= from & numbers <= to) &&
      (is.null(size) || length(numbers) == size)
    fits <- fits && if (named) !is.null(names) && all(nzchar(names)) && !anyDuplicated(names) else is.null(names)
    if (!fits) refuse(sprintf("`%s` must be %s, not %s.", name, allowed, said(value)), call = call)
    numbers
  })
}

# c(1, 2), list(1, 2), "1, 2", and by name c(a = 1), list(a = 1), "a=1, b=2"; NULL where they are none.
listed_numbers <- function(value) {
  if (rlang::is_string(value)) value <- if (validUTF8(value)) typed_list(value)
  if (is.list(value) && all(lengths(value) == 1)) value <- unlist(value)
  names <- names(value)
  numbers <- if (is.numeric(value)) as.double(value) else if (is.character(value)) {
    vapply(unname(value), fraction_value, 0, USE.NAMES = FALSE)
  }
  if (is.null(names) || is.null(numbers)) numbers else rlang::set_names(numbers, names)
}

typed_list <- function(text) {
  parts <- trimws(strsplit(text, ",", fixed = TRUE)[[1]])
  if (!any(grepl("=", parts, fixed = TRUE))) return(parts)
  rlang::set_names(trimws(sub("^.*=", "", parts)), ifelse(grepl("=", parts, fixed = TRUE),
                                                         trimws(sub("=[^=]*$", "", parts)), ""))
}

# A table: a data frame, a list of rows, or a file (.csv, .json, .yaml) with these columns: a list by name of "text" or
# "number".
rule_table <- function(name, default, columns, meaning) {
  allowed <- sprintf("a data frame or a file with the columns %s", join_words(names(columns)))
  new_rule(name, default, allowed, meaning, beside = TRUE, check = function(value, name, call) {
    table <- if (rlang::is_string(value)) read_listing_file(value, call) else if (is.data.frame(value)) value else {
      if (is.list(value) && is.null(names(value))) rows_of(value, name, call)
    }
    refuse_columns_twice(names(table), sprintf("`%s`", name), call)
    missing <- setdiff(names(columns), names(table))
    if (is.null(table) || !nrow(table) || length(missing)) {
      came <- if (is.null(table)) said(value) else if (length(missing)) paste("one without", quoted(missing[1]))
      refuse(sprintf("`%s` must be %s, not %s.", name, allowed, if (is.null(came)) "an empty one" else came),
             call = call)
    }
    typed_columns(as.data.frame(table), columns, name, call)
  })
}

typed_columns <- function(table, columns, name, call) {
  typed <- Map(function(type, column) {
    values <- table[[column]]
    if (type == "text") return(as.character(values))
    numbers <- vapply(as.character(values), fraction_value, 0, USE.NAMES = FALSE)
    bad <- which(is.na(numbers))
    if (length(bad)) {
      refuse(sprintf("`%s`, row %d: `%s` must be a number, not %s.", name, bad[1], column, said(values[bad[1]])),
             call = call)
    }
    numbers
  }, columns, names(columns))
  as.data.frame(typed, stringsAsFactors = FALSE, optional = TRUE)
}

# A condition on cards in the language of questions: text, or an expression as quote() gives it. Kept as text; NULL
# where there is none.
rule_condition <- function(name, default, meaning) {
  new_rule(name, default, "a condition on the attributes of a card, such as rank == \"A\", or NULL", meaning,
           function(value, name, call) {
             if (is.null(value)) return(NULL)
             if (rlang::is_formula(value)) value <- rlang::f_rhs(value)
             if (!is.language(value)) value <- parse_expression(check_string(value, name, call), name, call)
             expression_text(value)
           })
}

# For each kind in a deck whether a condition holds for it, which must do so for one.
kinds_meeting <- function(condition, deck, name, call) {
  catalogue <- catalogue_of(deck)
  expr <- checked_attributes(parse_expression(condition, name, call), catalogue, NULL, call)
  pool <- list(data = catalogue$data[kinds_of(deck)$codes, , drop = FALSE])
  holds <- condition_values(expr, pool, condition, call) > 0
  if (!any(holds)) {
    refuse(sprintf("`%s`: `%s` holds for no card of the deck%s", name, condition, unknown_value(expr, pool)), "rules",
           call)
  }
  holds
}
