cheap <- c("games:", "  quick: {game: war, cards_each: 4}", "runs:",
           "  played: {simulate: {object: quick, nsim: 3000}}",
           "  kept: {house_edge: {game_high_card: {}}}")

made_files <- function(folder) utils::read.csv(file.path(folder, "manifest.csv"))$file

test_that("the answers are those of the functions, kept, and never worked out twice", {
  file <- study_file(c(cheap, "expect:", "  played: [rounds_p50 < 1000, ended_never_ends > 0.9]", "  kept: edge < 0.1"))
  folder <- withr::local_tempdir()
  found <- run_study(file, folder)
  expect_identical(found$values$played, simulate(game_war(cards_each = 4), 3000, seed = 44))
  expect_identical(tidy(found$values$kept), tidy(house_edge(game_high_card(), seed = 44)))
  expect_identical(found$expected$holds, c("yes", "no", "yes"))
  printed <- paste(capture.output(print(found)), collapse = " ")
  expect_match(printed, "A trial: 2 of 2 runs answered, 1 expectation not met.", fixed = TRUE)
  expect_match(printed, "ended_never_ends > 0.9: it does not hold;", fixed = TRUE)
  before <- folder_bytes(folder)
  made <- made_files(folder)
  again <- run_study(file, folder)
  expect_identical(again$values, found$values)
  expect_identical(made_files(folder), made)
  expect_identical(folder_bytes(folder), before)
  # One table of all, the same from the folder.
  table <- study_results(folder)
  expect_identical(as.data.frame(table), as.data.frame(tidy(again)))
  edge <- table[table$run == "kept" & table$term == "edge", ]
  expect_equal(edge$estimate, tidy(house_edge(game_high_card()))$estimate)
  expect_s3_class(study_status(read_study(file), folder), "habanera_study_status")
})

test_that("what changed is what is run, more trials are added, and names and comments change nothing", {
  folder <- withr::local_tempdir()
  file <- study_file(cheap)
  run_study(file, folder)
  same <- study_file(c("# as before", gsub("quick", "fast", gsub("kept", "the house", cheap)), ""))
  run_study(same, folder)
  expect_length(made_files(folder), 2)
  more <- sub("nsim: 3000", "nsim: 5000", cheap)
  found <- run_study(study_file(more), folder)
  expect_identical(found$values$played, simulate(game_war(cards_each = 4), 5000, seed = 44))
  expect_match(made_files(folder)[3], "-3001-5000[.]trials$")
  expect_length(list.files(file.path(folder, "runs"), "trials$"), 1)
  # Fewer again: those of them that are wanted are no file, and are played.
  run_study(file, folder)
  expect_match(made_files(folder)[4], "-1-3000[.]trials$")
  # Another seed and another rule are other results, beside these.
  found <- run_study(study_file(sub("cards_each: 4", "cards_each: 5", cheap)), folder)
  expect_length(made_files(folder), 5)
  expect_match(found$changes$change[found$changes$run == "played"], "winner=1 is [0-9.]+, was [0-9.]+")
  run_study(study_file(cheap, seed = 45), folder)
  expect_length(made_files(folder), 7)
})

test_that("what simulate() cannot cut is kept by its trials, too, and odd numbers of trials are refused", {
  folder <- withr::local_tempdir()
  lines <- c("shuffles: {again: {shuffle_retry: {}}}", "runs:",
             "  cost: {simulate: {object: again, nsim: 200, deck: numbered 5}}")
  one <- run_study(study_file(lines), folder)
  two <- run_study(study_file(sub("nsim: 200", "nsim: 400", lines)), folder)
  expect_identical(two$values$cost$n, simulate(shuffle_retry(), nsim = 400, seed = 44, deck = deck_numbered(5))$n)
  expect_false(identical(two$values$cost, one$values$cost))
  for (nsim in c("0", "-5", "2.5", "1e13")) {
    odd <- run_study(study_file(sub("nsim: 3000", paste("nsim:", nsim), cheap)), folder)
    expect_identical(odd$runs$state, c("failed", "done"), info = nsim)
    expect_match(odd$runs$problem[1], "nsim", info = nsim)
  }
  none <- run_study(study_file(sub("nsim: 3000", "nsim: 50, seed: null", cheap)), folder)
  expect_identical(none$values$played, simulate(game_war(cards_each = 4), 50, seed = 44))
})

test_that("a file that is named is part of what decides a result", {
  folder <- withr::local_tempdir()
  beside <- withr::local_tempdir()
  writeLines(c("game: high_card", "packs: 2", "# words"), file.path(beside, "table.yaml"))
  file <- study_file(c("games: {table: table.yaml}", "runs:", "  a: {house_edge: table}"), folder = beside)
  one <- run_study(file, folder)
  writeLines(c("game: high_card", "packs: 1"), file.path(beside, "table.yaml"))
  two <- run_study(file, folder)
  expect_length(made_files(folder), 2)
  expect_equal(tidy(one$values$a)$estimate, tidy(house_edge(game_high_card(packs = 2)))$estimate)
  expect_equal(tidy(two$values$a)$estimate, tidy(house_edge(game_high_card(packs = 1)))$estimate)
  expect_match(two$changes$change, "main edge is [0-9.]+%, was [0-9.]+%")
})

