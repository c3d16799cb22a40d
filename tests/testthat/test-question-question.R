test_that("hand-worked answers", {
  deck <- deck_standard()
  aces <- exact(draws(deck, 5, two_up = count(rank == "A") >= 2, flush = largest_group(suit) == 5))
  # (C(4,2) C(48,3) + C(4,3) C(48,2) + C(48,1)) / C(52,5), and four suits of C(13,5).
  expect_equal(tidy(aces)$estimate, c(6 * 17296 + 4 * 1128 + 48, 4 * 1287) / choose(52, 5), tolerance = 1e-14)
  # A given hand of two that needs one more of two cards among three.
  sure <- exact(draws(as_cards("AS KD QC JH 10S"), 3, ace = count(rank == "A") == 1, held = "KD", dead = "QC"))
  expect_equal(tidy(sure)$estimate, 2 / 3)
  # Two dice.
  dice <- deck_from(data.frame(card = letters[1:6], pips = 1:6))
  seven <- exact(draws(dice, 2, sum = total(pips), seven = sum == 7, replace = TRUE))
  expect_equal(tidy(seven)$estimate, c(7, 1 / 6))
  expect_equal(tidy(exact(draws(dice[0], 0, none = count(pips == 6), replace = TRUE)))$estimate, 0)
  # The first of four aces in 52 cards comes on average at 53/5.
  first <- exact(draw_until(deck, count(rank == "A") >= 1))
  expect_equal(tidy(first)$estimate, c(53 / 5, 1))
  expect_equal(as.data.frame(first)$probability[1:2], c(4 / 52, 48 * 4 / (52 * 51)))
})

test_that("exact answers equal brute force on small decks, word by word and mixed", {
  withr::local_seed(51)
  words <- c("count", "total", "distinct", "largest_group", "card_at")
  for (i in 1:40) {
    catalogue <- random_catalogue(sample(2:4, 1), 1:2)
    deck <- deck_from(catalogue)
    size <- min(sample(1:4, 1), length(deck))
    replace <- i %% 3 == 0
    asked <- sample(words, 2)
    columns <- list(a = random_word(words[i %% 5 + 1], size),
                    b = paste(random_word(asked[1], size), "+", random_word(asked[2], size)))
    info <- paste(c(columns, size, replace), collapse = "; ")
    question <- suppressMessages(question_of(deck, size, columns, replace = replace))
    slow <- slow_answer(catalogue[rep(seq_len(nrow(catalogue)), catalogue$copies), ], size, columns, replace)
    expect_same_law(answer_as_table(exact(question)), slow, info)
    expect_same_law(answer_as_table(exact(question, method = "walk")), slow, info)
  }
})

test_that("exact and simulated agree on random questions of every word", {
  withr::local_seed(52)
  words <- c("count", "total", "distinct", "largest_group", "card_at")
  z <- unlist(lapply(1:75, function(i) {
    deck <- deck_from(random_catalogue(sample(3:12, 1), 1:5))
    size <- sample(min(8, length(deck)), 1)
    columns <- list(a = random_word(words[i %% 5 + 1], size), b = random_word(sample(words, 1), size), c = "a * 2 > b")
    question <- suppressMessages(question_of(deck, size, columns, replace = i %% 4 == 0))
    found <- tidy(simulate(question, nsim = 4000, seed = i))
    expect_false(anyNA(found$exact))
    found$statistic
  }))
  expect_true(all(abs(z) < standard_errors, na.rm = TRUE))
  expect_gt(sum(!is.na(z)), 120)
})

