to_a_rank <- function(deck = deck_standard(), ...) {
  game_custom("to_a_rank", deck, function(table, rules, players) {
    turned <- 0
    repeat {
      turned <- turned + 1
      if (table$of$rank[table$move("stock", "shown")] == rules$rank) return(list(turned = turned, early = turned < 3))
    }
  }, outcomes = list(turned = outcome_whole("cards turned"), early = outcome_flag("within two cards")),
  rules = list(rank = "A"), ...)
}

test_that("a game in a dozen lines is simulated, worked out, replayed and varied, and they agree", {
  small <- deck_ranks(c("A", "2", "3"), 2)
  law <- exact(to_a_rank(small))
  # The first ace of two among six cards: 5/15, 4/15, 3/15, 2/15, 1/15.
  expect_equal(tapply(law$probability, law$outcomes$turned, sum), c(`1` = 5, `2` = 4, `3` = 3, `4` = 2, `5` = 1) / 15,
               tolerance = 1e-12, ignore_attr = TRUE)
  counts <- simulate(to_a_rank(), nsim = 2000, seed = 3)
  found <- tidy(counts)
  # (52 + 1) / (4 + 1) cards on average.
  row <- found[found$term == "turned", ]
  expect_lt(abs(row$estimate - 53 / 5), standard_errors * row$std.error)
  longest <- replay(counts, longest = "turned")
  expect_equal(attr(longest, "outcome")$turned, max(counts$outcomes$turned))
  expect_equal(sum(longest$action == "stock to shown"), max(counts$outcomes$turned))
  expect_equal(trials(to_a_rank(), 3, 1:5)$turned, trials(to_a_rank(), 3, 5:1)$turned[5:1])
  varied <- vary_rules(to_a_rank(), rank = c("A", "K"), nsim = 100, seed = 1)
  expect_output(print(varied), "rank = ")
  twice <- compare(to_a_rank(record = "turned"), to_a_rank(record = "turned", shuffle = "uniform"), nsim = 100,
                   seed = 1)
  expect_equal(tidy(twice)$estimate[1], 0)
  expect_equal(c(simulate(to_a_rank(), 100, seed = 3), simulate(to_a_rank(), 100, seed = 3, first_trial = 101))$n,
               simulate(to_a_rank(), 200, seed = 3)$n)
})

test_that("shuffles, choices and several decks are walked as they are played", {
  # Of two decks of three each seat turns its top card; the higher wins; then the pile is shuffled and the first turned.
  left <- deck_numbered(3)
  game <- game_custom("against", list(deck_1 = left, deck_2 = left), function(table, rules, players) {
    cards <- c(table$move("deck_1", "shown"), table$move("deck_2", "shown"))
    winner <- if (cards[1] == cards[2]) 0 else which.max(cards)
    table$shuffle("shown")
    first <- table$look("shown")
    call <- table$ask(1, list(), c("low", "high"))
    table$pay(1, if ((first == 3) == (call == "high")) 0.5 else -0.25)
    list(winner = winner, first = first, net = table$money(1))
  }, outcomes = list(winner = outcome_seat("the higher card"), first = outcome_whole("the first card"),
                     net = outcome_money("what seat 1 has", 0.25)),
  piles = c(deck = "own", shown = "open"), seats = 2)
  law <- exact(game)
  expect_equal(sum(law$probability), 1, tolerance = 1e-12)
  expect_equal(tapply(law$probability, law$outcomes$winner, sum), c(1, 1, 1) / 3, tolerance = 1e-12, ignore_attr = TRUE)
  expect_equal(tapply(law$probability, law$outcomes$first, sum), c(1, 1, 1) / 3, tolerance = 1e-12, ignore_attr = TRUE)
  expect_equal(sum(law$probability * law$outcomes$net), 0.125, tolerance = 1e-12)
  found <- tidy(simulate(game, 3000, seed = 4))
  both <- merge(tidy(law), found[!is.na(found$std.error), ], by = "term")
  expect_gt(nrow(both), 4)
  expect_true(all(abs(both$estimate.x - both$estimate.y) < standard_errors * both$std.error.y))
})

