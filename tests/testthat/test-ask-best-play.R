# Best play of one seat by the fewest turns, from the rules alone: k cards are known whose mates are not, u are unseen.
fewest_turns <- function(pairs) {
  best <- remembered(function(u, k) {
    if (u == 0) return(0)
    # After a new first card: another unseen one, or one that is known, so that nothing new is shown.
    another <- if (u > 1) {
      fresh <- u - 2 - k
      1 / (u - 1) * (1 + best(u - 2, k)) + (if (k > 0) k / (u - 1) * (2 + best(u - 2, k)) else 0) +
        (if (fresh > 0) fresh / (u - 1) * (1 + best(u - 2, k + 2)) else 0)
    }
    nothing_new <- if (k > 0 && u > k) 1 + best(u - 1, k + 1)
    found <- if (k > 0) k / u * (1 + best(u - 1, k - 1)) else 0
    unseen_first <- found + (if (u > k) (u - k) / u * min(another, nothing_new) else 0)
    # A known card first, then an unseen one.
    known_first <- if (k > 0) {
      fresh <- u - k
      1 / u * (1 + best(u - 1, k - 1)) + (if (k > 1) (k - 1) / u * (2 + best(u - 1, k - 1)) else 0) +
        (if (fresh > 0) fresh / u * (1 + best(u - 1, k + 1)) else 0)
    }
    min(unseen_first, known_first)
  })
  best(2 * pairs, 0)
}

test_that("best play alone is the best of a recursion from the rules", {
  for (pairs in c(1, 2, 3, 5, 8, 15)) {
    found <- best_play(game_pairs(pairs = pairs, seats = 1))
    expect_equal(-found$worth, fewest_turns(pairs), tolerance = 1e-10)
  }
  # Velleman & Warrington (2013, "What to expect in a game of memory") give (3 - 2 ln 2) n + 7/8 - 2 ln 2 for many
  # pairs.
  expect_lt(abs(-found$worth - ((3 - 2 * log(2)) * 15 + 7 / 8 - 2 * log(2))), 0.02)
  expect_output(print(found), "23.69.* turns on average, exactly")
})

test_that("who plays best has what best play is worth", {
  game <- game_pairs(pairs = 6, players = c("solved", "full_memory"), record = "score_1")
  promised <- best_play(game_pairs(pairs = 6, players = "full_memory"))$worth
  law <- exact(game)
  expect_equal(sum(law$outcomes$score_1 * law$probability), promised, tolerance = 1e-10)
  found <- tidy(simulate(game, 3000, seed = 4))[1, ]
  expect_lt(abs(found$estimate - promised), standard_errors * found$std.error)
  expect_refusals(list(
    list(quote(best_play(game_high_card())), "input",
         "is not gone through position by position; Betting and Pairs are"),
    list(quote(best_play(game_pairs(), seat = 3)), "input", "`seat` must be a whole number"),
    list(quote(best_play(game_pairs(pairs = 4, players = "forgetful"))), "rules", "not \"forgetful:recall=0.7\""),
    list(quote(best_play(game_pairs(pairs = 4, players = "random"))), "work", "come again by chance"),
    list(quote(game_pairs(players = c("solved", "solved"))), "rules", "plays best against players who decide"),
    list(quote(simulate(game_pairs(pairs = 4, players = c("solved", "random")), 5, seed = 1)), "work", "by chance"),
    list(quote(exact(game_pairs(pairs = 4, players = c("solved", "random")))), "work", "by chance"),
    list(quote(replay(game_pairs(pairs = 4, players = c("solved", "random")), 1, 1)), "work", "by chance"),
    list(quote(player_solved(against = 3)), "input", "`against` must be players"),
    list(quote(game_pairs(players = "solved:against=1")), "input", "`against` must be players"),
    list(quote(player_lookahead(0)), "input", "`samples` must be a whole number"),
    list(quote(player_lookahead(playing = player_solved())), "input", "`playing` must be a player")
  ))
})

test_that("best play against given players is played against others, too", {
  against <- player_solved(game_pairs(pairs = 4, players = c("random", "careful")))
  expect_equal(format(against), "solved:against=random+careful")
  game <- game_pairs(pairs = 4, players = list(against, player_forgetful(0.5)), record = "score_1")
  expect_gt(tidy(simulate(game, 2000, seed = 1))$conf.low[1], 0.5)
  # Against those for whom it was made it has what was promised, and so it has as text.
  alike <- game_pairs(pairs = 4, players = c("solved:against=full_memory+careful", "careful"), record = "score_1")
  law <- exact(alike)
  expect_equal(sum(law$outcomes$score_1 * law$probability),
               best_play(game_pairs(pairs = 4, players = c("full_memory", "careful")))$worth, tolerance = 1e-10)
  expect_error(player_solved(against = "forgetful"), "not \"forgetful:recall=0.7\"", class = "habanera_error_rules")
})

test_that("who looks ahead is no worse than who plays its games out, and is the same on all threads", {
  game <- game_pairs(pairs = 4, players = c("lookahead:samples=10:playing=full_memory", "random"), record = "winner")
  one <- simulate(game, 200, seed = 1, threads = 1)
  expect_equal(one$n, simulate(game, 200, seed = 1, threads = 2)$n)
  # To try each move by games that some player plays out is not worse than to play like that player.
  law <- exact(game_pairs(pairs = 4, players = c("full_memory", "random"), record = "winner"))
  alone <- law$probability[law$outcomes$winner == "1"]
  won <- tidy(one)
  expect_gt(won$estimate[won$term == "winner=1"], alone - standard_errors * sqrt(alone * (1 - alone) / 200))
  expect_equal(format(game$rules$players[[1]]), "lookahead:samples=10:playing=full_memory")
})

test_that("two who look ahead do not wait for each other for ever", {
  both <- simulate(game_pairs(pairs = 4, players = "lookahead:samples=10", record = "turns"), 50, seed = 44)
  expect_true(all(both$outcomes$turns >= 4))
  expect_equal(sum(both$n), 50)
})
