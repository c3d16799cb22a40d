# What people write is read in one room, and as strictly from a data frame as from a file.

test_that("no reader of files stands outside its room", {
  sources <- list.files(testthat::test_path("..", "..", "R"), "[.]R$", full.names = TRUE)
  skip_if_not(length(sources) > 0, "the sources are not here")
  room <- c("util-file.R", "util-formats.R")
  # What is not of a user: our own installed files, what a program that we started wrote, cached libraries, checkpoints
  # (which have their digest), keys typed.
  own <- c(`cli-main.R` = "general_help", `report-page.R` = "part", `own-file.R` = "shipped",
           `run-program.R` = "files",
           `own-compile.R` = "binding_file|known|dyn.load", `run-checkpoint.R` = "bytes", `cli-replay.R` = "keys",
           `game-asking.R` = "console_input")
  readers <- c("yaml[.]load", "read_yaml", "fromJSON", "read_json", "fread", "read[.]csv", "read[.]table",
               "read[.]delim", "readLines", "scan", "readBin", "readRDS", "load", "read_excel", "read_parquet")
  readers <- sprintf("\\b(%s)\\(", paste(readers, collapse = "|"))
  for (source in sources[!basename(sources) %in% room]) {
    lines <- grep("^ *#", readLines(source), value = TRUE, invert = TRUE)
    # Words of messages are no calls.
    lines <- lines[grepl(readers, gsub("\"([^\"\\\\]|\\\\.)*\"", "", lines))]
    allowed <- own[basename(source)]
    if (!is.na(allowed)) lines <- grep(allowed, lines, value = TRUE, invert = TRUE)
    expect_identical(lines, character(), info = basename(source))
  }
})

test_that("what fills memory, says a thing twice, or never ends is refused", {
  bomb <- withr::local_tempfile(fileext = ".yaml", lines = c("a: &a [x, x]", "b: &b [*a, *a]", "size: *b"))
  deep <- withr::local_tempfile(fileext = ".json", lines = paste0("{\"size\":", strrep("[", 60), strrep("]", 60), "}"))
  twice <- withr::local_tempfile(fileext = ".json", lines = "{\"size\": 5, \"size\": 4}")
  twice_yaml <- withr::local_tempfile(fileext = ".yaml", lines = c("size: 5", "size: 4"))
  zero <- withr::local_tempfile(fileext = ".txt")
  writeBin(as.raw(c(65, 10, 66, 0, 67)), zero)
  pipe <- withr::local_tempfile(fileext = ".yaml")
  skip_on_os("windows")
  system2("mkfifo", pipe)
  for (read in list(function(file) category_odds(rules = file), function(file) game_video_poker(pays = file))) {
    expect_error(read(bomb), "references \\(& and \\*\\) are not read", class = "habanera_error_file")
    expect_error(read(deep), "nested more than 50 deep", class = "habanera_error_file")
    expect_error(read(twice), "says `size` twice", class = "habanera_error_file")
    expect_error(read(twice_yaml), "is no YAML", class = "habanera_error_file")
    expect_error(read(pipe), "is a pipe or a device", class = "habanera_error_file")
  }
  expect_error(draws_recorded(zero, deck_standard()), "line 2 has a byte of zero", class = "habanera_error_file")
  expect_error(deck_from("/dev/zero"), "is a pipe or a device", class = "habanera_error_file")
  # What the shell opened has its writer.
  ran <- run_shell("habanera draws --file <(printf 'AS KD\\nQH 2C\\n') --size 2")
  expect_equal(ran$status, 0)
  expect_match(ran$out, "2 trials from", all = FALSE)
  ran <- run_shell("printf 'card,copies\\nA,2\\n' | habanera deck -")
  expect_match(ran$out, "A", all = FALSE)
  ran <- run_shell("habanera draws --deck - --size 1 </dev/null")
  expect_equal(ran$status, 3)
  expect_match(ran$err, "Standard input", all = FALSE)
})

test_that("data frames are as strict as files", {
  good <- data.frame(rounds = c(100, 120), staked = c(1000, 1200), result = c(10, -30))
  changed <- function(...) {
    changes <- list(...)
    for (column in names(changes)) good[[column]][2] <- changes[[column]]
    takings(game_high_card(), good)
  }
  expect_s3_class(takings(game_high_card(), good), "habanera_takings")
  expect_refusals(list(
    list(quote(changed(result = NA)), "input", "Row 2 of `file`, column `result`: NA is no number"),
    list(quote(changed(staked = Inf)), "input", "Row 2 of `file`, column `staked`: Inf is no number of 0 or more"),
    list(quote(changed(rounds = 1.5)), "input", "column `rounds`: 1.5 is no whole number"),
    list(quote(changed(rounds = "0x1F")), "input", "column `rounds`: \"0x1F\" is no whole number"),
    list(quote(changed(result = 5000)), "input", "Row 2 of `file`: 5,000 was taken of 1,200 staked; at most 1,200"),
    list(quote(takings(game_high_card(), cbind(good, rounds = 1))), "input", "has the column `rounds` twice"),
    list(quote(strategy_table(cbind(as.data.frame(player_basic()), hand = "x"))), "input",
         "has the column `hand` twice"),
    list(quote(game_baccarat(third_card = cbind(game_baccarat()$rules$third_card, total = 1))), "input",
         "has the column `total` twice")
  ))
  pays <- withr::local_tempfile(fileext = ".csv", lines = c("line,pays,pays", "flush,6,7"))
  expect_error(game_video_poker(pays = pays), "has the column `pays` twice")
  open <- withr::local_tempfile(fileext = ".csv", lines = c("rounds,staked,result", "1,\"2,3", "1,2,3"))
  expect_error(takings(game_high_card(), open), "a quote has no pair", class = "habanera_error_file")
  expect_identical(written_numbers(c("0x1F", "1e3", "1d3", " 7 ", "x")), c(NA, 1000, NA, 7, NA))
})
