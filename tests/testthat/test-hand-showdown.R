# Every way to deal what is unknown, in plain R: equities, wins and ties by seat. Of a small deck.
equities_by_hand <- function(seats, board, deck, rules, board_size) {
  codes <- as.character(deck)
  rest <- setdiff(codes, c(unlist(seats), board))
  boards <- utils::combn(rest, board_size - length(board))
  each <- apply(boards, 2, function(more) {
    strength <- hand_strength(lapply(seats, function(own) as_cards(c(own, board, more), like = deck)), rules,
                              deck = deck)
    best <- strength == max(strength)
    best / sum(best)
  })
  list(equity = rowMeans(each), win = rowSums(each == 1), tie = rowSums(each > 0 & each < 1))
}

test_that("showdowns are what every board gives, one by one", {
  deck <- deck_standard(ranks = c("9", "10", "J", "Q", "K", "A"))
  seats <- list(c("AS", "KS"), c("QH", "QD"), c("JC", "10C"))
  by_hand <- equities_by_hand(seats, "9S", deck, hand_rules(), 4)
  found <- showdown(lapply(seats, paste, collapse = " "), "9S", deck, board_size = 4)
  expect_equal(found$equity, by_hand$equity, tolerance = 1e-12)
  expect_equal(found$win, by_hand$win)
  expect_equal(found$tie, by_hand$tie)
  expect_equal(attr(found, "boards"), choose(24 - 7, 3))
  # With wild cards, and with copies, by the slow way in the core.
  wild <- hand_rules(wild = rank == "9")
  by_hand <- equities_by_hand(seats, "9S", deck, wild, 4)
  expect_equal(showdown(lapply(seats, paste, collapse = " "), "9S", deck, wild, board_size = 4)$equity, by_hand$equity,
               tolerance = 1e-12)
})

test_that("two hands on all 1,712,304 boards", {
  found <- showdown(list("AS KS", "QH QD"))
  expect_equal(found$win + found$tie + found$lose, rep(1712304, 2))
  expect_equal(found$win[1], found$lose[2])
  expect_equal(sum(found$equity), 1)
  simulated <- showdown(list("AS KS", "QH QD"), nsim = 2e5, seed = 1)
  expect_lt(abs(simulated$equity[1] - found$equity[1]), standard_errors * simulated$std.error[1])
  expect_equal(simulated$equity, showdown(list("AS KS", "QH QD"), nsim = 2e5, seed = 1, threads = 1)$equity)
})

test_that("unknown, partly known and several possible hands are dealt properly", {
  deck <- deck_standard(ranks = c("J", "Q", "K", "A"))
  # A seat of which nothing is known is the mean over all that it can have.
  known <- utils::combn(setdiff(as.character(deck), c("AS", "KS", "QD", "JH")), 2)
  each <- apply(known, 2, function(own) {
    showdown(list("AS KS", paste(own, collapse = " ")), "QD JH", deck, board_size = 3)$equity[1]
  })
  expect_equal(showdown(list("AS KS", ""), "QD JH", deck, board_size = 3)$equity[1], mean(each), tolerance = 1e-12)
  with_ace <- known[1, ] == "AH" | known[2, ] == "AH"
  expect_equal(showdown(list("AS KS", "AH"), "QD JH", deck, board_size = 3)$equity[1], mean(each[with_ace]),
               tolerance = 1e-12)
  # Weighted hands: those that clash with other cards are out of it.
  weighed <- showdown(list("AS KS", c("AH AD" = 2, "QS QC" = 1, "KS KD" = 5)), "QD JH", deck, board_size = 3)
  one <- function(own) showdown(list("AS KS", own), "QD JH", deck, board_size = 3)$equity[1]
  expect_equal(weighed$equity[1], (2 * one("AH AD") + one("QS QC")) / 3, tolerance = 1e-12)
  # A hand weighs what is said, whether or not a card of it is unknown.
  half_known <- showdown(list("AS KS", c("QS QC" = 1, "AH" = 1)), "QD JH", deck, board_size = 3)
  expect_equal(half_known$equity[1], (one("QS QC") + one("AH")) / 2, tolerance = 1e-12)
  seats <- list("AS KS", c("AH AD" = 2, "JS JC" = 1))
  exactly <- showdown(seats, "JH", deck, board_size = 3)
  simulated <- showdown(seats, "JH", deck, board_size = 3, nsim = 4e4, seed = 2)
  expect_gt(simulated$std.error[1], 0)
  expect_lt(abs(simulated$equity[1] - exactly$equity[1]), standard_errors * simulated$std.error[1])
})