test_that("stages, exact, are what walking every path of the simulation gives", {
  withr::local_seed(53)
  deck <- deck_from(data.frame(card = letters[1:6], suit = c("x", "x", "y", "y", "y", "z"), rank = c(1, 2, 2, 3, 4, 1)))
  base <- function(...) draws(deck, 2, xs = count(suit == "x"), most = largest_group(rank), ...)
  cases <- list(
    redraw_if(base(), xs == 0), redraw_if(base(), xs == 0, size = 3, put_back = 1),
    redraw_if(base(), most == 1, times = 2, size = c(3, 2), put_back = c(1, 0), under = suit == "y"),
    exchange_cards(base(), keep_groups()), exchange_cards(base(), keep_suit(2)),
    exchange_cards(base(), keep_run(2, "rank")), exchange_cards(base(), list(keep_groups(), keep_where(rank >= 3))),
    exchange_cards(base(), keep_where(suit == "x"), times = 2),
    draw_more(base(), times = 2), draw_more(draws(deck, 1, any = any_turn(count(suit == "x") == 1),
                                                  all = every_turn(count(rank >= 2) >= turn)), 2, 2),
    redraw_if(base(held = "a"), xs == 1) |> exchange_cards(keep_groups("suit")) |> draw_more(times = 1),
    draw_more(draws(deck, 1, first = card_at(1, suit == "x"), third = card_at(3, rank == 2)), times = 2),
    draw_more(draws(deck, 2, odd = any_turn(card_at(2, suit == "y") | card_at(4, rank == 1))), times = 2),
    redraw_if(draws(deck, 2, worth = total(rank)), card_at(2, rank == 1)) |> exchange_cards(keep_where(rank > 2)),
    redraw_if(draws(deck, 2, worth = total(rank)), card_at(1, rank == 1)),
    redraw_if(base(), most == 1, size = 2, put_back = 1) |> exchange_cards(keep_where(rank == 2)) |>
      exchange_cards(keep_where(suit == "y")),
    draw_until(deck, distinct(suit) == 2), draw_until(deck, total(rank) > 6, by_at_most = 3),
    draw_until(deck, card_at(2, suit == "y") | largest_group(suit) == 3)
  )
  for (case in cases) {
    expect_equal(as.data.frame(exact(case)), as.data.frame(exact(case, method = "walk")), tolerance = 1e-12,
                 info = in_words_of(case))
    found <- tidy(simulate(case, nsim = 20000, seed = 8))
    expect_true(all(abs(found$statistic) < standard_errors, na.rm = TRUE), info = in_words_of(case))
  }
})

test_that("random stages, exact, are what walking every path of the simulation gives", {
  withr::local_seed(54)
  checked <- 0
  while (checked < 40) {
    deck <- deck_from(random_catalogue(sample(2:4, 1), 1:2))
    # Five cards shuffled three times have as many paths as can be walked; some ask for more cards than there are.
    if (length(deck) > 5) next
    question <- tryCatch(suppressMessages(random_staged_question(deck)), habanera_error_input = function(cnd) NULL)
    if (is.null(question)) next
    checked <- checked + 1
    expect_equal(as.data.frame(exact(question)), as.data.frame(exact(question, method = "walk")), tolerance = 1e-12,
                 info = in_words_of(question))
  }
})

test_that("stages, by hand", {
  deck <- as_cards("AS AH KD QC")
  # A hand of one that is no ace (1/2) is drawn again: 1/2 + 1/2 1/2.
  expect_equal(tidy(redraw_if(draws(deck, 1, ace = count(rank == "A") == 1), !ace) |> exact())$estimate, 3 / 4)
  # Seeing two and putting a king or queen under first: an ace stays unless both are none, 1/6.
  seen <- draws(deck, 1, ace = count(rank == "A") == 1) |>
    redraw_if(!ace, size = 2, put_back = 1, under = rank %in% c("K", "Q"))
  expect_equal(tidy(exact(seen))$estimate, 1 / 2 + 1 / 2 * 5 / 6)
  # Keeping aces and changing the other card once: 1 - 1/2 of the two remaining are aces.
  changed <- draws(deck, 1, ace = count(rank == "A") == 1) |> exchange_cards(keep_where(rank == "A"))
  expect_equal(tidy(exact(changed))$estimate, 1 / 2 + 1 / 2 * 2 / 3)
  turns <- tidy(exact(draw_more(draws(deck, 1, aces = count(rank == "A")), times = 3)))
  expect_equal(turns$estimate, c(0.5, 1, 1.5, 2))
  expect_equal(turns$turn, 0:3)
})

test_that("an R function may keep cards: the same as the way in words, simulated and exact", {
  deck <- deck_standard(ranks = c("9", "10", "J", "Q", "K"))
  pairs <- function(hand) hand[card_attributes(hand)$rank %in% names(which(table(card_attributes(hand)$rank) > 1))]
  base <- draws(deck, 3, top = largest_group(rank), reds = count(suit == "hearts"), held = "9S")
  by_function <- exchange_cards(base, pairs)
  in_words <- exchange_cards(base, keep_groups())
  one <- simulate(by_function, nsim = 2000, seed = 3)
  expect_identical(as.data.frame(one), as.data.frame(simulate(in_words, nsim = 2000, seed = 3)))
  expect_equal(as.data.frame(exact(by_function)), as.data.frame(exact(in_words)), tolerance = 1e-12)
  marks <- exchange_cards(base, function(hand) rep(TRUE, length(hand)))
  expect_equal(as.data.frame(exact(marks)), as.data.frame(exact(base)), tolerance = 1e-12)
  # Chance in the function goes on through a trial and is the same whenever it is played.
  tosses <- exchange_cards(base, function(hand) runif(length(hand)) < 0.5, times = 2) |> draw_more(times = 1)
  played <- trials(tosses, 3, 1:40)
  expect_identical(trials(tosses, 3, 40)$card_4, played$card_4[played$trial == 40])
  once <- trials(exchange_cards(base, function(hand) runif(length(hand)) < 0.5), 3, 1:40)
  expect_false(identical(played$card_3[played$turn == 0], once$card_3))
  cheat <- exchange_cards(base, function(hand) "KS")
  expect_error(simulate(cheat, nsim = 50, seed = 1), "kept KS of the hand", class = "habanera_error_conservation")
})

