# What a house and an analyst ask of counting: cuts, bets, changes of play, records, sessions, and what is refused.

test_that("a shallower cut is a part of the same shoes", {
  counter <- seat_counting(bets = usual_bets)
  found <- counter_gain(game_blackjack(packs = 2), counter, cut_after = c(0.4, 0.6, 0.8), most_bet = c(4, 8),
                        nsim = 400, seed = 2, seconds_per_round = 60, seconds_per_shuffle = 100)
  for (cut in c(0.4, 0.8)) {
    held <- seat_counting(bets = pmin(usual_bets, 4))
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
  counted <- game_blackjack(players = seat_counting(bets = usual_bets), cut_after = 0.8)
  run <- by_true_count(simulate(counted, nsim = 2000, seed = 7))
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
  tags <- level_one_tags(kinds_of(deck)$cards)
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
  worked <- able(game, "counts")$cells(change_game(game, list(players = player_basic()), NULL), NULL)
  shoes <- shoes_by_count(game, check_system("level one balanced", NULL), 52, -5:5, NULL)
  for (i in 1:6) {
    row <- which(worked$cells$hand == found$hand[i] & worked$cells$up_card == found$up_card[i])
    gained <- vapply(seq_along(shoes$counts), function(at) {
      worth <- worked$worth(row, shoes$left[, at], "split"[startsWith(found$hand[i], "pair")])
      move <- entry_move(found$move[i], names(worth))
      worth[[move]] - worth[[entry_move(found$instead_of[i], names(worth))]]
    }, 0)
    holds <- if (is.na(found$from[i])) shoes$counts < found$below[i] else shoes$counts >= found$from[i]
    expect_true(all(gained[holds] > 0))
    edge <- if (is.na(found$from[i])) min(which(!holds)) else max(which(!holds))
    expect_lte(gained[edge], 0)
  }
  # All changes together are worth what the edges of the two tables differ by, shoe by shoe and count by count.
  plan <- deviations(found)
  edge <- function(player, left) {
    seat <- core_customer(player, game$rules, 1:10, NULL)
    sum(core_blackjack_edge(game$spec$rules, replace(solved_shoe(game), "counts", list(left)), seat, FALSE)$net)
  }
  apart <- vapply(seq_along(shoes$counts), function(at) {
    edge(deviating(player_basic(), plan, shoes$counts[at]), shoes$left[, at]) - edge(player_basic(), shoes$left[, at])
  }, 0)
  expect_equal(sum(found$gain), 100 * sum(shoes$chance * apart), tolerance = 1e-9)
  # Of shoes of one round, what a fork brings is what playing on that way brings.
  one <- game_blackjack(packs = 2, most_hands = 1, cut_after = 1)
  change <- data.frame(hand = "hard 16", up_card = "10", from = -2, below = NA, move = "S")
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

test_that("changes begin at the counts at which the moves change places, card by card in plain R", {
  game <- game_blackjack(packs = 2, surrender = "none")
  found <- find_deviations(game, range = -5:5, nsim = 0)
  shoes <- shoes_by_count(game, check_system("level one balanced", NULL), 52, -5:5, NULL)
  values <- game$spec$rules$points
  stands_better <- function(total, up, count) {
    left <- shoes$left[, shoes$counts == count]
    unseen <- plain_hit_or_stand(vapply(1:10, function(value) sum(left[values == value]), 0), up)
    by_value <- vapply(1:10, function(value) sum(left[values == value]), 0)
    unseen$stand(total, FALSE, by_value) > unseen$hit(total, FALSE, by_value)
  }
  for (cell in list(c(16, 10), c(15, 10), c(12, 3))) {
    from <- found$from[found$hand == paste("hard", cell[1]) & found$up_card == cell[2]]
    expect_true(stands_better(cell[1], cell[2], from))
    expect_false(stands_better(cell[1], cell[2], from - 1))
  }
})

test_that("at each cut a counter gains, loses or is open by the whole interval, in words, figure and caption", {
  counter <- seat_counting(bets = c("0" = 1, "1" = 4, "2" = 12))
  game <- game_blackjack()
  found <- counter_gain(game, counter, cut_after = c(0.3, 0.75), packs = c(1, 6), nsim = 3000, seed = 1)
  expect_equal(found$verdict, ifelse(found$conf.low > 0, "gains", ifelse(found$conf.high < 0, "loses", "open")))
  expect_true(all(c("gains", "open") %in% found$verdict))
  deep <- found[found$packs == 1 & found$cut_after == 0.75, ]
  expect_equal(deep$verdict, "gains")
  expect_output(print(found), "who counts gains after")
  figure <- autoplot(found)
  expect_no_match(figure$labels$caption, "312")
  expect_match(figure$labels$caption, "packs of a standard deck of 52")
  shapes <- ggplot2::layer_data(figure, 4)$shape
  expect_equal(sort(shapes), sort(unname(c(gains = 19, open = 1, loses = 4)[found$verdict])))
  few <- counter_gain(game, counter, cut_after = c(0.4, 0.8), nsim = 4, seed = 1)
  expect_true(all(is.na(few$conf.low)) && all(few$verdict == "open"))
  expect_output(print(few), "may gain\\s+or lose, at every cut tried")
})

test_that("bets that wander are said to follow the count as often as the level says", {
  tags <- rep(c(-1, 1, 1, 1, 1, 1, 0, 0, 0, -1, -1, -1, -1), 24)
  set.seed(3)
  counts_of_shoe <- function(shoe) {
    starts <- cumsum(c(0, 5 + rpois(45, 0.4)))
    starts <- starts[starts < 234]
    trunc(c(0, cumsum(sample(tags)))[starts + 1] / ((312 - starts) / 52))
  }
  for (shoes in c(8, 12, 25)) {
    p <- replicate(500, {
      counts <- lapply(seq_len(shoes), counts_of_shoe)
      bets <- 20 + cumsum(rnorm(length(unlist(counts))))
      rise_of(bets, unlist(counts), rep(seq_len(shoes), lengths(counts)))$p.value
    })
    expect_lt(mean(p < 0.05), 0.05 + standard_errors * sqrt(0.05 * 0.95 / 500))
  }
  # The slope and its error, shoe by shoe left out, by the regression that R has.
  counts <- lapply(1:7, counts_of_shoe)
  shoe <- rep(1:7, lengths(counts))
  counts <- unlist(counts)
  bets <- round(20 + 2 * counts + rnorm(length(counts), 0, 5))
  found <- rise_of(bets, counts, shoe)
  slope <- function(rows) unname(coef(lm(bets[rows] ~ counts[rows]))[2])
  without <- vapply(1:7, function(one) slope(shoe != one), 0)
  expect_equal(found$estimate, slope(TRUE), tolerance = 1e-9)
  expect_equal(found$std.error, sqrt(6 / 7 * sum((without - mean(without))^2)), tolerance = 1e-9)
})

test_that("what a count is worth for play is made of what can be seen: spreads, correlations, means above nothing", {
  above <- function(deficit, spread) {
    integrate(function(x) (x - deficit) * dnorm(x, 0, spread), deficit, deficit + 40 * spread, rel.tol = 1e-10)$value
  }
  for (deficit in c(0.1, 1, 2)) expect_equal(expected_excess(deficit, 0.7), above(deficit, 0.7), tolerance = 1e-7)
  game <- change_game(game_blackjack(packs = 1), list(players = player_basic()), NULL)
  kinds <- kinds_of(game$deck)
  cells <- play_effects(game, NULL)
  # A missing card changes what moves are worth by as much as two solved shoes differ.
  lacking <- able(game, "counts")$cells(game, NULL)$expected(replace(kinds$copies, 1, kinds$copies[1] - 1))
  full <- able(game, "counts")$cells(game, NULL)$expected(kinds$copies)
  worth <- function(table, move) {
    table$expected[table$hand == "hard 16" & table$up_card == "10" & table$move == move]
  }
  change <- worth(lacking, "stand") - worth(lacking, "hit") - worth(full, "stand") + worth(full, "hit")
  expect_lt(min(abs(abs(cells$effects[, 1]) - abs(change))), 1e-12)
  # The spread of the mean of what is left of half a pack, beside packs that are dealt.
  effects <- cells$effects[which.min(abs(abs(cells$effects[, 1]) - abs(change))), ]
  effects <- effects - sum(kinds$copies * effects) / 52
  cards <- rep(effects, kinds$copies)
  set.seed(3)
  drawn <- replicate(4000, 51 / 26 * sum(sample(cards, 26)))
  spread <- 51 / 26 * sqrt(26 * 26 / 51) * sqrt(mean(cards^2))
  # The standard error of a standard deviation of near normal values.
  expect_lt(abs(sd(drawn) / spread - 1), standard_errors / sqrt(2 * 4000))
  share <- function(tags) play_correlation(counting_system(tags), game, NULL)
  plain <- counting_system("level one balanced")$tags
  expect_equal(share(2 * plain), share(plain), tolerance = 1e-12)
  expect_equal(share(-plain), share(plain), tolerance = 1e-12)
  expect_true(share(plain) > 0 && share(plain) < 1)
})

test_that("bets that follow the count are told from those that do not", {
  honest <- bets_follow(game_blackjack(), demo_file("bets-at-the-window.csv"))
  twin <- bets_follow(game_blackjack(), demo_file("bets-by-the-door.csv"), counting_system(demo_file("level-one.yaml")))
  expect_gt(tidy(honest)$p.value, 0.05)
  expect_lt(tidy(twin)$p.value, 0.001)
  expect_output(print(honest), "Nothing shows that the bets follow the count")
  expect_output(print(twin), "The bets follow the count: they rise by")
  # Errors by shoe, by hand.
  rows <- as.data.frame(twin)
  slope <- cov(rows$bet, rows$true_count) / var(rows$true_count)
  expect_equal(tidy(twin)$estimate, slope)
  without <- vapply(unique(rows$shoe), function(shoe) {
    with(rows[rows$shoe != shoe, ], cov(bet, true_count) / var(true_count))
  }, 0)
  expect_equal(tidy(twin)$std.error, sqrt(23 / 24 * sum((without - mean(without))^2)))
  # Bets that stay as they are for a while, beside counts that wander: as often seen as is promised.
  set.seed(11)
  alarms <- replicate(400, {
    shoe <- rep(1:30, each = 20)
    walk <- function() unlist(lapply(1:30, function(i) cumsum(rnorm(20))))
    found <- rise_of(walk(), walk(), shoe)
    found$p.value < 0.05
  })
  expect_lt(abs(mean(alarms) - 0.05), standard_errors * sqrt(0.05 * 0.95 / 400))
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
  uneven <- withr::local_tempfile(fileext = ".csv", lines = c("shoe,bet,cards", "1,2,AS KD,5"))
  few <- withr::local_tempfile(fileext = ".csv", lines = c("shoe,bet,cards", "1,2,AS KD", "1,3,AS 4D"))
  expect_refusals(list(
    list(quote(bet_ramp(c("0" = 1, "2" = 3))), "input", "`bets` has a hole: 2 follows 0"),
    list(quote(bet_ramp(c("0" = 1.5))), "input", "whole stakes"),
    list(quote(bet_ramp(c("0" = 1), limits = c(5, 2))), "input", "`limits` cross"),
    list(quote(bet_ramp(bad)), "file", "line 3, column `bet`"),
    list(quote(player_counting(bets = c("40" = 1))), "input", "counts from -15 to 15"),
    list(quote(player_counting(player_as_dealer(), deviations = "h16_10_0__S")), "input", "must be one"),
    list(quote(player_counting(insurance_at = 1.5)), "input", "whole count"),
    list(quote(deviations(data.frame(hand = "hard 50", up_card = 1, from = 0, move = "S"))), "input",
         "a cell is such"),
    list(quote(deviations(data.frame(hand = "hard 16", up_card = 9, from = 0, move = "run"))), "input", "no move"),
    list(quote(deviations(data.frame(hand = "hard 16", up_card = 9, from = 3, below = 1, move = "S"))), "input",
         "counts between them"),
    list(quote(deviations(data.frame(hand = "hard 16", up_card = 9, from = 0:1, move = "S"))), "input", "overlaps"),
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
    list(quote(bets_follow(game_blackjack(), data.frame(shoe = rep(1:6, 2), bet = 1, cards = "ASKD"))), "input",
         "row 1: \"ASKD\" is no card of the shoe"),
    list(quote(bets_follow(game_blackjack(), bets)), "input", "line 3: \"XX\" is no card"),
    list(quote(bets_follow(game_blackjack(), few)), "input", "There is 1 shoe"),
    list(quote(bets_follow(game_blackjack(), uneven)), "file", "line 2: it has not the 3 fields of the heading")
  ))
  expect_refusals(list(
    list(quote(bets_follow(game_blackjack(packs = 1), few)), "conservation", "is the 2nd AS of its shoe")
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
