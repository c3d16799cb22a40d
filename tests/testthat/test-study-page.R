runs <- c("decks: {nine: numbered 9}", "draws: {hands: {deck: nine, size: 3, high: \"count(rank > 5)\"}}",
          "games: {house: {game: high_card, packs: 2}}", "runs:", "  what it holds: {exact: hands}",
          "  what is kept: {house_edge: house}", "expect: {what is kept: edge < 0.5}", "report:",
          "  - words: Told **here**, with 1 < 2.", "  - run: what is kept", "    title: What does the house keep?",
          "  - what it holds")

test_that("the page has its contents with each answer first, words in Markdown, and what changed", {
  folder <- withr::local_tempdir()
  page <- withr::local_tempfile(fileext = ".html")
  report(run_study(study_file(runs), folder), page)
  text <- paste(readLines(page), collapse = "\n")
  expect_match(text, "<h1>A trial</h1>", fixed = TRUE)
  contents <- sub(".*(<nav.*</nav>).*", "\\1", text)
  expect_match(contents, "What does the house keep\\?</a>\\s*<br/>\\s*<span>Main: the house keeps [0-9.]+%")
  expect_lt(regexpr("What does the house keep", contents), regexpr("What it holds", contents))
  expect_match(text, "Told <strong>here</strong>, with 1 &lt; 2.", fixed = TRUE)
  expect_match(text, "Expected of what is kept, edge &lt; 0.5: it holds; edge is 0.0[0-9]+")
  expect_false(grepl("What changed", text))
  # Each run is made again out of nothing by what stands under it.
  expect_match(text, "house &lt;- game(name = \"high_card\", packs = 2)\nx &lt;- house_edge(house, seed = 44)",
               fixed = TRUE)
  changed <- run_study(study_file(sub("packs: 2", "packs: 1", runs)), folder)
  report(changed, page)
  text <- paste(readLines(page), collapse = "\n")
  expect_match(text, "What changed")
  expect_match(text, "what is kept: main edge is 5.882%, was 6.796%.", fixed = TRUE)
  # What did not change is not told, and of the study as it is now nothing is.
  expect_null(run_study(study_file(runs[1:6]), withr::local_tempdir())$changes)
  expect_identical(changed$changes$run, "what is kept")
})

test_that("the command runs, checks, tells how far it is, gives results and code, and merges", {
  file <- study_file(runs)
  folder <- dirname(file)
  shell <- function(...) run_shell(sprintf("cd %s && habanera study %s", shQuote(folder), paste(...)))
  expect_match(shell("check small.yaml")$out[1], "is sound: 2 runs on 1 deck, 1 draw and 1 game.", fixed = TRUE)
  expect_match(shell("status small.yaml")$out[1], "0 of 2 runs done, 0 begun, 2 to do.", fixed = TRUE)
  ran <- shell("run small.yaml --report page.html")
  expect_equal(ran$status, 0)
  expect_match(ran$out[1], "A trial: 2 of 2 runs answered.", fixed = TRUE)
  expect_true(file.exists(file.path(folder, "page.html")))
  expect_match(shell("status small.yaml")$out[1], "2 of 2 runs done", fixed = TRUE)
  expect_equal(shell("results small.yaml --out all.csv")$status, 0)
  expect_identical(read.csv(file.path(folder, "all.csv"))$run[1], "what it holds")
  expect_identical(shell("code small.yaml")$out, study_code(file))
  for (k in 1:2) expect_equal(shell(sprintf("run small.yaml --part %d/2 --folder p%d", k, k))$status, 0)
  expect_match(shell("merge p1 p2 --folder all")$out, "2 folders merged into \"all\"", fixed = TRUE)
  run_study(file, file.path(folder, "all"))
  expect_identical(folder_bytes(file.path(folder, "all")), folder_bytes(file.path(folder, "small-results")))
  # An expectation that fails is told by the status, and so is a run that does.
  writeLines(sub("edge < 0.5", "edge > 0.5", readLines(file)), file)
  expect_equal(shell("run small.yaml")$status, 1)
  writeLines(sub("exact: hands", "summary: hands", readLines(file)), file)
  expect_equal(shell("run small.yaml")$status, 3)
  for (words in c("", "rnu small.yaml", "run", "status small.yaml --part 1/2", "merge p1",
                  "run small.yaml other.yaml")) {
    expect_equal(shell(words)$status, 2, info = words)
  }
  writeLines(sub("size: 3", "siez: 3", readLines(file)), file)
  expect_match(paste(run_shell(sprintf("habanera study check %s 2>&1", shQuote(file)))$out, collapse = " "),
               "small.yaml\", line 4")
})
