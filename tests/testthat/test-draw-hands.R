standard <- deck_standard()
fair_hands <- function(hands, size = 5, seed = 7, deck = standard) {
  as.matrix(trials(draws(deck, size), seed, seq_len(hands))[-1])
}
records <- function(hands, deck = standard, ...) suppressMessages(draws_recorded(as.data.frame(hands), deck, ...))
tests_of <- function(x) tidy(summary(x))

# Six ways to tamper with fair hands; `share` of them are touched.
rank_of <- function(card) sub(".$", "", card)
pair_forced <- function(hands, share) {
  for (row in sample(nrow(hands), share * nrow(hands))) {
    mates <- setdiff(paste0(rank_of(hands[row, 1]), c("S", "H", "C", "D")), hands[row, ])
    if (length(mates)) hands[row, 2] <- sample(mates, 1)
  }
  hands
}
suit_thinned <- function(hands, share) {
  # A spade is put back, and another card drawn, as often as `share` says.
  for (row in seq_len(nrow(hands))) for (at in which(grepl("S$", hands[row, ]))) {
    if (runif(1) < share) hands[row, at] <- sample(setdiff(as.character(standard), hands[row, ]), 1)
  }
  hands
}
follows <- function(hands, share) {
  # The king of diamonds comes with the ace of spades.
  for (row in which(rowSums(hands == "AS") == 1 & rowSums(hands == "KD") == 0)) if (runif(1) < share) {
    hands[row, which(hands[row, ] != "AS")[1]] <- "KD"
  }
  hands
}

test_that("each test is what it says, on hands that can be worked by hand", {
  x <- records(fair_hands(400, 3))
  plan <- hand_plan(x)
  n <- matrix(0, 52, 52)
  for (row in seq_len(400)) n[plan$fair[row, ], plan$fair[row, ]] <- n[plan$fair[row, ], plan$fair[row, ]] + 1
  single <- diag(n)
  diag(n) <- 0
  # What single cards explain of pair counts, by least squares, taken off.
  upper <- upper.tri(n)
  design <- matrix(0, sum(upper), 52)
  design[cbind(seq_len(sum(upper)), row(n)[upper])] <- 1
  design[cbind(seq_len(sum(upper)), col(n)[upper])] <- 1
  left <- stats::lm.fit(design, n[upper])$residuals
  squares <- pair_squares(plan$fair, rep(1L, 400), 1, 52)
  expect_equal(squares$statistic, sum(left^2), tolerance = 1e-9)
  found <- tests_of(x)
  row <- function(term) found[found$term == term, ]
  # Over the eigenvalue that the number of ways gives: two cards more of three, of 48, in one of C(52, 3) hands.
  expect_equal(row("pairs of cards")$statistic, sum(left^2) / (400 * choose(48, 1) / choose(52, 3)), tolerance = 1e-9)
  expect_equal(row("single cards")$statistic, sum((single - 400 * 3 / 52)^2 / (400 * 3 / 52)) * 51 / 49)
  different <- apply(fair_hands(400, 3), 1, function(hand) length(unique(rank_of(hand))))
  law <- c(13 * 4, 13 * 12 * 6 * 4, choose(13, 3) * 64) / choose(52, 3)
  mean <- sum(law * 1:3)
  expect_equal(row("different ranks")$statistic, 400 * (mean(different) - mean)^2 / (sum(law * (1:3)^2) - mean^2),
               tolerance = 1e-9)
  places <- table(factor(as.vector(fair_hands(400, 3)), as.character(standard)), rep(1:3, each = 400))
  expect_equal(row("place in the hand")$statistic, sum((places - rowMeans(places))^2) * 51 / 400, tolerance = 1e-9)
  expect_equal(found$p.adjusted, p.adjust(found$p.value, "holm"))
  expect_equal(chance_of_repeat(rep(1, 52), 5), 1 - prod(1 - (0:4) / 52))
  # Two of each of two kinds, three cards with replacement: all alike is 2 in 8.
  expect_equal(chance_of_repeat(c(2, 2), 3), 1 / 4)
})

