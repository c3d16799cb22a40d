# Games in which seats bet. Chips are held to a slow program from the rules alone (helper-betting.R); the core's tests
# have deals worked by hand.

# Rules by chance, of up to 4 seats and 3 streets.
random_game <- function() {
  any_of <- function(x, n = 1) x[sample.int(length(x), n)]
  seats <- any_of(2:4)
  blinds <- any_of(list(NULL, c(1, 2), c(2, 5), if (seats > 2) c(1, 2, 4) else 3))[[1]]
  ante <- any_of(if (is.null(blinds)) 1:3 else 0:1)
  pool <- c("1", "2", "7", "1/2 pot", "pot", "0.75 pot", "1/3 pot", "all in")
  sizes <- function() any_of(pool, any_of(1:3))
  streets <- lapply(seq_len(any_of(1:3)), function(number) {
    street(shared = if (number > 1) any_of(0:2) else 0, bets = sizes(), raises = sizes(), most_bets = any_of(0:4),
           first = any_of(list(NULL, NULL, any_of(seq_len(seats))))[[1]])
  })
  if (!is.null(blinds) && runif(1) < 0.3) {
    streets[[1]] <- street(bets = sizes(), most_bets = any_of(1:3), calls = "all in")
  }
  least <- max(blinds, 0) + ante
  game_betting(seats = seats, private = any_of(1:2), ante = ante, blinds = blinds,
               stacks = any_of(least:60, seats), streets = streets, players = "random",
               record = c("actions", "net_1"))
}

test_that("every move, what it took, the pot and what came of it are those of a slow program, on thousands of deals", {
  strength_of <- function(own, shared) hand_strength(paste(c(own, shared), collapse = " "))
  set.seed(20261201)
  for (i in 1:150) {
    game <- random_game()
    hands <- lapply(1:14, function(trial) follow_replay(replay(game, seed = i, trial = trial), strength_of))
    expect_equal(lapply(hands, `[[`, "told"), lapply(hands, `[[`, "slow"), info = rule_text(game$rules$streets))
  }
})

test_that("exact answers are those of a slow walk of all deals and moves by random tables", {
  set.seed(4)
  chances <- function(open) {
    p <- runif(length(open))
    p / sum(p)
  }
  # For each seat what it does with each card after each course.
  courses <- list(list("", "check", "bet", 1), list("check", "check", "bet", 2), list("bet", "call", "fold", 2),
                  list("check bet", "call", "fold", 1))
  rows <- do.call(rbind, lapply(courses, function(course) do.call(rbind, lapply(1:4, function(card) {
    data.frame(seat = course[[4]], sees = sprintf("holding: %d; actions:%s", card, sub("^(.)", " \\1", course[[1]])),
               move = unlist(course[2:3]), chance = chances(1:2))
  }))))
  game <- game_betting(deck_numbered(4), private = 1, ante = 1, streets = list(street()),
                       players = player_by_table(rows))
  p <- function(seat, card, course, move) {
    sees <- sprintf("holding: %d; actions:%s", card, sub("^(.)", " \\1", course))
    rows$chance[rows$seat == seat & rows$sees == sees & rows$move == move]
  }
  slow <- c()
  for (one in 1:4) for (two in setdiff(1:4, one)) {
    deal <- 1 / 12
    sign <- if (one > two) 1 else -1
    add <- function(net, chance) slow[as.character(net)] <<- sum(slow[as.character(net)], deal * chance, na.rm = TRUE)
    add(sign, p(1, one, "", "check") * p(2, two, "check", "check"))
    add(1, p(1, one, "", "bet") * p(2, two, "bet", "fold"))
    add(2 * sign, p(1, one, "", "bet") * p(2, two, "bet", "call"))
    checks <- p(1, one, "", "check") * p(2, two, "check", "bet")
    add(-1, checks * p(1, one, "check bet", "fold"))
    add(2 * sign, checks * p(1, one, "check bet", "call"))
  }
  law <- as.data.frame(exact(game))
  law <- tapply(law$probability, law$net_1, sum)
  expect_equal(law[names(slow)], slow, ignore_attr = TRUE, tolerance = 1e-12)
  counts <- simulate(game, 40000, seed = 5)
  n <- tapply(counts$n, counts$outcomes$net_1, sum)[names(slow)]
  expect_gt(stats::chisq.test(n, p = slow)$p.value, 1e-4)
})

