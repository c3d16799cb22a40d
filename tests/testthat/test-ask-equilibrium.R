test_that("sound play of three cards and one bet is worth -1/18, within a proven gap", {
  sound <- equilibrium(lanterns(), gap = 1e-4)
  found <- tidy(sound)
  expect_equal(found$term, c("value_1", "value_2", "gap"))
  # Kuhn (1950, "A simplified two-person poker").
  expect_true(found$conf.low[1] <= -1 / 18 && -1 / 18 <= found$conf.high[1])
  expect_lte(found$estimate[3], 1e-4)
  expect_equal(found$conf.high[1] - found$conf.low[1], found$estimate[3], tolerance = 1e-12)
  expect_equal(found$estimate[2], -found$estimate[1], tolerance = 1e-12)
  expect_match(in_words(sound), "brings seat 1 -0.055")
  rows <- as.data.frame(sound)
  expect_true(all(abs(tapply(rows$chance, paste(rows$seat, rows$sees), sum) - 1) < 1e-12))
  # What both tables bring is the value, by the plain program, by exact() and by a simulation.
  chance <- function(seat, sees, move) {
    rows$chance[rows$seat == seat & rows$sees == sees & sub(" .*$", "", rows$move) == move]
  }
  expect_equal(lantern_value(3, 1, 1, chance), found$estimate[1], tolerance = 1e-12)
  seated <- lanterns(players = player_by_table(sound))
  law <- exact(seated)
  expect_equal(sum(law$outcomes$net_1 * law$probability), found$estimate[1], tolerance = 1e-12)
  played <- tidy(simulate(seated, 1e5, seed = 1))
  expect_lt(abs(played$estimate[3] - found$estimate[1]), standard_errors * played$std.error[3])
})

test_that("best answers to what is sound gain just the gap", {
  for (cards in c(4, 5)) {
    game <- lanterns(cards, bets = 2)
    sound <- equilibrium(game, gap = 0.01)
    seated <- change_rules(game, players = player_by_table(sound))
    gains <- vapply(1:2, function(seat) tidy(best_play(seated, seat))$estimate[2], 0)
    expect_true(all(gains >= -1e-12))
    expect_equal(sum(gains), tidy(sound)$estimate[3], tolerance = 1e-10)
  }
  # A wider gap is found in fewer rounds, and time ends it, too.
  expect_lt(equilibrium(game, gap = 0.1)$rounds, sound$rounds)
  short <- equilibrium(lanterns(20, bets = 5), gap = 1e-9, seconds = 0.01)
  expect_output(print(short), "was not reached")
})

test_that("sound play is refused where it cannot be had", {
  expect_refusals(list(
    list(quote(equilibrium(game_war())), "input", "nobody decides"),
    list(quote(equilibrium(game_pairs(pairs = 3))), "input", "is not made of what its seats see"),
    list(quote(equilibrium(lanterns(), gap = 0)), "input", "`gap` must be a number above 0"),
    list(quote(equilibrium(lanterns(), seconds = -1)), "input", "`seconds` must be a number above 0"),
    list(quote(best_play(lanterns(), 3)), "input", "`seat` must be a whole number"),
    list(quote(best_play(lanterns(players = player_lookahead()), 1)), "rules", "whose chances are known"),
    list(quote(best_play(lanterns(), 1, against = list())), "input", "`against` must be one player")
  ))
})

test_that("best play against random tables is that of trying every plan in plain R", {
  withr::local_seed(7)
  for (round in 1:4) {
    cards <- sample(3:4, 1)
    ante <- sample(3, 1)
    bet <- sample(3, 1)
    table <- lantern_table(cards, bet)
    game <- lanterns(cards, ante = ante, bet = bet)
    by_table <- change_rules(game, players = player_by_table(table$rows))
    law <- exact(by_table)
    expect_equal(sum(law$outcomes$net_1 * law$probability), lantern_value(cards, ante, bet, table$chance),
                 tolerance = 1e-12)
    # Seat 1 has two choices for each card.
    plans <- as.matrix(expand.grid(rep(list(0:1), 2 * cards)))
    values <- apply(plans, 1, function(plan) {
      lantern_value(cards, ante, bet, function(seat, sees, move) {
        if (seat == 2) return(table$chance(seat, sees, move))
        card <- as.numeric(sub("^card: ([0-9]+);.*$", "\\1", sees))
        bold <- plan[2 * card - !grepl("check", sees)]
        if (move %in% c("bet", "call")) bold else 1 - bold
      })
    })
    found <- best_play(by_table, 1)
    expect_equal(found$worth, max(values), tolerance = 1e-12)
    expect_equal(found$gain, max(values) - lantern_value(cards, ante, bet, table$chance), tolerance = 1e-12)
    # Who plays so has it, and what was found is a player.
    solved <- change_rules(game, players = list(player_by_table(found), player_by_table(table$rows)))
    law <- exact(solved)
    expect_equal(sum(law$outcomes$net_1 * law$probability), max(values), tolerance = 1e-12)
  }
})

