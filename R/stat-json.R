# Results as JSON, every number to the last bit.

# jsonlite writes at most 15 digits, so that doubles are handed to it ready made.
to_json <- function(x) {
  as.character(jsonlite::toJSON(whole_numbers_kept(x), auto_unbox = TRUE, na = "null",
                                null = "null", json_verbatim = TRUE))
}

whole_numbers_kept <- function(x) {
  if (is.list(x)) return(lapply(x, whole_numbers_kept))
  if (!is.double(x)) return(x)
  # JSON has no word for what is not finite.
  text <- ifelse(is.na(x), "null", ifelse(is.finite(x), full_digits(x), sprintf("\"%s\"", full_digits(x))))
  if (length(text) != 1) text <- sprintf("[%s]", paste(text, collapse = ","))
  structure(text, class = "json")
}

full_digits <- function(x) sprintf("%.17g", x)
