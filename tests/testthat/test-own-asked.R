# A game whose seat 1 is asked in every form of moves, and tells what it got.
forms_of_moves <- list(whole = 1:3, double = c(1, 2.5, 4), text = c("a", "b", "c"), one = 7L, flags = c(FALSE, TRUE),
                       named = c(x = 1, y = 2), parts = list(1, "b", 1:2), level = factor(c("u", "v")))
asked_game <- function(players, forms = names(forms_of_moves)) {
  game_custom("asked", deck_numbered(6), function(table, rules, players) {
    got <- vapply(forms, function(form) {
      move <- table$ask(1, list(form = form), forms_of_moves[[form]])
      which(vapply(seq_along(forms_of_moves[[form]]), function(i) identical(forms_of_moves[[form]][[i]], move), NA))
    }, 0L)
    table$shuffle("stock")
    table$move("stock", "shown", n = table$random(3))
    list(got = sum(got * 4^(seq_along(got) - 1)), shown = sum(table$cards("shown")))
  }, list(got = outcome_whole("places of the moves"), shown = outcome_whole("what is shown")), players = players)
}

test_that("players are asked in the core or, where somebody looks on, in R, and choose the same", {
  by_luck <- asked_game(player_random())
  answers <- asked_game(player_with(function(view, moves) moves[[sample.int(length(moves), 1)]]))
  for (game in list(by_luck, answers)) {
    found <- trials(game, 5, 1:20)
    expect_gt(length(unique(found$got)), 10)
    for (trial in 1:20) {
      replayed <- attr(replay(game, seed = 5, trial = trial), "outcome")
      expect_equal(unlist(replayed[c("got", "shown")]), unlist(found[trial, c("got", "shown")]), ignore_attr = TRUE)
    }
  }
})

test_that("an answer is found whatever its type, and a player is called once for each choice", {
  calls <- 0
  answering <- function(answer) {
    asked_game(player_with(function(view, moves) {
      calls <<- calls + 1
      answer(view, moves)
    }), c("whole", "double", "text"))
  }
  # Each time the second of the moves: 1 more than nothing in every place.
  second <- sum(2 * 4^(0:2))
  as_text <- answering(function(view, moves) as.character(moves[2]))
  expect_equal(trials(as_text, 1, 1)$got, second)
  expect_equal(calls, 3)
  expect_equal(trials(answering(function(view, moves) list(whole = 2, double = 2.5, text = factor("b"))[[view$form]]),
                      1, 1)$got, second)
  expect_equal(trials(answering(function(view, moves) c(n = moves[[2]])), 1, 1)$got, second)
  for (wrong in list(NA, NULL, "z", 99, 1:2, list(), TRUE)) {
    expect_error(trials(answering(function(view, moves) wrong), 4, 7), "player of seat 1 must return one of its moves",
                 class = "habanera_error_function")
  }
})

test_that("what fails in a player or goes on for ever is told with the step, in the core as in R", {
  fails <- asked_game(player_with(function(view, moves) if (view$form == "text") stop("no idea") else moves[[1]]))
  expect_error(trials(fails, 4, 2), "The player of seat 1 failed: no idea. \\(step 3\\)",
               class = "habanera_error_function")
  expect_error(replay(fails, seed = 4, trial = 2), "The player of seat 1 failed: no idea. \\(step 3\\)")
  endless <- game_custom("endless", deck_numbered(2), function(table, rules, players) {
    repeat table$ask(1, list(), 1:2)
  }, list(x = outcome_whole("x")))
  expect_error(trials(endless, 1, 1), "does not end in 200,000 steps", class = "habanera_error_function")
  moves <- game_custom("moves", deck_numbered(2), function(table, rules, players) {
    repeat for (pile in c("stock", "shown")) table$move(pile, setdiff(c("stock", "shown"), pile))
  }, list(x = outcome_whole("x")))
  expect_error(trials(moves, 1, 1), "does not end in 200,000 steps", class = "habanera_error_function")
})

test_that("outcomes are read alike in the core and in R", {
  returning <- function(value, ...) {
    outcomes <- list(size = outcome_whole("a size"), who = outcome_seat("who"), ...)
    trials(game_custom("out", deck_numbered(2), function(table, rules, players) value, outcomes, seats = 2), 1, 1)
  }
  expect_equal(returning(list(size = 3L, who = 2))$size, 3)
  expect_equal(returning(list(size = -4, who = 0L))$size, -4)
  # By name, in whatever order; named numbers do as well.
  expect_equal(returning(c(size = 3, who = 1))$size, 3)
  expect_equal(returning(list(who = 1, size = 3))$size, 3)
  with_kind <- returning(list(size = 1, who = 1, kind = "b"), kind = outcome_choice(c("a", "b"), "a kind"))
  expect_equal(as.character(with_kind$kind), "b")
  for (case in list(list(list(size = 1.5, who = 1), "`size` as a whole number"),
                    list(list(size = Sys.Date(), who = 1), "`size` as a whole number"),
                    list(list(size = 1, who = 3), "`who` as a seat"),
                    list(list(size = 1, who = 0.5), "`who` as a seat"),
                    list(list(size = 1), "forgotten the outcome `who`"))) {
    expect_error(returning(case[[1]]), case[[2]], class = "habanera_error_function")
  }
})

test_that("who looks ahead plays the same from any table, shuffles of hidden cards among it", {
  # Two cards each of a shuffled row; the higher of what is laid wins. Who holds 6 lays it.
  duel <- game_custom("duel", deck_numbered(6), function(table, rules, players) {
    table$move("stock", "row", n = 6)
    table$move("row", "stock", n = 6)
    table$shuffle("stock")
    table$deal("stock", c("hand_1", "hand_2"), 2)
    laid <- vapply(1:2, function(seat) {
      hand <- sprintf("hand_%d", seat)
      table$move(hand, "row", at = table$ask(seat, list(hand = table$cards(hand)), 1:2))
    }, 0L)
    list(winner = which.max(laid), laid = laid[1], best = max(laid[1], table$cards("hand_1")))
  }, list(winner = outcome_seat("who has the higher"), laid = outcome_whole("by seat 1"),
          best = outcome_whole("of seat 1")),
  piles = c(stock = "hidden", row = "open", hand = "own"), seats = 2,
  players = list(player_lookahead(30), player_random()))
  found <- trials(duel, 2, 1:12)
  # Of who holds the highest, only the second highest is as good.
  expect_true(all(found$laid[found$best == 6] >= 5))
  expect_equal(trials(duel, 2, 12:1)$laid, rev(found$laid))
  replayed <- attr(replay(duel, seed = 2, trial = 4), "outcome")
  expect_equal(replayed$laid, found$laid[4])
})

test_that("who looks ahead has seen what lies open before anything happens, and notes may say anything", {
  # The deck lies open at once; who names its first card wins.
  named <- game_custom("named", deck_numbered(3), function(table, rules, players) {
    said <- table$ask(1, list(), 1:3)
    table$note(c("it says", said), seat = "all")
    list(winner = if (said == table$look("market")) 1 else 2)
  }, list(winner = outcome_seat("who wins")), piles = c(market = "open", away = "hidden"), seats = 2,
  players = list(player_lookahead(3), player_random()))
  expect_true(all(trials(named, 4, 1:12)$winner == "1"))
})
