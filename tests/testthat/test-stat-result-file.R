results <- function() {
  deck <- deck_from(demo_file("windfall.yaml"))
  list(
    simulate(draws(deck_standard(), 5), nsim = 3000, seed = 2^53 - 1, first_trial = 2^52),
    simulate(draws(deck, 7), nsim = 500, seed = 1),
    simulate(positions(deck_crossed(rank = c("low", "high"), suit = 1:2)), nsim = 200, seed = 3),
    simulate(draws_with(function(deck) sample(deck, 2), deck_numbered(5)), nsim = 20, seed = 3),
    simulate(draws_program("cut -d' ' -f1", deck_numbered(5)), nsim = 20),
    draws_recorded(demo_file("tablet-draws.txt"), deck_from(demo_file("orchard.csv")),
                   numbering = list(first = 0)),
    as_counts(c(AS = 3, KD = 5), deck = as_cards("AS AS KD"), size = 2),
    simulate(draws(deck_numbered(0), 0), nsim = 5, seed = 1),
    exact(draws(set_attributes(deck_standard(jokers = 1), points = c(joker = 25, other = 1 / 3)), 5)),
    exact(positions(as_cards("AS KD")))
  )
}

test_that("results are read back the same from every kind of file", {
  for (extension in c(".csv", ".json", ".parquet")) {
    if (extension == ".parquet") skip_if_not_installed("nanoparquet")
    for (x in results()) {
      file <- withr::local_tempfile(fileext = extension)
      write_result(x, file)
      x$provenance$experiment["f"] <- NULL  # of an R function only the text is kept
      kept <- read_result(file)
      kept$provenance$experiment["f"] <- NULL
      expect_identical(kept, x, info = paste(extension, in_words_of(x)[1]))
    }
  }
})

test_that("a result read back goes on where it stopped", {
  file <- withr::local_tempfile(fileext = ".json")
  five <- draws(deck_standard(), 5)
  write_result(simulate(five, nsim = 1000, seed = 1), file)
  longer <- c(read_result(file), simulate(five, nsim = 500, seed = 1, first_trial = 1001))
  expect_equal(longer$n, simulate(five, nsim = 1500, seed = 1)$n)
})

test_that("a CSV is a plain table with 17 digits, and its provenance stands beside it", {
  file <- withr::local_tempfile(fileext = ".csv")
  write_result(exact(draws(deck_standard(), 5)), file)
  lines <- readLines(file)
  header <- jsonlite::fromJSON(paste0(file, ".provenance.json"))
  expect_equal(header$result, "distribution")
  expect_equal(lines[1:2], c("card,probability", "2S,0.096153846153846159"))
  expect_equal(dim(utils::read.csv(file)), c(52, 2))
  writeLines(sub("2S,0.09", "2S,0.08", lines), file)
  expect_error(read_result(file), "was changed since", class = "habanera_error_file")
  unlink(paste0(file, ".provenance.json"))
  expect_error(read_result(file), "read.csv\\(\\) reads the table alone", class = "habanera_error_file")
})

test_that("what is no result is refused, and nothing is half written", {
  x <- simulate(draws(deck_standard(), 5), nsim = 10, seed = 1)
  file <- withr::local_tempfile(fileext = ".json")
  write_result(x, file)
  whole <- paste(readLines(file), collapse = "\n")
  part <- withr::local_tempfile(lines = substr(whole, 1, nchar(whole) %/% 2), fileext = ".json")
  csv <- withr::local_tempfile(fileext = ".csv")
  write_result(x, csv)
  short <- withr::local_tempfile(lines = head(readLines(csv), 20), fileext = ".csv")
  file.copy(paste0(csv, ".provenance.json"), paste0(short, ".provenance.json"))
  folder <- withr::local_tempdir()
  expect_refusals(list(
    list(quote(read_result(part)), "file", "is no JSON"),
    list(quote(read_result(short)), "file", "in its table"),
    list(quote(read_result(demo_file("orchard.csv"))), "file", "has no \"orchard.csv.provenance.json\" beside it"),
    list(quote(read_result("nowhere.csv")), "file", "There is no file"),
    list(quote(write_result(x, "x.xlsx")), "file", "must end in .csv, .json or .parquet"),
    list(quote(write_result(5, file)), "input", "`x` must be counts, a distribution or another result"),
    list(quote(write_result(x, file.path(folder, "no", "x.csv"))), "file", "there is no folder"),
    list(quote(write_result(x, file.path("/proc", "x.csv"))), "file", "does not let us write"),
    list(quote(report(x, file.path("/proc", "x.html"))), "file", "does not let us write")
  ))
  expect_length(list.files(folder, all.files = TRUE, no.. = TRUE), 0)
})

