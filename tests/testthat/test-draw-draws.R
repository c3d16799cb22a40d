test_that("counts of draws have a row per kind and add up", {
  x <- simulate(draws(deck_standard(jokers = 2), 7), nsim = 1000, seed = 4)
  table <- as.data.frame(x)
  expect_named(table, c("card", "n", "example_trial"))
  expect_equal(nrow(table), 53)
  expect_equal(sum(table$n), 7000)
  # The example trial is the first that has the card.
  cards <- trials(draws(deck_standard(jokers = 2), 7), 4, 1:1000)
  first <- vapply(table$card, function(card) which(rowSums(cards[-1] == card) > 0)[1], 0L)
  expect_equal(table$example_trial, unname(first))
  expect_equal(table$n, unname(vapply(table$card, function(card) sum(cards[-1] == card), 0L)))
})

test_that("held and dead cards leave the deck, and the hand's size counts the held", {
  orchard <- deck_from(demo_file("orchard.csv"))
  known <- draws(orchard, 4, held = "1F 2F", dead = as_cards("3F", like = orchard))
  law <- as.data.frame(exact(known))
  expect_equal(nrow(law), 41)
  expect_equal(unique(law$probability), 2 / 41)
  expect_false(any(c("1F", "2F", "3F") %in% simulate(known, nsim = 2000, seed = 1)$outcomes$card))
  two <- draws(deck_standard(packs = 2), 3, held = "AS", dead = "AS")
  expect_false("AS" %in% as.data.frame(exact(two))$card)
  # The code of what is left of a deck gives the same draws again.
  again <- eval(parse(text = habanera:::experiment_code(known)$r))
  expect_identical(as.data.frame(simulate(again, nsim = 500, seed = 2)), as.data.frame(simulate(known, nsim = 500,
                                                                                                seed = 2)))
})

test_that("positions count every card of every trial", {
  x <- simulate(positions(deck_numbered(4)), nsim = 500, seed = 4)
  table <- as.data.frame(x)
  expect_named(table, c("card", "position", "n", "example_trial"))
  expect_equal(as.vector(tapply(table$n, table$card, sum)), rep(500, 4))
  expect_equal(as.vector(tapply(table$n, table$position, sum)), rep(500, 4))
})

test_that("one draw of each kind is pinned", {
  expect_equal(unlist(trials(draws(deck_standard(), 5), 1, 1)[-1], use.names = FALSE), c("JH", "6H", "8S", "JC", "AS"))
  expect_equal(unlist(trials(draws(deck_numbered(6), 8, replace = TRUE), 1, 1)[-1], use.names = FALSE),
               c("3", "4", "3", "5", "2", "1", "2", "5"))
})

test_that("exact answers: the formula, a hand-worked case, and a walk of the simulation's own code", {
  # One of the two aces among five cards: 3 of 5 drawn hold 3 * 2/5 = 6/5 aces on average.
  deck <- as_cards("AS AS KD QC JH")
  law <- exact(draws(deck, 3))
  expect_equal(as.data.frame(law), data.frame(card = c("AS", "JH", "KD", "QC"),
                                              probability = c(6, 3, 3, 3) / 5))
  cases <- list(draws(deck, 3), draws(deck, 3, replace = TRUE), draws(deck, 5), positions(deck),
                draws(deck_numbered(6), 4), positions(deck_numbered(1)), positions(deck_numbered(0)))
  for (case in cases) {
    walked <- exact(case, method = "walk")
    expect_equal(walked$probability, exact(case)$probability, tolerance = 1e-13, info = in_words_of(case))
    expect_equal(sum(walked$probability), provenance(walked)$entries)
  }
  expect_refusals(list(
    list(quote(exact(draws(deck_standard(), 6), method = "walk")), "work", "about 1.5e+10 paths to walk"),
    list(quote(exact(deck)), "input", "must be an experiment")
  ))
})

test_that("simulation keeps to the exact answer, cell by cell", {
  deck <- as_cards("AS AS KD QC JH")
  for (case in list(draws(deck, 2), draws(deck, 4, replace = TRUE), positions(deck))) {
    x <- simulate(case, nsim = 40000, seed = 12)
    expect_true(all(abs(tidy(x)$statistic) < standard_errors))
    expect_equal(tidy(x)$exact, exact(case, method = "walk")$probability, tolerance = 1e-12)
  }
})

