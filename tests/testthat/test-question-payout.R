orchard <- deck_from(demo_file("orchard.csv"))
alike <- exact(draws(orchard, 3, alike = largest_group(suit)))

test_that("a pay table by hand", {
  # A die that pays 5 for a six at a stake of 1: mean 5/6, sd sqrt(25/6 - 25/36).
  die <- exact(draws(deck_from(data.frame(card = letters[1:6], pips = 1:6)), 1, pips = total(pips), replace = TRUE))
  found <- tidy(payout(die, c("6" = 5)))
  expect_equal(found$term, c("return_to_player", "house_edge", "hit_frequency", "mean_pay", "std_deviation"))
  expect_equal(found$estimate, c(5 / 6, 1 / 6, 1 / 6, 5 / 6, sqrt(25 / 6 - 25 / 36)))
  expect_equal(tidy(payout(die, ifelse(pips == 6, 5, 0), stake = 2))$estimate[1:2], c(5 / 12, 7 / 12))
  lines <- as.data.frame(payout(die, pips - 1))
  expect_equal(lines$contribution, 0:5 / 6)
  expect_equal(sum(lines$share), 1)
  expect_equal(as.data.frame(payout(die, c("1" = 0, "6" = 5)))$pays, c(0, 0, 0, 0, 0, 5))
  free <- payout(die, 2)
  expect_equal(as.data.frame(free)$line, "pays 2")
})

test_that("the price meets the edge, solved for the stake or the prizes", {
  pays <- c("3" = 10, "2" = 1)
  price <- price_for(alike, pays, edge = 0.15)
  expect_equal(tidy(payout(alike, pays, price$stake))$estimate[2], 0.15)
  scaled <- price_for(alike, pays, edge = 0.15, stake = 2)
  expect_equal(tidy(payout(alike, pays * scaled$factor, 2))$estimate[2], 0.15)
  expect_equal(scaled$pays$would_pay, unname(rev(pays)) * scaled$factor)
  expect_output(print(price), "the house keeps 15% of every stake")
})

test_that("simulated payouts come with errors and keep to the exact ones", {
  counts <- simulate(draws(orchard, 3, alike = largest_group(suit)), nsim = 20000, seed = 5)
  found <- tidy(payout(counts, c("3" = 10), stake = 1))
  expect_equal(found$exact, tidy(payout(alike, c("3" = 10)))$estimate)
  expect_true(all(abs(found$estimate - found$exact)[1:4] < standard_errors * found$std.error[1:4]))
  rows <- trials(draws(orchard, 3, alike = largest_group(suit)), 5, 1:20000)
  pays <- ifelse(rows$alike == 3, 10, 0)
  expect_equal(found$estimate[4], mean(pays))
  expect_equal(found$std.error[4], sd(pays) / sqrt(20000))
  expect_gt(price_for(counts, c("3" = 10))$std.error, 0)
  expect_output(print(payout(counts, c("3" = 10))), "exactly 50.17%")
})

test_that("pays that fit nothing are refused", {
  expect_refusals(list(
    list(quote(payout(alike, c("4" = 10))), "input", "which is no value of an outcome here: alike is 1, 2 and 3"),
    list(quote(payout(alike, ifelse(alkie == 3, 1, 0))), "language", "names no outcome column (alike)"),
    list(quote(payout(alike, c(1, 2))), "input", "must be named by the values"),
    list(quote(payout(alike, c("3" = -1))), "input", "0 or more"),
    list(quote(payout(alike, alike * "a")), "language", "is not a number"),
    list(quote(payout(alike, c("3" = 10), stake = 0)), "input", "`stake`"),
    list(quote(payout(draws(orchard, 3, a = total(1)), 1)), "input", "take exact() or simulate() of it first"),
    list(quote(payout(exact(draws(orchard, 3)), 1)), "input", "one row of outcomes a trial; here a trial has 3"),
    list(quote(price_for(alike, c("3" = 0))), "input", "Nothing is ever paid")
  ))
  none <- simulate(draws(orchard, 3, alike = largest_group(suit)), nsim = 5, seed = 1)
  expect_message(payout(none, c("1" = 1, "3" = 10)), "never came in these trials")
})

