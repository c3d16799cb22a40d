#' High card against the bank
#'
#' A card for the seat and one for the bank, the higher wins: the smallest game for money. Its one question is what the
#' house keeps of a stake, and how that hangs on what becomes of a tie; besides it shows how rounds from one shoe hang
#' together.
#'
#' Nobody decides anything but how much to bet: [player_counting()] may, of all bets as often. Bets on colour and suit
#' are on the seat's first card, one stake each.
#'
#' @inheritParams game_war
#' @param piles Not for this game.
#' @return A game: an experiment for [simulate()], [exact()], [house_edge()], [trials()] and [replay()]. With
#'   `cut_after` a trial is a whole shoe, and every round adds a row of outcomes.
#' @section Rules:
#' `r rules_for_help("high_card")`
#' @section Outcomes:
#' `r columns_for_help("high_card")`
#'
#' Money is the player's, in stakes, and counted in whole units in the core.
#' @section Errors: `habanera_error_rules` for a cut deeper than the shoe, or one that leaves no round; for bets on no
#'   card; `habanera_error_conservation` for dead cards that the shoe does not have; `habanera_error_input` for values
#'   out of range.
#' @seealso [house_edge()].
#' @examples
#' house_edge(game_high_card())
#' house_edge(game_high_card(ties = "half_back", suit_bet = "suit == \"hearts\""))
#' simulate(game_high_card(cut_after = 40), nsim = 1000, seed = 1)
#' @export
game_high_card <- function(..., rules = NULL, shuffle = NULL, piles = NULL, seat_names = NULL, record = NULL) {
  call <- rlang::current_env()
  make_game(game_kind("high_card"), rlang::list2(...), rules, game_settings(shuffle, piles, seat_names, record), call)
}

kind_of_high_card <- function() {
  new_kind(
    "high_card", "High card", "game_high_card", "a card for the seat and one for the bank, the higher wins the stake.",
    high_card_rules(), high_card_columns(), c("net", "result"), core_high_card,
    can = list(takes_bets = list(bets = high_card_bets), drops_cards = list(without = without_dead)),
    fitted = function(rules, call) {
      counted_fit(list(columns = high_card_columns(), units = high_card_units(rules)), rules, 1, "net")
    },
    settled = settled_high_card, deck = shoe_of_packs,
    dealt = function(rules, deck) dealt_of_shoe(rules, deck, if (rules$ties == "again") Inf else 2),
    cards = high_card_cards, core = high_card_spec, likeness = high_card_likeness, in_short = high_card_in_short,
    step_words = high_card_step_words, end_in_words = net_end_in_words,
    out_of_reach = function(rules, deck) if (rules$shoes > 1) session_not_walked,
    fewer_deals = "a smaller deck", examples = high_card_examples
  )
}

high_card_rules <- function() {
  c(list(
    rule_deck("the pack"),
    rule_whole("packs", 1, 1, 8, "packs in the shoe"),
    rule_cards("dead", "cards that are not in the shoe"),
    rule_attribute("rank_by", "rank_high", "what decides which card is higher"),
    rule_choice("ties", c("bank", "half_back", "push", "again"), paste(
      "who has a tie: the bank; half the stake comes back; nobody; or the next two cards of the shoe decide",
      "(none left: nobody)")),
    rule_fraction("pays", 1, 0, 1000, "what a win pays, to one"),
    rule_condition("colour_bet", NULL, "the cards of a bet on the colour"),
    rule_fraction("colour_pays", 1, 0, 1000, "what it pays, to one"),
    rule_condition("suit_bet", NULL, "the cards of a bet on the suit"),
    rule_fraction("suit_pays", 3, 0, 1000, "what it pays, to one"),
    rule_cut(), rule_whole("burn", 0, 0, 100, "cards burned before the first round"),
    rule_players(c("flat", "counting"), "who lays the bets: flat, or by the count")
  ), rules_session())
}

high_card_columns <- function() {
  money <- function(what) {
    list(meaning = sprintf("what %s brings the player, in stakes", what), told_of = "that were played",
         is_money = TRUE)
  }
  list(net = money("the round"), net_main = money("the bet on the higher card"),
       net_colour = money("the bet on the colour"), net_suit = money("the bet on the suit"),
       result = list(meaning = "the player's win, push or loss of the bet on the higher card"),
       ties = list(meaning = "ties that came", told_of = "that were played"),
       cards_used = list(meaning = "cards dealt", told_of = "that were played"))
}

