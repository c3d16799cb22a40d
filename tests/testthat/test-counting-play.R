# A seat that counts: what it does, checked step by step, and what comes of it, shoe by shoe.

ramp <- c("0" = 1, "1" = 2, "2" = 4, "3" = 8)
tags_of <- function(codes) {
  value <- sub("[SHDC]$", "", codes)
  ifelse(value %in% c("10", "J", "Q", "K", "A"), -1, ifelse(value %in% 2:6, 1, 0))
}
seat_counting <- function(...) player_counting(system = "level one balanced", ...)

test_that("every card shown is counted, the hole card at the end, and bets go by the count before the round", {
  game <- game_blackjack(players = seat_counting(bets = ramp), cut_after = 0.5, packs = 2, burn = 3)
  for (shoe in 1:6) {
    trace <- replay(game, seed = 4, trial = shoe)
    outcome <- attr(trace, "outcome")
    deck <- as.character(kinds_of(game$deck)$cards)[attr(trace, "deck")]
    gone <- 3
    running <- 0
    for (round in seq_len(max(trace$round))) {
      before <- running
      level <- floor(before * 52 / (104 - gone))
      expect_equal(outcome$running_count[round], before)
      expect_equal(outcome$true_count[round], level)
      expect_equal(outcome$cards_gone[round], gone)
      expect_equal(outcome$bet[round], unname(ramp[as.character(min(max(level, 0), 3))]))
      steps <- trace[trace$round == round, ]
      hidden <- FALSE
      for (i in seq_len(nrow(steps))) {
        if (steps$action[i] == "dealer_hides") {
          gone <- gone + 1
          hidden <- gone
        } else if (nzchar(steps$cards[i])) {
          running <- running + tags_of(steps$cards[i])
          if (steps$action[i] == "dealer_turns") hidden <- FALSE else gone <- gone + 1
        }
        last <- i == nrow(steps)
        if (last && hidden) running <- running + tags_of(deck[hidden])
        expect_equal(steps$running_count[i], running)
        expect_equal(steps$true_count[i], running * 52 / (104 - gone))
      }
      expect_equal(outcome$net[round], outcome$bet[round] * outcome$net_per_bet[round])
    }
  }
})

test_that("play, insurance, leaving and coming back go by the count", {
  plan <- data.frame(hand = c("hard 16", "hard 12"), up_card = c("10", "4"), from = c(0, NA), below = c(NA, 1),
                     action = c("S", "hit"))
  game <- game_blackjack(players = seat_counting(deviations = plan, insurance_at = 1), cut_after = 0.8, packs = 2)
  seen <- c(S = 0, H = 0, low = 0, high = 0, insured = 0, declined = 0)
  for (shoe in 1:60) {
    trace <- replay(game, seed = 9, trial = shoe)
    level <- floor(trace$true_count + 1e-9)
    shown <- cummax(ifelse(trace$action == "dealer_shows", seq_len(nrow(trace)), 0))
    up <- ifelse(shown > 0, trace$cards[pmax(shown, 1)], "")
    either <- function(one, yes, no) as.character(ifelse(one, yes, no))
    ten <- grepl("^(10|J|Q|K)", up)
    sixteen <- grepl("^ [(]hard 16;", trace$note) & ten & trace$action %in% c("hits", "stands")
    expect_equal(trace$action[sixteen], either(level[sixteen] >= 0, "stands", "hits"))
    twelve <- grepl("^ [(]hard 12;", trace$note) & grepl("^4", up) & trace$action %in% c("hits", "stands")
    expect_equal(trace$action[twelve], either(level[twelve] < 1, "hits", "stands"))
    asked <- trace$action %in% c("insures", "declines")
    expect_equal(trace$action[asked], either(level[asked] >= 1, "insures", "declines"))
    seen <- seen + c(sum(sixteen & level >= 0), sum(sixteen & level < 0), sum(twelve & level < 1),
                     sum(twelve & level >= 1), sum(asked & level >= 1), sum(asked & level < 1))
  }
  expect_true(all(seen > 0))

  away <- list(player_basic(), seat_counting(bets = ramp, leaves_below = -1, enters_at = 1), player_basic())
  game <- game_blackjack(players = away, seats = 3, cut_after = 0.75, packs = 2)
  found <- trials(change_rules(game), seed = 3, trials = 1:50)
  expect_named(found, c("trial", "net_2", "staked_2", "plays", "true_count", "bet", "net_per_bet"))
  for (shoe in split(found, found$trial)) {
    there <- FALSE
    for (i in seq_len(nrow(shoe))) {
      there <- shoe$true_count[i] >= -1 && (there || shoe$true_count[i] >= 1)
      expect_equal(shoe$plays[i], as.numeric(there))
    }
    expect_true(all(shoe$net_2[shoe$plays == 0] == 0 & shoe$bet[shoe$plays == 0] == 0))
  }
  expect_true(all(0:1 %in% found$plays))
  # Who sits out gets no card, and those beside him do.
  trace <- replay(game, seed = 3, trial = 1)
  outcome <- attr(trace, "outcome")
  gets <- function(seat) unique(trace$round[which(trace$seat == seat & trace$action == "seat_gets")])
  expect_equal(gets("2"), which(outcome$plays == 1))
  expect_equal(gets("3"), seq_len(nrow(outcome)))
  expect_equal(outcome$result_2 == "sits out", outcome$plays == 0)
})

