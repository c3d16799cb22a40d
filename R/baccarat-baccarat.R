#' Baccarat
#'
#' Two hands by fixed rules, and bets on which comes nearer to nine: on the player, the banker, a tie, and whatever else
#' a house offers.
#'
#' The player gets the first card, the banker the second, the player the third and the banker the fourth. A total is the
#' last digit of the sum of the values. With a total of `natural_from` or more in either hand nobody draws; else the
#' player may get a third card, and then the banker, by the table `third_card`. Bets on player and banker come back on a
#' tie.
#'
#' Nobody decides anything but how much to bet: [player_counting()] may, of all bets as often; `bet_on` says which bet
#' `net` tells.
#'
#' Side bets are by name an expression of what is handed back for one stake in the [question_language], or conditions
#' with what they pay, of which the first that holds counts: `list(tie_of_six = c("winner == 'tie' & player_total == 6"
#' = 45))`. They may look at `winner`, `player_total`, `banker_total`, `margin`, `player_cards`, `banker_cards`,
#' `cards_used` and `natural`; at the first two cards of a hand, as in `opening(player, largest_group(rank) == 2)`; and
#' at all cards of a hand or of both, as in `final(both, count(suit == "hearts")) >= 5`, which is simulated.
#'
#' @inheritParams game_war
#' @param piles Not for this game.
#' @return A game: an experiment for [simulate()], [exact()], [house_edge()], [trials()] and [replay()]. With
#'   `cut_after` a trial is a whole shoe, and every round adds a row of outcomes.
#' @section Rules:
#' `r rules_for_help("baccarat")`
#'
#' `third_card` is printed as a grid by `rules(game)$third_card`, and written by [utils::write.csv()] without row names.
#' @section Outcomes:
#' `r columns_for_help("baccarat")`
#'
#' Side bets are outcomes by their names. Money is the player's, in stakes of which one lies on each bet, and pays are
#' *to* one, but what a side bet hands back is *for* one.
#' @section Errors: `habanera_error_rules` for a third-card table with a hole, a cut deeper than the shoe, a commission
#'   beside `banker_six_pays`, a bet that is not offered; `habanera_error_input` for values out of range;
#'   `habanera_error_language` for a side bet that cannot be understood; `habanera_error_conservation` for dead cards
#'   that the shoe does not have.
#' @seealso [house_edge()], [removal_effects()], [edge_table()].
#' @examples
#' house_edge(game_baccarat())
#' pair <- c("opening(player, largest_group(rank) == 2)" = 12)
#' tidy(house_edge(game_baccarat(side_bets = list(pair = pair))))
#' rules(game_baccarat())$third_card
#' @export
game_baccarat <- function(..., rules = NULL, shuffle = NULL, piles = NULL, seat_names = NULL, record = NULL) {
  call <- rlang::current_env()
  make_game(game_kind("baccarat"), rlang::list2(...), rules, game_settings(shuffle, piles, seat_names, record), call)
}

kind_of_baccarat <- function() {
  new_kind(
    "baccarat", "Baccarat", "game_baccarat", "two hands by fixed rules, and bets on which comes nearer to nine.",
    baccarat_rules(), baccarat_columns(), c("winner", "net_player", "net_banker", "net_tie"), core_baccarat,
    fitted = fitted_baccarat, settled = settled_baccarat, deck = shoe_of_packs, cards = baccarat_cards,
    dealt = function(rules, deck) dealt_of_shoe(rules, deck, 6),
    core = baccarat_spec, likeness = function(game) like_kinds(baccarat_traits(game$spec$rules)),
    can = list(takes_bets = list(bets = baccarat_bets), drops_cards = list(without = without_dead)),
    counted_by = baccarat_counted_by,
    in_short = baccarat_in_short, step_words = baccarat_step_words, step_notes = baccarat_step_notes,
    end_in_words = net_end_in_words,
    out_of_reach = function(rules, deck) if (rules$shoes > 1) session_not_walked,
    fewer_deals = "a smaller deck", examples = baccarat_examples
  )
}