test_that("other shuffles: exact up to seven cards, and R functions", {
  deck <- deck_numbered(5)
  low <- draws(deck, 2, low = count(card %in% c("1", "2")), first = card_at(1, card == "1"),
               shuffle = shuffle_riffle(2))
  expect_equal(as.data.frame(exact(low)), as.data.frame(exact(low, method = "walk")), tolerance = 1e-12)
  expect_true(all(abs(tidy(simulate(low, nsim = 20000, seed = 2))$statistic) < standard_errors))
  top <- draws(deck, 2, low = total(1), first = card_at(1, card == "5"), shuffle = shuffle_with(rev))
  expect_equal(tidy(simulate(top, nsim = 10, seed = 1))$estimate, c(2, 1))
  expect_equal(tidy(simulate(draw_until(deck, count(card == "3") == 1, shuffle = shuffle_with(rev)), nsim = 5,
                             seed = 1))$estimate, c(3, 1))
  expect_error(exact(draws(deck_numbered(8), 2, low = count(card == "1"), shuffle = shuffle_cut())), "at most 7 cards",
               class = "habanera_error_work")
})

test_that("a run does not depend on threads, laps or merging, and survives files and checkpoints", {
  question <- draws(deck_from(demo_file("orchard.csv")), 5, worth = total(points),
                    suits = distinct(suit), held = "1F") |>
    redraw_if(suits == 1, put_back = 1, under = points > 5) |>
    exchange_cards(list(keep_suit(3), keep_where(rank > 6))) |>
    draw_more(times = 2)
  whole <- simulate(question, nsim = 5000, seed = 4, threads = 1)
  parts <- c(simulate(question, nsim = 1, seed = 4, threads = 2),
             simulate(question, nsim = 4999, seed = 4, first_trial = 2))
  expect_identical(as.data.frame(parts), as.data.frame(whole))
  rows <- trials(question, 4, 1:5000)
  like_first <- rows$turn == 0 & rows$worth == whole$outcomes$worth[1] & rows$suits == whole$outcomes$suits[1]
  expect_equal(whole$n[1], sum(like_first))
  again <- rows[rows$trial == whole$example_trial[7], ]
  expect_true(any(again$turn == whole$outcomes$turn[7] & again$worth == whole$outcomes$worth[7]))
  for (extension in c(".csv", ".json")) {
    file <- withr::local_tempfile(fileext = extension)
    write_result(whole, file)
    expect_equal(as.data.frame(read_result(file)), as.data.frame(whole))
    expect_identical(tidy(read_result(file)), tidy(whole))
  }
  checkpoint <- withr::local_tempfile()
  simulate(question, nsim = 2000, seed = 4, checkpoint = checkpoint)
  expect_identical(as.data.frame(simulate(question, nsim = 5000, seed = 4, checkpoint = checkpoint)),
                   as.data.frame(whole))
  stopped <- simulate(draws(deck_standard(), 5, aces = count(rank == "A")), nsim = 1e6, seed = 1,
                      precision = c(aces = 0.009))
  expect_equal(trials_of(stopped), 20000)
})

test_that("more than a million different outcomes end a run with the column to drop", {
  many <- draws(deck_standard(), 13, first = total(ifelse(suit == "spades", rank_low^2, 0)),
                second = total(ifelse(suit == "hearts", rank_low^2, 0)),
                third = total(ifelse(suit == "clubs", rank_low^2, 0)),
                fourth = total(ifelse(suit == "diamonds", rank_low^2, 0)))
  expect_error(simulate(many, nsim = 1.1e6, seed = 1),
               "more than 1,000,000 different outcomes to count; drop or coarsen `first`",
               class = "habanera_error_work")
  # Numbers that no index can hold are refused when the question is made.
  expect_error(draws(deck_standard(), 13, a = total(rank_high^4), b = total(rank_low^4), c = total(points^4),
                     e = total(rank_high^5)),
               "too many combinations", class = "habanera_error_work")
})