test_that("best play knows a mixture by what it did", {
  table <- function(bold) {
    rows <- as.data.frame(equilibrium(lanterns(), gap = 0.1))
    rows$chance <- ifelse(grepl("bet|call", rows$move), bold, 1 - bold)
    player_by_table(rows, sprintf("bold %s", bold))
  }
  mixed <- player_mixture(list(table(0.9), table(0.1)), c(1, 3))
  game <- lanterns(players = list(mixed, "random"))
  # The law of a mixture is that of its players, as often as they come.
  net <- function(player) {
    law <- exact(lanterns(players = list(player, "random")))
    sum(law$outcomes$net_1 * law$probability)
  }
  expect_equal(net(mixed), 0.25 * net(table(0.9)) + 0.75 * net(table(0.1)), tolerance = 1e-12)
  best <- best_play(game, 2)
  # What is best against the mixture is no better than what is best against each of both, known.
  known <- vapply(c(0.9, 0.1), function(bold) best_play(lanterns(), 2, against = table(bold))$worth, 0)
  expect_lt(best$worth, sum(c(0.25, 0.75) * known) + 1e-12)
  law <- exact(change_rules(game, players = list(mixed, player_by_table(best))))
  expect_equal(sum(law$outcomes$net_2 * law$probability), best$worth, tolerance = 1e-12)
})

test_that("who knows how others play weighs what they did; who peeks has more", {
  game <- lanterns(6)
  net <- function(player, other = "timid", nsim = 4000) {
    tidy(simulate(change_rules(game, players = list(other, player)), nsim, seed = 2))[4, ]
  }
  # A timid bet is the highest card: who knows it folds all others, who assumes nothing calls with high ones.
  knows <- net(player_lookahead(40, "timid"))
  assumes_nothing <- net(player_lookahead(40))
  expect_gt(knows$estimate - assumes_nothing$estimate,
            -standard_errors * sqrt(knows$std.error^2 + assumes_nothing$std.error^2))
  called <- function(player) {
    found <- trials(change_rules(game, players = list("timid", player)), 2, 1:2000)
    sum(found$net_2 == -2)
  }
  expect_equal(called(player_lookahead(40, "timid")), 0)
  expect_gt(called(player_lookahead(40)), 0)
  peeks <- net(player_peeking(samples = 40), "random", 10000)
  looks <- net(player_lookahead(40), "random", 10000)
  expect_gt(peeks$estimate - looks$estimate, standard_errors * sqrt(peeks$std.error^2 + looks$std.error^2))
  # Never to peek is to look ahead, but for the luck that asks whether.
  expect_equal(net(player_peeking(how_often = 0, samples = 40), "random", 10000)$estimate, looks$estimate,
               tolerance = 5 * sqrt(2) * looks$std.error / abs(looks$estimate))
})

