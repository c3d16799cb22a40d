#' Figures of games
#'
#' Of counts and distributions: bars of every outcome, numbers of many values put together. Of a trace: each seat's
#' pile over the rounds. Of varied rules: one outcome against the rules, with its interval. Of two games on the same
#' deals: each difference with its interval. Of [card_impact()]: the effects with their intervals.
#'
#' @param object Counts or a distribution of a game, or what `replay()`, `vary_rules()`, `compare()` or
#'   `card_impact()` gave.
#' @param column Names of recorded outcomes to draw; `NULL`: all, up to six.
#' @param outcome The term drawn against the rules, such as "rounds_p90", "winner=1" or "ended=never_ends"; any
#'   percentile of a recorded number can be asked for.
#' @param seconds_per_round What a round takes at the table: the figure is then in minutes. Of a number of rounds only.
#' @param within With `seconds_per_round`: minutes to mark, such as 15.
#' @param ... Not used.
#' @return A ggplot object.
#' @examples
#' autoplot(simulate(game_war(), nsim = 2000, seed = 1))
#' autoplot(replay(game_war(), seed = 1))
#' varied <- vary_rules(game_war(), face_down = 0:3, cards_each = c(6, 13), nsim = 500, seed = 1)
#' autoplot(varied, seconds_per_round = 6, within = 15)
#' @name autoplot.games
NULL

#' @rdname autoplot.games
#' @rawNamespace S3method(ggplot2::autoplot, habanera_counts_game)
autoplot.habanera_counts_game <- function(object, column = NULL, ...) {
  game_figure(object, column, rlang::current_env())
}

#' @rdname autoplot.games
#' @rawNamespace S3method(ggplot2::autoplot, habanera_distribution_game)
autoplot.habanera_distribution_game <- function(object, column = NULL, ...) {
  game_figure(object, column, rlang::current_env())
}

game_figure <- function(x, column, call) {
  summary <- summarise_game(x, rlang::quo(NULL), call)
  # Money in uneven steps needs an axis of numbers, on which categories have no place.
  if (is.null(column) && any(vapply(x$outcomes[is_money(x$outcomes)], is_uneven, NA))) {
    column <- utils::head(names(Filter(is.numeric, x$outcomes[asked_columns(x$outcomes)])), most_panels)
  }
  columns <- drawn_columns(x, column, call)
  run <- if (summary$simulated) run_in_words(x) else "exact"
  said <- if (any(is_money(x$outcomes))) utils::head(summary_lines(summary), 2) else summary$notes
  value_bars(summary, columns) +
    ggplot2::labs(
      title = "How the game goes", subtitle = wrapped(paste(said, collapse = " ")),
      caption = wrapped(sprintf("%s; %s.%s", sentence(in_words(x$provenance$experiment)), run,
                                if (summary$simulated) " Lines: 95% intervals." else ""))
    ) + figure_theme() + ggplot2::theme(panel.grid.major.x = ggplot2::element_blank())
}

# Numbers below nothing, or between whole ones, are of money: their mean says more than the middle of them.
is_money <- function(outcomes) {
  vapply(outcomes, function(values) {
    is.numeric(values) && any(values < 0 | values != round(values), na.rm = TRUE)
  }, NA)
}

is_uneven <- function(values) length(unique(round(diff(sort(unique(values))), 9))) > 1

