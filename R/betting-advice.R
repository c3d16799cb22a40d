# What each move is worth to a seat that holds some cards, after some moves.

# `against`: players of the other seats, what equilibrium() found, or NULL: whoever plays soundly.
betting_advice <- function(game, cards, shared, actions, against, call) {
  if (is.null(actions)) actions <- ""
  if (!rlang::is_string(actions)) refuse(sprintf("`actions` must be one text, not %s.", said(actions)), call = call)
  slip <- function(sees, ...) refuse(ended(sprintf(...)), "rules", call)
  spec <- game$spec$rules
  open <- core_betting_open(spec, actions)[[1]]
  if (nzchar(open$wrong)) slip("", "`actions`: the moves cannot go on with %s by these rules", quoted(open$wrong))
  if (open$seat == 0) slip("", "`actions`: the hand is over after %s", quoted(actions))
  sees <- advised_sight(game, cards, shared, open, slip)
  found <- if (inherits(against, "habanera_equilibrium")) against else if (is.null(against)) {
    if (game_seats(game) != 2) refuse("Say `against` whom: sound play is found of two seats.", "rules", call)
    # So near that moves that are mixed bring the same.
    equilibrium(game, gap = 1e-6, seconds = 20)
  } else best_play(game, open$seat, against)
  rows <- found$rows[found$rows$seat == open$seat & found$rows$sees == sees, , drop = FALSE]
  if (!nrow(rows)) slip("", "%s can be no hand of seat %s there", quoted(sees), format_count(open$seat))
  is_sound <- inherits(found, "habanera_equilibrium")
  list(move = rows$move, expected = rows$worth, chance = if (is_sound) rows$chance, seat = open$seat, sees = sees,
       unit = unit_in_words(game$rules), against = if (is_sound) "sound play" else "these opponents")
}

# What the seat sees, as the game tells it, of cards as they are typed.
advised_sight <- function(game, cards, shared, open, slip) {
  known <- game$spec$rules$cards
  rules <- game$rules
  read <- function(text, what) {
    kinds_in_words(paste(as.character(text), collapse = " "), list(told = known), function(...) {
      slip("", "`%s`: %s", what, sprintf(...))
    })
  }
  own <- read(cards, "cards")
  if (length(own) != rules$private) {
    slip("", "`cards` must be the %s of a seat, not %s", count_of(rules$private, "card"), format_count(length(own)))
  }
  board <- read(rules$board, "board")
  turned <- read(shared, "shared")
  due <- open$turned - length(board)
  if (length(turned) != due) {
    slip("", "`shared`: %s turned by then, not %s", if (due == 1) "1 card is" else paste(format_count(due), "cards are"),
         format_count(length(turned)))
  }
  all <- c(own, board, turned)
  if (!holds_together(known, board)(all)) slip("", "%s are not all in the deck", quoted(paste(known$names[all], collapse = " ")))
  groups <- c(rules$private, length(board), vapply(rules$streets, `[[`, 0, "shared"))
  told <- core_betting_told(known, as.integer(groups[groups > 0]), list(all))
  turns <- shared_in_all(rules) + length(board) > 0
  seen_holding(told$holding, if (turns) told$shared, open$text)
}
