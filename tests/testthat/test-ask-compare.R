test_that("two games on the same deals are counted trial by trial", {
  one <- game_war(cards_each = 8)
  two <- game_war(cards_each = 8, face_down = 1)
  pair <- compare(one, two, nsim = 500, seed = 4)
  a <- trials(one, 4, 1:500)
  b <- trials(two, 4, 1:500)
  table <- as.data.frame(pair)
  differences <- table[table$part == "difference", ]
  expect_equal(rep(differences$value, differences$n), sort(b$rounds - a$rounds))
  both <- table[table$column == "winner", ]
  expect_equal(both$n, as.vector(t(table(a$winner, b$winner)))[as.vector(t(table(a$winner, b$winner))) > 0])
  tidied <- tidy(pair)
  rounds <- tidied[tidied$term == "rounds", ]
  expect_equal(rounds$estimate, mean(b$rounds - a$rounds))
  expect_equal(rounds$std.error, sd(b$rounds - a$rounds) / sqrt(500))
  expect_equal(rounds$saving, (var(a$rounds) + var(b$rounds)) / var(b$rounds - a$rounds))
  wins <- tidied[tidied$term == "winner=1", ]
  expect_equal(wins$estimate, mean(b$winner == "1") - mean(a$winner == "1"))
  expect_equal(wins$std.error, sd((b$winner == "1") - (a$winner == "1")) / sqrt(500))
  expect_output(print(pair), "two separate runs")
  paired <- pair$provenance$experiment
  halves <- c(simulate(paired, 200, 4), simulate(paired, 300, 4, first_trial = 201))
  expect_equal(tidy(halves), tidied)
  file <- tempfile(fileext = ".json")
  write_result(pair, file)
  expect_equal(tidy(read_result(file)), tidied)
})

test_that("a game against itself differs in nothing", {
  same <- tidy(compare(game_war(cards_each = 5), game_war(cards_each = 5), nsim = 200, seed = 1))
  expect_equal(same$estimate, rep(0, nrow(same)))
  expect_true(all(is.na(same$saving)))
})

test_that("games that cannot be compared are refused", {
  expect_error(compare(game_war(), game_war(seats = 3)), "2 and 3 seats", class = "habanera_error_input")
  expect_error(compare(game_war(record = "rounds"), game_war(record = "ties")), "nothing in common",
               class = "habanera_error_input")
  expect_error(compare(game_war(), 3), "must be a game", class = "habanera_error_input")
})

test_that("varied rules are the same games on the same deals", {
  game <- game_war(cards_each = 6)
  varied <- vary_rules(game, face_down = 0:1, tie = c("war", "nothing")[1], nsim = 300, seed = 2)
  each <- tidy(simulate(change_rules(game, face_down = 1), nsim = 300, seed = 2))
  rows <- varied[varied$face_down == 1, ]
  expect_equal(rows$estimate, each$estimate)
  expect_equal(rows$conf.high, each$conf.high)
  expect_equal(unique(varied$face_down), c(0, 1))
  expect_output(print(varied), "all on the same deals, seed 2")
  lists <- vary_rules(game_war(), cards_each = list(5, NULL), nsim = 50, seed = 1)
  expect_equal(unique(lists$cards_each), c("5", "all"))
  expect_error(vary_rules(game, face_dwn = 0:1), "did you mean \"face_down\"", class = "habanera_error_rules")
  expect_error(vary_rules(game, face_down = c(0, -1)), "With face_down = -1", class = "habanera_error_rules")
  expect_error(vary_rules(game), "Name a rule", class = "habanera_error_input")
  expect_error(vary_rules(game, face_down = 0:40, max_rounds = 1:500), "20,500 combinations",
               class = "habanera_error_work")
})

test_that("figures of varied rules turn rounds into minutes", {
  varied <- vary_rules(game_war(cards_each = 6), face_down = 0:2, deal_pattern = c("alternate", "block"), nsim = 200,
                       seed = 2)
  figure <- autoplot(varied, seconds_per_round = 6, within = 15)
  points <- ggplot2::layer_data(figure, 5)
  p90 <- varied$estimate[varied$term == "rounds_p90"]
  expect_setequal(round(points$y, 6), round(p90 * 6 / 60, 6))
  expect_equal(figure$labels$y, "minutes, at 6 seconds a round")
  share <- autoplot(varied, outcome = "ended=short_of_cards")
  expect_setequal(ggplot2::layer_data(share, 3)$y, varied$estimate[varied$term == "ended=short_of_cards"])
  expect_error(autoplot(varied, outcome = "round_p90"), "`outcome` must be", class = "habanera_error_input")
  expect_error(autoplot(varied, within = 15), "goes with `seconds_per_round`", class = "habanera_error_input")
})

