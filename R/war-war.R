#' War
#'
#' The family of War: every seat turns its top card, the highest takes all, and a tie is fought out. Nobody decides
#' anything, so it is a game about rules: which of them end it, how soon, and whether a seat is favoured.
#'
#' Before every round a seat without cards is out; the last one left has won. A *round* is everything from turning
#' the cards to moving the pot, however many ties lie inside. The pot goes under the winner's pile in the order in
#' which it was laid, layer by layer: the cards turned, the first cards laid face down, the second, and so on to the
#' next cards turned; `collect` orders the cards inside a layer.
#'
#' A game in which nothing is left to chance after the deal is watched: when piles and pot lie as they lay before
#' (cards of one rank being alike), it ends as `never_ends`. Each position is compared with that after the last round
#' of 512, 1,024, 2,048, ... (Brent 1980, BIT 20, section 2), so a cycle of L rounds entered after m rounds is noticed
#' at round 2^k + L, for the smallest 2^k not below 512, m and L. A pot that is shuffled, and `at_limit = "most_cards"`
#' (where the limit is a rule of the game), leave only `max_rounds` to end it.
#'
#' @param ... Rules by name; see below.
#' @param rules A list of rules, as [rules()] gives them, or a file (.yaml, .json); rules in `...` win over it.
#' @param shuffle A shuffling procedure, or its text; `NULL`: uniform.
#' @param piles `NULL`, or the piles to start from, one for each seat, the top card first: a list of cards or of
#'   texts, a file, or one text such as `"AS KD | 2S 3H"`. A text file has a line for each pile, or `name:` before the
#'   cards of each; a CSV file the columns `seat` and `card`; a YAML file a list of cards for each name. Cards that no
#'   pile holds are out of the game.
#' @param seat_names `NULL` (the numbers of the seats, or the names of `piles`), or a name for each seat.
#' @param record The outcomes whose joint counts are kept.
#' @return A game: an experiment for [simulate()], [exact()], [trials()] and [replay()].
#' @section Rules:
#' `r rules_for_help("war")`
#'
#' A seat that cannot lay a whole war: when two seats play, it loses the game at once, and when neither can, the game
#' is tied; when more play, it is out, what it laid stays in the pot and what it still holds leaves the game. By
#' points such a war goes to the other, or to nobody. An inner game that nobody wins leaves the round to the cards
#' turned.
#' @section Outcomes:
#' `r columns_for_help("war")`
#'
#' A game that never ends, or that `max_rounds` broke off where this is no rule of the game (`at_limit = "none"`), has
#' no length: its numbers are `NA`, and means, quantiles and figures are of the games that ended; those about the winner
#' of the games that somebody won.
#' @section Errors: `habanera_error_rules` for rules that do not exist or contradict each other, and for ranks and
#'   piles that do not fit; `habanera_error_input` for values out of range; `habanera_error_conservation` for piles
#'   with cards that the deck does not have as often; `habanera_error_notation` for cards that cannot be read, with
#'   the line of the file.
#' @examples
#' war <- game_war()
#' simulate(war, nsim = 1000, seed = 1)
#' game_war(deck = deck_numbered(6), rank_by = "rank_high", collect = "loser_first")
#' @export
game_war <- function(..., rules = NULL, shuffle = NULL, piles = NULL, seat_names = NULL, record = NULL) {
  call <- rlang::current_env()
  make_game(game_kind("war"), rlang::list2(...), rules, game_settings(shuffle, piles, seat_names, record), call)
}

kind_of_war <- function() {
  new_kind(
    "war", "War", "game_war", "the highest card takes all, ties are fought out; nobody decides anything.",
    war_rules(), war_columns(), c("winner", "ended", "rounds"), core_war,
    can = list(takes_piles = list(told = "seats", dealt_by = c("cards_each", "deal_pattern")),
               deals_hands = list(opening = function(rules) war_dealing(rules, NULL))),
    fitted = fitted_war,
    contradictions = refuse_war_contradictions, settled = settled_war, dealing = war_dealing, cards = war_cards,
    core = war_spec,
    likeness = function(game) game$spec$rules$ranks, winner = "winner", rounds = "rounds", in_short = war_in_short,
    step_words = war_step_words, end_in_words = war_end_in_words, closing_words = war_closing_words,
    course = war_course, gone = "aside", fewer_deals = "a smaller deck, fewer `cards_each`", examples = war_examples
  )
}

