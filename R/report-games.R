# Pages of games played, and of rules varied.

#' @export
page_parts.habanera_counts_game <- function(x) game_parts(x)

#' @export
page_parts.habanera_distribution_game <- function(x) game_parts(x)

game_parts <- function(x) {
  summary <- summarise_game(x, rlang::quo(NULL), NULL)
  answer_parts(x, summary, list(Quantiles = quantile_table(summary),
                                `The rules` = rules_table(x$provenance$experiment)))
}

quantile_table <- function(summary) {
  quantiles <- summary$quantiles
  if (is.null(quantiles)) return(NULL)
  interval <- sub("^95%: ", "", interval_in_words(quantiles$conf.low, quantiles$conf.high, format_statistic))
  interval[is.na(interval)] <- ""
  table <- data.frame(outcome = quantiles$column, `share of games` = format_percent(quantiles$p),
                      `up to` = format_statistic(quantiles$estimate), check.names = FALSE)
  if (summary$simulated) table[["95%"]] <- interval
  report_table(table)
}

rules_table <- function(game) {
  kind <- kind_of(game)
  values <- vapply(unclass(game$rules)[rule_names(kind)], rule_text, "")
  meaning <- vapply(kind$rules, `[[`, "", "meaning")
  report_table(data.frame(rule = names(values), value = unname(values), meaning = meaning),
               sprintf("The rules of %s as played.", kind$title))
}

#' @export
page_parts.habanera_varied <- function(x) {
  parts <- parts_told(x)
  parts$code$r <- sprintf("x <- vary_rules(%s, %s, nsim = %s, seed = %s)", experiment_code(attr(x, "game"))$r,
                          values_code(attr(x, "values")), whole_code(trial_count(attr(x, "counts")[[1]])),
                          whole_code(attr(x, "seed")))
  parts
}

values_code <- function(values) {
  code <- vapply(values, function(each) {
    single <- all(vapply(each, function(value) is.atomic(value) && length(value) == 1, TRUE))
    if (single) rule_code(unlist(each)) else sprintf("list(%s)", paste(vapply(each, rule_code, ""), collapse = ", "))
  }, "")
  paste(names(values), "=", code, collapse = ", ")
}

#' @export
page_parts.habanera_counts_pairs <- function(x) with_code_of(parts_told(x), "compare", x)

#' @export
page_parts.habanera_counts_meeting <- function(x) with_code_of(parts_told(x), "round_robin", x)

with_code_of <- function(parts, name, x) {
  from <- x$provenance
  parts$code$r <- sprintf("x <- %s(%s, nsim = %s, seed = %s)", name, experiment_code(from$experiment)$r,
                          whole_code(trial_count(x)), whole_code(from$seed))
  parts$settings <- result_settings(x)
  parts
}

#' @export
page_parts.habanera_impact <- function(x) {
  counts <- attr(x, "counts")
  from <- counts$provenance$experiment
  parts <- parts_told(x)
  parts$code$r <- sprintf("x <- card_impact(%s, %s, %s, seat = %s, nsim = %s, seed = %s)",
                          experiment_code(from$game)$r, as_code(from$attribute), as_code(from$outcome),
                          whole_code(from$seat), whole_code(trial_count(counts)), whole_code(counts$provenance$seed))
  parts$settings <- result_settings(counts)
  parts
}