test_that("fair hands pass at the level, also few, also where cards repeat", {
  alarms <- function(repeats, make) {
    mean(vapply(seq_len(repeats), function(seed) verdict(records(make(seed))) == "biased", NA))
  }
  # Holm's correction keeps all tests together at the level: 1 in 100.
  most <- function(repeats) 0.01 + standard_errors * sqrt(0.01 * 0.99 / repeats)
  expect_lte(alarms(25, function(seed) fair_hands(7000, 5, seed)), most(25))
  expect_lte(alarms(30, function(seed) fair_hands(40, 5, seed)), most(30))
  p <- vapply(1:60, function(seed) tests_of(records(fair_hands(600, 3, seed)))$p.value[c(2:7)], numeric(6))
  # Each p-value is as often small as it says.
  for (term in 1:6) expect_lt(abs(mean(p[term, ] < 0.2) - 0.2), standard_errors * sqrt(0.2 * 0.8 / 60))
  doubled <- deck_standard(packs = 2, ranks = c("9", "10", "J", "Q", "K", "A"))
  repeated <- vapply(1:12, function(seed) {
    x <- records(as.matrix(trials(draws(doubled, 4), seed, 1:300)[-1]), doubled)
    c(min(tests_of(x)$p.adjusted), sum(tests_of(x)$term == "repeats within a hand"))
  }, c(0, 0))
  expect_lte(mean(repeated[1, ] < 0.01), most(12))
  expect_true(all(repeated[2, ] == 0))
})

test_that("records that were tampered with in six ways are seen, and what is off is named", {
  set.seed(1)
  hands <- fair_hands(5000)
  # A share that is told to be seen in nine of ten, and half as much again.
  share <- 1.5 * summary(records(hands))$hands$seen
  found <- summary(records(pair_forced(hands, share)))
  expect_equal(verdict(found), "biased")
  expect_match(hands_verdict(found), "Biased, by [0-9] of 8 tests at level 0.01 \\(Holm\\): .*(ranks|categories)")
  off <- function(x) {
    tests <- tests_of(x)
    tests$term[tests$p.adjusted < 0.01]
  }
  expect_true("suits" %in% off(records(suit_thinned(hands, 0.3))))
  with_ace <- records(follows(hands, 0.3))
  expect_true("pairs of cards" %in% off(with_ace))
  expect_match(tests_of(with_ace)$off[2], "AS with KD|KD with AS")
  # A pack that lacks a card.
  short <- as.matrix(trials(draws(standard[-13], 5), 3, 1:5000)[-1])
  expect_true("single cards" %in% off(records(short)))
  # A block that was not shuffled: neighbours of the new pack come together.
  block <- hands
  for (row in sample(5000, 600)) block[row, ] <- as.character(standard)[sample(48, 1) + 0:4]
  expect_true(all(c("pairs of cards", "categories", "different suits") %in% off(records(block))))
  # A card twice in a hand, where it cannot be; and where all go back, but none comes twice.
  twice <- hands
  twice[17, 2] <- twice[17, 1]
  expect_equal(off(records(twice)), "repeats within a hand")
  expect_match(summary(records(twice))$hands$repeats, "1 of 5,000 hands hold.*draw 17.*So neither holds")
  expect_equal(verdict(records(hands, replace = TRUE)), "biased")
  back <- as.matrix(trials(draws(standard, 5, replace = TRUE), 2, 1:2000)[-1])
  expect_equal(verdict(records(back, replace = TRUE)), "no_bias_seen")
  expect_match(summary(records(back))$hands$repeats, "say `replace = TRUE`")
  # As often as is told: of records with the share that is seen in nine of ten.
  seen <- vapply(1:20, function(seed) {
    hands <- fair_hands(2000, 5, seed)
    verdict(records(pair_forced(hands, summary(records(hands))$hands$seen))) == "biased"
  }, NA)
  expect_gt(mean(seen), 0.9 - standard_errors * sqrt(0.9 * 0.1 / 20))
  needed <- draws_needed(standard, 5, tampered = 0.1, level = 0.01, power = 0.9)
  expect_equal(needed$trials[2], ceiling(2000 * (summary(records(fair_hands(2000)))$hands$seen / 0.1)^2),
               tolerance = 1e-3)
})

