# Counts and distributions of games are read as those of questions, with quantiles of every number besides.

#' @rdname tidy.habanera_counts
#' @section Games: Besides, for each number the quantiles `rounds_p10`, `rounds_p50` and `rounds_p90`, with intervals by
#'   order statistics and no standard error.
#' @export
tidy.habanera_counts_game <- function(x, conf.level = 0.95, ...) {
  with_quantiles(NextMethod(), quantile_rows(x, conf.level))
}

#' @export
tidy.habanera_distribution_game <- function(x, ...) with_quantiles(NextMethod(), quantile_rows(x))

#' @rdname summary.habanera_counts_outcomes
#' @export
summary.habanera_counts_game <- function(object, given = NULL, ...) {
  summarise_game(object, rlang::enquo(given), rlang::current_env())
}

#' @rdname summary.habanera_counts_outcomes
#' @export
summary.habanera_distribution_game <- function(object, given = NULL, ...) {
  summarise_game(object, rlang::enquo(given), rlang::current_env())
}

summarise_game <- function(x, given, call) {
  found <- summarise_outcomes(x, given, call)
  rows <- given_rows(checked_given(given, x, call), x$outcomes, call)
  found$quantiles <- quantile_rows(x, rows = rows)
  found$head <- in_short(x, rows)
  found$notes <- c(spread_in_words(x, rows), course_in_words(x, rows), legend_in_words(x, rows))
  class(found) <- c("habanera_game_summary", class(found))
  found
}

#' @export
tidy.habanera_game_summary <- function(x, ...) with_quantiles(NextMethod(), x$quantiles)

# Categories are told value by value already; a table is for numbers that have few values.
#' @export
tell.habanera_game_summary <- function(x, rows = 12, ...) {
  told <- x$estimates$column[grepl("=", x$estimates$term, fixed = TRUE)]
  shown <- x
  shown$values <- x$values[!x$values$column %in% told, , drop = FALSE]
  tell.habanera_answer_summary(shown, rows, ...)
  invisible(x)
}

# "rounds: one in ten up to 60 (95%: 52 to 66), half up to 150 (140 to 161), nine in ten up to 330 (at least 290); from
# 3 to 1,204 (trial 77)."
spread_in_words <- function(x, rows = all_rows(x$outcomes)) {
  quantiles <- quantile_rows(x, rows = rows)
  said <- vapply(unique(quantiles$column), function(name) {
    at <- quantiles_in_words(quantiles[quantiles$column == name, ])
    values <- x$outcomes[[name]][rows]
    # What is always the same is told already.
    if (length(unique(values[!is.na(values)])) == 1) return(NA_character_)
    if (all(is.na(values))) return(sprintf("%s: no game has one.", name))
    most <- max(values, na.rm = TRUE)
    example <- if (!is.null(x$example_trial)) min(x$example_trial[rows][which(values == most)])
    sprintf("%s: one in ten up to %s, half up to %s, nine in ten up to %s; from %s to %s%s.", name, at[1], at[2], at[3],
            format_statistic(min(values, na.rm = TRUE)), format_statistic(most),
            if (is.null(example) || !is.finite(example)) "" else sprintf(" (trial %s)", format_count(example)))
  }, "", USE.NAMES = FALSE)
  said[!is.na(said)]
}

quantiles_in_words <- function(quantiles) {
  intervals <- interval_in_words(quantiles$conf.low, quantiles$conf.high, format_statistic)
  intervals[-1] <- sub("^95%: ", "", intervals[-1])
  paste0(format_statistic(quantiles$estimate), ifelse(is.na(intervals), "", sprintf(" (%s)", intervals)))
}

#' @export
named_estimates.habanera_game <- function(experiment) {
  unlist(lapply(experiment$record, function(name) {
    words <- category_words(experiment, name)
    if (!is.null(words)) return(paste(name, plain_name(words), sep = "_"))
    if (!is_category(experiment, name)) c(name, percentile_names(name))
  }))
}

# What came, in a sentence or two of the game's own.
in_short <- function(x, rows = all_rows(x$outcomes)) {
  weight <- if (is.null(x$n)) x$probability else x$n
  game <- x$provenance$experiment
  c(kind_of(game)$in_short(x$outcomes[rows, , drop = FALSE], weight[rows], game),
    shoes_in_words(x, weight))
}

# How many rounds a shoe holds, with the error of that where it can be had: rounds are counted by shoe.
shoes_in_words <- function(x, weight) {
  if (!holds_rounds(x$provenance$experiment)) return(NULL)
  if (is.null(x$n)) return(sprintf("A shoe holds %s rounds on average.", format_number(sum(weight), 4)))
  trials <- trial_count(x)
  mean <- sum(weight) / trials
  squares <- sums_of_counts(x)$product["entries", "entries"]
  error <- sqrt(max(0, squares / trials - mean^2) / (trials - 1))
  half <- if (isTRUE(error > 1e-9)) student_half_width(error, trials - 1) else NA_real_
  interval <- interval_in_words(mean - half, mean + half, function(end) format_number(end, 4))
  if (is.na(interval)) return(sprintf("Each of the shoes held %s rounds.", format_statistic(mean)))
  sprintf("A shoe holds %s rounds on average (%s).", format_number(mean, 4), interval)
}

# What the words of an outcome mean, for those that came.
legend_in_words <- function(x, rows = all_rows(x$outcomes)) {
  columns <- x$provenance$experiment$columns
  unlist(lapply(names(x$outcomes), function(name) {
    legend <- columns[[name]]$legend
    came <- intersect(names(legend), x$outcomes[[name]][rows])
    if (length(came)) sprintf("%s: %s.", came, legend[came])
  }))
}

# Of which games a number tells, where it is not all of them.
course_in_words <- function(x, rows = all_rows(x$outcomes)) {
  weight <- (if (is.null(x$n)) x$probability else x$n)[rows]
  outcomes <- x$outcomes[rows, , drop = FALSE]
  columns <- x$provenance$experiment$columns
  numbers <- Filter(function(name) anyNA(outcomes[[name]]), names(outcomes))
  told_of <- vapply(numbers, function(name) columns[[name]]$told_of, "")
  vapply(unique(told_of), function(games) {
    names <- numbers[told_of == games]
    share <- 1 - sum(weight[is.na(outcomes[[names[1]]])]) / sum(weight)
    sprintf("%s: of the %s of games %s.", join_words(names), share_below_one(share), games)
  }, "", USE.NAMES = FALSE)
}

#' @export
first_answer.habanera_counts_game <- function(x) {
  c(console_lines(in_short(x)), estimate_lines(outcome_estimates(x), TRUE),
    console_lines(c(spread_in_words(x), course_in_words(x))), sprintf("%s.", sentence(run_in_words(x))))
}

#' @export
tell.habanera_distribution_game <- function(x, rows = 10, ...) {
  cat_wrapped("<distribution> ", in_words(x$provenance$experiment), ", exact")
  writeLines(c(console_lines(in_short(x)), estimate_lines(exact_estimates(x$outcomes, x$probability), FALSE),
               console_lines(c(spread_in_words(x), course_in_words(x)))))
  print_head(as.data.frame(x), rows)
  invisible(x)
}
