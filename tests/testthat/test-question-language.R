test_that("names of the caller are copied when the question is made; attributes and questions come first", {
  wanted <- c("A", "K")
  suit <- "not this one"
  question <- draws(deck_standard(), 5, high = count(rank %in% wanted), spades = count(suit == "spades"),
                    both = high + spades)
  before <- exact(question)
  wanted <- "2"
  expect_identical(exact(question), before)
  expect_equal(tidy(before)$estimate, 5 * c(8, 13, 21) / 52)
  some <- as_cards("AS AH")
  expect_equal(tidy(exact(draws(deck_standard(), 2, both = count(card %in% some) == 2)))$estimate, 1 / choose(52, 2))
  # In a file the question is text, and comes back the same.
  file <- withr::local_tempfile(fileext = ".json")
  write_result(before, file)
  expect_equal(as.data.frame(read_result(file)), as.data.frame(before))
  expect_identical(provenance(read_result(file))$experiment, provenance(before)$experiment)
})

test_that("arithmetic and guards work as in R", {
  deck <- deck_numbered(4)
  asked <- draws(deck, 2, two = total(1), a = -two + 3 * 2^2 %% 5, b = max(1, min(two, 7)) %/% 2,
                 c = round(sqrt(abs(a))),
                 odd = xor(two > 1, !(two < 2)), e = 1 / two, g = floor(2.5) + ceiling(2.5) + 0 * two,
                 f = ifelse(count(card == "1") == 1, "has one", "none"))
  row <- as.data.frame(exact(asked))[1, ]
  found <- unlist(row[c("two", "a", "b", "c", "e", "g")], use.names = FALSE)
  expect_equal(found, c(2, -2 + 3 * (2^2 %% 5), 1, round(sqrt(10)), 0.5, 5))
  expect_false(row$odd)
  expect_equal(tidy(exact(asked))$estimate[tidy(exact(asked))$term == "f=has one"], 0.5)
})

