# Money over many rounds: against textbook formulas, walks by hand, and simulation.

# As printed, in one line.
printed <- function(x) gsub("[[:space:]]+", " ", paste(capture.output(print(x)), collapse = " "))
coin <- function(p) money_distribution(c(-1, 1), c(1 - p, p))
term <- function(found, name, column = "estimate") tidy(found)[[column]][tidy(found)$term == name]

test_that("ruin of a game at one to one is that of the textbook, for ever and before a goal", {
  for (p in c(0.4, 0.48, 0.5, 0.51, 0.6)) {
    r <- (1 - p) / p
    near <- function(found, exact) expect_lt(abs(found - exact), 1e-12)
    near(term(bankroll(coin(p), 10, Inf), "ruin"), min(1, r^10))
    before <- if (r == 1) 1 - 10 / 30 else (r^10 - r^30) / (1 - r^30)
    near(term(bankroll(coin(p), 10, Inf, goal = 30), "ruin"), before)
    near(term(bankroll(coin(p), 10, Inf, goal = 30), "goal"), 1 - before)
  }
  # Steps of two down and three up: the roots of the step's equation, by hand.
  law <- money_distribution(c(-2, 1, 3), c(0.4, 0.3, 0.3))
  roots <- polyroot(c(0.4, 0, -1, 0.3, 0, 0.3))
  inside <- roots[Mod(roots) < 1 - 1e-9]
  # Below the bank of one lie nothing and a debt of one; the chances from there are one.
  ways <- solve(rbind(inside^0, inside^-1), c(1, 1))
  expect_equal(term(bankroll(law, 7, Inf), "ruin"), Re(sum(ways * inside^7)), tolerance = 1e-10)
})

test_that("ruin within so many rounds is that of all courses, and of the reflected walk", {
  law <- money_distribution(c(-1, 0, 2), c(0.5, 0.2, 0.3))
  courses <- as.matrix(expand.grid(rep(list(c(-1, 0, 2)), 7)))
  chance <- apply(matrix(c(0.5, 0.2, 0.3)[match(courses, c(-1, 0, 2))], nrow(courses)), 1, prod)
  slow <- function(start, goal) {
    ends <- apply(courses, 1, function(course) {
      at <- start
      for (step in course) if (at >= 1 && at < goal) at <- at + step
      c(at < 1, at >= goal, at, at^2)
    })
    as.vector(ends %*% chance)
  }
  found <- bankroll(law, 3, 7, goal = 6)
  by_hand <- slow(3, 6)
  expect_equal(term(found, "ruin"), by_hand[1], tolerance = 1e-12)
  expect_equal(term(found, "goal"), by_hand[2], tolerance = 1e-12)
  expect_equal(term(found, "mean"), by_hand[3], tolerance = 1e-12)
  expect_equal(term(found, "sd"), sqrt(by_hand[4] - by_hand[3]^2), tolerance = 1e-12)
  # A fair coin by reflection: P(min of n <= -h) = P(S_n <= -h) + P(S_n < -h).
  n <- 40
  at_end <- function(h) sum(dbinom(0:n, n, 0.5)[2 * (0:n) - n <= -h])
  expect_equal(term(bankroll(coin(0.5), 6, n), "ruin"), at_end(6) + at_end(7), tolerance = 1e-12)
  # The deepest fall and the longest run, over all courses of a coin.
  tosses <- as.matrix(expand.grid(rep(list(c(-1, 1)), 12)))
  fall <- apply(tosses, 1, function(x) max(cummax(c(0, cumsum(x))) - c(0, cumsum(x))))
  run <- apply(tosses, 1, function(x) max(c(0, rle(x)$lengths[rle(x)$values < 0])))
  short <- bankroll(coin(0.5), 50, 12)
  expect_equal(term(short, "worst_fall_p50"), unname(quantile(fall, 0.5, type = 1)))
  expect_equal(term(short, "worst_fall_p90"), unname(quantile(fall, 0.9, type = 1)))
  expect_equal(term(short, "losing_run_p50"), unname(quantile(run, 0.5, type = 1)))
  expect_equal(term(short, "losing_run_p90"), unname(quantile(run, 0.9, type = 1)))
})