test_that("results by the true count are those of single shoes added up, with errors by shoe", {
  game <- game_blackjack(players = seat_counting(bets = ramp), cut_after = 0.75)
  run <- simulate(game, nsim = 300, seed = 5)
  found <- by_true_count(run)
  rounds <- trials(game, seed = 5, trials = 1:300)
  class <- pmin(pmax(rounds$true_count, -15), 15)
  for (count in c(-2, 0, 1, 3)) {
    at <- class == count
    row <- found[found$true_count == count, ]
    expect_equal(row$rounds, sum(at))
    expect_equal(row$mean, mean(rounds$net_per_bet[at]))
    expect_equal(row$sd, sqrt(mean((rounds$net_per_bet[at] - mean(rounds$net_per_bet[at]))^2)))
    by_shoe <- tapply((rounds$net_per_bet - row$mean) * at, rounds$trial, sum)
    expect_equal(row$std.error, sqrt(sum(by_shoe^2) * 300 / 299) / sum(at))
  }
  totals <- tidy(found)
  gain <- totals[totals$term == "gain", ]
  expect_equal(gain$estimate, 100 * sum(rounds$net) / nrow(rounds))
  expect_equal(gain$estimate, sum(found$gain))
  left <- tapply(rounds$net - mean(rounds$net), rounds$trial, sum)
  expect_equal(gain$std.error, 100 * sqrt(sum(left^2) * 300 / 299) / nrow(rounds))
  expect_equal(totals$estimate[totals$term == "per_bet"], sum(rounds$net) / sum(rounds$bet))
  # What an R function would do by the same moves is kept just so.
  expect_output(print(found), "in 100 rounds")

  other <- c("0" = 1, "1" = 5, "2" = 10)
  again <- simulate(game_blackjack(players = seat_counting(bets = other), cut_after = 0.75), nsim = 300, seed = 5)
  expect_equal(tidy(reprice(run, other)), tidy(by_true_count(again)), tolerance = 1e-9)
  expect_output(print(reprice(found, other)), "these very shoes priced anew")
  parts <- c(simulate(game, nsim = 100, seed = 5), simulate(game, nsim = 200, seed = 5, first_trial = 101))
  expect_equal(tidy(by_true_count(parts)), totals)
})

test_that("intervals by shoe hold what they promise, where rounds of a shoe hang together", {
  # Ties pushed and red as likely as black: at every count of ranks the mean is nothing, exactly.
  game <- game_high_card(ties = "push", colour_bet = "suit %in% c(\"hearts\", \"diamonds\")", cut_after = 0.9,
                         players = player_counting(system = "level one balanced", bets = ramp))
  repeats <- 400
  holds <- vapply(seq_len(repeats), function(i) {
    found <- by_true_count(simulate(game, nsim = 100, seed = i, threads = 1))
    rows <- tidy(found)
    at <- found[found$true_count == 0, ]
    c(rows$conf.low[1] <= 0 && rows$conf.high[1] >= 0, abs(at$mean) <= qnorm(0.975) * at$std.error)
  }, c(NA, NA))
  # A normal interval of 100 shoes holds a little less than 95%, as a t with 99 degrees of freedom says.
  promised <- 1 - 2 * pt(-qnorm(0.975), 99)
  near <- standard_errors * sqrt(promised * (1 - promised) / repeats)
  expect_lt(abs(mean(holds[1, ]) - promised), near + 0.005)
  expect_lt(abs(mean(holds[2, ]) - promised), near + 0.005)
})

