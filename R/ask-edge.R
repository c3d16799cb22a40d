#' What the house keeps
#'
#' The house edge of a game's bets: what the house keeps of an initial stake on average, and of all that is staked.
#' Exact where that is in reach, else simulated, and it says which.
#'
#' The edge of a bet is minus the mean of the player's result over the initial stake (Epstein 2009, "The theory of
#' gambling and statistical logic", ch. 3), rounds that are tied counted; `without_ties` is over the stakes that are won
#' or lost. `per_staked` is over the mean of all that was staked, doubles and splits with it. Of rounds from one shoe
#' it is the ratio of the sums over shoes, with its standard error by shoe (Cochran 1977, Sampling Techniques, section
#' 6.4).
#'
#' Of [game_blackjack()] a round from a fresh shoe is worked out exactly for every player who decides by the own hand
#' and the up card, splits and resplits with it: all hands of a split share one law, and how their second cards can pair
#' is had by inclusion and exclusion. Where hands are split, `sd` and `win_share` hang on how these go together, and are
#' simulated. Who plays by luck is simulated throughout. With `cut_after` the edge is one over whole shoes, simulated:
#' large cards make short rounds, so that a shoe in which they came early has a round more, which is dealt from what is
#' left, poor in large cards; the edge is a little more than that of a fresh shoe.
#'
#' @param game A game for money, such as [game_high_card()]; counts or a distribution of one; or a [payout()].
#' @param player A player for the seat; `NULL`: that given to the game; where none was given to [game_blackjack()], the
#'   best play by totals.
#' @param dead Cards that are gone from the shoe, as cards or their codes: `"5S 5H 6D"`.
#' @param nsim,seed,threads For a simulation, where the exact edge is out of reach: as in
#'   [simulate()][simulate.habanera_experiment]. A spread that is simulated beside an exact edge takes at most 1e5
#'   rounds, with seed 1 where none is given.
#' @return A `habanera_edge`. `tidy()`: a row per bet: `term`, `estimate` (the house's edge per initial stake; below 0
#'   it is the player's), `std.error` (of the estimate; 0 where exact), `conf.low`, `conf.high` (95%), `per_staked` (per
#'   unit staked), `sd` (of the player's result of a round, in stakes), `win_share` (of the rounds, net above 0),
#'   `spread` (whether these two are "exact" or "simulated"), `without_ties` (per stake that is won or lost),
#'   `largest_pay` (the most that a round brings, in stakes beside the own), `how` (whether the estimate is "exact" or
#'   "simulated"). Of [game_blackjack()] without a cut, `without_ties` and `largest_pay` are of the rounds simulated
#'   beside.
#'   `as.data.frame()` of an exact edge of blackjack with `by` a column of these: `first_hand`, `up_card`, `move`
#'   (what was done first; "none" where nothing is decided), is a row for each with its `probability`, `edge` (the
#'   house's, given it) and `share` (of the whole edge, their product).
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
  check_given()
  call <- rlang::current_env()
  if (!inherits(game, "habanera_game")) {
    if (!is.null(player) || !is.null(dead)) refuse("What was played or is paid has no `player` or `dead` to choose.")
    if (inherits(game, "habanera_counts_game") || inherits(game, "habanera_distribution_game")) {
      return(edge_of_results(game, call))
    }
    if (inherits(game, "habanera_payout")) return(edge_of_payout(game))
  }
  checked_game(game)
  check_whole(nsim, 1, 1e12)
  bets <- capability(game, "takes_bets", call)$bets(game$rules)
  game <- edge_game(game, player, dead, call)
  by_trials <- bets$column %in% game$simulated_only
  parts <- list()
  if (any(!by_trials)) parts$known <- known_edge(game, bets[!by_trials, , drop = FALSE], nsim, seed, threads, call)
  if (any(by_trials)) {
    parts$told <- played_edge(game, bets[by_trials, , drop = FALSE], nsim, seed, threads)
  }
  bound_edges(parts, bets$term)
}

# The edges of bets as exactly as they can be had.
known_edge <- function(game, bets, nsim, seed, threads, call) {
  solved <- solved_edge(game, call)
  if (!is.null(solved)) return(new_solved_edge(solved, bets, game, nsim, seed, threads))
  found <- tryCatch(exact(recording(game, edge_columns(bets))), habanera_error_work = function(cnd) NULL)
  if (is.null(found)) played_edge(game, bets, nsim, seed, threads) else edge_of_found(found, bets)
}

played_edge <- function(game, bets, nsim, seed, threads) {
  edge_of_found(simulate(recording(game, edge_columns(bets)), nsim = nsim, seed = seed, threads = threads), bets)
}

edge_columns <- function(bets) unique(c(bets$column, stats::na.omit(bets$staked)))