test_that("copies of a card: the curve and the grid are the answers of decks made by hand", {
  built <- deck_from(demo_file("windfall.yaml"))
  opening <- draws(built, 6, playable = count(kind == "fruit" & cost <= 2) >= 1)
  curve <- copies_curve(opening, "plum", c(0, 4, 6), instead_of = "pear tree")
  # Four windfall apples and the plums: 1 - C(48 - good, 6) / C(48, 6).
  expect_equal(curve$estimate, 1 - choose(48 - 4 - c(0, 4, 6), 6) / choose(48, 6))
  expect_equal(curve$cards, rep(48, 3))
  grid <- copies_curve(opening, c("plum", "wasp"), list(c(0, 4), c(3, 8)))
  expect_equal(grid$cards, c(44, 48, 49, 53))
  expect_equal(grid$estimate, 1 - choose(grid$cards - 4 - grid$copies, 6) / choose(grid$cards, 6))
  expect_named(as.data.frame(grid), c("copies", "copies_2", "cards", "term", "estimate"))
  until <- copies_curve(draw_until(built, count(card == "plum") >= 1), "plum", 1:3)
  expect_equal(until$estimate[until$term == "turned"], (until$cards[until$term == "turned"] + 1) / (1:3 + 1))
  expect_refusals(list(
    list(quote(copies_curve(opening, "prune")), "input", "no card of the deck's catalogue"),
    list(quote(copies_curve(opening, "plum", 0:20, instead_of = "pear tree")), "input",
         "\"pear tree\" cannot give way to 7"),
    list(quote(copies_curve(opening, "plum", -1)), "input", "whole numbers from 0 to 65,535"),
    list(quote(copies_curve(opening, "plum", 1, instead_of = "plum")), "input", "different cards"),
    list(quote(copies_curve(draws(built, 7), "plum")), "input", "must be a question")
  ))
})

test_that("the working of an exact answer adds up to it", {
  work <- show_working(draws(deck_standard(), 5, two_up = count(rank == "A") >= 2))
  expect_match(gsub("\\s+", " ", paste(capture.output(print(work)), collapse = " ")),
               "C(48,3) C(4,2)] / C(52,5) = 108,336 / 2,598,960", fixed = TRUE)
  expect_output(print(work), "2257/54145", fixed = TRUE)
  questions <- list(
    draws(orchard, 4, worth = distinct(suit) * count(points > 5)), draws(orchard, 3, worth = total(cost), held = "2F"),
    draws(orchard, 3, worth = largest_group(season), replace = TRUE)
  )
  for (question in questions) {
    work <- show_working(question, "worth")
    law <- tapply(exact(question)$probability, as.data.frame(exact(question))$worth, sum)
    expect_equal(work$values$probability, as.vector(law))
    expect_equal(work$values$value, names(law))
    expect_equal(sum(work$terms$count), work$total)
  }
  expect_refusals(list(
    list(quote(show_working(draws(orchard, 3, a = card_at(1, rank > 1)))), "work", "without stages and card_at()"),
    list(quote(show_working(draws(orchard, 12, a = total(rank)))), "work", "more than 5,000 terms"),
    list(quote(show_working(draws(orchard, 3, a = total(1)), "b")), "input", "`column` must be")
  ))
})

test_that("the best exchange, by hand and against brute force", {
  found <- best_exchange("AS KS 9S 4S 9D", largest_group(suit) == 5, deck_standard())
  expect_equal(found$keep[1], "AS KS 9S 4S")
  expect_equal(found$estimate[1], 9 / 47)
  expect_equal(nrow(found), 32)
  small <- as_cards("AS AH KD QC JH 10S")
  found <- best_exchange(small[c(3, 4)], count(rank == "A") >= 1, small)
  expect_equal(found$keep[1], "")
  expect_equal(found$estimate, c(1 - 1 / 6, 1 / 2, 1 / 2, 0))
  expect_equal(nrow(best_exchange(c("AS", "AS"), total(points), deck_standard(packs = 2))), 3)
  expect_refusals(list(
    list(quote(best_exchange("AS AS", total(points))), "conservation", "the deck has it 1"),
    list(quote(best_exchange("", total(points))), "input", "names no card"),
    list(quote(best_exchange("AS", total(pionts))), "language", "did you mean \"points\"?")
  ))
})

test_that("an estimate settles on what the whole run found", {
  counts <- simulate(draws(orchard, 3, alike = largest_group(suit), kind = ifelse(alike == 3, "three", "less")),
                     nsim = 3000, seed = 6, first_trial = 11)
  course <- convergence(counts, "alike")
  expect_equal(course$estimate[nrow(course)], tidy(counts)$estimate[1])
  rows <- trials(draws(orchard, 3, alike = largest_group(suit)), 6, 11:3010)
  expect_equal(course$estimate, cumsum(rows$alike)[course$trials] / course$trials)
  expect_equal(unique(course$exact), tidy(alike)$estimate)
  expect_equal(convergence(counts, "kind=three")$estimate[nrow(course)], mean(rows$alike == 3))
  expect_error(convergence(counts, "alkie"), "did you mean \"alike\"?", class = "habanera_error_input")
  expect_error(convergence(alike), "must be counts of a question", class = "habanera_error_input")
})

