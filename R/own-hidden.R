# That a game of one's own shows a seat nothing that it may not see.

# At every choice of some trials the cards that the seat has not seen change places: where all that it could see until
# then stays the same, what it is shown must, too. How many choices were `asked`, and the first that was not so: its
# `trial`, `choice` and `seat`.
first_leak <- function(game, nsim, seed) {
  asked <- 0
  for (trial in seq_len(nsim)) {
    kinds <- game_deck(game, seed, trial)
    once <- told_choices(game, seed, trial, kinds, seq_along(kinds))
    for (number in seq_along(once)) {
      hidden <- once[[number]][c("unseen", "lost")]
      if (!any(vapply(c(list(hidden$unseen), hidden$lost), function(cards) length(unique(kinds[cards])) > 1, NA))) next
      order <- replace(seq_along(kinds), hidden$unseen, rev(hidden$unseen))
      again <- told_choices(game, seed, trial, kinds, order, once, number, changed_by(hidden$lost, function(n) n:1))
      if (length(again) < number || !identical(again[[number]]$visible, once[[number]]$visible)) next
      asked <- asked + 1
      if (!identical(again[[number]]$view, once[[number]]$view)) {
        return(list(asked = asked, trial = trial, choice = number, seat = once[[number]]$seat))
      }
    }
  }
  list(asked = asked)
}

# The choices of a trial in which every card is told apart (it is of one of `kinds`) and they lie in this `order`: of
# each the seat, the view, the move, which cards the seat has not seen or has lost, and what it could see until then.
# Choices are made as `before` up to number `until`, where the trial ends; `other` are changes of what shuffles gave.
told_choices <- function(game, seed, trial, kinds, order, before = NULL, until = Inf, other = list()) {
  game$own$can$in_r$of_cards <- kinds
  choices <- list()
  as_before <- function(seat, view, moves, usual) {
    number <- length(choices) + 1
    same <- if (number < min(until, length(before) + 1)) {
      which(vapply(seq_along(moves), function(i) identical(moves[[i]], before[[number]]$move), NA))
    }
    chosen <- if (length(same)) same[1] else usual()
    hidden <- core_table_unseen(attr(play, "core"), seat)
    choices[[number]] <<- list(seat = seat, view = view, move = moves[[chosen]], unseen = hidden[[1]],
                               lost = hidden[-1], visible = paste(seat, core_table_seen(attr(play, "core"), seat)))
    if (number >= until) stop(does_not_fit)
    chosen
  }
  play <- custom_player(game, changed_luck(other), ask = as_before, eyes = TRUE)
  tryCatch(custom_trial(game, seed, trial, play, order),
           habanera_far_enough = function(cnd) NULL)
  choices
}

# The same of a game in C++, whose core deals anew.
cpp_leak <- function(game, hiding, nsim, seed) {
  asked <- 0
  for (trial in seq_len(nsim)) {
    found <- hiding(game$spec$rules, game_deck(game, seed, trial), seed, trial)
    asked <- asked + found$asked
    if (found$choice > 0) return(list(asked = asked, trial = trial, choice = found$choice, seat = found$seat))
  }
  list(asked = asked)
}

# The first trial in which a seat sees what it saw in another, but did something else before; what it sees.
cpp_forgotten <- function(game, hiding, nsim, seed) {
  before <- new.env()
  for (trial in seq_len(nsim)) {
    found <- hiding(game$spec$rules, game_deck(game, seed, trial), seed, trial)
    for (i in seq_along(found$sees)) {
      known <- before[[found$sees[i]]]
      if (is.null(known)) before[[found$sees[i]]] <- found$before[i]
      else if (known != found$before[i]) return(list(trial = trial, sees = found$sees[i]))
    }
  }
  list(views = length(ls(before)))
}
