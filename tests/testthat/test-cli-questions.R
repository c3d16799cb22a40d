orchard <- demo_file("orchard.csv")

test_that("questions in the shell give what R gives", {
  ran <- run_words("draws", "--deck", orchard, "--size", "3", "--ask",
                   "figs = count(suit == \"fig\"), two = figs >= 2", "--ask",
                   "worth = total(points)", "--trials", "5000", "--seed", "9", "--format", "csv")
  expect_equal(ran$status, 0)
  deck <- deck_from(orchard)
  question <- draws(deck, 3, figs = count(suit == "fig"), two = figs >= 2, worth = total(points))
  written <- data.table::fread(text = ran$out, data.table = FALSE)
  expect_equal(written, as.data.frame(simulate(question, nsim = 5000, seed = 9)))
  exactly <- run_words("draws", "--deck", orchard, "--size", "3", "--ask", "figs = count(suit == \"fig\")", "--exact",
                       "--held", "2F",
                       "--dead", "1F", "--given", "figs >= 2", "--format", "json")
  law <- exact(draws(deck, 3, figs = count(suit == "fig"), held = "2F", dead = "1F"))
  expect_equal(jsonlite::fromJSON(exactly$out)$table$probability, law$probability, tolerance = 1e-15)
  text <- run_words("draws", "--ask", "two_up = count(rank == \"A\") >= 2", "--exact")
  expect_true("two_up: 4.168% = 2257/54145, 1 in 23.99" %in% text$out)
})

test_that("draws that go back are asked in the shell, too", {
  plain <- run_words("draws", "--replace", "--size", "2", "--trials", "50", "--seed", "1", "--format", "csv")
  expect_equal(plain$status, 0)
  pairs <- run_words("draws", "--replace", "--size", "2", "--ask", "pair = largest_group(card) == 2", "--exact")
  expect_true("pair: 1.923% = 1/52, 1 in 52" %in% pairs$out)
})

test_that("expectations decide the exit status", {
  asked <- c("draws", "--ask", "two_up = count(rank == \"A\") >= 2", "--exact")
  expect_equal(run_words(asked, "--expect", "two_up < 0.05")$status, 0)
  failed <- run_words(asked, "--expect", "two_up > 0.05")
  expect_equal(failed$status, 1)
  expect_match(failed$err, "expected two_up > 0.05, but two_up is 0.04168")
  expect_equal(run_words("payout", "--ask", "a = count(rank == \"A\")", "--pays", "\"4\" = 1000", "--exact",
                         "--expect", "house_edge > 0.9")$status, 0)
})

test_that("until and payout", {
  ran <- run_words("until", "count(rank == \"A\") >= 1", "--exact", "--format", "csv")
  law <- exact(draw_until(deck_standard(), count(rank == "A") >= 1))
  expect_equal(data.table::fread(text = ran$out)$probability, law$probability)
  short <- run_words("until", "distinct(suit) == 4", "--deck", orchard, "--by-at-most", "6", "--trials", "2000",
                     "--seed", "2", "--given", "met")
  expect_true(any(startsWith(short$out, "Given met, which holds in")))
  paid <- run_words("payout", "--deck", orchard, "--size", "3", "--ask", "alike = largest_group(suit)", "--pays",
                    "\"3\" = 10, \"2\" = 0.5",
                    "--exact", "--edge", "0.15", "--stake", "2", "--format", "csv")
  lines <- payout(exact(draws(deck_from(orchard), 3, alike = largest_group(suit))), c("3" = 10, "2" = 0.5), 2)
  expect_equal(data.table::fread(text = paid$out, data.table = FALSE)$contribution, as.data.frame(lines)$contribution)
  priced <- run_words("payout", "--deck", orchard, "--size", "3", "--ask", "alike = largest_group(suit)", "--pays",
                      "5 * (alike == 3)",
                      "--exact", "--edge", "0.15")
  price <- price_for(exact(draws(deck_from(orchard), 3, alike = largest_group(suit))), c("3" = 5))
  expect_equal(priced$out[length(priced$out)], sprintf("At a stake of %s, the house keeps 15%% of every stake.",
                                                       signif(price$stake, 5)))
  line <- run_words("payout", "--deck", orchard, "--size", "3", "--ask", "alike = largest_group(suit)", "--pays",
                    "\"3\" = 10, \"2\" = 1", "--exact", "--edge", "0.15", "--lines", "3,2", "--format", "csv")
  in_r <- price_for(exact(draws(deck_from(orchard), 3, alike = largest_group(suit))), c("3" = 10, "2" = 1), edge = 0.15,
                    lines = c("3", "2"))
  expect_equal(data.table::fread(text = line$out)$edge, in_r$edge)
  alone <- run_words("payout", "--ask", "a = count(rank == \"A\")", "--pays", "\"1\" = 1", "--lines", "1")
  expect_match(alone$err, "--lines needs --edge")
})

