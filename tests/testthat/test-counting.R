test_that("what a missing card is worth is the difference of two exact edges, and all sum to nothing", {
  game <- game_blackjack(packs = 1, most_hands = 2)
  found <- removal_effects(game, player_basic(), of = c("main", "insurance"))
  expect_named(found, c("value", "bet", "copies", "effect"))
  edge <- function(...) tidy(house_edge(game, player_basic(), nsim = 10, ...))$estimate
  main <- found[found$bet == "main", ]
  expect_equal(main$effect[main$value == "5"], edge() - edge(dead = "5H"), tolerance = 1e-12)
  expect_equal(main$effect[main$value == "10"], edge() - edge(dead = "KD"), tolerance = 1e-12)
  for (bet in c("main", "insurance")) {
    rows <- found[found$bet == bet, ]
    expect_lt(abs(sum(rows$copies * rows$effect)), 1e-12)
  }
  # Insurance by hand: 16 tens of 51 cards once an ace is shown, 16 of 50 or 15 of 50 when a card is gone.
  insurance <- found[found$bet == "insurance", ]
  expect_equal(insurance$effect[insurance$value == "7"], 3 * 16 / 50 - 3 * 16 / 51, tolerance = 1e-12)
  expect_equal(insurance$effect[insurance$value == "10"], 3 * 15 / 50 - 3 * 16 / 51, tolerance = 1e-12)
  expect_output(print(found), "a missing 5 gains the player most")
  expect_equal(as.character(ggplot2::layer_data(autoplot(found), 3)$label[1]),
               habanera:::percent_points(found$effect[1]))
})

test_that("bets on suits and other games have removal effects, too", {
  bets <- list(suited = "ifelse(largest_group(suit) == 3, 5, 0)")
  found <- removal_effects(game_blackjack(packs = 1, side_bets = bets), player_basic(), of = "suited")
  # Every card is as good as another here.
  expect_equal(found$effect, rep(0, 10), tolerance = 1e-12)
  high <- removal_effects(game_high_card(ties = "half_back"))
  expect_equal(names(high)[1], "rank")
  expect_lt(abs(sum(high$copies * high$effect)), 1e-12)
  slow <- vapply(c("AS", "7S"), function(card) {
    tidy(house_edge(game_high_card(ties = "half_back")))$estimate -
      tidy(house_edge(game_high_card(ties = "half_back", dead = card)))$estimate
  }, 0)
  expect_equal(high$effect[match(c("A", "7"), high$rank)], unname(slow), tolerance = 1e-12)
  expect_equal(tidy(shoe_edge(game_blackjack(), deck_standard(), player_basic()))$estimate,
               tidy(house_edge(game_blackjack(packs = 1), player_basic(), nsim = 10))$estimate, tolerance = 1e-12)
  expect_refusals(list(
    list(quote(removal_effects(game_blackjack(), of = "side")), "input", "`of` must name bets"),
    list(quote(removal_effects(game_blackjack(packs = Inf))), "rules", "lacks no cards"),
    list(quote(removal_effects(game_war())), "input", "not played for money"),
    list(quote(removal_effects(game_blackjack(players = player_errs(player_basic())))), "work", "would be simulated"),
    list(quote(shoe_edge(game_blackjack(), "5S")), "input", "`shoe` must be cards")
  ))
})

test_that("counting systems tell their level and balance, and are read from files", {
  expect_output(print(counting_system("level one balanced")), "level 1, balanced")
  expect_output(print(counting_system("level one unbalanced")),
                "unbalanced: a pack adds up to\\s+4; the running count alone")
  file <- demo_file("level-one.yaml")
  twin <- counting_system(file)
  expect_equal(twin$true_by, "half_decks")
  expect_equal(unname(twin$tags), unname(counting_system("level one balanced")$tags))
  judged <- judge_count(game_blackjack(packs = 1), twin, player_basic())
  effects <- removal_effects(game_blackjack(packs = 1), player_basic())
  # By card, with the correlation that R has.
  tags <- rep(twin$tags[effects$value], effects$copies)
  expect_equal(judged$estimate[judged$term == "betting"], cor(tags, rep(effects$effect, effects$copies)),
               tolerance = 1e-12)
  expect_output(print(judged), "with the effects of removal: betting 0[.]9")
  by_rank <- counting_system(c(twin$tags, J = -1, Q = -1, K = -1))
  expect_equal(judge_count(game_blackjack(packs = 1), by_rank, player_basic())$estimate, judged$estimate)
  bad <- withr::local_tempfile(fileext = ".yaml", lines = c("tags: {A: -1}", "deviation: 3"))
  expect_refusals(list(
    list(quote(counting_system("level nine")), "input", "no plain system"),
    list(quote(counting_system(c(1, 2))), "input", "`tags` must be numbers by rank"),
    list(quote(counting_system(c(A = -1), true_by = "quarters")), "input", "`true_by` must be"),
    list(quote(judge_count(game_blackjack(), c(A = 1))), "input", "must be a counting system"),
    list(quote(judge_count(game_blackjack(), counting_system(c(A = 1)))), "input", "`tags` has none for \"2\""),
    list(quote(judge_count(system = counting_system(c(rlang::set_names(rep(1, 10), c("A", 2:10)), X = 1)))), "input",
         "`tags` has \"X\""),
    list(quote(counting_system(bad)), "file", "not \"deviation\"")
  ))
})

