small <- function(procedure, ..., nsim = 1e4, seed = 1) audit(procedure, ..., nsim = nsim, seed = seed)

test_that("a fair shuffle is called fair, with one p-value for each test of the issue", {
  found <- small(shuffle_uniform())
  expect_equal(verdict(found), "no_bias_seen")
  expect_equal(tidy(found)$term, c(
    "conservation", "position_by_card", "stayed_put", "still_together", "rising_sequences", "inversions", "cycles",
    "total_distance", "parity", "top_cards", "successive", "alike_suit", "alike_rank", "guesser"
  ))
  expect_named(tidy(found), c("term", "statistic", "df", "p.value", "p.adjusted", "effect", "could_see"))
  expect_equal(tidy(found)$p.adjusted[-1], p.adjust(tidy(found)$p.value[-1], "holm"))
  expect_equal(tidy(found)$df[2], 51^2)
  expect_output(print(found), "No bias seen in 13 tests at the 1% level")
})

test_that("every biased procedure is called biased, and none of the fair ones", {
  biased <- c("naive_swap", "naive_swap skip_last=1", "one_cycle", "transpositions x52", "random_keys values=100",
              "coin_sort", "coin_sort method=merge", "modulo", "riffle x3", "faro", "overhand x8", "strip x3", "piles",
              "top_to_random x52", "cut", "wash", "none", "small_seed bits=4")
  for (text in biased) expect_equal(verdict(small(procedure(text))), "biased", info = text)
  for (text in c("uniform", "random_keys", "retry", "riffle, uniform, cut")) {
    expect_equal(verdict(small(procedure(text), level = rare)), "no_bias_seen", info = text)
  }
})

test_that("statistics and cells agree with counting the trials one by one", {
  found <- small(shuffle_riffle(2), deck_numbered(9), nsim = 200, seed = 5)
  orders <- t(vapply(1:200, function(trial) {
    as.integer(as.character(shuffle(deck_numbered(9), shuffle_riffle(2), seed = 5, trial = trial)))
  }, integer(9)))
  effects <- tidy(found)$effect
  rising <- apply(orders, 1, function(cards) 1 + sum(diff(order(cards)) < 0))
  expect_match(effects[5], sprintf("^%s rising", format(mean(rising), digits = 4, nsmall = 0)))
  together <- apply(orders, 1, function(cards) sum(diff(cards) == 1))
  expect_match(effects[4], sprintf("^%.3f neighbours", mean(together)))
  places <- summary(found, places = 81)$worst
  expect_equal(places$count[places$card == "3" & places$position == 4], sum(orders[, 4] == 3))
  spearman <- vapply(2:200, function(i) cor(order(orders[i, ]), order(orders[i - 1, ])), 0)
  row <- tidy(found)[tidy(found)$term == "successive", ]
  expect_equal(row$statistic, mean(spearman) * sqrt(8 * 199), tolerance = 1e-9)
  expect_equal(summary(found)$staying$share[1], mean(orders[, 1] == 1))
})

# The guesser of the second half, taught by the first, played again in R.
test_that("the guesser's gain is that of playing it by hand", {
  n <- 6
  found <- small(shuffle_riffle(), deck_numbered(n), nsim = 400, seed = 2)
  orders <- t(vapply(1:400, function(trial) {
    as.integer(as.character(shuffle(deck_numbered(n), shuffle_riffle(), seed = 2, trial = trial)))
  }, integer(n)))
  taught <- orders[1:200, ]
  follows <- matrix(0, n, n)
  for (row in seq_len(200)) for (i in seq_len(n - 1)) {
    follows[taught[row, i], taught[row, i + 1]] <- follows[taught[row, i], taught[row, i + 1]] + 1
  }
  first <- tabulate(taught[, 1], n)
  right <- apply(orders[201:400, ], 1, function(cards) {
    guesses <- vapply(seq_len(n), function(i) {
      liked <- order(-(if (i == 1) first else follows[cards[i - 1], ]))
      setdiff(liked, cards[seq_len(i - 1)])[1]
    }, 0L)
    sum(guesses == cards)
  })
  expect_match(tidy(found)$effect[tidy(found)$term == "guesser"], sprintf("names %.3f,", mean(right)))
})

test_that("p-values of a fair shuffle are uniform, and false alarms stay at the level", {
  seeds <- 150
  p <- vapply(seq_len(seeds), function(seed) {
    table <- tidy(audit(shuffle_uniform(), deck_numbered(12), nsim = 2000, seed = seed, threads = 1))
    c(table$p.value[-1], any(table$p.adjusted < 0.05, na.rm = TRUE))
  }, numeric(12))
  alarms <- p[12, ]
  expect_lte(mean(alarms), 0.05 + standard_errors * sqrt(0.05 * 0.95 / seeds))
  # Twelve cards have 1,320 ordered top threes: the pairs of trials that share one are hundreds, near enough
  # continuous.
  for (test in 1:11) expect_gt(suppressWarnings(ks.test(p[test, ], "punif"))$p.value, rare / 11)
})

