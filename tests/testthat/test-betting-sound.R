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
    sum(slow$deals$chance * slow_best_answer(slow$root, seat, slow$deals, slow$ends, chance)) / slow$unit
  }, 0)
}

small <- deck_standard(ranks = c("9", "10", "J"), suits = c("spades", "hearts", "clubs"))

pair_or_rank <- function(hand, board) as.numeric(hand) + if (any(hand == board)) 10 else 0

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

test_that("hands of two cards, known boards, weights and two streets of turned cards are gone through exactly", {
  skip_if_not_installed("lpSolve")
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
    ranks <- paste(sort(sub(".$", "", one)), collapse = " ")
    of_one_suit <- length(unique(sub("^.*(.)$", "\\1", one))) == 1
    if (ranks == "10 9" && !of_one_suit) return(0)
    c("J J" = 1, "10 J" = 0.5, "10 9" = 0.25, "9 J" = 0, "10 10" = 0, "9 9" = 0)[[ranks]]
  }
  on_board <- function(hand, board) worth(hand, c("9S", board))
  expect_sound(listed, slow_side(listed, setdiff(codes, "9S"), on_board, weight), 0.001)
  # Two more cards, one after the other, with bets between.
  by_groups <- hand_rules(size = 3, categories = c("three of a kind", "one pair", "high card"))
  rivers <- game_betting(deck_ranks(1:3, copies = 3), private = 1, ante = 1, stacks = 5, strength = by_groups,
                         streets = list(street(bets = 1), street(shared = 1, bets = 1), street(shared = 1, bets = 2)))
  triple <- function(hand, board) {
    held <- sort(table(c(hand, board)), decreasing = TRUE)
    ranks <- as.numeric(names(held)[order(-held, -as.numeric(names(held)))])
    sum(c(held[1], ranks, rep(0, 3 - length(ranks))) * 100^(3:0))
  }
  expect_sound(rivers, slow_side(rivers, rep(as.character(1:3), each = 3), triple), 0.05, value = FALSE)
})

test_that("all in before cards are turned is that of all boards, with weights, too", {
  skip_if_not_installed("lpSolve")
  codes <- as.character(small)
  by_four <- hand_rules(size = 4, categories = c("three of a kind", "two pair", "one pair", "high card"))
  worth <- function(hand, board) hand_strength(paste(c(hand, board), collapse = " "), by_four)
  shove <- game_betting(small, rules = "all in or fold", stacks = 7, strength = by_four,
                        streets = list(street(bets = "all in", calls = "all in"), street(shared = 2, bets = NULL)))
  expect_sound(shove, slow_side(shove, codes, worth), 1e-4)
  of_jacks <- function(one, other) if (any(grepl("^J", one))) 1 else 0.5
  # With a flush, so that each hand is a row; and without, so that hands of the same ranks are one.
  for (rules in list(hand_rules(size = 3), by_four)) {
    weighted <- change_rules(shove, strength = rules, holdings = list(c(
      "any two" = 0.5, "J 9 or better" = 0.5, "pair of J" = 0.5), NULL))
    strength <- function(hand, board) hand_strength(paste(c(hand, board), collapse = " "), rules)
    expect_sound(weighted, slow_side(weighted, codes, strength, of_jacks), 1e-4)
  }
})

test_that("solved players bring the value, sit in games as they are, and are priced at nothing", {
  streets <- game_betting(rules = "one card, two streets")
  sound <- equilibrium(streets, gap = 1e-4)
  seated <- change_rules(streets, players = sound)
  expect_equal(sum(exact(seated)$outcomes$net_1 * exact(seated)$probability), sound$value, tolerance = 1e-11)
  gains <- vapply(1:2, function(seat) best_play(streets, seat, against = sound)$worth, 0)
  expect_equal(gains, c(sound$high, -sound$low), tolerance = 1e-11)
  priced <- mistakes(streets, sound, seat = 1, against = sound)
  expect_lt(abs(sum(priced$loss) - (sound$high - sound$value)), 1e-11)
  short <- deck_standard(ranks = c("7", "8", "9", "10", "J", "Q", "K", "A"))
  shove <- game_betting(short, rules = "all in or fold")
  chart <- equilibrium(shove, gap = 1e-3)
  played <- tidy(simulate(change_rules(shove, players = chart), 1e5, seed = 3))
  net <- played[played$term == "net_1", ]
  expect_lt(abs(net$estimate - chart$value), standard_errors * net$std.error)
  expect_s3_class(ggplot2::autoplot(chart), "ggplot")
})