test_that("sound play, best answers and mistakes of one card, one bet are those known", {
  sound <- equilibrium(one_bet, gap = 1e-4)
  value <- tidy(sound)[1, ]
  expect_lte(value$conf.low, -1 / 18)
  expect_gte(value$conf.high, -1 / 18)
  # Against sound play of seat 2 no answer has more, and calling all or never betting has just as much or less.
  second <- player_by_table(sound_second)
  expect_equal(best_play(one_bet, 1, against = second)$worth, -1 / 18)
  expect_equal(best_play(one_bet, 1, against = "calls_all")$worth, 1 / 3)
  always <- player_by_rules("bet", "call", name = "always")
  lost <- mistakes(one_bet, always, against = second)
  with_always <- exact(change_rules(one_bet, players = list(always, second)))
  expect_equal(sum(lost$loss), -1 / 18 - tidy(with_always)$estimate[tidy(with_always)$term == "net_1"])
  expect_match(paste(capture.output(print(lost)), collapse = " "), "They cost .* antes a game")
  bluffs <- mistakes(one_bet, second, seat = 2, against = "calls_all")
  expect_equal(bluffs$played, "check 66.7%, bet 33.3%")
  none <- mistakes(change_rules(one_bet, players = list("random", "calls_all")), player_by_table(best_play(
    one_bet, 1, against = "calls_all")))
  expect_match(paste(capture.output(print(none)), collapse = " "), "None: nothing brings more")
})

test_that("mistakes of every row add up at random games and tables", {
  set.seed(9)
  two <- game_betting(rules = "one card, two streets")
  mixture <- player_mixture(list(player_random(), player_calls_all()), c(1, 2))
  for (against in list("random", "calls_all", mixture)) {
    lost <- mistakes(two, "random", seat = 2, against = against)
    best <- best_play(change_rules(two, players = list(against, "random")), 2)
    expect_equal(sum(lost$loss), best$gain, tolerance = 1e-9)
    expect_true(all(lost$cost > 0))
  }
})

test_that("tables by holding print, go through files and come back", {
  second <- player_by_table(sound_second, "sound")
  expect_output(print(second), "holding 2, after bet: call 33.3%, fold 66.7%", fixed = TRUE)
  file <- withr::local_tempfile(fileext = ".csv")
  utils::write.csv(as.data.frame(second), file, row.names = FALSE, na = "")
  again <- player_by_table(file)
  expect_equal(as.data.frame(again), as.data.frame(second))
  played <- function(player) as.data.frame(exact(change_rules(one_bet, players = list("random", player))))
  expect_equal(played(again), played(second))
  # From the shell, and as the text of a player.
  expect_equal(played(file), played(second))
  expect_equal(played(as.character(second)), played(second))
})

test_that("a table that does not fit the game is refused by its row", {
  with_table <- function(table, game = one_bet) change_rules(game, players = list("random", player_by_table(table)))
  change <- function(...) utils::modifyList(sound_second, list(...))
  expect_error(with_table(change(call = c(NA, NA, NA, 0, 1 / 2, 1))), "come to 1.16667", class = "habanera_error_input")
  expect_error(with_table(change(fold = c(NA, NA, NA, 1, 2 / 3, NA))), "holding: 3.*it misses \"fold\"",
               class = "habanera_error_rules")
  expect_error(with_table(change(holding = c(1, 2, 4, 1, 2, 3))), "\"4\" is no card here",
               class = "habanera_error_rules")
  expect_error(with_table(change(actions = rep(c("check", "raise"), each = 3))), "cannot go on with \"raise\"")
  expect_error(with_table(change(actions = rep(c("", "bet"), each = 3))), "then seat 1 speaks, not seat 2")
  expect_error(with_table(change(actions = rep(c("check", "check check"), each = 3))), "the hand is over then")
  expect_error(with_table(sound_second, game_betting(rules = "one card, two streets")), "is no card|not open|misses")
  expect_error(with_table(sound_second[1:3, ]) |> exact(), "has no row for \"holding: 1; actions: bet\"",
               class = "habanera_error_function")
  twice <- rbind(sound_second, data.frame(holding = "2 ", actions = "bet", check = NA, bet = NA, call = 1, fold = 0))
  expect_error(with_table(twice), "there twice")
  expect_error(player_by_table(data.frame(holding = 1)), "a column for each move")
  blank <- sound_second
  blank[2, c("check", "bet")] <- NA
  expect_error(player_by_table(blank), "Row 2 .* no chance at all")
})

