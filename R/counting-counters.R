#' Counters at equal risk
#'
#' Sets counters beside each other on the same shoes: what each gains by his own bets, how likely these ruin him, and
#' what each gains when all bet so high that they run the same risk. A counter with a larger spread gains more, and
#' risks more; at equal risk it shows who counts better.
#'
#' Of a player whose rounds bring \eqn{m} with a variance \eqn{v} a round (in the long run, by shoe, since rounds of a
#' shoe hang together), a bankroll \eqn{B} is ruined for ever with a chance of about \eqn{\exp(-2 m B / v)} (Cox &
#' Miller 1965, The Theory of Stochastic Processes, section 5.7). The stake at which that chance is `ruin` follows from
#' it.
#'
#' @param game A game whose rounds are dealt from a shoe, with its `cut_after`, such as [game_blackjack()].
#' @param players A list of [player_counting()]s, named as they are to be called; each takes the last seat in turn.
#' @param ruin The chance of ruin, for ever, that all run.
#' @param bank The bankroll, in stakes.
#' @param nsim,seed,threads,progress As in [simulate()][simulate.habanera_experiment]; shoes.
#' @return A `habanera_counters`, a data frame with a row for each player: `player`, `gain` (stakes in a hundred rounds
#'   dealt, by his own bets), `std.error`, `conf.low`, `conf.high` (95%, by shoe), `verdict` ("gains", "loses" or
#'   "open"), `sd` (of a hundred rounds), `mean_bet`, `ruin` (by his own bets; 1 of who does not gain), `stake` (what
#'   one of his stakes must be to run the risk asked for), `gain_at_stake`, `gain_at_stake.low` and `gain_at_stake.high`
#'   (in a hundred rounds, by these stakes, with the ends of its interval: 0 where he may not gain). `stake` and what is
#'   by it are `NA` of who does not gain.
#' @section Errors: `habanera_error_input` for players that do not count, fewer than two of them, or two of one name;
#'   `habanera_error_rules` for a game without a `cut_after`.
#' @seealso [reprice()] for other bets of one player, [bankroll()] for one bankroll step by step.
#' @examples
#' bets <- c("0" = 1, "1" = 2, "2" = 4, "3" = 8)
#' steep <- c("0" = 1, "1" = 6, "2" = 12)
#' compare_counters(game_blackjack(cut_after = 0.8),
#'                  list(mild = player_counting(bets = bets), steep = player_counting(bets = steep)),
#'                  nsim = 2000, seed = 1)
#' @export
compare_counters <- function(game, players, ruin = 0.05, bank = 400, nsim = 20000, seed = NULL, threads = NULL,
                             progress = NULL) {
  check_given()
  call <- rlang::current_env()
  bar <- local_progress("Playing shoes", progress, length(players))
  game <- money_game(game, call)
  check_between(ruin, 0, 1)
  check_number(bank, 0, 1e12, "bank", call)
  players <- named_counters(players, call)
  if (!holds_rounds(game)) refuse("Counting needs a shoe: give the game a `cut_after`, as in 0.75.", "rules", call)
  seed <- resolve_seed(seed, call)
  seat <- game_seats(game)
  rows <- lapply_until_interrupted(names(players), function(name) {
    shoes <- simulate(with_counter(game, players[[name]], seat, call), nsim = nsim, seed = seed, threads = threads)
    cbind(player = name, counter_at_risk(by_true_count(shoes), ruin, bank))
  }, "player", bar)
  structure(do.call(rbind, rows), made = call_made(), class = table_class("habanera_counters"), game = game,
            risk = ruin, bank = bank, part = attr(rows, "part"),
            run = sprintf("%s each, the same for all, seed %s", count_of(nsim, "shoe"), whole_code(seed)))
}

