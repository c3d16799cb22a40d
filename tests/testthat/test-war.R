fruit <- function(ranks, suits) {
  deck_from(data.frame(card = sprintf("%s%d", rep(letters[seq_len(suits)], each = ranks), seq_len(ranks)),
                       rank = rep(seq_len(ranks), suits)))
}

test_that("games worked by hand come out as on the table", {
  # 4 1 against 3 2: 4 takes 3, 2 takes 1, 4 takes 2, 3 takes 1.
  game <- game_war(deck = deck_numbered(4), piles = list("4 1", "3 2"), record = slow_columns)
  expect_equal(trials(game, 1, 1)[c("winner", "ended", "rounds", "winner_fewest", "margin", "weighted_pile")],
               data.frame(winner = "1", ended = "out_of_cards", rounds = 4, winner_fewest = 2, margin = 4,
                          weighted_pile = 1 * 1 + 3 * 2 + 2 * 3 + 4 * 4))
  # Nothing is left to chance, so every trial is the same, and so is the exact answer.
  counts <- simulate(game, nsim = 50, seed = 2)
  expect_equal(counts$n, 50)
  expect_equal(exact(game)$probability, 1)
  expect_equal(exact(game)$outcomes, counts$outcomes)
})

test_that("every rule for ties does what it says", {
  deck <- fruit(4, 2)
  # a4 ties with b4; behind them a2 a1 against b1 b3.
  play <- function(...) trials(game_war(deck = deck, rank_by = "rank", piles = list("a4 a2 a1", "b4 b1 b3"), ...,
                                        record = slow_columns), 1, 1)
  expect_equal(play(tie = "war", face_down = 1)[c("winner", "rounds", "comparisons", "ties", "longest_war")],
               data.frame(winner = "2", rounds = 1, comparisons = 2, ties = 1, longest_war = 1))
  # With none face down a2 beats b1 and takes all four; a1 then loses to b3, and so on.
  expect_equal(play(tie = "war", face_down = 0)[c("ties", "longest_war", "lead_changes")],
               data.frame(ties = 1, longest_war = 1, lead_changes = 0))
  # Without the two fours, a2 a1 meet b1 b3: a2 takes b1, b3 takes a1 and a2; b1 and a1 tie and leave.
  expect_equal(play(tie = "discard")[c("winner", "rounds", "points_1", "points_2", "margin")],
               data.frame(winner = "2", rounds = 5, points_1 = 1, points_2 = 2, margin = 2))
  # Seat 2 takes the fours: b1 b3 b4 a4 against a2 a1.
  expect_equal(play(tie = "seat", tie_seat = 2)[c("winner", "ties")], data.frame(winner = "2", ties = 1))
  expect_gt(play(tie = "nothing")$ties, 0)
  expect_equal(play(tie = "nothing", scoring = "points")[c("winner", "ended", "rounds", "points_1", "points_2")],
               data.frame(winner = "nobody", ended = "tied", rounds = 3, points_1 = 1, points_2 = 1))
  # A seat with one card left cannot lay a whole war of one face down.
  short <- function(if_short, piles) trials(game_war(deck = deck, rank_by = "rank", piles = piles, face_down = 1,
                                                     if_short = if_short), 1, 1)
  expect_equal(short("loses", list("a4 a2", "b4 b1 b3"))[-1], data.frame(winner = "2", ended = "short_of_cards",
                                                                         rounds = 1))
  expect_equal(short("last_card", list("a4 a3", "b4 b1 b2"))$winner, "1")
  expect_equal(short("last_card", list("a4", "b4 b1"))[-1], data.frame(winner = "2", ended = "short_of_cards",
                                                                       rounds = 1))
  expect_equal(short("last_card", list("a4", "b4"))[-1], data.frame(winner = "nobody", ended = "tied", rounds = 1))
})

test_that("random games by random rules are those of War in plain R", {
  set.seed(6)
  for (case in 1:40) {
    rules <- random_war_rules()
    deck <- fruit(sample(2:5, 1), sample(2:4, 1))
    game <- do.call(game_war, c(list(deck = deck, rank_by = "rank", record = slow_columns), rules))
    got <- trials(game, seed = case, trials = 1:4)
    for (trial in 1:4) {
      want <- slow_row(replay(game, case, trial))
      # Where a game with inner games is stopped, the slow one reckons the round instead of playing on.
      stopped <- want$ended %in% c("never_ends", "round_limit")
      columns <- if (stopped && isTRUE(rules$inner_game)) "winner" else slow_columns
      expect_equal(as.list(got[trial, columns, drop = FALSE]), as.list(want[columns]), info = paste(case, trial))
    }
  }
})

test_that("one trial of each kind of game is pinned", {
  row <- function(...) unlist(trials(game_war(...), 1, 5)[-1], use.names = FALSE)
  expect_equal(row(), pinned_games$plain)
  expect_equal(row(collect = "shuffled"), pinned_games$shuffled)
  expect_equal(row(seats = 4, tie = "split", take_from = "bottom"), pinned_games$four)
  expect_equal(row(inner_game = TRUE, deck = deck_numbered(20), repetition = "seat_1",
                   record = c("winner", "rounds", "inner_games")), pinned_games$inner)
})