test_that("what is no shuffle is said so, with what it loses and when first", {
  found <- small(procedure("overwrite"), deck_numbered(4))
  expect_equal(verdict(found), "not_a_shuffle")
  expect_equal(nrow(tidy(found)), 1)
  expect_output(print(found), "Doubled: 4")
  first <- as.character(shuffle(deck_numbered(4), procedure("overwrite"), seed = 1, trial = 1))
  expect_output(print(found), sprintf("Trial 1 left: %s.", paste(first, collapse = " ")), fixed = TRUE)
  sneaky <- shuffle_with(function(cards) if (runif(1) < 0.02) cards[c(1, 1, 3:8)] else sample(cards))
  rare_slip <- small(sneaky, deck_numbered(8), nsim = 300)
  expect_equal(verdict(rare_slip), "not_a_shuffle")
  expect_output(print(rare_slip), "Lost: 2 \\(")
  expect_output(print(rare_slip), "Doubled: 1 \\(")
})

test_that("doing nothing, and always the same, is called that", {
  expect_output(print(small(procedure("none"), nsim = 50)), "it did nothing")
  expect_output(print(small(shuffle_faro(), nsim = 50)), "it always does the same")
  expect_output(print(small(shuffle_faro(), deck_numbered(2), nsim = 50)), "it did nothing")
})

test_that("tiny decks and few trials give sensible answers", {
  for (n in 0:1) {
    found <- small(shuffle_uniform(), deck_numbered(n))
    expect_equal(verdict(found), "no_bias_seen")
    expect_output(print(found), "one arrangement only")
  }
  expect_equal(verdict(small(shuffle_uniform(), deck_numbered(2))), "no_bias_seen")
  expect_equal(verdict(small(procedure("none"), deck_numbered(2))), "biased")
  for (nsim in 1:5) {
    found <- small(shuffle_uniform(), nsim = nsim)
    expect_equal(verdict(found), "no_bias_seen")
    expect_true(all(is.na(tidy(found)$p.value[tidy(found)$term %in% c("stayed_put", "inversions")])))
  }
})

test_that("chains go on from the trial before, read against the deck in order", {
  found <- small(shuffle_transpositions(3), deck_numbered(6), nsim = 1500, each = "continued", seed = 4)
  lies <- deck_numbered(6)
  orders <- t(vapply(1:1500, function(trial) {
    if (trial == 1001) lies <<- deck_numbered(6)
    lies <<- shuffle(lies, shuffle_transpositions(3), seed = 4, trial = trial)
    as.integer(as.character(lies))
  }, integer(6)))
  counts <- summary(found, places = 36)$worst
  for (i in 1:6) expect_equal(counts$count[counts$card == i & counts$position == 2], sum(orders[, 2] == i))
  expect_equal(verdict(small(shuffle_uniform(), each = "continued")), "no_bias_seen")
})

test_that("threads and repeated runs give the same audit", {
  of <- function(...) tidy(small(shuffle_riffle(5), ...))
  expect_identical(of(threads = 1), of(threads = 2))
  chained <- function(...) tidy(small(shuffle_riffle(5), nsim = 5500, each = "continued", ...))
  expect_identical(chained(threads = 1), chained(threads = 2))
})

test_that("copies: our own procedures know places, a function of cards knows kinds", {
  two <- as_cards("AS AS AS KD KD 2C")
  own <- small(shuffle_uniform(), two)
  expect_equal(tidy(own)$df[tidy(own)$term == "position_by_card"], 25)
  expect_match(tidy(own)$effect[2], "place")
  by_kind <- small(shuffle_with(function(cards) sample(cards)), two, nsim = 2000)
  expect_equal(tidy(by_kind)$df[tidy(by_kind)$term == "position_by_kind"], 10)
  expect_false("inversions" %in% tidy(by_kind)$term)
  expect_output(print(by_kind), "were left out")
  expect_equal(verdict(by_kind), "no_bias_seen")
  stuck <- small(shuffle_with(function(cards) cards[c(1, sample(2:6))]), two, nsim = 500)
  expect_equal(verdict(stuck), "biased")
})

test_that("a grid counts neighbours above and below, and attributes can be chosen", {
  grid <- small(shuffle_uniform(), grid = c(4, 13))
  # 4 x 12 + 3 x 13 pairs of neighbours, of which 12/51 share a suit.
  expect_match(tidy(grid)$effect[12], sprintf("%.2f expected", 87 * 12 / 51))
  expect_true("alike_points" %in% tidy(small(shuffle_uniform(), alike = "points"))$term)
})