test_that("plans of bets are followed, and simulation agrees for random laws", {
  set.seed(4)
  for (i in 1:3) {
    net <- sort(sample(-3:4, 4))
    if (net[1] >= 0) net[1] <- -1
    weight <- runif(4)
    law <- money_distribution(net, weight / sum(weight))
    plan <- bet_progression(after_loss = 2, limit = c(4, 8, 16)[i])
    found <- bankroll(law, 25, 60, goal = 60, bets = plan)
    ends <- replicate(4000, {
      at <- 25
      bet <- 1
      for (step in sample(law$net, 60, TRUE, law$probability)) {
        if (at < 1 || at >= 60) break
        if (at < bet) bet <- 1
        at <- at + bet * step
        bet <- if (step < 0) 2 * bet else if (step > 0) 1 else bet
        if (bet > c(4, 8, 16)[i]) bet <- 1
      }
      at
    })
    # What hardly comes may not have come.
    near <- function(name, values) {
      exact <- term(found, name)
      spread <- if (name == "mean") sd(values) else sqrt(exact * (1 - exact))
      expect_lt(abs(exact - mean(values)), standard_errors * spread / sqrt(4000) + 1e-9)
    }
    near("ruin", ends < 1)
    near("goal", ends >= 60)
    near("mean", ends)
  }
  # However it is bet, a fair game stays fair.
  for (after in c(1, 2)) {
    expect_equal(term(bankroll(coin(0.5), 30, 100, bets = bet_progression(after_loss = after, limit = 8)), "mean"), 30,
                 tolerance = 1e-9)
  }
  expect_output(print(bet_progression(after_loss = 2, limit = 64)), "2 times the bet after a loss")
})

test_that("the usual formula stands beside, and is wrong where steps are large", {
  close <- bankroll(coin(0.51), 100, Inf)
  expect_lt(abs(term(close, "ruin") - term(close, "ruin", "formula")), 0.001)
  long_shot <- bankroll(money_distribution(c(-1, 30), c(0.96, 0.04)), 20, Inf)
  expect_gt(abs(term(long_shot, "ruin") - term(long_shot, "ruin", "formula")), 0.005)
  expect_match(printed(long_shot), "The usual formula says")
  # A law that was simulated carries its error on.
  counts <- simulate(game_high_card(record = "net"), nsim = 5000, seed = 1)
  found <- bankroll(counts, 20, 300)
  exactly <- bankroll(game_high_card(), 20, 300)
  expect_gt(term(found, "ruin", "std.error"), 0)
  expect_lt(abs(term(found, "ruin") - term(exactly, "ruin")), standard_errors * term(found, "ruin", "std.error"))
  expect_equal(term(exactly, "ruin", "std.error"), 0)
  expect_s3_class(autoplot(exactly), "ggplot")
})

test_that("what is out of reach of the walk is drawn, and agrees with it", {
  law <- money_distribution(c(-1, 0.95), c(0.5, 0.5))
  told <- list(law = round_law(law, NULL), start = 20, rounds = 300, goal = 45, bets = NULL, bet = 1, unit = 20)
  drawn <- drawn_courses(told, NULL)
  walked <- bankroll(law, 20, 300, goal = 45)
  for (name in c("ruin", "goal", "mean")) {
    row <- drawn$found[drawn$found$term == name, ]
    expect_lt(abs(row$estimate - term(walked, name)), standard_errors * row$std.error)
  }
  falls <- vapply(1:4000, function(trial) course_end(told, 1, trial)[["fall"]], 0)
  half <- standard_errors * 0.5 / sqrt(4000)
  expect_gte(mean(falls <= term(walked, "worst_fall_p50") + 1e-9), 0.5 - half)
  expect_lte(mean(falls < term(walked, "worst_fall_p50") - 1e-9), 0.5 + half)
  # Courses drawn round by round are the same courses.
  for (trial in 1:50) expect_equal(tail(single_course(told, 1, trial), 1), course_end(told, 1, trial)[["left"]])
  expect_equal(drawn$found$estimate[drawn$found$term == "doubling_time"], term(walked, "doubling_time"))
  # Coins of a thousandth, and many rounds.
  far <- bankroll(money_distribution(c(-1, 0.001, 0.997), c(0.5, 0.1, 0.4)), 200, 20000)
  expect_match(printed(far), "Simulated: 2,500 courses of seed 1")
})

