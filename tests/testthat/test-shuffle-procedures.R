# Slow, independent descriptions of what each procedure does to a deck 1, 2, ..., n: a list of all its
# outcomes, each with its chance. Written from what the hands do, not from the core.
all_of <- function(...) as.matrix(expand.grid(...))

law_of <- function(outcomes, chances = rep(1 / length(outcomes), length(outcomes))) {
  names <- vapply(outcomes, paste, "", collapse = " ")
  total <- tapply(chances, names, sum)
  total[total > 0]
}

swapped <- function(deck, i, j) replace(deck, c(i, j), deck[c(j, i)])

over_rows <- function(choices, play) lapply(seq_len(nrow(choices)), function(row) play(unname(choices[row, ])))

loop_law <- function(n, sizes, partner) {
  choices <- do.call(all_of, lapply(sizes, seq_len))
  law_of(over_rows(choices, function(choice) {
    deck <- seq_len(n)
    for (i in seq_along(sizes)) deck <- do.call(swapped, c(list(deck), partner(i, choice[i])))
    deck
  }))
}

# All ways to let the cards of two packets fall, each with its chance by `same(last, left, right)`.
drops <- function(left, right, chance_left, last = NULL) {
  if (!length(left) || !length(right)) return(list(list(cards = c(left, right), chance = 1)))
  p <- chance_left(length(left), length(right), last)
  c(lapply(drops(left[-1], right, chance_left, "left"), function(way) {
      list(cards = c(left[1], way$cards), chance = p * way$chance)
    }),
    lapply(drops(left, right[-1], chance_left, "right"), function(way) {
      list(cards = c(right[1], way$cards), chance = (1 - p) * way$chance)
    }))
}

riffle_law <- function(n, cut_chance, chance_left) {
  ways <- do.call(c, lapply(0:n, function(upper) {
    lapply(drops(head(seq_len(n), upper), tail(seq_len(n), n - upper), chance_left), function(way) {
      list(cards = way$cards, chance = way$chance * cut_chance[upper + 1])
    })
  }))
  law_of(lapply(ways, `[[`, "cards"), vapply(ways, `[[`, 0, "chance"))
}

by_size <- function(left, right, last) left / (left + right)

# Packets (as numbers of cards from the top) laid one upon the other.
stacked <- function(sizes) {
  ends <- cumsum(sizes)
  unlist(lapply(rev(seq_along(sizes)), function(i) (ends[i] - sizes[i] + 1):ends[i]))
}

compositions <- function(n) {
  cuts <- do.call(all_of, rep(list(0:1), n - 1))
  lapply(seq_len(nrow(cuts)), function(row) diff(c(0, which(cuts[row, ] == 1), n)))
}

sorted_by <- function(keys) order(keys)  # ties in old order

normal_cut <- function(n, spread) {
  weights <- exp(-((0:n) - n / 2)^2 / (2 * spread^2))
  weights / sum(weights)
}

