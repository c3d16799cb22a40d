# What the dealer ends on from an endless shoe, followed card by card; and the same from a shoe of these counts.
plain_dealer <- function(counts, up, stands_on = 17, hits_soft = FALSE, wear = 1) {
  ends <- numeric()
  follow <- function(points, ace, cards, counts, chance) {
    soft <- ace && points + 10 <= 21
    total <- points + 10 * soft
    name <- if (cards == 2 && soft && total == 21) "natural" else if (points > 21) "bust" else as.character(total)
    draws <- cards < 2 || (points <= 21 && name != "natural" &&
                             (total < stands_on || (total == stands_on && soft && hits_soft)))
    if (!draws) {
      ends[name] <<- sum(ends[name], chance, na.rm = TRUE)
      return()
    }
    for (value in which(counts > 0)) {
      left <- counts
      left[value] <- left[value] - wear
      follow(points + value, ace || value == 1, cards + 1, left, chance * counts[value] / sum(counts))
    }
  }
  follow(up, up == 1, 1, counts - wear * (1:10 == up), 1)
  ends
}

test_that("the dealer ends on what following him card by card tells", {
  for (case in list(list(packs = Inf, soft = "stands"), list(packs = 1, soft = "hits"))) {
    found <- dealer_totals(game_blackjack(packs = case$packs, soft_17 = case$soft))
    counts <- c(rep(4, 9), 16)
    for (up in c(1, 6, 10)) {
      slow <- plain_dealer(counts, up, hits_soft = case$soft == "hits", wear = if (is.finite(case$packs)) 1 else 0)
      rows <- found[found$up_card == c("A", 2:10)[up], ]
      expect_equal(rows$probability[match(names(slow), rows$total)], unname(unlist(slow)), tolerance = 1e-12)
      expect_equal(sum(rows$if_no_natural), 1, tolerance = 1e-12)
    }
  }
  expect_output(print(found), "he busts most often with")
  # Textbook: from an endless shoe he busts with a six 42.3% of the time.
  endless <- dealer_totals(game_blackjack(packs = Inf))
  expect_equal(round(endless$probability[endless$up_card == "6" & endless$total == "bust"], 3), 0.423)
})

test_that("edges are those that textbooks have, and by part they add up", {
  # One pack, the dealer stands, doubles on any two but not after a split: nearly even. An endless shoe with doubles
  # after splits: half a per cent.
  best <- function(...) tidy(house_edge(game_blackjack(...)))$estimate
  expect_lt(abs(best(packs = 1, double_after_split = FALSE)), 0.0005)
  expect_equal(round(best(packs = Inf), 4), 0.0051)
  edge <- house_edge(game_blackjack(), player_basic())
  for (by in list("up_card", "first_hand", "move", c("up_card", "move"))) {
    parts <- as.data.frame(edge, by = by)
    expect_equal(sum(parts$probability), 1, tolerance = 1e-12)
    expect_equal(sum(parts$share), tidy(edge)$estimate, tolerance = 1e-12)
    expect_equal(parts$share, parts$probability * parts$edge, tolerance = 1e-12)
  }
  # A natural comes as often as counting has it.
  natural <- as.data.frame(edge, by = "first_hand")
  expect_equal(natural$probability[natural$first_hand == "natural"], 2 * 24 / 312 * 96 / 311, tolerance = 1e-12)
  expect_output(print(edge), "0[.]\\d+% of all that is\\s+staked")
})