#' @rdname autoplot.games
#' @rawNamespace S3method(ggplot2::autoplot, habanera_game_trace)
autoplot.habanera_game_trace <- function(object, ...) {
  game <- attr(object, "game")
  course <- kind_of(game)$course(object)
  data <- course$data
  data$series <- in_order(data$series)
  loop <- course$loop
  note <- c(course$note, if (!is.null(loop)) sprintf("Dashed: from round %s on it goes round, %s long.",
                                                     format_count(loop$first), count_of(loop$length, "round")))
  ggplot2::ggplot(data, ggplot2::aes(x = .data$x, y = .data$cards, colour = .data$series)) +
    ggplot2::geom_step(linewidth = 0.7) +
    (if (!is.null(loop)) {
      ggplot2::geom_vline(xintercept = loop$first, colour = figure_colours[["line"]], linetype = "dashed")
    }) +
    ggplot2::scale_colour_manual(values = seat_colours(nlevels(data$series)), name = "") +
    ggplot2::scale_x_continuous(expand = ggplot2::expansion(c(0.01, 0.02)), breaks = whole_breaks,
                                labels = format_count) +
    ggplot2::scale_y_continuous(limits = c(0, NA), expand = ggplot2::expansion(c(0, 0.05)), breaks = whole_breaks) +
    ggplot2::labs(
      x = course$x, y = course$y, title = wrapped(sentence(outcome_in_words(object)), 90),
      caption = wrapped(paste(c(sprintf("%s; seed %s, trial %s.", sentence(in_words(game)),
                                        whole_code(attr(object, "seed")), format_count(attr(object, "trial"))),
                                note), collapse = " "))
    ) + figure_theme() + ggplot2::theme(legend.position = "top", legend.justification = "left")
}

# Okabe & Ito 2008, in the order in which they differ most.
seat_colours <- function(seats) {
  rep_len(c("#0072B2", "#D55E00", "#009E73", "#CC79A7", "#E69F00", "#56B4E9", "#000000", "#999999"), seats)
}

#' @rdname autoplot.games
#' @rawNamespace S3method(ggplot2::autoplot, habanera_varied)
autoplot.habanera_varied <- function(object, outcome = NULL, seconds_per_round = NULL, within = NULL, ...) {
  call <- rlang::current_env()
  data <- varied_points(object, outcome, seconds_per_round, call)
  if (!is.null(within) && is.null(seconds_per_round)) refuse("`within` goes with `seconds_per_round`.")
  rules <- attr(object, "rules")
  data$x <- in_order(as.character(data[[rules[1]]]))
  data$colour <- if (length(rules) > 1) in_order(as.character(data[[rules[2]]])) else ""
  spread <- ggplot2::position_dodge(width = if (length(rules) > 1) 0.3 else 0)
  figure <- ggplot2::ggplot(data, ggplot2::aes(x = .data$x, y = .data$estimate, colour = .data$colour,
                                               group = .data$colour)) +
    within_mark(within) +
    ggplot2::geom_line(position = spread, alpha = 0.4, na.rm = TRUE) +
    ggplot2::geom_linerange(ggplot2::aes(ymin = .data$conf.low, ymax = .data$conf.high), position = spread,
                            linewidth = 0.9, na.rm = TRUE) +
    ggplot2::geom_point(ggplot2::aes(shape = .data$all_ended), position = spread, size = 2.6, fill = "white",
                        na.rm = TRUE) +
    ggplot2::scale_shape_manual(values = c(`TRUE` = 19, `FALSE` = 21), guide = "none")
  figure + varied_scales(data, rules, seconds_per_round, attr(data, "is_chance")) +
    varied_words(object, rules, data, seconds_per_round) + figure_theme()
}

within_mark <- function(within) {
  if (is.null(within)) return(NULL)
  list(ggplot2::geom_hline(yintercept = within, colour = figure_colours[["line"]], linetype = "dashed"),
       ggplot2::annotate("text", x = -Inf, y = within, label = count_of(within, "minute"), hjust = -0.1,
                         vjust = -0.5, colour = figure_colours[["line"]], size = 3.6))
}

