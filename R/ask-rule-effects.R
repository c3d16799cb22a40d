#' What each rule is worth
#'
#' Each rule of a game changed alone, to each of its other values, and what the house then keeps against the best
#' player: the table a house lives by.
#'
#' Words and yes-or-no rules take all their values, numbers those that the help of the game names. Where the game is
#' solved, the player is the best by what he `knows` under each rule; else the game's own.
#'
#' @param game A game for money whose edge is exact, such as [game_blackjack()].
#' @param knows What the player looks at, as in [best_strategy()].
#' @param progress Whether to show a progress bar after two seconds, as in [simulate()][simulate.habanera_experiment].
#' @return A `habanera_rule_effects`, a data frame: `rule`, `value` (text; the first row is the game as it is, with
#'   `rule` "none"), `edge` (the house's, per initial stake), `effect` (the difference from the first row).
#' @section Errors: `habanera_error_input` for a game without money; `habanera_error_work` for one whose edge must be
#'   simulated.
#' @seealso [vary_rules()] with `of = "edge"` for combinations; the figure is [autoplot.habanera_rule_effects()].
#' @examples
#' rule_effects(game_high_card())
#' @export
rule_effects <- function(game, knows = c("total", "two_cards", "all_cards"), progress = NULL) {
  check_given()
  call <- rlang::current_env()
  knows <- check_choice(knows, c("total", "two_cards", "all_cards"))
  checked_game(game)
  capability(game, "takes_bets", call)
  game <- without_cut(game)
  tried <- tried_rules(game, call)
  edge_of <- edge_finder(game, knows, call)
  bar <- local_progress("Trying rules", progress, 1 + length(tried$games))
  found <- lapply_until_interrupted(c(list(game), tried$games), edge_of, "rule", bar)
  edges <- unlist(found)
  shown <- seq_along(edges)
  structure(data.frame(rule = c("none", tried$rule)[shown], value = c("as it is", tried$value)[shown], edge = edges,
                       effect = edges - edges[1]),
            class = table_class("habanera_rule_effects"), part = attr(found, "part"),
            words = in_words(game), passed_over = tried$passed_over,
            played_by = if (!is.null(able(game, "plays_best")$edge_of)) knows_labels[[knows]])
}

# The game with each rule changed alone.
tried_rules <- function(game, call) {
  found <- list(games = list(), rule = character(), value = character(), passed_over = character())
  for (rule in kind_of(game)$rules) {
    for (value in rule$tries) {
      if (identical(rule$check(value, rule$name, call), game$rules[[rule$name]])) next
      text <- rule_text(value)
      changed <- tryCatch(change_game(game, rlang::set_names(list(value), rule$name), call),
                          habanera_error_rules = function(cnd) NULL)
      if (is.null(changed)) {
        found$passed_over <- c(found$passed_over, sprintf("%s %s", rule$name, text))
        next
      }
      found$games <- c(found$games, list(changed))
      found$rule <- c(found$rule, rule$name)
      found$value <- c(found$value, text)
    }
  }
  if (!length(found$games)) refuse(sprintf("%s has no rules to try.", kind_of(game)$title), call = call)
  found
}

# What gives the edge of one game after the other: against the best player, where games of its kind are solved.
edge_finder <- function(game, knows, call) {
  solver <- able(game, "plays_best")
  if (!is.null(solver$edge_of)) return(solver$edge_of(knows, call))
  function(each) {
    edge <- house_edge(each, nsim = 1)
    if (edge$bets$how[1] != "exact") {
      refuse("The edge of this game would be simulated; vary_rules() does that.", "work", call)
    }
    edge$bets$estimate[1]
  }
}

#' @export
tell.habanera_rule_effects <- function(x, rows = 40, ...) {
  cat_wrapped(sprintf("<rule effects> %s; each rule changed alone%s, exact%s", attr(x, "words"), against_whom(x),
                      part_in_words(x)))
  others <- x[-1, , drop = FALSE]
  cat_wrapped(sprintf("As it is %s. %s", edge_in_words(x$edge[1]), extremes_in_words(others)))
  print_head(data.frame(rule = others$rule, value = others$value, edge = plain_percent(others$edge),
                        effect = percent_points(others$effect)), rows)
  if (length(attr(x, "passed_over"))) {
    cat_wrapped(sprintf("Passed over, since they contradict the other rules: %s.", join_words(attr(x, "passed_over"))))
  }
  invisible(x)
}

against_whom <- function(x) if (is.null(attr(x, "played_by"))) "" else paste(", against", attr(x, "played_by"))

extremes_in_words <- function(rows) {
  named <- function(row) sprintf("%s %s (%s)", row$rule, row$value, percent_points(row$effect))
  dearest <- rows[which.max(rows$effect), ]
  kindest <- rows[which.min(rows$effect), ]
  gains <- sprintf("gains most by %s", named(dearest))
  loses <- sprintf("loses most by %s", named(kindest))
  if (dearest$effect <= 0) return(sprintf("None of these brings the house more; it %s.", loses))
  if (kindest$effect >= 0) return(sprintf("None of these costs the house anything; it %s.", gains))
  sprintf("The house %s, and %s.", gains, loses)
}

# What rounding leaves of nothing has no sign of its own.
percent_points <- function(x) sprintf("%+.3f%%", 100 * ifelse(abs(x) < 1e-12, 0, x))
plain_percent <- function(x) sprintf("%.3f%%", 100 * x)
