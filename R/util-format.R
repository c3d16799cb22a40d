# Numbers and lists in words.

# Each number by itself: a fraction among whole numbers gives these no decimals.
format_count <- function(x) {
  whole <- is.na(x) | x == round(x) | abs(x) == Inf
  text <- character(length(x))
  text[whole] <- format(x[whole], big.mark = ",", scientific = FALSE, trim = TRUE, digits = 15)
  text[!whole] <- vapply(x[!whole], format, "", big.mark = ",", scientific = FALSE, trim = TRUE, digits = 15)
  text[is.na(x)] <- "NA"
  text
}

# Three significant digits, as 0.0123 or 1.2e-07.
format_number <- function(x, digits = 3) {
  ifelse(is.na(x), "NA", sub("\\.$", "", formatC(x, digits = digits, format = "g", flag = "#")))
}

format_fixed <- function(x, decimals) {
  ifelse(is.na(x), "NA", formatC(x, digits = decimals, format = "f", big.mark = ","))
}

format_p_value <- function(p) {
  ifelse(is.na(p), "NA", ifelse(p < 1e-15, "< 1e-15", paste("=", format_number(p, 2))))
}

format_seconds <- function(seconds) {
  if (seconds < 1) return(sprintf("%.2f s", seconds))
  if (seconds < 120) return(sprintf("%.1f s", seconds))
  sprintf("%.1f min", seconds / 60)
}

# Signs that the console's locale may not have.
plus_minus <- function() if (cli::is_utf8_output()) "\u00b1" else "+-"
at_least_sign <- function() if (cli::is_utf8_output()) "\u2265" else ">="

# "3 cards", "1 card".
count_of <- function(n, noun, plural = paste0(noun, "s")) {
  paste(format_count(n), if (n == 1) noun else plural)
}

# A long line of words as lines that fit the console.
console_lines <- function(lines) as.character(unlist(lapply(lines, strwrap, getOption("width"), exdent = 2)))

cat_wrapped <- function(...) writeLines(strwrap(paste0(...), getOption("width"), exdent = 2))

sentence <- function(words) paste0(toupper(substr(words, 1, 1)), substring(words, 2))

# A piece of somebody's text, for an error to repeat.
shortened <- function(text, most = 60) {
  ifelse(nchar(text, "chars", allowNA = TRUE) <= most, text, paste0(substr(text, 1, most - 3), "..."))
}

quoted <- function(x) paste0("\"", x, "\"")

join_words <- function(x, last = "and") {
  if (length(x) < 2) return(paste(x))
  paste(paste(x[-length(x)], collapse = ", "), last, x[length(x)])
}

# The first few of a list, and how many more there are.
join_some <- function(x, most = 5) {
  if (length(x) <= most) return(join_words(x))
  sprintf("%s and %s more", paste(x[seq_len(most)], collapse = ", "),
          format_count(length(x) - most))
}

# A value somebody gave, for an error to repeat.
said <- function(x) {
  if (is.null(x)) return("NULL")
  if (is.function(x)) return("a function")
  if (length(x) != 1 || is.list(x)) {
    return(sprintf("%s (%s)", count_of(length(x), "value"), class(x)[1]))
  }
  if (is.character(x) && !is.na(x)) return(if (validUTF8(x)) quoted(shortened(x)) else "bytes that are no UTF-8 text")
  if (is.numeric(x) && is.finite(x)) return(format(x, digits = 15))
  as.character(x)
}

# The choice nearest to a misspelt word, or NULL when none is near.
nearest_word <- function(word, choices) {
  if (!is.character(word) || length(word) != 1 || is.na(word) || !validUTF8(word) || !length(choices)) return(NULL)
  distance <- utils::adist(tolower(word), tolower(choices))[1, ]
  best <- which.min(distance)
  if (distance[best] <= max(1, min(3, nchar(word) %/% 2))) choices[best] else NULL
}

# The end of an error about a word: a full stop, or a suggestion.
did_you_mean <- function(word, choices) {
  near <- nearest_word(word, choices)
  if (is.null(near)) "." else sprintf("; did you mean %s?", quoted(near))
}

# A value as R code that gives it back, on one line.
as_code <- function(x) paste(trimws(deparse(x, width.cutoff = 500L)), collapse = " ")

# A word as the shell takes it.
shell_word <- function(x) if (grepl("^[A-Za-z0-9_./:,=-]+$", x)) x else shQuote(x)

whole_code <- function(x) {
  if (x >= 1e5 && x %% 10^floor(log10(x)) == 0) return(sub("e\\+0?", "e", sprintf("%.0e", x)))
  sprintf("%.0f", x)
}

# A probability with its fraction, where one with a modest denominator is exactly it: "0.148 = 4/27".
fraction_in_words <- function(p) {
  fraction <- nearest_fraction(p)
  decimal <- format_number(p, 4)
  if (is.null(fraction)) return(decimal)
  sprintf("%s = %s", decimal, paste(whole_text(fraction), collapse = "/"))
}

whole_text <- function(x) format(x, scientific = FALSE, trim = TRUE)

# By continued fractions (Khinchin 1964, ch. I): numerator and denominator, or NULL. Every number is near some
# fraction; so one is only believed when a chance number would be as near to one with so small a denominator
# less than once in a thousand.
nearest_fraction <- function(x, tolerance = 1e-14) {
  most <- sqrt(1e-3 / (tolerance * max(abs(x), 1e-3)))
  before <- c(0, 1)
  now <- c(1, 0)
  rest <- x
  for (i in 1:30) {
    whole <- floor(rest + 1e-9)
    after <- whole * now + before
    if (after[2] > most) return(NULL)
    if (abs(after[1] / after[2] - x) <= tolerance * max(abs(x), 1e-3)) return(after)
    before <- now
    now <- after
    rest <- 1 / (rest - whole)
  }
  NULL
}

# A share in percent, to so many digits.
format_percent <- function(x, digits = 3) {
  ifelse(is.na(x), "NA", paste0(trimws(formatC(100 * x, digits = digits, format = "g")), "%"))
}

# A share that is not all must not read as if it were.
share_below_one <- function(share) {
  ifelse(share < 1 & share > 0.9999, paste("all but", format_percent(1 - share, 2)), format_percent(share, 4))
}

signed_percent <- function(share) paste0(if (share < 0) "-", format_percent(abs(share), 4))

# A number of any size, to four digits: 0.1708, 28.61, 69,100; whole numbers as they are.
format_statistic <- function(x) {
  ifelse(is.na(x), "", ifelse(abs(x) >= 1000 | x == round(x), format_count(round(x)), format_number(x, 4)))
}

# Of several whole numbers; 1 where all are 0.
greatest_divisor <- function(x) {
  divisor <- Reduce(function(a, b) if (b == 0) a else Recall(b, a %% b), abs(x), 0)
  if (divisor == 0) 1 else divisor
}

# The numbers that texts are, NA where they are none: as.numeric() would take hexadecimal ones and exponents by D, too.
written_numbers <- function(text) {
  if (is.numeric(text)) return(as.numeric(text))
  numbers <- suppressWarnings(as.numeric(text))
  numbers[grepl("[xXdDpP]", text)] <- NA
  numbers
}