test_that("hands that are written in order are told, and their places not judged", {
  sorted <- t(apply(fair_hands(300), 1, function(hand) as.character(standard)[sort(match(hand,
                                                                                         as.character(standard)))]))
  x <- summary(records(sorted))
  expect_false("place in the hand" %in% x$hands$tests$term)
  expect_output(print(x), "All hands are written in order")
  expect_equal(verdict(x), "no_bias_seen")
  by_rank <- t(apply(fair_hands(300), 1, function(hand) hand[order(-match(rank_of(hand),
                                                                          c(2:10, "J", "Q", "K", "A")))]))
  expect_true(written_in_order(records(by_rank)$hands$kinds, standard))
  expect_false(written_in_order(records(fair_hands(300))$hands$kinds, standard))
  page <- withr::local_tempfile(fileext = ".html")
  report(records(fair_hands(300)), page)
  expect_match(paste(readLines(page), collapse = " "), "No bias seen by [0-9] tests.*pairs of cards")
  expect_match(autoplot(records(fair_hands(300)))$labels$subtitle, "No bias seen by [0-9] tests")
  few <- records(fair_hands(3))
  expect_equal(verdict(few), "too_few")
  expect_output(print(few), "Too few draws to tell")
})

test_that("questions are asked of records, and answered as of the simulation that made them", {
  file <- withr::local_tempfile(fileext = ".csv")
  utils::write.csv(cbind(trial = 1:500, stake = 5, as.data.frame(fair_hands(500, 5, 8))), file, row.names = FALSE)
  read <- function(...) suppressMessages(draws_recorded(file, standard, ...))
  asked <- read(pair = category() >= "one pair", aces = count(rank == "A"))
  same <- simulate(draws(standard, 5, pair = category() >= "one pair", aces = count(rank == "A")), 500, seed = 8)
  expect_equal(as.data.frame(asked), as.data.frame(same))
  expect_equal(tidy(payout(asked, ifelse(pair, 2, 0)))$estimate, tidy(payout(same, ifelse(pair, 2, 0)))$estimate)
  law <- exact(draws(standard, 5, pair = category() >= "one pair"))
  expect_equal(tidy(compare(read(), law)), tidy(compare(simulate(draws(standard, 5, pair = category() >= "one pair"),
                                                                  500, seed = 8), law)))
  expect_refusals(list(
    list(quote(compare(read(), exact(draws(standard, 3, pair = count(rank == "A") > 1)))), "input",
         "The records are of"),
    list(quote(read(pair = category() == "flsh")), "language", "did you mean \"flush\""),
    list(quote(compare(as_counts(c(AS = 3)), law)), "input", "not the same draws"),
    list(quote(compare(as_counts(c(AS = 3, KD = 2), size = 5), law)), "input", "hands themselves are needed")
  ), environment())
  twice <- list(c("AS", "AS"), c("KD", "2C"))
  expect_message(held <- draws_recorded(twice, standard, aces = count(rank == "A")), "1 hand holds a card more often")
  expect_equal(held$n[held$outcomes$aces == 2], 1)
  expect_no_message(draws_recorded(twice, standard, replace = TRUE, aces = count(rank == "A")),
                    message = "holds a card")
  ran <- run_words("draws", "--file", file, "--ask", "pair = category() >= \"one pair\"", "--format", "csv", "--expect",
                   "pair > 0.99")
  expect_equal(ran$status, 1)
  expect_match(run_words("draws", "--file", file, "--columns", "3-7")$out, "No bias seen by [0-9] tests", all = FALSE)
  tampered <- withr::local_tempfile(fileext = ".csv")
  set.seed(2)
  utils::write.csv(pair_forced(fair_hands(3000), 0.3), tampered, row.names = FALSE)
  expect_equal(run_words("draws", "--file", tampered, "--expect", "fair")$status, 1)
  expect_equal(run_words("draws", "--columns", "2-6")$status, 2)
})

test_that("of copies the card that comes too often is named, and what was read is told as it was asked", {
  two_packs <- deck_standard(packs = 2)
  held <- list(c("AS", "AS", "KD", "KD", "KD"), c("2C", "3C", "4C", "5C", "6C"))
  expect_output(print(summary(suppressMessages(draws_recorded(held, two_packs)))), "with KD again")
  file <- withr::local_tempfile(lines = c("AS KD", "QC 2D 3D", "7H 8H"), fileext = ".txt")
  read <- suppressMessages(draws_recorded(file, size = 2, notation = "rank_first"))
  code <- read$provenance$made_by
  expect_identical(suppressMessages(eval(str2lang(sub("^x <- ", "", code$r))))$n, read$n)
  expect_match(code$shell, "--size 2 --notation rank_first")
  expect_error(draws_recorded(file, size = "a"), "whole number", class = "habanera_error_input")
})