test_that("exactly so many own cards count where the rules say so", {
  # Four spades on the board are no flush with one of the seat's own and exactly two counting.
  board <- "2S 5S 9S KS 3D"
  any <- showdown(list("AS 7D", "KH KC"), board)
  two <- showdown(list("AS 7D", "KH KC"), board, own_cards = 2)
  expect_equal(any$win, c(1, 0))
  expect_equal(two$win, c(0, 1))
  # By hand: the best of two own and three of the board.
  own <- c("AS", "QS", "7D", "7C")
  open <- c("2S", "5S", "9H", "KD", "3D")
  choices <- lapply(utils::combn(own, 2, simplify = FALSE), function(pair) {
    lapply(utils::combn(open, 3, simplify = FALSE), function(three) paste(c(pair, three), collapse = " "))
  })
  best <- max(hand_strength(unlist(choices)))
  rival <- hand_strength("8S 8C KD 9H 5S")
  found <- showdown(list(paste(own, collapse = " "), "8S 8C 6D 4H"), paste(open, collapse = " "), own_cards = 2)
  expect_equal(found$win[1] == 1, best > rival)
})

test_that("equity is drawn by street, and printed with the answer first", {
  found <- showdown(list(north = "AS KS", south = "QH QD"), board = "QC 9S 2S 3D")
  expect_equal(unique(attr(found, "streets")$open), c(0, 3, 4))
  data <- ggplot2::layer_data(autoplot(found), 2)
  expect_equal(nrow(data), 6)
  expect_equal(nrow(ggplot2::layer_data(autoplot(showdown(list("AS KS", "QH QD"), nsim = 100, seed = 1)), 1)), 2)
  expect_match(capture.output(print(found))[2], "^South \\(QH QD\\) has most of the pot: 84.09%, exactly")
})

test_that("what cannot be shown down is told", {
  expect_refusals(list(
    list(quote(showdown(list("AS KS"))), "input", "2 to 10 seats, not 1"),
    list(quote(showdown(list("AS KS", c("QS QD" = -1)))), "input", "weights above 0"),
    list(quote(showdown(list("AS KS", c("QS QD" = Inf)))), "input", "weights above 0"),
    list(quote(showdown(list("AS KS", character()))), "input", "no hand at all"),
    list(quote(showdown(list(a = "AS KS", a = "QS QD"))), "input", "Two seats are called"),
    list(quote(showdown(list("AS KS", "AS QD"))), "conservation", "more often than the deck"),
    list(quote(showdown(list("AS KS", "QH QD"), board = "2S 3S 4S 5S 6S 7S")), "input", "it ends with 5"),
    list(quote(showdown(list("AS KS", "1H QD"))), "notation", "1H"),
    list(quote(showdown(as.list(rep("", 10)), deck = deck_standard(suits = "spades"))), "input", "need more than"),
    list(quote(showdown(list("AS KS", "QH QD 2C"), size = 2)), "input", "has more than 2 cards"),
    list(quote(showdown(list("AS KS", "QH QD"), own_cards = 3)), "input", "`own_cards` must be a whole number"),
    list(quote(showdown(list("AS KS", "QH QD"), board_size = 8)), "input", "more than 9 cards"),
    list(quote(showdown(list("AS KS", "QH QD"), nsim = 0)), "input", "`nsim` must be a whole number")
  ))
})

test_that("the shell shows down", {
  ran <- run_words("showdown", "AS KS", "QH QD | JH JD", "--board", "QC 9S 2S", "--format", "json")
  expect_equal(ran$status, 0)
  table <- jsonlite::fromJSON(paste(ran$out, collapse = "\n"))[["table"]]
  expect_equal(sum(table$equity), 1, tolerance = 1e-12)
  expect_match(run_words("showdown", "AS KS", "?", "--trials", "1000", "--seed", "1")$out, "1,000 trials", all = FALSE)
  expect_equal(run_words("showdown", "AS KS")$status, 2)
})