test_that("price tells what lines of games must pay", {
  ran <- run_words("price", "baccarat", "--bet", "tie", "--lines", "tie_pays")
  expect_match(ran$out[1], "^<prices> The house keeps 4.844% with 9 for tie_pays; now it keeps 14.360% with")
  csv <- run_words("price", "blackjack", "--lines", "natural_pays", "--edge", "0.01", "--format", "csv")
  found <- data.table::fread(text = csv$out)
  # A natural pays a ratio: it is solved for as one, to a thousandth; under 4.6% of rounds win by one.
  expect_lt(abs(found$edge[1] - 0.01), 0.046 * 0.0005)
  expect_equal(house_edge(game_blackjack(natural_pays = found$natural_pays[1]))$bets$estimate[1], found$edge[1])
  wrong <- run_words("price", "baccarat", "--lines", "tie_pay")
  expect_equal(wrong$status, 2)
  expect_match(wrong$err, "`--lines` must name lines.*did you mean \"tie_pays\"")
})

test_that("a page and a figure come beside, and the code on the page gives the same again", {
  folder <- withr::local_tempdir()
  page <- file.path(folder, "page.html")
  figure <- file.path(folder, "figure.png")
  run_words("draws", "--deck", orchard, "--size", "4", "--ask", "alike = largest_group(suit)", "--held", "1F",
            "--trials", "3000", "--seed", "4",
            "--report", page, "--figure", figure)
  expect_gt(file.size(figure), 5000)
  html <- paste(readLines(page), collapse = "\n")
  for (words in c("What comes off the top?", "They agree with the exact answer", "--held 1F --trials 3000 --seed 4",
                  "1 to 3,000")) {
    expect_match(html, words, fixed = TRUE)
  }
  code <- sub("&lt;-", "<-", regmatches(html, regexpr("x &lt;- simulate[^\n]*", html)))
  again <- new.env()
  eval(parse(text = code), again)
  question <- draws(deck_from(orchard), 4, alike = largest_group(suit), held = "1F")
  expect_identical(as.data.frame(again$x), as.data.frame(simulate(question, nsim = 3000, seed = 4)))
})

test_that("the code of every kind of question gives it back", {
  deck <- deck_from(orchard)
  cases <- list(
    draws(deck, 4, alike = largest_group(suit), held = "1F", dead = c("2F", "3F")),
    draws(deck, 4, alike = largest_group(suit), replace = TRUE),
    draws(deck, 4, alike = largest_group(suit), shuffle = shuffle_riffle(3)),
    redraw_if(draws(deck, 4, alike = largest_group(suit)), alike == 1, size = c(5, 4), times = 2, put_back = 1,
              under = rank > 6) |>
      exchange_cards(list(keep_suit(3), keep_run(2), keep_where(points >= 5 | season == "autumn"),
                          keep_groups("season")), times = 2) |>
      draw_more(size = 2, times = 3),
    draw_until(deck, total(points) > 21, by_at_most = 7, shuffle = shuffle_riffle(3))
  )
  for (case in cases) {
    code <- habanera:::experiment_code(case)
    again <- eval(parse(text = code$r))
    found <- lapply(list(again, case), function(x) as.data.frame(simulate(x, nsim = 500, seed = 1)))
    expect_identical(found[[1]], found[[2]], info = code$r)
  }
})