test_that("how hands fare is kept by what decides it, read again, and made anew where the file is damaged", {
  withr::local_envvar(R_USER_CACHE_DIR = withr::local_tempdir())
  short <- deck_standard(ranks = c("10", "J", "Q", "K", "A"))
  shove <- function(stacks, private = 2) {
    game_betting(short, rules = "all in or fold", stacks = stacks, private = private)
  }
  rm(list = ls(runouts), envir = runouts)
  first <- equilibrium(shove(9))
  kept <- list.files(kept_folder(), "^runout-", full.names = TRUE)
  expect_length(kept, 1)
  equilibrium(shove(14))
  expect_length(list.files(kept_folder(), "^runout-"), 1)
  rm(list = ls(runouts), envir = runouts)
  expect_equal(equilibrium(shove(9))$rows, first$rows)
  bytes <- readBin(kept, "raw", file.size(kept))
  bytes[100] <- xor(bytes[100], as.raw(1))
  for (damaged in list(bytes, bytes[1:50], bytes[1:10], raw())) {
    writeBin(damaged, kept)
    rm(list = ls(runouts), envir = runouts)
    expect_equal(suppressMessages(equilibrium(shove(9)))$rows, first$rows)
    expect_gt(file.size(kept), 50)
  }
  rm(list = ls(runouts), envir = runouts)
  writeBin(bytes, kept)
  expect_message(equilibrium(shove(9)), "damaged")
})

test_that("what is out of reach, or no game of two, is refused with its size and what to take", {
  large <- game_betting(blinds = c(1, 2), streets = list(street(bets = "pot", most_bets = 2), street(shared = 3),
                                                         street(shared = 1), street(shared = 1)))
  expect_refusals(list(
    list(quote(equilibrium(large)), "work", "public positions and 1326 hands of a seat, and needs about"),
    list(quote(equilibrium(game_betting(seats = 3))), "rules", "for two seats, not 3"),
    list(quote(equilibrium(game_betting(rules = "all in or fold", holdings = list("AS KS", NULL)))), "work",
         "can be turned in"),
    list(quote(mistakes(one_bet, player_lookahead(), against = equilibrium(one_bet))), "rules", "chances are known"),
    list(quote(equilibrium(one_bet, gap = -1)), "input", "above 0")
  ))
  # Time ends it with the gap that was reached by then.
  short <- equilibrium(game_betting(rules = "one card, two streets"), gap = 1e-12, seconds = 0.05)
  expect_gt(short$high - short$low, 1e-12)
  expect_output(print(short), "was not reached")
})

