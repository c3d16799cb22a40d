# Slips that were once believed, or answered in R's own words: each is refused with what would be right.

test_that("questions, levels, counts and rules that cannot be meant are refused", {
  shoe <- game_blackjack()
  ask <- draws(deck_standard(), 2, a = count(rank == "A"))
  expect_refusals(list(
    list(quote(draws(deck_standard(), 2, suit = "hearts")), "language",
         "to compare, write ==, as in count(suit == \"hearts\")"),
    list(quote(draws(deck_standard(), 2, h = 1 + 1)), "language", "uses no card, and its answer is always the same"),
    list(quote(draw_until(deck_standard(), TRUE)), "language", "uses no card"),
    list(quote(draw_until(deck_standard(), 1 == 1)), "language", "uses no card"),
    list(quote(audit(shuffle_riffle(), nsim = 100, level = 1e-300)), "input",
         "`level` must be a number of 1e-12 or more"),
    list(quote(player_counting(player_basic(), leaves_below = 5, enters_at = 2)), "input", "at most `enters_at`"),
    list(quote(best_strategy(shoe, dead = "")), "input", "`dead` names no card"),
    list(quote(vary_rules(shoe, packs = NaN)), "rules", "With packs = NaN"),
    list(quote(keep_rules("any pair", NA)), "input", "must be text or a quoted condition, not NA"),
    list(quote(player_mixture(list(player_basic(), player_random()), NULL)), "input",
         "`weights` must be numbers above 0"),
    list(quote(check_game(shoe, expecting = -1)), "input", "`expecting` must be a list"),
    list(quote(copies_curve(ask, "AS", 2^53)), "input", "`copies` must be whole numbers from 0 to 65,535"),
    list(quote(rule_whole("a", 1, 5, 2, "x")), "input", "`to` must be a whole number of 5 or more"),
    list(quote(rule_fraction("a", 1, 0, 1i, "x")), "input", "`to` must be a number"),
    list(quote(restore_period(shuffle_faro(), "52")), "input", "`deck` must be cards, or numbers of them"),
    list(quote(replay(shuffle_riffle(), deck = deck_standard())), "input", "`seed` is missing"),
    list(quote(showdown()), "input", "`seats` is missing"),
    list(quote(hand_strength("\xff")), "notation", "is not UTF-8 text"),
    list(quote(counting_system("\xff")), "notation", "is not UTF-8 text"),
    list(quote(deck_standard(suits = as.raw(1))), "input", "`suits` must be among"),
    list(quote(deck_from(strrep("x", 1e5))), "input", "is no deck: there is no such file"),
    list(quote(plot(category_odds(size = 3))), "input", "There is no figure of this")
  ))
  expect_message(game_high_card(cut_after = 1), "is one card: each shoe has one round")
})

test_that("what is refused is refused for what is missing", {
  plain <- function(outcomes) {
    game_custom("lone", deck_standard(), function(table, rules, players) list(a = 1), outcomes = outcomes,
                piles = c(stock = "hidden"), seats = 2)
  }
  told <- plain(list(a = outcome_whole("a")))
  expect_refusals(list(
    list(quote(round_robin(told, c("random", "random"))), "input", "does not say what each seat has of the win"),
    list(quote(best_play(told)), "rules", "Best play must know what outcomes are worth"),
    list(quote(compare(player_basic(), player_basic(), 3 + 4)), "input", "an argument too many: \"3 + 4\""),
    list(quote(exact(game_war(), foo = 1)), "input", "an argument too many: `foo`"),
    list(quote(best_play(game_high_card())), "input", "a game of one's own comes by it with game_custom()"),
    list(quote(best_play(game_war())), "input", "nobody decides anything"),
    list(quote(card_impact(told)), "input", "deals no hands before it is played"),
    list(quote(game_custom("x", deck_standard(), function(table, rules, players) 1,
                           outcomes = list(a = outcome_whole("a")),
                           rules = new.env())), "input", "`rules` must be a list")
  ))
})