test_that("rules that do not exist, cannot be or contradict each other are refused", {
  expect_error(game_war(facedown = 1), "has no rule `facedown`; did you mean \"face_down\"",
               class = "habanera_error_rules")
  expect_error(game_war(tie = "wr"), "`tie` must be \"war\", \"split\"", class = "habanera_error_input")
  expect_error(game_war(face_down = -1), "whole number from 0 to 1,000", class = "habanera_error_input")
  expect_error(game_war(cards_each = 30), "2 seats with 30 cards each need 60; the deck has 52",
               class = "habanera_error_rules")
  expect_error(game_war(tie = "split", face_down = 1), "`face_down` goes with `tie = \"war\"`",
               class = "habanera_error_rules")
  expect_error(game_war(scoring = "points", tie = "split"), "may be war, seat or nothing",
               class = "habanera_error_rules")
  expect_error(game_war(tie_seat = 2), "goes with `tie = \"seat\"`", class = "habanera_error_rules")
  expect_error(game_war(tie = "seat", tie_seat = 3), "one of the 2 seats, not 3", class = "habanera_error_rules")
  expect_error(game_war(repetition = "tied", collect = "shuffled"), "must come again", class = "habanera_error_rules")
  expect_error(game_war(rank_by = "suit"), "rank_high, rank_low or points", class = "habanera_error_rules")
  expect_error(game_war(deck = deck_standard(jokers = 1)), "JOKER has no `rank_high`", class = "habanera_error_rules")
  expect_error(game_war(record = "round"), "did you mean \"rounds\"", class = "habanera_error_input")
  expect_error(game_war(seat_names = "baker"), "2 different names", class = "habanera_error_input")
  expect_error(game_war(3), "Rules are given by name", class = "habanera_error_rules")
  # An attribute that is no whole number ranks, but cannot be added up.
  half <- set_attributes(deck_numbered(4), height = c(0.5, 1.5, 2.5, 3.5))
  expect_s3_class(game_war(deck = half, rank_by = "height"), "habanera_game")
  expect_error(game_war(deck = half, rank_by = "height", record = "weighted_pile"), "whole numbers",
               class = "habanera_error_rules")
})

test_that("rules are data: they print, change, and go to files and back", {
  game <- game_war(face_down = 1, cards_each = 13, seat_names = c("baker", "ferryman"))
  expect_equal(rules(game)$face_down, 1)
  expect_output(print(rules(game)), "face_down +1 +3")
  changed <- change_rules(game, face_down = 2, cards_each = NULL)
  expect_equal(rules(changed)$face_down, 2)
  expect_null(rules(changed)$cards_each)
  expect_equal(changed$seat_names, c("baker", "ferryman"))
  expect_error(change_rules(game, tie = "split"), "`face_down` goes with", class = "habanera_error_rules")
  for (ending in c(".yaml", ".json")) {
    file <- tempfile(fileext = ending)
    write_rules(game_war(deck = deck_from(demo_file("orchard.csv")), rank_by = "rank", face_down = 1), file)
    again <- game_war(rules = file, face_down = 2)
    expect_equal(rules(again)$face_down, 2)
    expect_equal(rules(again)$rank_by, "rank")
    expect_equal(length(rules(again)$deck), 44)
    writeLines(sub("war", "peace", readLines(file)), file)
    expect_error(game_war(rules = file), "holds rules of \"peace\"", class = "habanera_error_file")
  }
  expect_equal(rules(game_war(rules = rules(game)))[c("face_down", "cards_each")], list(face_down = 1, cards_each = 13))
  expect_setequal(games("war")$rule, names(rules(game)))
  expect_output(print(games()), "war: the highest card takes all")
})

test_that("of a game that goes round for ever it is told when its position first came again", {
  game <- game_war(rules = demo_file("quick-game.yaml"))
  found <- replay(simulate(game, nsim = 500, seed = 44), where = ended == "never_ends")
  said <- outcome_in_words(found)
  number <- function(before) as.numeric(gsub(",", "", sub(sprintf(".*%s ([0-9,]+).*", before), "\\1", said)))
  first <- number("position after round")
  again <- number("came again after round")
  # By hand: the piles as they lay after each round, by rank alone.
  ranks <- function(pile) paste(card_attributes(pile)[["rank"]], collapse = " ")
  steps <- plain_table(found)
  ends <- steps$step[steps$depth == 0 & !duplicated(steps$round, fromLast = TRUE)]
  after <- function(round) {
    vapply(unclass(piles_at(found, step = max(steps$step[steps$round == round]))), ranks, "")
  }
  expect_equal(after(first), after(again))
  expect_false(identical(after(first - 1), after(again - 1)))
})
