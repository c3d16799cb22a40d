#' @rdname autoplot
#' @param column For questions: names of outcome columns to draw; `NULL`: all, up to six.
#' @rawNamespace S3method(ggplot2::autoplot, habanera_counts_outcomes)
autoplot.habanera_counts_outcomes <- function(object, column = NULL, ...) {
  question_figure(object, column, rlang::current_env())
}

#' @rdname autoplot
#' @rawNamespace S3method(ggplot2::autoplot, habanera_distribution_outcomes)
autoplot.habanera_distribution_outcomes <- function(object, column = NULL, ...) {
  question_figure(object, column, rlang::current_env())
}

question_figure <- function(x, column, call) {
  columns <- drawn_columns(x, column, call)
  summary <- summarise_outcomes(x, rlang::quo(NULL), call)
  figure <- if (is.null(summary$estimates[["turn"]])) value_bars(summary, columns) else turn_lines(summary, columns)
  figure + question_figure_words(x, summary) + figure_theme()
}

most_panels <- 6

drawn_columns <- function(x, column, call) {
  known <- asked_columns(x$outcomes)
  if (is.null(column)) {
    # A column that cannot vary shows nothing.
    vary <- vapply(known, function(name) length(unique(x$outcomes[[name]])) > 1, TRUE)
    return(utils::head(if (any(vary)) known[vary] else known, most_panels))
  }
  unknown <- setdiff(column, known)
  if (!is.character(column) || length(unknown)) {
    refuse(sprintf("`column` must name outcome columns (%s), not %s%s", join_words(known), said(unknown[1]),
                   did_you_mean(unknown[1], known)), call = call)
  }
  column
}

question_figure_words <- function(x, summary) {
  run <- if (summary$simulated) run_in_words(x) else "exact"
  about <- sprintf("%s; %s.", sentence(in_words(x$provenance$experiment)), run)
  turns <- !is.null(summary$estimates[["turn"]])
  marks <- if (!summary$simulated) NULL else if (turns) "Band: 95% interval. Points: exact, where known." else {
    "Bars: simulated, with 95% intervals. Points: exact, where known."
  }
  ggplot2::labs(
    title = if (turns) "How it goes, turn by turn" else "How often each outcome comes",
    subtitle = if (summary$simulated) agreement_in_words(summary$estimates),
    caption = wrapped(paste(c(about, marks), collapse = " "))
  )
}

# A panel of bars for each column.
value_bars <- function(summary, columns) {
  data <- do.call(rbind, lapply(columns, function(name) {
    binned_values(summary$values[summary$values$column == name, , drop = FALSE], summary$simulated)
  }))
  data$panel <- factor(data$panel, levels = unique(data$panel))
  # Money lies on an axis of numbers, on which what is paid seldom stands as far out as it is.
  number <- written_numbers(data$value)
  on_numbers <- !anyNA(number) && any(number < 0 | number != round(number))
  data$label <- if (on_numbers) number else in_order(paste(data$column, data$value, sep = "\r"))
  fill <- if (summary$simulated) "#9DC3DD" else figure_colours[["data"]]
  bars <- if (!on_numbers) ggplot2::geom_col(fill = fill, width = 0.75) else {
    half <- stats::ave(number, data$column, FUN = bar_width) / 2
    ggplot2::geom_rect(ggplot2::aes(xmin = number - half, xmax = number + half, ymin = 0, ymax = .data$estimate),
                       fill = fill)
  }
  figure <- ggplot2::ggplot(data, ggplot2::aes(x = .data$label, y = .data$estimate)) +
    bars +
    ggplot2::facet_wrap(ggplot2::vars(.data$panel), scales = "free", ncol = if (length(columns) > 1) 2 else 1) +
    (if (on_numbers) ggplot2::scale_x_continuous() else ggplot2::scale_x_discrete(labels = shown_labels(data))) +
    ggplot2::scale_y_continuous(labels = function(p) format_percent(p), limits = c(0, NA),
                                expand = ggplot2::expansion(c(0, 0.08))) +
    ggplot2::labs(x = NULL, y = NULL)
  if (summary$simulated) figure <- figure + interval_marks(data)
  figure
}

# As wide as the nearest two stand apart, and wide enough to be seen.
bar_width <- function(x) if (length(x) < 2) 0.75 else max(0.75 * min(diff(sort(x))), diff(range(x)) / 150)

most_bars <- 60