# Of bets in parts of their own, the rows in the order of `terms`.
bound_edges <- function(parts, terms) {
  whole <- parts[[1]]
  if (length(parts) > 1) {
    rows <- do.call(rbind, unname(lapply(parts, `[[`, "bets")))
    whole$bets <- rows[match(terms, rows$term), , drop = FALSE]
    played <- parts$told$bets$term
    whole$words <- paste0(whole$words, "; ", join_words(played), ": ", parts$told$words)
    whole$source <- whole$game
  }
  whole
}

# The game with this player, and without cards that are gone.
edge_game <- function(game, player, dead, call) {
  if (!is.null(player) && !"players" %in% names(game$rules)) {
    refuse(sprintf("Nobody decides in %s: no `player`.", kind_of(game)$title), call = call)
  }
  game <- without_cards(game, dead, call)
  if (!is.null(player)) game <- change_game(game, list(players = player), call)
  solves <- able(game, "solves")
  if (is.null(solves)) game else solves$with_player(game, call)
}

# Of a run that was made already, or its law: of the bets whose results it recorded.
edge_of_results <- function(found, call) {
  game <- found$provenance$experiment
  bets <- capability(game, "takes_bets", call)$bets(game$rules)
  known <- bets$column %in% names(found$outcomes)
  if (!any(known)) {
    refuse(sprintf("This run records no %s; record it, or give the game.",
                   join_words(sprintf("`%s`", bets$column), "or")), call = call)
  }
  edge_of_found(found, bets[known, , drop = FALSE])
}

# Of prizes: a play at the stake.
edge_of_payout <- function(payout) {
  lines <- payout$lines
  error <- payout$error
  error$mean <- error$mean / payout$stake
  row <- edge_row("play", lines[["pays"]] / payout$stake - 1, lines[["chance"]], error, !is.null(payout$trials))
  # Lines that share a pay are one; the moments are those of the payout.
  structure(list(bets = row, words = payout$words, game = NULL, said = payout$question, source = payout),
            made = call_made(), class = result_class("habanera_edge"))
}

# Of what was recorded of rounds, by trials or exactly.
edge_of_found <- function(found, bets) {
  simulated <- inherits(found, "habanera_counts")
  weight <- if (simulated) found$n else found$probability
  rows <- lapply(seq_len(nrow(bets)), function(i) {
    net <- found$outcomes[[bets$column[i]]]
    error <- pay_errors(found, bets$column[i], net, weight)
    error$mean <- error$mean / bets$stake[i]
    edge_row(bets$term[i], net / bets$stake[i], weight, error, simulated,
             mean_staked(found, bets[i, ], weight) / bets$stake[i])
  })
  structure(list(bets = do.call(rbind, rows), words = if (simulated) run_in_words(found) else "exact",
                 game = found$provenance$experiment, source = found),
                 made = call_made(), class = result_class("habanera_edge"))
}

# Of a bet, by what it brings in stakes. `error`: of the mean, see pay_errors().
edge_row <- function(term, net, weight, error, simulated, staked = 1) {
  moments <- pay_moments(net, weight)
  how <- if (simulated) "simulated" else "exact"
  data.frame(term = term, estimate = 0 - moments$mean, per_staked = 0 - moments$mean / staked,
             without_ties = per_decided(0 - moments$mean, sum(weight[net == 0]) / sum(weight)),
             std.error = error$mean, freedom = error$freedom, sd = moments$sd, win_share = moments$hit,
             largest_pay = max(net[weight > 0]), how = how, spread = how)
}

# An edge per stake that is won or lost, ties left out.
per_decided <- function(edge, tied) ifelse(tied < 1, edge / (1 - tied), NA_real_)

# What is staked in a round; NA where that was not recorded.
mean_staked <- function(found, bet, weight) {
  if (is.na(bet$staked)) return(bet$stake)
  staked <- found$outcomes[[bet$staked]]
  if (is.null(staked)) NA_real_ else sum(staked * weight) / sum(weight)
}

