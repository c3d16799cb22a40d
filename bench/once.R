# Jobs that are done once, in seconds; some beside plain R.
# What a round of blackjack brings, in halves of a stake.
bench_law <- money_distribution(c(-2, -1, 0, 1, 1.5, 2), c(0.055, 0.42, 0.085, 0.33, 0.045, 0.065))

# The law of a bankroll round by round, in vectors of R, heights in halves of a stake up to 3,000.
plain_ruin <- function(law, start, rounds) {
  at <- numeric(3000)
  at[2 * start] <- 1
  for (round in seq_len(rounds)) {
    then <- numeric(3000)
    for (i in seq_along(law$net)) {
      by <- 2 * law$net[i]
      from <- max(1, 1 - by):min(3000, 3000 - by)
      then[from + by] <- then[from + by] + law$probability[i] * at[from]
    }
    then[1] <- 0
    at <- then
  }
  1 - sum(at)
}

bench_baccarat <- game_baccarat(side_bets = list(
  pair = c("opening(player, largest_group(rank) == 2)" = 12),
  either = "6 * (opening(player, largest_group(rank) == 2) | opening(banker, largest_group(rank) == 2))",
  alike = c("opening(player, distinct(rank) == 1 & distinct(suit) == 1)" = 26), wide = c("margin >= 7" = 9),
  six = c("winner == 'banker' & banker_total == 6 & banker_cards == 3" = 21)
), record = c("net_player", "net_banker", "net_tie", "pair", "either", "alike", "wide", "six"))
bench_joker <- game_video_poker(c(
  "five of a kind" = 200, "straight flush" = 60, "four of a kind" = 20, "full house" = 7, flush = 5, straight = 3,
  "three of a kind" = 2, "two pair" = 1, "pair of K or better" = 1
), deck = deck_standard(jokers = 1), wild = "rank == 'joker'")
bench_machine <- game_video_poker(players = keep_rules("four of a kind", "full house", "two pair", "three of a kind",
                                                       "any pair"))

built <- deck_from(demo_file("windfall.yaml"))
opening <- draws(built, 6, trees = count(kind == "tree"), cheap = count(cost <= 1), worth = total(cost),
                 kinds = distinct(kind))
course <- redraw_if(draws(built, 6, trees = count(kind == "tree"), always = every_turn(trees >= min(turn, 4))),
                    trees < 2 | trees > 4, times = 2, put_back = 1:2) |> draw_more(times = 8)
shoe_hand <- draws(six_packs, 8, worth = total(points), aces = count(rank == "A"), suits = largest_group(suit))
many_hands <- deck_standard()[unlist(lapply(1:1000, function(i) sample(52, 5)))][rep(1:5000, 1000)]
bench_sets <- list(cards_each = 6:20, face_down = 0:3, collect = c("winner_first", "seat_order", "shuffled"),
                   max_rounds = seq(1000, 1500, 100))
bench_stall <- payout(exact(draws(deck_from(demo_file("orchard.csv")), 3, alike = largest_group(suit))),
                      c("3" = 8, "2" = 1))
