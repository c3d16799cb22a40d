#' Sound play of two seats that hide their cards
#'
#' How likely each seat should make each move, by what it sees, so that nobody can gain by playing otherwise; what the
#' game is worth then, and how far from it the answer can be at most.
#'
#' Moves that a seat regrets not to have made are made more often, round after round, over all courses of the game at
#' once (Zinkevich, Johanson, Bowling & Piccione 2007, "Regret minimization in games with incomplete information"; sums
#' of regrets that end at zero, seats in turn and later rounds weighted by their number as Tammelin 2014, "Solving large
#' imperfect information games using CFR+"). The mean over the rounds is held against the best answer of each seat,
#' which is worked out exactly: `gap` is what both answers gain together, and the value of the game lies in an interval
#' just that wide. No luck is drawn.
#'
#' What a row says is not always the only sound play: rows that sound play never comes to (`reached` of 0) can be
#' anything that loses nothing, and moves that bring the same can be mixed otherwise.
#'
#' @param game A game with two seats of which one wins what the other loses (or of whatever is in the pot):
#'   [game_betting()], or a game of [game_cpp()] whose views tell what the seat saw and did before. Who sits there does
#'   not matter. Or what [round_robin()] gave at a game of two seats: see below.
#' @param gap What best answers may gain together, in what the game's outcomes are worth.
#' @param seconds When to stop, whatever the gap is by then.
#' @return A `habanera_equilibrium`, also a table for [player_by_table()]; it sits in a game as it is (`players =
#'   sound`). `as.data.frame()`: a row for each move: `seat`, `sees` (text), `move`, `chance`, `reached` (the
#'   chance that the seat comes to see it), `worth` (what the move brings on average from there, if the other plays so
#'   and the best follows; chips put in before are lost; `NA` where the other never lets it come), and of hands that
#'   hand rules tell their `category`. `tidy()`: `term` ("value_1", "value_2": what each seat wins; "gap"), `estimate`,
#'   `conf.low`, `conf.high` (the values lie between them, surely).
#' @section Hands that bet: At [game_betting()] all hands of a seat are gone through at once, over every course of moves
#'   and every board (hands and boards that differ only by the names of suits once), with showdowns in one pass over the
#'   hands from the weakest to the best (Johanson, Waugh, Bowling & Zinkevich 2011, "Accelerating best response
#'   calculation in large extensive games"). The last regret counts once more before moves are chosen, and rounds weigh
#'   by the square of their number (Farina, Kroer & Sandholm 2021, "Faster game solving via predictive Blackwell
#'   approachability"). Where all are in before many cards are turned, how hands fare against each other is worked out
#'   once, in some seconds, and kept in `tools::R_user_dir("habanera", "cache")`.
#'
#'   In reach are games of one card with one or two streets, of two cards with one that is turned, short decks, all in
#'   or fold, and play from a board that is known but for a card; two cards and three streets from the first card on are
#'   not.
#' @section Round robins: Of what [round_robin()] gave at a game of two seats: how often to play each of the players so
#'   that none of them gains against the mixture, by the mean leads with seats exchanged (a linear program, by the
#'   package lpSolve). A `habanera_unbeaten`, a data frame: `player`, `share`, `conf.low`, `conf.high` (95%, from 1,000
#'   redrawings of the leads by their covariance over deals; `NA` below 6 deals) and `lead` (its mean lead over the
#'   mixture). Who surely loses to each of the others is named.
#' @section Errors: `habanera_error_input` for a game that is not made of views; `habanera_error_rules` for other than
#'   two seats, where what one wins the other does not lose, or a view forgets what the seat saw or did (Koller &
#'   Megiddo 1992, "The complexity of two-person zero-sum games in extensive form"); `habanera_error_work` for a game of
#'   more than five million positions, or one that needs more than 3.2 gigabytes, with its size.
#' @seealso [best_play()] against players that are known; [player_by_table()].
#' @examples
#' \donttest{
#' lanterns <- game_cpp(system.file("examples", "lanterns.cpp", package = "habanera"),
#'                      deck = deck_numbered(3))
#' sound <- equilibrium(lanterns)
#' sound
#' exact(change_rules(lanterns, players = sound))
#'
#' streets <- game_betting(rules = "one card, two streets")
#' sound <- equilibrium(streets)
#' summary(sound)
#' mistakes(streets, "calls_all", seat = 2, against = sound)
#' met <- round_robin(streets, list(sound = sound, calls = "calls_all", random = "random"), nsim = 500,
#'                    seed = 1)
#' if (requireNamespace("lpSolve", quietly = TRUE)) equilibrium(met)
#' }
#' @export
equilibrium <- function(game, gap = 1e-3, seconds = 60) {
  check_given()
  call <- rlang::current_env()
  if (inherits(game, "habanera_counts_meeting")) return(equilibrium_of_meeting(game, call))
  checked_game(game)
  refuse_without_decisions(game, call)
  sound <- capability(game, "plays_soundly", call)
  check_between(gap, 0, Inf)
  check_between(seconds, 0, Inf)
  if (game_seats(game) != 2) {
    refuse(sprintf("Sound play is found for two seats, not %s.", format_count(game_seats(game))), "rules", call)
  }
  local_progress("Sound play:")
  found <- tryCatch(sound$solve(game, gap, seconds, call), `habanera::OutOfReach` = function(cnd) {
    refuse_unsound(cnd, sound$coarser)
  })
  if (found$interrupted) warn_user("Interrupted: this is what was found by then, with its gap.", "interrupted")
  structure(found, made = call_made(), class = result_class("habanera_equilibrium"))
}

