test_that("a person plays at the terminal, stops, goes on, and is judged", {
  file <- withr::local_tempfile(fileext = ".json")
  table <- c("play", "pairs", "--set", "pairs=2", "--set", "seats=1", "--seed", "1", "--person", "1", "--moves", file)
  # The table is 1 2 3 4: a wrong key, a card, and no more.
  stopped <- typed(c("z", "1", "q"), table)
  expect_equal(stopped$status, 0)
  expect_match(stopped$err, "There is no move \"z\"", all = FALSE)
  expect_match(stopped$err, "Last turned", all = FALSE)
  expect_match(stopped$out, "Stopped after 1 move", all = FALSE)
  # What nobody turned stays hidden: only the card turned is named.
  expect_length(grep("\\[", stopped$err), 1)
  # Tries every mate of the first card, then the two that are left; keys of cards that are gone are refused.
  going_on <- typed(c("2", "1", "3", "1", "4", "2", "3", "4"), table)
  expect_match(going_on$out, "after [0-9]+ turns", all = FALSE)
  kept <- jsonlite::fromJSON(file)
  expect_true(kept$over)
  expect_equal(kept$moves[1:2], c(1, 2))
  judged <- judge_moves(file, by = "solved")
  expect_equal(judged$best_worth[1], -8 / 3, tolerance = 1e-12)
  # The cards lie A B B A. Once A and B were seen, two turns are enough if an unseen card is turned first; to turn A
  # again first finds its mate with chance 1/2, and else takes three: half a turn more. Nothing else cost anything.
  expect_equal(judged$choice, 1:7)
  expect_equal(judged$cost, c(0, 0, 0.5, 0, 0, 0, 0), tolerance = 1e-12)
  ran <- run_words("judge", file, "--by", "solved", "--format", "csv")
  expect_equal(ran$status, 0)
  expect_error(sit_in(game_pairs(pairs = 3, seats = 1), file = file), "keeps another game",
               class = "habanera_error_file")
})

test_that("moves are judged by what they are worth in plain R, whatever was played", {
  game <- game_pairs(pairs = 3, seats = 1)
  file <- withr::local_tempfile(fileext = ".json")
  set.seed(5)
  judged <- 0
  for (trial in 1:25) {
    deck <- as.vector(game_decks(game, 1, trial))
    lies <- rep(TRUE, 6)
    first <- 0
    moves <- NULL
    while (any(lies)) {
      open <- setdiff(which(lies), first)
      move <- open[sample.int(length(open), 1)]
      moves <- c(moves, move)
      if (first > 0 && deck[move] == deck[first]) lies[c(move, first)] <- FALSE
      first <- if (first == 0) move else 0
    }
    write_sitting(list(game = game, seed = 1, trial = trial, seat = 1, moves = moves, over = TRUE, file = file))
    found <- judge_moves(file, by = "solved")
    slow <- plain_worths(deck, moves)[found$choice]
    expect_equal(found$best_worth, 0 - vapply(slow, min, 0), tolerance = 1e-9)
    made <- vapply(seq_along(slow), function(i) slow[[i]][[as.character(moves[found$choice[i]])]], 0)
    expect_equal(found$cost, made - vapply(slow, min, 0), tolerance = 1e-9)
    judged <- judged + nrow(found)
  }
  expect_gt(judged, 300)
})

test_that("a person in a function of ours is asked, and what is no session is refused", {
  game <- game_pairs(pairs = 2, seats = 1, players = player_person())
  expect_output(print(game), "players person")
  script <- withr::local_tempfile()
  writeLines(c("suppressMessages(library(habanera))",
               "print(trials(game_pairs(pairs = 1, seats = 1, players = player_person()), 1, 1))"), script)
  input <- withr::local_tempfile()
  writeLines(c("1", "2"), input)
  out <- system2(file.path(R.home("bin"), "Rscript"), script, stdin = input, stdout = TRUE, stderr = FALSE)
  expect_match(out, "nobody|1 +1 +1", all = FALSE)
  other <- withr::local_tempfile(fileext = ".json")
  writeLines("{}", other)
  expect_refusals(list(
    list(quote(judge_moves(other)), "file", "holds no moves"),
    list(quote(judge_moves(5)), "input", "`x` must be what sit_in() gave"),
    list(quote(sit_in(game_high_card())), "input", "flat or counting"),
    list(quote(sit_in(game_pairs(), seat = 3)), "input", "`seat` must be a whole number")
  ), environment())
  expect_equal(run_words("play", "pairs", "--moves", "x.json")$status, 2)
})

test_that("moves that a game does not have are told by their choice, and none are no error", {
  file <- withr::local_tempfile(fileext = ".json")
  game <- game_pairs(pairs = 2, seats = 1)
  kept <- function(moves) {
    sitting <- list(game = game, seed = 1, trial = 1, seat = 1, moves = moves, over = FALSE, file = file)
    habanera:::write_sitting(sitting)
  }
  for (moves in list(c(1, 1), c(1, 99), c(1, 1.5), c(1, -1))) {
    kept(moves)
    expect_error(judge_moves(file), "keeps as choice 2 a move", class = "habanera_error_file")
    expect_error(sit_in(game, file = file), "keeps as choice 2 a move", class = "habanera_error_file")
  }
  kept(numeric())
  expect_equal(nrow(judge_moves(file)), 0)
})