test_that("bets by the count have the law of all orders of a small shoe", {
  deck <- as_cards("AS KS 2S 3H 4H 5D")
  tags <- c(A = -1, K = -1, "2" = 1, "3" = 1, "4" = 1, "5" = 0)
  counts <- player_counting(system = counting_system(tags, true_by = "none"), bets = c("0" = 1, "1" = 3))
  game <- game_high_card(deck = deck, cut_after = 3, players = counts, record = c("net", "bet"))
  strength <- c(14, 13, 2, 3, 4, 5)
  orders <- as.matrix(expand.grid(rep(list(1:6), 6)))
  orders <- orders[apply(orders, 1, function(order) !anyDuplicated(order)), ]
  slow <- apply(orders, 1, function(order) {
    bet <- if (sum(tags[order[1:2]]) >= 1) 3 else 1
    won <- function(places) sign(strength[order[places[1]]] - strength[order[places[2]]])
    c(won(1:2), bet * won(3:4), bet)
  })
  found <- exact(game)
  share <- function(net, bet) {
    at <- found$outcomes$net == net & found$outcomes$bet == bet
    sum(found$probability[at])
  }
  expect_equal(share(3, 3), mean(slow[2, ] == 3), tolerance = 1e-12)
  expect_equal(share(-1, 1), mean(slow[1, ] == -1) + mean(slow[2, ] == -1), tolerance = 1e-12)
  played <- simulate(game, nsim = 20000, seed = 1)
  threes <- sum(played$n[played$outcomes$net == 3]) / 20000
  expect_lt(abs(threes - share(3, 3)), standard_errors * sqrt(share(3, 3) * (1 - share(3, 3)) / 20000))
})

test_that("a shallower cut is a part of the same shoes", {
  counter <- seat_counting(bets = ramp)
  found <- counter_gain(game_blackjack(packs = 2), counter, cut_after = c(0.4, 0.6, 0.8), most_bet = c(4, 8),
                        nsim = 400, seed = 2, seconds_per_round = 60, seconds_per_shuffle = 100)
  for (cut in c(0.4, 0.8)) {
    held <- seat_counting(bets = pmin(ramp, 4))
    alone <- by_true_count(simulate(game_blackjack(packs = 2, players = held, cut_after = round(cut * 104)), nsim = 400,
                                    seed = 2))
    row <- found[found$cut_after == cut & found$most_bet == 4, ]
    expect_equal(row$gain, tidy(alone)$estimate[1], tolerance = 1e-9)
    expect_equal(row$std.error, tidy(alone)$std.error[1], tolerance = 1e-9)
    expect_equal(row$rounds_per_shoe, sum(alone$rounds) / 400)
    expect_equal(row$rounds_per_hour, 3600 * row$rounds_per_shoe / (60 * row$rounds_per_shoe + 100))
  }
  expect_equal(crossing(c(0.5, 0.6, 0.7), c(-1, 1, 3)), 0.55)
  expect_true(is.na(crossing(c(0.5, 0.6), c(1, 2))))
  expect_output(print(found), "With 2 packs and bets of up to 4 stakes")
  expect_s3_class(autoplot(found), "ggplot")
})

