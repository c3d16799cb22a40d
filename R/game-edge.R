#' What the house keeps
#'
#' The house edge of a game's bets: what the house keeps of an initial stake on average. Exact where that is in reach,
#' else simulated, and it says which.
#'
#' The edge of a bet is minus the mean of the player's result over the stake (Epstein 2009, "The theory of gambling and
#' statistical logic", ch. 3). Of rounds from one shoe it is the ratio of the sums over shoes, with its standard error
#' by shoe (Cochran 1977, Sampling Techniques, section 6.4).
#'
#' @param game A game for money, such as [game_high_card()], or counts of one.
#' @param player A player for the seat; `NULL`: that of the game, or none where nobody decides.
#' @param nsim,seed,threads For a simulation, where the exact edge is out of reach: as in
#'   [simulate()][simulate.habanera_experiment].
#' @return A `habanera_edge`. `tidy()`: a row per bet: `term`, `estimate` (the house's edge per initial stake; below 0
#'   it is the player's), `std.error` (0 where exact), `conf.low`, `conf.high` (95%), `sd` (of the player's result of a
#'   round, in stakes), `win_share` (of the rounds, net above 0).
#' @section Errors: `habanera_error_input` for a game without money, and for a player where nobody decides.
#' @seealso [payout()] for prizes of draws.
#' @examples
#' house_edge(game_high_card())
#' tidy(house_edge(game_high_card(dead = "AS AH AD", suit_bet = "suit == \"clubs\"")))
#' @export
house_edge <- function(game, player = NULL, nsim = 1e6, seed = NULL, threads = NULL) {
  call <- rlang::current_env()
  if (inherits(game, "habanera_counts_game")) return(edge_of_counts(game, call))
  check_game(game)
  check_whole(nsim, 1, 1e12)
  bets <- game$kind$bets(game$rules)
  if (is.null(bets)) refuse_moneyless(game, call)
  if (!is.null(player)) {
    if (!"players" %in% names(game$rules)) refuse(sprintf("Nobody decides in %s: no `player`.", game$kind$title))
    game <- change_game(game, list(players = player), call)
  }
  game <- recording(game, bets$column)
  found <- tryCatch(exact(game), habanera_error_work = function(cnd) NULL)
  if (is.null(found)) found <- simulate(game, nsim = nsim, seed = seed, threads = threads)
  new_edge(found, bets)
}

# Of a run that was made already: of the bets whose results it recorded.
edge_of_counts <- function(counts, call) {
  game <- counts$provenance$experiment
  bets <- game$kind$bets(game$rules)
  if (is.null(bets)) refuse_moneyless(game, call)
  known <- bets$column %in% names(counts$outcomes)
  if (!any(known)) {
    refuse(sprintf("This run records no %s; record it, or give the game.",
                   join_words(sprintf("`%s`", bets$column), "or")), call = call)
  }
  new_edge(counts, bets[known, , drop = FALSE])
}

refuse_moneyless <- function(game, call) {
  refuse(sprintf("%s is not played for money: there is no house edge.", game$kind$title), call = call)
}

# The same game with other outcomes recorded.
recording <- function(game, columns) {
  settings <- game$settings
  settings$record <- columns
  new_game(game$kind, game$given, settings, NULL)
}

new_edge <- function(found, bets) {
  simulated <- inherits(found, "habanera_counts")
  weight <- if (simulated) found$n else found$probability
  rows <- lapply(seq_len(nrow(bets)), function(i) {
    net <- found$outcomes[[bets$column[i]]]
    moments <- pay_moments(net, weight)
    error <- if (!simulated) 0 else pay_errors(found, list(by = bets$column[i], of = function(x) net), weight)$mean
    data.frame(term = bets$term[i], estimate = 0 - moments$mean / bets$stake[i], std.error = error / bets$stake[i],
               sd = moments$sd / bets$stake[i], win_share = moments$hit)
  })
  structure(list(bets = do.call(rbind, rows), simulated = simulated,
                 words = if (simulated) run_in_words(found) else "exact", game = found$provenance$experiment),
            class = "habanera_edge")
}

#' @rdname house_edge
#' @param x What `house_edge()` gave.
#' @param ... Not used.
#' @rawNamespace S3method(generics::tidy, habanera_edge)
tidy.habanera_edge <- function(x, ...) {
  half <- stats::qnorm(0.975) * x$bets$std.error
  data.frame(x$bets[c("term", "estimate", "std.error")], conf.low = x$bets$estimate - half,
             conf.high = x$bets$estimate + half, x$bets[c("sd", "win_share")])
}

#' @export
as.data.frame.habanera_edge <- function(x, row.names = NULL, optional = FALSE, ...) tidy(x)

#' @export
print.habanera_edge <- function(x, ...) {
  cat_wrapped("<house edge> ", in_words(x$game), "; ", x$words)
  for (line in edge_sentences(x)) cat_wrapped(line)
  invisible(x)
}

edge_sentences <- function(x) {
  rows <- tidy(x)
  vapply(seq_len(nrow(rows)), function(i) {
    row <- rows[i, ]
    keeps <- if (row$estimate >= 0) "the house keeps" else "the player keeps"
    share <- abs(row$estimate)
    known <- if (!x$simulated) share_in_words(share) else {
      sprintf("%s (95%%: %s to %s)", format_percent(share, 4), format_percent(row$conf.low, 4),
              format_percent(row$conf.high, 4))
    }
    sprintf(paste("%s: %s %s of every stake; the player wins %s of the rounds, and a round varies by %s stakes",
                  "(standard deviation)."),
            sentence(row$term), keeps, known, format_percent(row$win_share, 4), format_number(row$sd, 4))
  }, "")
}

# "5.882% = 1/17"; nothing stands for what rounding leaves.
share_in_words <- function(share) {
  if (share < 1e-13) return("nothing")
  fraction <- nearest_fraction(share)
  paste0(format_percent(share, 4), if (!is.null(fraction)) paste(" =", paste(whole_text(fraction), collapse = "/")))
}
