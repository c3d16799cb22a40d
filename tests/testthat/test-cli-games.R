test_that("in the shell, too, a game without an end is longer than any", {
  play <- function(wish) {
    run_words("play", "war", "--set", "collect=seat_order", "--set", "face_down=0", "--trials", "300", "--seed", "1",
              "--record", "rounds", "--expect", wish)
  }
  expect_equal(play("rounds_p90 <= 200")$status, 1)
  expect_match(play("rounds_p90 <= 200")$err, "rounds_p90 is Inf", all = FALSE)
})

test_that("the shell lists, plays and works out games as R does", {
  listed <- run_words("games", "war", "--format", "csv")
  expect_equal(data.table::fread(text = listed$out, data.table = FALSE)$rule, games("war")$rule)
  expect_match(run_words("games")$out[1], "^baccarat: ")
  ran <- run_words("play", "war", "--set", "face_down=1", "--set", "cards_each=13", "--seat-names",
                   "baker,ferryman", "--trials", "3000", "--seed", "9", "--format", "csv")
  game <- game_war(face_down = 1, cards_each = 13, seat_names = c("baker", "ferryman"))
  written <- data.table::fread(text = ran$out, data.table = FALSE)
  expect_equal(written, as.data.frame(simulate(game, nsim = 3000, seed = 9)))
  exactly <- run_words("play", "war", "--deck", "numbered 6", "--record", "winner", "--exact", "--format", "json")
  expect_equal(jsonlite::fromJSON(exactly$out)$table$probability, c(0.5, 0.5))
  lazy <- run_words("play", "war", "--shuffle", "riffle", "--trials", "500", "--seed", "1", "--format", "csv")
  expect_equal(data.table::fread(text = lazy$out, data.table = FALSE, colClasses = c(winner = "character")),
               as.data.frame(simulate(game_war(shuffle = "riffle"), nsim = 500, seed = 1)))
})

test_that("expectations name quantiles and seats", {
  played <- c("play", "war", "--set", "cards_each=5", "--trials", "2000", "--seed", "3")
  expect_equal(run_words(played, "--expect", "rounds_p90 < 60 & winner_1 > 0.4 & ended_never_ends < 0.1")$status, 0)
  failed <- run_words(played, "--expect", "rounds_p75 > 60")
  expect_equal(failed$status, 1)
  expect_match(failed$err, "but rounds_p75 is")
  named <- run_words(played, "--seat-names", "the baker,ferryman", "--expect", "winner_the_baker > 0.4")
  expect_equal(named$status, 0)
})

test_that("the shell replays a game, and finds the one asked for", {
  asked <- c("replay", "war", "--set", "collect=seat_order", "--set", "cards_each=6", "--seed", "1")
  game <- game_war(collect = "seat_order", cards_each = 6)
  ran <- run_words(asked, "--trial", "4", "--format", "json")
  expect_equal(jsonlite::fromJSON(ran$out)[["table"]]$cards, replay(game, 1, 4)$cards)
  found <- run_words(asked, "--longest", "rounds", "--trials", "300", "--from", "5", "--steps", "3")
  trace <- replay(simulate(game, nsim = 300, seed = 1), longest = "rounds")
  expect_match(found$out[3], sprintf("after %s rounds", max(trace$round)))
  expect_equal(sum(grepl("^ +[5-7] ", found$out)), 3)
  where <- run_words(asked, "--where", "ended == \"never_ends\"", "--trials", "300", "--steps", "1")
  expect_match(where$out[3], "never_ends")
  stepped <- run_shell("printf '\\n\\n' | habanera replay war --seed 1 --pause --from 2")
  expect_equal(stepped$status, 0)
  expect_equal(sum(grepl("^ +[234] ", stepped$out)), 3)
})

test_that("the shell varies rules, and starts from piles and files of rules", {
  ran <- run_words("vary", "war", "--over", "face_down=0:1", "--over", "cards_each=5,6", "--trials", "200", "--seed",
                   "2", "--format", "csv")
  varied <- vary_rules(game_war(), face_down = 0:1, cards_each = c(5, 6), nsim = 200, seed = 2)
  written <- data.table::fread(text = ran$out, data.table = FALSE)
  expect_equal(written$estimate, varied$estimate, tolerance = 1e-12)
  expect_equal(written$term, varied$term)
  figure <- withr::local_tempfile(fileext = ".svg")
  expect_equal(run_words("vary", "war", "--over", "tie=split,discard", "--trials", "50", "--seed", "1", "--figure",
                         figure, "--seconds-per-round", "6", "--within", "15")$status, 0)
  expect_true(file.exists(figure))
  page <- withr::local_tempfile(fileext = ".html")
  expect_equal(run_words("vary", "war", "--over", "cards_each=4,5", "--trials", "50", "--seed", "1", "--report", page,
                         "--out", withr::local_tempfile())$status, 0)
  expect_true(any(grepl("vary_rules(game_war(), cards_each = c(4, 5), nsim = 50, seed = 1)", readLines(page),
                        fixed = TRUE)))
  piles <- withr::local_tempfile(fileext = ".txt")
  writeLines(c("baker:", "AS KD", "ferryman:", "2C 3C"), piles)
  rules <- withr::local_tempfile(fileext = ".yaml")
  write_rules(game_war(face_down = 1), rules)
  played <- run_words("play", "war", "--piles", piles, "--rules", rules, "--trials", "10", "--seed", "1")
  expect_true(any(grepl("winner=baker: 100%", played$out)))
  expect_match(paste(played$out, collapse = " "), "face_down 1")
})