test_that("edges by any rules and table are what simulation tells", {
  withr::local_seed(18)
  off <- vapply(1:32, function(i) {
    house <- random_house()
    table <- random_table(house)
    player <- strategy_table(data.frame(hand = rownames(table), table, check.names = FALSE))
    if (house$insured) player <- player_insures(player)
    rules <- c(house[names(house) != "insured"], split_by = sample(c("points", "rank"), 1))
    if (house$most_hands == 1) rules$split_by <- "points"
    game <- do.call(game_blackjack, c(rules, list(packs = sample(c(1, 2, 6), 1), players = player,
                                                  seats = sample(1:2, 1), record = c("net", "staked"))))
    exact <- tidy(house_edge(game, nsim = 100))
    simulated <- tidy(house_edge(simulate(game, nsim = 1e5, seed = i)))
    splits <- any(table[startsWith(rownames(table), "pair"), ] %in% c("P", "R/P"))
    expect_equal(exact$spread == "exact", game$rules$seats == 1 && !splits && !house$insured)
    (exact$estimate - simulated$estimate) / simulated$std.error
  }, 0)
  expect_true(all(abs(off) < standard_errors))
  # And they scatter as they should: a sum of squares of 32 normal deviates.
  expect_lt(sum(off^2), qchisq(1 - 1e-5, 32))
})

test_that("an edge with dead cards is that of the shoe without them", {
  dead <- "5S 5H 6D AC"
  game <- game_blackjack(packs = 1, most_hands = 1)
  left <- deck_standard()
  left <- left[!as.character(left) %in% strsplit(dead, " ")[[1]]]
  here <- game_blackjack(packs = 1, most_hands = 1, deck = left)
  same <- house_edge(game, player_basic(), dead = dead)
  expect_equal(tidy(same)$estimate, tidy(house_edge(here, player_basic()))$estimate, tolerance = 1e-12)
  found <- exact(game_blackjack(deck = deck_standard(ranks = c("A", "5", "10", "K"))[-(1:2)], packs = 1,
                                most_hands = 2, players = player_as_dealer()))
  walked <- -sum(found$outcomes$net * found$probability)
  by_solver <- house_edge(game_blackjack(deck = deck_standard(ranks = c("A", "5", "10", "K")), packs = 1,
                                         most_hands = 2), player_as_dealer(),
                          dead = deck_standard(ranks = c("A", "5", "10", "K"))[1:2])
  expect_equal(tidy(by_solver)$estimate, walked, tolerance = 1e-12)
  expect_equal(tidy(by_solver)$spread, "exact")
  expect_equal(tidy(by_solver)$sd, sqrt(sum(found$outcomes$net^2 * found$probability) - walked^2), tolerance = 1e-10)
  # Best play is for the depleted shoe, a player stays as he is.
  expect_lte(tidy(house_edge(game, dead = dead))$estimate, tidy(same)$estimate + 1e-12)
})

test_that("best strategies play as they are told, the more they know the better", {
  game <- game_blackjack(packs = 1, double_after_split = FALSE, surrender = "late")
  best <- lapply(c(total = "total", two_cards = "two_cards", all_cards = "all_cards"), function(knows) {
    best_strategy(game, knows)
  })
  edges <- vapply(best, function(strategy) tidy(house_edge(game, strategy))$estimate, 0)
  expect_true(edges[["total"]] > edges[["two_cards"]] && edges[["two_cards"]] > edges[["all_cards"]])
  expect_equal(tidy(best$total)$estimate, c(edges[["total"]], edges[["all_cards"]], edges[[1]] - edges[[3]]),
               tolerance = 1e-12)
  played <- simulate(game_blackjack(packs = 1, double_after_split = FALSE, surrender = "late",
                                    players = best$all_cards), nsim = 4e5, seed = 3)
  found <- tidy(house_edge(played))
  expect_lt(abs(found$estimate - edges[["all_cards"]]), standard_errors * found$std.error)
  # What is expected, weighed with how often it comes, is the edge: of the first decisions.
  table <- as.data.frame(best$all_cards)
  expect_named(table, c("hand", "up_card", "move", "expected", "best"))
  expect_equal(unique(tapply(table$best, paste(table$hand, table$up_card), sum)[]), 1, ignore_attr = TRUE)
  cell <- function(of, hand, up) {
    rows <- as.data.frame(of)
    rows$move[rows$hand == hand & rows$up_card == up & rows$best]
  }
  # Ten and two against a four, ten and six against a ten: textbook cases for what single cards tell.
  expect_equal(cell(best$all_cards, "cards 10 2", "4"), "hit")
  expect_equal(cell(best$all_cards, "cards 9 3", "4"), "stand")
  expect_output(print(best$two_cards), "best play by two cards: the (house|player) keeps")
  expect_output(print(best$all_cards), "cards 10 2")
})

