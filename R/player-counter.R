#' A player who counts
#'
#' Bets by the true count, plays and insures by it, and may leave a shoe and come back: a seat at any game whose rounds
#' are dealt from a shoe, such as [game_blackjack()] and [game_high_card()] with `cut_after`.
#'
#' Bets are laid by the count before the round. Every card is counted when it is shown, and at the end of the round the
#' dealer's hole card, too, shown or not; burned cards are not seen. What is played goes by the count with all cards
#' shown so far, the own and the dealer's with them. A count that is not rounded does what its whole part below says.
#'
#' Who leaves or has not entered gets no cards and bets nothing, but goes on counting; the other seats keep the game
#' going.
#'
#' @param strategy The player who decides, as for [game_blackjack()]; `NULL`: [player_basic()], or nobody, where nothing
#'   is decided.
#' @param system A [counting_system()], or the name of a plain one, or a file.
#' @param bets A [bet_ramp()], or what it takes.
#' @param deviations Where play goes by the count: [deviations()], or what it takes; `strategy` must then be a table.
#' @param insurance_at The count from which on insurance is taken; `NULL`: as `strategy` does.
#' @param leaves_below The shoe is left when the count before a round is below it; `NULL`: never.
#' @param enters_at A new shoe is only joined, and one that was left joined again, from this count on; `NULL`: a shoe is
#'   joined at once, and one that was left stays so.
#' @return A `habanera_player`. A game with one has further outcomes: `true_count` (as a whole number, by which was
#'   bet) and `running_count` before the round, `cards_gone` by then, `bet` (stakes), `plays` (1, or 0 where the seat
#'   sits out), `net_per_bet` (what the seat won for each stake that it bet).
#' @section Errors: `habanera_error_input` for counts and bets out of range; `habanera_error_rules` from the game for
#'   deviations that its rules forbid, an endless shoe, two seats that count, and for leaving where no other seat keeps
#'   the game going.
#' @seealso [by_true_count()] for what comes of it, [find_deviations()], [counter_gain()].
#' @examples
#' counter <- player_counting(system = "level one balanced",
#'                            bets = c("0" = 1, "1" = 2, "2" = 4, "3" = 8))
#' shoes <- simulate(game_blackjack(players = counter, cut_after = 0.75), nsim = 500, seed = 1)
#' by_true_count(shoes)
#' @export
player_counting <- function(strategy = NULL, system = "level one balanced", bets = 1, deviations = NULL,
                            insurance_at = NULL, leaves_below = NULL, enters_at = NULL) {
  call <- rlang::current_env()
  if (!is.null(strategy)) strategy <- customer(strategy, "strategy")
  bets <- check_ramp(bets, call)
  system <- check_system(system, call)
  counts <- as.numeric(names(bets$bets))
  reach <- count_reach(system)
  if (any(abs(counts) > reach)) {
    refuse(sprintf("`bets` are laid at counts from %d to %d, not at %s.", -reach, reach,
                   format_count(counts[abs(counts) > reach][1])))
  }
  if (!is.null(deviations)) {
    deviations <- check_deviations(deviations, call)
    if (!is.null(strategy) && is.null(strategy$cells)) {
      refuse(sprintf("Deviations depart from a table: `strategy` must be one, not %s.", quoted(format(strategy))))
    }
  }
  whole <- function(x, name) if (!is.null(x)) check_whole_count(x, name, call)
  settings <- list(strategy = strategy, system = system, bets = bets, deviations = deviations,
                   insurance_at = whole(insurance_at, "insurance_at"),
                   leaves_below = whole(leaves_below, "leaves_below"),
                   enters_at = whole(enters_at, "enters_at"))
  if (isTRUE(settings$leaves_below > settings$enters_at)) {
    refuse(sprintf("Who leaves below %s does not enter at %s: `leaves_below` must be at most `enters_at`.",
                   whole_code_of(settings$leaves_below), whole_code_of(settings$enters_at)))
  }
  player <- do.call(new_player, c("counting", Filter(Negate(is.null), settings)))
  player$label <- counting_label(player$settings)
  player
}

check_whole_count <- function(x, name, call) {
  if (is.numeric(x) && length(x) == 1 && isTRUE(abs(x) <= 100 && x == round(x))) return(as.double(x))
  refuse(sprintf("`%s` must be a whole count, not %s.", name, said(x)), call = call)
}

counting_label <- function(settings) {
  words <- c(sprintf("counting %s", settings$system$name), sprintf("bets %s", format(settings$bets)),
             if (!is.null(settings$deviations)) count_of(nrow(settings$deviations), "deviation"),
             if (!is.null(settings$insurance_at)) sprintf("insured from %s", whole_code_of(settings$insurance_at)),
             if (!is.null(settings$leaves_below)) sprintf("leaves below %s", whole_code_of(settings$leaves_below)),
             if (!is.null(settings$enters_at)) sprintf("enters at %s", whole_code_of(settings$enters_at)))
  paste(words, collapse = ", ")
}

# How far from nothing counts are told apart; a running count is larger.
count_reach <- function(system) if (system$true_by == "none") 30 else 15

#' @rdname players
#' @export
player_flat <- function() new_player("flat")

# The seats that bet by the count.
counting_seats <- function(players, seats) {
  which(vapply(seated_players(players, seats), function(player) player$name == "counting", NA))
}

refuse_counter <- function(rules, seats, endless, call) {
  counts <- counting_seats(rules$players, seats)
  if (!length(counts)) return(invisible())
  if (length(counts) > 1) refuse("One seat may bet by the count, not several.", "rules", call)
  if (endless) refuse("An endless shoe has no count.", "rules", call)
  settings <- seated_players(rules$players, seats)[[counts]]$settings
  if (seats == 1 && (!is.null(settings$leaves_below) || !is.null(settings$enters_at))) {
    refuse("Who leaves or waits needs another seat that keeps the game going: `seats` of 2 or more.", "rules", call)
  }
}

# The seat that bets by the count as the core takes it; NULL: there is none. `shoe` are all cards, `pack` how many make
# a deck.
core_bettor <- function(rules, seats, shoe, pack, call) {
  seat <- counting_seats(rules$players, seats)
  if (!length(seat)) return(NULL)
  settings <- seated_players(rules$players, seats)[[seat]]$settings
  list(system = core_count_system(settings$system, shoe, pack, call), seat = seat,
       first_level = as.numeric(names(settings$bets$bets))[1], bets = unname(settings$bets$bets),
       leaves_below = settings$leaves_below, enters_at = settings$enters_at)
}

counted_columns <- function() {
  number <- function(meaning, ...) list(meaning = meaning, told_of = "that were played", ...)
  list(true_count = number("the whole true count before the round, by which was bet"),
       running_count = number("the running count before the round"),
       cards_gone = number("cards gone before the round"),
       bet = number("stakes that the seat which counts bet; 0: it sat out"),
       plays = number("1 where the seat which counts played, else 0"),
       net_per_bet = number("what the seat which counts won for each stake that it bet", is_money = TRUE))
}

# What rules make of the outcomes (see usual_kind()) where a seat counts: its outcomes beside, and what is recorded of
# its `own`.
counted_fit <- function(fit, rules, seats, own) {
  if (!length(counting_seats(rules$players, seats))) return(fit)
  fit$columns <- c(fit$columns, counted_columns())
  fit$record <- c(own, if (seats > 1) "plays", "true_count", "bet", "net_per_bet")
  fit$units <- c(fit$units, list(running_count = count_unit(length(rules$deck)), net_per_bet = fit$units$net))
  fit
}