test_that("clock patience comes out once in thirteen, and going out and tricks keep their cards", {
  env <- new.env()
  lines <- parse(system.file("examples", "own-games.R", package = "habanera"))
  made <- Filter(function(line) {
    is.call(line) && identical(line[[1]], quote(`<-`)) &&
      as.character(line[[2]]) %in% c("hours", "clock", "going_out", "tricks")
  }, as.list(lines))
  for (line in made) eval(line, env)
  found <- tidy(simulate(env$clock, 3000, seed = 7))
  row <- found[found$term == "out=yes", ]
  expect_lt(abs(row$estimate - 1 / 13), standard_errors * sqrt(12 / 13^2 / 3000))
  for (game in list(env$clock, env$going_out, env$tricks)) {
    expect_true(all(check_game(game, nsim = 8)$passed), info = kind_of(game)$title)
  }
  tricks <- simulate(env$tricks, 20, seed = 5)
  expect_true(all(tricks$outcomes$ours + tricks$outcomes$theirs == 13))
  # A card each of 7C, 7H and 8H, by hand: of the six orders seat 1 is out at once in all in which its card fits the
  # one that lies open (four), else seat 2 is.
  one <- change_rules(env$going_out, cards = 1, deck = as_cards("7C 7H 8H"))
  law <- exact(one)
  expect_equal(law$outcomes, data.frame(winner = c("1", "2"), turns = c(1, 2)), ignore_attr = TRUE)
  expect_equal(law$probability, c(4, 2) / 6, tolerance = 1e-12)
  expect_true(all(check_game(one, nsim = 5, expecting = list(
    list(deck = "8H 7C 7H", outcome = list(winner = "1", turns = 1)),
    list(deck = "8H 7H 7C", outcome = list(winner = "2", turns = 2))
  ))$passed))
})

test_that("a check finds what is wrong with a game", {
  play <- function(code) {
    game_custom("odd", deck_standard(), code, list(x = outcome_whole("x")), piles = c(stock = "hidden", hand = "own"))
  }
  failed <- function(game, ...) {
    found <- check_game(game, nsim = 10, ...)
    found$test[!found$passed]
  }
  count <- 0
  expect_equal(failed(play(function(table, rules, players) list(x = (count <<- count + 1)))),
               "a trial repeats from its seed")
  expect_equal(failed(play(function(table, rules, players) {
    table$move("stock", "hand_1")
    list(x = table$ask(1, list(coming = table$look("stock")), 1:2))
  })), "no seat is shown what is hidden")
  # A card that was seen, and then shuffled, is hidden again.
  expect_equal(failed(play(function(table, rules, players) {
    table$move("stock", "hand_1", 5)
    table$move("hand_1", "stock", 5)
    table$shuffle("stock")
    list(x = table$ask(1, list(coming = table$look("stock")), 1:2))
  })), "no seat is shown what is hidden")
  expect_equal(failed(play(function(table, rules, players) list())), "every trial ends with its outcomes")
  expect_equal(failed(play(function(table, rules, players) list(x = table$size("stock")))), character())
  aces <- to_a_rank()
  expect_equal(failed(aces, expecting = list(list(deck = "KS AS", outcome = list(turned = 2, early = TRUE)))),
               character())
  expect_equal(failed(aces, expecting = list(deck = "KS QS AS", outcome = list(turned = 2))), "expected result 1")
  expect_output(print(check_game(aces, nsim = 5)), "all 4 tests passed")
  expect_true(all(check_game(game_pairs(pairs = 4), nsim = 10)$passed))
})