baccarat_rules <- function() {
  c(list(
    rule_deck("the pack"),
    rule_whole("packs", 8, 1, 8, "packs in the shoe"),
    rule_cards("dead", "cards that are not in the shoe"),
    rule_attribute("points_by", "points", "what gives the values of the cards; of a value its last digit counts"),
    rule_whole("natural_from", 8, 0, 10, "the total of two cards from which on nobody draws; 10: there is none",
               tries = 7:10),
    rule_third_card(),
    rule_fraction("player_pays", 1, 0, 1000, "what a win of the player pays, to one"),
    rule_fraction("banker_commission", 0.05, 0, 1, "what the house keeps of a win of the banker",
                  tries = c(0, 0.04, 0.05)),
    rule_fraction("banker_six_pays", NULL, 0, 1000, paste(
      "what a win of the banker with a total of six pays, to one; all others then pay one, without commission"
    ), "commission as it is", tries = list(NULL, 0.5)),
    rule_fraction("tie_pays", 8, 0, 1000, "what a tie pays, to one", tries = c(8, 9)),
    rule_side_bets("bets on totals, cards used, openings and all cards"),
    rule_word("bet_on", "banker", "the bet whose result is `net`: player, banker, tie or a side bet"),
    rule_cut(), rule_whole("burn", 0, 0, 100, "cards burned before the first round"),
    rule_players(c("flat", "counting"), "who lays the bets: flat, or by the count")
  ), rules_session())
}

baccarat_columns <- function() {
  money <- function(what) list(meaning = what, told_of = "that were played", is_money = TRUE)
  number <- function(meaning) list(meaning = meaning, told_of = "that were played")
  list(net = money("what the bet of `bet_on` brings, in stakes"),
       net_player = money("what the bet on the player brings, in stakes"),
       net_banker = money("what the bet on the banker brings, in stakes"),
       net_tie = money("what the bet on a tie brings, in stakes"),
       winner = list(meaning = "player, banker or tie"), player_total = number("the player's total"),
       banker_total = number("the banker's total"), margin = number("by how much the winner is ahead"),
       cards_used = number("cards dealt"))
}

# The outcomes of side bets, and what these pay, which is worked out once.
fitted_baccarat <- function(rules, call) {
  bets <- names(rules$side_bets)
  taken <- intersect(bets, c(names(baccarat_columns()), "player", "banker", "tie"))
  if (length(taken)) refuse(sprintf("`side_bets`: `%s` has a meaning already.", taken[1]), "rules", call)
  if (!rules$bet_on %in% c("player", "banker", "tie", bets)) {
    refuse(sprintf("`bet_on` must be a bet (%s), not %s.", join_words(c("player", "banker", "tie", bets), "or"),
                   quoted(rules$bet_on)), "rules", call)
  }
  side <- baccarat_bets_of(rules, shoe_of_packs(rules), call)
  unit <- baccarat_unit(rules, side$handed, call)
  money <- c("net", "net_player", "net_banker", "net_tie", bets)
  counted_fit(list(columns = c(baccarat_columns(), side_bet_columns(bets)),
                   units = as.list(rlang::set_names(rep(unit, length(money)), money)),
                   simulated_only = c(side$all_cards, if (rules$bet_on %in% side$all_cards) "net"),
                   kept = list(side = side, unit = unit)), rules, 1, "net")
}

baccarat_cards <- function(rules, deck, record, kept, call) {
  list(values = baccarat_values(deck, rules$points_by, call), side = kept$side, unit = kept$unit, count = length(deck),
       bettor = core_bettor(rules, 1, deck, length(rules$deck), call))
}

baccarat_values <- function(deck, points_by, call) {
  data <- catalogue_of(deck)$data
  kinds <- kinds_of(deck)
  points <- data[[points_by]][kinds$codes]
  if (!is.numeric(points)) {
    refuse(sprintf("`points_by` must name an attribute of the pack that is a number, not %s%s", quoted(points_by),
                   did_you_mean(points_by, names(data))), "rules", call)
  }
  bad <- which(is.na(points) | points != round(points) | points < 0)
  if (length(bad)) {
    refuse(sprintf("`points_by`: cards count whole numbers from 0, and %s has %s; leave such cards out of the pack.",
                   quoted(kinds$cards[bad[1]]), said(points[bad[1]])), "rules", call)
  }
  points %% 10
}

