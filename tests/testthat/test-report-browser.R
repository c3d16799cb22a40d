# Pages as readers have them: on a wide screen and on a phone, sorted, filtered, with rules moved.

made_pages <- function(folder) {
  stall <- exact(draws(deck_from(demo_file("orchard.csv")), 3, alike = largest_group(suit)))
  edges <- vary_rules(game_high_card(), ties = c("bank", "half_back"), packs = c(1, 6), of = "edge")
  found <- list(
    edges = edges,
    effects = rule_effects(game_high_card(), list(ties = c("half_back", "push"), packs = 6), pairs = TRUE),
    table = edge_table(`a table with a name that is far too long for any phone` = game_high_card(), game_baccarat()),
    bankroll = bankroll(game_high_card(), start = 20, rounds = 100, goal = 40), odds = category_odds(size = 3),
    payout = payout(stall, c("3" = 10)), strategy = best_strategy(game_blackjack(packs = 1)),
    trace = replay(game_war(cards_each = 5), seed = 1), audit = audit(shuffle_riffle(3), nsim = 400, seed = 1),
    draws = simulate(draws(deck_standard(jokers = 4), 5), nsim = 3, seed = 1)
  )
  for (name in names(found)) report(found[[name]], file.path(folder, paste0(name, ".html")))
  report(unname(found[1:3]), file.path(folder, "several.html"))
  list.files(folder, full.names = TRUE)
}

test_that("pages fit a wide screen and a phone, draw their figures, link within themselves, and run without errors", {
  skip_if(is.na(browser()), "no browser")
  folder <- withr::local_tempdir()
  files <- made_pages(folder)
  for (width in c(1280L, 400L)) {
    seen <- seen_in_browser(files, width)
    for (name in names(seen$findings)) expect_equal(seen$findings[[name]], character(), info = paste(name, width))
    expect_equal(seen$console, character())
  }
  text <- unlist(lapply(files, readLines, warn = FALSE, encoding = "UTF-8"))
  expect_false(any(grepl("(src|href|url)[=(][\"']?https?:", text)))
})

test_that("what is wrong with a page is seen", {
  skip_if(is.na(browser()), "no browser")
  bad <- withr::local_tempfile(fileext = ".html")
  writeLines(c("<html><head></head><body><p style=\"width:900px\">wide</p><a href=\"#nowhere\">away</a>",
               "<pre>console</pre><script>nothing_of_this_name()</script></body></html>"), bad)
  found <- paste(seen_in_browser(bad, 400L)$findings[[1]], collapse = "; ")
  for (words in c("page is 9", "P out of the page", "leads nowhere: away", "console text", "nothing_of_this_name",
                  "no heading", "no answer")) {
    expect_match(found, words)
  }
})

test_that("tables sort by the heading pressed and filter by words, numbers as numbers", {
  skip_if(is.na(browser()), "no browser")
  file <- withr::local_tempfile(fileext = ".html")
  report(category_odds(size = 5, deck = deck_standard(jokers = 1), rules = hand_rules(wild = rank == "joker")), file)
  column <- "Array.from(doc.querySelectorAll('tbody tr')).map(r => r.cells[1].textContent).join(' ')"
  press <- function(times) {
    sprintf("(function () { var b = doc.querySelectorAll('thead [role=button]')[1]; %s return %s; }())",
            strrep("b.click(); ", times), column)
  }
  numbers <- function(text) as.numeric(gsub(",", "", strsplit(text[[1]], " ")[[1]]))
  as_found <- category_odds(size = 5, deck = deck_standard(jokers = 1), rules = hand_rules(wild = rank == "joker"))$n
  expect_equal(numbers(seen_in_browser(file, 800L, press(0))$extra), as_found)
  expect_equal(numbers(seen_in_browser(file, 800L, press(1))$extra), sort(as_found, decreasing = TRUE))
  expect_equal(numbers(seen_in_browser(file, 800L, press(2))$extra), sort(as_found))
  expect_equal(numbers(seen_in_browser(file, 800L, press(3))$extra), as_found)
  long <- withr::local_tempfile(fileext = ".html")
  report(simulate(draws(deck_standard(), 5), nsim = 200, seed = 1), long)
  shown <- seen_in_browser(long, 800L, paste0(
    "(function () { var f = doc.querySelector('input[type=search]'); f.value = 'AS';",
    "f.dispatchEvent(new Event('input')); return Array.from(doc.querySelectorAll('tbody tr'))",
    ".filter(r => !r.hidden).map(r => r.cells[0].textContent).join(' '); }())"))$extra
  expect_match(shown[[1]], "AS")
  expect_false(grepl("KD", shown[[1]]))
})