test_that("what each move is worth to one hand is told, against sound play and others", {
  found <- advise(one_bet, "2", actions = "bet")
  # Sound play leaves a 2 with the same by folding and calling.
  expect_equal(found$expected, c(-1, -1), tolerance = 1e-4)
  expect_equal(found$best, c(TRUE, TRUE))
  expect_equal(found$chance[found$move == "call"], 1 / 3, tolerance = 1e-3)
  # Of who bets anything a 2 beats half, and wins two, or loses two.
  bold <- player_by_rules("bet", "call")
  found <- advise(one_bet, "2", actions = "bet", against = bold)
  expect_equal(found$expected[found$move == "call"], 0)
  expect_equal(found$best, found$move == "call")
  streets <- game_betting(rules = "one card, two streets")
  sound <- equilibrium(streets, gap = 1e-3)
  found <- advise(streets, "3", shared = "3", actions = "check check", against = sound)
  row <- sound$rows[sound$rows$sees == "holding: 3; shared: 3; actions: check check" & sound$rows$move == "bet", ]
  expect_equal(found$expected[found$move == "bet"], row$worth)
  expect_output(print(found), "holding 3 with 3, after check check")
  expect_refusals(list(
    list(quote(advise(one_bet, "4")), "rules", "no card here"),
    list(quote(advise(one_bet, "1 2")), "rules", "must be the 1 card of a seat, not 2"),
    list(quote(advise(one_bet, "1", actions = "call")), "rules", "cannot go on with \"call\""),
    list(quote(advise(one_bet, "1", actions = "bet fold")), "rules", "the hand is over"),
    list(quote(advise(streets, "3", shared = "3", actions = "check")), "rules", "0 cards are turned by then, not 1"),
    list(quote(advise(streets, "3", actions = "check check")), "rules", "1 card is turned by then, not 0"),
    list(quote(advise(change_rules(one_bet, deck = deck_numbered(4), board = "4"), "4")), "rules",
         "not all in the deck"),
    list(quote(advise(one_bet, "1", up_card = "2")), "input", "has no house: no `up_card`"),
    list(quote(advise(one_bet, "1", actions = 3)), "input", "must be one text"),
    list(quote(advise(game_blackjack(), "10S 6H", "9D", actions = "bet")), "input", "no `actions`")
  ))
})

test_that("where nobody has a choice, and where hands do not go together, it is said", {
  dull <- equilibrium(game_betting(private = 1, ante = 1, streets = list(street(bets = NULL))))
  expect_equal(tidy(dull)$estimate, c(0, 0, 0))
  expect_output(print(dull), "Nobody has a choice to make")
  last <- game_betting(board = "KS 8H 3D 3C 2S", pot = 10, stacks = 20, streets = list(street(bets = "pot")),
                       holdings = list(c("8D 8C" = 1, "7D 6D" = 1), "K Q unsuited"))
  sound <- equilibrium(last, gap = 1e-4)
  # A pot is bet: as many hands that can win as cannot, and half of those that catch it call.
  all <- as.data.frame(summary(sound))
  expect_equal(all$bet[all$actions == ""], 0.75, tolerance = 1e-3)
  expect_equal(all$call[all$actions == "bet"], 0.5, tolerance = 1e-3)
  expect_equal(sound$value, 7.5, tolerance = 1e-4)
  expect_error(advise(last, "KD KC", against = sound), "can hold nothing such", class = "habanera_error_rules")
})

test_that("summaries add up: shares of deals, and chances of moves", {
  last <- game_betting(board = "KS 8H 3D QC 2S", pot = 10, stacks = 20, streets = list(street(bets = "pot")))
  sound <- equilibrium(last, gap = 0.05)
  for (by in c("course", "category", "holding")) {
    all <- as.data.frame(summary(sound, by))
    moves <- intersect(c("check", "bet", "fold", "call"), names(all))
    come <- all$share > 0
    expect_equal(rowSums(all[come, moves], na.rm = TRUE), rep(1, sum(come)), tolerance = 1e-9, ignore_attr = TRUE)
    expect_equal(sum(all$share[all$actions == ""]), 1, tolerance = 1e-9)
  }
  bets <- as.data.frame(summary(sound))
  expect_equal(bets$share[bets$actions == "bet"], bets$bet[bets$actions == ""], tolerance = 1e-9)
  expect_setequal(as.character(as.data.frame(summary(sound, "category"))$category),
                  c("three of a kind", "two pair", "one pair", "high card"))
  expect_output(print(summary(sound, "category")), "seat 1, first to speak, three of a kind")
  expect_match(levels(ggplot2::autoplot(sound)$data$where)[1], "seat 1, first to speak")
  expect_error(summary(equilibrium(one_bet), "category"), class = "habanera_error_input")
  file <- withr::local_tempfile(fileext = ".json")
  write_result(sound, file)
  expect_equal(as.data.frame(read_result(file))$worth, as.data.frame(sound)$worth, tolerance = 1e-14)
})

