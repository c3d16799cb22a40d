#' Pay-table poker
#'
#' A hand is dealt, any of its cards are kept, the others are replaced once, and the hand is paid by its category: what
#' does a pay table keep, and how is it played best?
#'
#' Pays are *for* one: the stake is gone, and what the table says is handed back. A hand is paid by the first line of
#' the table that it meets; what meets none is paid nothing.
#'
#' @inheritParams game_war
#' @param pays The pay table: what is handed back for one stake, by the names of categories as in [hand_rules()], the
#'   best first, such as `c("full house" = 9, "pair of jacks or better" = 1)`; or a file, .yaml or .json with a mapping,
#'   or .csv with the columns `line` and `pays`. `NULL`: the usual table.
#' @param rules Rules by name as a list or a file; or [hand_rules()], of which what is wild and where the ace stands is
#'   taken.
#' @param piles Not for this game.
#' @return A game: an experiment for [simulate()], [exact()], [house_edge()], [trials()] and [replay()].
#' @section Rules:
#' `r rules_for_help("video_poker")`
#' @section Outcomes:
#' `r columns_for_help("video_poker")`
#'
#' The exact answers go by all hands of the deck and all ways to keep, hands that differ only in the names of suits
#' once. How many hands of each category hold a set of cards is counted once for all sets; what a way to keep is worth
#' follows by inclusion and exclusion over the cards that are dropped (Feller 1968, An Introduction to Probability
#' Theory, vol. 1, section IV.1).
#' @section Errors: `habanera_error_input` for a category that there is not, pays out of range; `habanera_error_rules`
#'   for a deck too small for a hand and its draw, or too large to be gone through; a warning of class
#'   `habanera_warning_pays` where high hands are paid as lower ones, or a line further down pays more.
#' @seealso [best_strategy()], [advise()], [mistakes()], [keep_rules()], [price_for()].
#' @examples
#' small <- deck_standard(ranks = c("9", "10", "J", "Q", "K", "A"))
#' house_edge(game_video_poker(c("royal flush" = 60, "straight flush" = 20, "four of a kind" = 10,
#'                               "full house" = 3,
#'                               "flush" = 5, "straight" = 2, "three of a kind" = 1), deck = small))
#' @export
game_video_poker <- function(pays = NULL, ..., rules = NULL, shuffle = NULL, piles = NULL, seat_names = NULL,
                             record = NULL) {
  call <- rlang::current_env()
  given <- rlang::list2(...)
  if (!is.null(pays)) given$pays <- pays
  if (inherits(rules, "habanera_hand_rules")) {
    for (name in c("wild", "ace")) if (is.null(given[[name]])) given[name] <- list(rules[[name]])
    rules <- NULL
  }
  make_game(game_kind("video_poker"), given, rules, game_settings(shuffle, piles, seat_names, record), call)
}

kind_of_video_poker <- function() {
  new_kind(
    "video_poker", "Pay-table poker", "game_video_poker",
    "a hand of which any cards are replaced once, paid by its category.",
    video_poker_rules(), video_poker_columns(), c("category", "net"), core_video_poker,
    settled = settled_video_poker, caution = caution_of_pays, cards = video_poker_cards, core = video_poker_spec,
    dealt = function(rules, deck) 2 * rules$cards,
    fitted = function(rules, call) list(units = list(net = whole_unit(rules$pays))),
    limits = function(rules) list(net = c(0, max(rules$pays)) - 1, kept = c(0, rules$cards)),
    can = list(takes_bets = list(bets = bet_of_one_stake), drops_cards = list(without = video_poker_without),
               plays_best = list(by_hands = best_keep, edges_of = video_poker_edges),
               advises = list(advise = video_poker_advice),
               prices_mistakes = list(mistakes = video_poker_mistakes),
               pays_by_lines = list(lines = video_poker_price_lines)),
    in_short = video_poker_in_short, step_words = video_poker_step_words,
    step_notes = video_poker_step_notes, end_in_words = net_end_in_words, fewer_deals = "a smaller deck",
    examples = video_poker_examples
  )
}

video_poker_rules <- function() {
  list(
    rule_deck("the deck"), rule_pay_table(),
    rule_condition("wild", NULL, "the cards that stand for whatever is best"),
    rule_choice("ace", c("both", "high", "low"), "where the ace stands"),
    rule_whole("cards", 5, 2, 5, "cards in a hand"),
    rule_players(c("solved", "keep", "random"), "who decides what is kept: solved plays best")
  )
}

video_poker_columns <- function() {
  list(net = list(meaning = "what the round brings the player, in stakes", told_of = "that were played",
                  is_money = TRUE),
       category = list(meaning = "the line of the pay table that the hand is paid by; \"nothing\""),
       dealt = list(meaning = "the line that the hand met as it was dealt"),
       kept = list(meaning = "how many cards were kept", told_of = "that were played"))
}

settled_video_poker <- function(rules, piles, changed, call) {
  refuse_unpayable(rules["pays"], call)
  refuse_other_number(rules$players, 1, call)
  if (length(rules$deck) < 2 * rules$cards) {
    refuse(sprintf("A deck of %s is too small for a hand of %d and its draw.", count_of(length(rules$deck), "card"),
                   rules$cards), "rules", call)
  }
  hands <- choose(length(rules$deck), rules$cards)
  if (hands > most_dealt_hands) {
    refuse(sprintf("There are about %s hands to go through; at most %s are. Take a smaller deck.",
                   format_number(hands, 3), format_count(most_dealt_hands)), "rules", call)
  }
  rules
}

