# Jobs that are run by the million, through simulate() with all that comes with it. `plain` is what one would write in R
# (counting is left out of it, but for the audit, whose plain job is the table of cards by position alone); `bare` the
# loop of bench/bare.cpp; `tally` lays our counts out as those of the loop, of which `of_bare` is what is compared.
source("bench/plain.R")
source("bench/tallies.R")

six_packs <- deck_standard(packs = 6)
fifty_kinds <- deck_from(data.frame(card = sprintf("k%02d", 1:50), copies = 40))
bench_counter <- player_counting(bets = c("0" = 1, "1" = 2, "2" = 4, "3" = 8), insurance_at = 3,
                                 deviations = "h16_10_0__S h12_4__0_H h15_10_4__S h12_3_2__S h10_10_4__D.H")
plain_wars <- function(n) replicate(n, plain_war(sample(rep(2:14, 4))))

# Where we are slow the loop plays more trials, `bare_trials`, so that its time can be told.
job <- function(name, experiment, trials, bare, tally, plain, plain_trials, of_bare = identity, run = NULL,
                bare_trials = trials) {
  list(name = name, trials = trials, bare = bare, bare_trials = bare_trials, tally = tally, of_bare = of_bare,
       plain = plain, plain_trials = plain_trials,
       run = if (!is.null(run)) run else function(n, threads) {
         simulate(experiment, nsim = n, seed = 1, threads = threads)
       })
}

jobs <- list(
  job("positions of 52 cards", positions(deck_standard()), 2e6, "positions52", at_positions,
      function(n) replicate(n, sample(52)), 2e4),
  job("draw 5 of 52", draws(deck_standard(), 5), 1e7, "draw5", as_they_stand,
      function(n) replicate(n, sample(52, 5)), 2e4),
  job("draw 5 of 52, two conditions",
      draws(deck_standard(), 5, two_up = count(rank == "A") >= 2, three = count(suit == "hearts") >= 3), 1e7,
      "question5", two_conditions, function(n) replicate(n, plain_question()), 1e4),
  job("positions after a riffle", positions(deck_standard(), shuffle_riffle()), 2e6, "riffle52", at_positions,
      function(n) replicate(n, plain_riffle()), 1e4),
  job("positions after a naive swap", positions(deck_standard(), shuffle_naive_swap()), 1e6, "naive52", at_positions,
      function(n) replicate(n, plain_naive_swap()), 2e3),
  job("positions of 312 cards", positions(six_packs), 4e5, "positions312", at_positions,
      function(n) replicate(n, sample(312)), 5e3),
  job("positions of 2,000 cards", positions(fifty_kinds), 5e4, "positions2000", at_positions,
      function(n) replicate(n, sample(2000)), 1e3),
  job("whole games of War, 52 cards, watched", game_war(record = "rounds"), 1e5, "war52", war_rounds, plain_wars, 20),
  job("the same, not watched", game_war(record = "rounds", max_rounds = 5000, at_limit = "most_cards"), 1e5, "war52",
      war_rounds, plain_wars, 20),
  job("rounds of high card", game_high_card(record = "result"), 5e6, "highcard52",
      by_name("result", c("loss", "win")), function(n) replicate(n, plain_high_card()), 3e4),
  job("rounds of baccarat, eight packs", game_baccarat(record = "winner"), 5e6, "baccarat416",
      by_name("winner", c("player", "banker", "tie")), function(n) replicate(n, plain_baccarat()), 1e4),
  job("rounds of blackjack, six packs", game_blackjack(), 2e6, "blackjack312", round_results,
      function(n) replicate(n, plain_blackjack()), 1500),
  job("whole shoes of blackjack, six packs", game_blackjack(cut_after = 234), 3e4, "shoes312", round_results,
      function(n) replicate(n, plain_shoe()), 40),
  job("the same, counted, betted and played by the count",
      game_blackjack(cut_after = 234, players = bench_counter), 3e4, "counted312", counted_results,
      function(n) replicate(n, plain_shoe()), 40, of_bare = without_result),
  job("whole games of pairs, 30 cards", game_pairs(record = "turns"), 3e5, "pairs30", by_number("turns", 200),
      function(n) replicate(n, plain_pairs(15)), 2000),
  job("hands that are bet on, by tables", one_bet, 5e6, "onebet52", by_net,
      function(n) replicate(n, plain_one_bet()), 3e4),
  job("a game of one's own in C++ (lift)", cpp_lift, 2e6, "lift52", lift_table,
      function(n) replicate(n, plain_lift()), 3000),
  job("one in R, a function asked at each card (lift)", own_lift, 3e3, "lift52", lift_table,
      function(n) replicate(n, plain_lift()), 3000, bare_trials = 1e6),
  job("one in R, cards alone (until an ace)", own_ace, 8e3, "ace52", by_number("turned", 53),
      function(n) replicate(n, plain_ace()), 1e4, bare_trials = 1e6),
  job("best play of a pay table, 52 cards", NULL, 2, "machine52", paid_back, NULL, 0,
      run = function(n, threads) lapply(seq_len(n), function(i) best_strategy(game_video_poker()))[[1]]),
  job("whole audit of 52 cards", NULL, 5e5, "battery52", audited, plain_positions, 1e4, of_bare = of_audit,
      run = function(n, threads) audit(shuffle_uniform(), nsim = n, seed = 1, threads = threads))
)