test_that("hands that no rule tells apart are one row, by ranks where no flush counts, else by suits' names", {
  # All 52 cards: 13 ranks.
  one <- game_betting(private = 1, ante = 1, streets = list(street()))
  rest <- player_by_rules("call", "check", "fold")
  best <- best_play(change_rules(one, players = rest), 1)
  expect_equal(length(unique(best$rows$sees)), 26)
  bold <- player_by_rules("bet if holds(\"7 or better\")", "check", "fold")
  bets <- simulate(change_rules(one, players = list(bold, "calls_all")), 5000, seed = 1)
  # Of the hands that are not tied it bets on those in which it holds one of eight ranks of thirteen.
  untied <- bets$outcomes$net_1 != 0
  share <- sum(bets$n[abs(bets$outcomes$net_1) == 2]) / sum(bets$n[untied])
  expect_lt(abs(share - 8 / 13), 4 * sqrt(8 / 13 * 5 / 13 / sum(bets$n[untied])))
  # Two cards and five turned: 169 hands before the turn, told by the first suits.
  fold_or_all <- game_betting(rules = "all in or fold")
  all_in <- data.frame(holding = c("any pair", "A 2 or better", "K Q suited"), actions = "", fold = 0, `all in` = 1,
                       check.names = FALSE)
  player <- player_by_table(rbind(all_in, data.frame(holding = "K Q unsuited", actions = "", fold = 1, `all in` = 0,
                                                     check.names = FALSE)))
  game <- change_rules(fold_or_all, players = list(player, "calls_all"))
  sees <- game$spec$rules$players[[1]]$sees
  expect_setequal(grep("^holding: K", sees, value = TRUE),
                  sprintf("holding: %s; shared:; actions:", rep(c("KS KH", "KS QS", "KS QH"), each = 2)))
  # A hand that is told by other suits is found.
  mostly_in <- player_by_table(data.frame(holding = "any two", actions = "", fold = 0.25, `all in` = 0.75,
                                          check.names = FALSE))
  both <- simulate(change_rules(fold_or_all, players = list(mostly_in, "calls_all")), 4000, seed = 1)
  folded <- sum(both$n[both$outcomes$ended == "fold"])
  expect_lt(abs(folded - 1000), 4 * sqrt(4000 * 0.25 * 0.75))
})

test_that("from the middle: a board, a pot, and hands by class", {
  # Seat 1 has the best hand or nothing, each as likely; seat 2 beats nothing. A bet of the pot.
  river <- game_betting(board = "KS 8H 3D 3C 2S", pot = 10, stacks = 20,
                        holdings = list(c("8D 8C" = 1, "7D 6D" = 1), "K Q unsuited"),
                        streets = list(street(bets = "pot")))
  expect_match(capture.output(print(rules(river))), "board +KS, 8H, 3D, 3C, 2S", all = FALSE)
  sound <- equilibrium(river, gap = 1e-3, seconds = 20)
  # One bluff for two bets of worth; the caller calls half of the time: seat 1 has 7.5 of the pot of 10.
  expect_lte(tidy(sound)$conf.low[1], 7.5)
  expect_gte(tidy(sound)$conf.high[1], 7.5)
  gap <- tidy(sound)$estimate[3]
  expect_lte(gap, 1e-3)
  rows <- as.data.frame(sound)
  chance <- function(sees, move) sum(rows$chance[grepl(sees, rows$sees) & rows$move == move])
  # Who bluffs more or less by x gives the best answer 5 x or 10 x.
  expect_lte(abs(chance("7D 6D.*actions:$", "bet") - 0.5), gap / 5 + 1e-12)
  law <- exact(change_rules(river, players = "calls_all"))
  # Nets come to the pot.
  expect_equal(sum(tidy(law)$estimate[tidy(law)$term %in% c("net_1", "net_2")]), 10)
  # The same by simulation: the cards that one seat holds the other does not.
  counts <- simulate(change_rules(river, players = list("random", "random")), 20000, seed = 3)
  means <- tidy(counts)
  exact_means <- tidy(exact(change_rules(river, players = "random")))
  at <- match("net_1", means$term)
  expect_lt(abs(means$estimate[at] - exact_means$estimate[at]), 4 * means$std.error[at])
  held <- as.data.frame(simulate(game_betting(holdings = list("A K", "any pair"), record = c("holding_1", "holding_2")),
                                 2000, seed = 1))
  expect_equal(unique(held$holding_1), "A K")
  expect_true(all(sub(" .*", "", held$holding_2) == sub(".* ", "", held$holding_2)))
  refuse <- function(...) expect_error(game_betting(...), class = "habanera_error_rules")
  refuse(board = "KS 8H 3D", holdings = list("KS QS", "any pair"))
  refuse(pot = 3, ante = 1)
  expect_error(game_betting(board = "KS KS"), class = "habanera_error_conservation")
})