test_that("who looks ahead finds what wins, and foresees nothing", {
  ask <- function(worth_of, shuffled) {
    game_custom("guess", deck_numbered(2), function(table, rules, players) {
      table$move("stock", "hand_1")
      table$move("hand_1", "stock")
      if (shuffled) table$shuffle("stock")
      list(winner = if (worth_of(table$ask(1, list(), 1:2), table$look("stock"))) 1 else 2)
    }, list(winner = outcome_seat("who wins")), piles = c(stock = "hidden", hand = "own"), seats = 2,
    players = list(player_lookahead(4), player_random()))
  }
  won <- function(game, n) sum(trials(game, 3, seq_len(n))$winner == "1")
  expect_equal(won(ask(function(guess, top) guess == 2, TRUE), 5), 5)
  # It has seen which card lies on top.
  expect_equal(won(ask(function(guess, top) guess == top, FALSE), 10), 10)
  # After the shuffle it cannot know: right once in two.
  expect_lt(abs(won(ask(function(guess, top) guess == top, TRUE), 60) - 30), standard_errors * sqrt(60 / 4))
  expect_error(game_custom("odd", deck_numbered(2), identity, list(x = outcome_whole("x")),
                           players = player_lookahead()), "must know what outcomes are worth",
               class = "habanera_error_rules")
  # Each seat looks to its own money.
  share <- function(outcomes) {
    game_custom("share", deck_numbered(2), function(table, rules, players) {
      taken <- vapply(1:2, function(seat) table$ask(seat, list(), c("gives", "takes")), "") == "takes"
      for (seat in 1:2) table$pay(seat, if (taken[seat]) 1 else -1)
      list(net_1 = table$money(1), net_2 = table$money(2))[names(outcomes)]
    }, outcomes, seats = 2, players = player_lookahead(3))
  }
  nets <- list(net_1 = outcome_money("of seat 1", 1), net_2 = outcome_money("of seat 2", 1))
  expect_equal(trials(share(nets), 3, 1:5)[-1], data.frame(net_1 = rep(1, 5), net_2 = 1), ignore_attr = TRUE)
  expect_error(share(nets[1]), "money for each seat", class = "habanera_error_rules")
  replayed <- replay(ask(function(guess, top) guess == 2, TRUE), seed = 3)
  expect_equal(as.character(attr(replayed, "outcome")$winner), "1")
})

test_that("what goes wrong in a game is told with the trial, the step and how to play it again", {
  play <- function(code, ...) {
    simulate(game_custom("odd", deck_standard(), code, list(x = outcome_whole("x")), seats = 2, ...), 5, seed = 9)
  }
  expect_refusals(list(
    list(quote(play(function(table, rules, players) table$move("stok", "shown"))), "function",
         "There is no pile \"stok\"; did you mean \"stock\"?"),
    list(quote(play(function(table, rules, players) table$move("shown", "stock"))), "function",
         "The pile \"shown\" holds 0 cards, not 1"),
    list(quote(play(function(table, rules, players) table$move("stock", "shown", at = 60))), "function",
         "there is no card at 60"),
    list(quote(play(function(table, rules, players) table$move("stock", "shown", at = c(2, 2)))), "function",
         "there is no card at 2"),
    list(quote(play(function(table, rules, players) table$move("stock", "shown", 1.5))), "function", "not 1.5"),
    list(quote(play(function(table, rules, players) table$move("stock", "shown", -1))), "function", "not -1"),
    list(quote(play(function(table, rules, players) table$look("shown"))), "function", "no card at 1"),
    list(quote(play(function(table, rules, players) table$ask(1, list(), character()))), "function", "has no move"),
    list(quote(play(function(table, rules, players) table$ask(2, list(), 1:3),
                    players = player_with(function(view, moves) stop("no idea")))), "function",
         "The player of seat 2 failed: no idea"),
    list(quote(play(function(table, rules, players) list(y = 1))), "function", "forgotten the outcome `x`"),
    list(quote(play(function(table, rules, players) list(x = 1, y = 1))), "function", "returns `y`"),
    list(quote(play(function(table, rules, players) list(x = "one"))), "function", "as a whole number"),
    list(quote(play(function(table, rules, players) stop("oops"))), "function", "oops"),
    list(quote(play(function(table, rules, players) repeat table$shuffle("stock"))), "function", "does not end in"),
    list(quote(play(function(table, rules, players) list(x = table$ask(1, list(), 1:3)),
                    players = player_with(function(view, moves) 7))), "function", "one of its moves (1, 2 and 3)"),
    list(quote(play(function(table, rules, players) list(x = 1), players = player_full_memory())), "input", "random"),
    list(quote(exact(to_a_rank())), "work", "courses of the game to walk"),
    list(quote(game_custom("Odd", deck_standard(), identity, list(x = outcome_whole("x")))), "input", "small letters"),
    list(quote(game_custom("odd", "deck", identity, list(x = outcome_whole("x")))), "input", "`deck` must be cards"),
    list(quote(game_custom("odd", deck_standard(), identity, list(x = 1))), "input", "must be outcome_whole()"),
    list(quote(game_custom("odd", deck_standard(), identity, list(n = outcome_whole("n")))), "input",
         "meaning already"),
    list(quote(game_custom("odd", deck_standard(), identity, list(x = outcome_whole("x")), piles = c(a = "seen"))),
         "input", "\"hidden\", \"open\" or \"own\""),
    list(quote(game_custom("odd", deck_standard(), identity, list(x = outcome_whole("x")), rules = list(deck = 1))),
         "input", "the name `deck` is taken"),
    list(quote(change_rules(to_a_rank(), rank = 3)), "input", "`rank`"),
    list(quote(change_rules(to_a_rank(), ranks = "K")), "rules", "has no rule `ranks`; did you mean \"rank\"")
  ))
  message <- tryCatch(play(function(table, rules, players) {
    table$deal("stock", "shown", 3)
    table$move("none", "shown")
  }), error = conditionMessage)
  expect_match(message, "(step 4)", fixed = TRUE)
  expect_match(message, "trials(x, seed = 9, trials = 1)", fixed = TRUE)
})

