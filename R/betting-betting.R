#' Games in which seats bet
#'
#' Seats are dealt cards that they hide from each other, and bet on them, street by street: who folds, who calls, what
#' is a hand worth, which way of playing beats which? The rules are data: how many seats, antes and blinds, stacks, the
#' sizes of bets, what is turned and when, and which hand is better.
#'
#' Before the cards each seat puts in its `ante`, which is nobody's bet, and the first seats their `blinds`, which are.
#' The last seat deals; of two seats with blinds the first deals, posts the smaller and speaks first on the first
#' street, last on later ones. Otherwise who speaks first is, after blinds, the seat behind them, and else the first
#' after the dealer. Cards are dealt one at a time, to the first after the dealer first. Whoever has folded or is all in
#' is passed over; where nobody can bet any more, the cards are turned without betting. A seat can fold only where it
#' owes something. How large bets may be is told at [street()].
#'
#' In the end a bet that nobody called goes back. Who is all in for less plays for a main pot, to which each gave no
#' more than he did, and the others for side pots; equal hands share a pot, and its odd chips go one by one to the first
#' of them after the dealer.
#'
#' Results are told in the larger blind; without blinds in the ante; without either, or where play begins in the middle
#' (a `board` or a `pot`), in chips. From the middle, the nets of all seats come to the pot together.
#'
#' @inheritParams game_war
#' @param deck The cards.
#' @param ... Rules by name, see below.
#' @param rules Rules by name as a list or a file; or rules by their shape: `"one card, one bet"` (two seats with one of
#'   three cards each, one bet of an ante), `"one card, two streets"` (three ranks twice; a card is turned, a pair of it
#'   wins; bets of 2, then of 4, two on each street), `"all in or fold"` (two cards each and five turned, blinds of 1
#'   and 2, stacks of 20). Rules given beside it replace its own.
#' @param piles Not for this game.
#' @return A game: an experiment for [simulate()], [exact()], [trials()] and [replay()].
#' @section Rules:
#' `r rules_for_help("betting")`
#' @section Outcomes:
#' `r columns_for_help("betting")`
#'
#' `actions` tells all moves in a row, a stroke where a street begins: `check bet call / check check`. By default the
#' winner is recorded, how the hand ended and what each seat wins; only seat 1 where the other seat loses that, and of
#' more than three seats.
#' @section What a seat sees:
#' Its own cards, those that all see, and all moves so far; a player in R is handed them as a list of `holding` and
#' `shared` (codes of cards), `actions` (text), `seat`, `street`, `pot`, `to_call`, `left` (its own chips), `bets` (how
#' many on this street), `others` (still in), all in chips, with the moves as text (`"call"`, `"raise 1/2 pot"`); a size
#' is named only where there are several. Cards that no rule tells apart are one in tables: where no flush counts, all
#' cards of a rank; where suits are alike to all rules, hands that differ only in the names of suits.
#' @section Errors: `habanera_error_rules` for rules that contradict each other: antes and blinds above stacks, more
#'   seats than cards, a board that holds a seat's card; `habanera_error_input` for values out of range;
#'   `habanera_error_function` for a strength that is no number; `habanera_error_work` for a strength by an R function
#'   of too many hands, or holdings with too many combinations.
#' @seealso [street()], [player_by_table()], [player_by_rules()], [best_play()], [equilibrium()], [mistakes()],
#'   [hand_classes].
#' @examples
#' small <- game_betting(deck_numbered(3), private = 1, ante = 1, streets = list(street(bets = 1)))
#' exact(small)
#' simulate(game_betting(rules = "all in or fold", players = "calls_all"), nsim = 1000, seed = 1)
#' replay(game_betting(seats = 3, blinds = c(1, 2)), seed = 1)
#' @export
game_betting <- function(deck = NULL, ..., rules = NULL, shuffle = NULL, piles = NULL, seat_names = NULL,
                         record = NULL) {
  call <- rlang::current_env()
  given <- rlang::list2(...)
  if (!is.null(deck)) given <- c(list(deck = deck), given)
  make_game(game_kind("betting"), given, rules, game_settings(shuffle, piles, seat_names, record), call)
}