test_that("strategies with rows of cards are written, read, compared and kept", {
  best <- best_strategy(game_blackjack(packs = 1), "two_cards")
  expect_true(any(startsWith(rownames(best$cells), "cards ")))
  file <- withr::local_tempfile(fileext = ".csv")
  write_strategy(best, file)
  back <- strategy_table(file)
  expect_equal(nrow(compare(best, back)), 0)
  kept <- withr::local_tempfile(fileext = ".json")
  counts <- simulate(game_blackjack(packs = 1, players = best), nsim = 500, seed = 2)
  write_result(counts, kept)
  expect_equal(as.data.frame(read_result(kept)), as.data.frame(counts))
  # Rows in any order of cards; after a split the card that was split comes first.
  grid <- rbind(strategy_grid(player_basic()), data.frame(
    hand = c("cards 6 10", "split 8 a 2"), matrix("S", 2, 10, dimnames = list(NULL, c(2:10, "A"))),
    check.names = FALSE))
  odd <- strategy_table(grid)
  expect_true(all(c("cards 10 6", "split 8 A 2") %in% rownames(odd$cells)))
  expect_gt(tidy(house_edge(game_blackjack(), odd, nsim = 10))$estimate,
            tidy(house_edge(game_blackjack(), player_basic(), nsim = 10))$estimate)
  grid$hand[nrow(grid)] <- "split 8"
  expect_refusals(list(list(quote(strategy_table(grid)), "input", "\"cards 10 6\" or")))
})

test_that("advice is worth what the strategy expects, from any state, and says why", {
  game <- game_blackjack(packs = 2)
  advice <- advise(game, "10S 6H", "9D", working = TRUE)
  expect_equal(advice$move[advice$best], "hit")
  rows <- as.data.frame(best_strategy(game, "all_cards"))
  rows <- rows[rows$hand == "cards 10 6" & rows$up_card == "9", ]
  expect_equal(advice$expected, rows$expected[match(advice$move, rows$move)], tolerance = 1e-12)
  # Standing on sixteen wins what the dealer busts.
  dealer <- attr(advice, "dealer")
  busts <- dealer$probability[dealer$total == "bust"]
  expect_equal(advice$expected[advice$move == "stand"], 2 * busts - 1, tolerance = 1e-12)
  slow <- plain_dealer(2 * c(rep(4, 9), 16) - (1:10 == 10) - (1:10 == 6), 9)
  expect_equal(busts, slow[["bust"]], tolerance = 1e-12)
  endings <- attr(advice, "endings")
  hit <- endings[endings$move == "hit", ]
  expect_equal(sum(hit$win - hit$loss), advice$expected[advice$move == "hit"], tolerance = 1e-12)
  expect_output(print(advice), "10S and 6H against 9D: hit, by")
  expect_equal(advise(game, "8S 8H", "10D")$move[1], "split")
  after <- advise(game_blackjack(packs = 2, double_after_split = FALSE), "8S 3H", "6D", hands = 2)
  expect_setequal(after$move, c("hit", "stand"))
  expect_setequal(advise(game, "AS AH 5C", "10D", dead = "5S 5H")$move, c("hit", "stand"))
  expect_equal(nrow(advise(game_blackjack(packs = Inf), "10S 10H", "5C")), 4)
  expect_refusals(list(
    list(quote(advise(game, "10S 6H 9C", "9D")), "rules", "10S, 6H and 9C: the hand is bust"),
    list(quote(advise(game, "AS KH", "9D")), "rules", "nothing is left to decide"),
    list(quote(advise(game, "AS", "9D")), "input", "the two cards or more"),
    list(quote(advise(game, "5S 5S 5S", "9D")), "conservation", "\"5S\" is held 3 times"),
    list(quote(advise(game, "5S 6S", "9D 8D")), "input", "must be one card"),
    list(quote(advise(game, "5S 6S", "9D", hands = 5)), "input", "at most 4 hands"),
    list(quote(advise(game, "5S 6S", "9D", dead = "JOKER")), "conservation", "\"JOKER\" is dead"),
    list(quote(advise(game_war(), "5S 6S", "9D")), "input",
         "War does not tell what each move is worth; Betting, Blackjack and Pay-table poker do")
  ))
})

