#' The working of an exact answer
#'
#' Writes the exact answer of a plain draw out in binomial coefficients and as a fraction: for each way that the cards
#' can fall into classes that the column tells apart, the product of the numbers of choices; with replacement, the
#' multinomial number of orders times the copies to their powers.
#'
#' @param x A question of [draws()] without stages, or its exact answer.
#' @param column Name of an outcome column; `NULL`: the first.
#' @return A `habanera_working`: a list with `classes` (data frame: `copies`, `cards` (text)), `terms` (data frame:
#'   `value` (text), `ways` (the product, text), `count` (number)), `total` (number of all hands) and `values` (data
#'   frame: `value`, `count`, `probability`). Counts are whole numbers up to 2^53; beyond that they are rounded, and no
#'   fraction is written.
#' @section Errors: `habanera_error_work` for questions with stages or `card_at()`, and for more than 5,000 terms.
#' @examples
#' show_working(draws(deck_standard(), 5, two_up = count(rank == "A") >= 2))
#' @export
show_working <- function(x, column = NULL) {
  check_given()
  call <- rlang::current_env()
  if (inherits(x, "habanera_distribution_question")) x <- x$provenance$experiment
  check_question(x, call)
  x <- question_of_column(x, column, call)
  if (!is_plain_question(x) || x$turns > 0 || (!x$replace && !is_uniform(x$shuffle))) {
    refuse("Only a plain draw of a given deck, shuffled uniformly, without stages and card_at(), can be written out.",
           "work")
  }
  classes <- question_classes(x)
  splits <- class_splits(classes, x, call)
  value <- split_values(x, classes, splits)
  place <- order(value)
  terms <- data.frame(value = value_text(value), ways = split_ways(classes$deck, splits, x$replace),
                      count = split_counts(classes$deck, splits, x$replace))[place, ]
  total <- if (x$replace) sum(classes$deck)^x$size else choose(sum(classes$deck), x$size)
  counts <- rowsum(terms$count, factor(terms$value, unique(terms$value)))[, 1]
  values <- data.frame(value = unique(terms$value), count = unname(counts), probability = unname(counts) / total)
  structure(
    list(classes = named_classes(x, classes), terms = terms, total = total, total_ways = total_ways(x), values = values,
         logical = is.logical(value), number = if (is.numeric(value)) sum(sort(unique(value)) * values$probability),
         column = names(x$columns), expression = expression_text(x$columns[[1]]), question = hand_in_words(x)),
    made = call_made(), class = result_class("habanera_working")
  )
}

question_of_column <- function(x, column, call) {
  column <- check_choice(if (is.null(column)) names(x$columns)[1] else column, names(x$columns), "column", call)
  x$columns <- x$columns[column]
  made_question(x, call)
}

most_splits <- 5000

# All ways to take `size` cards from the classes, a row each.
class_splits <- function(classes, x, call) {
  most <- if (x$replace) rep(x$size, length(classes$deck)) else pmin(classes$deck, x$size)
  splits <- matrix(0, 1, 0)
  for (i in seq_along(most)) {
    left <- x$size - rowSums(splits)
    later <- sum(most[-seq_len(i)])
    rows <- lapply(seq_along(left), function(row) {
      counts <- seq_len(most[i] + 1) - 1
      counts <- counts[counts <= left[row] & left[row] - counts <= later]
      cbind(splits[rep(row, length(counts)), , drop = FALSE], counts, deparse.level = 0)
    })
    splits <- do.call(rbind, rows)
    if (nrow(splits) > most_splits) {
      refuse(sprintf("The answer has more than %s terms to write out.", format_count(most_splits)), "work", call)
    }
  }
  splits
}

split_values <- function(x, classes, splits) {
  maker <- list(classes = classes, replace = TRUE, limit = most_splits)
  rows <- cbind(splits + rep(classes$held, each = nrow(splits)), matrix(0, nrow(splits), ncol(splits)))
  storage.mode(rows) <- "integer"
  index <- core_hands_indices(maker, list(rows = rows, chances = rep(0, nrow(rows))), x$spec$words)
  outcome_values(x$columns[[1]], x$words, index, NULL)
}

split_counts <- function(copies, splits, replace) {
  copies <- rep(copies, each = nrow(splits))
  each <- if (replace) copies^splits / factorial(splits) else choose(copies, splits)
  counts <- apply(matrix(each, nrow = nrow(splits)), 1, prod) * if (replace) factorial(rowSums(splits)) else 1
  round(counts)
}

split_ways <- function(copies, splits, replace) {
  apply(splits, 1, function(counts) {
    used <- counts > 0
    chosen <- sprintf("C(%s,%s)", whole_text(copies), whole_text(counts))
    if (!replace) return(paste(chosen[used | !any(used)], collapse = " "))
    orders <- if (sum(used) > 1) sprintf("%s!/(%s) ", sum(counts), paste0(counts[used], "!", collapse = " "))
    paste0(orders, paste(sprintf("%s^%s", whole_text(copies), whole_text(counts))[used], collapse = " "))
  })
}

total_ways <- function(x) {
  if (x$replace) sprintf("%s^%s", length(x$deck), x$size) else sprintf("C(%s,%s)", length(x$deck), x$size)
}

named_classes <- function(x, classes) {
  members <- split(x$pool$kinds$cards[x$pool$in_deck > 0], classes$of_kind[x$pool$in_deck > 0])
  there <- classes$deck > 0
  data.frame(copies = classes$deck[there], cards = vapply(members, join_some, "", 4), row.names = NULL)
}

#' @rawNamespace S3method(generics::tidy, habanera_working)
tidy.habanera_working <- function(x, ...) {
  data.frame(term = paste0(x$column, "=", x$values$value), estimate = x$values$probability, count = x$values$count)
}

#' @export
tell.habanera_working <- function(x, most = 12, ...) {
  cat_wrapped(sprintf("<working> %s = %s, %s", x$column, x$expression, x$question))
  writeLines(sprintf("  %s alike: %s", format_count(x$classes$copies), x$classes$cards))
  shown <- if (x$logical) "TRUE" else x$values$value
  for (value in intersect(x$values$value, shown)) writeLines(working_lines(x, value, most))
  if (x$logical && !"TRUE" %in% x$values$value) cat(x$column, "never holds.\n")
  if (!is.null(x$number)) cat("mean", x$column, "=", fraction_in_words(x$number), "\n")
  invisible(x)
}

working_lines <- function(x, value, most) {
  terms <- x$terms[x$terms$value == value, ]
  row <- x$values[x$values$value == value, ]
  name <- if (x$logical) x$column else sprintf("%s = %s", x$column, value)
  ways <- if (nrow(terms) <= most) paste(terms$ways, collapse = " + ") else {
    sprintf("%s + ... (%s products)", paste(utils::head(terms$ways, 3), collapse = " + "), format_count(nrow(terms)))
  }
  strwrap(sprintf("P(%s) = [%s] / %s = %s", name, ways, x$total_ways, working_value(row, x$total)),
          getOption("width"), exdent = 4)
}

# As a fraction in lowest terms where all numbers are whole, then as a decimal and "1 in".
working_value <- function(row, total) {
  often <- one_in(row$probability)
  decimal <- paste0(format(row$probability, digits = 10), if (nzchar(often)) sprintf(" (%s)", often))
  if (total > 2^53) return(decimal)
  divisor <- greatest_divisor(c(row$count, total))
  sprintf("%s / %s = %s/%s = %s", format_count(row$count), format_count(total), whole_text(row$count / divisor),
          whole_text(total / divisor), decimal)
}