n <- 4
cases <- list(
  uniform = loop_law(n, n:2, function(i, choice) c(i, i - 1 + choice)),
  none = law_of(list(1:n)),
  naive_swap = loop_law(n, rep(n, n), function(i, choice) c(i, choice)),
  "naive_swap skip_last=1" = loop_law(n, rep(n, n - 1), function(i, choice) c(i, choice)),
  one_cycle = loop_law(n, 3:1, function(i, choice) c(n + 1 - i, choice)),
  transpositions = law_of(over_rows(all_of(1:n, 1:n), function(at) swapped(1:n, at[1], at[2]))),
  "random_keys values=3" = law_of(over_rows(all_of(1:3, 1:3, 1:3, 1:3), sorted_by)),
  "coin_sort method=insertion" = law_of(over_rows(all_of(0:1, 0:1, 0:1, 0:1, 0:1, 0:1), function(coins) {
    # Card 2 may climb over card 1 (coin 1), card 3 over one and then another, and so on.
    deck <- 1
    at <- 0
    for (card in 2:n) {
      climbed <- 0
      while (climbed < card - 1 && coins[at + climbed + 1] == 1) climbed <- climbed + 1
      at <- at + card - 1
      deck <- append(deck, card, after = card - 1 - climbed)
    }
    deck
  })),
  "coin_sort method=merge" = local({
    halves <- drops(1:2, 3:4, function(...) 0.5)
    flips <- all_of(0:1, 0:1)
    outcomes <- over_rows(flips, function(f) lapply(halves, function(way) {
      c(if (f[1]) 2:1 else 1:2, if (f[2]) 4:3 else 3:4)[way$cards]
    }))
    law_of(unlist(outcomes, recursive = FALSE), rep(vapply(halves, `[[`, 0, "chance"), 4) / 4)
  }),
  "modulo bits=2" = law_of(over_rows(all_of(0:3, 0:3, 0:3), function(number) {
    deck <- 1:n
    for (i in 1:3) deck <- swapped(deck, i, i + number[i] %% (n + 1 - i))
    deck
  })),
  overwrite = law_of(over_rows(all_of(1:4, 1:3, 1:2), function(choice) {
    deck <- 1:n
    for (i in 1:3) deck[i] <- deck[i - 1 + choice[i]]
    deck
  })),
  "overwrite partner=any" = law_of(over_rows(all_of(1:4, 1:4, 1:4, 1:4), function(choice) {
    deck <- 1:n
    for (i in 1:4) deck[i] <- deck[choice[i]]
    deck
  })),
  riffle = riffle_law(n, dbinom(0:n, n, 0.5), by_size),
  "riffle cut=1" = riffle_law(n, normal_cut(n, 1), by_size),
  "riffle cut=0 clump=0.2" = riffle_law(n, c(0, 0, 1, 0, 0), function(left, right, last) {
    if (is.null(last)) left / (left + right) else if (last == "left") 0.2 else 0.8
  }),
  "faro side=out" = law_of(list(c(1, 3, 2, 4))),
  "faro side=in" = law_of(list(c(3, 1, 4, 2))),
  "overhand packet=3" = local({
    packets <- compositions(n)
    law_of(lapply(packets, stacked), vapply(packets, function(p) (1 / 3)^(length(p) - 1) * (2 / 3)^(n - length(p)), 0))
  }),
  "strip packets=3" = law_of(lapply(Filter(function(p) length(p) == 3, compositions(n)), stacked)),
  "piles piles=3" = law_of(list(c(4, 1, 2, 3))),
  "piles piles=2 pick_up=reversed" = law_of(list(c(4, 2, 3, 1))),
  "piles piles=2 pick_up=random" = law_of(list(c(4, 2, 3, 1), c(3, 1, 4, 2))),
  top_to_random = law_of(lapply(0:3, function(after) append(2:n, 1, after))),
  "cut spread=1" = law_of(lapply(0:n, function(upper) c(tail(1:n, n - upper), head(1:n, upper))), normal_cut(n, 1)),
  "wash reach=2" = law_of(over_rows(all_of(0:2, 0:2, 0:2, 0:2), function(slid) sorted_by(1:n + slid))),
  "shelf shelves=2" = law_of(over_rows(all_of(1:2, 1:2, 1:2, 1:2, 0:1, 0:1, 0:1, 0:1), function(choice) {
    shelves <- list(integer(), integer())
    for (card in 1:n) {
      on <- choice[card]
      shelves[[on]] <- if (choice[n + card]) c(card, shelves[[on]]) else c(shelves[[on]], card)
    }
    unlist(shelves)
  }))
)

test_that("every procedure has exactly the law of its slow description on four cards", {
  for (text in names(cases)) {
    law <- exact(procedure(text), deck_numbered(n))
    found <- rlang::set_names(law$probability, law$outcomes$arrangement)
    expected <- cases[[text]]
    expect_setequal(names(found), names(expected))
    expect_equal(found[names(expected)], c(expected), tolerance = 1e-13, info = text, ignore_attr = TRUE)
  }
  # Every kind of step stands above, but those that cannot be walked.
  walked <- unique(sub(" .*$", "", names(cases)))
  expect_setequal(setdiff(names(habanera:::step_kinds), walked), c("small_seed", "retry", "with"))
})

test_that("simulation keeps to the exact law, procedure by procedure", {
  deck <- deck_numbered(n)
  for (text in grep("^overwrite", names(cases), value = TRUE, invert = TRUE)) {
    exactly <- exact(positions(deck, procedure(text)), method = "walk")$probability
    counted <- simulate(positions(deck, procedure(text)), nsim = 20000, seed = 31)$n
    band <- standard_errors * sqrt(20000 * exactly * (1 - exactly)) + 1e-6
    expect_true(all(abs(counted - 20000 * exactly) <= band), info = text)
  }
})