test_that("mistakes add up to what a player gives away, insurance with it", {
  game <- game_blackjack(soft_17 = "hits", surrender = "early")
  for (player in list(player_regular("baker"), player_insures(player_regular("ferryman")), player_as_dealer())) {
    found <- mistakes(game, player)
    edge <- tidy(house_edge(game, player, nsim = 10))$estimate - tidy(house_edge(game, nsim = 10))$estimate
    expect_equal(sum(found$loss), edge, tolerance = 1e-12)
    expect_equal(found$loss, found$cost * found$how_often, tolerance = 1e-12)
    expect_false(is.unsorted(-found$loss))
  }
  insured <- mistakes(game_blackjack(), player_insures(player_basic()))
  row <- insured[insured$hand == "insurance", ]
  # Half a stake at two to one, on the dealer's second card being a ten: the seat's cards tell nothing on average.
  expect_equal(row$how_often, 1 / 13, tolerance = 1e-12)
  expect_equal(row$cost, 0.5 * (1 - 3 * 96 / 311), tolerance = 1e-12)
  expect_output(print(insured), "stakes in a hundred rounds")
  expect_equal(nrow(mistakes(game_blackjack(), best_strategy(game_blackjack()))), 0)
  expect_refusals(list(
    list(quote(mistakes(game_blackjack(), player_errs(player_basic()))), "input", "decides by luck"),
    list(quote(mistakes(game_blackjack(seats = 2), player_basic())), "rules", "of one seat"),
    list(quote(mistakes(game_pairs(), "careful")), "input", "no best play by which mistakes are priced"),
    list(quote(house_edge(game_blackjack(), player_random())), "input", "no exact edge"),
    list(quote(house_edge(game_blackjack(), dead = "5S 5S 5S 5S 5S 5S 5S")), "conservation", "5S"),
    list(quote(house_edge(game_blackjack(packs = Inf), dead = "5S")), "rules", "lacks no cards"),
    list(quote(best_strategy(game_blackjack(), "everything")), "input", "must be"),
    list(quote(best_strategy(game_blackjack(deck = deck_standard(ranks = c("2", "3")), packs = 1))), "rules",
         "more cards than the pack has")
  ))
  expect_output(print(house_edge(game_blackjack(), player_errs(player_basic()), nsim = 1000, seed = 1)), "1,000 trials")
})

test_that("each rule is priced by the difference of two edges", {
  game <- game_blackjack(packs = Inf)
  found <- rule_effects(game)
  expect_equal(found$rule[1], "none")
  base <- tidy(house_edge(game, nsim = 10))$estimate
  expect_equal(found$edge[1], base, tolerance = 1e-12)
  hits <- tidy(house_edge(game_blackjack(packs = Inf, soft_17 = "hits"), nsim = 10))$estimate
  expect_equal(found$effect[found$rule == "soft_17"], hits - base, tolerance = 1e-12)
  # A natural paid half a stake less costs the player that, as often as he has one against none.
  natural <- 2 * (1 / 13) * (4 / 13)
  expect_equal(found$effect[found$rule == "natural_pays" & found$value == "1"], 0.5 * natural * (1 - natural),
               tolerance = 1e-12)
  expect_output(print(found), "The house gains most by")
  # Rules that only hurt the player never cost the house.
  expect_true(all(found$effect[found$rule %in% c("soft_17", "ties", "double_after_split", "most_hands")] > -1e-12))
  plain <- rule_effects(game_high_card())
  expect_equal(plain$edge[plain$rule == "ties" & plain$value == "push"], 0, tolerance = 1e-12)
  expect_refusals(list(list(quote(rule_effects(game_war())), "input", "not played for money")))
})