# The rules that must fit the shoe.
settled_high_card <- function(rules, piles, changed, call) {
  refuse_unpayable(rules[c("pays", "colour_pays", "suit_pays")], call)
  rules <- settled_bets_only(rules, 2, call)
  ranks_of_kinds(shoe_of_packs(rules), rules$rank_by, call)
  rules
}

# Of each kind its strength, and whether the bets are on it.
high_card_cards <- function(rules, deck, record, kept, call) {
  betted <- function(name) {
    condition <- rules[[name]]
    if (is.null(condition)) rep(FALSE, length(kinds_of(deck)$codes)) else kinds_meeting(condition, deck, name, call)
  }
  list(strength = ranks_of_kinds(deck, rules$rank_by, call)$rank, on_colour = betted("colour_bet"),
       on_suit = betted("suit_bet"), count = length(deck),
       bettor = core_bettor(rules, 1, deck, length(rules$deck), call))
}

high_card_likeness <- function(game) {
  spec <- game$spec$rules
  like_kinds(c(list(spec$strength, spec$on_colour, spec$on_suit), spec$bettor$system[c("tags", "bet_tags")]))
}

# The smallest unit that makes every payment whole: as many of it make a stake.
high_card_units <- function(rules) {
  pays <- c(rules$pays, if (!is.null(rules$colour_bet)) rules$colour_pays,
            if (!is.null(rules$suit_bet)) rules$suit_pays, if (rules$ties == "half_back") 0.5)
  unit <- whole_unit(pays)
  list(net = unit, net_main = unit, net_colour = unit, net_suit = unit)
}

high_card_spec <- function(rules, cards, dealing) {
  unit <- high_card_units(rules)$net
  bet <- function(made, pays) if (made) c(unit, round(unit * pays)) else c(0, 0)
  list(strength = as.integer(match(cards$strength, sort(unique(cards$strength)))), on_colour = cards$on_colour,
       on_suit = cards$on_suit, cards = cards$count, cut_after = if (is.null(rules$cut_after)) 0 else rules$cut_after,
       burn = rules$burn, ties = rules$ties, main = bet(TRUE, rules$pays),
       colour = bet(!is.null(rules$colour_bet), rules$colour_pays),
       suit = bet(!is.null(rules$suit_bet), rules$suit_pays), bettor = cards$bettor,
       shoes = rules$shoes)
}

high_card_bets <- function(rules) {
  made <- c(TRUE, !is.null(rules$colour_bet), !is.null(rules$suit_bet))
  data.frame(term = c("main", "colour", "suit"), column = c("net_main", "net_colour", "net_suit"), stake = 1,
             staked = NA_character_)[made, ]
}

high_card_in_short <- function(outcomes, weight, game) {
  shares <- outcome_shares(outcomes[["result"]], weight)
  if (is.null(shares)) return(NULL)
  of <- function(name) if (name %in% names(shares)) shares[[name]] else 0
  pushed <- if (of("push") > 0) sprintf(", %s are pushed", format_percent(of("push")))
  sprintf("The player wins %s of the rounds and loses %s%s.", format_percent(of("win")), format_percent(of("loss")),
          if (is.null(pushed)) "" else pushed)
}

high_card_step_words <- c(deal = "shuffled", seat_draws = "draws", bank_draws = "the bank draws", seat_wins = "wins",
                          bank_wins = "the bank wins", nobody_wins = "nobody wins", half_comes_back = "half comes back")

high_card_examples <- list(
  play = c("habanera play high_card --set ties=half_back --trials 1e6 --seed 1",
           "habanera play high_card --set cut_after=0.75 --set packs=6 --trials 1e5 --seed 1"),
  replay = "habanera replay high_card --set ties=again --seed 1",
  vary = "habanera vary high_card --over 'ties=bank;half_back;push' --over packs=1,6",
  compare = "habanera compare high_card --other ties=half_back --seed 1",
  edge = c("habanera edge high_card", "habanera edge high_card --set packs=6 --set ties=half_back --set dead='AS AH'")
)
