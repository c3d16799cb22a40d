#' Best play as a strategy
#'
#' The best way to play a game against the house, as a strategy that prints, is drawn, is written to a file and plays:
#' `house_edge(game, best_strategy(game))` is its edge.
#'
#' What a player looks at decides what is best. By `"total"` a hand is its total (hard or soft) or a pair; by
#' `"two_cards"` the two cards of a hand decide what is done with them, totals afterwards; by `"all_cards"` every card
#' of the hand counts. By all cards the play of a hand is optimal, that of a split hand as if it were alone, on the shoe
#' less the pair and the up card; what splits are worth then is exact, resplits included. By totals or two cards the
#' table is one that no change of a single cell improves; from an endless shoe it is the optimum. Insurance is never
#' taken.
#'
#' The dealer's hand is followed by what it holds, in all orders at once; the play against each up card is a dynamic
#' programme over the hands that can be (Baldwin, Cantey, Maisel & McDermott 1956, "The optimum strategy in blackjack",
#' Journal of the American Statistical Association 51, did so by hand for the first time).
#'
#' Of [game_video_poker()] all hands and all ways to keep are gone through, so that the play is optimal whatever the
#' player looks at.
#'
#' @param game A game for money with decisions: [game_blackjack()], [game_video_poker()] and others that are solved. Of
#'   several seats it is the play of one; a cut is passed over, the shoe being fresh.
#' @param knows What the player looks at: "total", "two_cards" or "all_cards".
#' @param dead Cards that are gone from the shoe, as cards or their codes.
#' @return A `habanera_best_strategy`, which is a [strategy_table()]. `as.data.frame()`: a row for each move of each
#'   decision: `hand` (a row of the strategy; "early" before it is the choice to surrender before the dealer looks),
#'   `up_card`, `move`, `expected` (the player's result in initial stakes, best play afterwards; where the dealer
#'   looks first, given that he has no natural; of several hands in a row on average, by how often they come up),
#'   `best`. Hands of cards are told by values: "cards 10 6", after a split of eights "split 8 3". `tidy()`: `term`
#'   ("edge", "edge_all_cards", "distance"), `estimate`: the house's edge against it, against all cards known, and their
#'   difference. Of pay-table poker a `habanera_best_keep`. `as.data.frame()`: a row for each line that comes: `line`,
#'   `pays` (for one), `probability`, `contribution` (to the return); `tidy()`: as of [payout()].
#' @section Errors: `habanera_error_input` for a game that is not solved, `habanera_error_conservation` for dead cards
#'   that the shoe does not hold, `habanera_error_rules` for a shoe too small for a round.
#' @seealso [advise()] for one hand, [mistakes()], [rule_effects()].
#' @examples
#' best <- best_strategy(game_blackjack(packs = 1))
#' best
#' head(as.data.frame(best))
#' best_strategy(game_video_poker(deck = deck_standard(ranks = c("9", "10", "J", "Q", "K", "A"))))
#' @export
best_strategy <- function(game, knows = c("total", "two_cards", "all_cards"), dead = NULL) {
  check_given()
  call <- rlang::current_env()
  knows <- check_choice(knows, c("total", "two_cards", "all_cards"))
  game <- without_cards(checked_game(game), dead, call)
  solver <- capability(game, "plays_best", call)
  if (!is.null(solver$by_hands)) return(solver$by_hands(game, call))
  if (!is.null(solver$by_rule)) return(vary_rules(game, !!!solver$by_rule(game$rules), of = "edge"))
  game <- without_cut(game)
  best <- solver$strategy(game, knows, call)
  edge <- function(strategy) exact_edge(change_game(game, list(players = strategy), call), call)
  best$game <- game
  best$knows <- knows
  best$edge <- edge(best)
  best$edge_all_cards <- if (knows == "all_cards") best$edge else edge(solver$strategy(game, "all_cards", call))
  structure(best, made = call_made(), class = result_class("habanera_best_strategy", class(best)))
}

#' @export
as.data.frame.habanera_best_strategy <- function(x, row.names = NULL, optional = FALSE, ...) {
  able(x$game, "plays_best")$expected(x$game, x$knows, NULL)
}

#' @rawNamespace S3method(generics::tidy, habanera_best_strategy)
tidy.habanera_best_strategy <- function(x, ...) {
  data.frame(term = c("edge", "edge_all_cards", "distance"),
             estimate = c(x$edge, x$edge_all_cards, x$edge - x$edge_all_cards))
}

#' @export
in_words.habanera_best_strategy <- function(x, ...) {
  sprintf("%s: %s; %s.", x$label, edge_in_words(x$edge), in_words(x$game))
}

# It is a player, too, whose format() is what it is called.
#' @export
print.habanera_best_strategy <- function(x, ...) {
  cat_wrapped("<best strategy> ", in_words(x))
  if (x$knows != "all_cards") {
    cat_wrapped(sprintf("Looking at all cards of a hand would bring %s of a stake more.",
                        share_in_words(x$edge - x$edge_all_cards)))
  }
  NextMethod()
}