test_that("cards move from any place to the top or beneath, and none is lost", {
  game <- game_custom("moves", deck_numbered(6), function(table, rules, players) {
    table$move("stock", "a", 6)
    before <- table$cards("a")
    moved <- table$move("a", "b", at = c(5, 2))
    beneath <- table$move("a", "b", 2, beneath = TRUE)
    same <- identical(moved, before[c(5, 2)]) && identical(beneath, before[c(1, 3)]) &&
      identical(table$cards("b"), before[c(5, 2, 1, 3)]) && identical(table$cards("a"), before[c(4, 6)]) &&
      identical(table$look("b", 3), before[1]) && identical(table$turn("a", 2:1), before[c(6, 4)])
    table$move("b", "b")
    any <- table$any("b", "a")
    list(same = same && identical(table$cards("b"), setdiff(before[c(5, 2, 1, 3)], any)) && table$size("a") == 3,
         any = any)
  }, list(same = outcome_flag("as it should be"), any = outcome_whole("a card at random")),
  piles = c(stock = "hidden", a = "hidden", b = "hidden"))
  counts <- simulate(game, 600, seed = 5)
  expect_true(all(counts$outcomes$same == "yes"))
  # Any card is as likely, by chi-square.
  n <- tapply(counts$n, counts$outcomes$any, sum)
  expect_lt(sum((n - 100)^2 / 100), stats::qchisq(rare, 5, lower.tail = FALSE))
  law <- exact(game)
  expect_equal(law$outcomes, data.frame(same = "yes", any = 1:6), ignore_attr = TRUE)
  expect_equal(law$probability, rep(1, 6) / 6, tolerance = 1e-12)
})

test_that("everybody meets everybody at a game in which a seat wins", {
  higher <- game_custom("higher", deck_numbered(8), function(table, rules, players) {
    table$deal("stock", c("hand_1", "hand_2"), 2)
    laid <- vapply(1:2, function(seat) {
      hand <- sprintf("hand_%d", seat)
      table$ask(seat, list(hand = table$cards(hand)), table$cards(hand))
    }, 0)
    list(winner = which.max(laid))
  }, list(winner = outcome_seat("the higher card")), piles = c(stock = "hidden", hand = "own"), seats = 2)
  best <- player_with(function(view, moves) max(moves), "best")
  met <- round_robin(higher, list(best = best, any = player_random()), nsim = 800, seed = 2)
  found <- tidy(met)
  row <- found[found$term == "best", ]
  # Of the four cards the best player has the highest in half of the deals, and wins. Else he has the second in two of
  # three, and wins where the other lays his lower one; where he has neither he has lost. 1/2 + 1/2 * 2/3 * 1/2.
  expect_lt(abs(row$estimate - 2 / 3), standard_errors * row$std.error)
  ran <- round_robin(higher, c("random", "lookahead:samples=4"), nsim = 20, seed = 2)
  scores <- tidy(ran)
  expect_equal(sum(scores$estimate[scores$part == "player"]), 1, tolerance = 1e-12)
  expect_error(round_robin(to_a_rank(), c("random", "random")), class = "habanera_error_input")
})