named_counters <- function(players, call) {
  if (!is.list(players) || inherits(players, "habanera_player") || length(players) < 2) {
    refuse(sprintf("`players` must be a list of two counting players or more, not %s.", said(players)), call = call)
  }
  names <- rlang::names2(players)
  names <- ifelse(nzchar(names), names, sprintf("player %d", seq_along(players)))
  twice <- names[duplicated(names)]
  if (length(twice)) refuse(sprintf("Two players are called %s.", quoted(twice[1])), call = call)
  rlang::set_names(players, names)
}

# A row of the table without its name.
counter_at_risk <- function(shoes, risk, bank) {
  totals <- tidy(shoes)
  gain <- totals[totals$term == "gain", ]
  # The error of the mean is by shoe, so that its square times the rounds is their variance in the long run.
  variance <- (gain$std.error / 100)^2 * sum(shoes$rounds)
  ruined <- function(gain) ifelse(gain > 0, exp(-2 * gain / 100 * bank / variance), 1)
  stake <- function(gain) ifelse(gain > 0, 2 * gain / 100 * bank / variance / log(1 / risk), 0)
  at_stake <- function(gain) gain * stake(gain)
  gains <- isTRUE(gain$estimate > 0)
  data.frame(gain[c("estimate", "std.error", "conf.low", "conf.high")] |> rlang::set_names(c("gain", "std.error",
                                                                                          "conf.low", "conf.high")),
             verdict = gain_verdict(gain$conf.low, gain$conf.high), sd = 10 * sqrt(variance),
             mean_bet = totals$estimate[totals$term == "bet"], ruin = ruined(gain$estimate),
             stake = if (gains) stake(gain$estimate) else NA_real_,
             gain_at_stake = if (gains) at_stake(gain$estimate) else NA_real_,
             gain_at_stake.low = if (gains) at_stake(gain$conf.low) else NA_real_,
             gain_at_stake.high = if (gains) at_stake(gain$conf.high) else NA_real_)
}

#' @rawNamespace S3method(generics::tidy, habanera_counters)
tidy.habanera_counters <- function(x, ...) {
  data.frame(term = x$player, estimate = x$gain,
             plain_table(x)[c("std.error", "conf.low", "conf.high", "gain_at_stake")])
}

#' @export
tell.habanera_counters <- function(x, ...) {
  cat_wrapped("<counters> ", counters_in_words(x))
  cat_wrapped(sprintf("%s; a bankroll of %s stakes; %s%s.", in_words(attr(x, "game")),
                      format_statistic(attr(x, "bank")),
                      attr(x, "run"), part_in_words(x)))
  half <- format_number((x$conf.high - x$conf.low) / 2, 2)
  interval <- ifelse(is.na(x$conf.low), "", sprintf(" %s%s", plus_minus(), half))
  known <- function(values, show) ifelse(is.na(values), "", show(values))
  print_rows(data.frame(
    player = x$player, `gain in 100` = paste0(sprintf("%+.3f", x$gain), interval), who = x$verdict,
    `sd of 100` = format_number(x$sd, 3), `mean bet` = format_number(x$mean_bet, 3),
    ruin = format_percent(x$ruin), stake = known(x$stake, function(stake) format_number(stake, 3)),
    `gain at it` = known(x$gain_at_stake, function(gain) sprintf("%+.3f", gain)), check.names = FALSE
  ))
  invisible(x)
}

counters_in_words <- function(x) {
  sure <- which(x$verdict == "gains")
  if (!length(sure)) return("Of nobody here it is sure that he gains: play more shoes, or cut deeper.")
  best <- sure[which.max(x$gain_at_stake[sure])]
  rivals <- setdiff(which(x$gain_at_stake.high > x$gain_at_stake.low[best]), best)
  sprintf("At a risk of ruin of %s %s gains most, %s stakes in 100 rounds (95%%: %s to %s) with a stake of %s%s.",
          format_percent(attr(x, "risk")), x$player[best], format_number(x$gain_at_stake[best], 3),
          format_number(x$gain_at_stake.low[best], 3), format_number(x$gain_at_stake.high[best], 3),
          format_number(x$stake[best], 3),
          if (length(rivals)) sprintf("; by their intervals %s may gain as much", join_words(x$player[rivals])) else "")
}
