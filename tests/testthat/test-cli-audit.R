test_that("audit judges a procedure, and its exit status says whether it is fair", {
  biased <- run_words("audit", "naive_swap", "--trials", "2000", "--seed", "1", "--expect", "fair")
  expect_equal(biased$status, 1)
  expect_match(biased$out[1], "<audit> \"naive_swap\" on a standard deck of 52; 2,000 trials, seed 1")
  expect_match(biased$out[2], "Biased")
  expect_match(biased$err, "expected a fair shuffle, but it is not")
  fair <- run_words("audit", "uniform", "--trials", "2000", "--seed", "1", "--level", "0.0001", "--expect", "fair")
  expect_equal(fair$status, 0)
  expect_match(fair$out[2], "No bias seen")
  expect_equal(run_words("audit", "naive_swap", "--trials", "2000")$status, 0)
})

test_that("audit takes files, standard input and programs", {
  orchard <- demo_file("orchard.csv")
  volunteers <- demo_file("volunteer-shuffles.csv")
  found <- run_words("audit", "--deck", orchard, "--file", volunteers, "--diagnose", "--places")
  expect_equal(found$status, 0)
  expect_match(paste(found$out, collapse = "\n"), "The places furthest from fair")
  expect_match(paste(found$out, collapse = "\n"), "Behaves like: a cut in 3[0-9.]+% of trials")
  piped <- run_shell(sprintf("head -100 %s | habanera audit --deck %s --file - --format csv", shQuote(volunteers),
                             shQuote(orchard)))
  expect_equal(piped$status, 0)
  expect_equal(nrow(read.csv(text = piped$out)), 15)
  program <- run_words("audit", "--program", "cat", "--trials", "20")
  expect_match(program$out[2], "it did nothing")
  died <- run_words("audit", "--program", "head -5; exit 2", "--trials", "20")
  expect_equal(died$status, 3)
  expect_match(died$out[1], "4 trials")
  expect_match(paste(died$err, collapse = " "), "ended with status 2")
})

test_that("audit over sizes, grids and chains", {
  sizes <- run_words("audit", "naive_swap", "--sizes", "0:3", "--trials", "5000", "--seed", "1", "--expect", "fair")
  expect_equal(sizes$status, 1)
  expect_match(paste(sizes$out, collapse = "\n"), "the smallest deck is one of 3 cards")
  grid <- run_words("audit", "uniform", "--grid", "4x13", "--each", "continued", "--trials", "2000", "--format",
                    "json")
  expect_equal(grid$status, 0)
  expect_true("alike_suit" %in% jsonlite::fromJSON(paste(grid$out, collapse = "\n"))[["table"]]$term)
})

test_that("mixing tells the first number of repeats that passes, and writes page and figure", {
  page <- withr::local_tempfile(fileext = ".html")
  figure <- withr::local_tempfile(fileext = ".png")
  found <- run_words("mixing", "riffle", "wash, riffle x2", "--times", "0:3", "--trials", "2000", "--seed", "1",
                     "--gain", "0.5", "--report", page, "--figure", figure, "--by", "seconds")
  expect_equal(found$status, 0)
  expect_match(paste(found$out, collapse = "\n"), "wash, riffle x2: first passes after")
  expect_match(paste(readLines(page), collapse = "\n"), "How many are enough", fixed = TRUE)
  expect_gt(file.size(figure), 1e4)
  table <- run_words("mixing", "riffle", "--times", "7", "--trials", "500", "--format", "csv")
  expect_equal(read.csv(text = table$out)$distance, exact_distance(shuffle_riffle(), 52, 7)$total_variation)
})

test_that("bad words of audit and mixing are bad usage", {
  for (words in list(
    c("audit"), c("audit", "riffle", "--file", "x.csv"), c("audit", "rifle"), c("audit", "riffle", "--grid", "5by6"),
    c("audit", "riffle", "--sizes", "a:b"), c("audit", "riffle", "--sizes", "0:3", "--figure", "x.png"),
    c("audit", "riffle", "--sizes", "0:3", "--deck", "numbered 5"), c("audit", "--program", "cat", "--seed", "1"),
    c("audit", "riffle", "--diagnose", "--format", "csv"), c("audit", "--program", "cat", "--sizes", "0:3"),
    c("audit", "riffle", "--start", "sorted"), c("audit", "riffle", "--expect", "biased"), c("mixing"),
    c("mixing", "riffle", "--by", "cards"), c("mixing", "riffle", "--times", "x")
  )) {
    found <- run_words(words)
    expect_equal(found$status, 2, info = paste(words, collapse = " "))
    expect_length(found$out, 0)
  }
  missing <- run_words("audit", "--file", "no-such.csv")
  expect_equal(missing$status, 3)
})
