# The law of a round in plain R, from the rules alone: all values of six cards with their weights, of a shoe with so
# many of each value (0 to 9).
baccarat_by_hand <- function(counts) {
  v <- as.matrix(expand.grid(rep(list(0:9), 6)))
  weight <- 1
  for (card in 1:6) {
    gone <- if (card == 1) 0 else rowSums(v[, seq_len(card - 1), drop = FALSE] == v[, card])
    weight <- weight * pmax(0, counts[v[, card] + 1] - gone) / (sum(counts) - card + 1)
  }
  player <- (v[, 1] + v[, 3]) %% 10
  banker <- (v[, 2] + v[, 4]) %% 10
  natural <- pmax(player, banker) >= 8
  player_draws <- !natural & player <= 5
  third <- v[, 5]
  banker_draws <- !natural & ifelse(player_draws, (banker <= 2) | (banker == 3 & third != 8) |
                                      (banker == 4 & third %in% 2:7) | (banker == 5 & third %in% 4:7) |
                                      (banker == 6 & third %in% 6:7), banker <= 5)
  player <- ifelse(player_draws, (player + v[, 5]) %% 10, player)
  banker <- ifelse(banker_draws, (banker + ifelse(player_draws, v[, 6], v[, 5])) %% 10, banker)
  list(player = player, banker = banker, cards = 4 + player_draws + banker_draws, weight = weight)
}

eight_packs <- c(128, rep(32, 9))

test_that("shares and edges of eight packs are those by hand, and the textbooks'", {
  hand <- baccarat_by_hand(eight_packs)
  game <- game_baccarat(record = c("winner", "player_total", "banker_total", "cards_used"))
  law <- exact(game)
  key <- function(player, banker, cards) paste(player, banker, cards)
  by_hand <- rowsum(hand$weight, key(hand$player, hand$banker, hand$cards))
  by_hand <- by_hand[by_hand[, 1] > 0, ]
  found <- law$probability[match(names(by_hand), key(law$outcomes$player_total, law$outcomes$banker_total,
                                                     law$outcomes$cards_used))]
  expect_equal(found, unname(by_hand), tolerance = 1e-12)
  expect_length(by_hand, length(law$probability))
  # Known to six decimals.
  share <- tapply(law$probability, law$outcomes$winner, sum)
  expect_equal(round(share[["banker"]], 6), 0.458597)
  expect_equal(round(share[["player"]], 6), 0.446247)
  expect_equal(round(share[["tie"]], 6), 0.095156)
  edges <- tidy(house_edge(game_baccarat()))
  edge <- rlang::set_names(edges$estimate, edges$term)
  expect_equal(round(edge[c("banker", "player", "tie")], 6), c(banker = 0.010579, player = 0.012351, tie = 0.143596))
  expect_equal(edges$without_ties[edges$term == "banker"], edge[["banker"]] / (1 - share[["tie"]]), tolerance = 1e-12)
  expect_equal(edges$largest_pay, c(0.95, 1, 8))
  expect_true(all(edges$how == "exact"))
})

test_that("pays and commissions change edges as they must", {
  hand <- baccarat_by_hand(eight_packs)
  mean_of <- function(net) sum(net * hand$weight)
  edge <- function(bet, ...) {
    found <- tidy(house_edge(game_baccarat(...)))
    found$estimate[found$term == bet]
  }
  expect_equal(edge("tie", tie_pays = 9), 1 - 10 * mean_of(hand$player == hand$banker), tolerance = 1e-12)
  expect_equal(edge("banker", banker_commission = "1/25"),
               -mean_of(ifelse(hand$banker > hand$player, 0.96, -(hand$player > hand$banker))), tolerance = 1e-12)
  six <- ifelse(hand$banker > hand$player, ifelse(hand$banker == 6, 0.5, 1), -(hand$player > hand$banker))
  expect_equal(edge("banker", banker_six_pays = 0.5), -mean_of(six), tolerance = 1e-12)
  expect_equal(edge("player", player_pays = 1.1),
               -mean_of(ifelse(hand$player > hand$banker, 1.1, -(hand$banker > hand$player))), tolerance = 1e-12)
})