single_jobs <- list(
  "exact(), four words of 6 of 48 cards" = function() exact(opening),
  "exact(), two redraws and eight turns of 48 cards" = function() exact(course),
  "exact(), three words of 8 of 312 cards" = function() exact(shoe_hand),
  "exact(), every deal of an 8-card War (40,320)" = function() exact(game_war(deck = deck_numbered(8))),
  "1,000 of these deals in plain R" = function() plain_deals(1000),
  "exact(), three riffles of 6 cards" = function() exact(shuffle_riffle(3), deck_numbered(6)),
  "exact(), three riffles of 7 cards" = function() exact(shuffle_riffle(3), deck_numbered(7)),
  "exact(), naive swap of 7 cards" = function() exact(shuffle_naive_swap(), deck_numbered(7)),
  "10,000 shoes of six packs, high card" = function() {
    simulate(game_high_card(packs = 6, cut_after = 0.75), nsim = 1e4, seed = 1, threads = 1)
  },
  "100 games of pairs, 30 cards, by an R function" = function() {
    last <- player_with(function(view, moves) moves[length(moves) - is.na(view$first) * (length(moves) > 1)])
    simulate(game_pairs(pairs = 15, players = list(player_full_memory(), last)), nsim = 100, seed = 1)
  },
  "100 games of pairs, 12 cards, against 20 playouts a move" = function() {
    simulate(game_pairs(pairs = 6, players = c("lookahead", "full_memory")), nsim = 100, seed = 1, threads = 1)
  },
  "best play of pairs, 30 cards" = function() best_play(game_pairs(seats = 1)),
  "exact(), pairs of 30 cards, two seats" = function() exact(game_pairs()),
  "round robin of four at pairs, 1,000 deals" = function() {
    round_robin(game_pairs(), c("full_memory", "careful", "forgetful", "random"), nsim = 1000, seed = 1, threads = 1)
  },
  "category_odds(), all 133,784,560 hands of 7, one thread" = function() category_odds(size = 7, threads = 1),
  "showdown(), two hands on 1,712,304 boards" = function() showdown(list("AS KS", "QH QD")),
  "category and strength of 1,000,000 hands of 5" = function() {
    hand_category(many_hands, size = 5)
    hand_strength(many_hands, size = 5)
  },
  "1,000,000 hands of 7 dealt and ranked, one thread" = function() {
    simulate(draws(deck_standard(), 7, kind = category()), nsim = 1e6, seed = 1, threads = 1)
  },
  "best_strategy(), all cards, 1, 2 and 6 packs" = function() {
    for (packs in c(1, 2, 6)) best_strategy(game_blackjack(packs = packs), "all_cards")
  },
  "best_strategy(), totals, 6 packs" = function() best_strategy(game_blackjack()),
  "house_edge() of a table, 6 packs" = function() house_edge(game_blackjack(), player_basic()),
  "exact() of baccarat and five side bets, 8 packs" = function() exact(bench_baccarat),
  "best_strategy() of a pay table, 53 cards with a joker" = function() best_strategy(bench_joker),
  "100,000 rounds of a machine by a list" = function() simulate(bench_machine, nsim = 1e5, seed = 1, threads = 1),
  "10,000 of such rounds in plain R" = function() replicate(1e4, plain_machine()),
  "rule_effects(), 6 packs" = function() rule_effects(game_blackjack()),
  "removal_effects(), 6 packs" = function() removal_effects(game_blackjack()),
  "find_deviations(), counts from -10 to 10, 50,000 shoes" = function() find_deviations(game_blackjack(), seed = 1),
  "tune_rules(), 1,080 sets of rules of War, at most 1,000 trials each" = function() {
    tune_rules(game_war(), bench_sets, want = "rounds_p90 <= 200", nsim = 1000, seed = 1)
  },
  "simulate() of each of them, 1,000 trials" = function() {
    sets <- expand.grid(bench_sets, stringsAsFactors = FALSE)
    for (i in seq_len(nrow(sets))) simulate(change_rules(game_war(), !!!as.list(sets[i, ])), nsim = 1000, seed = 1)
  },
  "tune_rules(), 10,000 payouts, exact" = function() {
    tune_rules(bench_stall, list("3" = seq(6, 15.9, 0.1), "2" = seq(0, 1.96, 0.04), stake = 1:2),
               want = c("edge > 0.1", "edge < 0.2"))
  },
  "tune_rules(), 504 sets of rules of blackjack, exact" = function() {
    tune_rules(game_blackjack(), list(packs = 2:8, natural_pays = c(1, 1.2, 1.5), soft_17 = c("stands", "hits"),
                                      surrender = c("none", "late"), double_on = c("any_two", "9_to_11", "10_11"),
                                      double_after_split = c(TRUE, FALSE)), want = "edge < 0.004")
  },
  "tune_rules(), 10,000 pay tables of a machine, exact" = function() {
    tune_rules(game_video_poker(), list("full house" = 5:14, flush = 3:12, "four of a kind" = seq(15, 60, 5),
                                        straight = 2:11), want = c("edge > 0.01", "edge < 0.03"))
  },
  "vary_rules(), 8 sets of rules of War, 50,000 games each" = function() {
    vary_rules(game_war(), face_down = 0:3, tie = c("war", "split"), nsim = 5e4, seed = 1)
  },
  "simulate() and compare() of each of them" = function() {
    for (tie in c("war", "split")) for (down in 0:3) {
      simulate(change_rules(game_war(), face_down = down, tie = tie), nsim = 5e4, seed = 1)
      compare(game_war(face_down = 0), change_rules(game_war(), face_down = down, tie = tie), nsim = 5e4, seed = 1)
    }
  },
  "sessions(), 12 nights of 2,000 rounds" = function() sessions(bench_law, 2000),
  "the same, 2,000 seasons drawn in plain R" = function() {
    for (i in 1:2000) min(cumsum(sample(bench_law$net, 24000, TRUE, bench_law$probability)))
  },
  "bankroll(), 10,000 rounds from 500 stakes" = function() bankroll(bench_law, 500, 10000),
  "the same, ruin alone, a walk in plain R" = function() plain_ruin(bench_law, 500, 10000),
  "exact_distance(), riffles of 52" = function() exact_distance(shuffle_riffle(), 52),
  "exact_distance(), riffles of 416" = function() exact_distance(shuffle_riffle(), 416)
)

# A million recorded arrangements, as codes and as numbers.
million <- t(vapply(1:1000, function(i) sample(52), integer(52)))[rep(1:1000, 1000), ]
recorded <- c(codes = tempfile(fileext = ".csv"), numbers = tempfile(fileext = ".txt"))
data.table::fwrite(as.data.frame(matrix(as.character(deck_standard())[million], ncol = 52)), recorded[["codes"]])
data.table::fwrite(as.data.frame(million), recorded[["numbers"]], sep = " ", col.names = FALSE)
single_jobs <- c(single_jobs, list(
  "reading 1,000,000 recorded arrangements of 52, codes" = function() shuffle_recorded(recorded[["codes"]]),
  "the same, numbers" = function() shuffle_recorded(recorded[["numbers"]]),
  "audit of them" = function() audit(logged)
))
logged <- shuffle_recorded(recorded[["numbers"]])
