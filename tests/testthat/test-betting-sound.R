# Sound play of two seats that bet, held to slow programs (helper-sound.R): the value by linear programming, the gap by
# best answers deal by deal.

# A game of small cards, with what the slow programs need of it.
slow_side <- function(game, cards, strength, weight = function(one, other) 1) {
  rules <- game$rules
  rules$streets <- unclass(rules$streets)
  spec <- game$spec$rules
  shared <- shared_in_all(rules)
  deals <- slow_deals(cards, rules$private, shared, weight)
  kinds <- function(codes) match(codes, spec$cards$codes)
  groups <- c(rules$private, length(rules$board), vapply(rules$streets, `[[`, 0, "shared"))
  told <- function(hands, boards) {
    all <- Map(function(hand, board) kinds(c(hand, as.character(rules$board), board)), hands, boards)
    core_betting_told(spec$cards, as.integer(groups[groups > 0]), all)
  }
  list(root = slow_courses(rules), deals = deals, ends = slow_ends(rules, deals, strength), told = told,
       turns = shared + length(rules$board) > 0, unit = betting_unit(rules))
}

# What best answers bring on a table, by the slow program, in what the game counts in.
slow_best <- function(slow, rows) {
  chance <- told_chances(rows, slow$turns, slow$told)
  vapply(1:2, function(seat) {
    sum(slow$deals$chance * slow_answer(slow$root, seat, slow$deals, slow$ends, chance)) / slow$unit
  }, 0)
}

pair_or_rank <- function(hand, board) if (length(board) && any(hand == board)) 10 + as.numeric(hand) else as.numeric(hand)

# Sound play, its gap confirmed and its value that of the linear program.
expect_sound <- function(game, slow, gap, value = TRUE) {
  sound <- equilibrium(game, gap = gap)
  found <- tidy(sound)
  best <- slow_best(slow, sound$rows)
  expect_lte(found$estimate[3], gap)
  # Sums of some thousand products of chips, each rounded.
  expect_lt(max(abs(c(best[1] - sound$high, sound$total - best[2] - sound$low))), 1e-11)
  expect_equal(found$estimate[3], sound$high - sound$low, tolerance = 1e-12)
  if (value) {
    exact <- slow_value_by_sequences(slow$root, slow$deals, slow$ends) / slow$unit
    # Of the linear program's own pivots.
    expect_lte(sound$low, exact + 1e-9)
    expect_gte(sound$high, exact - 1e-9)
  }
  invisible(sound)
}

test_that("three cards and one bet are worth -1/18, and two streets of six cards what linear programming says", {
  skip_if_not_installed("lpSolve")
  slow <- slow_side(one_bet, as.character(1:3), function(hand, board) as.numeric(hand))
  expect_equal(slow_value_by_sequences(slow$root, slow$deals, slow$ends), -1 / 18, tolerance = 1e-12)
  # Kuhn (1950, "A simplified two-person poker").
  sound <- expect_sound(one_bet, slow, 1e-8)
  expect_lt(abs(sound$value + 1 / 18), 1e-8)
  streets <- game_betting(rules = "one card, two streets")
  expect_sound(streets, slow_side(streets, rep(as.character(1:3), each = 2), pair_or_rank), 1e-6)
})

test_that("random small games are worth what linear programming says, and best answers gain the gap", {
  skip_if_not_installed("lpSolve")
  withr::local_seed(39)
  any_of <- function(x, n = 1) x[sample.int(length(x), n)]
  for (round in 1:12) {
    blinds <- any_of(list(NULL, c(1, 2)))[[1]]
    pool <- c("1", "2", "1/2 pot", "pot", "all in")
    turned <- any_of(0:1)
    streets <- c(list(street(bets = any_of(pool, any_of(1:2)), raises = any_of(pool), most_bets = any_of(1:3))),
                 if (turned) list(street(shared = 1, bets = any_of(pool), most_bets = any_of(0:2))))
    copies <- any_of(1:3)
    ranks <- if (copies == 1) 5 else 3
    game <- game_betting(deck_ranks(seq_len(ranks), copies = copies), private = 1, ante = if (is.null(blinds)) 1 else 0,
                         blinds = blinds, stacks = any_of(3:12, 2), streets = streets,
                         strength = if (turned) hand_rules(size = 2, categories = c("one pair", "high card")) else
                           hand_rules())
    slow <- slow_side(game, rep(as.character(seq_len(ranks)), each = copies), pair_or_rank)
    expect_sound(game, slow, 1e-6 / slow$unit)
  }
})

test_that("hands of two cards, boards that are known, weights and two streets of turned cards are gone through exactly", {
  skip_if_not_installed("lpSolve")
  small <- deck_standard(ranks = c("9", "10", "J"), suits = c("spades", "hearts", "clubs"))
  codes <- as.character(small)
  worth <- function(hand, board) hand_strength(paste(c(hand, board), collapse = " "), by_three)
  by_three <- hand_rules(size = 3)
  turns <- game_betting(small, private = 2, ante = 1, stacks = 9, strength = by_three,
                        streets = list(street(bets = 2), street(shared = 1, bets = "pot")))
  expect_sound(turns, slow_side(turns, codes, worth), 0.05, value = FALSE)
  known <- change_rules(turns, board = "9S", pot = 4, ante = 0, stacks = 6,
                        streets = list(street(bets = c("1/2 pot", "pot"), raises = "all in", most_bets = 2)))
  expect_sound(known, slow_side(known, setdiff(codes, "9S"), function(hand, board) worth(hand, c("9S", board))), 0.01)
  lists <- list(c("pair of J" = 1, "J 10" = 0.5, "10 9 suited" = 0.25), NULL)
  listed <- change_rules(known, holdings = lists)
  weight <- function(one, other) {
    ranks <- sort(sub(".$", "", one))
    if (identical(ranks, c("J", "J"))) 1 else if (identical(ranks, c("10", "J"))) 0.5 else
      if (identical(ranks, c("10", "9")) && substring(one[1], nchar(one[1])) == substring(one[2], nchar(one[2]))) 0.25 else 0
  }
  expect_sound(listed, slow_side(listed, setdiff(codes, "9S"), function(hand, board) worth(hand, c("9S", board)), weight),
               0.001)
  # Two more cards, one after the other, with bets between.
  rivers <- game_betting(deck_ranks(1:3, copies = 3), private = 1, ante = 1, stacks = 5, strength = hand_rules(size = 3, categories = c("three of a kind", "one pair", "high card")),
                         streets = list(street(bets = 1), street(shared = 1, bets = 1), street(shared = 1, bets = 2)))
  triple <- function(hand, board) {
    held <- sort(table(c(hand, board)), decreasing = TRUE)
    ranks <- as.numeric(names(held)[order(-held, -as.numeric(names(held)))])
    sum(c(held[1], ranks, rep(0, 3 - length(ranks))) * 100^(3:0))
  }
  expect_sound(rivers, slow_side(rivers, rep(as.character(1:3), each = 3), triple), 0.05, value = FALSE)
})