# Numbers of many values put together in bins of one width, each named by its lower end; the last one takes the
# hundredth part that lies far out.
binned_values <- function(values, simulated) {
  number <- written_numbers(values$value)
  values$panel <- values$column
  if (nrow(values) <= most_bars || anyNA(number)) return(values)
  most <- number[match(TRUE, cumsum(values$estimate) >= 0.99 - 1e-9)]
  ends <- pretty(c(number[1], most), n = 30)
  ends <- ends[ends <= most]
  bin <- factor(ends[findInterval(number, ends)], levels = ends)
  added <- function(x) as.vector(tapply(x, bin, sum, default = 0))
  open_ended <- if (max(number) > ends[length(ends)] + ends[2] - ends[1]) c(rep("", length(ends) - 1), "+") else ""
  found <- data.frame(column = values$column[1], value = paste0(format_count(ends), open_ended),
                      estimate = added(values$estimate), exact = NA_real_,
                      panel = sprintf("%s, each bar %s", values$column[1], format_count(ends[2] - ends[1])))
  if (!simulated) return(found[names(values)])
  if (!anyNA(values$exact)) found$exact <- added(values$exact)
  found$n <- added(values$n)
  interval <- wilson_interval(found$n, if (anyNA(values$conf.low)) NA_real_ else sum(found$n))
  found$conf.low <- interval$low
  found$conf.high <- interval$high
  found$statistic <- NA_real_
  found[names(values)]
}

interval_marks <- function(data) {
  known <- data[!is.na(data$conf.low), , drop = FALSE]
  list(
    if (nrow(known)) {
      ggplot2::geom_linerange(ggplot2::aes(ymin = .data$conf.low, ymax = .data$conf.high), data = known,
                              colour = figure_colours[["data"]], linewidth = 0.9)
    },
    if (any(!is.na(data$exact))) {
      ggplot2::geom_point(ggplot2::aes(y = .data$exact), colour = figure_colours[["surprise"]], shape = 18, size = 2.6,
                          na.rm = TRUE)
    }
  )
}

# The values under the bars; where they would run into each other, only every so many.
shown_labels <- function(data) {
  # Words stand on several lines; long names need more room, of which a panel alone has twice as much.
  words <- is.na(written_numbers(data$value))
  data$value[words] <- vapply(data$value[words], wrapped, "", 11)
  widths <- vapply(strsplit(data$value, "\n", fixed = TRUE), function(lines) max(0, nchar(lines)), 0)
  across <- if (length(unique(data$column)) > 1) 50 else 110
  room <- tapply(widths, data$column, function(width) across / max(4, width))
  step <- ceiling(table(data$column) / room)
  place <- stats::ave(seq_len(nrow(data)), data$column, FUN = seq_along)
  step <- as.integer(step[data$column])
  # The last bar of a number cut off is always named; those close before it are not.
  is_open <- endsWith(data$value, "+")
  last <- stats::ave(place * is_open, data$column, FUN = max)
  shown <- is_open | ((place - 1) %% step == 0 & (last == 0 | place <= last - step))
  rlang::set_names(ifelse(shown, data$value, ""), as.character(data$label))
}

# A panel for each column, its chance or mean against the turns.
turn_lines <- function(summary, columns) {
  data <- summary$estimates[summary$estimates$column %in% columns, , drop = FALSE]
  data$panel <- factor(ifelse(data$is_chance, paste("chance:", data$term), paste("mean:", data$term)))
  data$panel <- factor(data$panel, levels = unique(data$panel))
  figure <- ggplot2::ggplot(data, ggplot2::aes(x = .data[["turn"]], y = .data$estimate))
  if (summary$simulated) {
    figure <- figure + ggplot2::geom_ribbon(ggplot2::aes(ymin = .data$conf.low, ymax = .data$conf.high),
                                            fill = figure_colours[["band"]])
  }
  figure <- figure + ggplot2::geom_line(colour = figure_colours[["data"]], linewidth = 0.8)
  figure <- figure + if (summary$simulated) {
    ggplot2::geom_point(ggplot2::aes(y = .data$exact), colour = figure_colours[["surprise"]], shape = 18, size = 3,
                        na.rm = TRUE)
  } else {
    ggplot2::geom_point(colour = figure_colours[["data"]], size = 2)
  }
  figure +
    ggplot2::facet_wrap(ggplot2::vars(.data$panel), scales = "free", ncol = if (length(columns) > 1) 2 else 1) +
    ggplot2::scale_x_continuous(breaks = whole_breaks) +
    ggplot2::scale_y_continuous(limits = c(0, NA), labels = function(y) format_number(y, 2)) +
    ggplot2::labs(x = "turn (0: the hand)", y = NULL)
}
