# What tune_rules() found, as a table and in words.

new_tuned <- function(tuning, state, run) {
  place <- worst_rows(tuning, state)
  rows <- candidate_table(tuning$places, tuning$dimensions, tuning$subject)
  rows$changes <- changes_of(tuning$places, tuning$dimensions)
  rows$meets <- state$meets
  if (!is.null(tuning$aim)) rows$best <- state$best
  if (length(tuning$line_ups) > 1) rows$worst <- names(tuning$line_ups)[line_up_of(tuning, place$row)]
  rows$misses <- place$misses
  rows$trials <- rowSums(matrix(state$done, nrow(rows)))
  for (name in tuning$names) {
    columns <- data.frame(state$estimate[place$row, name], state$low[place$row, name], state$high[place$row, name])
    rows[paste0(name, c("", ".low", ".high"))] <- columns
  }
  pulling <- pulling_wishes(tuning, place$misses_by_wish)
  order <- order(match(state$meets, c("yes", "open", "no")), aim_order(tuning, state), place$miss, rows$changes)
  changed <- vapply(tuning$dimensions, `[[`, "", "name")
  found <- structure(
    rows[order, , drop = FALSE], row.names = seq_len(nrow(rows)),
    made = call_made(), class = table_class("habanera_tuned"),
    rules = changed, words = tuning$subject$words(changed), told = tuning$names,
    shares = is_share_of(tuning, tuning$names),
    wishes = vapply(tuning$wishes, `[[`, "", "text"), ends = wished_ends(tuning$wishes),
    aim = aim_in_words(tuning$aim), level = run$level, seed = run$seed, sure = state$sure,
    exact = !length(tuning$played), stopped = state$stopped, part = part_decided(state),
    trials = sum(state$done) + sum(tuning$narrowed$trials), narrowed_of = tuning$narrowed$of,
    whole_grid = (length(state$done) + tuning$beside * length(tuning$line_ups)) * max(state$done),
    line_ups = names(tuning$line_ups), passed_over = tuning$passed_over, against_rules = tuning$against_rules,
    needed = trials_to_decide(tuning, state), changed = changed_in_words(tuning, rows)[order],
    field = names(pulling), front = front_rows(place$misses_by_wish[order, pulling, drop = FALSE])
  )
  # Who does not wait for it has what the race found.
  attr(found, "fresh") <- tryCatch(measured_afresh(tuning, found, order, run), interrupt = function(cnd) NULL)
  if (all(found$meets == "no")) attr(found, "price") <- price_in_words(tuning, order[1])
  found
}

# Of a race that did not come to its end.
part_decided <- function(state) {
  if (is.null(state$stopped)) return(NULL)
  sprintf("%s of %s decided", format_count(sum(state$meets != "open")), count_of(length(state$meets), "combination"))
}

aim_in_words <- function(aim) if (!is.null(aim)) paste(if (aim$most) "most" else "least", aim$text)

aim_order <- function(tuning, state) {
  if (is.null(state$aim)) return(rep(0, length(state$meets)))
  middle <- (state$aim$low + state$aim$high) / 2
  round(if (tuning$aim$most) -middle else middle, 12)
}

# For each candidate the row of the race at which it misses most at its estimates, what it misses most there, and by how
# much in all, each wish measured by what was wished for.
worst_rows <- function(tuning, state) {
  count <- length(tuning$candidates)
  at_estimates <- state
  at_estimates$low <- at_estimates$high <- state$estimate
  scope <- scope_of(tuning, at_estimates)
  by_wish <- vapply(tuning$wishes, function(wish) {
    miss <- miss_of(wish, scope)
    if (is.null(miss)) return(rep(0, length(state$done)))
    ifelse(is.finite(miss$low) & is.finite(miss$high), miss$high, NA)
  }, numeric(length(state$done)))
  by_wish <- matrix(by_wish, length(state$done))
  units <- vapply(tuning$wishes, miss_unit, 0)
  relative <- pmax(by_wish, 0) / rep(units, each = nrow(by_wish))
  total <- if (ncol(by_wish)) rowSums(matrix(relative, nrow(by_wish)), na.rm = TRUE) else numeric(nrow(by_wish))
  # Where nothing is missed, where it comes nearest to that.
  nearest <- if (ncol(by_wish)) apply(by_wish / rep(units, each = nrow(by_wish)), 1, max) else numeric(nrow(by_wish))
  badness <- ifelse(total > 0 | is.na(nearest), total, nearest)
  row <- (max.col(matrix(badness, count), ties.method = "first") - 1) * count + seq_len(count)
  misses <- vapply(row, function(at) {
    if (!ncol(by_wish) || !isTRUE(total[at] > 0)) return("")
    most <- which.max(matrix(relative, nrow(by_wish))[at, ])
    wish <- tuning$wishes[[most]]
    shares <- all(is_share_of(tuning, wish$estimates))
    sprintf("%s by %s", wish$text, if (shares) sprintf("%.2f%%", 100 * by_wish[at, most]) else
      format_statistic(by_wish[at, most]))
  }, "")
  list(row = row, misses = misses, miss = total[row], misses_by_wish = by_wish[row, , drop = FALSE])
}

