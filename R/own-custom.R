#' Your own game
#'
#' A game as one R function, which is then simulated, replayed, worked out on small decks, compared, varied, drawn and
#' reported as any other.
#'
#' `play(table, rules, players)` plays one game on `table`, whose verbs are called as `table$move("stock", "hand_1")`:
#' * `move(from, to, n = 1, at = NULL, beneath = FALSE)`: the top `n` cards, or those at these places, go on top of
#'   another pile or beneath it; gives the cards. `deal(from, to, n = 1)`: to each of the piles `to` in turn, `n` times.
#'   `any(from, to)`: a card of the pile, each as likely.
#' * `size(pile)`, `cards(pile)`, `look(pile, at = 1)`: how many, which, and which at some places; `turn(pile, at = 1)`
#'   is a look that is told in the log.
#' * `shuffle(pile)`; `random(n)`: a whole number from 1 to `n`.
#' * `ask(seat, view, moves)`: the seat's player is shown `view` and chooses one of `moves`, a vector or a list;
#'   `ask_all(seats, views, moves)` asks several in secret, and gives a list.
#' * `note(text)` writes to the log; `pay(seat, amount)` keeps what a seat has won, `money(seat)` tells it.
#'
#' Cards are numbers; `table$of` has their attributes, as in `table$of$rank[card]`, and `table$seats` is how many play.
#' The top card of a pile is its first. Cards only move, so that none is lost or made; all luck is the table's, so that
#' a trial has its address; what `play()` returns are the outcomes by name. A game may end early: it returns.
#'
#' @param name What the game is called, in small letters.
#' @param deck The cards, which lie shuffled on the first of `piles`; or a list of them by the names of piles, a deck
#'   for each, each shuffled by itself.
#' @param play The function.
#' @param outcomes A list by name of [outcomes].
#' @param piles By name who sees the cards in a pile: "hidden" (nobody), "open" (everybody), or "own": there is one for
#'   each seat, seen by it, as `hand_1`, `hand_2`.
#' @param rules A list: defaults by name (a number, TRUE or FALSE, or a text, whose type a value must have), or rules
#'   made by [rule_whole()] and its kin. `play()` is handed them as a list.
#' @param seats How many play; a rule called `seats` among `rules` says so in its place.
#' @param players Who decides for the seats: [player_random()], [player_with()] of a function of `view` and `moves` that
#'   returns one of `moves`; one for all, or a list with one for each seat. [player_lookahead()] tries each move in
#'   deals that fit all that its seat could see (in open piles, its own, and of what was turned); [player_person()] is
#'   you.
#' @param worth For [player_lookahead()]: a function of a list of outcomes and a seat that gives what they are worth to
#'   it; `NULL`: the win, where an outcome is a seat, or its money, where there is one such outcome for each seat.
#' @param record The outcomes that are counted; `NULL`: all.
#' @param shuffle How the deck is shuffled.
#' @param seat_names Names of the seats.
#' @return A game: an experiment for [simulate()], [exact()] on small decks, [trials()], [replay()], [compare()],
#'   [vary_rules()] and the rest. `exact()` walks every course of the game.
#' @section Errors: `habanera_error_input` for what cannot be a game; `habanera_error_function` for what goes wrong in
#'   `play()` or a player, with the trial, the step and how to play it again: a pile that there is not, a card that it
#'   does not hold, an outcome that is forgotten or not declared, a game that does not end in 200,000 steps;
#'   `habanera_error_work` from `exact()` with about how many courses there are.
#' @seealso [check_game()], [outcomes], [rule_whole()].
#' @examples
#' # Cards are turned until an ace comes.
#' to_the_ace <- game_custom("to_the_ace", deck_standard(), function(table, rules, players) {
#'   turned <- 0
#'   repeat {
#'     turned <- turned + 1
#'     if (table$of$rank[table$move("stock", "shown")] == rules$rank) return(list(turned = turned))
#'   }
#' }, outcomes = list(turned = outcome_whole("cards turned")),
#'    piles = c(stock = "hidden", shown = "open"),
#' rules = list(rank = "A"))
#' simulate(to_the_ace, nsim = 200, seed = 1)
#' replay(change_rules(to_the_ace, rank = "K"), seed = 1)
#' @export
game_custom <- function(name, deck, play, outcomes, piles = c(stock = "hidden", shown = "open"), rules = list(),
                        seats = 1, players = player_random(), worth = NULL, record = NULL, shuffle = NULL,
                        seat_names = NULL) {
  check_given()
  call <- rlang::current_env()
  check_string(name, "name", call)
  if (!grepl("^[a-z][a-z0-9_]*$", name)) {
    refuse(sprintf("`name` must be of small letters, digits and _, not %s.", quoted(name)))
  }
  check_function(play)
  if (!is.null(worth)) check_function(worth)
  check_whole(seats, 1, most_custom_seats())
  decks <- checked_decks(deck, call)
  if (!is.null(names(decks)) && !is.null(shuffle)) {
    refuse("Several decks are shuffled each by itself, fairly: no `shuffle`.", "rules")
  }
  kind <- custom_kind(name, decks, play, checked_outcomes(outcomes, call),
                      checked_piles(piles, names(decks), seats, call), checked_own_rules(rules, call), seats, worth)
  make_game(kind, list(players = players), NULL, game_settings(shuffle, NULL, seat_names, record), call)
}