test_that("classes of hands are those of a showdown, too", {
  one <- showdown(list("pair of Q or better", "A K suited"), board_size = 0)
  listed <- function(ranks) unlist(lapply(ranks, function(rank) {
    two <- utils::combn(paste0(rank, c("S", "H", "D", "C")), 2)
    paste(two[1, ], two[2, ])
  }))
  all <- showdown(list(listed(c("Q", "K", "A")), paste0("A", c("S", "H", "D", "C"), " K", c("S", "H", "D", "C"))),
                  board_size = 0)
  expect_equal(one$equity, all$equity)
  expect_equal(one$hand[1], "pair of Q or better")
  expect_error(showdown(list("pair of Z", "A K")), "is no class of hands of this deck; one is \"pair of K or better\"")
  sizes <- vapply(c("any pair", "A K", "A K suited", "A K unsuited", "A 9 or better", "any two"), function(class) {
    length(hands_of_class(class, ranked_cards(deck_standard(), hand_rules(), NULL), 2))
  }, 0)
  expect_equal(unname(sizes), c(78, 16, 4, 12, 5 * 16, 1326))
})

test_that("strength may be an R function of few hands, and nonsense is refused with the hand", {
  low <- game_betting(deck_numbered(3), private = 1, ante = 1, streets = list(street()), players = "calls_all",
                      strength = function(own) -match(as.character(own), c("1", "2", "3")))
  high <- game_betting(deck_numbered(3), private = 1, ante = 1, streets = list(street()), players = "calls_all",
                       record = c("net_1", "holding_1"))
  low <- as.data.frame(exact(change_rules(low)))
  expect_equal(sum(low$probability * low$net_1), 0)
  asked <- 0
  counted <- function(own, shared) {
    asked <<- asked + 1
    sum(as.numeric(as.character(own))) + 10 * length(shared)
  }
  made <- game_betting(deck_numbered(5), private = 2, ante = 1, strength = counted,
                       streets = list(street(), street(shared = 1)))
  expect_equal(asked, choose(5, 2) * 3)
  expect_error(game_betting(deck_numbered(3), private = 1, ante = 1, strength = function(own) "high"),
               "`strength` must return one number, not .*, for 1", class = "habanera_error_function")
  failing <- function(own) stop("oh")
  expect_error(game_betting(deck_numbered(3), private = 1, ante = 1, strength = failing), "failed for 1")
  expect_error(game_betting(strength = function(own, shared) 1, streets = list(street(), street(shared = 3))),
               class = "habanera_error_work")
})