# Of the open candidates about how many trials each would take, in all, the errors shrinking with their root.
trials_to_decide <- function(tuning, state) {
  open <- which(state$meets[tuning$candidate_of] == "open" & state$done > 0)
  if (!length(open)) return(NULL)
  scope <- scope_of(tuning, state)
  needed <- vapply(tuning$wishes, function(wish) {
    miss <- miss_of(wish, scope)
    if (is.null(miss)) return(rep(NA_real_, length(open)))
    low <- miss$low[open]
    high <- miss$high[open]
    middle <- (low + high) / 2
    ifelse(low <= 0 & high > 0, state$done[open] * ((high - low) / (2 * abs(middle)))^2, 0)
  }, numeric(length(open)))
  each <- apply(matrix(needed, length(open)), 1, max)
  tapply(each, tuning$candidate_of[open], max)
}

# Of the wishes that bound one name each the two that most candidates miss, by the names: those that pull against each
# other.
pulling_wishes <- function(tuning, misses) {
  ends <- lapply(tuning$wishes, function(wish) wished_ends(list(wish))$name)
  single <- which(lengths(ends) == 1 & colSums(!is.na(misses)) > 0)
  single <- single[order(-colSums(misses[, single, drop = FALSE] > 0, na.rm = TRUE))]
  single <- single[!duplicated(unlist(ends[single]))]
  two <- sort(utils::head(single, 2))
  rlang::set_names(two, unlist(ends[two]))
}

# The rows that no other beats in both of two misses.
front_rows <- function(misses) {
  if (ncol(misses) < 2) return(integer())
  one <- misses[, 1]
  two <- misses[, 2]
  known <- which(!is.na(one) & !is.na(two))
  known <- known[order(one[known], two[known])]
  known[two[known] < c(Inf, utils::head(cummin(two[known]), -1))]
}

# What each candidate has other than now: "natural_pays 1.4, soft_17 hits".
changed_in_words <- function(tuning, rows) {
  differs <- differs_from_now(tuning$places, tuning$dimensions)
  vapply(seq_len(nrow(rows)), function(row) {
    at <- which(differs[row, ])
    values <- vapply(rows[row, at, drop = FALSE], rule_text, "")
    said <- vapply(tuning$dimensions[at], `[[`, "", "said")
    if (length(at)) paste(said, values, collapse = ", ") else "as it is"
  }, "")
}

most_measured_afresh <- 5
most_fresh_trials <- 1e5

# The best of them on deals on which nothing was chosen: those that follow all that the race may play.
measured_afresh <- function(tuning, found, order, run) {
  if (identical(attr(found, "stopped"), "interrupted")) return(NULL)
  shown <- utils::head(Filter(function(at) found$trials[at] > 0, best_rows(found)), most_measured_afresh)
  if (!length(shown)) return(NULL)
  rows <- lapply(shown, function(at) {
    trials <- min(most_fresh_trials, max(first_look, ceiling(found$trials[at] / length(tuning$line_ups))))
    lapply(seq_along(tuning$line_ups), function(line_up) {
      game <- tuning$game_at((line_up - 1) * length(tuning$candidates) + order[at])
      tally <- played_afresh(game, trials, run)
      bounds <- bounds_of(tuning$played, tuning, game, tally, trials, 0.05)
      value <- function(part) vapply(bounds, `[[`, 0, part)
      keys <- plain_table(found)[at, attr(found, "rules"), drop = FALSE]
      if (length(tuning$line_ups) > 1) keys$line_up <- names(tuning$line_ups)[line_up]
      cbind(row = at, keys[rep(1, length(bounds)), , drop = FALSE],
            data.frame(term = tuning$played, estimate = value("estimate"), conf.low = value("low"),
                       conf.high = value("high"), trials = trials), row.names = NULL)
    })
  })
  do.call(rbind, unlist(rows, recursive = FALSE))
}