test_that("edges by exact combinations of rules, and wishes of them", {
  game <- game_blackjack(packs = Inf)
  found <- vary_rules(game, surrender = c("none", "late"), soft_17 = c("stands", "hits"), of = "edge",
                      want = "edge < 0.005")
  expect_equal(found$estimate[1], tidy(house_edge(game, nsim = 10))$estimate, tolerance = 1e-12)
  expect_equal(found$difference, found$estimate - found$estimate[1])
  expect_equal(found$meets, ifelse(found$estimate < 0.005, "yes", "no"))
  expect_output(print(found), "is met by 1 of 4 combinations")
  given <- vary_rules(game, players = c("basic", "as_dealer"), of = "edge")
  expect_equal(given$estimate, c(tidy(house_edge(game, player_basic()))$estimate,
                                 tidy(house_edge(game, player_as_dealer()))$estimate), tolerance = 1e-12)
  # Who looks at single cards is walked through every course of a round, and it comes to the same.
  small <- game_blackjack(deck = deck_standard(ranks = c("A", "5", "6", "10")), packs = 1, most_hands = 2)
  best <- best_strategy(small, "all_cards")
  expect_true(any(startsWith(rownames(best$cells), "cards")))
  law <- exact(change_rules(small, players = best))
  expect_equal(-sum(law$outcomes$net * law$probability), tidy(best)$estimate[1], tolerance = 1e-12)
  own <- vary_rules(game_blackjack(players = player_as_dealer()), packs = c(1, 6), of = "edge")
  expect_equal(own$estimate[2], tidy(house_edge(game_blackjack(), player_as_dealer()))$estimate, tolerance = 1e-12)
  expect_equal(nrow(ggplot2::layer_data(autoplot(found), 3)), 4)
  expect_refusals(list(
    list(quote(vary_rules(game_war(), face_down = 0:1, of = "edge")), "input", "not played for money"),
    list(quote(vary_rules(game, surrender = "late", of = "edge", want = "net > 0")), "language", "edge"),
    list(quote(vary_rules(game_blackjack(players = "random"), packs = 1:2, of = "edge")), "input", "no exact edge")
  ))
})

test_that("the shell works edges, strategies, advice and mistakes out", {
  says <- function(..., status = 0) {
    found <- run_words(...)
    expect_equal(found$status, status)
    gsub(" +", " ", paste(c(found$out, found$err), collapse = " "))
  }
  endless <- c("--set", "packs=Inf")
  expect_match(says("edge", "blackjack", endless, "--expect", "edge < 0.006"), "0[.]5117% of every initial stake")
  expect_match(says("edge", "blackjack", endless, "--expect", "edge < 0.004", status = 1), "edge is 0[.]005117")
  expect_match(says("edge", "blackjack", "--player", demo_file("bakers-table.csv"), "--by", "up_card"), "up_card prob")
  expect_match(says("edge", "blackjack", "--player", "random", status = 2), "no exact edge")
  file <- withr::local_tempfile(fileext = ".csv")
  figure <- withr::local_tempfile(fileext = ".png")
  says("strategy", "blackjack", endless, "--out", file, "--figure", figure)
  expect_equal(nrow(compare(strategy_table(file), best_strategy(game_blackjack(packs = Inf)))), 0)
  expect_gt(file.size(figure), 10000)
  expect_match(says("mistakes", "blackjack", "--player", file, endless), "None: the house keeps 0[.]5117%")
  expect_match(says("advise", "blackjack", "10S", "6H", "--up", "9D", "--working"), "10S and 6H against 9D: hit")
  expect_match(says("advise", "blackjack", "10S 6H", status = 2), "`up_card` must be one card")
  expect_match(says("rule-effects", "blackjack", endless), "each rule changed alone, against best play by totals")
  expect_match(says("dealer", "blackjack", "--dead", "AS AH", "--format", "csv"), "up_card,total,probability")
  expect_match(says("vary", "blackjack", endless, "--of", "edge", "--over", "surrender=none,late"), "edge is smallest")
  expect_match(says("mistakes", "blackjack", "--player", demo_file("dirty-strategy.csv"), status = 2),
               "dirty-strategy.csv\": A row of a strategy is such as")
})