varied_scales <- function(data, rules, seconds_per_round, is_chance) {
  values <- data$estimate[is.finite(data$estimate) & data$estimate > 0]
  wide <- !is_chance && length(values) && max(values) / min(values) > 20
  y <- if (wide) ggplot2::scale_y_log10(labels = function(y) format_count(signif(y, 3))) else {
    ggplot2::scale_y_continuous(limits = c(0, NA), labels = if (is_chance) function(y) format_percent(y) else
      function(y) format_count(signif(y, 3)), expand = ggplot2::expansion(c(0, 0.08)))
  }
  colours <- rep_len(seat_colours(6), nlevels(data$colour) + 1)
  panels <- rules[-(1:2)]
  list(
    y, ggplot2::scale_colour_manual(values = colours, name = if (length(rules) > 1) rules[2] else "",
                                    guide = if (length(rules) > 1) "legend" else "none"),
    if (length(panels)) ggplot2::facet_wrap(panels, labeller = ggplot2::label_both)
  )
}

varied_words <- function(x, rules, data, seconds_per_round) {
  outcome <- attr(data, "outcome")
  open <- any(is.infinite(c(data$conf.low, data$conf.high)))
  all_ended <- all(data$all_ended)
  in_minutes <- !is.null(seconds_per_round)
  unit <- if (in_minutes) sprintf("minutes, at %s seconds a round", format_count(seconds_per_round)) else outcome
  ggplot2::labs(
    x = rules[1], y = unit,
    title = sprintf("%s by %s", sentence(outcome_title(outcome, in_minutes, kind_of(attr(x, "game"))$rounds)),
                    join_words(rules)),
    caption = wrapped(sprintf("%s; %s each%s, seed %s. Lines: 95%% intervals%s.%s",
                              sentence(game_in_words(attr(x, "game"), rules)),
                              count_of(trial_count(attr(x, "counts")[[1]]), "game"),
                              if (varied_deals_match(x)) ", on the same deals" else "", whole_code(attr(x, "seed")),
                              if (open) ", open where they reach the edge" else "",
                              if (!all_ended) " Hollow: not all games ended; told of those that did." else ""))
  )
}

# `rounds` is the outcome that counts them.
outcome_title <- function(outcome, in_minutes, rounds) {
  name <- if (in_minutes) "minutes" else sub("_p[0-9.]+$", "", outcome)
  if (!grepl("_p[0-9.]+$", outcome)) return(if (in_minutes) "mean length in minutes" else outcome)
  share <- sub("^.*_p", "", outcome)
  if (in_minutes || identical(name, rounds)) return(sprintf("%s within which %s%% of games end", name, share))
  sprintf("%s: %s%% of games have at most so many", name, share)
}

# The estimates drawn, a row per combination of rules.
varied_points <- function(x, outcome, seconds_per_round, call) {
  counts <- attr(x, "counts")
  record <- attr(x, "game")$record
  numbers <- record[!is_category(attr(x, "game"), record)]
  if (is.null(outcome)) outcome <- usual_outcome(numbers, kind_of(attr(x, "game"))$rounds, x$term[1])
  check_string(outcome, "outcome", call)
  rows <- lapply(counts, varied_term, outcome, numbers, unique(x$term), call)
  data <- cbind(attr(x, "grid"), do.call(rbind, rows), all_ended = games_all_ended(x, outcome))
  if (!is.null(seconds_per_round)) {
    check_between(seconds_per_round, 0, 1e6, "seconds_per_round", call)
    if (!identical(sub("_p[0-9.]+$", "", outcome), kind_of(attr(x, "game"))$rounds)) {
      refuse(sprintf("`seconds_per_round` turns rounds into minutes, not %s.", quoted(outcome)), call = call)
    }
    timed <- c("estimate", "conf.low", "conf.high")
    data[timed] <- data[timed] * seconds_per_round / 60
  }
  structure(data, outcome = outcome, is_chance = grepl("=", outcome, fixed = TRUE))
}

# By combination: whether the games of which the outcome tells are all of them.
games_all_ended <- function(x, outcome) {
  of_ended <- is_of_ended(recorded_of_term(outcome), attr(x, "game"))
  vapply(attr(x, "counts"), function(counts) !of_ended || isTRUE(share_ended(counts)$estimate == 1), TRUE)
}