test_that("bets in proportion are those that grow fastest, and rounding loses", {
  run <- by_true_count(simulate(game_blackjack(players = seat_counting(bets = ramp), cut_after = 0.8), nsim = 2000,
                                seed = 7))
  sizes <- bet_sizes(run, bankroll = 500, limits = c(1, 12))
  # By R's own pool of neighbours, on values that are repeated as often as they weigh.
  x <- c(3, 1, 2, 5, 4)
  w <- c(2, 1, 3, 1, 2)
  slow <- isoreg(rep(x, w))$yf[cumsum(w)]
  expect_equal(rising_means(x, w), slow)
  square <- sizes$sd^2 + sizes$mean^2
  growth <- function(bet) 100 * sum(sizes$share * (bet * sizes$mean / 500 - bet^2 * square / (2 * 500^2)))
  best <- vapply(seq_along(sizes$ideal), function(i) {
    optimize(function(bet) growth(replace(sizes$ideal, i, bet)), c(0, 500), maximum = TRUE)$maximum
  }, 0)
  expect_equal(sizes$ideal, best, tolerance = 1e-3)
  expect_equal(tidy(sizes)$estimate, c(growth(sizes$ideal), growth(sizes$bet), growth(sizes$ideal) - growth(sizes$bet)))
  expect_true(all(sizes$bet %in% 1:12))
  expect_s3_class(reprice(run, sizes), "habanera_by_true_count")
  expect_output(print(sizes), "A bankroll of 500 stakes")
})

test_that("shoes of fractions hold what is left on average at each count", {
  deck <- as_cards("AS KS QS 2S 3H 4H 5D 7C 8C 9D")
  game <- game_high_card(deck = deck, packs = 1)
  found <- shoes_by_count(game, check_system("level one balanced", NULL), 4, -20:20, NULL)
  dealt <- combn(10, 4)
  tags <- tags_of(kinds_of(deck)$cards)
  counts <- floor(colSums(matrix(tags[dealt], 4)) * 10 / 6)
  for (i in seq_along(found$counts)) {
    at <- counts == found$counts[i]
    expect_equal(unname(found$chance[i]), mean(at), tolerance = 1e-10)
    left <- 1 - rowMeans(apply(dealt[, at, drop = FALSE], 2, function(cards) 1:10 %in% cards))
    expect_equal(unname(found$left[, i]), left, tolerance = 1e-10)
  }
})

test_that("changes by the count are better from their count on, and not before", {
  game <- game_blackjack(packs = 2, surrender = "none")
  found <- find_deviations(game, range = -5:5, nsim = 20000, seed = 1)
  expect_equal(found$from[found$hand == "hard 16" & found$up_card == "10"], 0)
  worked <- game$kind$cells(change_game(game, list(players = player_basic()), NULL), NULL)
  shoes <- shoes_by_count(game, check_system("level one balanced", NULL), 52, -5:5, NULL)
  for (i in 1:6) {
    row <- which(worked$cells$hand == found$hand[i] & worked$cells$up_card == found$up_card[i])
    gained <- vapply(seq_along(shoes$counts), function(at) {
      worth <- worked$worth(row, shoes$left[, at], "split"[startsWith(found$hand[i], "pair")])
      move <- entry_move(found$action[i], names(worth))
      worth[[move]] - worth[[entry_move(found$instead_of[i], names(worth))]]
    }, 0)
    holds <- if (is.na(found$from[i])) shoes$counts < found$below[i] else shoes$counts >= found$from[i]
    expect_true(all(gained[holds] > 0))
    edge <- if (is.na(found$from[i])) min(which(!holds)) else max(which(!holds))
    expect_lte(gained[edge], 0)
  }
  # The calculation is of one depth; what shoes of all depths bring is near it.
  expect_lt(abs(found$simulated[1] - found$gain[1]), standard_errors * found$std.error[1] + 0.5 * found$gain[1])
  # Of shoes of one round, what a fork brings is what playing on that way brings.
  one <- game_blackjack(packs = 2, most_hands = 1, cut_after = 1)
  change <- data.frame(hand = "hard 16", up_card = "10", from = -2, below = NA, action = "S")
  forked <- simulated_changes(change, one, player_basic(), check_system("level one balanced", NULL), bet_ramp(1),
                              list(nsim = 5000, seed = 3, threads = 2, depth = 0.5), NULL)
  net <- function(...) trials(change_rules(one, players = seat_counting(...)), seed = 3, trials = 1:5000)$net
  gained <- net(deviations = change) - net()
  expect_equal(forked$simulated, 100 * mean(gained))
  expect_equal(forked$std.error, 100 * sd(gained) / sqrt(5000))
  expect_gt(sum(gained != 0), 10)
  file <- withr::local_tempfile(fileext = ".csv")
  write_deviations(found[found$main, ], file)
  expect_equal(nrow(deviations(file)), sum(found$main))
  expect_output(print(found), "changes of")
})