test_that("what grows fastest, and how long an edge hides", {
  expect_equal(term(stake_fraction(coin(0.55)), "fraction"), 0.1, tolerance = 1e-9)
  expect_equal(term(stake_fraction(coin(0.55)), "growth"), 100 * (0.55 * log(1.1) + 0.45 * log(0.9)), tolerance = 1e-9)
  expect_equal(term(stake_fraction(coin(0.45)), "fraction"), 0)
  law <- money_distribution(c(-1, 0.5, 3), c(0.5, 0.2, 0.3))
  slow <- optimize(function(f) sum(law$probability * log1p(f * law$net)), c(0, 0.999), maximum = TRUE, tol = 1e-10)
  expect_equal(term(stake_fraction(law), "fraction"), slow$maximum, tolerance = 1e-5)
  shown <- rounds_to_show(coin(0.49))
  expect_equal(term(shown, "rounds"), ceiling(((qnorm(0.95) + qnorm(0.9)) * sqrt(1 - 0.02^2) / 0.02)^2))
  # As often as promised.
  rounds <- term(shown, "rounds")
  seen <- pbinom(qbinom(0.05, rounds, 0.5), rounds, 0.49)
  # Both ends of the test stand on whole wins, each as likely as this at most.
  expect_lt(abs(seen - 0.9), dbinom(rounds %/% 2, rounds, 0.5) + dbinom(round(0.49 * rounds), rounds, 0.49))
})

test_that("nights and seasons are sums of their rounds, and the reserve holds at the lowest point", {
  law <- money_distribution(c(-1.5, -1, 0, 1), c(0.05, 0.4, 0.08, 0.47))
  found <- sessions(law, rounds = 5, sessions = 2)
  slow <- c("0" = 1)
  for (i in 1:10) {
    all <- outer(as.numeric(names(slow)), -law$net, `+`)
    slow <- tapply(outer(slow, law$probability), round(all, 6), sum)
  }
  season <- as.data.frame(found)
  expect_equal(season$probability, unname(as.vector(slow[as.character(season$result)])), tolerance = 1e-10)
  expect_equal(term(found, "season_loses"), sum(slow[as.numeric(names(slow)) < 0]), tolerance = 1e-10)
  expect_equal(term(found, "night_mean"), -5 * sum(law$net * law$probability), tolerance = 1e-12)
  # The lowest point over all courses of a small season.
  coins <- as.matrix(expand.grid(rep(list(c(-1, 1)), 12)))
  lowest <- apply(coins, 1, function(x) -min(0, cumsum(x)))
  fair <- sessions(coin(0.5), rounds = 4, sessions = 3, reserve = 4)
  expect_equal(term(fair, "reserve_p95"), unname(quantile(lowest, 0.95, type = 1)))
  expect_equal(term(fair, "reserve_p99"), unname(quantile(lowest, 0.99, type = 1)))
  expect_equal(term(fair, "survives"), mean(lowest <= 4), tolerance = 1e-12)
  # Long ones: moments, and the money that a stake is.
  long <- sessions(law, rounds = 2000, sessions = 12, stake = 2)
  mean <- sum(law$net * law$probability)
  expect_equal(term(long, "season_mean"), -2 * 24000 * mean, tolerance = 1e-9)
  expect_equal(term(long, "season_sd"), 2 * sqrt(24000 * (sum(law$net^2 * law$probability) - mean^2)), tolerance = 1e-6)
  dearer <- sessions(law, rounds = 2000, sessions = 12, stake = 2, other_costs = 10)
  expect_lt(abs(term(dearer, "season_mean") - term(long, "season_mean") + 2 * 120), 1e-6)
  expect_gt(term(dearer, "reserve_p99"), term(long, "reserve_p99"))
  expect_match(printed(long), "survives the lowest point of 12 nights in 99% of seasons")
  # A table of several seats, whose rounds are all of them.
  seats <- simulate(game_blackjack(seats = 3, record = "net"), nsim = 2e4, seed = 1)
  expect_gt(term(sessions(seats, 100), "night_sd"), sqrt(3) * term(sessions(game_blackjack(), 100), "night_sd"))
  expect_s3_class(autoplot(long), "ggplot")
})