test_that("a split is worth what both hands are, card by card in plain R", {
  deck <- deck_standard(ranks = c("3", "8", "9", "10"))
  for (up in c("10D", "9C")) {
    game <- game_blackjack(deck = deck, packs = 2, most_hands = 2)
    advice <- advise(game, "8S 8H", up)
    up_value <- as.numeric(sub("[CD]$", "", up))
    left <- replace(numeric(10), c(3, 8, 9, 10), 8)
    left <- left - 2 * (1:10 == 8) - (1:10 == up_value)
    unseen <- plain_hit_or_stand(left, up_value)
    # One hand that begins with an eight, the other being known to hold one.
    hand <- sum(vapply(which(left > 0), function(card) {
      rest <- left - (1:10 == card)
      unseen$next_card(card, left) * max(unseen$best(8 + card, FALSE, rest), unseen$double(8 + card, FALSE, rest))
    }, 0))
    expect_equal(advice$expected[advice$move == "split"], 2 * hand, tolerance = 1e-10)
    expect_equal(advice$expected[advice$move == "stand"], unseen$stand(16, FALSE, left), tolerance = 1e-10)
    expect_equal(advice$expected[advice$move == "hit"], unseen$hit(16, FALSE, left), tolerance = 1e-10)
  }
})

test_that("rules move the edge to the side that they must", {
  found <- rule_effects(game_blackjack(packs = 2))
  of <- function(rule, value) found$effect[found$rule == rule & found$value == value]
  # What is taken from a player who plays best, or paid to him less, brings the house more; what he is given costs it.
  house <- list(c("natural_pays", "1"), c("natural_pays", "1.2"), c("ties", "dealer"), c("double_on", "none"),
                c("double_on", "10_11"), c("double_after_split", "FALSE"), c("most_hands", "1"),
                c("hole_card", "unchecked_all_lost"))
  player <- list(c("natural_pays", "2"), c("surrender", "late"), c("surrender", "early"), c("double_on", "any_cards"),
                 c("split_aces", "play_on"), c("resplit_aces", "TRUE"), c("cards_that_win", "5"))
  for (rule in house) expect_gt(of(rule[1], rule[2]), 0, label = paste(rule, collapse = " "))
  for (rule in player) expect_lt(of(rule[1], rule[2]), 0, label = paste(rule, collapse = " "))
  # The more of it, the more.
  expect_gt(of("double_on", "none"), of("double_on", "10_11"))
  expect_lt(of("surrender", "early"), of("surrender", "late"))
  expect_false(is.unsorted(-c(of("natural_pays", "1"), of("natural_pays", "1.2"), 0, of("natural_pays", "2"))))
})

test_that("a fresh shoe that can run dry has no edge, as it has no exact law", {
  deck <- deck_standard(ranks = c("A", "5", "6", "10"))
  small <- game_blackjack(deck = deck, packs = 1)
  expect_error(house_edge(small), "more cards than the pack has; take more packs", class = "habanera_error_rules")
  expect_error(exact(small), "more cards than the pack has", class = "habanera_error_rules")
  expect_error(best_strategy(small), "more cards than the pack has", class = "habanera_error_rules")
  expect_error(simulate(small, nsim = 1e5, seed = 1), "than there are[.] Take more packs",
               class = "habanera_error_rules")
  # All hands of four and the dealer's can hold no more than 5 x 31 of 2 x 88 points: two packs cannot run dry.
  expect_false(may_run_dry(game_blackjack(deck = deck, packs = 2)))
  expect_s3_class(house_edge(game_blackjack(deck = deck, packs = 2), nsim = 1000, seed = 1), "habanera_edge")
})