test_that("a game in a file stands in the shell, and a template makes one", {
  folder <- withr::local_tempdir()
  write_game_template("first_pair", folder)
  expect_error(write_game_template("first_pair", folder), "is there already", class = "habanera_error_file")
  file <- file.path(folder, "first_pair.R")
  withr::with_dir(folder, {
    ran <- testthat::test_file("test-first_pair.R", reporter = "silent")
    expect_true(all(as.data.frame(ran)$failed == 0 & !as.data.frame(ran)$error))
  })
  expect_match(run_words("play", file, "--trials", "50", "--seed", "1")$out[1], "First pair")
  expect_match(paste(run_words("replay", file, "--seed", "1")$out, collapse = " "), "stock to shown")
  varied <- run_words("vary", file, "--over", "wanted=2,3", "--trials", "20", "--seed", "1")
  expect_match(paste(varied$out, collapse = " "), "wanted = 3")
  expect_equal(run_words("check", file, "--trials", "5")$status, 0)
  expect_match(paste(run_words("vary", "--help")$out, collapse = " "), "a file of your own: R code", fixed = TRUE)
  writeLines(c("library(habanera)", "game_custom(\"bad\", deck_standard(), function(table, rules, players) list(),",
               "            list(x = outcome_whole(\"x\")))"), file)
  expect_equal(run_words("check", file)$status, 1)
  writeLines("stop(\"not yet\")", file)
  expect_match(run_words("play", file)$err, "not yet")
  expect_match(run_words("play", file.path(folder, "none.R"))$err, "none.R")
})

test_that("a file holds what was counted and its words, never the code, which can be given again", {
  lucky <- function(play) game_custom("lucky", deck_standard(), play, list(hit = outcome_flag("the first card is one")))
  aces <- lucky(function(table, rules, players) list(hit = table$of$rank[table$move("stock", "shown")] == "A"))
  kings <- lucky(function(table, rules, players) list(hit = table$of$rank[table$move("stock", "shown")] == "K"))
  counts <- simulate(aces, 500, seed = 3)
  file <- withr::local_tempfile(fileext = ".json")
  write_result(counts, file)
  kept <- read_result(file)
  expect_equal(as.data.frame(kept), as.data.frame(counts))
  expect_equal(tidy(kept)$estimate, tidy(counts)$estimate)
  expect_equal(provenance(kept)[c("experiment", "digest", "seed")], provenance(counts)[c("experiment", "digest",
                                                                                         "seed")])
  page <- withr::local_tempfile(fileext = ".html")
  report(kept, page)
  expect_match(paste(readLines(page), collapse = " "), "Lucky on a standard deck of 52")
  again <- withr::local_tempfile(fileext = ".csv")
  write_result(kept, again)
  with_code <- read_result(again, aces)
  expect_equal(with_code, counts)
  expect_equal(c(with_code, simulate(aces, 500, seed = 3, first_trial = 501)), simulate(aces, 1000, seed = 3))
  expect_refusals(list(
    list(quote(read_result(file, kings)), "file", "its `code` differs"),
    list(quote(read_result(file, "lucky")), "input", "`game` must be the game that was counted"),
    list(quote(simulate(kept$provenance$experiment, 10)), "file", "give it, as in read_result(file, game = ...)")
  ))
  both <- round_robin(game_custom("higher", deck_standard(), function(table, rules, players) {
    list(winner = table$ask(1, list(), 1:2))
  }, list(winner = outcome_seat("who wins")), seats = 2), list(one = player_random(), other = player_random()),
  nsim = 50, seed = 1)
  write_result(both, file)
  expect_error(read_result(file), "give it", class = "habanera_error_file")
  expect_equal(read_result(file, both$provenance$experiment$game), both)
})