refuse_unsound <- function(cnd, coarser = NULL) {
  if (is.null(coarser)) coarser <- "fewer cards, count more of them as alike (`likeness()`), or fewer moves"
  refuse(sprintf("Sound play is out of reach here: %s. Take %s.", conditionMessage(cnd), coarser), "work", call = NULL)
}

#' @export
as.data.frame.habanera_equilibrium <- function(x, row.names = NULL, optional = FALSE, ...) x$rows

#' @export
kept_rows.habanera_equilibrium <- function(x) x$rows

#' @rawNamespace S3method(generics::tidy, habanera_equilibrium)
tidy.habanera_equilibrium <- function(x, ...) {
  data.frame(term = c("value_1", "value_2", "gap"), estimate = c(x$value, x$total - x$value, x$high - x$low),
             conf.low = c(x$low, x$total - x$high, NA), conf.high = c(x$high, x$total - x$low, NA))
}

#' @export
in_words.habanera_equilibrium <- function(x, ...) {
  worth <- function(value) worth_in_words(value, x$of_win)
  sprintf("Sound play brings seat 1 %s (surely from %s to %s: best answers to it gain %s, both together).",
          paste(c(worth(x$value), x$unit), collapse = " "), worth(x$low), worth(x$high),
          if (x$of_win) worth(x$high - x$low) else gap_in_words(x$high - x$low))
}

# To two digits, and small ones with their zeros as far as these can be counted.
gap_in_words <- function(gap) if (gap < 1e-6) format_number(gap, 2) else formatC(gap, digits = 2, format = "fg")

#' @export
tell.habanera_equilibrium <- function(x, rows = 30, ...) {
  cat_wrapped("<equilibrium> ", in_words(x))
  cat_wrapped(sprintf("%s; %s told apart, %s of play.", x$game, count_of(x$sets, "view"),
                      count_of(x$rounds, "round")))
  if (x$high - x$low > x$wanted) {
    cat_wrapped(sprintf("The gap of %s was not reached: more `seconds` bring it nearer.", format_number(x$wanted, 2)))
  }
  if (!nrow(x$rows)) {
    cat("Nobody has a choice to make.\n")
    return(invisible(x))
  }
  views <- nrow(unique(x$rows[c("seat", "sees")]))
  all <- if (views > rows && !is.null(holding_parts(x$rows$sees[1]))) summary(x)
  if (!is.null(all) && nrow(all) <= rows) {
    cat("In all, hands as they come:\n")
    tell_shares(all)
    rows <- max(0, rows - nrow(all))
  }
  tell_moves(without_traces(x$rows), rows)
  same <- moves_that_bring_the_same(x)
  if (same > 0) {
    cat_wrapped(sprintf("In %s several moves bring the same but for the gap: they may be mixed otherwise.",
                        count_of(same, "row")))
  }
  invisible(x)
}

# What is made less than once in two thousand times is left of first rounds: it is told by as.data.frame() alone.
without_traces <- function(rows) {
  rows$chance[rows$chance < 5e-4] <- 0
  rows
}

# Rows that are come to in which more than one move brings what the best does, but for the gap.
moves_that_bring_the_same <- function(x) {
  rows <- x$rows[x$rows$reached > 1e-9 & !is.na(x$rows$worth), ]
  if (!nrow(rows)) return(0)
  key <- paste(rows$seat, rows$sees, sep = "\r")
  best <- stats::ave(rows$worth, key, FUN = max)
  sum(tapply(rows$worth >= best - (x$high - x$low), key, sum) > 1)
}
