#' What each rule is worth
#'
#' Each rule of a game changed alone, to each of its other values, and what then becomes of an estimate: of the house's
#' edge against the best player, the table a house lives by, or of anything else that a game records. With `pairs` any
#' two rules changed at once, too: which go together?
#'
#' Words and yes-or-no rules take all their values, numbers those that the help of the game names, unless `over` says
#' what is tried. Where the game is solved, the player is the best by what he `knows` under each rule; else the game's
#' own. What is played is played on the same deals by the rules as they are and by the others, so that luck cancels out
#' (see [compare()][compare.habanera_game]).
#'
#' @param game A game: for the edge one for money whose edge is exact, such as [game_blackjack()].
#' @param over `NULL`, or what is tried, as in [tune_rules()].
#' @param pairs Whether any two rules are changed at once as well.
#' @param of "edge", exactly; or what is played for: a mean or a chance by name, see [estimate_names()].
#' @param knows What the player looks at, as in [best_strategy()].
#' @param portion `NULL`, or a number above 0, up to 1: in the place of single changes such a part of all combinations
#'   is tried, spread evenly (a Latin hypercube, from package lhs), and what each value adds, on the average over the
#'   others, is found by least squares; with `pairs` what any two do beyond that, too.
#' @param nsim,seed,threads As in [simulate()][simulate.habanera_experiment], for what is played; each change is played
#'   `nsim` times.
#' @param progress Whether to show a progress bar after two seconds, as in [simulate()][simulate.habanera_experiment].
#' @return A `habanera_rule_effects`, a data frame: `rule`, `value` (text; the first row is the game as it is, with
#'   `rule` "none"), `edge` (the house's, per initial stake), `effect` (the difference from the first row). Of another
#'   `of` `estimate` in the place of `edge`, and `effect.low`, `effect.high` (95%). With `pairs` rows of two rules
#'   ("soft_17 + ties"), and `together`: by how much their effect is more than those of each alone, of what is played
#'   with `together.low` and `together.high`, the errors of the three added up. With `portion` all have intervals (95%,
#'   Student's t of what the sum of single values, or of any two, leaves unexplained), those of exact edges as well.
#' @section Errors: `habanera_error_input` for a game without money; `habanera_error_work` for one whose edge must be
#'   simulated.
#' @seealso [vary_rules()] with `of = "edge"` for combinations; the figure is [autoplot.habanera_rule_effects()].
#' @examples
#' rule_effects(game_high_card())
#' rule_effects(game_high_card(), list(ties = c("half_back", "push"), packs = 6), pairs = TRUE)
#' rule_effects(game_war(cards_each = 6), list(face_down = 0:1), of = "rounds", nsim = 2000, seed = 1)
#' @export
rule_effects <- function(game, over = NULL, pairs = FALSE, of = "edge", knows = c("total", "two_cards", "all_cards"),
                         portion = NULL, nsim = 1e5, seed = NULL, threads = NULL, progress = NULL) {
  check_given()
  call <- rlang::current_env()
  knows <- check_choice(knows, c("total", "two_cards", "all_cards"))
  checked_game(game)
  check_flag(pairs)
  by_edge <- check_choice(of, c("edge", named_estimates(game))) == "edge"
  if (by_edge) {
    capability(game, "takes_bets", call)
    game <- without_cut(game)
  }
  run <- list(nsim = nsim, seed = if (!by_edge || !is.null(portion)) resolve_seed(seed), threads = threads)
  subject <- tuning_subject(game, list(), call)
  dimensions <- if (is.null(over)) dimensions_to_try(game, call) else subject$dimensions(over)
  effect_of <- if (by_edge) edge_effects(game, knows, call) else played_effects(game, of, run, call)
  tried <- if (is.null(portion)) tried_changes(subject, dimensions, pairs, call) else
    tried_portion(subject, dimensions, portion, pairs, run$seed, call)
  bar <- local_progress("Trying rules", progress, 1 + length(tried$games))
  found <- lapply_until_interrupted(c(list(game), tried$games), effect_of, "rule", bar)
  rows <- if (is.null(portion)) rows_alone(found, tried, pairs) else rows_fitted(found, tried, pairs, by_edge, call)
  structure(rows, made = call_made(), class = table_class("habanera_rule_effects"),
            part = attr(found, "part"), of = of, run = run,
            portion = tried$portion, is_share = identical(estimator(of, game, NULL)$kind, "share"),
            words = in_words(game), passed_over = tried$passed_over,
            played_by = if (by_edge && !is.null(able(game, "plays_best")$edge_of)) knows_labels[[knows]])
}

