# Which seat speaks after some moves, and what it sees if it holds some cards.

betting_advice <- function(game, cards, shared, actions, call) {
  if (is.null(actions)) actions <- ""
  if (!rlang::is_string(actions)) refuse(sprintf("`actions` must be one text, not %s.", said(actions)), call = call)
  slip <- function(sees, ...) refuse(ended(sprintf(...)), "rules", call)
  spec <- game$spec$rules
  open <- core_betting_open(spec, actions)[[1]]
  if (nzchar(open$wrong)) slip("", "`actions`: the moves cannot go on with %s by these rules", quoted(open$wrong))
  if (open$seat == 0) slip("", "`actions`: the hand is over after %s", quoted(actions))
  list(seat = open$seat, sees = advised_sight(game, cards, shared, open, slip), unit = unit_in_words(game$rules))
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
    lie <- if (due == 1) "1 card is" else paste(format_count(due), "cards are")
    slip("", "`shared`: %s turned by then, not %s", lie, format_count(length(turned)))
  }
  all <- c(own, board, turned)
  if (!holds_together(known, board)(all)) {
    slip("", "%s are not all in the deck", quoted(paste(known$names[all], collapse = " ")))
  }
  groups <- c(rules$private, length(board), vapply(rules$streets, `[[`, 0, "shared"))
  told <- core_betting_told(known, as.integer(groups[groups > 0]), list(all))
  turns <- shared_in_all(rules) + length(board) > 0
  seen_holding(told$holding, if (turns) told$shared, open$text)
}