test_that("a person sits at it, is told the moves in words, and a rule says how many play", {
  guess <- game_custom("guess", deck_standard(), function(table, rules, players) {
    said <- vapply(seq_len(table$seats), function(seat) {
      seen <- table$move("stock", "shown")
      table$ask(seat, list(seen = table$of$card[seen]), c("higher", "lower")) == "higher"
    }, NA)
    list(winner = if (any(said)) which(said)[1] else 0)
  }, list(winner = outcome_seat("who says higher first")), rules = list(rule_whole("seats", 2, 1, 4, "how many play")))
  three <- change_rules(guess, seats = 3)
  expect_equal(three$seat_names, c("1", "2", "3"))
  # Each says higher with chance 1/2; the first who does wins.
  law <- as.data.frame(exact(change_rules(three, deck = deck_numbered(3))))
  expect_equal(law$probability[match(c("1", "2", "3", "nobody"), law$winner)], c(1 / 2, 1 / 4, 1 / 8, 1 / 8))
  met <- round_robin(three, list(one = player_random(), other = player_random()), 20, seed = 1)
  expect_gt(nrow(tidy(met)), 0)
  expect_error(change_rules(guess, seats = 5), "`seats` must be a whole number", class = "habanera_error_input")
  told <- character()
  asked <- function(view, moves, choice) {
    told <<- c(told, attr(moves, "words"), view$seen)
    2
  }
  seated <- with_player_in(guess, 1, player_asked(asked))
  trace <- replay(seated, seed = 1)
  expect_equal(told[1:2], c("higher", "lower"))
  expect_true("chooses lower" %in% trace$action)
  stopped <- with_player_in(guess, 1, player_asked(function(view, moves, choice) {
    rlang::abort("stopped", class = "habanera_stopped")
  }))
  expect_error(replay(stopped, seed = 1), class = "habanera_stopped")
})

test_that("best play of a seat is made of all that it was shown, and of nothing else", {
  # A card each, hidden from the other; seat 1 says whether its own is the higher, then may take it back once.
  higher <- game_custom("higher", deck_numbered(4), function(table, rules, players) {
    own <- table$move("stock", "hand_1")
    other <- table$move("stock", "hand_2")
    said <- table$ask(1, list(own = own), c("higher", "lower"))
    if (table$random(2) == 1) said <- table$ask(1, list(own = own, said = said), c("higher", "lower"))
    list(winner = if ((own > other) == (said == "higher")) 1 else 2)
  }, list(winner = outcome_seat("who is right")), piles = c(stock = "hidden", hand = "own"), seats = 2)
  best <- best_play(higher)
  # The card is 1 or 4: surely right; 2 or 3: in two of three deals.
  expect_equal(best$worth, (1 + 2 / 3 + 2 / 3 + 1) / 4)
  # 4 cards at the first choice; each again after either word.
  expect_equal(best$positions, 4 + 8)
  expect_output(print(best), "Seat 1: 83.333% of the win, exactly; 12 positions")
  # Who sees nothing is right in half of the deals.
  blind <- game_custom("blind", deck_numbered(4), function(table, rules, players) {
    own <- table$move("stock", "hand_1")
    other <- table$move("stock", "hand_2")
    list(winner = if ((own > other) == (table$ask(1, list(), c("higher", "lower")) == "higher")) 1 else 2)
  }, list(winner = outcome_seat("who is right")), piles = c(stock = "hidden", hand = "own"), seats = 2)
  expect_equal(best_play(blind)$worth, 1 / 2)
  # Who looks ahead, past whose move all is at random, is right more often than who guesses.
  ahead <- change_rules(higher, players = list(player_lookahead(20), player_random()))
  counts <- simulate(ahead, 300, seed = 1)
  expect_gt(sum(counts$n[counts$outcomes$winner == "1"]) / 300, 0.5 + standard_errors * sqrt(0.25 / 300))
  expect_error(best_play(change_rules(higher, players = player_with(function(view, moves) moves[1])), seat = 2),
               "must play at random", class = "habanera_error_rules")
})
