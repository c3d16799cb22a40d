#' What now? One hand, and the dealer's chances
#'
#' `advise()` tells what each move of a hand is worth, by the best play of its cards afterwards, from any state of a
#' round; `dealer_totals()` what the dealer ends on, by up card.
#'
#' A hand after a split is played as if it were alone; each other hand of the seat is known to hold a card of the pair.
#' Of [game_video_poker()] the moves are all ways to keep cards of the hand.
#'
#' @param game A game for money with decisions: [game_blackjack()], [game_video_poker()], [game_betting()].
#' @param cards The cards of the hand, as cards or their codes: `"10S 6H"`. After a split, the card that was split
#'   first.
#' @param up_card Where a dealer shows a card, which: `"9D"`.
#' @param dead Cards that are gone from the shoe, beside those of the hand.
#' @param working TRUE: with what each move ends in, beside the dealer's totals.
#' @param hands How many hands the seat has, this one with them; above 1 it is one of a split.
#' @param shared,actions Of [game_betting()] the cards that all see by then, beside a `board`, and the moves so far as
#'   text (`"check bet"`): these say who is to speak.
#' @param against Of [game_betting()] the players of the other seats, or what [equilibrium()] found; `NULL`: whoever
#'   plays soundly.
#' @return `advise()`: a `habanera_advice`, a data frame with a row for each move, the best first: `move`, `expected`
#'   (the player's result in initial stakes; where the dealer looks first, given that he has no natural), `best`. With
#'   `working` its attribute `endings` is a data frame: `move`, `total` (what the hand ends on; "bust"),
#'   `probability`, and of it `win`, `push`, `loss`; and `dealer` one of `total` and `probability`, this hand being
#'   known. Of [game_betting()] `expected` is what the move brings on average from here on, the other seats as they are
#'   and the best following, in what the game counts in (chips put in before are lost); against sound play there is a
#'   column `chance`, how often that makes the move, and `best` holds of all that bring what it mixes, but for the
#'   gap.
#'   `dealer_totals()`: a data frame: `up_card`, `total` (the totals he stands on, "natural", "bust"),
#'   `probability`, `if_no_natural` (given that there is none).
#' @section Errors: `habanera_error_conservation` for cards that the shoe does not hold; `habanera_error_rules` for a
#'   hand that is bust or has nothing to decide; `habanera_error_input` for a game that is not solved.
#' @seealso [best_strategy()], [equilibrium()].
#' @examples
#' advise(game_blackjack(), "10S 6H", "9D")
#' advise(game_blackjack(), "8S 3H", "6D", working = TRUE, hands = 2)
#' head(dealer_totals(game_blackjack()))
#' small <- deck_standard(ranks = c("9", "10", "J", "Q", "K", "A"))
#' advise(game_video_poker(deck = small), "JH QH KH 9C 9D")
#' advise(game_betting(rules = "one card, one bet"), "2", actions = "bet")
#' @export
advise <- function(game, cards, up_card = NULL, dead = NULL, working = FALSE, hands = 1, shared = NULL,
                   actions = NULL, against = NULL) {
  check_given()
  call <- rlang::current_env()
  check_flag(working)
  check_whole(hands, 1, 100)
  adviser <- capability(checked_game(game), "advises", call)
  if (!is.null(adviser$by_sight)) {
    refuse_house_words(game, list(up_card = up_card, dead = dead, working = if (working) TRUE,
                                  hands = if (hands > 1) hands), call)
    return(advise_by_sight(game, adviser$by_sight(game, cards, shared, actions, call), against, call))
  }
  told <- Filter(Negate(is.null), list(shared = shared, actions = actions, against = against))
  if (length(told)) {
    refuse(sprintf("%s hides no cards of seats: no `%s`.", kind_of(game)$title, names(told)[1]), call = call)
  }
  game <- without_cut(without_cards(game, dead, call))
  found <- adviser$advise(game, cards, up_card, hands, working, call)
  order <- order(-found$expected, found$move)
  table <- data.frame(move = found$move[order], expected = found$expected[order],
                      best = found$expected[order] > max(found$expected) - 1e-11)
  if (working) {
    endings <- as.data.frame(found[c("ending_move", "total", "chance", "win", "push", "loss")])
    names(endings)[1:3] <- c("move", "total", "probability")
    attr(table, "endings") <- endings
    attr(table, "dealer") <- found$dealer
  }
  words <- paste(c(join_words(as.character(found$held)), as.character(found$up_card)), collapse = " against ")
  structure(table, made = call_made(), class = table_class("habanera_advice"), words = words, game = game)
}

#' @export
tell.habanera_advice <- function(x, ...) {
  best <- x$move[x$best]
  cat_wrapped(sprintf("<advice> %s: %s%s.", attr(x, "words"), join_words(best, "or"),
                      if (nrow(x) > length(best)) sprintf(", by %s of a stake", format_number(
                        x$expected[1] - x$expected[!x$best][1], 3)) else ""))
  print_head(data.frame(move = x$move, expected = sprintf("%+.4f", x$expected)), 20)
  if (!is.null(attr(x, "endings"))) print_working(attr(x, "endings"), attr(x, "dealer"))
  invisible(x)
}