test_that("standard errors are per trial, from exact sums", {
  deck <- deck_standard(packs = 2)
  x <- simulate(draws(deck, 30), nsim = 3000, seed = 2)
  cards <- trials(draws(deck, 30), 2, 1:3000)[-1]
  per_trial <- rowSums(cards == "AS")
  row <- tidy(x)[tidy(x)$term == "card=AS", ]
  expect_equal(row$estimate, mean(per_trial))
  expect_equal(row$std.error, sd(per_trial) / sqrt(3000))
  # Where an outcome comes at most once a trial, Wilson's interval; 0 of 40 by hand: z^2 / (n + z^2).
  none <- tidy(as_counts(c(AS = 40, KD = 0), deck = as_cards("AS KD")))
  z <- qnorm(0.975)
  expect_equal(none$conf.high[none$term == "card=KD"], z^2 / (40 + z^2))
  expect_equal(none$conf.low[none$term == "card=KD"], 0)
})

test_that("all sizes of deck and draw work", {
  for (n in c(0, 1, 2, 2000)) {
    deck <- deck_numbered(n)
    for (size in unique(c(0, min(1, n), n))) {
      x <- simulate(draws(deck, size), nsim = 50, seed = 1)
      expect_equal(sum(as.data.frame(x)$n), 50 * size)
      expect_no_error_summary(x)
    }
  }
  wide <- simulate(positions(deck_numbered(2000)), nsim = 3, seed = 1)
  expect_equal(sum(wide$n), 6000)
})

test_that("impossible draws are refused at once", {
  deck <- deck_standard()
  expect_refusals(list(
    list(quote(draws(deck, 53)), "input", "`size` must be a whole number from 0 to 52, not 53"),
    list(quote(draws(deck, -1)), "input", "not -1"),
    list(quote(draws(deck, NA)), "input", "not NA"),
    list(quote(draws(deck, 5, replace = NA)), "input", "TRUE or FALSE"),
    list(quote(draws(deck[0], 1, replace = TRUE)), "input", "from 0 to 0"),
    list(quote(draws("AS", 1)), "input", "`deck` must be cards"),
    list(quote(draws(deck, 5, shuffle = "riffle")), "input", "shuffling procedure"),
    list(quote(positions(deck_numbered(5000))), "work", "25,000,000 card-by-position cells"),
    list(quote(trials(draws(deck, 5), 1, 0.5)), "input", "trial numbers"),
    list(quote(trials(draws(deck, 5), -1, 1)), "input", "`seed`")
  ))
})

test_that("single trials show whole hands", {
  expect_output(print(trials(draws(deck_numbered(9), 3), 1, 1:2)), "trial +cards\n +1 +[1-9], [1-9], [1-9] *\n")
  shown <- capture.output(print(trials(draws(deck_standard(), 52), 1, 1:40)))
  expect_lte(max(nchar(shown)), getOption("width"))
  first <- paste(shown[seq_len(which(startsWith(shown, "trial 2"))[1] - 1)], collapse = " ")
  expect_setequal(strsplit(gsub(" +", " ", sub("trial 1: ", "", first)), ", ")[[1]], as.character(deck_standard()))
  expect_equal(shown[length(shown)], "# ... with 10 more")
  expect_output(print(trials(draw_until(deck_numbered(3), count(rank == 2) >= 1), 1, 1)), "turned")
})

test_that("a handful of draws is no verdict", {
  few <- as_counts(c("AS", "KH", "3D", "3D", "10C"))
  expect_match(capture.output(print(summary(few)))[2], "Too few draws to tell", fixed = TRUE)
  judged <- compare(few, exact(draws(deck_standard(), 1)))
  expect_identical(judged$agree, NA)
  expect_output(print(judged), "Too few trials to tell whether they agree", fixed = TRUE)
  # Thirty draws of one card of 52 are enough: 900 / 52 is more than 10.
  enough <- summary(as_counts(rep(c("AS", "KH", "3D"), 10)))
  expect_match(capture.output(print(enough))[2], "^Biased")
})