# Those that are told: what is best, what surely meets, else what may.
best_rows <- function(x) {
  if (!is.null(x[["best"]])) {
    best <- which(x$best == "best")
    return(if (length(best)) best else which(x$best == "open"))
  }
  yes <- which(x$meets == "yes")
  if (length(yes)) yes else which(x$meets == "open")
}

#' @rawNamespace S3method(generics::tidy, habanera_tuned)
tidy.habanera_tuned <- function(x, ...) {
  found <- plain_table(x)
  keys <- intersect(c(attr(x, "rules"), "changes", "meets", "best", "worst"), names(found))
  rows <- lapply(attr(x, "told"), function(name) {
    cbind(found[keys], term = name, estimate = found[[name]], conf.low = found[[paste0(name, ".low")]],
          conf.high = found[[paste0(name, ".high")]], trials = found$trials)
  })
  do.call(rbind, rows)
}

#' @export
tell.habanera_tuned <- function(x, rows = 12, ...) {
  if (is.null(attr(x, "told"))) return(NextMethod())
  cat_wrapped("<tuned rules> ", attr(x, "words"))
  writeLines(console_lines(c(tuned_answer(x), aim_answer(x), nearest_answer(x), attr(x, "price"))))
  print_head(tuned_table(x, rows), rows)
  if (!is.null(attr(x, "fresh"))) {
    cat_wrapped("On fresh deals, on which nothing was chosen (95%):")
    print_head(fresh_table(x), rows)
  }
  writeLines(console_lines(c(open_in_trials(x), work_in_words(x), passed_in_words(x))))
  invisible(x)
}

tuned_answer <- function(x) {
  wishes <- attr(x, "wishes")
  counts <- vapply(c("yes", "no", "open"), function(word) sum(x$meets == word), 0)
  exact <- attr(x, "exact")
  if (!length(wishes)) return(NULL)
  said <- sprintf("%s of %s %smeet%s %s", format_count(counts[["yes"]]), count_of(nrow(x), "combination"),
                  if (exact) "" else "surely ", if (counts[["yes"]] == 1) "s" else "",
                  join_words(sprintf("`%s`", wishes)))
  line_ups <- length(attr(x, "line_ups"))
  at_all <- if (line_ups > 1) sprintf(" at all of %s", count_of(line_ups, "line-up"))
  rest <- if (exact) "" else sprintf("; %s surely not, %s open", format_count(counts[["no"]]),
                                     format_count(counts[["open"]]))
  first <- which(x$meets == "yes")[1]
  near <- if (!is.na(first) && is.null(x[["best"]])) {
    sprintf(" Nearest to the present rules: %s.", tuned_row_in_words(x, first))
  }
  paste0(said, at_all, rest, ".", near)
}

tuned_row_in_words <- function(x, row) {
  if (x$changes[row] == 0) return("the rules as they are")
  sprintf("%s (%s)", attr(x, "changed")[row], count_of(x$changes[row], "change"))
}

aim_answer <- function(x) {
  if (is.null(x[["best"]])) return(NULL)
  best <- which(x$best == "best")
  open <- which(x$best == "open")
  if (length(best)) {
    return(sprintf("%s: %s.", sentence(attr(x, "aim")), join_some(vapply(best, tuned_row_in_words, "", x = x), 3)))
  }
  if (!length(open)) return(NULL)
  sprintf("%s is open between %s: %s.", sentence(attr(x, "aim")), format_count(length(open)),
          join_some(vapply(open, tuned_row_in_words, "", x = x), 3))
}

