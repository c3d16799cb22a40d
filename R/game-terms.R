# Estimates of a game by names that can stand in a condition: "rounds", "rounds_p90", "winner_1", "ended_never_ends".

plain_name <- function(words) gsub("[^A-Za-z0-9]+", "_", words)

game_term_names <- function(game) {
  columns <- game$kind$columns[game$record]
  unlist(Map(function(column, name) {
    words <- category_words(column, game)
    if (is.null(words)) c(name, sprintf("%s_p%d", name, 1:99)) else paste(name, plain_name(words), sep = "_")
  }, columns, game$record), use.names = FALSE)
}

# The estimates of some of these names, with their intervals: `term`, `estimate`, `conf.low`, `conf.high`.
game_terms <- function(x, names) {
  estimates <- tidy(x)
  estimates$term <- sub("=", "_", estimates$term, fixed = TRUE)
  estimates$term <- ifelse(grepl("_", estimates$term), plain_name(estimates$term), estimates$term)
  rows <- lapply(names, function(name) {
    found <- match(name, estimates$term)
    if (!is.na(found)) return(term_row(name, estimates$estimate[found], estimates[["conf.low"]][found],
                                       estimates[["conf.high"]][found]))
    column <- sub("_p[0-9]+$", "", name)
    # A value that never came.
    if (column == name || !is.numeric(x$outcomes[[column]])) return(term_row(name, 0, 0, unseen_at_most(x)))
    at <- column_quantiles(x$outcomes[[column]], if (is.null(x$n)) x$probability else x$n,
                           as.numeric(sub("^.*_p", "", name)) / 100, inherits(x, "habanera_counts"))
    term_row(name, at$estimate, at$conf.low, at$conf.high)
  })
  do.call(rbind, rows)
}

# An exact value is its own interval.
term_row <- function(term, estimate, low, high) {
  data.frame(term = term, estimate = estimate, conf.low = if (is.null(low) || is.na(low)) estimate else low,
             conf.high = if (is.null(high) || is.na(high)) estimate else high)
}

unseen_at_most <- function(x) if (inherits(x, "habanera_counts")) none_seen_bound(trial_count(x)) else 0
