# The law of the bets of one round, in plain R: every order of the cards, from the rules alone. `cards` is a data frame
# with `rank` and `colour`.
law_by_hand <- function(cards, ties, pays = 1, colour_pays = 1) {
  orders <- as.matrix(expand.grid(rep(list(seq_len(nrow(cards))), nrow(cards))))
  orders <- orders[apply(orders, 1, anyDuplicated) == 0, , drop = FALSE]
  nets <- apply(orders, 1, function(order) {
    ranks <- cards$rank[order]
    colour <- if (cards$colour[order[1]] == "red") colour_pays else -1
    for (at in seq(1, length(ranks) - 1, by = 2)) {
      if (ranks[at] != ranks[at + 1] || ties != "again") break
    }
    main <- if (ranks[at] > ranks[at + 1]) pays else if (ranks[at] < ranks[at + 1]) -1 else {
      switch(ties, bank = -1, half_back = -0.5, push = 0, again = 0)
    }
    paste(main, colour)
  })
  table(nets) / length(nets)
}

small <- data.frame(card = c("r1", "b1", "r2", "b2", "r3", "b4"), rank = c(1, 1, 2, 2, 3, 4),
                    colour = c("red", "black"))

test_that("the law of a round is that of every order of the cards", {
  deck <- deck_from(small)
  for (ties in c("bank", "half_back", "push", "again")) {
    law <- exact(game_high_card(deck = deck, rank_by = "rank", ties = ties, pays = "3:2",
                                colour_bet = "colour == \"red\"", colour_pays = 0.9,
                                record = c("net_main", "net_colour")))
    by_hand <- law_by_hand(small, ties, 1.5, 0.9)
    expect_equal(length(by_hand), nrow(law$outcomes))
    found <- law$probability[match(names(by_hand), paste(law$outcomes$net_main, law$outcomes$net_colour))]
    expect_equal(found, as.vector(by_hand), tolerance = 1e-12)
  }
})

test_that("the edge of a standard pack is what its ties cost", {
  edge <- function(...) tidy(house_edge(game_high_card(...)))
  expect_equal(edge()$estimate, 3 / 51, tolerance = 1e-12)
  expect_equal(edge(packs = 6)$estimate, 23 / 311, tolerance = 1e-12)
  expect_equal(edge(ties = "half_back")$estimate, 3 / 102, tolerance = 1e-12)
  expect_equal(edge(ties = "push")$estimate, 0, tolerance = 1e-12)
  # Ties decided by the next cards leave even chances, but for shoes of ties alone.
  expect_equal(edge(ties = "again", pays = 0.95, packs = 8)$estimate, 0.025, tolerance = 1e-9)
  bets <- edge(suit_bet = "suit == \"hearts\"", suit_pays = 2.5, dead = "AH KH")
  expect_equal(bets$term, c("main", "suit"))
  expect_equal(bets$estimate[2], 1 - 3.5 * 11 / 50, tolerance = 1e-12)
  expect_equal(bets$win_share[2], 11 / 50, tolerance = 1e-12)
  expect_equal(bets$std.error, c(0, 0))
  expect_output(print(house_edge(game_high_card())), "the house keeps 5.882% = 1/17 of every stake")
})

test_that("simulated rounds agree with the exact law, and so do rounds from one shoe", {
  single <- game_high_card(ties = "half_back", pays = 1.2)
  law <- exact(single)
  counts <- tidy(simulate(single, 1e5, seed = 3))
  exactly <- sum(law$outcomes$net * law$probability)
  expect_lt(abs(counts$estimate[1] - exactly), standard_errors * counts$std.error[1])

  shoe <- game_high_card(deck = deck_from(small), rank_by = "rank", packs = 3, ties = "again", cut_after = 9,
                         colour_bet = "colour == \"red\"", record = c("net_main", "net_colour", "result"))
  law <- exact(shoe)
  found <- tidy(simulate(shoe, 2e4, seed = 5))
  rounds <- sum(law$probability)
  share <- function(values) sum(values * law$probability) / rounds
  expected <- c(net_main = share(law$outcomes$net_main), net_colour = share(law$outcomes$net_colour),
                `result=win` = share(law$outcomes$result == "win"),
                `result=push` = share(law$outcomes$result == "push"))
  rows <- found[match(names(expected), found$term), ]
  expect_true(all(abs(rows$estimate - expected) < standard_errors * rows$std.error))
})