custom_kind <- function(name, decks, play, outcomes, piles, rules, seats, worth) {
  own <- list(play = play, outcomes = outcomes, piles = piles, decks = lengths(decks), worth = worth)
  whole <- do.call(c, unname(decks))
  winner <- winner_among(outcomes)
  # A rule of this name may say how many play.
  seats_by <- function(rules) if (is.null(rules$seats)) seats else rules$seats
  columns <- function(seats) c(outcome_columns(outcomes), if (!is.na(winner)) score_columns(seats))
  coins <- vapply(outcomes, function(outcome) if (is.null(outcome$coin)) NA_real_ else outcome$coin, 0)
  new_kind(
    name, gsub("_", " ", sentence(name)), "game_custom", "a game of one's own.",
    c(list(rule_deck("the cards", whole, "as given"),
           rule_players(c("random", "with", "lookahead", "table", "by_rules", "person"),
                        "who decides for the seats")), rules),
    columns(seats), names(outcomes), NULL,
    can = c(list(in_r = own, hides = list(leak = first_leak), searches = list(solve = custom_solved)),
            if (!is.na(winner)) {
              list(scores = list(columns = function(rules) score_names(seats_by(rules)), of = "the win"))
            }),
    plays = list(in_r = TRUE, words = custom_words, trials = custom_trials, replay = custom_replay, walk = custom_walk,
                 outcome = custom_outcome),
    code = paste(deparse(play), collapse = "\n"),
    # It is what its maker has called it.
    made_by = function(kind, settings) {
      if (nzchar(settings)) sprintf("change_rules(%s, %s)", kind$name, settings) else kind$name
    },
    seats = seats_by,
    fitted = function(rules, call) {
      list(columns = columns(seats_by(rules)), units = c(as.list(1 / coins[!is.na(coins)]), score_units()))
    },
    settled = function(rules, piles, changed, call) {
      check_whole(seats_by(rules), 1, most_custom_seats(), "seats", call)
      refuse_other_number(rules$players, seats_by(rules), call)
      refuse_worthless(own, rules, seats_by(rules), call)
      rules
    },
    limits = function(rules) score_limits(), winner = if (!is.na(winner)) winner,
    end_in_words = function(trace) outcomes_in_words(attr(trace, "outcome")[names(outcomes)]),
    view_words = function(rules, view) shown_words(view), step_words = c(deal = "shuffled"),
    core = function(rules, cards, dealing) NULL,
    fewer_deals = "a smaller deck, or coarser cards"
  )
}

# By the names of the piles that they lie on; an empty name: the first.
checked_decks <- function(deck, call) {
  if (is_cards(deck)) return(list(check_deck(deck, call)))
  fits <- is.list(deck) && length(deck) > 0 && all(vapply(deck, is_cards, NA)) && all(nzchar(rlang::names2(deck)))
  if (!fits) refuse(sprintf("`deck` must be cards, or a list of them by piles, not %s.", said(deck)), call = call)
  deck
}

# All piles, those of seats to be made for each: a list of `seen` by name.
checked_piles <- function(piles, decks, seats, call) {
  fits <- is.character(piles) && length(piles) > 0 && all(grepl("^[a-z][a-z0-9_]*$", rlang::names2(piles))) &&
    !anyDuplicated(names(piles)) && all(piles %in% c("hidden", "open", "own"))
  if (!fits) {
    refuse(sprintf("`piles` must be by name \"hidden\", \"open\" or \"own\", as in c(stock = \"hidden\"), not %s.",
                   said(piles)), call = call)
  }
  unknown <- setdiff(decks, pile_names(piles, seats))
  if (length(unknown)) refuse(sprintf("`deck` names the pile %s, which is none of `piles`.", quoted(unknown[1])),
                              call = call)
  piles
}

# Rules given by their defaults have the default's type.
checked_own_rules <- function(rules, call) {
  if (!is.list(rules)) refuse(sprintf("`rules` must be a list, not %s.", said(rules)), call = call)
  names <- rlang::names2(rules)
  made <- lapply(seq_along(rules), function(i) {
    rule <- rules[[i]]
    if (is.list(rule) && all(c("name", "default", "check") %in% names(rule))) return(rule)
    rule_like(names[i], rule, call)
  })
  all <- vapply(made, `[[`, "", "name")
  taken <- c(all[duplicated(all)], intersect(all, c("deck", "players", "game")))
  if (length(taken)) refuse(sprintf("`rules`: the name `%s` is taken.", taken[1]), call = call)
  made
}

rule_like <- function(name, default, call) {
  if (!grepl("^[a-z][a-z0-9_]*$", name)) refuse("Each of `rules` needs a name of small letters, digits and _.",
                                                call = call)
  if (is.logical(default) && length(default) == 1) return(rule_flag(name, default, "TRUE or FALSE"))
  if (rlang::is_string(default)) return(rule_word(name, default, "a text"))
  if (is.numeric(default) && length(default) == 1 && is.finite(default)) {
    return(if (default == round(default)) rule_whole(name, default, -1e9, 1e9, "a whole number") else
      rule_fraction(name, default, -1e9, 1e9, "a number"))
  }
  refuse(sprintf("`rules`: the default of `%s` must be a number, TRUE or FALSE, or a text, not %s.", name,
                 said(default)), call = call)
}