test_that("of counts alone it is told that hands are not judged", {
  counted <- as_counts(table(as.character(deck_standard())[1:50]), size = 5)
  expect_output(print(summary(counted)), "what lay in one hand is not\\s+judged")
  expect_no_match(capture_output(print(summary(simulate(draws(deck_standard(), 5), nsim = 100, seed = 1)))),
                  "not judged")
})

test_that("columns beside the cards are passed over, and what cannot be understood is told with its cure", {
  lines <- function(...) withr::local_tempfile(fileext = ".csv", lines = c(...), .local_envir = parent.frame())
  wanted <- suppressMessages(draws_recorded(lines("AS KD", "10H 2C")))$n
  read <- function(said, file, ...) {
    expect_message(x <- draws_recorded(file, ...), said, fixed = TRUE)
    expect_equal(x$n, wanted)
  }
  read("column \"trial\" passed over", lines("trial,c1,c2", "1,AS,KD", "2,10H,2C"))
  read("columns 1 and 2 passed over", lines("2026-11-30;front table;AS KD", "2026-11-30;back table;10H 2C"))
  read("column 1 passed over", lines("1 AS KD", "2 10H 2C"))
  read("cards in columns 2 and 3", lines("7,AS,KD,9C", "8,10H,2C,9D"), columns = 2:3)
  read("cards in columns \"b\" and \"c\"", data.frame(a = c("9C", "9D"), b = c("AS", "10H"), c = c("KD", "2C")),
       columns = c("b", "c"))
  read("as rank then suit", list(c("AS", "KD"), "10H 2C"))
  read("as rank then suit", c("AS", "KD", "10H", "2C"), size = 2)
  read("as rank then suit", as_cards("AS KD 10H 2C"), size = 2)
  read("1 row of other sizes left out", lines("AS KD", "10H 2C 3C", "10H 2C"), size = 2)
  numbers <- lines("trial,a,b", sprintf("%d,%d,%d", 1:6, c(14, 3, 44, 9, 8, 7), c(20, 1, 2, 30, 31, 12)))
  orchard <- deck_from(demo_file("orchard.csv"))
  expect_equal(provenance(suppressMessages(draws_recorded(numbers, orchard)))$entries, 2)
  expect_refusals(list(
    list(quote(draws_recorded(lines("AS,KD,2C", "KD,QC,x", "2C,3C,y", "4C,5C,z"))), "file",
         "Column 3 is cards in some rows and not in others"),
    list(quote(draws_recorded(lines("AS KD", "QC 3D 4D", "2C 3C"))), "file",
         "It holds 2 rows of 2 cards and 1 row of 3"),
    list(quote(draws_recorded(lines("AS KD", "SQ D3"))), "notation", "rank then suit as at"),
    list(quote(draws_recorded(lines("AS KD", "2C 3C"), columns = 5)), "input",
         "`columns` must be names, or whole numbers"),
    list(quote(draws_recorded(lines("a,b", "AS,KD"), columns = "c")), "input", "`columns` names \"c\""),
    list(quote(draws_recorded(c("AS", "KD", "QC"), size = 2)), "input", "3 cards do not make draws of 2"),
    list(quote(draws_recorded(list("AS KD", character()))), "input", "a hand that has no card"),
    list(quote(audit(shuffle_recorded(lines("AS KD 2C", "QC 3D 9H")))), "file", "draws and no arrangements of 52")
  ), environment())
  expect_equal(as.character(hand_category(lines("stake,a,b,c", "5,AS,AD,2C", "10,2C,3D,5H"))),
               c("one pair", "high card"))
  expect_equal(rank_hands(data.frame(stake = 5, a = "AS", b = "AD"))$hand, "AS AD")
  ran <- run_words("hands", lines("stake,a,b,c", "5,AS,AD,2C", "10,2C,3D,5H"), "--columns", "2-4", "--format", "csv")
  expect_match(ran$out, "AS AD 2C", all = FALSE)
})