# Lanterns as an R function, by the same views.
lanterns_in_r <- function(cards, ante, bet) {
  game_custom(
    "lanterns_in_r", deck_numbered(cards),
    function(table, rules, players) {
      card <- c(table$move("stock", "hand_1"), table$move("stock", "hand_2"))
      bet_move <- paste("bet", rules$bet)
      made <- character()
      repeat {
        seat <- 1 + length(made) %% 2
        open <- if (identical(made[length(made)], bet_move)) c("fold", "call") else c("check", bet_move)
        made <- c(made, table$ask(seat, list(card = card[seat], made = made), open))
        last <- made[length(made)]
        if (last %in% c("fold", "call") || identical(made, c("check", "check"))) break
      }
      pot <- rules$ante + if (last == "call") rules$bet else 0
      first <- if (last == "fold") length(made) == 3 else card[1] < card[2]
      list(net_1 = if (first) -pot else pot, net_2 = if (first) pot else -pot)
    },
    outcomes = list(net_1 = outcome_money("seat 1", coin = 1), net_2 = outcome_money("seat 2", coin = 1)),
    piles = c(stock = "hidden", hand = "own"), seats = 2,
    rules = list(rule_whole("ante", ante, 1, 9, "the ante"), rule_whole("bet", bet, 1, 9, "the bet"))
  )
}

test_that("a game in R is answered by what is seen, too, and plays by the same tables", {
  withr::local_seed(3)
  table <- lantern_table(3, 2)
  player <- player_by_table(table$rows)
  in_r <- lanterns_in_r(3, 1, 2)
  in_cpp <- lanterns(3, ante = 1, bet = 2)
  for (seat in 1:2) {
    expect_equal(best_play(in_r, seat, against = player)$worth, best_play(in_cpp, seat, against = player)$worth,
                 tolerance = 1e-12)
  }
  law <- exact(change_rules(in_r, players = player))
  expect_equal(sum(law$outcomes$net_1 * law$probability), lantern_value(3, 1, 2, table$chance), tolerance = 1e-12)
  played <- tidy(simulate(change_rules(in_r, players = player), 4000, seed = 1))
  expect_lt(abs(played$estimate[1] - lantern_value(3, 1, 2, table$chance)), standard_errors * played$std.error[1])
  expect_error(simulate(change_rules(in_r, bet = 3, players = player), 50, seed = 1), "a move that is not open",
               class = "habanera_error_function")
})

test_that("what cannot be gone through is said in its own words", {
  expect_refusals(list(
    list(quote(equilibrium(lanterns(1))), "rules", "need more cards than the pack has"),
    list(quote(best_play(lanterns(1))), "rules", "need more cards than the pack has"),
    list(quote(equilibrium(lanterns(400, bets = 20))), "work", "positions in its tree"),
    list(quote(lanterns(players = player_mixture(list(player_random(), player_basic())))), "input", "not \"basic\""),
    list(quote(exact(lanterns(players = "peeking"))), "work", "player_peeking() plays out")
  ))
  found <- equilibrium(lanterns(), gap = 0.01)
  file <- withr::local_tempfile(fileext = ".json")
  write_result(found, file)
  expect_equal(as.data.frame(read_result(file))$chance, as.data.frame(found)$chance, tolerance = 1e-15)
  figure <- autoplot(found)
  expect_equal(nrow(figure$data), nrow(as.data.frame(found)))
  expect_match(autoplot(equilibrium(lanterns(30, bets = 10), gap = 1))$labels$caption, "620 views that come least")
  page <- withr::local_tempfile(fileext = ".html")
  report(found, page)
  expect_match(paste(readLines(page), collapse = " "), "card: 3; made: check, bet 1", fixed = TRUE)
})

test_that("the shell finds sound play and the answer to it", {
  file <- system.file("examples", "lanterns.cpp", package = "habanera")
  table <- withr::local_tempfile(fileext = ".csv")
  lanterns()
  figure <- withr::local_tempfile(fileext = ".svg")
  ran <- run_words("equilibrium", file, "--deck", "numbered 3", "--out", table, "--figure", figure)
  expect_equal(ran$status, 0)
  expect_true(file.exists(figure))
  expect_match(run_words("equilibrium", file, "--deck", "numbered 3")$out, "brings seat 1 -0.055", all = FALSE)
  expect_equal(as.data.frame(player_by_table(table)), as.data.frame(equilibrium(lanterns()))[1:4], tolerance = 1e-12)
  ran <- run_words("best", file, "--deck", "numbered 3", "--seat", "2", "--against", table, "--format", "csv")
  expect_equal(ran$status, 0)
  expect_equal(nrow(utils::read.csv(text = ran$out)), 12)
  expect_equal(run_words("equilibrium", file, "--deck", "numbered 3", "--gap", "0")$status, 2)
})
