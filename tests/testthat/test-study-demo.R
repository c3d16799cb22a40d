test_that("the demo answers the hall's questions and leaves a page, reports and figures", {
  folder <- file.path(withr::local_tempdir(), "hall")
  said <- habanera:::lantern_hall_demo(folder)
  expect_match(paste(said, collapse = " "), "The tablet does not draw fairly. Never came: 11P")
  expect_match(paste(said, collapse = " "), "shows no bias")
  expect_match(paste(said, collapse = " "), "Behaves like: a cut in 3[0-9.]+% of trials, else uniform")
  expect_match(paste(said, collapse = " "), "Wash, riffle x4, cut, 55 s by hand")
  # 8 tokens for 660 of 13,244 hands, 3 for 552: the stake at which 15% is kept.
  stake <- (8 * 660 + 3 * 552) / 13244 / 0.85
  expect_match(paste(said, collapse = " "), sprintf("a play must cost %s", signif(stake, 5)))
  all <- gsub(" +", " ", paste(said, collapse = " "))
  kept <- sub(".*The hands table keeps ([0-9.]+)% of every stake.*", "\\1", all)
  slow <- plain_hands_stall(20000)
  expect_lt(abs(as.numeric(kept) / 100 - (1 - mean(slow))), standard_errors * sd(slow) / sqrt(20000))
  expect_match(gsub(" +", " ", paste(said, collapse = " ")),
               "Of those tried 12 are best, in the place of quinces: 83.8%")
  expect_match(gsub(" +", " ", paste(said, collapse = " ")), "36.5% of games never end.* within 1[0-4][.0-9]* minutes")
  expect_match(gsub(" +", " ", paste(said, collapse = " ")),
               "The elder twin is best, with 5[0-9.]+% of the win against the baker")
  expect_match(gsub(" +", " ", paste(said, collapse = " ")),
               "it keeps 0[.]406% of an initial stake, of the ferryman 7[.]66%")
  expect_match(gsub(" +", " ", paste(said, collapse = " ")),
               "The elder twin, who counts .* gains 1[.]1 stakes in a hundred rounds .* The bets follow the count")
  expect_match(gsub(" +", " ", paste(said, collapse = " ")),
               "for the pairs evening[.] And the back table[?] This was not luck")
  expect_match(gsub(" +", " ", paste(said, collapse = " ")),
               "Of a stake most is kept on the .*; in an hour the machine earns most")
  expect_match(gsub(" +", " ", paste(said, collapse = " ")),
               paste("[Aa]t the back table they were not: categories, p < 1e-15; .*",
                     "At the front table nothing is seen by 8 tests"))
  # By hand: the six deals bring 1, 1.8, 1, -1, -1 and -1.
  expect_match(gsub(" +", " ", paste(said, collapse = " ")),
               "Sound play brings seat 1 -0[.]05[56][0-9]* of a coin .* the best answer brings it 0[.]133")
  expect_match(gsub(" +", " ", paste(said, collapse = " ")),
               "The best answer to the ferryman wins 0[.]80[89] antes a hand .* his lines cost him 0[.]1[12]")
  expect_match(gsub(" +", " ", paste(said, collapse = " ")),
               "Of 51 tables by at most two new rules 6 keep from 0[.]8% to 1[.]2%, exactly; .* natural_pays 1[.]4")
  expect_match(gsub(" +", " ", paste(said, collapse = " ")),
               "10 of 10 questions answered[.] Not as it should be: of how long the children play it was expected that")
  expect_setequal(list.files(folder), c(
    "harvest.html", "ferryman-mistakes.csv", "ferryman-mistakes.csv.provenance.json",
    "lanterns.cpp", "sound.html", "ferryman.html", "sound.csv", "sound.csv.provenance.json",
    "index.html", "tablet.html", "fair.html", "volunteers.html", "routine.html", "stall.html", "windfall.html",
    "hands-stall.html", "quick-game.html", "stuck-game.svg", "pairs-table.html",
    "dealt-hands.html", "twenty-one.html", "best-play.csv", "counter-gain.csv", "reserves.csv", "edges.csv",
    "table-tuned.csv", "month-results", "month.html",
    "tablet.svg", "fair.svg", "stall.svg", "windfall.svg",
    "volunteers.svg", "tablet.csv", "tablet.csv.provenance.json", habanera:::demo_data
  ))
  page <- paste(readLines(file.path(folder, "index.html")), collapse = "\n")
  expect_match(page, "habanera draws --deck orchard.csv --file tablet-draws.txt --first-number 0 --expect fair",
               fixed = TRUE)
  expect_no_match_words(page, "https://")
  expect_equal(read_result(file.path(folder, "tablet.csv"))$n[44], 0)
})

test_that("every example script runs", {
  scripts <- list.files(system.file("examples", package = "habanera"), "[.]R$", full.names = TRUE)
  expect_gt(length(scripts), 0)
  # Studies that take minutes are run small.
  withr::local_envvar(SEEDS = 2, TRIALS = 300, CARDS = 12, PROCEDURES = "naive_swap;uniform")
  for (script in scripts) {
    withr::with_dir(withr::local_tempdir(), {
      expect_error(capture.output(source(script, local = new.env(), echo = FALSE)), NA, info = script)
    })
  }
})

test_that("the data come alone, each file told, and what lies there is left as it is", {
  folder <- file.path(withr::local_tempdir(), "data")
  run <- run_words("demo", "--files", folder)
  expect_equal(run$status, 0)
  files <- list.files(folder)
  expect_setequal(files, demo_data)
  told <- paste(run$out, collapse = "\n")
  for (file in files) expect_match(told, paste0("  ", file, " "), fixed = TRUE)
  expect_equal(readLines(file.path(folder, "orchard.csv")), readLines(demo_file("orchard.csv")))
  writeLines("mine", file.path(folder, "orchard.csv"))
  unlink(file.path(folder, "queue.R"))
  again <- run_words("demo", "--files", folder)
  expect_match(tail(again$out, 1), sprintf("%d files lay there already", length(files) - 1))
  expect_equal(readLines(file.path(folder, "orchard.csv")), "mine")
  expect_true(file.exists(file.path(folder, "queue.R")))
  expect_equal(run_words("demo", "--files", file.path(folder, "orchard.csv"))$status, 3)
})