test_that("side bets on openings, totals and cards used are exact, and by hand", {
  game <- game_baccarat(side_bets = list(
    pair = c("opening(player, largest_group(rank) == 2)" = 12),
    either = "6 * (opening(player, largest_group(rank) == 2) | opening(banker, largest_group(rank) == 2))",
    alike = c("opening(banker, distinct(rank) == 1 & distinct(suit) == 1)" = 26),
    six = c("winner == 'banker' & banker_total == 6 & banker_cards == 3" = 21,
            "winner == 'banker' & banker_total == 6" = 13),
    quick = c("natural" = 2), wide = c("margin >= 5 & opening(player, total(points) > 15)" = 9)
  ))
  edges <- tidy(house_edge(game))
  edge <- rlang::set_names(edges$estimate, edges$term)
  hand <- baccarat_by_hand(eight_packs)
  expect_equal(edge[["pair"]], 1 - 12 * 31 / 415, tolerance = 1e-12)
  expect_equal(edge[["alike"]], 1 - 26 * 7 / 415, tolerance = 1e-12)
  # Both pairs: of one rank four cards in a row, or of two.
  both <- (31 / 415) * (30 * 29 + 12 * 32 * 31) / (414 * 413)
  expect_equal(edge[["either"]], 1 - 6 * (2 * 31 / 415 - both), tolerance = 1e-12)
  six <- hand$banker > hand$player & hand$banker == 6
  # Of five cards the third may be either hand's: the banker has three of five where the player stands on 6 or more.
  law <- exact(game_baccarat(side_bets = list(x = c("banker_cards == 3" = 1)),
                             record = c("x", "winner", "banker_total")))
  three <- sum(law$probability[law$outcomes$x == 0 & law$outcomes$winner == "banker" & law$outcomes$banker_total == 6])
  expect_equal(edge[["six"]], 1 - 21 * three - 13 * (sum(hand$weight[six]) - three), tolerance = 1e-12)
  expect_equal(edge[["quick"]], 1 - 2 * sum(hand$weight[hand$cards == 4 & pmax(hand$player, hand$banker) >= 8]),
               tolerance = 1e-12)
  found <- tidy(house_edge(simulate(habanera:::recording(game, c("wide", "either")), 2e5, seed = 3)))
  for (bet in c("wide", "either")) {
    row <- found[found$term == bet, ]
    expect_lt(abs(row$estimate - edge[[bet]]), standard_errors * row$std.error)
  }
  expect_false(any(grepl("simulated", capture.output(print(house_edge(game))))))
})

test_that("random houses agree with their simulation, fresh and with cards gone", {
  withr::local_seed(21)
  for (round in 1:4) {
    table <- rules(game_baccarat())$third_card
    for (column in setdiff(names(table), "total")) table[[column]] <- sample(c("draw", "stand"), nrow(table), TRUE)
    game <- game_baccarat(packs = sample(1:8, 1), third_card = table, natural_from = sample(7:8, 1),
                          dead = sample(as.character(deck_standard()), 12), bet_on = "tie", tie_pays = sample(7:9, 1),
                          record = c("net_player", "net_banker", "net_tie"))
    exactly <- tidy(exact(game))[1:3, ]
    found <- tidy(simulate(game, 1e5, seed = round))[1:3, ]
    expect_true(all(abs(found$estimate - exactly$estimate) < standard_errors * found$std.error))
  }
})

test_that("a table of third cards is a file, and rules go through files and back", {
  still <- rules(game_baccarat())$third_card
  expect_output(print(still), "    3 +D +D +D +D +D +D +D +D +D +D +S +D")
  still[-1] <- "s"
  file <- withr::local_tempfile(fileext = ".csv")
  write.csv(still, file, row.names = FALSE)
  expect_equal(exact(game_baccarat(third_card = file, record = "cards_used"))$outcomes$cards_used, 4)
  house <- game_baccarat(third_card = file, banker_six_pays = "1:2", tie_pays = 9,
                         side_bets = list(pair = c("opening(player, largest_group(rank) == 2)" = 12)))
  kept <- withr::local_tempfile(fileext = ".yaml")
  write_rules(house, kept)
  expect_equal(rules(game("baccarat", rules = kept)), rules(house), ignore_attr = TRUE)
  expect_equal(tidy(house_edge(game("baccarat", rules = kept))), tidy(house_edge(house)))
})

test_that("bets on all cards are simulated, say so, and read the cards that were dealt", {
  game <- game_baccarat(packs = 1, side_bets = list(reds = "final(both, count(suit %in% c('hearts', 'diamonds')))",
                                                    faces = c("final(banker, count(rank == 'K') >= 1)" = 3)),
                        record = c("reds", "faces", "net_player"))
  for (trial in 1:20) {
    trace <- replay(game, seed = 4, trial = trial)
    cards <- trace$cards[trace$action %in% c("player_gets", "banker_gets")]
    codes <- vapply(cards, as.character, "")
    found <- trials(game, 4, trial)
    expect_equal(found$reds + 1, sum(grepl("[HD]$", codes)))
    banker <- vapply(trace$cards[trace$action == "banker_gets"], as.character, "")
    expect_equal(found$faces, if (any(grepl("^K", banker))) 2 else -1)
  }
  edge <- house_edge(game, nsim = 1e4, seed = 2)
  expect_equal(tidy(edge)$how, c("exact", "exact", "exact", "simulated", "simulated"))
  expect_match(paste(capture.output(print(edge)), collapse = " "), "exact; reds and *faces: 10,000 trials, seed 2")
  expect_equal(tidy(edge)$estimate[1:3], tidy(house_edge(game_baccarat(packs = 1)))$estimate, tolerance = 1e-12)
  expect_error(exact(game), "hangs on every card", class = "habanera_error_work")
})

