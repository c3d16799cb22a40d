test_that("a result keeps the call that made it, with what its variables held, and the seed that was drawn", {
  table <- game_high_card(packs = 6)
  found <- edge_table(`two words` = table, rounds_per_hour = 70)
  expect_equal(attr(found, "made")$r,
               "x <- edge_table(`two words` = game_high_card(packs = 6), rounds_per_hour = 70)")
  again <- new.env()
  eval(parse(text = attr(found, "made")$r), again)
  expect_equal(as.data.frame(again$x), as.data.frame(found))
  loops <- audit(shuffle_naive_swap(), deck_numbered(5), nsim = 300, threads = 1)
  expect_match(attr(loops, "made")$r, "seed = [0-9]+[)]$")
  expect_no_match_words(attr(loops, "made")$r, "threads")
  eval(parse(text = attr(loops, "made")$r), again)
  expect_equal(tidy(again$x), tidy(loops))
})

test_that("what is made by a command tells the words that were typed, and a file keeps them", {
  file <- withr::local_tempfile(fileext = ".json")
  page <- withr::local_tempfile(fileext = ".html")
  run <- run_words("edge", "high_card", "--set", "packs=6", "--out", file, "--report", page)
  expect_equal(run$status, 0)
  kept <- jsonlite::fromJSON(file)
  expect_setequal(names(kept), c("provenance", "table"))
  expect_equal(kept$provenance$made_by$shell, "habanera edge high_card --set packs=6")
  expect_match(paste(readLines(page), collapse = "\n"), "habanera edge high_card --set packs=6 --report report.html",
               fixed = TRUE)
  expect_equal(attr(read_result(file), "words"), in_words(house_edge(game_high_card(packs = 6))))
  csv <- withr::local_tempfile(fileext = ".csv")
  expect_equal(run_words("edge", "high_card", "--out", csv)$status, 0)
  beside <- jsonlite::fromJSON(paste0(csv, ".provenance.json"))
  expect_equal(beside$made_by$shell, "habanera edge high_card")
})

test_that("errors in the shell are in the words of the shell", {
  expect_match(run_words("draws", "--size", "60")$err, "`--size` must be", fixed = TRUE, all = FALSE)
  expect_match(run_words("draws", "--trials", "-3")$err, "`--trials`", fixed = TRUE, all = FALSE)
})

test_that("a shell completes commands and options", {
  script <- withr::local_tempfile(lines = run_words("--completion", "bash")$out)
  complete <- function(...) {
    words <- c(...)
    code <- sprintf("source %s; COMP_WORDS=(%s); COMP_CWORD=%d; _habanera; echo ${COMPREPLY[@]}", shQuote(script),
                    paste(words, collapse = " "), length(words) - 1)
    strsplit(system2("bash", c("-c", shQuote(code)), stdout = TRUE), " ")[[1]]
  }
  expect_setequal(complete("habanera", "co"), c("compare", "counting"))
  expect_equal(complete("habanera", "vary", "--ov"), "--over")
  expect_setequal(complete("habanera", "demo", "--"), c("--out", "--files", "--threads", "--quiet", "--help"))
  expect_equal(run_words("--completion", "fish")$status, 2)
})

test_that("a wide table breaks where the console ends, and each part says what its rows are of", {
  withr::local_options(width = 50)
  table <- data.frame(name = c("first", "second"), a = c("0.123456789", "1"), b = strrep("x", 20), c = strrep("y", 20))
  lines <- capture.output(print_rows(table))
  expect_true(all(nchar(lines) <= 50))
  expect_equal(sum(grepl("first", lines)), 2)
  expect_equal(sum(grepl("yyyy", lines)), 2)
  withr::local_options(width = 200)
  expect_length(capture.output(print_rows(table)), 3)
  # Names that fill a line are not said twice.
  withr::local_options(width = 50)
  table$name <- paste(table$name, strrep("z", 40))
  expect_equal(sum(grepl("first", capture.output(aligned_lines(table)))), 1)
})

test_that("no code is told rather than wrong code, and an exact answer has no seed", {
  games <- list(game_high_card(), game_high_card(packs = 6))
  by_another_name <- lapply(games, house_edge)
  expect_null(attr(by_another_name[[2]], "made")$r)
  # A value that stands in the call itself is written out where it can be, and else nothing is.
  within <- do.call("house_edge", games[1])
  expect_equal(attr(within, "made")$r, "x <- house_edge(game_high_card())")
  law <- data.frame(net = c(-1, 1), probability = c(0.5, 0.5))
  expect_null(attr(do.call("sessions", list(money_distribution(law$net, law$probability), rounds = 10)), "made")$r)
  exact <- showdown(list("AS KS", "QH QD"), board = "QC 9S 2S 3D")
  expect_null(attr(exact, "made")$seed)
  expect_no_match_words(attr(exact, "made")$r, "seed")
  expect_identical(exact, showdown(list("AS KS", "QH QD"), board = "QC 9S 2S 3D"))
  expect_match(attr(showdown(list("AS KS", "QH QD"), nsim = 50), "made")$r, "seed = [0-9]+[)]$")
})

test_that("counts of a command tell its words and their seed, too", {
  ran <- run_words("compare", "war", "--set", "cards_each=3", "--other", "face_down=1", "--trials", "50", "--format",
                   "json")
  from <- jsonlite::fromJSON(paste(ran$out, collapse = "\n"))$provenance
  expect_match(from$made_by$shell, "^habanera compare war --set cards_each=3 --other face_down=1 --trials 50 --seed")
  expect_equal(from$made_by$shell, sub("[0-9]+$", whole_code(from$seed), from$made_by$shell))
})