# Where none meets the wishes, which comes nearest.
nearest_answer <- function(x) {
  if (any(x$meets != "no")) return(NULL)
  missing <- if (nzchar(x$misses[1])) paste0(", missing ", x$misses[1]) else ""
  sprintf("Nearest: %s%s.", tuned_row_in_words(x, 1), missing)
}

# What is read: the estimates with their bounds, no error where they are exact.
tuned_table <- function(x, rows) {
  found <- plain_table(x)
  shown <- found[intersect(c(attr(x, "rules"), "changes", "meets", "best", "worst"), names(found))]
  for (name in attr(x, "told")) {
    shown[[name]] <- tuned_cell(found[[name]], found[[paste0(name, ".low")]], found[[paste0(name, ".high")]],
                                attr(x, "shares")[[name]])
  }
  if (any(nzchar(utils::head(x$misses, rows)))) shown$misses <- x$misses
  shown
}

# By name, whether it is told in percent.
is_share_of <- function(tuning, names) {
  vapply(rlang::set_names(names), function(name) tuning$subject$is_share(sub("^now\\((.*)\\)$", "\\1", name)), NA)
}

tuned_cell <- function(estimate, low, high, is_share) {
  show <- if (is_share) function(value) sprintf("%.2f%%", 100 * value) else format_statistic
  bounded <- is.finite(low) | is.finite(high)
  is_open <- is.infinite(low) | is.infinite(high)
  ends <- ifelse(is_open, open_in_words(low, high, show), paste(show(low), "to", show(high)))
  # Of what has a bound alone the bound is the estimate.
  told <- ifelse(is_open & bounded & estimate == pmax(low, -high), ends, sprintf("%s (%s)", show(estimate), ends))
  ifelse(is.na(estimate), "not played", ifelse(low == high & bounded, show(estimate), told))
}

# What fresh deals gave, a row for each of the rules told.
fresh_table <- function(x) {
  fresh <- attr(x, "fresh")
  if (is.null(fresh)) return(NULL)
  keys <- intersect(c(attr(x, "rules"), "line_up"), names(fresh))
  shown <- unique(fresh[c("row", keys)])
  for (name in unique(fresh$term)) {
    of <- fresh[fresh$term == name, , drop = FALSE]
    shown[[name]] <- tuned_cell(of$estimate, of$conf.low, of$conf.high, attr(x, "shares")[[name]])
  }
  shown$trials <- format_count(fresh$trials[!duplicated(fresh[c("row", keys)])])
  shown[names(shown) != "row"]
}

open_in_trials <- function(x) {
  needed <- attr(x, "needed")
  needed <- needed[is.finite(needed)]
  if (!length(needed)) return(NULL)
  ends <- unique(format_count(signif(range(needed), 2)))
  sprintf("To decide what is open would take about %s trials a candidate.", paste(ends, collapse = " to "))
}

work_in_words <- function(x) {
  if (attr(x, "exact")) return("All of it is exact; nothing was played.")
  stopped <- attr(x, "stopped")
  sprintf("%s played; the whole grid at this certainty: %s. Seed %s. %s%s", count_of(attr(x, "trials"), "trial"),
          format_count(attr(x, "whole_grid")), whole_code(attr(x, "seed")),
          sprintf("All that is called sure holds together with %s%s.", if (attr(x, "sure")) "at least " else "about ",
                  format_percent(1 - attr(x, "level"))),
          if (is.null(stopped)) "" else sprintf(" It was %s before all was decided.", stopped))
}

passed_in_words <- function(x) {
  passed <- attr(x, "passed_over")
  against <- attr(x, "against_rules")
  narrowed_of <- attr(x, "narrowed_of")
  others <- if (is.null(x[["best"]])) "miss the same wish" else "miss the same wish or are worse"
  c(if (!is.null(narrowed_of)) sprintf("Of %s combinations %s were tried: the others lie between such as %s.",
                                       format_count(narrowed_of), format_count(nrow(x)), others),
    if (length(passed)) sprintf("Passed over: %s, such as %s",
                                count_of(length(passed), "combination that contradicts itself",
                                         "combinations that contradict themselves"), passed[1]),
    if (isTRUE(against > 0)) sprintf("%s not tried, which the wishes on rules forbid.",
                                     count_of(against, "combination")))
}