test_that("what cannot be understood is refused at once, with the nearest word", {
  withr::local_options(warnPartialMatchArgs = FALSE)  # that R reads `si` as `size` is tested below
  deck <- deck_standard(jokers = 1)
  orchard <- deck_from(demo_file("orchard.csv"))
  expect_refusals(list(
    list(quote(draws(orchard, 3, a = count(siut == "fig"))), "language", "did you mean \"suit\"?"),
    list(quote(draws(orchard, 3, a = cuont(suit == "fig"))), "language", "did you mean count()?"),
    list(quote(draws(orchard, 3, a = count(rank))), "language", "must be a condition"),
    list(quote(draws(deck, 3, a = count(suit == "spades"))), "language", "is NA for the card \"JOKER\""),
    list(quote(draws(orchard, 3, a = count(suit == c("fig", "plum")))), "language", "stands for several values"),
    list(quote(draws(orchard, 3, a = total(c(1, 2)))), "language", "stands for several values"),
    list(quote(draws(orchard, 3, a = c(1, 2))), "language", "stands for several values"),
    list(quote(draws(orchard, 3, a = ifelse(count(rank > 1) > 1, (1:2), 3))), "language", "`(1:2)` stands for several"),
    list(quote(draws(orchard, 3, a = count(letters %in% suit))), "language", "stands for several values"),
    list(quote(draws(orchard, 3, a = total(suit))), "language", "is not a number for each card"),
    list(quote(draws(orchard, 3, a = total(points / 7))), "language", "at most 6 decimals"),
    list(quote(draws(orchard, 3, a = 1 / count(suit == "fig"))), "language", "divides by zero"),
    list(quote(draws(orchard, 3, a = count(suit == "fig") & TRUE)), "language", "is not TRUE or FALSE"),
    list(quote(draws(orchard, 3, a = count(suit < "g"))), "language", "`suit` is not a number"),
    list(quote(draws(orchard, 3, a = max(count(suit == "fig")))), "language", "two or more values"),
    list(quote(draws(orchard, 3, a = count(suit == "fig", 2))), "language", "count() takes one value"),
    list(quote(draws(orchard, 3, a = every_turn(any_turn(count(rank > 1) > 0)))), "language",
         "`any_turn` cannot be used"),
    list(quote(draws(orchard, 3, a = b, b = total(points))), "language", "`b` is not known here"),
    list(quote(draws(orchard, 3, a = sqrt(count(rank > 3) - 3))), "language", "is not always a value"),
    list(quote(exact(draws(orchard, 3, a = card_at(4, rank > 1)))), "language", "at most 3 are drawn"),
    list(quote(exact(redraw_if(draws(orchard, 3, a = total(1)), card_at(4, rank > 1)))), "language",
         "at most 3 are drawn"),
    list(quote(draws(orchard, 3, a = card_at(0, rank > 1))), "input", "card_at()"),
    list(quote(draws(orchard, 3, count(rank > 1))), "input", "Give each question a name"),
    list(quote(draws(orchard, 3, TRUE)), "input", "Give each question a name"),
    list(quote(draws(orchard, 3, si = count(rank > 1))), "input", "R reads that as `size`"),
    list(quote(draws(orchard, 3, turn = count(rank > 1))), "input", "a name that results need"),
    list(quote(draws(orchard, 3, a = 1, a = 2)), "input", "two questions with the name `a`"),
    list(quote(draws(orchard, 3, held = "1F 1F", a = total(1))), "conservation",
         "Card \"1F\" is held 2 times; the deck has it 1"),
    list(quote(draws(orchard, 3, held = "1F", dead = "1F", a = total(1))), "conservation", "held and dead 2 times"),
    list(quote(draws(orchard, 1, held = "1F 2F", a = total(1))), "input", "from 2 to 44"),
    list(quote(draws(orchard, 3, held = as_cards("AS"), a = 1)), "catalogue", "the deck's own catalogue"),
    list(quote(redraw_if(draws(orchard, 3), TRUE)), "input", "`x` must be a question"),
    list(quote(redraw_if(draws(orchard, 3, a = total(points)), a)), "language", "must be a condition"),
    list(quote(redraw_if(draw_more(draws(orchard, 3, a = total(1)), times = 2), a > 1)), "input", "comes too late"),
    list(quote(exchange_cards(draws(orchard, 20, a = total(1)), keep_groups(), times = 2)), "input",
         "can take 60 cards; the deck has 44"),
    list(quote(exchange_cards(draws(orchard, 3, a = card_at(1, rank > 1)), keep_groups())), "language",
         "has no meaning"),
    list(quote(redraw_if(draws(orchard, 3, a = total(1)), card_at(1, rank > 1), times = 2, put_back = 1)), "language",
         "has no meaning"),
    list(quote(exchange_cards(draws(orchard, 3, a = total(1)), keep_groups("colour"))), "input",
         "needs an attribute of the deck"),
    list(quote(exchange_cards(draws(orchard, 3, a = total(1)), keep_run(attribute = "season"))), "input",
         "whole numbers"),
    list(quote(exchange_cards(draws(orchard, 3, a = total(1)), "pairs")), "input", "such as keep_groups()"),
    list(quote(summary(exact(draws(orchard, 3, a = total(points))), given = a > 100)), "input", "never holds"),
    list(quote(summary(exact(draws(orchard, 3, a = total(points))), given = b > 100)), "language",
         "The outcome columns are: a")
  ))
  expect_message(draws(orchard, 3, a = count(suit == "figg")), "no card has the suit \"figg\"; did you mean \"fig\"?")
})