settled_baccarat <- function(rules, piles, changed, call) {
  refuse_third_hole(rules, call)
  if (!is.null(rules$banker_six_pays) && "banker_commission" %in% changed && rules$banker_commission > 0) {
    refuse("With `banker_six_pays` there is no commission: no `banker_commission`.", "rules", call)
  }
  refuse_unpayable(rules[c("player_pays", "banker_commission", "banker_six_pays", "tie_pays")], call)
  settled_bets_only(rules, 6, call)
}

baccarat_unit <- function(rules, handed, call) {
  refuse_unpayable(lapply(handed, unique), call)
  whole_unit(unique(c(rules$player_pays, rules$tie_pays, rules$banker_six_pays, rules$banker_commission,
                      unlist(handed))))
}

baccarat_spec <- function(rules, cards, dealing) {
  unit <- cards$unit
  by_total <- rep(1 - rules$banker_commission, 10)
  if (!is.null(rules$banker_six_pays)) by_total <- replace(rep(1, 10), 7, rules$banker_six_pays)
  spec <- c(core_third_card(rules$third_card), list(
    values = cards$values, cards = cards$count, cut_after = if (is.null(rules$cut_after)) 0 else rules$cut_after,
    burn = rules$burn, natural_from = rules$natural_from, stake = unit, player_wins = round(unit * rules$player_pays),
    tie_wins = round(unit * rules$tie_pays), banker_wins = round(unit * by_total), traits = cards$side$traits,
    side_bets = unname(Map(function(bet, handed) c(bet, list(net = round((handed - 1) * unit))), cards$side$bets,
                           cards$side$handed)),
    bet_on = match(rules$bet_on, c("player", "banker", "tie", names(rules$side_bets))), bettor = cards$bettor,
    shoes = rules$shoes
  ))
  c(spec, list(alike = like_kinds(c(list(spec$values), spec$traits))))
}

baccarat_traits <- function(spec) c(list(spec$alike), spec$bettor$system[c("tags", "bet_tags")])

# By the names that counting systems have for values, where cards count 1 to 10: A, 2, ..., 10.
baccarat_counted_by <- function(game) {
  points <- catalogue_of(game$deck)$data[[game$rules$points_by]][kinds_of(game$deck)$codes]
  list(name = "value", labels = if (all(points %in% 1:10)) value_names(points) else as.character(points),
       order = order(points))
}

# The bet of `bet_on` first.
baccarat_bets <- function(rules) {
  side <- names(rules$side_bets)
  bets <- data.frame(term = c("player", "banker", "tie", side), column = c("net_player", "net_banker", "net_tie", side),
                     stake = 1, staked = NA_character_)
  bets[order(bets$term != rules$bet_on), ]
}

baccarat_in_short <- function(outcomes, weight, game) {
  shares <- outcome_shares(outcomes[["winner"]], weight)
  if (is.null(shares)) return(NULL)
  of <- function(name) format_percent(if (name %in% names(shares)) shares[[name]] else 0, 4)
  sprintf("The banker wins %s of the rounds, the player %s, and %s are tied.", of("banker"), of("player"), of("tie"))
}

baccarat_step_words <- c(deal = "shuffled", player_gets = "the player gets", banker_gets = "the banker gets",
                         player_wins = "the player wins", banker_wins = "the banker wins", nobody_wins = "a tie")

# The total after a card; at the end what the bet brings.
baccarat_step_notes <- function(game, action, steps) {
  value <- steps$value
  net <- vapply(value / unit_of(game, "net"), net_in_words, "")
  ifelse(action %in% c("player_gets", "banker_gets"), paste0(": ", value),
         ifelse(action == "deal", "", sprintf(": who bet on the %s is %s", game$rules$bet_on, net)))
}

baccarat_examples <- list(
  play = c("habanera play baccarat --trials 1e6 --seed 1",
           "habanera play baccarat --set packs=6 --record cards_used,margin --exact"),
  replay = "habanera replay baccarat --seed 1",
  vary = "habanera vary baccarat --of edge --set bet_on=tie --over tie_pays=8,9 --over packs=6,8",
  compare = "habanera compare baccarat --other banker_six_pays=1:2 --record net --seed 1",
  price = "habanera price baccarat --bet tie --lines tie_pays --edge 0.05",
  edge = c("habanera edge baccarat",
           "habanera edge baccarat --set 'side_bets=pair = 12 * opening(player, largest_group(rank) == 2)'"),
  removal = "habanera removal baccarat --of banker,tie"
)