test_that("games of one's own are answered with the file that the study names", {
  beside <- withr::local_tempdir()
  file.copy(demo_file("queue.R"), beside)
  file <- study_file(c("games: {queue: queue.R}", "runs:", "  played: {simulate: {object: queue, nsim: 300}}",
                       "  sound: {check_game: {game: queue, nsim: 20}}"), folder = beside)
  folder <- withr::local_tempdir()
  found <- run_study(file, folder)
  expect_identical(found$runs$state, c("done", "done"))
  again <- run_study(file, folder)
  expect_identical(as.data.frame(again$values$played), as.data.frame(found$values$played))
  expect_length(made_files(folder), 2)
  cat("# other code\n", file = file.path(beside, "queue.R"), append = TRUE)
  run_study(file, folder)
  expect_length(made_files(folder), 4)
})

test_that("a run that fails stops no other, and is told", {
  file <- study_file(c("games: {quick: {game: war, cards_each: 4}, bad: {game: war, cards_each: 99}}", "runs:",
                       "  good: {simulate: {object: quick, nsim: 100}}",
                       "  bad one: {simulate: {object: bad, nsim: 100}}",
                       "  on it: {summary: bad one}", "  no result: {rules: quick}"))
  found <- run_study(file, withr::local_tempdir())
  expect_identical(found$runs$state, c("done", "failed", "failed", "failed"))
  expect_match(found$runs$problem[2], "line 3, games: bad: 2 seats with 99 cards each need 198")
  expect_match(found$runs$problem[3], "It refers to \"bad one\", which has no answer", fixed = TRUE)
  expect_match(found$runs$problem[4], "which is no result", fixed = TRUE)
  expect_match(paste(capture.output(print(found)), collapse = " "), "1 of 4 runs answered, 3 failed", fixed = TRUE)
  page <- withr::local_tempfile(fileext = ".html")
  report(found, page)
  expect_match(paste(readLines(page), collapse = " "), "What failed")
})

test_that("a damaged result is told and made again; a folder of another study is refused", {
  file <- study_file(cheap)
  folder <- withr::local_tempdir()
  run_study(file, folder)
  whole <- folder_bytes(folder)
  for (name in list.files(file.path(folder, "runs"), full.names = TRUE)) {
    bytes <- readBin(name, "raw", 1e6)
    for (broken in list(raw(), bytes[1:20], utils::head(bytes, -1), replace(bytes, 200, xor(bytes[200], as.raw(1))))) {
      writeBin(broken, name)
      expect_message(run_study(file, folder), "is damaged", class = "habanera_message")
      expect_identical(folder_bytes(folder), whole)
    }
  }
  expect_error(run_study(study_file(cheap, title = "Another"), folder),
               "is of another study, \"A trial\", not of \"Another\": name another folder",
               class = "habanera_error_study")
  expect_error(study_results(withr::local_tempdir()), "is no folder of a study", class = "habanera_error_study")
  writeLines("{}", file.path(folder, "study.json"))
  expect_error(run_study(file, folder), "does not tell of which study", class = "habanera_error_study")
})

test_that("a full disk is told, nothing is half-written, and what was done is kept", {
  skip_if_not(identical(Sys.info()[["effective_user"]], "root") && nzchar(Sys.which("mount")))
  disk <- withr::local_tempdir()
  if (system2("mount", c("-t", "tmpfs", "-o", "size=200k", "tmpfs", disk), stderr = FALSE) != 0) skip("no mount")
  withr::defer(system2("umount", disk))
  file <- study_file(c("runs:", "  small: {house_edge: {game_high_card: {}}}",
                       "  large: {audit: {procedure: riffle x2, nsim: 400}}"))
  expect_error(run_study(file, file.path(disk, "kept")), "Cannot write", class = "habanera_error_file")
  expect_length(list.files(file.path(disk, "kept", "runs"), "result$", all.files = TRUE), 1)
  expect_identical(study_status(read_study(file), file.path(disk, "kept"))$state, c("done", "to do"))
})

test_that("an interrupt keeps what was answered, and says so", {
  file <- study_file(c("games: {quick: {game: war}}", "runs:", "  a: {house_edge: {game_high_card: {}}}",
                       "  b: {simulate: {object: quick, nsim: 1e9}}"))
  folder <- withr::local_tempdir()
  code <- sprintf("habanera::run_study(%s, %s)", deparse(file), deparse(folder))
  script <- withr::local_tempfile(fileext = ".R")
  writeLines(code, script)
  ran <- run_shell(sprintf(paste("set -m; Rscript %s > %s.out 2>&1 & pid=$!;",
                                 "while kill -0 $pid && ! ls %s/runs/*.result >/dev/null 2>&1; do sleep 0.1; done;",
                                 "sleep 1; kill -INT -- -$pid; wait $pid; cat %s.out"), script, script, folder, script))
  expect_match(paste(ran$out, collapse = " "), "Interrupted: 1 of 2 runs are answered, and are kept", fixed = TRUE)
  expect_identical(study_status(read_study(file), folder)$state, c("done", "begun"))
})
