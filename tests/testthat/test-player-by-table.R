sly <- function() data.frame(sees = rep(c("card: 1; made:", "card: 2; made:"), each = 2), move = c("check", "bet 1"),
                             chance = c(2 / 3, 1 / 3, 1, 0))

test_that("a table is read from a frame, a file and a text, and is the same each time", {
  player <- player_by_table(sly(), "sly: 1, (2)")
  expect_s3_class(player, "habanera_player")
  expect_equal(as.data.frame(player), sly())
  expect_output(print(player), "sly: 1, (2), by a table of 4 chances", fixed = TRUE)
  file <- withr::local_tempfile(fileext = ".csv")
  # With an index column, as spreadsheets leave it, and a note.
  write.csv(cbind(sly(), note = "mine"), file)
  expect_equal(as.data.frame(player_by_table(file)), sly())
  expect_equal(player_by_table(file)$label, basename(file))
  again <- player_from_text(as.character(player), NULL)
  expect_identical(again$rows$chance, player$rows$chance)
  expect_equal(again$label, "sly: 1, (2)")
  # In the shell a file is named.
  full <- as.data.frame(equilibrium(lanterns(), gap = 0.01))
  write.csv(full, file, row.names = FALSE)
  game <- lanterns(players = c(file, "random"))
  expect_equal(game$rules$players[[1]]$rows$move, full$move)
  result <- withr::local_tempfile(fileext = ".csv")
  write_result(equilibrium(lanterns(), gap = 0.01), result)
  expect_equal(as.data.frame(player_by_table(read_result(result)))$chance, full$chance, tolerance = 1e-15)
})

test_that("what is no table of chances is refused with its row", {
  spoilt <- function(column, row, value) {
    table <- sly()
    table[[column]][row] <- value
    player_by_table(table)
  }
  expect_refusals(list(
    list(quote(player_by_table(3)), "input", "`table` must be a data frame"),
    list(quote(player_by_table(sly()[-2])), "input", "`move` lacks"),
    list(quote(player_by_table(sly()[0, ])), "input", "there is no row"),
    list(quote(spoilt("chance", 3, 0.9)), "input", "come to 0.9"),
    list(quote(spoilt("chance", 1, -1)), "input", "Row 1 of the table of chances: `chance` must be a number"),
    list(quote(spoilt("chance", 2, NA)), "input", "Row 2"),
    list(quote(spoilt("chance", 2, "often")), "input", "Row 2"),
    list(quote(spoilt("move", 2, "check")), "input", "\"check\" is there twice for \"card: 1; made:\""),
    list(quote(player_by_table(cbind(sly(), seat = 0))), "input", "`seat` must be a whole number from 1, not 0"),
    list(quote(player_by_table("nowhere.csv")), "file", "nowhere.csv"),
    list(quote(lanterns(players = spoilt("move", 1, "chekc"))), "rules", "did you mean \"check\""),
    list(quote(simulate(lanterns(players = player_by_table(sly())), 100, seed = 1)), "function", "has no row for"),
    list(quote(exact(lanterns(players = player_by_table(sly())))), "function", "has no row for"),
    list(quote(game_pairs(players = player_by_table(sly()))), "input", "`players` must be"),
    list(quote(player_peeking("dealer")), "input", "`sees` must be"),
    list(quote(player_peeking(how_often = 2)), "input", "`how_often` must be a number"),
    list(quote(lanterns(players = player_lookahead(5, "tmid"))), "input", "not \"tmid\""),
    list(quote(game_pairs(players = player_lookahead(5, player_by_table(sly())))), "input", "not \"table\"")
  ))
})

test_that("moves have amounts in views, tables and logs", {
  game <- lanterns(4, bet = 5, bets = 3)
  seen <- list()
  player <- player_with(function(view, moves) {
    seen[[length(seen) + 1]] <<- list(view = view, moves = moves)
    moves[length(moves)]
  }, "the boldest")
  trace <- replay(change_rules(game, players = player), seed = 1)
  expect_equal(seen[[1]]$moves, c("check", "bet 5", "bet 10", "bet 15"))
  expect_equal(seen[[2]]$view$made, "bet 15")
  expect_equal(seen[[2]]$moves, c("fold", "call"))
  expect_output(print(trace), "seat 1 chooses bet 15")
  expect_equal(attr(trace, "outcome")$shown, "yes")
  expect_equal(abs(attr(trace, "outcome")$net_1), 16)
})

test_that("a player of a game in R finds nothing to read but its view", {
  found <- NULL
  peeks <- player_with(function(view, moves) {
    found <<- setdiff(ls(parent.frame(), all.names = TRUE), ls(baseenv(), all.names = TRUE))
    moves[1]
  }, "peeks")
  game <- game_custom(
    "hides", deck_numbered(4),
    function(table, rules, players) {
      card <- table$move("stock", "away")
      said <- table$ask(1, list(nothing = 0), c("low", "high"))
      list(right = (card > 2) == (said == "high"))
    },
    outcomes = list(right = outcome_flag("the guess is right")), piles = c(stock = "hidden", away = "hidden"),
    players = peeks
  )
  # The core asks from nowhere; where somebody looks on, what is asked alone stands in the frame.
  trials(game, 1, 1)
  expect_identical(found, character())
  replay(game, seed = 1)
  expect_setequal(found, c("f", "view", "moves"))
})

test_that("a person is asked with amounts, and what was played comes back from a file", {
  file <- system.file("examples", "lanterns.cpp", package = "habanera")
  lanterns()
  ran <- typed(c("6", "3", "3"), "play", file, "--deck", "numbered 4", "--set", "bet=5", "--set", "bets=3", "--seed",
               "1", "--person", "1")
  expect_equal(ran$status, 0)
  expect_match(ran$err, "1 check, 4 bet 5, 5 bet 10, 6 bet 15", all = FALSE)
  table <- player_by_table(equilibrium(lanterns(), gap = 0.01), "sound")
  seated <- lanterns(players = list(table, "timid"))
  counts <- simulate(seated, 2000, seed = 1)
  kept <- withr::local_tempfile(fileext = ".json")
  write_result(counts, kept)
  again <- read_result(kept, game = seated)
  expect_equal(again$n, counts$n)
  met <- round_robin(lanterns(), list(sound = table, timid = "timid", random = player_random()), nsim = 500, seed = 1)
  scores <- tidy(met)
  expect_gt(scores$estimate[scores$term == "sound"], scores$estimate[scores$term == "timid"])
})

test_that("tables are drawn as strips, and two cards as a grid", {
  strips <- ggplot2::autoplot(player_by_table(sound_second))
  expect_equal(sum(ggplot2::layer_data(strips)$xmax - ggplot2::layer_data(strips)$xmin), 6)
  grid <- ggplot2::autoplot(player_by_table(data.frame(
    holding = c("any pair", "A K suited", "7 2"), actions = "", fold = c(0, 0.5, 1), `all in` = c(1, 0.5, 0),
    check.names = FALSE), "bold"))
  drawn <- ggplot2::layer_data(grid, 2)
  # Thirteen pairs, a hand of one suit, and one of each kind that is never played.
  expect_equal(c(sum(drawn$label == "all"), sum(drawn$label == "50%"), sum(drawn$label == "")), c(13, 1, 2))
})