test_that("missing cards are worth what their own shoes say, and counts bet by them", {
  game <- game_baccarat(packs = 6)
  effects <- removal_effects(game, of = c("banker", "tie"))
  for (bet in c("banker", "tie")) {
    rows <- effects[effects$bet == bet, ]
    expect_lt(abs(sum(rows$copies * rows$effect)), 1e-12)
  }
  edges <- function(...) {
    found <- tidy(house_edge(game_baccarat(packs = 6, ...)))
    found$estimate[match(c("banker", "tie"), found$term)]
  }
  expect_equal(effects$effect[effects$value == "6"], edges() - edges(dead = "6S"), tolerance = 1e-10)
  designed <- design_tags(effects[effects$bet == "tie", ], -2:2)
  expect_output(print(judge_count(game_baccarat(packs = 6, bet_on = "tie"), counting_system(designed$tags))),
                sprintf("betting %.4f", designed$correlation))
  counter <- player_counting(system = counting_system(c(A = 0, `2` = 0, `3` = 0, `4` = 0, `5` = 0, `6` = 1, `7` = 1,
                                                        `8` = -1, `9` = -1, `10` = 0, J = 0, Q = 0, K = 0)),
                             bets = c("2" = 1, "3" = 4))
  shoes <- simulate(game_baccarat(players = counter, cut_after = 0.8, bet_on = "tie"), 300, seed = 5)
  expect_true(all(c("true_count", "bet", "net_per_bet") %in% names(shoes$outcomes)))
  expect_equal(sort(unique(shoes$outcomes$bet)), c(1, 4))
  expect_true(all(shoes$outcomes$bet == ifelse(shoes$outcomes$true_count >= 3, 4, 1)))
  expect_equal(shoes$outcomes$net, shoes$outcomes$net_per_bet * shoes$outcomes$bet)
})

test_that("rounds of a shoe walked card by card agree with the shoe simulated", {
  deck <- deck_from(data.frame(card = c("a", "b", "c"), points = c(1, 4, 10), copies = c(4, 3, 3)))
  game <- game_baccarat(deck = deck, packs = 1, cut_after = 5, record = c("winner", "cards_used"))
  law <- tidy(exact(game))
  found <- tidy(simulate(game, 2e4, seed = 8))
  both <- merge(law, found[!is.na(found$std.error), ], by = "term")
  expect_gt(nrow(both), 3)
  expect_true(all(abs(both$estimate.x - both$estimate.y) < standard_errors * both$std.error.y + 1e-12))
})

test_that("what a house cannot be is refused, and how", {
  hole <- rules(game_baccarat())$third_card[-4, ]
  odd <- rules(game_baccarat())$third_card
  odd$player[2] <- "maybe"
  expect_refusals(list(
    list(quote(game_baccarat(third_card = hole)), "rules", "no row for a total of 3"),
    list(quote(game_baccarat(third_card = odd)), "input", "total 1: `player` must be draw or stand"),
    list(quote(game_baccarat(third_card = "none.csv")), "file", "none.csv"),
    list(quote(game_baccarat(banker_commission = 1.2)), "input", "from 0 to 1"),
    list(quote(game_baccarat(banker_commission = 0.04, banker_six_pays = 0.5)), "rules", "there is no commission"),
    list(quote(game_baccarat(bet_on = "bank")), "rules", "`bet_on` must be a bet"),
    list(quote(game_baccarat(packs = 9)), "input", "1 to 8"),
    list(quote(game_baccarat(cut_after = 500)), "rules", "416 cards"),
    list(quote(game_baccarat(deck = deck_standard(jokers = 1))), "rules", "JOKER"),
    list(quote(game_baccarat(points_by = "suit")), "rules", "an attribute of the pack that is a number"),
    list(quote(game_baccarat(side_bets = list(tie = "1"))), "rules", "has a meaning already"),
    list(quote(game_baccarat(side_bets = list(x = "opening(dealer, count(rank == 'A') > 0)"))), "language",
         "player or banker"),
    list(quote(game_baccarat(side_bets = list(x = "opening(player)"))), "language", "takes a hand"),
    list(quote(game_baccarat(side_bets = list(x = "winer == 'tie'"))), "language", "winer"),
    list(quote(game_baccarat(side_bets = list(x = "0 - margin"))), "rules", "must hand back 0 to a million"),
    list(quote(removal_effects(game_baccarat(), of = "main")), "input", "must name bets of the game"),
    list(quote(game_baccarat(players = player_counting(strategy = player_basic()))), "rules", "Nothing is decided here")
  ))
})