test_that("bets that follow the count are told from those that do not", {
  honest <- bets_follow(demo_file("bets-at-the-window.csv"))
  twin <- bets_follow(demo_file("bets-by-the-door.csv"), counting_system(demo_file("level-one.yaml")))
  expect_gt(tidy(honest)$p.value, 0.05)
  expect_lt(tidy(twin)$p.value, 0.001)
  expect_output(print(honest), "Nothing shows that the bets follow the count")
  expect_output(print(twin), "The bets follow the count: they rise by")
  # Errors by shoe, by hand.
  rows <- as.data.frame(twin)
  slope <- cov(rows$bet, rows$true_count) / var(rows$true_count)
  expect_equal(tidy(twin)$estimate, slope)
  centred <- rows$true_count - mean(rows$true_count)
  left <- tapply(centred * (rows$bet - mean(rows$bet) - slope * centred), rows$shoe, sum)
  expect_equal(tidy(twin)$std.error, sqrt(24 / 22 * sum(left^2)) / sum(centred^2))
  # Bets that stay as they are for a while, beside counts that wander: as often seen as is promised.
  set.seed(11)
  alarms <- replicate(400, {
    shoe <- rep(1:30, each = 20)
    walk <- function() unlist(lapply(1:30, function(i) cumsum(rnorm(20))))
    found <- rise_of(walk(), walk(), shoe)
    found$p.value < 0.05
  })
  expect_lt(abs(mean(alarms) - 0.05), standard_errors * sqrt(0.05 * 0.95 / 400) + 0.01)
})

test_that("sessions of several shoes: a fair shuffle changes nothing, a lazy one does", {
  play <- function(nsim, ...) {
    game <- game_blackjack(packs = 1, cut_after = 0.5, record = "net", ...)
    found <- tidy(simulate(game, nsim = nsim, seed = 1))
    found[found$term == "net", ]
  }
  anew <- play(1e5)
  apart <- function(shuffle) {
    found <- play(5000, collected = "in_order", shoes = 20, shuffle = shuffle)
    abs(found$estimate - anew$estimate) / sqrt(found$std.error^2 + anew$std.error^2)
  }
  expect_lt(apart("uniform"), standard_errors)
  expect_lt(apart("riffle x7"), standard_errors)
  expect_gt(apart("riffle"), standard_errors)
  expect_gt(apart("none"), standard_errors)
  # Every card of every shoe is there: a session of whole shoes conserves them.
  session <- game_high_card(cut_after = 51, collected = "in_order", shoes = 3, shuffle = "none",
                            record = c("net", "cards_used"))
  dealt <- trials(session, seed = 1, trials = 1:20)
  expect_true(all(tapply(dealt$cards_used, dealt$trial, sum) == 3 * 52))
  expect_refusals(list(
    list(quote(game_blackjack(shoes = 3)), "rules", "goes with `collected`"),
    list(quote(game_blackjack(collected = "in_order")), "rules", "of several `shoes` with a cut"),
    list(quote(replay(session, seed = 1)), "input", "only the first could be replayed"),
    list(quote(exact(session)), "work", "Sessions of several shoes"),
    list(quote(game_high_card(cut_after = 0.5, shoes = 2, collected = "in_order", shuffle = shuffle_with(rev))),
         "rules", "by the core alone")
  ))
})