test_that("rules are data: written, read, typed, varied", {
  file <- withr::local_tempfile(fileext = ".yaml")
  games <- list(
    game_betting(rules = "one card, two streets"), game_betting(rules = "all in or fold", stacks = c(20, 30)),
    game_betting(seats = 4, ante = 1, blinds = c(1, 2), own_cards = 2, board = "KS 8H 3D",
                 streets = list(street(bets = c("1/2 pot", "all in"), raises = "pot", most_bets = 3, first = 2),
                                street(shared = 1, bets = NULL), street(shared = 1, bets = 7, most_bets = 2)),
                 holdings = list(NULL, c("A K" = 2, "any pair" = 1), "Q J suited", NULL))
  )
  for (game in games) {
    if (!is.null(game$rules$board)) game <- change_rules(game, ante = 0, blinds = NULL)
    write_rules(game, file)
    again <- game_betting(rules = file)
    expect_equal(again$spec, game$spec)
    expect_equal(eval(parse(text = experiment_code(game)$r))$spec, game$spec)
  }
  seated <- change_rules(one_bet, players = list(player_by_rules("if holds(\"3\") then bet", "check", "else fold"),
                                                 player_by_table(sound_second, "sound")))
  expect_equal(eval(parse(text = experiment_code(seated)$r))$spec, seated$spec)
  typed <- game_betting(private = 1, ante = 1, streets = "bets=2, most_bets=2; shared=1, bets=4|1/2 pot, most_bets=2")
  expect_equal(unclass(typed$rules$streets),
               list(street(bets = 2, most_bets = 2), street(shared = 1, bets = c(4, "1/2 pot"), most_bets = 2)))
  varied <- vary_rules(one_bet, players = list(player_by_rules("bet", "call", name = "wild"), player_calls_all()),
                       nsim = 500, seed = 1)
  expect_setequal(unique(as.data.frame(varied)$players), c("wild", "calls_all"))
})

test_that("contradictions are refused with what would be right", {
  refused <- function(words, ...) expect_error(game_betting(...), words, class = "habanera_error_rules")
  refused("Seat 2 must put in 3 chips before the cards, more than its stack of 2", ante = 1, blinds = c(1, 2),
          stacks = 2)
  refused("the deck has 9", deck_numbered(9), seats = 5)
  refused("more than 9 cards", private = 5, streets = list(street(shared = 5)))
  refused("the smaller first", blinds = c(2, 1))
  refused("3 blinds for 2 seats", blinds = c(1, 2, 3))
  refused("here none is posted", ante = 1, streets = list(street(bets = 1, calls = "all in")))
  refused("Seat 3 cannot speak first", ante = 1, streets = list(street(first = 3)))
  refused("There are 3 stacks for 2 seats", stacks = c(1, 2, 3))
  refused("did you mean \"all in or fold\"", rules = "all in or folds")
  expect_error(street(bets = "half pot"), "a size is a whole number of chips", class = "habanera_error_input")
  expect_error(street(bets = 2.5), class = "habanera_error_input")
  expect_error(street(bets = NULL, calls = "all in"), "a bet must be allowed")
  expect_error(game_betting(streets = list(list(bet = 1))), "did you mean \"bets\"", class = "habanera_error_input")
  expect_error(game_betting(record = c("actions", "n")), "must name outcomes")
})

test_that("who is solved, looks ahead, is mixed or is a function sits at the table", {
  set.seed(2)
  by_function <- player_with(function(view, moves) if ("bet" %in% moves && view$holding == "3") "bet" else moves[1],
                             "f")
  seen <- list()
  watching <- player_with(function(view, moves) {
    seen[[length(seen) + 1]] <<- view
    moves[1]
  }, "w")
  simulate(change_rules(one_bet, players = list(watching, by_function)), 20, seed = 1)
  expect_setequal(names(seen[[1]]), c("seat", "street", "pot", "to_call", "left", "bets", "others", "actions",
                                      "holding", "shared"))
  expect_equal(unique(vapply(seen, `[[`, 0, "pot")), c(2, 3))
  ahead <- game_betting(rules = "one card, one bet", record = c("actions", "holding_1"),
                        players = list(player_lookahead(40, playing = player_calls_all()), "calls_all"))
  rows <- as.data.frame(trials(ahead, 1, 1:60))
  # Who is known to call is bet into with the 3, and never with the 1.
  expect_true(all(rows$actions[rows$holding_1 == "3"] == "bet call"))
  expect_true(all(rows$actions[rows$holding_1 == "1"] == "check check"))
  mixed <- change_rules(one_bet, players = list(player_mixture(list(player_random(), player_calls_all()), c(1, 1)),
                                                "random"))
  law <- tidy(exact(mixed))
  counts <- tidy(simulate(mixed, 20000, seed = 1))
  at <- match("net_1", counts$term)
  expect_lt(abs(law$estimate[at] - counts$estimate[at]), 4 * counts$std.error[at])
})