test_that("options that do not go together are refused", {
  asked <- c("draws", "--ask", "aces = count(rank == \"A\")")
  cases <- list(
    list(c(asked, "--positions"), "--ask and --positions exclude each other"),
    list(c(asked, "--group", "suit"), "--ask and --group exclude"),
    list(c("draws", "--exact"), "--exact goes with --ask"),
    list(c("draws", "--replace", "--shuffle", "riffle"), "no shuffle"),
    list(c(asked, "--replace", "--shuffle", "riffle"), "no shuffle"),
    list(c("draws", "--held", "AS"), "--held goes with --ask"),
    list(c(asked, "--exact", "--seed", "1"), "--exact plays no trials: no --seed"),
    list(c(asked, "--size", "5", "--size", "6"), "--size is given twice"),
    list(c(asked, "--expect", "aecs > 1"), "did you mean \"aces\"?"),
    list(c(asked, "--expect", "aces + 1"), "must be a condition"),
    list(c("draws", "--ask", "count(rank == \"A\")"), "needs a name"),
    list(c("payout", "--ask", "a = 1"), "it needs --ask and --pays"),
    list("until", "it needs one condition"),
    list(c("until", "distinct(suit) == 4", "--by-at-most", "70"), "from 0 to 52")
  )
  expect_bad_usage(cases)
})

test_that("redraws, exchanges and turns are asked in the shell as in R", {
  deck <- deck_from(demo_file("windfall.yaml"))
  csv <- function(...) utils::read.csv(text = run_words("draws", "--deck", demo_file("windfall.yaml"), "--size", "6",
                                                        "--exact",
                                                        "--format", "csv", "--ask", "trees = count(kind == \"tree\")",
                                                          ...)$out)
  hand <- draws(deck, 6, trees = count(kind == "tree"))
  same <- function(shell, x) expect_equal(shell$probability, as.data.frame(exact(x))$probability)
  same(csv("--redraw-if", "trees < 2", "--redraws", "2"), redraw_if(hand, trees < 2, times = 2))
  same(csv("--keep", "kind == \"tree\""), exchange_cards(hand, keep_where(kind == "tree")))
  same(csv("--turns", "3", "--turn-size", "2"), draw_more(hand, 2, times = 3))
  expect_bad_usage(list(
    list(c("draws", "--ask", "a = count(rank == \"A\")", "--redraws", "2"), "--redraws goes with --redraw-if"),
    list(c("draws", "--turns", "2"), "--turns goes with --ask"),
    list(c("draws", "--ask", "a = count(rank == \"A\")", "--keep", "count("), "no whole expression")
  ))
})

test_that("decks are picked in the shell as in R, once or anew", {
  file <- demo_file("windfall.yaml")
  csv <- function(...) utils::read.csv(text = run_words("draws", "--deck", file, "--size", "5", "--seed", "3",
                                                        "--trials",
                                                        "2000", "--format", "csv", ...)$out)
  asked <- function(deck) as.data.frame(simulate(draws(deck, 5, fruits = count(kind == "fruit")), 2000, seed = 3))
  question <- c("--ask", "fruits = count(kind == \"fruit\")")
  expect_equal(csv("--sampled-anew", "20", "--max-copies", "3", question),
               asked(deck_sampled(file, 20, max_copies = 3, anew = TRUE)))
  expect_equal(csv("--sampled", "20", "--weights", "cost", question),
               asked(suppressMessages(deck_sampled(file, 20, "cost", seed = 3))))
  expect_length(run_words("deck", file, "--sampled", "12", "--seed", "1", "--format", "csv")$out, 13)
  expect_bad_usage(list(
    list(c("draws", "--sampled-anew", "20"), "--sampled-anew goes with --ask"),
    list(c("draws", "--weights", "cost"), "--weights goes with --sampled"),
    list(c("draws", "--sampled", "20", "--sampled-anew", "20", question), "exclude each other"),
    list(c("draws", "--deck", file, "--sampled", "20", "--weights", "cots"), "did you mean \"cost\"?")
  ))
})