# An edge worked out exactly: `solved` holds a row for each bet with `term`, `mean`, `staked`, `sd` and `win_share` (NA
# where they must be simulated), in stakes, and `parts`. What else is told of a round is simulated.
new_solved_edge <- function(solved, bets, game, nsim, seed, threads) {
  rows <- solved$bets
  played <- in_whole_runs(simulate(recording(without_cut(game), bets$column), nsim = min(nsim, 1e5),
                                   seed = if (is.null(seed)) 1 else seed, threads = threads))
  spread <- edge_of_found(played, bets)$bets
  unknown <- is.na(rows$sd)
  rows[unknown, c("sd", "win_share")] <- spread[unknown, c("sd", "win_share")]
  tied <- vapply(bets$column, function(column) sum(played$n[played$outcomes[[column]] == 0]) / sum(played$n), 0)
  found <- data.frame(term = rows$term, estimate = 0 - rows$mean, per_staked = 0 - rows$mean / rows$staked,
                      without_ties = per_decided(0 - rows$mean, unname(tied)), std.error = 0, freedom = Inf,
                      sd = rows$sd, win_share = rows$win_share, largest_pay = spread$largest_pay, how = "exact",
                      spread = ifelse(unknown, "simulated", "exact"))
  structure(list(bets = found, words = "exact", game = game, parts = solved$parts, source = game),
            made = call_made(), class = result_class("habanera_edge"))
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
  half <- ifelse(x$bets$how == "exact", 0, student_half_width(x$bets$std.error, x$bets$freedom))
  data.frame(x$bets[c("term", "estimate", "std.error")], conf.low = x$bets$estimate - half,
             conf.high = x$bets$estimate + half,
             x$bets[c("per_staked", "sd", "win_share", "spread", "without_ties", "largest_pay", "how")],
             row.names = NULL)
}

#' @rdname house_edge
#' @param row.names,optional Not used.
#' @param by `NULL`: a row per bet, as `tidy()`; or how the edge of the main bet is divided.
#' @export
as.data.frame.habanera_edge <- function(x, row.names = NULL, optional = FALSE, by = NULL, ...) {
  if (is.null(by)) return(tidy(x))
  if (is.null(x$parts)) refuse("Only an edge that was solved, of blackjack, is divided into parts.", call = NULL)
  if (!is.character(by) || !length(by) || !all(by %in% c("first_hand", "up_card", "move"))) {
    refuse(sprintf("`by` must be of first_hand, up_card and move, not %s.", said(by)), call = NULL)
  }
  sums <- stats::aggregate(x$parts[c("probability", "net")], x$parts[rev(by)], sum)
  sums <- sums[do.call(order, lapply(by, function(name) as.integer(sums[[name]]))), ]
  data.frame(lapply(sums[by], as.character), probability = sums$probability,
             edge = 0 - sums$net / sums$probability, share = 0 - sums$net, row.names = NULL)
}

#' @export
tell.habanera_edge <- function(x, ...) {
  cat_wrapped("<house edge> ", if (is.null(x$game)) x$said else in_words(x$game), "; ", x$words)
  for (line in edge_sentences(x)) cat_wrapped(line)
  invisible(x)
}

edge_sentences <- function(x) {
  rows <- tidy(x)
  vapply(seq_len(nrow(rows)), function(i) edge_sentence(rows[i, ]), "")
}

edge_sentence <- function(row) {
  keeps <- if (row$estimate >= 0) "the house keeps" else "the player keeps"
  known <- if (row$how == "exact") share_in_words(abs(row$estimate)) else {
    interval <- interval_in_words(row$conf.low, row$conf.high, function(end) format_percent(end, 4))
    sprintf("%s (%s)", format_percent(abs(row$estimate), 4),
            if (is.na(interval)) "too little was played for an interval" else interval)
  }
  differs <- isTRUE(abs(row$per_staked - row$estimate) > 1e-12)
  also <- c(if (differs) paste(format_percent(abs(row$per_staked), 4), "of all that is staked"),
            if (!differs && isTRUE(abs(row$without_ties - row$estimate) > 1e-12)) {
              paste(format_percent(abs(row$without_ties), 4), "with ties left out")
            })
  sprintf("%s: %s %s of every %sstake%s; the player wins %s of the rounds, and a round varies by %s stakes (%s).",
          sentence(row$term), keeps, known, if (differs) "initial " else "",
          if (length(also)) paste0(", ", also) else "", format_percent(row$win_share, 4), format_number(row$sd, 4),
          if (row$spread == "simulated" && row$how == "exact") "standard deviation; both simulated" else
            "standard deviation")
}

# "5.882% = 1/17"; nothing stands for what rounding leaves.
share_in_words <- function(share) {
  if (share < 1e-13) return("nothing")
  fraction <- nearest_fraction(share)
  paste0(format_percent(share, 4), if (!is.null(fraction)) paste(" =", paste(whole_text(fraction), collapse = "/")))
}

# What gives the edge of one game after the other: against the best player, where games of its kind are solved.
edge_finder <- function(game, knows, call) {
  solver <- able(game, "plays_best")
  if (!is.null(solver$edge_of)) return(solver$edge_of(knows, call))
  function(each) {
    edge <- house_edge(each, nsim = 1)
    if (edge$bets$how[1] != "exact") {
      refuse("The edge of this game would be simulated; vary_rules() does that.", "work", call)
    }
    edge$bets$estimate[1]
  }
}
