# Speed as ratios: each job through simulate(), with all that comes with it, beside plain R and
# beside a bare C++ loop that does only that job (bench/bare.cpp), in one run, round by round.
#
#   make bench            all jobs, 5 rounds
#   ROUNDS=3 make bench
#   JOBS=own make bench   the jobs with this in their names, and no others
library(habanera)

rounds <- as.integer(Sys.getenv("ROUNDS", "5"))
six_packs <- deck_standard(packs = 6)
fifty_kinds <- deck_from(data.frame(card = sprintf("k%02d", 1:50), copies = 40))

source("bench/plain.R")

bench_counter <- player_counting(bets = c("0" = 1, "1" = 2, "2" = 4, "3" = 8), insurance_at = 3,
                                 deviations = "h16_10_0__S h12_4__0_H h15_10_4__S h12_3_2__S h10_10_4__D.H")

# `plain` is what one would write in R; counting is left out of it, but for the audit, whose plain job is the
# table of cards by position alone.
jobs <- list(
  list(name = "positions of 52 cards", experiment = positions(deck_standard()), trials = 1e7,
       bare = "positions52", plain = function(n) replicate(n, sample(52)), plain_trials = 3e4),
  list(name = "draw 5 of 52", experiment = draws(deck_standard(), 5), trials = 1e7, bare = "draw5",
       plain = function(n) replicate(n, sample(52, 5)), plain_trials = 3e4),
  list(name = "draw 5 of 52, two conditions",
       experiment = draws(deck_standard(), 5, two_up = count(rank == "A") >= 2, three = count(suit == "hearts") >= 3),
       trials = 1e7, bare = "question5", plain = function(n) replicate(n, plain_question()), plain_trials = 3e4),
  list(name = "positions after a riffle", experiment = positions(deck_standard(), shuffle_riffle()),
       trials = 1e7, bare = "riffle52", plain = function(n) replicate(n, plain_riffle()), plain_trials = 3e4),
  list(name = "positions after a naive swap", experiment = positions(deck_standard(), shuffle_naive_swap()),
       trials = 3e6, bare = "naive52", plain = function(n) replicate(n, plain_naive_swap()), plain_trials = 3e3),
  list(name = "positions of 312 cards", experiment = positions(six_packs), trials = 2e6,
       bare = "positions312", plain = function(n) replicate(n, sample(312)), plain_trials = 1e4),
  list(name = "positions of 2,000 cards", experiment = positions(fifty_kinds), trials = 2e5,
       bare = "positions2000", plain = function(n) replicate(n, sample(2000)), plain_trials = 2e3),
  list(name = "War, 52 cards, watched", experiment = game_war(record = "rounds"), trials = 1e6, bare = "war52",
       plain = function(n) replicate(n, plain_war(sample(rep(2:14, 4)))), plain_trials = 40),
  list(name = "the same, not watched", experiment = game_war(record = "rounds", max_rounds = 5000,
                                                              at_limit = "most_cards"),
       trials = 1e6, bare = "war52", plain = function(n) replicate(n, plain_war(sample(rep(2:14, 4)))),
       plain_trials = 40),
  list(name = "rounds of high card", experiment = game_high_card(record = "result"), trials = 5e6, bare = "highcard52",
       plain = function(n) replicate(n, plain_high_card()), plain_trials = 3e4),
  list(name = "rounds of blackjack, six packs", experiment = game_blackjack(), trials = 2e6, bare = "blackjack312",
       plain = function(n) replicate(n, plain_blackjack()), plain_trials = 3000),
  list(name = "rounds of baccarat, eight packs", experiment = game_baccarat(record = "winner"), trials = 5e6,
       bare = "baccarat416", plain = function(n) replicate(n, plain_baccarat()), plain_trials = 2e4),
  list(name = "best play of a pay table, 52 cards", run = function(n, threads) {
         for (i in seq_len(n)) best_strategy(game_video_poker())
       }, trials = 2, bare = "machine52", plain = function(n) NULL, plain_trials = 1),
  list(name = "a game of one's own in C++", experiment = cpp_lift, trials = 2e6, bare = "lift52",
       plain = function(n) replicate(n, plain_lift()), plain_trials = 5000),
  list(name = "a game of one's own in R, its player a function", experiment = own_lift, trials = 1e4, bare = "lift52",
       plain = function(n) replicate(n, plain_lift()), plain_trials = 5000),
  list(name = "a game of one's own in R, until an ace", experiment = own_ace, trials = 2e4, bare = "ace52",
       plain = function(n) replicate(n, plain_ace()), plain_trials = 2e4),
  list(name = "shoes of blackjack, six packs", experiment = game_blackjack(cut_after = 234), trials = 5e4,
       bare = "shoes312", plain = function(n) replicate(n, plain_shoe()), plain_trials = 70),
  list(name = "the same, counted, betted and played by the count", trials = 5e4, bare = "shoes312",
       experiment = game_blackjack(cut_after = 234, players = bench_counter), plain = function(n) {
         replicate(n, plain_shoe())
       }, plain_trials = 70),
  list(name = "whole games of pairs, 30 cards", experiment = game_pairs(record = "turns"), trials = 2e5,
       bare = "pairs30", plain = function(n) replicate(n, plain_pairs(15)), plain_trials = 3000),
  list(name = "whole audit of 52 cards", run = function(n, threads) {
         audit(shuffle_uniform(), nsim = n, seed = 1, threads = threads)
       }, trials = 3e6, bare = "battery52", plain = plain_positions, plain_trials = 3e4)
)