test_that("one trial of each kind is pinned", {
  orchard <- deck_from(demo_file("orchard.csv"))
  question <- draws(orchard, 3, figs = count(suit == "fig"),
                    held = "1F") |> redraw_if(figs > 1) |> exchange_cards(keep_suit(2)) |>
    draw_more(times = 1)
  pinned <- trials(question, 1, 1:3)
  expect_equal(pinned$card_4, rep(c("8M", "4M", "3M"), each = 2))
})

# The law of a hand from a deck picked anew, in plain R: every sequence of picks, every pair of its cards.
hands_of_picked_decks <- function(weights, most, size) {
  law <- list()
  pick <- function(deck, chance) {
    if (length(deck) == size) {
      for (hand in utils::combn(size, 2, simplify = FALSE)) {
        found <- as.character(sum(deck[hand] == 1))
        law[[found]] <<- sum(law[[found]], chance / choose(size, 2))
      }
      return(invisible())
    }
    open <- weights * (tabulate(deck, length(weights)) < most)
    for (kind in which(open > 0)) pick(c(deck, kind), chance * open[kind] / sum(open))
  }
  pick(integer(), 1)
  unlist(law)[order(names(law))]
}

test_that("a deck is picked anew in each trial, by weights and copies", {
  listed <- data.frame(card = c("fig", "gage", "pear"), copies = c(3, 2, 1), weight = c(1, 5, 0.5))
  cases <- list(list(weights = NULL, most = 2), list(weights = "weight", most = c(1, 2, 3)),
                list(weights = c(1, 1, 2), most = 3))
  for (case in cases) {
    deck <- deck_sampled(listed, 4, case$weights, case$most, anew = TRUE)
    asked <- draws(deck, 2, figs = count(card == "fig"))
    weights <- if (is.null(case$weights)) listed$copies else if (is.character(case$weights)) listed$weight else
      case$weights
    law <- hands_of_picked_decks(weights, rep(case$most, length.out = 3), 4)
    walked <- exact(asked, method = "walk")
    expect_equal(walked$probability, unname(law), tolerance = 1e-12)
    counts <- simulate(asked, 1e5, seed = 9)
    z <- (counts$n / 1e5 - law) / sqrt(law * (1 - law) / 1e5)
    expect_true(all(abs(z) < 4))
    again <- eval(parse(text = experiment_code(asked)$r))
    expect_equal(as.data.frame(simulate(again, 1e3, seed = 2)), as.data.frame(simulate(asked, 1e3, seed = 2)))
    file <- withr::local_tempfile(fileext = ".json")
    write_result(counts, file)
    more <- simulate(read_result(file)$provenance$experiment, 1e3, seed = 2)
    expect_equal(as.data.frame(more), as.data.frame(simulate(asked, 1e3, seed = 2)))
  }
  expect_output(print(deck), "a deck of 4 cards sampled anew from 3 kinds", fixed = TRUE)
})

test_that("a redraw shuffles the deck that was picked, and does not pick another", {
  # The one card picked is a fig or a pear: what comes back is what was there.
  deck <- deck_sampled(data.frame(card = c("fig", "pear")), 1, anew = TRUE)
  asked <- redraw_if(draws(deck, 1, figs = count(card == "fig")), count(card == "fig") == 0)
  expect_equal(tidy(exact(asked, method = "walk"))$estimate, 0.5)
})

test_that("what a deck picked anew cannot do is said", {
  deck <- deck_sampled(data.frame(card = c("fig", "pear")), 4, anew = TRUE)
  asked <- draws(deck, 2, figs = count(card == "fig"))
  expect_error(draws(deck, 2), "draws() that ask questions", fixed = TRUE, class = "habanera_error_input")
  expect_error(game_war(deck = deck), "draws() that ask questions", fixed = TRUE, class = "habanera_error_input")
  expect_error(draws(deck, 5, figs = count(card == "fig")), "0 to 4, not 5", class = "habanera_error_input")
  expect_error(draws(deck, 2, figs = count(card == "fig"), held = "fig"), "leave them out")
  expect_error(draws(deck, 2, figs = count(card == "fig"), replace = TRUE), "without replacement")
  expect_error(draws(deck, 2, figs = count(card == "fig"), shuffle = shuffle_with(rev)), "R functions that shuffle")
  expect_error(exact(asked), "only walked", class = "habanera_error_work")
  expect_error(deck_sampled(data.frame(card = as.character(1:70)), 1000, anew = TRUE), "at most 65,535")
})