test_that("replace goes with no shuffle, and work out of reach is refused with its size", {
  deck <- deck_standard()
  expect_refusals(list(
    list(quote(draws(deck, 3, a = 1, replace = TRUE, shuffle = shuffle_riffle())), "input", "no shuffle"),
    list(quote(exact(draws(deck, 26, a = total(points * 1000 + rank_high), b = largest_group(rank),
                           c = largest_group(suit)))), "work", "out of reach"),
    list(quote(exact(exchange_cards(draws(deck, 5, a = total(1)), function(hand) hand))), "work",
         "2,598,960 different hands of 5 cards would be followed card by card, and 1,000,000 can be; 52 kinds"),
    list(quote(exact(exchange_cards(draws(deck, 4, p = category()), keep_groups(), times = 2))), "work",
         "more than 1000000 cases to tell apart"),
    list(quote(exact(draws(deck, 70000, a = card_at(1, rank == "A"), replace = TRUE))), "work", "at most 65,535"),
    list(quote(exact(draws(deck, 70000, a = count(rank == "A") > 5000, replace = TRUE))), "work", "65535 cards drawn"),
    list(quote(draws(deck, 20, a = total(points) + total(rank_high) + total(rank_low) + total(points^2))), "work",
         "ways to tell apart")
  ))
})

test_that("nothing typed in the shell is ever run", {
  mark <- file.path(withr::local_tempdir(), "touched")
  touch <- sprintf("file.create(\"%s\")", mark)
  attempts <- c(
    touch, sprintf("system(\"touch %s\")", mark), sprintf("base::%s", touch), sprintf("a = 1), %s", touch),
      sprintf("a = {%s}", touch),
    sprintf("a = count(%s)", touch), sprintf("a = total(ifelse(TRUE, %s, 1))", touch),
      sprintf("a = (function() %s)()", touch),
    sprintf("a = eval(quote(%s))", touch), sprintf("a = if (TRUE) %s else 1", touch), sprintf("a <- %s", touch),
      sprintf("a = b <- %s", touch),
    sprintf("a = do.call(\"file.create\", list(\"%s\"))", mark), sprintf("a = \"file.create\"(\"%s\")", mark),
      sprintf("a = `file.create`(\"%s\")", mark),
    "a = get(\"T\")", "a = T", "a = pi", "a = .GlobalEnv", "a = x$y", "a = x[[1]]", "a = ~1", "a = ?count",
      "a = library(stats)", "a = Sys.getenv(\"HOME\")",
    "a = count", "a = quit()", "a = NULL", "a = NA", "a = count(rank == \"A\"", "a = count(rank = \"A\")",
      "a = \\(x) x", "a = 1, b =", "", "a = ,", "a = 1;2"
  )
  withr::local_options(rlib_message_verbosity = "quiet")
  for (attempt in attempts) {
    for (words in list(c("draws", "--ask", attempt), c("draws", "--ask", "a = count(rank == \"A\")", "--given",
                                                       attempt),
                       c("draws", "--ask", "a = count(rank == \"A\")", "--expect", attempt), c("until", attempt),
                       c("payout", "--ask", "a = count(rank == \"A\")", "--pays", attempt))) {
      ran <- run_words(words, "--trials", "10", "--seed", "1")
      expect_equal(ran$status, 2, info = paste(words, collapse = " "))
      expect_equal(ran$out, character(), info = paste(words, collapse = " "))
    }
  }
  expect_false(file.exists(mark))
})

test_that("hands to be followed are counted as they are told apart, with what is held", {
  # All numbers of cards of each class, counted one by one.
  classes <- list(deck = c(2, 3, 1, 4))
  all <- rowSums(expand.grid(0:2, 0:3, 0:1, 0:4))
  again <- rowSums(expand.grid(0:6, 0:6, 0:6, 0:6))
  for (size in 0:10) expect_equal(number_of_hands(classes, size, FALSE), sum(all == size), info = size)
  for (size in 0:6) expect_equal(number_of_hands(classes, size, TRUE), sum(again == size), info = size)
  expect_equal(number_of_hands(list(deck = rep(1, 52)), 5, FALSE), choose(52, 5))
  # Two aces held: one card is drawn, and 50 hands are followed.
  held <- exchange_cards(draws(deck_standard(), 3, p = category(), held = "AS AH"), keep_groups())
  # No ace comes in one card, nor in the one exchanged for it: C(48, 2) of C(50, 2) pairs.
  pair <- as.data.frame(exact(held))
  expect_equal(pair$probability[pair$p == "one pair"], choose(48, 2) / choose(50, 2))
})
