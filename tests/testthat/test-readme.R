# The README's sessions are run word for word, and the code of the articles; only the time taken may differ.
timeless <- function(lines) trimws(gsub("[0-9]+\\.[0-9]+ s\\b", "some s", lines), "right")

at_root <- function(...) testthat::test_path("..", "..", ...)

test_that("the README's sessions give what they show", {
  skip_if_not(file.exists(at_root("README.md")), "README.md, which is not in the built package")
  local_reproducible_output(width = 110, unicode = FALSE)
  tool <- new.env()
  sys.source(at_root("tools", "readme.R"), tool)
  lines <- readLines(at_root("README.md"))
  expect_lte(length(lines), 200)
  expect_gt(length(tool$blocks_of(lines, "r")), 3)
  expect_gt(length(tool$blocks_of(lines, "console")), 0)
  expect_equal(timeless(suppressMessages(tool$filled_readme(lines))), timeless(lines))
})

test_that("the files that the README links are there", {
  skip_if_not(file.exists(at_root("README.md")), "README.md, which is not in the built package")
  text <- paste(readLines(at_root("README.md")), collapse = "\n")
  links <- regmatches(text, gregexpr("\\]\\((docs/[^)]+)\\)", text))[[1]]
  files <- sub("^\\]\\((.*)\\)$", "\\1", links)
  expect_gt(length(files), 10)
  expect_true(all(file.exists(at_root(files))))
  expect_setequal(sub("docs/screenshots/", "", grep("png$", unique(files), value = TRUE)),
                  list.files(at_root("docs", "screenshots")))
})

test_that("the code of the articles runs, and the articles show what it gives", {
  skip_if_not(dir.exists(at_root("docs", "articles")), "the articles, which are not in the built package")
  skip_if_not_installed("knitr")
  local_reproducible_output(width = 105, unicode = TRUE)
  articles <- lapply(c(draws = "draws", games = "games", shuffles = "shuffles"), function(name) {
    readLines(at_root("docs", "articles", paste0(name, ".md")))
  })
  power <- utils::read.csv(at_root("vignettes", "power.csv"), check.names = FALSE)
  # A program has luck of its own: its chunks are run, and must come to the same verdict.
  own_luck <- "tablet"
  for (name in names(articles)) {
    article <- articles[[name]]
    starts <- which(article == "```r")
    code <- lapply(starts, function(at) article[(at + 1):(at + which(article[-seq_len(at)] == "```")[1] - 1)])
    env <- new.env()
    env$power <- power
    withr::local_dir(dirname(demo_file("orchard.csv")))
    for (i in seq_along(code)) {
      after <- article[-seq_len(starts[i] + length(code[[i]]) + 1)]
      shown <- if (length(after) > 1 && after[2] == "```") after[3:(1 + which(after[-(1:2)] == "```")[1])] else
        character()
      if (any(grepl("^Error", shown))) {
        expect_error(eval(parse(text = code[[i]]), env), class = "habanera_error")
        next
      }
      # Figures are drawn by the tests of figures, tables by the page.
      told <- Filter(function(expression) !any(all.names(expression) %in% c("autoplot", "kable")),
                     as.list(parse(text = code[[i]])))
      output <- suppressMessages(capture.output(for (expression in told) {
        value <- withVisible(eval(expression, env))
        if (value$visible) print(value$value)
      }))
      if (own_luck %in% all.names(parse(text = code[[i]]))) {
        behaves <- function(lines) sub(",.*", "", grep("^Behaves like", lines, value = TRUE))
        expect_equal(behaves(output), behaves(shown), info = paste(name, code[[i]][1]))
      } else {
        expect_equal(timeless(output), timeless(shown), info = paste(name, code[[i]][1]))
      }
    }
  }
})