test_that("a hand is called as at a table", {
  game <- game_betting(seats = 3, ante = 1, stacks = c(101, 6, 21), seat_names = c("baker", "ferryman", "twin"),
                       streets = list(street(bets = "all in", most_bets = 3)),
                       players = player_by_rules("all in", "call", "check"))
  said <- capture.output(print(replay(game, seed = 1)))
  expect_match(said, "baker goes all in with 100 \\(pot 3\\)", all = FALSE)
  expect_match(said, "ferryman calls 5 \\(pot 103\\)", all = FALSE)
  expect_match(said, "wins the pot of 48|the pot is shared: 48", all = FALSE)
  trace <- as.data.frame(replay(game, seed = 1))
  expect_equal(trace$to_call[trace$action == "calls"], c(5, 20))
})

test_that("on the whole deck every path is the walk's: two streets, by chances", {
  two <- game_betting(rules = "one card, two streets", players = list(
    player_by_rules("bet if holds(\"3\") with chance 0.75", "raise if category() >= \"one pair\"",
                    "call if to_call < pot / 2", "check", "fold"), "random"), record = c("actions", "net_1"))
  law <- as.data.frame(exact(two))
  counts <- as.data.frame(simulate(two, 50000, seed = 8))
  key <- function(x) paste(x$actions, x$net_1)
  n <- counts$n[match(key(law), key(counts))]
  n[is.na(n)] <- 0
  expect_equal(sum(n), 50000)
  rare <- law$probability * 50000 < 5
  expect_lte(sum(n[rare]), stats::qpois(1 - 1e-5, 50000 * sum(law$probability[rare])))
  p <- law$probability[!rare]
  expect_gt(stats::chisq.test(n[!rare], p = p / sum(p))$p.value, 1e-4)
})

test_that("hands that seats may be dealt are dealt from a deck in any order", {
  of_deck <- function(deck) {
    law <- exact(game_betting(deck, private = 1, ante = 1, streets = list(street()), players = "random",
                              holdings = list("K or better", NULL)))
    tidy(law)[c("term", "estimate")]
  }
  expect_equal(of_deck(rev(deck_standard())), of_deck(deck_standard()), tolerance = 1e-12)
})

test_that("what is not recorded is not told as something else", {
  outcome <- attr(replay(one_bet, seed = 1), "outcome")
  expect_true(is.na(outcome$holding_1))
  told <- game_betting(rules = "one card, one bet", record = c("holding_1", "net_1"))
  expect_equal(attr(replay(told, seed = 1), "outcome")$holding_1, "2")
  # A hand of more moves than a number tells is played and replayed.
  long <- game_betting(seats = 6, ante = 1, stacks = 1e9, streets = lapply(1:3, function(i) {
    street(bets = c("1/3 pot", "1/2 pot", "pot", "2 pot"), most_bets = 5)
  }), players = player_by_rules("raise with chance 0.9", "bet", "call", "check"), record = c("actions", "net_1"))
  expect_true(anyNA(trials(long, 1, 1:5)$actions))
  expect_gt(nrow(replay(long, seed = 1)), 33)
})

test_that("a bet or raise of all that is left is what the line says", {
  short <- game_betting(blinds = c(1, 2), stacks = 5, streets = list(street(bets = "pot", most_bets = 2)),
                        players = player_by_rules("raise", "call"), record = "actions")
  expect_equal(unique(trials(short, 1, 1:5)$actions), "all in call")
})

test_that("results of different strengths are kept apart, in files, too", {
  by <- function(strength) {
    simulate(game_betting(deck_numbered(3), private = 1, ante = 1, streets = list(street()), strength = strength,
                          players = "calls_all"), 50, seed = 1)
  }
  low <- by(function(own) -as.numeric(as.character(own)))
  file <- withr::local_tempfile(fileext = ".json")
  write_result(low, file)
  expect_equal(as.data.frame(read_result(file)), as.data.frame(low))
  high <- by(function(own) as.numeric(as.character(own)))
  expect_error(c(low, high), class = "habanera_error")
})