test_that("counts are compared with the exact answer, row by row", {
  question <- draws(orchard, 3, alike = largest_group(suit), worth = total(points))
  counts <- simulate(question, nsim = 20000, seed = 7)
  found <- compare(counts, exact(question))
  expect_true(found$agree)
  expect_equal(sum(found$cells$count), 20000)
  expect_equal(sum(found$cells$expected), 20000)
  expect_output(print(found), "They agree with the exact answer")
  expect_equal(nrow(tidy(found)), nrow(found$cells) + 1)
  # Counts of another shuffle under the same question do not.
  lazy <- draws(orchard, 3, alike = largest_group(suit), worth = total(points), shuffle = shuffle_cut())
  wrong <- simulate(lazy, nsim = 20000, seed = 7)
  expect_error(compare(wrong, exact(question)), "not the same questions", class = "habanera_error_input")
  wrong$provenance$experiment <- question
  expect_false(compare(wrong, exact(question))$agree)
  expect_output(print(summary(wrong)), "They lie further from the exact answer than 99 in 100 such runs")
  turns <- draw_more(question, times = 2)
  expect_true(compare(simulate(turns, nsim = 20000, seed = 7), exact(turns))$agree)
})

test_that("summaries: conditional, by turns, and beside the exact value", {
  question <- draws(deck_standard(), 5, aces = count(rank == "A"), red = count(suit %in% c("hearts", "diamonds")) >= 3)
  exactly <- summary(exact(question), given = aces >= 1)
  expect_equal(tidy(exactly)$estimate[1], (5 * 4 / 52) / (1 - choose(48, 5) / choose(52, 5)))
  counts <- simulate(question, nsim = 20000, seed = 8)
  found <- summary(counts, given = aces >= 1)
  expect_equal(tidy(found)$exact, tidy(exactly)$estimate)
  expect_true(all(abs(tidy(found)$statistic) < standard_errors))
  rows <- trials(question, 8, 1:20000)
  expect_equal(tidy(found)$estimate, c(mean(rows$aces[rows$aces >= 1]), mean(rows$red[rows$aces >= 1])))
  values <- as.data.frame(summary(counts))
  expect_equal(sum(values$n), 40000)
  expect_equal(sum(values$exact), 2)
  expect_output(print(summary(counts)), "They agree with the exact answer")
  expect_output(print(exactly), "Given aces >= 1, which holds in 34.12%")
  never <- simulate(draws(deck_standard(), 5, four = count(rank == "A") == 4), nsim = 100, seed = 1)
  expect_output(print(never), "none seen, at most 0.036 (95%); exactly 0.001847% = 1/54145", fixed = TRUE)
})

test_that("many lines are priced in proportion, each price with the edge that its pays have", {
  hand <- exact(draws(deck_standard(), 5, kind = category()))
  pays <- c("one pair" = 1, "two pair" = 2, "three of a kind" = 5, straight = 10, flush = 15, "full house" = 25)
  found <- price_for(hand, pays, edge = 0.1, lines = names(pays)[1:5])
  # Chances by counting: hands of five out of 2,598,960.
  n <- c("one pair" = 1098240, "two pair" = 123552, "three of a kind" = 54912, straight = 10200, flush = 5108,
         "full house" = 3744)
  for (row in seq_len(nrow(found))) {
    paid <- replace(pays, names(pays)[1:5], unlist(found[row, names(pays)[1:5]]))
    expect_equal(found$edge[row], 1 - sum(n * paid) / choose(52, 5))
  }
  expect_equal(found$off, found$edge - 0.1)
  expect_false(is.unsorted(abs(found$off)))
  # The factor: what is paid by the five lines must rise from the mean that they have to what is wanted.
  factor <- (0.9 * choose(52, 5) - 25 * 3744) / sum((n * pays)[1:5])
  for (line in names(pays)[1:4]) {
    expect_true(all(found[[line]] %in% c(floor(factor * pays[[line]]), ceiling(factor * pays[[line]]))))
  }
  # As good as any of these whole numbers with whichever pay of the last.
  best <- min(abs(apply(expand.grid(1:2, 2:3, 6:7, 12:13, 0:200), 1, function(five) {
    0.9 - sum(n * c(five, 25)) / choose(52, 5)
  })))
  expect_equal(abs(found$off[1]), best)
})