elapsed <- function(code) system.time(code)[["elapsed"]]

bare_seconds <- function(job, threads) {
  as.numeric(system2("build/bare", c(job$bare, format(job$trials, scientific = FALSE), threads),
                     stdout = TRUE))
}

package_seconds <- function(job, threads) {
  if (!is.null(job$run)) return(elapsed(job$run(job$trials, threads)))
  elapsed(simulate(job$experiment, nsim = job$trials, seed = 1, threads = threads))
}

# Nanoseconds per trial of one round.
one_round <- function(job) {
  nanoseconds <- function(seconds, trials) 1e9 * seconds / trials
  c(
    plain = nanoseconds(elapsed(job$plain(job$plain_trials)), job$plain_trials),
    bare = nanoseconds(bare_seconds(job, 1), job$trials),
    ours = nanoseconds(package_seconds(job, 1), job$trials),
    bare_two = nanoseconds(bare_seconds(job, 2), job$trials),
    ours_two = nanoseconds(package_seconds(job, 2), job$trials)
  )
}

measure <- function(job) {
  times <- as.data.frame(t(replicate(rounds, one_round(job))))
  data.frame(
    job = job$name, trials = format(job$trials, big.mark = ",", scientific = FALSE),
    `ns a trial` = round(median(times$ours)),
    `times faster than plain R` = signif(median(times$plain / times$ours), 2),
    `the same on two threads` = signif(median(times$plain / times$ours_two), 2),
    `times the bare loop` = round(median(times$ours / times$bare), 2),
    `second thread` = round(median(times$ours / times$ours_two), 2),
    `second thread, bare` = round(median(times$bare / times$bare_two), 2),
    check.names = FALSE
  )
}

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

# Jobs that are done once, in seconds.
built <- deck_from(demo_file("windfall.yaml"))
opening <- draws(built, 6, trees = count(kind == "tree"), cheap = count(cost <= 1), worth = total(cost),
                 kinds = distinct(kind))
course <- redraw_if(draws(built, 6, trees = count(kind == "tree"), always = every_turn(trees >= min(turn, 4))),
                    trees < 2 | trees > 4, times = 2, put_back = 1:2) |> draw_more(times = 8)