# The game with each rule changed alone, with `pairs` any two of them; `parts` are the rows that such a row is made of.
tried_changes <- function(subject, dimensions, pairs, call) {
  places <- places_near(dimensions, if (pairs) 2 else 1, call)[-1, , drop = FALSE]
  if (!nrow(places)) refuse(sprintf("%s has no rules to try.", kind_of(subject$x)$title), call = call)
  named <- lapply(seq_len(nrow(places)), function(row) {
    at <- which(places[row, ] != 0)
    list(rule = paste(vapply(dimensions[at], `[[`, "", "name"), collapse = " + "),
         value = paste(vapply(at, function(i) rule_text(dimensions[[i]]$labels[[places[row, i]]]), ""),
                       collapse = " + "))
  })
  rule <- vapply(named, `[[`, "", "rule")
  value <- vapply(named, `[[`, "", "value")
  found <- possible_candidates(subject, dimensions, places, call)
  possible <- found$possible
  keys <- apply(places[possible, , drop = FALSE], 1, paste, collapse = " ")
  list(games = found$candidates, rule = rule[possible], value = value[possible],
       passed_over = paste(rule, value)[!possible], parts = lapply(which(possible), function(row) {
         alone <- lapply(which(places[row, ] != 0), function(at) replace(numeric(ncol(places)), at, places[row, at]))
         match(vapply(alone, paste, "", collapse = " "), keys)
       }))
}

# The games of a part of all combinations, and their places.
tried_portion <- function(subject, dimensions, portion, pairs, seed, call) {
  chosen <- portion_places(dimensions, portion, pairs, seed, call)
  found <- possible_candidates(subject, dimensions, chosen$places[-1, , drop = FALSE], call)
  list(games = found$candidates, places = rbind(0, found$places), dimensions = dimensions,
       passed_over = sub(": .*$", "", found$passed_over),
       portion = c(tried = 1 + length(found$candidates), of = chosen$of))
}

# Of each change the row that it gave.
rows_alone <- function(found, tried, pairs) {
  rows <- do.call(rbind, found)
  shown <- seq_len(nrow(rows))
  rows <- cbind(rule = c("none", tried$rule)[shown], value = c("as it is", tried$value)[shown], rows)
  if (pairs) with_together(rows, tried) else rows
}

# Of the combinations tried what each value adds.
rows_fitted <- function(found, tried, pairs, by_edge, call) {
  rows <- do.call(rbind, found)
  fitted <- effects_by_least_squares(tried$places[seq_len(nrow(rows)), , drop = FALSE], rows$effect, tried$dimensions,
                                     pairs, call)
  now <- rows[[if (by_edge) "edge" else "estimate"]][1]
  first <- replace(fitted[1, ], TRUE, list("none", "as it is", 0, 0, 0))
  if (pairs) first[c("together", "together.low", "together.high")] <- NA_real_
  fitted <- rbind(first, fitted)
  cbind(fitted[c("rule", "value")], rlang::set_names(list(now + fitted$effect), if (by_edge) "edge" else "estimate"),
        fitted[-(1:2)])
}

dimensions_to_try <- function(game, call) {
  rules <- Filter(function(rule) length(rule$tries) > 0, kind_of(game)$rules)
  lapply(rules, function(rule) rule_dimension(game, rule$name, rule$tries, call))
}

edge_effects <- function(game, knows, call) {
  edge_of <- edge_finder(game, knows, call)
  first <- NULL
  function(each) {
    edge <- edge_of(each)
    if (is.null(first)) first <<- edge
    data.frame(edge = edge, effect = edge - first)
  }
}

# On the same deals as the game as it is.
played_effects <- function(game, of, run, call) {
  from <- estimator(of, game, NULL)
  if (is.null(from) || !from$kind %in% c("share", "mean")) {
    refuse(sprintf("`of` must be \"edge\", a mean or a chance, not %s.", quoted(of)), call = call)
  }
  term <- if (from$kind == "mean") from$column else {
    paste0(from$column, "=", category_words(game, from$column)[from$code + 1])
  }
  base <- remembering(recording(game, from$column), run$nsim)
  function(each) {
    found <- tidy(simulate(new_game_pair(base, recording(each, from$column), call), run$nsim, run$seed,
                           threads = run$threads))
    row <- found[match(term, found$term), ]
    data.frame(estimate = row$y, effect = row$estimate, effect.low = row$conf.low, effect.high = row$conf.high)
  }
}

# By how much two rules do more at once than each alone.
with_together <- function(rows, tried) {
  parts <- c(list(integer()), tried$parts)[seq_len(nrow(rows))]
  two <- lengths(parts) == 2 & !vapply(parts, anyNA, NA)
  alone <- function(column) vapply(parts, function(at) sum(rows[[column]][at + 1]), 0)
  rows$together <- ifelse(two, rows$effect - alone("effect"), NA)
  if (!is.null(rows[["effect.low"]])) {
    rows$half <- (rows$effect.high - rows$effect.low) / 2
    half <- rows$half + alone("half")
    rows$half <- NULL
    rows$together.low <- rows$together - half
    rows$together.high <- rows$together + half
  }
  rows
}