test_that("bad words of games are refused with status 2", {
  piles <- withr::local_tempfile(fileext = ".txt")
  writeLines(c("baker:", "AS", "ferryman:", "9Z"), piles)
  expect_bad_usage(list(
    list(c("play"), "it needs the name of a game"),
    list(c("play", "wra"), "There is no game \"wra\""),
    list(c("play", "war", "--set", "facedown=1"), "did you mean \"face_down\""),
    list(c("play", "war", "--set", "face_down"), "takes a rule and its value"),
    list(c("play", "war", "--set", "tie=split", "--set", "face_down=1"), "goes with `tie = \"war\"`"),
    list(c("play", "war", "--set", "cards_each=40"), "the deck has 52"),
    list(c("play", "war", "--expect", "round < 3"), "did you mean \"rounds\""),
    list(c("play", "war", "--piles", piles), "line 4: unknown card \"9Z\""),
    list(c("play", "war", "--record", "round"), "did you mean \"rounds\""),
    list(c("replay", "war"), "it needs --seed"),
    list(c("replay", "war", "--seed", "1", "--trial", "2", "--longest", "rounds"), "exclude each other"),
    list(c("replay", "war", "--seed", "1", "--pause", "--format", "json"), "--pause shows steps"),
    list(c("replay", "war", "--seed", "1", "--where", "system(\"id\") == 1"), "cannot be used"),
    list(c("vary", "war"), "it needs --over"),
    list(c("vary", "war", "--over", "tie=war,splt"), "did you mean \"split\""),
    list(c("games", "whist"), "or \"war\", not \"whist\"")
  ))
})

test_that("the shell compares games, prices cards and says how many draws are needed, as R does", {
  compared <- run_words("compare", "war", "--other", "face_down=1", "--trials", "2000", "--seed", "1", "--format",
                        "csv")
  expect_equal(utils::read.csv(text = compared$out)$estimate,
               tidy(compare(game_war(), game_war(face_down = 1), nsim = 2000, seed = 1))$estimate)
  told <- run_words("compare", "war", "--other", "face_down=1", "--trials", "2000", "--seed", "1")
  expect_match(told$out[4], "Rounds: [0-9.]+ more in y on average")
  impact <- run_words("impact", "war", "--by", "rank", "--trials", "2000", "--seed", "1", "--format", "csv")
  expect_equal(utils::read.csv(text = impact$out)$estimate, card_impact(game_war(), "rank", nsim = 2000,
                                                                        seed = 1)$estimate)
  needed <- run_words("needed", "--deck", demo_file("orchard.csv"), "--size", "3", "--off-by", "0.05", "--format",
                      "csv")
  expect_equal(utils::read.csv(text = needed$out)$trials,
               draws_needed(deck_from(demo_file("orchard.csv")), 3, off_by = 0.05)$trials)
  expect_bad_usage(list(
    list(c("compare", "war"), "it needs --other"),
    list(c("compare", "war", "--other", "tie=wra"), "`tie` must be"),
    list(c("impact", "war", "--by", "colour"), "`attribute` must be"),
    list(c("needed", "war"), "one word too many")
  ))
})

test_that("rules are varied with intervals, differences and a wish; contradictions are passed over", {
  run <- c("vary", "war", "--over", "face_down=0:1", "--over", "tie=war,split", "--trials", "2000", "--seed", "1")
  told <- run_words(run, "--want", "rounds_p90 < 560 & winner_1 > 0.4")
  expect_match(paste(told$err, collapse = " "), "2 combinations that contradict themselves passed over")
  text <- paste(told$out, collapse = " ")
  expect_match(text, "is surely met by [01] of 2 combinations")
  expect_match(text, "Against the first row, on the same deals")
  table <- suppressMessages(vary_rules(game_war(), face_down = 0:2, nsim = 2000, seed = 1, want = "rounds_p90 < 100"))
  expect_equal(unique(table$meets), "no")
  pair <- tidy(compare(game_war(face_down = 0), game_war(face_down = 2), nsim = 2000, seed = 1))
  row <- table[table$face_down == 2 & table$term == "rounds", ]
  expect_equal(row$difference, pair$estimate[pair$term == "rounds"])
  expect_true(all(is.na(table$difference[table$face_down == 0])))
  expect_error(vary_rules(game_war(), face_down = 0:1, nsim = 10, want = "round_p90 < 3"), "did you mean",
               class = "habanera_error_language")
  expect_error(vary_rules(game_war(), tie = c("split", "discard"), face_down = 1, nsim = 10), "No combination",
               class = "habanera_error_rules")
})