test_that("at 52 cards each keeps a property that is known", {
  moves <- function(text, nsim = 4000) {
    as.matrix(trials(positions(deck_numbered(52), procedure(text)), 5, seq_len(nsim))[-1])
  }
  whole <- function(cards) matrix(as.numeric(cards), nrow = nrow(cards))
  # One cycle: a card never stays where it was, and the first place's cycle has all 52.
  cycle <- whole(moves("one_cycle", 50))
  for (row in 1:50) expect_equal(habanera:::cycle_lengths(cycle[row, ]), 52)
  # A riffle leaves at most two rising sequences; on average 52/2 cards in the upper packet.
  rising <- function(deck) 1 + sum(diff(order(deck)) < 0)
  riffled <- whole(moves("riffle"))
  expect_lte(max(apply(riffled, 1, rising)), 2)
  # Overhand: 51 gaps, each cut with chance 1/4; packets - 1 is binomial.
  packets <- apply(whole(moves("overhand")), 1, function(deck) sum(diff(deck) != 1))
  expect_lt(abs(mean(packets) - 51 / 4), standard_errors * sqrt(51 * 3 / 16 / 4000))
  # Strips: exactly so many packets.
  expect_equal(unique(apply(whole(moves("strip packets=6", 50)), 1, function(deck) sum(diff(deck) != 1))), 5)
  # Wash: nobody gets further ahead than the reach.
  washed <- whole(moves("wash reach=10", 200))
  expect_lte(max(abs(washed - col(washed))), 10)
  # Top to random: the top card's place is uniform.
  place <- apply(whole(moves("top_to_random")), 1, function(deck) which(deck == 1))
  expect_gt(suppressWarnings(chisq.test(tabulate(place, 52)))$p.value, rare)
  # Naive swap: the fair count of cards that stay is 1; this loop's is larger by a known law, tested on
  # four cards above; here the uniform ones must look uniform.
  for (text in c("uniform", "small_seed", "random_keys", "retry")) {
    x <- simulate(positions(deck_numbered(52), procedure(text)), nsim = 5000, seed = 3)
    expect_gt(summary(x)$test$p.value, rare)
  }
  for (text in c("naive_swap", "naive_swap skip_last=1", "one_cycle", "riffle x3", "modulo bits=6", "shelf shelves=2",
                 "random_keys values=20", "coin_sort", "piles pick_up=random", "wash", "cut")) {
    x <- simulate(positions(deck_numbered(52), procedure(text)), nsim = 50000, seed = 3)
    expect_lt(summary(x)$test$p.value, rare)
  }
})

test_that("no card is lost by any procedure on any deck, but by the one that is no shuffle", {
  for (name in setdiff(names(habanera:::step_kinds), c("overwrite", "with"))) {
    for (size in c(0, 1, 2, 3, 52, 53, 200)) {
      deck <- deck_numbered(size)
      shuffled <- shuffle(deck, procedure(name), seed = 2)
      expect_equal(nrow(check_cards(shuffled, against = deck)), 0, info = paste(name, size))
    }
  }
  expect_gt(nrow(check_cards(shuffle(deck_numbered(52), shuffle_overwrite(), seed = 1), deck_numbered(52))), 0)
})

test_that("a retry loop costs n H_n random numbers on average", {
  x <- simulate(shuffle_retry(), nsim = 20000, seed = 4, deck = 10)
  row <- tidy(x)
  expect_equal(row$exact, 10 * sum(1 / 1:10))
  expect_lt(abs(row$statistic), standard_errors)
  expect_equal(min(x$outcomes$numbers[x$n > 0]), 10)
  expect_identical(simulate(shuffle_retry(), 5000, 4, deck = 10, threads = 3)$n,
                   simulate(shuffle_retry(), 5000, 4, deck = 10, threads = 1)$n)
  expect_output(print(x), "exactly 29.2897")
  expect_error(simulate(shuffle_riffle(), 10), class = "habanera_error_input")
})

test_that("somebody's R function shuffles by the trial's address, among other steps too", {
  mine <- shuffle_with(function(x) x[sample(length(x))])
  expect_identical(shuffle(deck_standard(), mine, seed = 1), shuffle(deck_standard(), mine, seed = 1))
  expect_identical(shuffle(deck_numbered(9), c(shuffle_riffle(2), shuffle_with(rev)), seed = 1),
                   rev(shuffle(deck_numbered(9), shuffle_riffle(2), seed = 1)))
  expect_identical(shuffle(deck_numbered(9), rep(shuffle_with(rev), 2), seed = 1), deck_numbered(9))
  x <- simulate(positions(deck_numbered(5), mine), nsim = 3000, seed = 2)
  expect_gt(summary(x)$test$p.value, rare)
  drawn <- simulate(draws(deck_numbered(5), 2, shuffle = mine), nsim = 300, seed = 2)
  first <- trials(draws(deck_numbered(5), 2, shuffle = mine), 2, 1:300)
  expect_equal(sum(first[-1] == "3"), drawn$n[3])
  expect_refusals(list(
    list(quote(shuffle(deck_numbered(5), shuffle_with(function(x) x[-1]), seed = 8)), "function",
         "returned 4 cards for 5: \"1\" is missing, in trial 1 of seed 8"),
    list(quote(shuffle(deck_numbered(5), shuffle_with(function(x) 1), seed = 8)), "function", "must return the cards"),
    list(quote(shuffle(deck_numbered(5), shuffle_with(function(x) stop("oh")), seed = 8)), "function",
         "Your shuffle failed in trial 1 of seed 8"),
    list(quote(exact(mine, deck_numbered(3))), "work", "cannot be walked"),
    list(quote(replay(mine, 1, deck = deck_numbered(3))), "input", "cannot be watched"),
    list(quote(shuffle_with(5)), "input", "`f` must be a function")
  ))
})
