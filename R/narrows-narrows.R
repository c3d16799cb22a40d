#' The narrows
#'
#' Two cards for the player, two for the house; the smaller gap between the ranks of two cards wins. The player stakes
#' one, sees his cards, and goes on for a further stake, or gives up.
#'
#' A tie is the house's. The best threshold is found by the exact edge of each; [best_strategy()] lists them.
#'
#' @inheritParams game_war
#' @param piles Not for this game.
#' @return A game: an experiment for [simulate()], [exact()], [house_edge()], [trials()] and [replay()].
#' @section Rules:
#' `r rules_for_help("narrows")`
#' @section Outcomes:
#' `r columns_for_help("narrows")`
#' @section Errors: `habanera_error_rules` for a deck of fewer than four cards, or without these ranks;
#'   `habanera_error_input` for values out of range.
#' @examples
#' house_edge(game_narrows())
#' best_strategy(game_narrows(pair_pays = 2))
#' @export
game_narrows <- function(..., rules = NULL, shuffle = NULL, piles = NULL, seat_names = NULL, record = NULL) {
  call <- rlang::current_env()
  make_game(game_kind("narrows"), rlang::list2(...), rules, game_settings(shuffle, piles, seat_names, record), call)
}

kind_of_narrows <- function() {
  new_kind(
    "narrows", "The narrows", "game_narrows", "two cards each; the smaller gap wins, and one may give up.",
    narrows_rules(), narrows_columns(), c("net", "result"), core_narrows, settled = settled_narrows,
    can = list(takes_bets = list(bets = bet_of_one_stake),
               plays_best = list(by_rule = function(rules) list(goes_on_to = narrows_gaps(rules)))),
    dealt = function(rules, deck) 4, fitted = function(rules, call) list(units = list(net = narrows_unit(rules))),
    cards = function(rules, deck, record, kept, call) {
      list(rank = ranks_of_kinds(deck, rules$rank_by, call)$rank, count = length(deck))
    },
    core = function(rules, cards, dealing) {
      units <- narrows_unit(rules) * c(stake = 1, given_up = rules$given_up, raise = rules$raise,
                                       wins = 1 + rules$raise, pair_wins = 1 + rules$pair_pays * rules$raise)
      c(as.list(round(units)), list(rank = cards$rank, cards = cards$count, goes_on_to = rules$goes_on_to))
    },
    likeness = function(game) like_kinds(list(game$spec$rules$rank)),
    step_words = c(deal = "shuffled", player_gets = "gets", gives_up = "gives up", goes_on = "goes on",
                   house_gets = "the house gets", player_wins = "the player wins", house_wins = "the house wins"),
    end_in_words = net_end_in_words, examples = list(edge = "habanera edge narrows --set goes_on_to=4")
  )
}

narrows_rules <- function() list(
  rule_deck("the deck"), rule_attribute("rank_by", "rank_high", "what gaps are told by"),
  rule_whole("goes_on_to", NULL, 0, 1000, "the widest gap with which the player goes on", "the best, which is found"),
  rule_fraction("given_up", 1, 0, 1, "what giving up costs of the stake"),
  rule_fraction("raise", 1, 0, 100, "the second stake, in first ones"),
  rule_fraction("pair_pays", 1.5, 0, 100, "what the second stake pays to one where a pair wins")
)

narrows_columns <- function() list(
  net = list(meaning = "what the round brings the player, in stakes", told_of = "that were played", is_money = TRUE),
  gap = list(meaning = "the gap between the player's cards", told_of = "that were played"),
  result = list(meaning = "win, loss or given up")
)

narrows_unit <- function(rules) whole_unit(unlist(c(rules[c("given_up", "raise")], rules$pair_pays * rules$raise)))

narrows_gaps <- function(rules) {
  ranks <- ranks_of_kinds(rules$deck, rules$rank_by, NULL)$rank
  sort(unique(as.vector(abs(outer(ranks, ranks, "-")))))
}

settled_narrows <- function(rules, piles, changed, call) {
  refuse_unpayable(rules[c("given_up", "raise", "pair_pays")], call)
  if (length(rules$deck) < 4) refuse("A round of the narrows needs four cards.", "rules", call)
  if (!is.null(rules$goes_on_to)) return(rules)
  gaps <- narrows_gaps(rules)
  edges <- vapply(gaps, function(gap) {
    rules$goes_on_to <- gap
    edge_by_walk(new_game(game_kind("narrows"), unclass(rules), game_settings(NULL, NULL, NULL, NULL), call), "net")
  }, 0)
  rules$goes_on_to <- gaps[which.min(edges)]
  rules
}