shoe_hand <- draws(six_packs, 8, worth = total(points), aces = count(rank == "A"), suits = largest_group(suit))
many_hands <- deck_standard()[unlist(lapply(1:1000, function(i) sample(52, 5)))][rep(1:5000, 1000)]
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
    hand_category(many_hands, hand_size = 5)
    hand_strength(many_hands, hand_size = 5)
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

only <- Sys.getenv("JOBS")
results <- do.call(rbind, lapply(Filter(function(job) grepl(only, job$name), jobs), measure))
cat(sprintf("Medians of %d rounds, one thread unless said.\n\n", rounds))
cat("|", paste(names(results), collapse = " | "), "|\n")
cat("|", paste(rep("---", ncol(results)), collapse = " | "), "|\n")
for (row in seq_len(nrow(results))) cat("|", paste(unlist(results[row, ]), collapse = " | "), "|\n")

if (nzchar(only)) quit()

# A mean game of War has so many rounds.
rounds_of_war <- tidy(simulate(game_war(record = "rounds"), nsim = 1e5, seed = 1))$estimate[1]
war <- results[grepl("War|not watched", results$job), ]
cat(sprintf("\n%s: %.1f ns a round, %s games a second (%.1f rounds a game).\n", war$job,
            war[["ns a trial"]] / rounds_of_war,
            format(round(1e9 / war[["ns a trial"]]), big.mark = ","), rounds_of_war), sep = "")

# What a second thread costs: processor time of two threads over that of one for the same trials, in ten processes of
# their own, since memory lies differently in each. 1.0 is perfect.
processor_times <- function(job, trials) {
  code <- sprintf(paste("library(habanera); x <- %s; f <- function(t)",
                        "sum(system.time(simulate(x, %.0f, seed = 1, threads = t))[1:2]);",
                        "invisible(f(1)); cat(f(2) / f(1))"),
                  job, trials)
  vapply(seq_len(10), function(i) as.numeric(system2("Rscript", c("-e", shQuote(code)), stdout = TRUE)), 0)
}
threaded <- list(
  "positions of 52 cards" = list("positions(deck_standard())", 6e6),
  "positions after a riffle" = list("positions(deck_standard(), shuffle_riffle())", 5e6),
  "draw 5 of 52" = list("draws(deck_standard(), 5)", 3e7),
  "draw 5 of 52, two conditions" = list(
    "draws(deck_standard(), 5, a = count(rank == 'A') >= 2, b = count(suit == 'hearts') >= 3)", 3e7
  ),
  "positions of 312 cards" = list("positions(deck_standard(packs = 6))", 1e6),
  "War, 52 cards" = list("game_war(record = 'rounds')", 3e5)
)
cat("\n| processor time, two threads over one, ten processes | mean | largest |\n| --- | --- | --- |\n")
for (name in names(threaded)) {
  times <- do.call(processor_times, threaded[[name]])
  cat(sprintf("| %s | %.2f | %.2f |\n", name, mean(times), max(times)))
}

# Cost and memory from 1e5 to 1e9 trials.
memory <- function() as.numeric(gsub("[^0-9]", "", grep("VmHWM", readLines("/proc/self/status"), value = TRUE))) / 1024
cat("\n| draw 5 of 52, trials | ns a trial, one thread | most memory so far, MB |\n| --- | --- | --- |\n")
for (trials in 10^(5:9)) {
  seconds <- elapsed(simulate(draws(deck_standard(), 5), nsim = trials, seed = 1, threads = 1))
  cat(sprintf("| %s | %.1f | %.0f |\n", format(trials, big.mark = ",", scientific = FALSE), 1e9 * seconds / trials,
              memory()))
}

cat("\n| job, once | seconds |\n| --- | --- |\n")
for (name in names(single_jobs)) {
  cat("|", name, "|", round(median(replicate(rounds, elapsed(single_jobs[[name]]()))), 3), "|\n")
}
