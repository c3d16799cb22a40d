#' Plans of betting
#'
#' What is bet after a loss and after a win, for [bankroll()]: does doubling after losses work, and what does the
#' table's maximum do to it?
#'
#' @param after_loss,after_win What the bet is multiplied by after a loss and after a win, a whole number; "first": the
#'   first bet again; 1: as it is. A tie changes nothing.
#' @param limit The most that the table takes, in first bets; a bet that would be higher is the first again.
#' @return A `habanera_bet_plan`.
#' @section Errors: `habanera_error_input` for what is no whole number, and plans with more than 1,000 different bets.
#' @examples
#' bet_progression(after_loss = 2, limit = 64)
#' @export
bet_progression <- function(after_loss = 1, after_win = "first", limit = 100) {
  call <- rlang::current_env()
  check_whole(limit, 1, 1e6)
  times <- list(loss = check_times(after_loss, "after_loss", call), win = check_times(after_win, "after_win", call))
  bets <- 1
  at <- 1
  after <- list(loss = integer(), win = integer())
  while (at <= length(bets)) {
    for (name in names(times)) {
      bet <- if (is.na(times[[name]])) 1 else bets[at] * times[[name]]
      if (bet > limit) bet <- 1
      if (!bet %in% bets) bets <- c(bets, bet)
      after[[name]][at] <- match(bet, bets)
    }
    at <- at + 1
    if (length(bets) > 1000) refuse("The plan has more than 1,000 different bets.")
  }
  structure(list(bets = bets, after_loss = after$loss, after_win = after$win, limit = limit,
                 settings = list(after_loss = after_loss, after_win = after_win)), class = "habanera_bet_plan")
}

# NA: the first bet again.
check_times <- function(x, name, call) {
  if (identical(x, "first")) return(NA_real_)
  if (is.numeric(x) && length(x) == 1 && x %in% 1:100) return(as.double(x))
  refuse(sprintf("`%s` must be a whole number from 1 to 100, or \"first\", not %s.", name, said(x)), call = call)
}

#' @export
format.habanera_bet_plan <- function(x, ...) {
  said <- function(times) if (times == "first") "the first bet again" else if (times == 1) "the same bet" else
    sprintf("%s times the bet", times)
  sprintf("%s after a loss, %s after a win, up to %s bets", said(x$settings$after_loss), said(x$settings$after_win),
          format_count(x$limit))
}

#' @export
print.habanera_bet_plan <- function(x, ...) {
  cat_wrapped("<bet plan> ", sentence(format(x)), ".")
  invisible(x)
}

flat_plan <- function() list(bets = 1, after_loss = 1L, after_win = 1L)