most_dealt_hands <- 1e7

hand_rules_of_pays <- function(rules, categories, call) {
  new_hand_rules(rules$cards, categories, rules$wild, rules$ace, NULL, "kickers", "substitute", call)
}

# What the cards are to the pay table, over the kinds of the deck; and who plays.
video_poker_cards <- function(rules, deck, record, kept, call) {
  kinds <- kinds_of(deck)
  catalogue <- catalogue_of(deck)
  bound_to <- function(categories) {
    bound <- bound_hand_rules(hand_rules_of_pays(rules, categories, call), catalogue, kinds$codes, call)
    refuse_rankless(bound, list(codes = kinds$codes, catalogue = catalogue), call)
    utils::modifyList(bound, lapply(bound[c("rank", "suit", "wild")], `[`, kinds$codes))
  }
  bound <- bound_to(names(rules$pays))
  if (length(bound$ranks) > 16) {
    refuse(sprintf("A deck of %d ranks cannot be gone through; at most 16 can.", length(bound$ranks)), "rules", call)
  }
  make <- function(categories) core_hand_rules(bound_to(categories))
  keep <- function(lines) core_keep_list(lines, bound, make, new_pool(deck, deck[0], FALSE, 0, rules$cards), call)
  list(bound = bound, keep = keep, player = core_keeper(rules$players[[1]], keep, kinds, deck),
       places = match(codes_of(deck), kinds$codes))
}

core_keeper <- function(player, keep, kinds, deck) {
  if (player$name == "keep") return(list(name = "keep", list = keep(keep_lines(player))))
  if (is.null(player$f)) return(list(name = player$name))
  attributes <- catalogue_of(deck)$data[kinds$codes, , drop = FALSE]
  columns <- intersect(c("card", "rank", "suit", "rank_high"), names(attributes))
  list(name = "with", f = function(hand, moves, choice) {
    view <- lapply(attributes[columns], `[`, hand)
    kept <- refuse_if_fails(player$f(view, seq_along(hand)), "Your player failed.", "function", NULL)
    if (is.logical(kept) && length(kept) == length(hand) && !anyNA(kept)) kept <- which(kept)
    if (is.numeric(kept) && all(kept %in% seq_along(hand)) && !anyDuplicated(kept)) return(sum(2^(kept - 1)) + 1)
    refuse(sprintf("Your player must return the places of the cards that are kept (1 to %d), not %s, for %s.",
                   length(hand), said(kept), paste(view$card, collapse = " ")), "function", NULL)
  })
}

video_poker_spec <- function(rules, cards, dealing) {
  unit <- whole_unit(rules$pays)
  names <- cards$bound$names
  pays <- rules$pays[names]
  pays[is.na(pays)] <- 0
  list(hands = core_hand_rules(cards$bound), deck = cards$places, cards = rules$cards,
       pays = round(unname(pays) * unit), lines = ifelse(names == "high card" & pays == 0, "nothing", names),
       stake = unit, player = cards$player)
}

video_poker_without <- function(game, dead, call) {
  change_game(game, list(deck = parted_deck(game$deck, NULL, dead, call)$deck), call)
}

video_poker_in_short <- function(outcomes, weight, game) {
  shares <- outcome_shares(outcomes[["category"]], weight)
  if (is.null(shares)) return(NULL)
  best <- sort(shares[setdiff(names(shares), "nothing")], decreasing = TRUE)
  if (!length(best)) return("Nothing is ever paid.")
  sprintf("Something is paid in %s of the rounds, most often for %s (%s).", format_percent(sum(best), 4),
          names(best)[1], format_percent(best[[1]], 4))
}

video_poker_step_words <- c(deal = "shuffled", gets = "gets", keeps = "keeps", draws = "draws", is_paid = "is paid",
                            is_not_paid = "is not paid")

video_poker_step_notes <- function(game, action, steps) {
  value <- steps$value
  lines <- game$spec$rules$lines
  pays <- game$spec$rules$pays / game$spec$rules$stake
  ifelse(action == "is_paid", sprintf(" %s for %s", vapply(pays[value + 1], format_money, ""), lines[value + 1]), "")
}

video_poker_examples <- list(
  play = c("habanera play video_poker --trials 1e6 --seed 1", "habanera play video_poker --exact"),
  replay = "habanera replay video_poker --seed 1",
  vary = "habanera vary video_poker --of edge --over ace=both,high",
  tune = "habanera tune video_poker --rules machine.yaml --over 'flush=5:7' --want 'edge > 0.02' --want 'edge < 0.03'",
  compare = "habanera compare video_poker --other players=random --seed 1",
  price = "habanera price video_poker --lines 'full house,flush' --edge 0.02",
  edge = c("habanera edge video_poker", "habanera edge video_poker --pays machine-pays.csv",
           "habanera edge video_poker --rules machine.yaml --player kept-by-the-baker.txt"),
  strategy = "habanera strategy video_poker --pays machine-pays.csv",
  mistakes = "habanera mistakes video_poker --rules machine.yaml --player kept-by-the-baker.txt",
  advise = "habanera advise video_poker \"JH QH KH 2C 2D\" --pays machine-pays.csv"
)
