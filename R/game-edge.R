#' What the house keeps
#'
#' The house edge of a game's bets: what the house keeps of an initial stake on average, and of all that is staked.
#' Exact where that is in reach, else simulated, and it says which.
#'
#' The edge of a bet is minus the mean of the player's result over the initial stake (Epstein 2009, "The theory of
#' gambling and statistical logic", ch. 3); `per_staked` is over the mean of all that was staked, doubles and splits
#' with it. Of rounds from one shoe it is the ratio of the sums over shoes, with its standard error by shoe (Cochran
#' 1977, Sampling Techniques, section 6.4).
#'
#' Of [game_blackjack()] a round from a fresh shoe is worked out exactly for every player who decides by the own hand
#' and the up card, splits and resplits with it: all hands of a split share one law, and how their second cards can pair
#' is had by inclusion and exclusion. Where hands are split, `sd` and `win_share` hang on how these go together, and are
#' simulated. Who plays by luck is simulated throughout. With `cut_after` the edge is one over whole shoes, simulated:
#' large cards make short rounds, so that a shoe in which they came early has a round more, which is dealt from what is
#' left, poor in large cards; the edge is a little more than that of a fresh shoe.
#'
#' @param game A game for money, such as [game_high_card()], or counts of one.
#' @param player A player for the seat; `NULL`: that given to the game; where none was given to [game_blackjack()], the
#'   best play by totals.
#' @param dead Cards that are gone from the shoe, as cards or their codes: `"5S 5H 6D"`.
#' @param nsim,seed,threads For a simulation, where the exact edge is out of reach: as in
#'   [simulate()][simulate.habanera_experiment]. A spread that is simulated beside an exact edge takes at most 1e5
#'   rounds, with seed 1 where none is given.
#' @return A `habanera_edge`. `tidy()`: a row per bet: `term`, `estimate` (the house's edge per initial stake; below 0
#'   it is the player's), `per_staked` (per unit staked), `std.error` (of the estimate; 0 where exact), `conf.low`,
#'   `conf.high` (95%), `sd` (of the player's result of a round, in stakes), `win_share` (of the rounds, net above 0),
#'   `spread` (whether these two are "exact" or "simulated"). `as.data.frame()` of an exact edge of blackjack with `by`
#'   a column of these: `first_hand`, `up_card`, `action` (what was done first; "none" where nothing is decided), is a
#'   row for each with its `probability`, `edge` (the house's, given it) and `share` (of the whole edge, their product).
#' @section Errors: `habanera_error_input` for a game without money, for a player where nobody decides, and for
#'   player_random(), whose luck has no exact edge; `habanera_error_conservation` for dead cards that the shoe does not
#'   hold.
#' @seealso [payout()] for prizes of draws, [best_strategy()], [mistakes()], [rule_effects()].
#' @examples
#' house_edge(game_high_card())
#' tidy(house_edge(game_high_card(dead = "AS AH AD", suit_bet = "suit == \"clubs\"")))
#' edge <- house_edge(game_blackjack(), player_basic())
#' edge
#' as.data.frame(edge, by = "up_card")
#' @export
house_edge <- function(game, player = NULL, dead = NULL, nsim = 1e6, seed = NULL, threads = NULL) {
  call <- rlang::current_env()
  if (inherits(game, "habanera_counts_game")) {
    if (!is.null(player) || !is.null(dead)) refuse("Counts are of what was played: no `player` or `dead`.")
    return(edge_of_counts(game, call))
  }
  check_game(game)
  check_whole(nsim, 1, 1e12)
  bets <- game$kind$bets(game$rules)
  if (is.null(bets)) refuse_moneyless(game, call)
  game <- edge_game(game, player, dead, call)
  solved <- game$kind$solved_edge(game, call)
  if (!is.null(solved)) return(new_solved_edge(solved, bets, game, nsim, seed, threads))
  game <- recording(game, unique(c(bets$column, stats::na.omit(bets$staked))))
  found <- tryCatch(exact(game), habanera_error_work = function(cnd) NULL)
  if (is.null(found)) found <- simulate(game, nsim = nsim, seed = seed, threads = threads)
  new_edge(found, bets)
}

