orchard <- deck_from(demo_file("orchard.csv"))
stall <- payout(exact(draws(orchard, 3, alike = largest_group(suit))), c("3" = 8, "2" = 1))

test_that("one table holds games, prizes and results, each with its edge, and nights by hand", {
  table <- edge_table(stall = stall, game_high_card(ties = "half_back"), machine = game_narrows(),
                      rounds_per_hour = c(90, 60, 80), rounds = 3)
  expect_equal(table$table, c("stall", "High card", "machine"))
  expect_equal(table$edge[1], tidy(stall)$estimate[2], tolerance = 1e-12)
  expect_equal(table$edge[2], 3 / 102, tolerance = 1e-12)
  expect_equal(table$per_hour, table$edge * c(90, 60, 80), tolerance = 1e-12)
  # Three rounds of high card: all ways to win and lose, half a stake at a tie.
  law <- exact(game_high_card(ties = "half_back", record = "net"))
  net <- law$outcomes$net
  three <- outer(outer(net, net, "+"), net, "+")
  chance <- outer(outer(law$probability, law$probability), law$probability)
  expect_equal(table$loses_night[2], sum(chance[three > 1e-9]), tolerance = 1e-9)
  played <- edge_table(game_high_card(), simulated = simulate(game_high_card(record = "net_main"), 1000, seed = 1))
  expect_equal(played$how, c("exact", "simulated"))
  expect_output(print(played), "+/-", fixed = TRUE)
  expect_output(print(table), "Of a stake the house keeps most on stall, 5.316%", fixed = TRUE)
  expect_equal(nrow(ggplot2::layer_data(autoplot(table), 2)), 3)
})

test_that("bets of one game are side by side, and their order is kept", {
  baccarat <- game_baccarat(side_bets = list(pair = c("opening(player, largest_group(rank) == 2)" = 12)))
  table <- edge_table(baccarat, house_edge(game_high_card()))
  expect_equal(table$bet, c("banker", "player", "tie", "pair", "main"))
  expect_equal(table$largest_pay, c(0.95, 1, 8, 11, 1))
  # The tie pays whole stakes: of 300 rounds, the chance that more than 33 are tied.
  tie <- sum(exact(baccarat)$probability[exact(baccarat)$outcomes$winner == "tie"])
  expect_equal(table$loses_night[3], stats::pbinom(33, 300, tie, lower.tail = FALSE), tolerance = 1e-9)
})

test_that("tables come from files", {
  folder <- withr::local_tempdir()
  write_rules(game_high_card(ties = "push", pays = 0.9), file.path(folder, "card.yaml"))
  writeLines(c(sprintf("deck: %s", demo_file("orchard.csv")), "size: 3", "ask: alike = largest_group(suit)",
               "pays:", "  \"3\": 8", "  \"2\": 1"), file.path(folder, "stall.yaml"))
  write_result(simulate(game_high_card(record = "net_main"), 1000, seed = 1), file.path(folder, "played.csv"))
  files <- file.path(folder, c("card.yaml", "stall.yaml", "played.csv"))
  table <- edge_table(files[1], prizes = files[2], played = files[3])
  expect_equal(table$edge[2], tidy(stall)$estimate[2], tolerance = 1e-12)
  ran <- run_words("edges", files, "--rounds-per-hour", "60,90,50", "--format", "csv")
  expect_equal(ran$status, 0)
  expect_match(ran$out[1], "table")
  writeLines("deck: standard", files[2])
  expect_refusals(list(list(quote(edge_table(files[2])), "file", "it lacks `size`"),
                       list(quote(edge_table(a = game_high_card(), a = game_high_card())), "input", "Two tables"),
                       list(quote(edge_table(game_high_card(), rounds_per_hour = -1)), "input", "rounds_per_hour"),
                       list(quote(edge_table(game_war())), "input", "not played for money"),
                       list(quote(edge_table()), "input", "needs a game")))
})

test_that("prices of lines meet an edge: of prizes, and of rules that pay", {
  x <- exact(draws(orchard, 3, alike = largest_group(suit)))
  share <- tapply(x$probability, x$outcomes$alike, sum)
  found <- price_for(x, c("3" = 8, "2" = 1), edge = 0.1, lines = "3")
  # Pays are solved for to a thousandth.
  expect_lt(abs(found[["3"]][1] - (0.9 - share[["2"]]) / share[["3"]]), 1e-3)
  expect_true(all(found[["3"]][-1] == round(found[["3"]][-1])))
  whole <- price_for(x, c("3" = 8, "2" = 1), edge = 0.1, lines = c("2", "3"), whole = TRUE, stake = 2)
  expect_equal(whole$edge, 1 - (whole[["2"]] * share[["2"]] + whole[["3"]] * share[["3"]]) / 2, tolerance = 1e-12)
  tie <- price_for(game_baccarat(), edge = 0.05, lines = "tie_pays", bet = "tie", whole = FALSE)
  law <- exact(game_baccarat())
  chance <- sum(law$probability[law$outcomes$winner == "tie"])
  expect_lt(abs(tie$tie_pays[1] - (0.95 / chance - 1)), 1e-3)
  expect_refusals(list(list(quote(price_for(game_baccarat(), lines = "packs")), "input", "`lines` must name"),
                       list(quote(price_for(game_baccarat(), bet = "pair")), "input", "`bet`"),
                       list(quote(price_for(x, c("3" = 8), lines = "4")), "input", "`lines` must name"),
                       list(quote(price_for(game_war())), "input", "not played for money")))
})