war_rules <- function() {
  list(
    rule_deck("the cards played with"),
    rule_whole("seats", 2, 2, 6, "how many play; only the seats tied for highest go to war"),
    rule_whole("cards_each", NULL, 1, most_cards, "cards dealt to each seat; those left over are out of the game",
               without = "all are dealt, the first seats getting one more where they do not go round"),
    rule_choice("deal_pattern", c("alternate", "block"), "dealt one card at a time in turn, or each pile as a block"),
    rule_attribute("rank_by", "rank_high", "what decides which card is higher"),
    rule_choice("take_from", c("top", "bottom"), "the end of its pile that a seat takes its cards from"),
    rule_choice("scoring", c("capture", "points"),
                "capture: the pot goes under the winner's pile; points: one pass through the piles, a point a round"),
    rule_choice("collect", c("winner_first", "loser_first", "seat_order", "shuffled"),
                "the order inside each layer of the pot as it goes under, or the whole pot shuffled"),
    rule_choice("tie", c("war", "split", "discard", "seat", "nothing"), paste(
      "war: each tied seat lays `face_down` cards and turns another; split: each takes its own back; discard: the pot",
      "leaves the game; seat: `tie_seat` (or the next tied seat after it) counts as the winner; nothing: the pot waits",
      "for the next round's winner, or, by points, nobody scores"
    )),
    rule_whole("tie_seat", 1, 1, 6, "the seat that wins ties with tie = \"seat\""),
    rule_whole("face_down", 3, 0, 1000, "cards laid face down in a war"),
    rule_choice("if_short", c("last_card", "loses"), paste(
      "a seat that cannot lay the whole war: last_card: lays all but its last card face down and turns the last, and",
      "with none left loses; loses: has lost"
    )),
    rule_choice("repetition", c("none", "seat_1", "tied"),
                "when all piles lie as at the beginning of an earlier round: no rule, seat 1 wins, or tied"),
    rule_flag("inner_game", FALSE, paste(
      "when every seat holds at least as many cards as the rank it just turned, a game within the game on copies of",
      "that many next cards decides the round"
    )),
    rule_whole("max_rounds", 100000, 1, 1e9, "rounds, those of inner games included, after which the game is stopped"),
    rule_choice("at_limit", c("none", "most_cards"), "who wins then: nobody, or the seat with most cards (or points)")
  )
}

# How a game can end, and what that means.
war_endings <- c(
  out_of_cards = "all seats but one ran out of cards", short_of_cards = "a seat could not lay the whole war",
  tied = "nobody was ahead when the cards were gone", repetition = "a position came again, which ends it by the rules",
  never_ends = "a position came again, and will for ever", round_limit = "`max_rounds` were played"
)

war_columns <- function() {
  ended <- function(meaning) list(meaning = meaning, told_of = "that ended", lacks_end = TRUE)
  won <- function(meaning) list(meaning = meaning, told_of = "that somebody won")
  points <- rlang::set_names(lapply(1:6, function(seat) ended(sprintf("rounds won by seat %d", seat))),
                             sprintf("points_%d", 1:6))
  c(
    list(
      winner = list(meaning = "the seat's name, or nobody"),
      ended = list(meaning = paste("how it ended:", join_words(names(war_endings), "or")), legend = war_endings),
      rounds = ended("rounds played"),
      comparisons = ended("times face-up cards were compared"),
      ties = ended("comparisons that were ties"),
      longest_war = ended("the most ties in one round"),
      lead_changes = ended("times the strictly largest pile (or score) changed hands"),
      winner_fewest = won("the smallest pile the winner had between rounds"),
      margin = won("the winner's cards (or points) more than the next best seat's")
    ), points,
    list(
      inner_games = ended("games within the game"),
      inner_depth = ended("how deep they went"),
      weighted_pile = won("sum over the winner's pile of rank times place, the bottom card being in place 1")
    )
  )
}