test_that("a generator with few starting points shows in arrangements that come again", {
  few <- shuffle_with(function(cards) {
    state <- sample(5000, 1)
    order <- order((seq_along(cards) * 7919 + state * 104729) %% 99991 * (state %% 977 + 1) %% 7907)
    cards[order]
  })
  found <- tidy(small(few, nsim = 2000))
  repeats <- found[found$term == "repeats", ]
  expect_lt(repeats$p.value, 1e-15)
  expect_match(repeats$effect, "First: trial")
})

test_that("more than 400 cards are judged by means", {
  found <- small(shuffle_uniform(), deck_numbered(450), nsim = 400)
  expect_equal(verdict(found), "no_bias_seen")
  expect_true(all(is.na(tidy(found)$df[tidy(found)$term %in% c("inversions", "total_distance", "cycles")])))
  expect_equal(verdict(small(shuffle_riffle(4), deck_numbered(450), nsim = 400)), "biased")
})

test_that("a pilot tells how many trials are needed, and so many do show it", {
  needed <- trials_needed(shuffle_naive_swap(), nsim = 1e5, seed = 1)
  enough <- needed$trials[needed$term == "position_by_card"]
  level <- 0.01 / 13
  found <- vapply(1:60, function(seed) {
    table <- tidy(audit(shuffle_naive_swap(), nsim = enough, seed = 100 + seed, threads = 1))
    table$p.value[table$term == "position_by_card"] < level
  }, TRUE)
  expect_gte(mean(found), 0.95 - standard_errors * sqrt(0.95 * 0.05 / 60))
  expect_true(all(trials_needed(shuffle_uniform(), nsim = 2e4, seed = 3)$trials > 2e4))
  expect_output(print(needed), "would show it")
})

test_that("the bias that a test says it could have seen is found as often as it says", {
  deck <- deck_numbered(12)
  trials <- 1500
  row <- tidy(small(shuffle_uniform(), deck, nsim = trials))[2, ]
  off <- as.numeric(sub(".* place (.*) points.*", "\\1", row$could_see)) / 100
  level <- 0.01 / 11
  # Card 1 is put at place 1 in so many trials, its place taken by the card that lay there.
  lucky <- off / (1 - 1 / 12)
  found <- withr::with_seed(8, vapply(1:40, function(i) {
    rows <- t(replicate(trials, {
      cards <- sample(12)
      if (runif(1) < lucky) cards[c(1, match(1, cards))] <- cards[c(match(1, cards), 1)]
      cards
    }))
    file <- tempfile()
    data.table::fwrite(as.data.frame(rows), file, sep = " ", col.names = FALSE)
    tidy(audit(shuffle_recorded(file, deck = deck)))$p.value[2] < level
  }, TRUE))
  # `off` is rounded, so that its power is not quite 95%: it is that of the noncentral law.
  power <- pchisq(qchisq(level, 121, lower.tail = FALSE), 121, trials * off^2 * 144 / 11, lower.tail = FALSE)
  expect_equal(power, 0.95, tolerance = 0.02)
  expect_lte(abs(mean(found) - power), standard_errors * sqrt(power * (1 - power) / 40))
})

test_that("over sizes the smallest deck that fails is named, with an example", {
  found <- small(shuffle_naive_swap(), sizes = 0:4)
  expect_equal(found$verdict, c(rep("no_bias_seen", 3), rep("biased", 2)))
  expect_output(print(found), "the smallest deck is one of 3 cards")
  expect_output(print(found), "4/27")
  expect_output(print(found), "<trace>")
  expect_output(print(small(shuffle_uniform(), sizes = 0:3)), "No bias seen on any")
})

test_that("bad settings of an audit are refused", {
  fair <- shuffle_uniform()
  expect_refusals(list(
    list(quote(audit(list("riffle"))), "input", "must be a shuffling procedure"),
    list(quote(audit(fair, each = "sorted")), "input", "`each` must be"),
    list(quote(audit(fair, level = 2)), "input", "`level` must be a number of 1e-12 or more and below 1"),
    list(quote(audit(fair, grid = c(5, 5))), "input", "has 25 places, too few for 52 cards"),
    list(quote(audit(fair, alike = "colour")), "input", "must be attributes of the deck"),
    list(quote(audit(fair, gird = c(4, 13))), "input", "audit() has no setting `gird`; did you mean \"grid\"?"),
    list(quote(audit(fair, sizes = 1:3, grid = c(1, 3))), "input", "`sizes` audits numbered decks"),
    list(quote(audit(fair, sizes = -1)), "input", "`sizes` must be numbers of cards"),
    list(quote(audit(fair, deck_numbered(5000))), "work", "At most 4,096 cards"),
    list(quote(audit(shuffle_with(function(x) c(x, x[1])), nsim = 5)), "function", "53 cards for 52 in trial 1"),
    list(quote(verdict(1)), "input", "must be an audit()"),
    list(quote(trials_needed(fair, sizes = 1:3)), "input", "leave out `sizes`")
  ))
})