test_that("takings that fit the rules are told from those that leak", {
  front <- takings(game_blackjack(), demo_file("takings-front.csv"), player_basic())
  back <- takings(game_blackjack(), demo_file("takings-back.csv"), player_basic())
  expect_gt(term(front, "difference", "p.value"), 0.05)
  expect_lt(term(back, "difference", "p.value"), 0.001)
  expect_output(print(front), "It may well be luck")
  expect_output(print(back), "This was not luck")
  rows <- as.data.frame(back)
  edge <- tidy(house_edge(game_blackjack(), player_basic(), nsim = 1e5, seed = 1))[1, ]
  expect_equal(rows$expected, edge$estimate * rows$staked)
  expect_equal(term(back, "difference", "std.error"), sqrt(sum(edge$sd^2 * rows$staked^2 / rows$rounds)))
  # Nights by the rules raise as few alarms as they should: high card with ties to nobody, of which 3 in 51 are.
  set.seed(8)
  even <- game_high_card(ties = "push")
  alarms <- replicate(400, {
    won <- replicate(10, sum(sample(-1:1, 400, TRUE, c(24, 3, 24))))
    term(takings(even, data.frame(rounds = 400, staked = 400, result = won)), "difference", "p.value") < 0.05
  })
  expect_lt(abs(mean(alarms) - 0.05), standard_errors * sqrt(0.05 * 0.95 / 400))
  expect_s3_class(autoplot(back), "ggplot")
})

test_that("takings of shoes with a cut are luck as often as they are", {
  game <- game_blackjack(cut_after = 0.75, packs = 2, players = player_basic(), record = "net")
  rounds <- trials(game, 5, 1:3000)
  night <- (rounds$trial - 1) %/% 10
  nights <- data.frame(rounds = as.vector(table(night)), result = 0 - as.vector(tapply(rounds$net, night, sum)))
  nights$staked <- nights$rounds
  found <- takings(game, nights)
  # The edge and the spread are those of rounds dealt in plain R from such shoes.
  set.seed(4)
  values <- rep(c(1:9, 10, 10, 10, 10), 8)
  house <- list(bust_over = 21, hole_card = "checked", most_hands = 4, resplit_aces = FALSE, surrender = "none",
                insured = FALSE, ties = "push", double_on = "any_two", double_after_split = TRUE,
                split_aces = "one_card", soft_17 = "stands", dealer_stands_on = 17, natural_pays = 1.5,
                cards_that_win = NULL)
  table <- as.data.frame(player_basic())
  table <- as.matrix(data.frame(table[-1], row.names = table$hand, check.names = FALSE))
  net <- replicate(4000, plain_round(sample(values), table, house)$net)
  expect_lt(abs(mean(net) + found$edge$estimate), standard_errors * sd(net) / sqrt(4000))
  # Of a spread with the fourth moment that it has.
  error <- sqrt((mean((net - mean(net))^4) - var(net)^2) / 4000) / (2 * sd(net))
  expect_lt(abs(sd(net) - found$edge$sd), standard_errors * error)
  z <- as.data.frame(found)$z
  expect_lt(abs(mean(z)), standard_errors / sqrt(300))
  expect_lt(abs(mean(abs(z) > qnorm(0.975)) - 0.05), standard_errors * sqrt(0.05 * 0.95 / 300))
})

test_that("bankrolls of priced shoes are those of the shoes played with these bets", {
  counter <- function(bets) player_counting(bets = bets)
  mild <- c("0" = 1, "1" = 2, "2" = 4)
  steep <- c("0" = 1, "1" = 6, "2" = 12)
  shoes <- function(bets) {
    simulate(game_blackjack(packs = 2, cut_after = 0.8, players = counter(bets)), nsim = 2000, seed = 1)
  }
  priced <- reprice(by_true_count(shoes(mild)), steep)
  played <- bankroll(shoes(steep), start = 200, rounds = 200)
  expect_equal(tidy(bankroll(priced, start = 200, rounds = 200))[c("term", "estimate")],
               tidy(played)[c("term", "estimate")], tolerance = 1e-9)
  expect_equal(tidy(bankroll(by_true_count(shoes(steep)), start = 200, rounds = 200)), tidy(played), tolerance = 1e-6)
  expect_output(print(bankroll(priced, start = 200, rounds = 200)), "priced\\s+anew with bets")
})