fitted_war <- function(rules, call) {
  columns <- war_columns()
  columns$ended$without_end <- c("never_ends", if (rules$at_limit == "none") "round_limit")
  list(columns = columns)
}

# `changed` names the rules that are not as by default.
refuse_war_contradictions <- function(rules, changed, call) {
  both <- function(...) refuse(sprintf(...), "rules", call)
  if (rules$scoring == "points" && rules$tie %in% c("split", "discard")) {
    both("`tie = \"%s\"` is about piles; with `scoring = \"points\"` a tie may be war, seat or nothing.", rules$tie)
  }
  if (rules$scoring == "points" && rules$inner_game) {
    both("`inner_game` is about piles: not with `scoring = \"points\"`.")
  }
  if ("tie_seat" %in% changed && rules$tie != "seat") {
    both("`tie_seat` goes with `tie = \"seat\"`, not \"%s\".", rules$tie)
  }
  for (rule in c("face_down", "if_short")) {
    if (rule %in% changed && rules$tie != "war") both("`%s` goes with `tie = \"war\"`, not \"%s\".", rule, rules$tie)
  }
  if ("collect" %in% changed && rules$scoring == "points") both("`collect` goes with `scoring = \"capture\"`.")
  if (rules$repetition != "none" && rules$collect == "shuffled" && rules$scoring == "capture") {
    both("`repetition` is about positions that must come again: not with `collect = \"shuffled\"`.")
  }
}

# The rules once piles are known: their number is the number of seats.
settled_war <- function(rules, piles, changed, call) {
  if (!is.null(piles)) {
    if ("seats" %in% changed && rules$seats != length(piles)) {
      refuse(sprintf("There are %d piles for %s seats.", length(piles), format_count(rules$seats)), "rules", call)
    }
    if (!length(piles) %in% 2:6) refuse(sprintf("War takes 2 to 6 seats, not %d piles.", length(piles)), "rules", call)
    rules$seats <- as.double(length(piles))
  }
  if (rules$tie == "seat" && rules$tie_seat > rules$seats) {
    refuse(sprintf("`tie_seat` must be one of the %s seats, not %s.", format_count(rules$seats),
                   format_count(rules$tie_seat)), "rules", call)
  }
  if (is.null(piles)) refuse_short_war(rules, call)
  ranks <- ranks_of_kinds(rules$deck, rules$rank_by, call)
  if (rules$inner_game && !ranks$whole) refuse_for_ranks("inner_game", "rules", ranks, call)
  rules
}

refuse_short_war <- function(rules, call) {
  cards <- length(rules$deck)
  needed <- rules$seats * if (is.null(rules$cards_each)) 1 else rules$cards_each
  if (needed <= cards) return(invisible())
  refuse(sprintf("%s seats with %s each need %s; the deck has %s.", format_count(rules$seats),
                 count_of(needed / rules$seats, "card"), format_count(needed), format_count(cards)), "rules", call)
}

war_dealing <- function(rules, piles) {
  sizes <- if (is.null(piles)) hand_sizes(length(rules$deck), rules$seats, rules$cards_each, NULL) else lengths(piles)
  list(sizes = as.double(unname(sizes)), alternate = is.null(piles) && rules$deal_pattern == "alternate")
}

war_spec <- function(rules, ranks, dealing) {
  kept <- c("take_from", "scoring", "collect", "tie", "face_down", "if_short", "repetition", "inner_game", "max_rounds",
            "at_limit")
  c(unclass(rules)[kept], list(tie_seat = if (rules$tie == "seat") rules$tie_seat else 1, ranks = ranks$rank,
                               dealing = dealing))
}

# What cards are to War: their ranks.
war_cards <- function(rules, deck, record, kept, call) {
  ranks <- ranks_of_kinds(deck, rules$rank_by, call)
  if (!ranks$whole) refuse_for_ranks(intersect("weighted_pile", record), "record", ranks, call)
  ranks
}