test_that("values by rules are those of each game, between their proven ends", {
  found <- vary_rules(one_bet, ante = 1:3, of = "value", want = "value > -0.02")
  expect_equal(found$estimate[1], tidy(equilibrium(one_bet, gap = 1e-4))$estimate[1])
  expect_true(found[["conf.low"]][1] <= -1 / 18 && -1 / 18 <= found[["conf.high"]][1])
  expect_equal(found$meets, c("no", "yes", "yes"))
  # Between the ends of an interval, and at neither of them.
  within <- vary_rules(one_bet, ante = 1, of = "value", want = sprintf("abs(value - %.12f) < 1e-9", found$estimate[1]))
  expect_equal(within$meets, "open")
  expect_output(print(found), "surely met by 2 of 3")
  expect_error(vary_rules(game_war(), face_down = 1:2, of = "value"), class = "habanera_error_input")
  expect_error(vary_rules(one_bet, ante = 1:2, of = "value", want = "edge > 0"), class = "habanera_error_language")
  drawn <- ggplot2::layer_data(ggplot2::autoplot(found), 3)
  expect_equal(nrow(drawn), 3)
})

test_that("no player beats the mixture of a round robin that is found, and few deals say little", {
  skip_if_not_installed("lpSolve")
  # Each beats one and is beaten by one: leads of 2, 1 and 1 are balanced by shares of 1, 2 and 1 in 4, the other way.
  leads <- matrix(c(0, 2, -1, -2, 0, 1, 1, -1, 0), 3, byrow = TRUE)
  expect_equal(unbeaten_shares(leads), c(1, 1, 2) / 4, tolerance = 1e-9)
  expect_equal(lead_matrix(c(2, -1, 1), 3), leads)
  never <- player_by_rules("bet if holds(\"3\")", "call if holds(\"3\")", "check", "fold")
  met <- round_robin(one_bet, list(sound = equilibrium(one_bet), caller = "calls_all", proud = never, any = "random"),
                     nsim = 4000, seed = 2)
  found <- equilibrium(met)
  expect_equal(sum(found$share), 1)
  expect_true(all(found$lead <= 1e-9))
  pairs <- as.data.frame(met)
  of <- function(player) vapply(found$player, function(other) {
    if (player == other) 0 else pairs$lead[pairs$player == player & pairs$against == other]
  }, 0)
  expect_equal(found$lead, vapply(found$player, function(player) sum(of(player) * found$share), 0),
               tolerance = 1e-9, ignore_attr = TRUE)
  expect_true(all(found[["conf.low"]] <= found$share + 1e-9 & found$share <= found[["conf.high"]] + 1e-9))
  few <- equilibrium(round_robin(one_bet, list(one = "calls_all", other = never), nsim = 3, seed = 1))
  expect_true(all(is.na(few[["conf.low"]])))
  expect_output(print(few), "too few to say")
  three <- round_robin(game_betting(seats = 3, private = 1, ante = 1, streets = list(street())),
                       list(a = "calls_all", b = "random", c = never), nsim = 20, seed = 1)
  expect_error(equilibrium(three), "two seats, not 3", class = "habanera_error_rules")
})

test_that("the shell advises, varies values, and mixes who met", {
  ran <- run_words("advise", "betting", "2", "--rules", "one card, one bet", "--actions", "bet")
  expect_match(ran$out, "fold or call, against sound play", all = FALSE)
  ran <- run_words("vary", "betting", "--rules", "one card, one bet", "--over", "ante=1,2", "--of", "value", "--format",
                   "csv")
  expect_equal(utils::read.csv(text = ran$out)$ante, 1:2)
  skip_if_not_installed("lpSolve")
  ran <- run_words("round-robin", "betting", "--rules", "one card, one bet", "--players", "calls_all,random",
                   "--trials", "200", "--seed", "1", "--mixture")
  expect_match(ran$out, "is beaten by none|beats this mixture", all = FALSE)
})