test_that("what is of another type, or has no end, is refused where it stands", {
  windfall <- withr::local_tempfile(fileext = ".yaml", lines = c("- card: plum", "- card: quince"))
  open_quote <- withr::local_tempfile(fileext = ".csv", lines = c("rounds,\"staked,result", "1,2,3\"", "4,5,6"))
  expect_refusals(list(
    list(quote(as_counts("\xff")), "notation", "`table` is not UTF-8 text"),
    list(quote(check_cards("\xff", deck_standard())), "notation", "`x` is not UTF-8 text"),
    list(quote(game(strrep("x", 1e5))), "input", "There is no game"),
    list(quote(write_result(data.frame(), "x.csv")), "input", "`x` has no columns"),
    list(quote(rule_choice("a", mean, "b")), "input", "`choices` must be texts"),
    list(quote(rule_whole("a", 1, 0, 9, "b", without = mean)), "input", "`without` must be one piece of text"),
    list(quote(rule_flag("a", FALSE, 5)), "input", "`meaning` must be one piece of text"),
    list(quote(category_odds(rules = windfall)), "file", "must hold rules for hands"),
    list(quote(compare(hand_rules(), hand_rules(ace = "high"))), "input", "`hands` is missing"),
    list(quote(takings(game_high_card(), open_quote)), "file", "a quote in the heading has no pair"),
    list(quote(price_for(game_baccarat(), 0.05, lines = mean, bet = "tie")), "input", "`lines` must name lines"),
    list(quote(removal_effects(game_blackjack(), of = quote(x))), "input", "`of` must name bets of the game"),
    list(quote(design_tags(data.frame(bet = "a", effect = 1, copies = 1), levels = c(1, NA))), "input",
         "`levels` must be 2 to 9 whole numbers"),
    list(quote(counter_gain(game_blackjack(), player_counting(), most_bet = new.env())), "input",
         "`most_bet` must be a whole"),
    list(quote(counter_gain(game_blackjack(), player_counting(), packs = numeric())), "input",
         "`packs` must be a whole"),
    list(quote(player_mixture(list(player_basic(), player_as_dealer()), weights = as_cards("AS"))), "input",
         "`weights` must be numbers above 0"),
    list(quote(draws_recorded(demo_file("volunteer-shuffles.csv"), columns = new.env())), "input",
         "`columns` must be names, or whole numbers"),
    list(quote(audit(shuffle_recorded(demo_file("volunteer-shuffles.csv"), columns = character()))), "input",
         "`columns` must be names, or whole numbers"),
    list(quote(game_custom("x", deck_standard(), function(...) 1, outcomes = new.env())), "input",
         "must be a list by name"),
    list(quote(find_deviations(game_blackjack(), range = c(1, NA))), "input", "`range` must be whole counts")
  ))
})

test_that("text that is none is refused wherever it is given", {
  bytes <- "\xff"
  expect_refusals(list(
    list(quote(round_robin(game_pairs(pairs = 3), bytes)), "notation", "`players` is not UTF-8 text"),
    list(quote(deal(deck_standard(), bytes)), "notation", "`hands` is not UTF-8 text"),
    list(quote(deck_crossed(bytes, 1:3)), "notation", "`rank` is not UTF-8 text"),
    list(quote(deck_standard(ranks = bytes)), "notation", "`ranks` is not UTF-8 text"),
    list(quote(deck_standard(suits = bytes)), "notation", "`suits` is not UTF-8 text"),
    list(quote(draws_recorded(bytes)), "notation", "`file` is not UTF-8 text"),
    list(quote(strategy_table(bytes)), "notation", "`x` is not UTF-8 text"),
    list(quote(player_mixture(list(player_basic(), player_as_dealer()), bytes)), "notation", "`weights` is not UTF-8"),
    list(quote(game_war(piles = bytes)), "notation", "`piles` is not UTF-8 text"),
    list(quote(game_video_poker(pays = bytes)), "input", "not bytes that are no UTF-8 text")
  ))
})

test_that("a number that has a name is a number", {
  named <- sessions(game_high_card(), rounds = c(b = 30), sessions = c(a = 2))
  expect_equal(tidy(named), tidy(sessions(game_high_card(), rounds = 30, sessions = 2)))
})

test_that("every exported function says which argument is missing", {
  needed <- function(name) {
    formals <- formals(get(name, asNamespace("habanera")))
    setdiff(names(Filter(function(given) is.symbol(given) && !nzchar(as.character(given)), formals)), "...")
  }
  # Those of other packages; an expression that is only kept; and what is no more than a name for another call.
  foreign <- c("tidy", "glance", "autoplot", "simulate", "keep_where")
  for (name in setdiff(getNamespaceExports("habanera"), foreign)) {
    if (!length(needed(name))) next
    expect_error(do.call(name, list(), envir = asNamespace("habanera")), "^`[a-z_]+` is missing",
                 class = "habanera_error_input",
                 info = name)
  }
})

test_that("in the shell, what says the same twice or names nothing is bad usage", {
  expect_bad_usage(list(
    list(c("play", "war", "--set", "deck=numbered 10", "--deck", "standard", "--trials", "5"),
         "--set deck= and --deck say the same"),
    list(c("vary", "war", "--over", "face_down=0:1", "--trials", "5", "--outcome", "nope"), "which is not recorded"),
    list(c("mixing", "riffle", "--times", "1:Inf"), "must be a number or a range"),
    list(c("edge", "blackjack", "--dead", ""), "`--dead` names no card"),
    list(c("payout", "--size", "1", "--ask", "suit = 'hearts'", "--pays", "1"), "to compare, write ==")
  ))
  rules <- withr::local_tempfile(fileext = ".yaml", lines = c("- a", "- b"))
  ran <- run_words("edges", rules)
  expect_equal(ran$status, 3)
  expect_match(ran$err, "must hold rules with `game`", all = FALSE)
})

test_that("a lap of one trial adds up as any", {
  line <- list(c(1, 2), 3)
  totals <- matrix(1:6, 2)
  whole <- plain_grouped(totals, 1:2, list(line))
  parts <- lapply(1:2, function(i) plain_grouped(totals[i, , drop = FALSE], i, list(line)))
  expect_equal(Map(`+`, parts[[1]], parts[[2]]), whole)
})
