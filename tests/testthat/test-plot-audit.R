drawn <- function(plot, layer = 1) ggplot2::layer_data(plot, layer)

test_that("an audit's figures show what it counted", {
  found <- audit(shuffle_riffle(5), nsim = 2000, seed = 1)
  tiles <- autoplot(found)
  expect_equal(nrow(drawn(tiles)), 52^2)
  expect_match(tiles$labels$subtitle, "Biased")
  panels <- autoplot(found, show = "statistics")
  bars <- drawn(panels)
  expect_equal(length(unique(bars$PANEL)), 6)
  # Rising sequences are in the third panel: their mean, drawn, is the mean counted.
  rising <- bars[bars$PANEL == 3, ]
  expect_equal(sum(rising$ymax * (rising$xmin + rising$xmax) / 2),
               as.numeric(sub(" .*", "", tidy(found)$effect[tidy(found)$term == "rising_sequences"])), tolerance = 1e-3)
  line <- drawn(panels, 2)
  expect_equal(sum(line$y[line$PANEL == 5]), 1, tolerance = 1e-3)
  staying <- drawn(autoplot(found, show = "staying"), 3)
  expect_equal(staying$y, summary(found)$staying$share)
  expect_equal(sum(drawn(autoplot(found, show = "guesser"))$ymax), 1, tolerance = 1e-3)
})

test_that("a broken shuffle shows what it lost, and kinds have their places", {
  broken <- autoplot(audit(procedure("overwrite"), deck_numbered(5), nsim = 100, seed = 1))
  expect_equal(levels(factor(drawn(broken)$PANEL)), c("1", "2"))
  kinds <- audit(shuffle_with(function(cards) sample(cards)), as_cards("AS AS KD"), nsim = 100, seed = 1)
  expect_equal(nrow(drawn(autoplot(kinds))), 6)
  expect_refusals(list(
    list(quote(autoplot(kinds, show = "guesser")), "input", "there is only `show = \"positions\"`"),
    list(quote(autoplot(kinds, show = "cards")), "input", "`show` must be"),
    list(quote(autoplot(audit(shuffle_uniform(), nsim = 1), show = "guesser")), "input", "too few trials")
  ))
})

test_that("mixing is drawn against repeats or seconds, with its threshold", {
  found <- mixing(list("riffle", "wash, riffle"), times = 0:2, nsim = 500, seed = 1)
  points <- drawn(autoplot(found), 4)
  expect_equal(sort(unique(points$x)), 0:2)
  expect_equal(sort(unique(drawn(autoplot(found, by = "seconds"), 4)$x)), c(0, 8, 16, 28, 56))
  # The gain of each has its interval.
  bars <- drawn(autoplot(found), 3)
  expect_equal(sum(is.finite(bars$ymax) & bars$ymax > bars$ymin), sum(found$gain_high > pmax(0.01, found$gain_low)))
  expect_equal(drawn(autoplot(found))$yintercept, log10(c(0.1, 0.1)))
  expect_equal(length(unique(points$shape)), 2)
})

test_that("reports of audits and mixing say how to do it again, and the code does", {
  file <- withr::local_tempfile(fileext = ".html")
  found <- audit(shuffle_riffle(3), deck_standard(packs = 2), nsim = 500, seed = 3)
  report(found, file)
  page <- paste(readLines(file), collapse = "\n")
  for (words in c("Is this shuffle fair?", "Biased: ", "What it could have seen",
                  "x &lt;- audit(procedure(\"riffle x3\"), deck = deck_standard(packs = 2), nsim = 500, seed = 3)",
                  "habanera audit 'riffle x3' --deck 'standard packs=2' --trials 500 --seed 3 --report report.html")) {
    expect_match(page, words, fixed = TRUE)
  }
  expect_no_match_words(page, c("https://", "src=\"http", "<script src"))
  again <- audit(procedure("riffle x3"), deck = deck_standard(packs = 2), nsim = 500, seed = 3)
  expect_equal(tidy(again), tidy(found))
  mixed <- mixing(list(ours = "riffle"), times = 1:2, nsim = 200, seed = 1)
  report(mixed, file, title = "Enough?")
  page <- paste(readLines(file), collapse = "\n")
  code <- regmatches(page, regexpr("mixing\\([^\n<]*seed = [^\n<]*", page))
  expect_equal(tidy(eval(parse(text = code))), tidy(mixed))
})

test_that("the code on a page of an audit says all that was not as usual", {
  code <- function(x) {
    file <- withr::local_tempfile(fileext = ".html")
    report(x, file)
    lines <- gsub("&quot;", "\"", gsub("&lt;", "<", readLines(file)))
    list(r = sub(".*x <- ", "", grep("x <- audit", lines, value = TRUE)),
         shell = sub(" --report.*", "", sub(".*habanera audit", "habanera audit", grep("habanera audit", lines,
                                                                                       value = TRUE))))
  }
  orchard <- deck_from(demo_file("orchard.csv"))
  file <- withr::local_tempfile()
  rows <- vapply(1:30, function(trial) paste(match(as.character(shuffle(orchard, seed = 1, trial = trial)),
                                                   as.character(orchard)) - 1, collapse = " "), "")
  writeLines(rows, file)
  logged <- shuffle_recorded(file, numbering = list(first = 0), deck = orchard)
  for (found in list(audit(logged, nsim = 20, level = 0.05, grid = c(4, 11)), audit(logged, alike = "season"),
                     audit(shuffle_riffle(2), nsim = 1500, seed = 5, each = "continued", grid = c(4, 13)))) {
    expect_equal(tidy(eval(parse(text = code(found)$r))), tidy(found))
  }
  expect_match(code(audit(logged, nsim = 20, level = 0.05, grid = c(4, 11)))$shell,
               "--first-number 0 --trials 20 --level 0.05 --grid 4x11", fixed = TRUE)
  expect_match(code(audit(shuffle_with(rev), nsim = 5, seed = 1))$r, "audit(shuffle_with(f), ", fixed = TRUE)
})