test_that("a rule that is moved on a page gives the edge of the combination, or the effects added up", {
  skip_if(is.na(browser()), "no browser")
  game <- game_high_card()
  edges <- vary_rules(game, ties = c("bank", "half_back"), packs = c(1, 6), of = "edge")
  file <- withr::local_tempfile(fileext = ".html")
  report(edges, file)
  choose <- function(values) {
    sprintf("(function () { var f = doc.querySelector('form.choices'); %s f.dispatchEvent(new Event('input'));%s }())",
            paste(sprintf("f.elements['%s'].value = '%s';", names(values), values), collapse = " "),
            "return f.querySelector('output').textContent;")
  }
  said <- function(file, values) seen_in_browser(file, 800L, choose(values))$extra[[1]]
  share <- function(text) as.numeric(sub(".*keeps (about )?([-0-9.]+)%.*", "\\2", text)) / 100
  found <- said(file, c(ties = 1, packs = 1, `an-hour` = 100, `a-bet` = 2))
  exact <- edges$estimate[edges$ties == "half_back" & edges$packs == 6]
  # Four digits are shown.
  expect_lt(abs(share(found) - exact), 1e-3 * exact)
  expect_equal(as.numeric(sub(".*, ([-0-9.]+) an hour.*", "\\1", found)), exact * 200, tolerance = 1e-3)
  effects <- rule_effects(game, list(ties = c("half_back", "push"), packs = 6), pairs = TRUE)
  report(effects, file)
  # With pairs the sum of two is that of both at once, exactly.
  both <- house_edge(change_rules(game, ties = "push", packs = 6))
  together <- share(said(file, c(ties = 2, packs = 1)))
  expect_lt(abs(together - tidy(both)$estimate), 1e-3 * abs(tidy(both)$estimate) + 1e-6)
})

test_that("numbers that cannot be printed as odds lead to the nearest that can", {
  skip_if(is.na(browser()), "no browser")
  expect_equal(printed_odds("1.5"), "3 to 2")
  expect_equal(printed_odds("1.2"), "6 to 5")
  expect_equal(printed_odds("0.9"), "9 to 10")
  expect_equal(printed_odds("2"), "")
  expect_equal(printed_odds("push"), "")
  expect_true(is.na(printed_odds("1.37")))
  edges <- vary_rules(game_blackjack(packs = 1), natural_pays = c(1.2, 1.37, 1.5), of = "edge")
  file <- withr::local_tempfile(fileext = ".html")
  report(edges, file)
  text <- seen_in_browser(file, 800L, paste0(
    "(function () { var f = doc.querySelector('form.choices'); f.elements['natural_pays'].value = '1';",
    "f.dispatchEvent(new Event('input')); return f.querySelector('output').textContent; }())"))$extra[[1]]
  expect_match(text, "nearest rules that can be printed: natural_pays 1[.](2 [(]6 to 5|5 [(]3 to 2)[)]")
})

test_that("on paper a long table has its head on every page", {
  skip_if(is.na(browser()), "no browser")
  skip_if(!nzchar(Sys.which("pdftotext")), "no reader of PDF files")
  folder <- withr::local_tempdir()
  page <- file.path(folder, "page.html")
  paper <- file.path(folder, "page.pdf")
  report(simulate(draws(deck_standard(), 5), nsim = 2000, seed = 1), page)
  processx::run(browser(), c("--headless", "--no-sandbox", "--disable-gpu", "--disable-background-networking",
                             paste0("--user-data-dir=", withr::local_tempdir()), paste0("--print-to-pdf=", paper),
                             "--no-pdf-header-footer", paste0("file://", page)), timeout = 120)
  text <- strsplit(processx::run("pdftotext", c("-layout", paper, "-"))$stdout, "\f")[[1]]
  with_rows <- grepl("\n *(QH|9C|QC) +[0-9]", text)
  expect_gt(sum(with_rows), 1)
  expect_true(all(grepl("card +count +percent", text[with_rows])))
})