# The game with this player, and without cards that are gone.
edge_game <- function(game, player, dead, call) {
  if (!is.null(player) && !"players" %in% names(game$rules)) {
    refuse(sprintf("Nobody decides in %s: no `player`.", game$kind$title), call = call)
  }
  if (!is.null(dead)) game <- game$kind$without(game, dead, call)
  if (!is.null(player)) game <- change_game(game, list(players = player), call)
  game$kind$with_player(game, call)
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
    data.frame(term = bets$term[i], estimate = 0 - moments$mean / bets$stake[i],
               per_staked = 0 - moments$mean / mean_staked(found, bets[i, ], weight),
               std.error = error / bets$stake[i], sd = moments$sd / bets$stake[i], win_share = moments$hit,
               spread = if (simulated) "simulated" else "exact")
  })
  structure(list(bets = do.call(rbind, rows), simulated = simulated,
                 words = if (simulated) run_in_words(found) else "exact", game = found$provenance$experiment),
            class = "habanera_edge")
}

# What is staked in a round; NA where that was not recorded.
mean_staked <- function(found, bet, weight) {
  if (is.na(bet$staked)) return(bet$stake)
  staked <- found$outcomes[[bet$staked]]
  if (is.null(staked)) NA_real_ else sum(staked * weight) / sum(weight)
}

# An edge worked out exactly: `solved` holds a row for each bet with `term`, `mean`, `staked`, `sd` and `win_share` (NA
# where they must be simulated), in stakes, and `parts`.
new_solved_edge <- function(solved, bets, game, nsim, seed, threads) {
  rows <- solved$bets
  unknown <- is.na(rows$sd)
  if (any(unknown)) {
    played <- simulate(recording(without_cut(game), bets$column[unknown]), nsim = min(nsim, 1e5),
                       seed = if (is.null(seed)) 1 else seed, threads = threads)
    spread <- new_edge(played, bets[unknown, , drop = FALSE])$bets
    rows[unknown, c("sd", "win_share")] <- spread[c("sd", "win_share")]
  }
  found <- data.frame(term = rows$term, estimate = 0 - rows$mean, per_staked = 0 - rows$mean / rows$staked,
                      std.error = 0, sd = rows$sd, win_share = rows$win_share,
                      spread = ifelse(unknown, "simulated", "exact"))
  structure(list(bets = found, simulated = FALSE, words = "exact", game = game, parts = solved$parts),
            class = "habanera_edge")
}

# A round from a fresh shoe.
without_cut <- function(game) {
  if (!holds_rounds(game)) return(game)
  change_game(game, list(cut_after = NULL), NULL)
}

#' @rdname house_edge
#' @param x What `house_edge()` gave.
#' @param ... Not used.
#' @rawNamespace S3method(generics::tidy, habanera_edge)
tidy.habanera_edge <- function(x, ...) {
  half <- stats::qnorm(0.975) * x$bets$std.error
  data.frame(x$bets[c("term", "estimate", "per_staked", "std.error")], conf.low = x$bets$estimate - half,
             conf.high = x$bets$estimate + half, x$bets[c("sd", "win_share", "spread")])
}

#' @rdname house_edge
#' @param row.names,optional Not used.
#' @param by `NULL`: a row per bet, as `tidy()`; or how the edge of the main bet is divided.
#' @export
as.data.frame.habanera_edge <- function(x, row.names = NULL, optional = FALSE, by = NULL, ...) {
  if (is.null(by)) return(tidy(x))
  if (is.null(x$parts)) refuse("Only an edge that was solved, of blackjack, is divided into parts.", call = NULL)
  if (!is.character(by) || !length(by) || !all(by %in% c("first_hand", "up_card", "action"))) {
    refuse(sprintf("`by` must be of first_hand, up_card and action, not %s.", said(by)), call = NULL)
  }
  sums <- stats::aggregate(x$parts[c("probability", "net")], x$parts[rev(by)], sum)
  sums <- sums[do.call(order, lapply(by, function(name) as.integer(sums[[name]]))), ]
  data.frame(lapply(sums[by], as.character), probability = sums$probability,
             edge = 0 - sums$net / sums$probability, share = 0 - sums$net, row.names = NULL)
}

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
    differs <- isTRUE(abs(row$per_staked - row$estimate) > 1e-12)
    sprintf("%s: %s %s of every %sstake%s; the player wins %s of the rounds, and a round varies by %s stakes (%s).",
            sentence(row$term), keeps, known, if (differs) "initial " else "",
            if (differs) sprintf(", %s of all that is staked", format_percent(abs(row$per_staked), 4)) else "",
            format_percent(row$win_share, 4), format_number(row$sd, 4),
            if (row$spread == "simulated" && !x$simulated) "standard deviation; both simulated" else
              "standard deviation")
  }, "")
}

# "5.882% = 1/17"; nothing stands for what rounding leaves.
share_in_words <- function(share) {
  if (share < 1e-13) return("nothing")
  fraction <- nearest_fraction(share)
  paste0(format_percent(share, 4), if (!is.null(fraction)) paste(" =", paste(whole_text(fraction), collapse = "/")))
}