test_that("errors of rounds that hang together are by shoe, and intervals cover as they say", {
  # Of four cards, two of them red, two rounds are dealt: their first cards have a correlation of -1/3, so that errors
  # are sqrt(2/3) of those of independent rounds.
  deck <- deck_from(data.frame(card = c("a", "b", "c", "d"), rank = 1:4, colour = c("red", "red", "black", "black")))
  game <- game_high_card(deck = deck, rank_by = "rank", cut_after = 4, colour_bet = "colour == \"red\"",
                         record = "net_colour")
  runs <- 400
  shoes <- 50
  found <- do.call(rbind, lapply(seq_len(runs), function(run) {
    tidy(simulate(game, shoes, seed = 8, first_trial = 1 + (run - 1) * shoes, threads = 1))[1, ]
  }))
  covered <- mean(found$conf.low <= 0 & found$conf.high >= 0)
  # Normal intervals from 50 shoes cover 94.4% (by the t distribution of 49 degrees of freedom).
  nominal <- 2 * pt(qnorm(0.975), shoes - 1) - 1
  expect_lt(abs(covered - nominal), standard_errors * sqrt(nominal * (1 - nominal) / runs))
  # The scatter of the estimates is what their errors say; a sample deviation of 400 has a relative error of
  # 1/sqrt(800).
  ratio <- mean(found$std.error) / sd(found$estimate)
  expect_lt(abs(ratio - 1), standard_errors / sqrt(2 * runs))
  # A shoe's sum has the kurtosis of a normal law, 3, so that the error from n shoes has a relative deviation of
  # 1/sqrt(2(n - 1)), and is too small by 1/(4n).
  off <- standard_errors / sqrt(2 * (shoes - 1) * runs) + 1 / (4 * shoes)
  expect_lt(abs(mean(found$std.error) / sqrt(2 / 3 / (2 * shoes)) - 1), off)
})

test_that("rounds add up whatever the laps, threads and files", {
  game <- game_high_card(cut_after = 0.75, packs = 2)
  whole <- simulate(game, 3000, seed = 2, threads = 2)
  parts <- c(simulate(game, 1000, seed = 2, threads = 1), simulate(game, 2000, seed = 2, first_trial = 1001))
  expect_identical(parts$sums, whole$sums)
  expect_identical(tidy(parts), tidy(whole))
  for (extension in c(".json", ".csv")) {
    file <- withr::local_tempfile(fileext = extension)
    write_result(whole, file)
    expect_identical(tidy(read_result(file)), tidy(whole))
  }
  kept <- withr::local_tempfile()
  simulate(game, 1000, seed = 2, checkpoint = kept)
  expect_identical(tidy(simulate(game, 3000, seed = 2, checkpoint = kept)), tidy(whole))
  # The rows of single trials add up to the same.
  rows <- trials(game, 2, 1:3000)
  expect_equal(nrow(rows), sum(whole$n))
  expect_equal(mean(rows$net), tidy(whole)$estimate[1], tolerance = 1e-12)
  by_shoe <- rowsum(cbind(rows$net, 1), rows$trial)
  deviation <- by_shoe[, 1] - tidy(whole)$estimate[1] * by_shoe[, 2]
  error <- sqrt(3000 / 2999 * sum(deviation^2)) / sum(by_shoe[, 2])
  expect_equal(tidy(whole)$std.error[1], error, tolerance = 1e-12)
  expect_equal(tidy(payout(whole, net + 1))$std.error[2], error, tolerance = 1e-12)
  expect_equal(tidy(payout(whole, c(win = 2)))$std.error[2], 2 * tidy(whole)$std.error[3], tolerance = 1e-12)
  expect_true(is.na(tidy(summary(whole, given = net > 0))$std.error[1]))
  settled <- convergence(whole, "net")
  expect_equal(unlist(settled[nrow(settled), c("conf.low", "conf.high")], use.names = FALSE),
               unlist(tidy(whole)[1, c("conf.low", "conf.high")], use.names = FALSE))
})