test_that("a card's worth is the slope of least squares over single trials", {
  game <- game_war(cards_each = 4, deck = deck_standard(ranks = c("J", "Q", "K", "A")))
  worth <- card_impact(game, "rank", nsim = 400, seed = 3)
  rows <- trials(game, 3, 1:400)
  dealt <- lapply(1:400, function(trial) piles_at(replay(game, 3, trial), step = 1)[["1"]])
  held <- vapply(dealt, function(pile) sum(card_attributes(pile)$rank == "A"), 0)
  won <- as.numeric(rows$winner == "1")
  fit <- lm(won ~ held)
  aces <- worth[worth$value == "A", ]
  expect_equal(aces$estimate, unname(coef(fit)[2]))
  expect_equal(aces$held, mean(held))
  centred <- held - mean(held)
  expect_equal(aces$std.error, sqrt(sum(centred^2 * residuals(fit)^2)) / sum(centred^2))
  # Of a single card the slope is the difference between holding it and not.
  cards <- card_impact(game, "card", "rounds", nsim = 400, seed = 3)
  has <- vapply(dealt, function(pile) "AS" %in% as.character(pile), NA)
  expect_equal(cards$estimate[cards$value == "AS"], mean(rows$rounds[has]) - mean(rows$rounds[!has]))
  expect_output(print(worth), "changes the chance that seat 1 wins")
  expect_s3_class(autoplot(worth), "ggplot")
  expect_error(card_impact(game, "colour"), "`attribute` must be", class = "habanera_error_input")
  expect_error(card_impact(game, outcome = "winner"), "`outcome` must be", class = "habanera_error_input")
})

test_that("differences that are rarely seen say how rarely, and no more", {
  game <- game_blackjack()
  same <- compare(game, change_rules(game, cards_that_win = 7), nsim = 1e4, seed = 3)
  rows <- tidy(same)
  expect_equal(rows$differed, rep(0, nrow(rows)))
  expect_equal(rows$differed.high, rep(none_seen_bound(1e4), nrow(rows)), tolerance = 1e-9)
  # What the two games can be apart: eight stakes and the insurance lost, or eight won and it.
  net <- rows[rows$term == "net", ]
  expect_equal(net$conf.high, 17.5 * none_seen_bound(1e4), tolerance = 1e-9)
  expect_true(net$conf.low < 8.3e-5 && 8.3e-5 < net$conf.high)
  expect_true(is.na(rows$conf.low[rows$term == "staked"]))
  z <- qnorm(0.975)
  expect_equal(rows$conf.high[rows$term == "result=win"], z^2 / (1e4 + z^2), tolerance = 1e-6)
  expect_match(first_answer(same)[1], "the same in every deal \\(at most 0.0369% differ, 95%\\)")
  few <- compare(game, change_rules(game, cards_that_win = 6), nsim = 3000, seed = 3)
  row <- tidy(few)[1, ]
  deals <- trials(game, 3, 1:3000)$net != trials(change_rules(game, cards_that_win = 6), 3, 1:3000)$net
  expect_equal(row$differed, mean(deals))
  expect_equal(c(row$differed.low, row$differed.high), as.numeric(binom.test(sum(deals), 3000)$conf.int),
               tolerance = 1e-9)
  expect_match(first_answer(few)[1], sprintf("only %d deals differed", sum(deals)))
  varied <- vary_rules(game, cards_that_win = list(NULL, 6), nsim = 3000, seed = 3)
  expect_output(print(varied), sprintf("\\(in %d deals\\)", sum(deals)))
  expect_equal(varied$difference.high[varied$cards_that_win == "6" & varied$term == "net"], row$conf.high)
  # A share of the win is bounded by all of it.
  pairs <- game_pairs(pairs = 3, record = "score_1")
  one <- tidy(compare(pairs, pairs, nsim = 50, seed = 1))
  expect_equal(c(one$conf.low, one$conf.high), c(-1, 1) * none_seen_bound(50), tolerance = 1e-9)
  expect_true(all(is.na(tidy(compare(game_war(record = "rounds"), game_war(record = "rounds"), nsim = 50,
                                     seed = 1))$conf.low)))
})

test_that("other kinds are refused, and of other decks it is said that deals are not matched", {
  expect_error(compare(game_blackjack(), game_high_card()), "two kinds, Blackjack and High card",
               class = "habanera_error_input")
  apart <- compare(game_blackjack(packs = 1), game_blackjack(packs = 6), nsim = 100, seed = 1)
  expect_match(capture.output(print(apart))[1], "deals are not matched")
  expect_match(in_words(apart$provenance$experiment), "trial by trial")
  expect_output(print(vary_rules(game_blackjack(), packs = c(1, 6), nsim = 50, seed = 1)), "deals are not matched")
  single <- compare(game_war(), game_war(face_down = 1), nsim = 1, seed = 1)
  expect_match(first_answer(single)[1], "too few to tell")
  alone <- simulate(draws(deck_standard(), 5, k = count(rank == "A")), 1, seed = 1)
  expect_output(print(alone), "Too few trials to tell whether they agree")
  whole <- draws(deck_standard(), 26)
  expect_true(is.na(compare(simulate(whole, 1, seed = 1), exact(whole))$agree))
})

test_that("the same seed gives the same result, to the last bit, as an object and as a file", {
  for (experiment in list(game_war(), game_high_card(cut_after = 30), draws(deck_standard(), 5),
                          draws(deck_standard(), 5, aces = count(rank == "A")))) {
    one <- simulate(experiment, nsim = 200, seed = 4)
    expect_identical(simulate(experiment, nsim = 200, seed = 4), one)
    files <- replicate(2, withr::local_tempfile(fileext = ".json", .local_envir = parent.frame(3)))
    for (file in files) write_result(simulate(experiment, nsim = 200, seed = 4), file)
    expect_identical(readLines(files[1]), readLines(files[2]))
    expect_false(any(grepl("seconds", readLines(files[1]))))
  }
  expect_identical(exact(game_high_card(packs = 1)), exact(game_high_card(packs = 1)))
  expect_false("seconds" %in% names(provenance(one)))
})
