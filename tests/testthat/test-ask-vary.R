# A game that says how often it was played; at game `at` something happens.
counted_game <- function(at = Inf, happens = rlang::interrupt) {
  games <- new.env()
  games$played <- 0
  game <- game_custom("counted", deck_numbered(5), function(table, rules, players) {
    games$played <- games$played + 1
    if (games$played == at) happens()
    list(value = table$of$rank[table$move("stock", "open")] + rules$more)
  }, rules = list(rule_whole("more", 0, 0, 9, "what is added")), outcomes = list(value = outcome_whole("points")),
  piles = c(stock = "hidden", open = "open"))
  list(game = game, played = function() games$played)
}

# What compare() and simulate() make of each combination apart, which play it thrice.
each_apart <- function(games, nsim, seed) {
  do.call(rbind, lapply(games, function(game) {
    alone <- tidy(simulate(game, nsim = nsim, seed = seed))
    beside <- tidy(compare(games[[1]], game, nsim = nsim, seed = seed))
    at <- match(alone$term, beside$term)
    data.frame(term = alone$term, estimate = alone$estimate, conf.low = alone$conf.low,
               difference = beside$estimate[at], difference.low = beside$conf.low[at], differed = beside$differed[at])
  }))
}

expect_played_apart <- function(varied, games, nsim, seed) {
  apart <- each_apart(games, nsim, seed)
  others <- seq_len(nrow(apart)) > nrow(apart) / length(games)
  expect_equal(as.list(varied)[c("term", "estimate", "conf.low")], as.list(apart)[c("term", "estimate", "conf.low")])
  expect_equal(as.list(varied[others, ])[names(apart)[4:6]], as.list(apart[others, ])[names(apart)[4:6]])
}

test_that("a combination is played once, and what is told is what each apart would tell", {
  war <- game_war(cards_each = 4)
  expect_played_apart(vary_rules(war, face_down = 0:2, nsim = 400, seed = 3),
                      lapply(0:2, function(down) change_rules(war, face_down = down)), 400, 3)
  # A trial that holds many rounds.
  shoe <- game_baccarat(cut_after = 20)
  expect_played_apart(vary_rules(shoe, packs = c(1, 2), nsim = 60, seed = 3, threads = 2),
                      lapply(c(1, 2), function(packs) change_rules(shoe, packs = packs)), 60, 3)
  counted <- counted_game()
  varied <- vary_rules(counted$game, more = 0:2, nsim = 300, seed = 3)
  expect_equal(counted$played(), 900)
  expect_played_apart(varied, lapply(0:2, function(more) change_rules(counted$game, more = more)), 300, 3)
})

test_that("trials beyond what a game remembers are played again, and nothing else changes", {
  remembered <- core_trial_memory(50, 120)
  game <- game_war(cards_each = 4)
  kept <- game
  kept$spec$memory <- remembered
  whole <- tidy(simulate(game, nsim = 200, seed = 3))
  for (time in 1:2) expect_equal(tidy(simulate(kept, nsim = 200, seed = 3, threads = 2)), whole)
  # What is remembered is of the columns recorded: of others nothing is.
  pair <- new_game_pair(kept, recording(game, "rounds"), NULL)
  expect_null(pair$x$spec$memory)
  expect_equal(tidy(simulate(pair, nsim = 200, seed = 3))$estimate, 0)
})

test_that("a grid that was stopped goes on from its checkpoint, and plays nothing twice", {
  file <- withr::local_tempfile()
  whole <- vary_rules(counted_game()$game, more = 0:3, nsim = 200, seed = 3)
  stopped <- counted_game(at = 450)
  expect_warning(part <- vary_rules(stopped$game, more = 0:3, nsim = 200, seed = 3, checkpoint = file),
                 class = "habanera_warning_interrupted")
  expect_equal(attr(part, "part"), "2 of 4 combinations")
  rest <- counted_game()
  expect_equal(as.data.frame(vary_rules(rest$game, more = 0:3, nsim = 200, checkpoint = file)), as.data.frame(whole))
  # The first once more, beside two others.
  expect_equal(rest$played(), 600)
  again <- counted_game()
  expect_equal(as.data.frame(vary_rules(again$game, more = 0:3, nsim = 200, checkpoint = file)), as.data.frame(whole))
  expect_equal(again$played(), 0)
  other <- function(...) vary_rules(again$game, more = 0:3, checkpoint = file, ...)
  expect_error(other(nsim = 100), "of another grid, with seed 3", class = "habanera_error_checkpoint")
  expect_error(other(nsim = 200, seed = 4), "of another grid, with seed 3", class = "habanera_error_checkpoint")
  expect_equal(attr(other(nsim = 100, seed = 4, anew = TRUE), "seed"), 4)
  expect_error(vary_rules(game_high_card(), packs = 1:2, of = "edge", checkpoint = file), "goes with what is played",
               class = "habanera_error_input")
  # A folder that goes away is told, and the grid goes on.
  folder <- withr::local_tempdir()
  lost <- counted_game(at = 250, function() unlink(folder, recursive = TRUE))
  in_it <- file.path(folder, "grid")
  expect_warning(kept <- vary_rules(lost$game, more = 0:3, nsim = 200, seed = 3, checkpoint = in_it),
                 class = "habanera_warning_unwritten")
  expect_equal(as.data.frame(kept), as.data.frame(whole))
})

test_that("the shell keeps a grid and goes on from it, and tries a portion of all rules", {
  file <- withr::local_tempfile()
  vary <- function(...) {
    run_words("vary", "war", "--over", "cards_each=4,5", "--trials", "200", "--checkpoint", file, "--format", "csv",
              ...)
  }
  first <- vary("--seed", "3")
  expect_equal(first$status, 0)
  expect_equal(vary()$out, first$out)
  expect_equal(vary("--seed", "4")$status, 3)
  expect_match(paste(vary("--seed", "4")$err, collapse = " "), "of another grid, with seed 3")
  skip_if_not_installed("lhs")
  tried <- run_words("rule-effects", "high_card", "--over", "ties=bank,push,half_back", "--over", "packs=1,2,6",
                     "--over", "pays=1,0.95", "--portion", "0.8", "--seed", "3")
  expect_match(paste(tried$out, collapse = " "), "of 18 combinations, by least squares")
})