kind_of_betting <- function() {
  new_kind(
    "betting", "Betting", "game_betting",
    "seats hide cards and bet on them; fold, call or raise, then hands are shown.",
    betting_rules(), betting_columns(6), c("winner", "ended", "net_1"), betting_machine,
    can = list(
      scores = list(columns = function(rules) sprintf("net_%d", seq_len(rules$seats)), of = stake_in_words),
      searches = list(solve = betting_best_answer),
      plays_soundly = list(solve = betting_sound, coarser = paste(
        "fewer sizes of bets, fewer streets or cards turned, fewer cards; or play from a `board` that is known, with",
        "`holdings` that seats can still have")),
      advises = list(by_sight = betting_advice),
      prices_mistakes = list(by_sight = function(game, seat, call) {
        mistakes_by_sight(game, seat, betting_tree(game), call)
      })
    ),
    fitted = fitted_betting, settled = settled_betting, deck = betting_deck,
    dealt = function(rules, deck) rules$seats * rules$private + shared_in_all(rules),
    cards = betting_cards, core = betting_spec, likeness = betting_likeness, limits = betting_limits,
    shapes = betting_shapes, told_by_code = betting_told_by_code, logs_zones = FALSE,
    view_words = betting_view_words, winner = "winner",
    in_short = betting_in_short, step_words = betting_step_words, step_notes = betting_step_notes,
    step_columns = betting_step_columns, end_in_words = betting_end_in_words, course = betting_course,
    fewer_deals = "a smaller deck, fewer cards of its own for each seat", examples = betting_examples
  )
}

# What the core refuses of rules that R has checked are hands of which there are too many, or none.
betting_machine <- function(spec) {
  rule <- if (is.null(spec$holdings)) "strength" else "holdings"
  slip <- function(cnd, class) refuse(sprintf("`%s`: %s.", rule, conditionMessage(cnd)), class, NULL)
  tryCatch(core_betting(spec), `std::length_error` = function(cnd) slip(cnd, "work"),
           `std::invalid_argument` = function(cnd) slip(cnd, "rules"))
}

betting_columns <- function(seats, unit = "larger blinds, antes or chips") {
  by_seat <- function(name, meaning, ...) {
    rlang::set_names(lapply(seq_len(seats), function(seat) list(meaning = sprintf(meaning, seat), ...)),
                     sprintf("%s_%d", name, seq_len(seats)))
  }
  c(list(winner = list(meaning = "the seat that has the main pot alone, or nobody"),
         ended = list(meaning = "how the hand ended",
                      legend = c(fold = "all but one folded", showdown = "hands were shown")),
         street = list(meaning = "on which street it ended, the last where hands were shown",
                       told_of = "that were played"),
         pot = list(meaning = sprintf("what was played for in all, in %s", unit), told_of = "that were played",
                    is_money = TRUE),
         actions = list(meaning = "all moves in a row; NA where there are too many to be told")),
    by_seat("net", paste0("what the hand brought seat %d, in ", unit), told_of = "that were played", is_money = TRUE),
    by_seat("folded", "whether seat %d folded"), by_seat("all_in", "whether seat %d stayed in with all its chips"),
    by_seat("holding", "the cards of seat %d, where that is recorded"),
    by_seat("decisions", "choices that seat %d made"),
    by_seat("forced", "of the choices of seat %d, those with one move only"))
}

fitted_betting <- function(rules, call) {
  unit <- betting_unit(rules)
  nets <- sprintf("net_%d", seq_len(rules$seats))
  list(columns = betting_columns(rules$seats, unit_in_words(rules)),
       record = c("winner", "ended", if (rules$seats > 3 || is_zero_sum(rules)) "net_1" else nets),
       units = as.list(rlang::set_names(rep(unit, rules$seats + 1), c(nets, "pot"))))
}

betting_limits <- function(rules) {
  unit <- betting_unit(rules)
  stacks <- rep_len(rules$stacks, rules$seats)
  nets <- lapply(seq_len(rules$seats), function(seat) {
    c(-stacks[seat], sum(stacks[-seat]) + rules$pot) / unit
  })
  c(rlang::set_names(nets, sprintf("net_%d", seq_len(rules$seats))), list(street = c(1, length(rules$streets))))
}