# Of how long games last the long ones are asked for; of other numbers the mean.
usual_outcome <- function(numbers, rounds, first) {
  if (!length(numbers)) first else if (identical(numbers[1], rounds)) paste0(rounds, "_p90") else numbers[1]
}

varied_term <- function(counts, outcome, numbers, terms, call) {
  percentile <- sub("_p[0-9.]+$", "", outcome)
  if (percentile != outcome && percentile %in% numbers) {
    p <- as.numeric(sub("^.*_p", "", outcome)) / 100
    check_between(p, 0, 1, "outcome", call)
    return(column_quantiles(counts$outcomes[[percentile]], counts$n, p, TRUE))
  }
  check_choice(outcome, terms, "outcome", call)
  found <- tidy(counts)
  row <- found[found$term == outcome, c("estimate", "conf.low", "conf.high"), drop = FALSE]
  if (nrow(row)) return(row)
  data.frame(estimate = 0, conf.low = 0, conf.high = none_seen_bound(trial_count(counts)))
}

#' @rdname autoplot.games
#' @rawNamespace S3method(ggplot2::autoplot, habanera_counts_pairs)
autoplot.habanera_counts_pairs <- function(object, ...) {
  data <- tidy(object)
  chance <- grepl("=", data$term, fixed = TRUE)
  data$panel <- ifelse(chance, "difference of chances, in percentage points", "difference of means")
  data[chance, c("estimate", "conf.low", "conf.high")] <- 100 * data[chance, c("estimate", "conf.low", "conf.high")]
  from <- object$provenance$experiment
  effect_figure(data, data$term) +
    ggplot2::facet_wrap(ggplot2::vars(.data$panel), scales = "free", ncol = 1) +
    ggplot2::labs(
      x = NULL, y = NULL, title = paste0("What the other rules change",
                                         if (deals_match(from$x, from$y)) ", on the same deals"),
      caption = wrapped(sprintf("From %s to %s; %s. Lines: 95%% intervals.", in_words(from$x), in_words(from$y),
                                run_in_words(object)))
    ) + figure_theme()
}

#' @rdname autoplot.games
#' @rawNamespace S3method(ggplot2::autoplot, habanera_impact)
autoplot.habanera_impact <- function(object, ...) {
  counts <- attr(object, "counts")
  from <- counts$provenance$experiment
  data <- plain_table(object)
  data <- utils::head(data, 26)
  data <- data[order(data$estimate), , drop = FALSE]
  chance <- from$outcome == "win"
  if (chance) data[c("estimate", "conf.low", "conf.high")] <- 100 * data[c("estimate", "conf.low", "conf.high")]
  effect_figure(data, in_order(data$value)) +
    ggplot2::labs(
      y = NULL, x = if (chance) "change of the chance to win, in percentage points" else
        sprintf("change of the mean of %s", from$outcome),
      title = sprintf("What one more %s is worth", if (from$attribute == "card") "card" else
        sprintf("card of a %s", from$attribute)),
      subtitle = if (nrow(data) < nrow(object)) sprintf("The %d largest of %d effects.", nrow(data), nrow(object)),
      caption = wrapped(sprintf("%s; %s. Lines: 95%% intervals.", sentence(in_words(from)),
                                run_in_words(counts)))
    ) + figure_theme()
}

# A row for each effect: its estimate and interval beside 0.
effect_figure <- function(data, labels) {
  data$label <- labels
  ggplot2::ggplot(data, ggplot2::aes(x = .data$estimate, y = .data$label)) +
    ggplot2::geom_vline(xintercept = 0, colour = figure_colours[["line"]]) +
    ggplot2::geom_segment(ggplot2::aes(x = .data$conf.low, xend = .data$conf.high, yend = .data$label),
                          colour = figure_colours[["data"]], linewidth = 0.9, na.rm = TRUE) +
    ggplot2::geom_point(colour = figure_colours[["data"]], size = 2.6)
}