refuse_house_words <- function(game, given, call) {
  given <- Filter(Negate(is.null), given)
  if (length(given)) {
    refuse(sprintf("%s has no house: no `%s`; `shared`, `actions` and `against` say where a hand stands.",
                   kind_of(game)$title, names(given)[1]), call = call)
  }
}

# Of games whose seats hide their cards: `against` players of the other seats, what equilibrium() found, or, where it is
# NULL, whoever plays soundly.
advise_by_sight <- function(game, where, against, call) {
  played <- if (inherits(against, "habanera_equilibrium")) against else if (is.null(against)) {
    if (game_seats(game) != 2) refuse("Say `against` whom: sound play is found of two seats.", "rules", call)
    # So near that moves that are mixed bring the same.
    equilibrium(game, gap = 1e-6, seconds = 20)
  } else best_play(game, where$seat, against)
  rows <- played$rows[played$rows$seat == where$seat & played$rows$sees == where$sees, , drop = FALSE]
  if (!nrow(rows)) {
    refuse(sprintf("Seat %s can hold nothing such there, or has no choice to make: %s.", format_count(where$seat),
                   quoted(where$sees)), "rules", call)
  }
  is_sound <- inherits(played, "habanera_equilibrium")
  found <- c(where, list(move = rows$move, expected = rows$worth, chance = if (is_sound) rows$chance,
                         against = if (is_sound) "sound play" else "these opponents"))
  order <- order(-found$expected, found$move)
  # What sound play mixes brings the same, but for the gap.
  made <- if (is_sound) found$chance >= 0.05 else found$expected == max(found$expected)
  slack <- if (is_sound) played$high - played$low else 1e-11
  moves <- data.frame(move = found$move, expected = found$expected,
                      best = found$expected >= min(found$expected[made]) - slack)
  if (!is.null(found$chance)) moves$chance <- found$chance
  moves <- moves[order, ]
  rownames(moves) <- NULL
  structure(moves,
            made = call_made(), class = table_class(c("habanera_advice_by_sight", "habanera_advice")),
            found = found, game = game)
}

#' @export
tell.habanera_advice_by_sight <- function(x, ...) {
  found <- attr(x, "found")
  where <- sprintf("Seat %s, %s", format_count(found$seat), sub("^seat [0-9]+, ", "", where_in_words(found$sees)))
  if (anyNA(x$expected)) {
    cat_wrapped(sprintf("<advice> %s: by %s it never comes to this, so that nothing is known of it.", where,
                        found$against))
  } else {
    best <- x$move[x$best]
    lead <- if (nrow(x) > length(best)) x$expected[1] - x$expected[!x$best][1]
    cat_wrapped(sprintf("<advice> %s: %s%s, against %s.", where, join_words(best, "or"), if (is.null(lead)) "" else {
      sprintf(", by %s %s", format_number(lead, 3), found$unit)
    }, found$against))
  }
  shown <- data.frame(move = x$move, expected = sprintf("%+.4f", ifelse(abs(x$expected) < 5e-5, 0, x$expected)))
  if (!is.null(x[["chance"]])) shown[["sound play makes it"]] <- sprintf("%.1f%%", 100 * x$chance)
  print_head(shown, 20)
  invisible(x)
}

print_working <- function(endings, dealer) {
  cat("What the dealer ends on:\n")
  print_head(data.frame(total = dealer$total, chance = format_percent(dealer$probability, 4)), 40)
  cat("What the hand ends on, and what comes of it:\n")
  shares <- lapply(endings[c("probability", "win", "push", "loss")], format_percent, 4)
  print_head(data.frame(move = endings$move, total = endings$total, chance = shares$probability, win = shares$win,
                        push = shares$push, loss = shares$loss), 60)
}

#' @rdname advise
#' @export
dealer_totals <- function(game, dead = NULL) {
  check_given()
  call <- rlang::current_env()
  dealer <- capability(checked_game(game), "tells_dealer", call)
  game <- without_cut(without_cards(game, dead, call))
  structure(dealer$totals(game, call), made = call_made(), class = table_class("habanera_dealer_totals"),
            words = in_words(game))
}

#' @export
tell.habanera_dealer_totals <- function(x, ...) {
  busts <- x[x$total == "bust", ]
  if (!nrow(busts)) return(NextMethod())
  cat_wrapped(sprintf("<dealer> %s: he busts most often with %s (%s), least with %s (%s).", attr(x, "words"),
                      busts$up_card[which.max(busts$probability)], format_percent(max(busts$probability), 4),
                      busts$up_card[which.min(busts$probability)], format_percent(min(busts$probability), 4)))
  ups <- unique(x$up_card)
  shown <- as.data.frame(lapply(rlang::set_names(unique(x$total)), function(total) {
    format_percent(x$probability[x$total == total], 4)
  }), optional = TRUE)
  print_head(cbind(up_card = ups, shown), 20)
  invisible(x)
}
