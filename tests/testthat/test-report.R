page_of <- function(x, ...) {
  file <- withr::local_tempfile(fileext = ".html", .local_envir = parent.frame())
  report(x, file, ...)
  paste(readLines(file, encoding = "UTF-8"), collapse = "\n")
}

test_that("a report says question, verdict, settings and how to do it again, and needs no network", {
  page <- page_of(simulate(draws(deck_standard(packs = 2), 5), nsim = 2000, seed = 77))
  expect_match(page, "^<!doctype html>")
  for (words in c("5 cards drawn from a deck of 104 standard cards, without replacement after a uniform shuffle",
                  "No bias seen: chi-square", "1 to 2,000", "77", "<td>10,000</td>",
                  "<pre><code>library(habanera)\nx &lt;- simulate(draws(deck_standard(packs = 2), 5), nsim = 2000,",
                  "habanera draws --deck 'standard packs=2' --size 5 --trials 2000 --seed 77 --report report.html",
                  "alt=\"Dot plot of how often each card came", "width=device-width")) {
    expect_match(page, words, fixed = TRUE)
  }
  expect_no_match_words(page, c("https://", "src=\"http", "@import", "<script src"))
})

test_that("the code on a page gives its counts again, in R and in the shell", {
  x <- simulate(draws(deck_standard(packs = 2), 5), nsim = 2000, seed = 77)
  again <- new.env()
  code <- regmatches(page_of(x), regexpr("x &lt;- [^\n]*", page_of(x)))
  eval(parse(text = sub("&lt;", "<", code)), again)
  expect_equal(again$x$n, x$n)
})

test_that("decks without a short name are written out in full", {
  deck <- set_attributes(as_cards("AS KD KD"), worth = c(AS = 2, other = 1))
  page <- page_of(simulate(draws(deck, 1), nsim = 50, seed = 1), title = "Worth")
  expect_match(page, "<h1>Worth</h1>", fixed = TRUE)
  expect_match(page, "deck_from(data.frame(", fixed = TRUE)
  expect_no_match_words(page, "In the shell")
})

test_that("a page of positions shows the worst cells, and a comparison its counts", {
  page <- page_of(simulate(positions(deck_standard()), nsim = 500, seed = 1))
  expect_match(page, "The 30 rows furthest from what is expected, of 2,704.")
  orchard <- deck_from(demo_file("orchard.csv"))
  tablet <- draws_recorded(demo_file("tablet-draws.txt"), orchard, numbering = list(first = 0))
  page <- page_of(compare(tablet, exact(draws(orchard, 3))))
  expect_match(page, "Never came: 11P")
  expect_match(page, "--first-number 0 --report report.html", fixed = TRUE)
  expect_error(report(5, "x.html"), class = "habanera_error_input")
})

test_that("every result has a page", {
  war <- game_war(cards_each = 5)
  question <- draws(deck_standard(), 5, two_up = count(rank == "A") >= 2)
  counts <- simulate(question, nsim = 500, seed = 1)
  found <- list(compare(war, game_war(cards_each = 5, face_down = 1), nsim = 200, seed = 1),
                card_impact(war, "rank", nsim = 200, seed = 1), payout(counts, ifelse(two_up, 5, 0)),
                convergence(counts), copies_curve(question, "AS", copies = 0:3))
  for (x in found) {
    page <- page_of(x)
    expect_match(page, "<h2>The numbers</h2>")
    expect_match(page, "data:image/svg")
  }
  page <- page_of(found[[1]])
  again <- new.env()
  code <- regmatches(page, regexpr("x &lt;- [^\n]*", page))
  eval(parse(text = sub("&lt;", "<", code)), again)
  expect_equal(again$x$n, found[[1]]$n)
  odd <- deck_from(withr::local_tempfile(fileext = ".csv", lines = c("card,copies", "\"a \"\"b\"\" c\",2", "d,1")))
  page <- page_of(simulate(draws(odd, 1), nsim = 50, seed = 1))
  expect_silent(parse(text = gsub("&lt;", "<", regmatches(page, regexpr("x &lt;- [^\n]*", page)))))
})