test_that("a result in another form is refused with what to do", {
  file <- withr::local_tempfile(fileext = ".json")
  write_result(simulate(draws(deck_standard(), 5), 100, seed = 7), file)
  text <- paste(readLines(file), collapse = "\n")
  for (form in c("\"form\":1", "\"other\":3")) {
    writeLines(sub("\"form\": ?3", form, text), file)
    expect_error(read_result(file), "in another form.*Make it anew: 5 cards drawn.*seed 7",
                 class = "habanera_error_file")
  }
})

without_digests <- function(lines) sub(",\"digests\":\\{[^}]*\\}", "", lines)

test_that("of single trials the form before is read, of rounds it is not", {
  file <- withr::local_tempfile(fileext = ".json")
  before <- function(x) {
    write_result(x, file)
    writeLines(without_digests(sub("\"form\": ?3", "\"form\":2", readLines(file))), file)
  }
  x <- simulate(draws(deck_standard(), 5), 100, seed = 7)
  before(x)
  expect_equal(suppressWarnings(read_result(file)), x)
  before(simulate(game_high_card(cut_after = 30), 10, seed = 1))
  expect_error(read_result(file), "in another form", class = "habanera_error_file")
})

test_that("other results are written as plain tables", {
  war <- game_war(cards_each = 5)
  varied <- vary_rules(war, face_down = 0:1, nsim = 100, seed = 1)
  for (x in list(varied, audit(shuffle_uniform(), nsim = 200, seed = 1), card_impact(war, "rank", nsim = 100, seed = 1),
                 payout(exact(draws(deck_numbered(6), 1, six = count(rank == 6) == 1)), ifelse(six, 5, 0)))) {
    file <- withr::local_tempfile(fileext = ".csv")
    write_result(x, file)
    expect_gt(nrow(utils::read.csv(file)), 1)
    # What is read back says what the result says.
    again <- read_result(file)
    expect_equal(plain_table(again), as.data.frame(tidy(x)), ignore_attr = TRUE)
    expect_match(capture.output(print(again))[1], substr(in_words(x), 1, 30), fixed = TRUE)
  }
  json <- withr::local_tempfile(fileext = ".json")
  write_result(varied, json)
  writeLines(sub("0.", "1.", readLines(json), fixed = TRUE), json)
  expect_error(read_result(json), "changed since it was written", class = "habanera_error_file")
  expect_error(write_result(varied, "x.txt"), "must end in .csv, .json or .parquet", class = "habanera_error_file")
})

test_that("a file that was edited is refused by the part that was, and one without digests is read with a warning", {
  shoes <- simulate(game_blackjack(cut_after = 0.75), 200, seed = 1)
  hands <- draws_recorded(demo_file("dealt-hands.csv"), deck_standard(), size = 5)
  edits <- list(
    list(shoes, "\"seed\":1", "\"seed\":2", "seed and trials"),
    list(shoes, "\"last\":200", "\"last\":201", "seed and trials"),
    list(shoes, "\"words\":\"", "\"words\":\"not ", "words"),
    list(shoes, "\"cut_after\":[0-9]+", "\"cut_after\":9", "experiment"),
    list(shoes, "\"sum_low\":\\[", "\"sum_low\":[1", "sums"),
    list(shoes, "\"n\":\\[[0-9]+", "\"n\":[1", "table"),
    list(hands, "(\"cards\":\\[)([0-9]+),([0-9]+)", "\\1\\3,\\2", "hands")
  )
  file <- withr::local_tempfile(fileext = ".json")
  for (edit in edits) {
    write_result(edit[[1]], file)
    lines <- readLines(file)
    changed <- sub(edit[[2]], edit[[3]], lines)
    expect_false(identical(changed, lines), info = edit[[2]])
    writeLines(changed, file)
    expect_error(read_result(file), sprintf("was changed since it was written, in its %s\\.", edit[[4]]),
                 class = "habanera_error_file", info = edit[[2]])
  }
  write_result(shoes, file)
  writeLines(without_digests(readLines(file)), file)
  expect_warning(read <- read_result(file), "before results had digests", class = "habanera_warning_undigested")
  expect_identical(read$n, shoes$n)

  csv <- withr::local_tempfile(fileext = ".csv")
  write_result(shoes, csv)
  beside <- paste0(csv, ".provenance.json")
  writeLines(sub("\"seed\":1", "\"seed\":2", readLines(beside)), beside)
  expect_error(read_result(csv), "in its seed and trials", class = "habanera_error_file")
})