test_that("two houses are compared on the same shoes, whatever their units of money", {
  bank <- game_high_card(cut_after = 20)
  half <- game_high_card(cut_after = 20, ties = "half_back")
  shoes <- compare(bank, half, nsim = 4000, seed = 1)
  rows <- lapply(list(bank, half), trials, seed = 1, trials = 1:4000)
  expect_equal(tidy(shoes)$estimate[1], mean(rows[[2]]$net) - mean(rows[[1]]$net), tolerance = 1e-12)
  # Both deal the same rounds, so that the difference has the error of the mean difference by shoe.
  difference <- rowsum(rows[[2]]$net - rows[[1]]$net, rows[[1]]$trial)
  each <- table(rows[[1]]$trial)
  deviation <- difference - tidy(shoes)$estimate[1] * as.vector(each)
  expect_equal(tidy(shoes)$std.error[1], sqrt(4000 / 3999 * sum(deviation^2)) / sum(each), tolerance = 1e-9)
  single <- tidy(compare(game_high_card(), game_high_card(ties = "half_back"), nsim = 1e4, seed = 1))
  expect_lt(abs(single$estimate[1] - 3 / 102), standard_errors * single$std.error[1])
  # The two houses differ by half a stake where there is a tie, and by nothing else.
  ties <- trials(game_high_card(record = "ties"), 1, 1:1e4)$ties
  expect_equal(single$estimate[1], mean(ties) / 2, tolerance = 1e-12)
  varied <- vary_rules(bank, ties = c("bank", "half_back"), nsim = 500, seed = 1)
  expect_equal(is.na(varied$difference[varied$term == "net"]), c(TRUE, FALSE))
  expect_output(print(varied), "smallest with ties = bank")
})

test_that("a shoe is called round by round", {
  called <- replay(game_high_card(cut_after = 8), seed = 3, trial = 1)
  expect_equal(max(called$round), 4)
  outcome <- attr(called, "outcome")
  expect_equal(nrow(outcome), 4)
  expect_equal(outcome$net, trials(game_high_card(cut_after = 8), 3, 1)$net)
  printed <- capture.output(print(called))
  expect_match(printed, "seat 1 draws", all = FALSE)
  expect_match(printed, "4 rounds, the player is (even|up|down)", all = FALSE)
})

test_that("a house that cannot be is refused", {
  expect_refusals(list(
    list(quote(game_high_card(cut_after = 60)), "rules", "the shoe has 52 cards; say a share of it"),
    list(quote(game_high_card(cut_after = 3, burn = 3)), "rules", "no round would begin"),
    list(quote(game_high_card(cut_after = 2.5)), "input", "`cut_after` must be a whole number of cards"),
    list(quote(game_high_card(burn = 51)), "rules", "has no round"),
    list(quote(game_high_card(dead = "AS AS")), "conservation", "\"AS\""),
    list(quote(game_high_card(dead = 7)), "input", "`dead` must be cards"),
    list(quote(game_high_card(dead = "1S")), "notation", "1S"),
    list(quote(game_high_card(rank_by = "suit")), "rules", "`rank_by` must name an attribute"),
    list(quote(game_high_card(suit_bet = "suit == \"cups\"")), "rules", "holds for no card"),
    list(quote(game_high_card(ties = "seat")), "input", "`ties` must be \"bank\""),
    list(quote(game_high_card(pays = -1)), "input", "`pays` must be a number or a fraction"),
    list(quote(game_high_card(pays = pi)), "rules", "must be a fraction in which money can be paid"),
    list(quote(game_high_card(pays = 1 + 1 / 1999, suit_pays = 1 + 1 / 2003)), "rules", "a millionth of a stake"),
    list(quote(game_high_card(suit_bet = 3)), "input", "`suit_bet` must be one piece of text"),
    list(quote(house_edge(game_high_card(), nsim = 0)), "input", "`nsim` must be a whole number"),
    list(quote(house_edge(game_pairs())), "input", "not played for money"),
    list(quote(house_edge(game_high_card(), player = "random")), "input", "flat or counting"),
    list(quote(payout(simulate(game_high_card(), 10, seed = 1), net)), "input", "0 or more")
  ))
})

test_that("a house's rules, figures and pages are whole, of single rounds and of shoes", {
  expect_equal(names(rules(game_high_card())), games("high_card")$rule)
  for (x in list(exact(game_high_card()), simulate(game_high_card(cut_after = 0.5, pays = "3:2"), 200, seed = 1))) {
    page <- withr::local_tempfile(fileext = ".html")
    report(x, page)
    expect_false(any(grepl("NA to NA|>NA<", readLines(page))))
    expect_equal(nrow(ggplot2::layer_data(autoplot(x), 1)), 4)
  }
  # Of shoes only the shares of categories have intervals, by shoe.
  values <- as.data.frame(summary(x))
  known <- values$column == "result"
  expect_false(anyNA(values$conf.low[known]))
  expect_true(all(is.na(values$conf.low[!known])))
  found <- tidy(x)
  expect_equal(values$conf.low[values$value == "win"], found$conf.low[found$term == "result=win"])
  file <- withr::local_tempfile(fileext = ".yaml")
  write_rules(game_high_card(cut_after = 0.75, packs = 2, dead = as_cards("AS AH")), file)
  expect_equal(rules(game("high_card", rules = file))$dead, "AS AH")
})
