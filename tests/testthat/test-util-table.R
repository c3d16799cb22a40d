test_that("a part of a table says what it holds, and as.data.frame() is plain, in every class that is a table", {
  counter <- player_counting(bets = c("0" = 1, "1" = 2))
  shoes <- by_true_count(simulate(game_blackjack(players = counter, cut_after = 0.75), nsim = 50, seed = 1))
  tables <- list(
    shoes, bet_sizes(shoes, 400), category_odds(), showdown(list("AS KS", "QH QD")),
    vary_rules(game_war(), face_down = 0:1, nsim = 50, seed = 1), rule_effects(game_high_card()),
    vary_rules(game_high_card(), packs = 1:2, of = "edge"),
    counter_gain(game_blackjack(), counter, cut_after = c(0.5, 0.7), nsim = 20, seed = 1),
    compare_counters(game_blackjack(cut_after = 0.7), list(one = counter, two = player_counting(bets = c("0" = 1))),
                     nsim = 20, seed = 1),
    true_count_distribution(game_blackjack(), "level one balanced", dealt = 100), removal_effects(game_high_card()),
    dealer_totals(game_blackjack(packs = Inf)), mistakes(game_blackjack(packs = Inf), player_as_dealer()),
    edge_table(plain = game_high_card(), pushed = game_high_card(ties = "push")),
    convergence(simulate(draws(deck_standard(), 5, k = count(rank == "A")), 100, 1)),
    card_impact(game_war(), nsim = 100, seed = 1), mixing("riffle", times = 1:2, nsim = 200, seed = 1),
    find_deviations(game_blackjack(packs = 2), range = 0:2, nsim = 0)
  )
  for (table in tables) {
    about <- class(table)[1]
    expect_true(is.data.frame(table) && inherits(table, "habanera_table"), info = about)
    expect_identical(class(as.data.frame(table)), "data.frame", info = about)
    expect_setequal(names(attributes(as.data.frame(table))), c("names", "class", "row.names"))
    part <- table[rev(seq_len(nrow(table))), ][1, ]
    expect_equal(nrow(part), 1, info = about)
    # One row printed: its header, and itself.
    expect_identical(utils::capture.output(print(part)), utils::capture.output(print(as.data.frame(part))),
                     info = about)
    expect_identical(class(head(table, 1)), "data.frame", info = about)
    expect_identical(class(rbind(table, table)), "data.frame", info = about)
    expect_identical(table[[1]], as.data.frame(table)[[1]], info = about)
  }
  # What says nothing beyond its rows stays what it is.
  single <- trials(game_war(), 1, 1:4)
  expect_s3_class(single[2:3, ], "habanera_trials")
  expect_s3_class(rbind(single, single), "habanera_trials")
  expect_identical(class(as.data.frame(single)), "data.frame")
  plan <- deviations(data.frame(hand = c("hard 16", "hard 15"), up_card = "10", from = c(0, 4), move = "S"))
  expect_s3_class(plan[1, ], "habanera_deviations")
  expect_identical(class(plan[1:2]), "data.frame")
})