test_that("how well a count tells of insurance is the correlation of its tags with the tens, card by card", {
  game <- game_blackjack(packs = 1)
  for (tags in list(c(-1, 1, 1, 1, 1, 1, 0, 0, 0, -1), c(0, 1, 1, 2, 2, 2, 1, 0, -1, -2),
                    c(1, 1, 1, 1, 1, 1, 1, 1, 1, -2))) {
    judged <- judge_count(game, counting_system(rlang::set_names(tags, c("A", 2:10))))
    value <- rep(c(1:9, 10, 10, 10, 10), 4)
    # Of the cards left those that are no tens pay for insurance alike, and so do tens.
    expect_equal(judged$estimate[judged$term == "insurance"], cor(tags[value], -(value == 10)), tolerance = 1e-9)
  }
})

test_that("designed tags are the best of all that there are, and more levels do no worse", {
  effects <- removal_effects(game_blackjack(packs = 1), player_basic())
  found <- design_tags(effects, -1:1)
  # All 59,049, risen or not.
  all <- as.matrix(expand.grid(rep(list(-1:1), 10)))
  balanced <- all[all %*% effects$copies == 0 & apply(abs(all), 1, max) > 0, ]
  slow <- max(apply(balanced, 1, habanera:::weighed_correlation, effects$effect, effects$copies))
  expect_equal(found$correlation, slow, tolerance = 1e-12)
  more <- design_tags(effects, -3:3)
  expect_false(is.unsorted(more$by_level$correlation))
  expect_equal(sum(more$tags * effects$copies), 0)
  expect_output(print(more), "<designed tags> correlation 0[.]9")
  system <- counting_system(more$tags, "ours")
  expect_equal(judge_count(game_blackjack(packs = 1), system, player_basic())$estimate[1], more$correlation,
               tolerance = 1e-12)
  expect_refusals(list(
    list(quote(design_tags(effects, 1)), "input", "2 to 9 whole numbers"),
    list(quote(design_tags(effects, 1:2)), "input", "No tags of these levels are balanced"),
    list(quote(design_tags(data.frame(1))), "input", "must be what removal_effects")
  ))
})

test_that("the law of the count is that of all hands of a small shoe", {
  shoe <- as_cards("AS 5S 5H 10S KH 7C 2D 2S")
  for (dealt in c(0, 3, 5)) {
    law <- true_count_distribution(shoe, "level one balanced", dealt)
    tags <- c(-1, 1, 1, -1, -1, 0, 1, 1)
    sums <- if (dealt == 0) 0 else colSums(utils::combn(8, dealt, function(i) tags[i]))
    slow <- table(sums) / length(sums)
    expect_equal(law$running_count, as.numeric(names(slow)))
    expect_equal(law$probability, as.vector(slow), tolerance = 1e-12)
    expect_equal(law$true_count, floor(law$running_count / ((8 - dealt) / 52) + 1e-12))
  }
  six <- true_count_distribution(game_blackjack(), counting_system("level one balanced"), 156)
  found <- tidy(six)
  # By hand: the variance of a sum without replacement is that with it, times (N - n) / (N - 1).
  expect_equal(found$estimate[1], 0, tolerance = 1e-10)
  expect_equal(found$sd[1], sqrt(156 * (40 / 52) * 156 / 311), tolerance = 1e-10)
  unbalanced <- true_count_distribution(game_blackjack(), "level one unbalanced", 156)
  expect_equal(tidy(unbalanced)$estimate[1], -24 + 12, tolerance = 1e-10)
  halves <- true_count_distribution(game_blackjack(), counting_system(demo_file("level-one.yaml")), 150)
  expect_equal(halves$true_count, floor(halves$running_count / 3 + 1e-12))
  expect_output(print(six), "after 156 of 312 cards")
  expect_refusals(list(
    list(quote(true_count_distribution(game_blackjack(), "level one balanced", 312)), "input", "`dealt` must be"),
    list(quote(true_count_distribution(game_blackjack(packs = Inf), "level one balanced", 3)), "input", "endless")
  ))
})

test_that("counting in the shell", {
  found <- run_words("removal", "blackjack", "--set", "packs=1", "--of", "main,insurance")
  expect_match(paste(found$out, collapse = " "), "Insurance: a missing")
  told <- run_words("counting", demo_file("level-one.yaml"), "--set", "packs=1")
  expect_match(paste(told$out, collapse = " "), "the twin's count: level 1, balanced")
  expect_equal(run_words("counting")$status, 2)
})
