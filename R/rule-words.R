# Values of rules as people, the shell, R and files have them. What is no plain value, such as players, has methods of
# its own where it is made.

# A value in words.
rule_text <- function(value) UseMethod("rule_text")

#' @export
rule_text.default <- function(value) {
  if (is.null(value)) return("NULL")
  if (is_cards(value)) return(deck_in_words(value))
  if (is.data.frame(value)) {
    columns <- if (ncol(value) > 4) count_of(ncol(value), "column") else join_words(names(value))
    return(sprintf("%s of %s", count_of(nrow(value), "row"), columns))
  }
  if (!is.numeric(value)) {
    return(paste(if (is.null(names(value))) value else paste(names(value), "=", value), collapse = ", "))
  }
  text <- vapply(value, number_in_words, "", USE.NAMES = FALSE)
  paste(if (is.null(names(value))) text else paste(names(value), "=", text), collapse = ", ")
}

# Rules by name, with their values.
rules_in_words <- function(rules) paste(names(rules), "=", vapply(rules, rule_text, ""), collapse = ", ")

# A whole number, a short decimal, or a fraction.
number_in_words <- function(x, mark = ",") {
  if (!is.finite(x)) return(as.character(x))
  if (x == round(x)) return(format(x, big.mark = mark, scientific = FALSE, trim = TRUE, digits = 15))
  short <- format(x, digits = 15, scientific = FALSE, trim = TRUE)
  if (nchar(short) <= 8) return(short)
  fraction <- nearest_fraction(x)
  if (is.null(fraction)) format(x, digits = 17) else paste(whole_text(fraction), collapse = ":")
}

# As the shell types it, NULL where it cannot.
typed_rule <- function(value) UseMethod("typed_rule")

#' @export
typed_rule.default <- function(value) {
  if (is.data.frame(value) || is_cards(value)) return(NULL)
  if (is.null(value)) return("NULL")
  typed <- function(number) number_in_words(number, mark = "")
  text <- if (is.numeric(value)) vapply(value, typed, "", USE.NAMES = FALSE) else as.character(value)
  paste(if (is.null(names(value))) text else paste0(names(value), "=", text), collapse = ",")
}

# R code that gives it, to the last bit.
rule_code <- function(value) UseMethod("rule_code")

#' @export
rule_code.default <- function(value) {
  if (is.data.frame(value)) {
    return(sprintf("data.frame(%s)", paste(names(value), "=", vapply(value, rule_code, ""), collapse = ", ")))
  }
  paste(trimws(deparse(value, 500L, control = c("keepNA", "keepInteger", "niceNames", "digits17"))), collapse = " ")
}

# As files hold it: decks in words where there are any, what has names by name, a table row by row.
plain_rule <- function(value) UseMethod("plain_rule")

#' @export
plain_rule.default <- function(value) {
  if (is_cards(value)) {
    name <- deck_shell_name(value)
    return(if (is.null(name)) plain_deck(value) else name)
  }
  if (is.data.frame(value)) {
    return(lapply(seq_len(nrow(value)), function(row) lapply(value[row, , drop = FALSE], plain_number)))
  }
  value <- if (is.list(value)) value else plain_number(value)
  if (is.null(names(value)) || is.list(value)) value else as.list(value)
}

# What takes many digits goes as a fraction, so that nothing of it is lost.
plain_number <- function(value) {
  if (!is.double(value) || all(value == round(value, 6))) return(value)
  vapply(value, number_in_words, "", mark = "")
}