test_that("what makes no sense to a counter is refused", {
  two <- list(seat_counting(), seat_counting())
  bad <- withr::local_tempfile(fileext = ".csv", lines = c("true_count,bet", "0,1", "1,two"))
  bets <- withr::local_tempfile(fileext = ".csv", lines = c("shoe,bet,cards", "1,2,AS KD", "1,3,AS XX"))
  few <- withr::local_tempfile(fileext = ".csv", lines = c("shoe,bet,cards", "1,2,AS KD", "1,3,AS 4D"))
  expect_refusals(list(
    list(quote(bet_ramp(c("0" = 1, "2" = 3))), "input", "`bets` has a hole: 2 follows 0"),
    list(quote(bet_ramp(c("0" = 1.5))), "input", "whole stakes"),
    list(quote(bet_ramp(c("0" = 1), limits = c(5, 2))), "input", "`limits` cross"),
    list(quote(bet_ramp(bad)), "file", "line 3, column `bet`"),
    list(quote(player_counting(bets = c("40" = 1))), "input", "counts from -15 to 15"),
    list(quote(player_counting(player_as_dealer(), deviations = "h16_10_0__S")), "input", "must be one"),
    list(quote(player_counting(insurance_at = 1.5)), "input", "whole count"),
    list(quote(deviations(data.frame(hand = "hard 50", up_card = 1, from = 0, action = "S"))), "input",
         "a cell is such"),
    list(quote(deviations(data.frame(hand = "hard 16", up_card = 9, from = 0, action = "run"))), "input", "no action"),
    list(quote(deviations(data.frame(hand = "hard 16", up_card = 9, from = 3, below = 1, action = "S"))), "input",
         "counts between them"),
    list(quote(deviations(data.frame(hand = "hard 16", up_card = 9, from = 0:1, action = "S"))), "input", "overlaps"),
    list(quote(game_blackjack(most_hands = 1, players = seat_counting(deviations = "p10_5_5__P"))), "rules",
         "there are no splits"),
    list(quote(game_blackjack(surrender = "none", players = seat_counting(deviations = "h15_9_2__R.H"))), "rules",
         "no surrender"),
    list(quote(game_blackjack(double_on = "9_to_11", players = seat_counting(deviations = "h8_6_2__D.H"))), "rules",
         "may not be doubled"),
    list(quote(game_blackjack(seats = 2, players = two)), "rules", "One seat may bet"),
    list(quote(game_blackjack(packs = Inf, players = seat_counting())), "rules", "no count"),
    list(quote(game_blackjack(players = seat_counting(leaves_below = -1))), "rules", "another seat"),
    list(quote(game_high_card(players = seat_counting(insurance_at = 1))), "rules", "Nothing is decided here"),
    list(quote(by_true_count(simulate(game_blackjack(cut_after = 0.5), nsim = 10, seed = 1))), "input",
         "player_counting"),
    list(quote(counter_gain(game_blackjack(), cut_after = 2)), "input", "shares of the shoe"),
    list(quote(counter_gain(game_blackjack())), "input", "Nobody counts"),
    list(quote(find_deviations(game_high_card())), "input", "no table"),
    list(quote(find_deviations(game_blackjack(), range = c(1, 3))), "input", "whole counts"),
    list(quote(bets_follow(bets)), "input", "line 3: \"XX\" is no card"),
    list(quote(bets_follow(few)), "input", "There is 1 shoe")
  ))
  expect_refusals(list(
    list(quote(bets_follow(few, game = game_blackjack(packs = 1))), "conservation", "is the 2nd AS of its shoe")
  ))
})

test_that("one who counts, in the shell", {
  found <- run_words("play", "blackjack", "--counting", demo_file("level-one.yaml"), "--bets",
                     demo_file("twins-bets.csv"), "--set", "cut_after=0.75", "--trials", "300", "--seed", "5")
  expect_match(paste(found$out, collapse = " "), "<by true count> Who counts")
  expect_equal(run_words("play", "blackjack", "--bets", "1")$status, 2)
  expect_equal(run_words("play", "blackjack", "--counting", "level one balanced")$status, 2)
  expect_equal(run_words("play", "blackjack", "--counting", "level one balanced", "--set", "cut_after=0.75", "--trials",
                         "50", "--seed", "1", "--expect", "bet > 2")$status, 1)
  told <- run_words("bets-follow", demo_file("bets-by-the-door.csv"))
  expect_match(told$out[1], "The bets follow the count")
  shown <- run_words("replay", "blackjack", "--counting", "level one balanced", "--set", "cut_after=0.5", "--seed", "1",
                     "--steps", "5")
  expect_match(paste(shown$out, collapse = " "), "running true shoe")
})