test_that("counters at equal risk run the same risk, by hand", {
  game <- game_blackjack(packs = 1, cut_after = 0.75, surrender = "early", natural_pays = 2)
  players <- list(mild = player_counting(bets = c("0" = 1, "1" = 4)),
                  steep = player_counting(bets = c("0" = 1, "1" = 8, "2" = 16)))
  found <- compare_counters(game, players, ruin = 0.1, bank = 300, nsim = 5000, seed = 2)
  for (i in 1:2) {
    rounds <- trials(change_rules(game, players = players[[i]]), 2, 1:5000)
    gain <- mean(rounds$net)
    by_shoe <- as.vector(rowsum(rounds$net - gain, rounds$trial))
    # A round's variance in the long run: of what shoes deviate, over their rounds.
    variance <- sum(by_shoe^2) * 5000 / 4999 / nrow(rounds)
    expect_equal(found$gain[i], 100 * gain, tolerance = 1e-9)
    expect_equal(found$sd[i], 10 * sqrt(variance), tolerance = 1e-6)
    expect_equal(found$ruin[i], exp(-2 * gain * 300 / variance), tolerance = 1e-6)
    # With stakes so high the risk is the one asked for.
    stake <- found$stake[i]
    expect_equal(exp(-2 * stake * gain * 300 / (stake^2 * variance)), 0.1, tolerance = 1e-6)
    expect_equal(found$gain_at_stake[i], stake * found$gain[i], tolerance = 1e-9)
  }
  expect_equal(tidy(found)$term, c("mild", "steep"))
  expect_output(print(found), "At a risk of ruin of 10%")
  none <- compare_counters(game_blackjack(cut_after = 0.5), lapply(players, function(player) {
    player_counting(bets = c("0" = 1))
  }), nsim = 300, seed = 1)
  expect_true(all(none$verdict %in% c("open", "loses")))
  expect_output(print(none), "Of nobody here it is sure that he gains")
  expect_refusals(list(
    list(quote(compare_counters(game_blackjack(), players)), "rules", "give the game a `cut_after`"),
    list(quote(compare_counters(game, players[1])), "input", "two counting players or more"),
    list(quote(compare_counters(game, list(a = players[[1]], a = players[[2]]))), "input", "Two players are called"),
    list(quote(compare_counters(game, list(player_basic(), player_basic()))), "input", "must be a player_counting()"),
    list(quote(compare_counters(game, players, ruin = 1)), "input", "`ruin` must be a number above 0 and below 1"),
    list(quote(compare_counters(game_pairs(), players)), "input", "not played for money")
  ), environment())
})

test_that("money that cannot be is refused", {
  no_column <- withr::local_tempfile(fileext = ".csv", lines = c("rounds,result", "10,3"))
  expect_refusals(list(
    list(quote(money_distribution(c(-1, 1), c(0.5, 0.4))), "input", "must sum to one, not to 0.9"),
    list(quote(money_distribution(c(-1, pi), c(0.5, 0.5))), "input", "whole in no unit"),
    list(quote(bankroll(coin(0.5), 0.5, 10)), "input", "less than a bet"),
    list(quote(bankroll(coin(0.5), 10, 10, goal = 5)), "input", "must be more than `start`"),
    list(quote(bankroll(coin(0.5), 10, Inf, bets = bet_progression(2))), "input", "not for ever"),
    list(quote(bankroll(coin(0.5000001), 1000, Inf)), "work", "out of reach"),
    list(quote(bankroll(game_war(), 10, 10)), "input", "not played for money"),
    list(quote(bankroll(1:3, 10, 10)), "input", "a game for money"),
    list(quote(bet_progression(after_loss = 1.5)), "input", "whole number from 1 to 100"),
    list(quote(rounds_to_show(coin(0.5))), "input", "never shows"),
    list(quote(sessions(coin(0.5), 0)), "input", "`rounds` must be"),
    list(quote(takings(game_blackjack(), demo_file("dirty-takings.csv"))), "file", "line 3, column `rounds`: \"many\""),
    list(quote(takings(game_blackjack(), no_column)), "file", "no column `staked`"),
    list(quote(takings(game_blackjack(), data.frame(rounds = 0, staked = 1, result = 1))), "input", "leave nights")
  ))
})

test_that("money in the shell", {
  found <- run_words("bankroll", "high_card", "--start", "20", "--rounds", "100", "--after-loss", "2", "--limit", "8")
  expect_match(found$out[1], "<bankroll> Ruin within 100 rounds comes with a chance of")
  expect_equal(run_words("bankroll", "high_card")$status, 2)
  expect_equal(run_words("bankroll", "high_card", "--start", "20", "--expect", "ruin < 0.01")$status, 1)
  season <- run_words("sessions", "high_card", "--rounds", "300", "--reserve", "100", "--format", "csv")
  expect_match(season$out[1], "term")
  told <- run_words("takings", demo_file("takings-back.csv"), "--player", "basic")
  expect_match(told$out[1], "This was not luck")
})
