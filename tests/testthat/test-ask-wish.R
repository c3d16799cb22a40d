endless <- function(...) {
  vary_rules(game_war(record = "rounds"), face_down = 0:1, collect = c("winner_first", "seat_order"), ..., nsim = 300,
             seed = 1)
}

test_that("a game without an end is longer than any, in a wish of quantiles and of means", {
  found <- endless(want = "rounds_p90 <= 200")
  # Of 300 games in the order of the seats about three in a hundred ended, and these soon.
  few <- found[found$face_down == 0 & found$collect == "seat_order", ]
  expect_lt(few$share_ended[1], 0.1)
  expect_lt(few$estimate[few$term == "rounds_p90"], 200)
  expect_equal(unique(few$meets), "no")
  some <- found[found$face_down == 1 & found$collect == "seat_order", ]
  expect_equal(unique(endless(want = "rounds_p50 <= 1e5")$meets[found$share_ended < 0.1]), "no")
  # A mean is never surely small while more games than one in a thousand may have no end, as 0 of 300 leave it open.
  means <- endless(want = "rounds <= 1e6")
  expect_equal(unique(means$meets), "open")
  expect_lt(exact_interval(0, 4000)$high, 0.001)
  all_end <- vary_rules(game_war(cards_each = 4, record = "rounds"), face_down = 3, nsim = 4000, seed = 1,
                        want = "rounds <= 1e6")
  expect_equal(all_end$share_ended[1], 1)
  expect_equal(unique(all_end$meets), "yes")
  # As many as the wish allows, whether or not it is recorded how games ended.
  allowed <- endless(want = "rounds <= 1e6 & ended_never_ends <= 0.9")
  expect_equal(unique(allowed$meets[allowed$share_ended > 0.5]), "yes")
  # Where a fifth or more surely never end a tenth is too little; nine tenths leave it open, most of the rest being
  # stopped.
  expect_equal(unique(allowed$meets[allowed$share_ended < 0.1]), "open")
  refused <- endless(want = "rounds <= 1e6 & ended_never_ends <= 0.1")
  expect_equal(unique(refused$meets[refused$share_ended < 0.1]), "no")
  expect_false(any(grepl("ended", allowed$term)))
  expect_equal(upper_limits("a", quote(b < 3 & (0.2 >= a | a <= 0.5))), c(0.2, 0.5))
})

test_that("rows whose games did not all end say so, are not headlined, and are hollow in the figure", {
  found <- endless()
  printed <- paste(capture.output(print(found)), collapse = " ")
  expect_match(printed, "Not all games ended with")
  expect_no_match(printed, "(smallest|largest) with[^.]*seat_order")
  shapes <- ggplot2::layer_data(autoplot(found), 3)$shape
  ended <- vapply(attr(found, "counts"), function(counts) share_ended(counts)$estimate, 0)
  expect_equal(sort(shapes), sort(ifelse(ended == 1, 19, 21)))
  expect_match(autoplot(found)$labels$caption, "Hollow")
  both <- compare(game_war(record = "rounds"), game_war(record = "rounds", collect = "seat_order", face_down = 0),
                  nsim = 300, seed = 1)
  row <- tidy(both)
  expect_lt(row$paired, 0.1)
  expect_no_match(first_answer(both)[1], "more in y|less in y")
  settled <- convergence(simulate(game_war(collect = "seat_order"), nsim = 300, seed = 1), "rounds")
  expect_lt(settled$share_ended[nrow(settled)], 1)
  expect_output(print(settled), "of\\s+games\\s+that\\s+ended")
})

test_that("a wish holds surely only where it does all over the intervals", {
  counts <- simulate(game_war(record = "rounds"), nsim = 2000, seed = 1)
  at <- estimates(counts, "rounds")
  wish <- function(text) meets_wish(parse_expression(text, "want"), counts, NULL)
  middle <- sprintf("rounds > %.6f & rounds < %.6f", at$estimate - 0.01, at$estimate + 0.01)
  # At both ends it fails, and between it holds.
  expect_equal(wish(middle), "open")
  expect_equal(wish("rounds > 1"), if (unended_at_most(counts, "rounds") > 0.001) "yes" else "no")
  expect_equal(wish("rounds < 1"), "no")
  few <- vary_rules(game_war(), face_down = 3, nsim = 10, seed = 3, want = "rounds_p90 <= 342")
  expect_equal(unique(few$meets), "open")
  # Quantiles of rounds that hang together have no interval.
  shoes <- vary_rules(game_high_card(cut_after = 30), ties = c("bank", "push"), nsim = 50, seed = 1,
                      want = "net_p90 <= 2")
  expect_equal(unique(shoes$meets), "open")
  expect_error(vary_rules(game_war(), face_down = 1, want = "rounds + 1"), "must be a condition",
               class = "habanera_error_language")
})