#' @export
tell.habanera_rule_effects <- function(x, rows = 40, ...) {
  by_edge <- !is.null(x[["edge"]])
  show <- effect_shown(x)
  cat_wrapped(sprintf("<rule effects> %s; %s%s%s%s", attr(x, "words"), effects_from_in_words(x), against_whom(x),
                      if (by_edge) ", exact" else effects_run_in_words(x), part_in_words(x)))
  others <- plain_table(x)[-1, , drop = FALSE]
  alone <- if (is.null(others[["together"]])) others else others[is.na(others$together), , drop = FALSE]
  cat_wrapped(sprintf("As it is %s. %s", if (by_edge) edge_in_words(x$edge[1]) else
    sprintf("%s is %s", attr(x, "of"), estimate_in_effects(x)), extremes_in_words(alone, by_edge, show)))
  if (!is.null(others[["together"]])) writeLines(console_lines(together_in_words(others, show)))
  print_head(effects_table(others, by_edge, attr(x, "is_share"), show), rows)
  if (length(attr(x, "passed_over"))) {
    cat_wrapped(sprintf("Passed over, since they contradict the other rules: %s.", join_words(attr(x, "passed_over"))))
  }
  invisible(x)
}

# Each change alone, or a part of all combinations.
effects_from_in_words <- function(x, single = "each rule changed alone") {
  portion <- attr(x, "portion")
  if (is.null(portion)) return(single)
  sprintf("from %s of %s combinations, by least squares", format_count(portion[["tried"]]),
          format_count(portion[["of"]]))
}

effects_run_in_words <- function(x) {
  run <- attr(x, "run")
  sprintf("; %s each, seed %s, on the same deals", count_of(run$nsim, "game"), whole_code(run$seed))
}

effects_table <- function(rows, by_edge, is_share, show) {
  shown <- data.frame(rule = rows$rule, value = rows$value)
  if (by_edge) shown$edge <- plain_percent(rows$edge) else {
    shown$estimate <- (if (is_share) format_percent else format_statistic)(rows$estimate)
  }
  shown$effect <- show(rows$effect)
  if (!is.null(rows[["effect.low"]])) shown$`95%` <- interval_in_brackets(rows$effect.low, rows$effect.high, show)
  if (!is.null(rows[["together"]])) shown$together <- ifelse(is.na(rows$together), "", show(rows$together))
  shown
}

interval_in_brackets <- function(low, high, show) ifelse(is.na(low), "", paste(show(low), "to", show(high)))

# How an effect is written.
effect_shown <- function(x) {
  if (!is.null(x[["edge"]])) return(percent_points)
  function(values) signed(values, attr(x, "is_share"))
}

estimate_in_effects <- function(x) {
  (if (attr(x, "is_share")) format_percent else format_statistic)(x$estimate[1])
}

# "soft_17 hits, ties push" of "soft_17 + ties" and "hits + push".
change_labels <- function(rule, value, joint = ", ") {
  mapply(function(rules, values) {
    if (length(rules) == length(values)) paste(rules, values, collapse = joint) else
      paste(paste(rules, collapse = " + "), paste(values, collapse = " + "))
  }, strsplit(rule, " + ", fixed = TRUE), strsplit(value, " + ", fixed = TRUE))
}

# Which two rules do most at once beyond what each does alone.
together_in_words <- function(rows, show) {
  exact <- is.null(rows[["together.low"]])
  sure <- if (exact) abs(rows$together) > 1e-12 else rows$together.low > 0 | rows$together.high < 0
  at <- which(sure %in% TRUE)
  if (!length(at)) return("No two of them do surely more or less at once than each alone.")
  most <- at[which.max(abs(rows$together[at]))]
  sprintf("Of two at once %s go together most: %s beyond what each does alone.",
          change_labels(rows$rule[most], rows$value[most], " and "), show(rows$together[most]))
}

against_whom <- function(x) if (is.null(attr(x, "played_by"))) "" else paste(", against", attr(x, "played_by"))

extremes_in_words <- function(rows, by_edge, show) {
  named <- function(row) sprintf("%s %s (%s)", row$rule, row$value, show(row$effect))
  dearest <- rows[which.max(rows$effect), ]
  kindest <- rows[which.min(rows$effect), ]
  if (!by_edge) return(sprintf("Of these most comes of %s, least of %s.", named(dearest), named(kindest)))
  gains <- sprintf("gains most by %s", named(dearest))
  loses <- sprintf("loses most by %s", named(kindest))
  if (dearest$effect <= 0) return(sprintf("None of these brings the house more; it %s.", loses))
  if (kindest$effect >= 0) return(sprintf("None of these costs the house anything; it %s.", gains))
  sprintf("The house %s, and %s.", gains, loses)
}
