# Rounds whose cards lie as they are told, from the top: the seat, the dealer's card shown, the seat, then the card face
# down where the dealer looks, then what is drawn.
dealt_blackjack <- function(cards, ...) {
  deck <- as_cards(paste(cards, "7C 7D 7H 7S"))
  game <- game_blackjack(deck = deck, packs = 1, shuffle = "none", ..., record = c("net", "staked", "result", "hands",
                                                                                    "cards_used"))
  trials(game, seed = 1, trials = 1)
}

test_that("rounds worked by hand come out as every rule has them", {
  on17 <- player_stands_on(17)
  cases <- list(
    # A natural, against none, against another, by another pay.
    list("AS 9D KS 5H", 1.5, 1, "natural"), list("AS 9D KS 5H", 1.2, 1, "natural", natural_pays = "6:5"),
    list("AS AD KS KH", 0, 1, "push"), list("AS AD KS KH", -1, 1, "loss", ties = "dealer"),
    list("9S KD 8S AH", -1, 1, "loss"),
    # Who busts is not drawn against.
    list("10S 8D 6S 10H 10C", -1, 1, "loss", players = on17),
    # Soft 17 of the dealer.
    list("10S 6D 8S AH 9C 4D", 1, 1, "win"), list("10S 6D 8S AH 9C 4D", -1, 1, "loss", soft_17 = "hits"),
    list("10S 6D 8S AH 9C", -1, 1, "loss", dealer_stands_on = 16, players = on17, bust_over = 17),
    # Doubles: on 11, on soft 18, where they may be.
    list("6S 5D 5S 10H 10C 10D", 2, 2, "win"), list("AS 5D 7S 10H 10C 9D", 2, 2, "win"),
    list("AS 5D 7S 10H 9D", 1, 1, "win", double_on = "9_to_11"),
    list("4S 5D 5S 10H 10C 9D", 1, 1, "win", double_on = "10_11"),
    # Eights are split, the second hand doubled on ten; without doubles after splits it hits.
    list("8S 6D 8H 10H 10C 2D 9C 10S", 3, 3, "win"),
    list("8S 6D 8H 10H 10C 2D 9C 10S", 2, 2, "win", double_after_split = FALSE),
    list("8S 6D 8H 10H 10C 10S 10D", -1, 1, "loss", most_hands = 1, players = on17),
    # Aces that are split get a card each; their 21 is no natural.
    list("AS 6D AH 10H 5C KD 10S", 2, 2, "win"), list("AS 6D AH 10H AC 9C 9D 5C 10S", 2, 2, "win"),
    list("AS 6D AH 10H AC 9C 9D 8C 10S", 3, 3, "win", resplit_aces = TRUE),
    # Kings and queens are a pair by value, and none by rank.
    list("KS 6D QH 10H 9C 8D 10S", 2, 2, "win", players = strategy_table(ten_splitter)),
    list("KS 6D QH 10H 10S", 1, 1, "win", players = strategy_table(ten_splitter), split_by = "rank"),
    # Given up after the look or before it.
    list("10S 10D 6S 7H", -0.5, 1, "surrender", surrender = "late"),
    list("10S AD 6S KH", -1, 1, "loss", surrender = "late"),
    list("10S AD 6S KH", -0.5, 1, "surrender", surrender = "early"),
    # Insurance, won and lost.
    list("10S AD 9S KH", 0, 1.5, "push", players = player_insures()),
    list("10S AD 9S 8H", -0.5, 1.5, "loss", players = player_insures()),
    # Nobody looks: the second card comes last, and takes doubled stakes or one.
    list("6S 10D 5S 10C AH", -2, 2, "loss", hole_card = "unchecked_all_lost"),
    list("6S 10D 5S 10C AH", -1, 1, "loss", hole_card = "unchecked_stake_only"),
    list("6S 10D 5S 10C 9H", 2, 2, "win", hole_card = "unchecked_stake_only"),
    # Five cards win at once.
    list("2S 10D 3S 9H 2C 4D 5H", 1, 1, "win", players = player_stands_on(20), cards_that_win = 5)
  )
  for (case in cases) {
    found <- do.call(dealt_blackjack, c(case[1], case[-(1:4)]))
    info <- paste(names(case[-(1:4)]), case[[1]], collapse = " ")
    expect_equal(found$net, case[[2]], info = info)
    expect_equal(found$staked, case[[3]], info = info)
    expect_equal(found$result, case[[4]], info = info)
  }
  expect_equal(dealt_blackjack("10S 8D 6S 10H 10C", players = on17)$cards_used, 5)
  expect_equal(dealt_blackjack("8S 6D 8H 10H 10C 2D 9C 10S")$hands, 2)
})

test_that("thousands of rounds by random rules and strategies are those of a slow program", {
  withr::local_seed(17)
  for (i in 1:40) {
    house <- random_house()
    table <- random_table(house)
    strategy <- strategy_table(data.frame(hand = rownames(table), table, check.names = FALSE))
    rules <- house[names(house) != "insured"]
    game <- do.call(game_blackjack, c(rules, list(packs = 2, record = c("net", "staked", "result"), players = if (
      house$insured) player_insures(strategy) else strategy)))
    ours <- trials(game, i, 1:80)
    values <- habanera:::card_values(game$deck, "points", NULL)
    slow <- lapply(1:80, function(trial) plain_round(values[habanera:::game_deck(game, i, trial)], table, house))
    for (column in c("net", "staked", "result")) {
      expect_equal(ours[[column]], sapply(slow, `[[`, column), info = paste(i, column, deparse1(house)))
    }
  }
})

test_that("dealt late or in place, every chance gives one law, and simulation has it", {
  pack <- deck_standard(ranks = c("A", "5", "10"))
  cases <- list(list(most_hands = 2), list(hole_card = "unchecked_all_lost", surrender = "early", most_hands = 2),
                list(soft_17 = "hits", surrender = "late", double_on = "any_cards", most_hands = 3,
                     resplit_aces = TRUE))
  for (case in cases) {
    game <- function(player) do.call(game_blackjack, c(list(deck = pack, packs = 1, players = player), case))
    late <- exact(game(player_insures(player_basic())))
    in_place <- exact(game(player_mixture(list(player_insures(), player_insures()))))
    expect_equal(in_place$outcomes, late$outcomes)
    expect_equal(in_place$probability, late$probability, tolerance = 1e-12)
    found <- tidy(simulate(game(player_insures()), 2e4, seed = 3))
    law <- tidy(late)
    z <- (found$estimate - law$estimate[match(found$term, law$term)]) / found$std.error
    expect_true(all(abs(z) < standard_errors, na.rm = TRUE))
  }
})

test_that("in an endless shoe who plays as the dealer loses what both bust, less half the paid naturals", {
  chance <- c(rep(1 / 13, 9), 4 / 13)
  busts <- function(points, ace) {
    if (points > 21) return(1)
    total <- points + if (ace && points <= 11) 10 else 0
    if (total >= 17) return(0)
    sum(chance * vapply(1:10, function(value) busts(points + value, ace || value == 1), 0))
  }
  natural <- 2 * chance[1] * chance[10]
  expected <- -busts(0, FALSE)^2 + 0.5 * natural * (1 - natural)
  game <- game_blackjack(packs = Inf, players = player_as_dealer())
  expect_equal(tidy(house_edge(game))$estimate, -expected, tolerance = 1e-12)
  found <- tidy(house_edge(simulate(game, nsim = 4e5, seed = 5)))
  expect_lt(abs(found$estimate + expected), standard_errors * found$std.error)
})

test_that("rounds of a shoe have errors by shoe, which cover", {
  runs <- 150
  shoes <- 60
  game <- game_blackjack(packs = 1, cut_after = 30, players = "as_dealer", record = "net")
  found <- do.call(rbind, lapply(seq_len(runs), function(seed) tidy(simulate(game, shoes, seed = seed))[1, ]))
  # A standard deviation of so many estimates has a relative error of 1/sqrt(2 runs).
  expect_lt(abs(mean(found$std.error) / sd(found$estimate) - 1), standard_errors / sqrt(2 * runs))
})

test_that("strategies are read, written, drawn and compared, and slips in them told by row and column", {
  table <- as.data.frame(player_basic())
  basic <- strategy_table(table, "ours")
  csv <- withr::local_tempfile(fileext = ".csv")
  write_strategy(basic, csv)
  expect_equal(as.data.frame(strategy_table(csv)), table)
  # As read.csv() names its columns.
  expect_equal(as.data.frame(strategy_table(read.csv(csv, colClasses = "character"))), table)
  text <- withr::local_tempfile(fileext = ".txt")
  write_strategy(basic, text)
  expect_match(readLines(text)[2], "^hard 5 +H +H")
  expect_output(print(basic), "<strategy> ours")
  expect_equal(simulate(game_blackjack(players = csv), 1000, seed = 1)$n,
               simulate(game_blackjack(), 1000, seed = 1)$n)
  changed <- table
  changed[changed$hand == "hard 16", "10"] <- "S"
  differs <- compare(basic, strategy_table(changed))
  expect_equal(as.list(differs)[1:4], list(hand = "hard 16", up_card = "10", x = "R/H", y = "S"))
  expect_output(print(differs), "differ in 1 cell")
  with_entry <- function(hand, up, entry) {
    table[table$hand == hand, up] <- entry
    strategy_table(table)
  }
  # What cannot occur may lack; hard 4 plays as hard 5.
  odd <- game_blackjack(players = strategy_table(table, "a,b:c(=\u00e9"))
  kept <- withr::local_tempfile(fileext = ".json")
  write_result(simulate(odd, 200, seed = 1), kept)
  both <- c(read_result(kept), simulate(odd, 200, seed = 1, first_trial = 201))
  expect_equal(both$n, simulate(game_blackjack(), 400, seed = 1)$n)
  few <- strategy_table(table[!table$hand %in% c("hard 21", "soft 21", "pair 2"), ])
  expect_s3_class(game_blackjack(players = few), "habanera_game")
  expect_refusals(list(
    list(quote(with_entry("hard 16", "10", "X")), "input", "\"X\" in row \"hard 16\", column \"10\""),
    list(quote(with_entry("hard 16", "10", "")), "input", "row \"hard 16\", column \"10\" is missing"),
    list(quote(with_entry("hard 16", "10", "P")), "input", "only a pair is split"),
    list(quote(strategy_table(rbind(table, table[1, ]))), "input", "\"hard 5\" is there twice"),
    list(quote(strategy_table(transform(table, hand = "sixteen"))), "input", "not \"sixteen\""),
    list(quote(strategy_table(table[-1])), "input", "a column `hand`"),
    list(quote(strategy_table(cbind(table, `11` = "H"))), "input", "not \"11\""),
    list(quote(strategy_table(3)), "input", "must be a data frame"),
    list(quote(strategy_table("no-such.csv")), "file", "no-such.csv"),
    list(quote(game_blackjack(players = strategy_table(table[table$hand != "hard 16", ]))), "rules",
         "no row \"hard 16\""),
    list(quote(game_blackjack(players = strategy_table(table[names(table) != "7"]))), "rules", "column \"7\""),
    list(quote(game_blackjack(players = basic, most_hands = 1)), "rules", "nothing is split")
  ))
  expect_s3_class(game_blackjack(players = "basic", most_hands = 1), "habanera_game")
})

test_that("customers of all kinds sit down, and are kept in files", {
  same <- function(one, two, ...) {
    of <- function(player) simulate(game_blackjack(players = player, ...), 2000, seed = 4)[c("outcomes", "n")]
    expect_equal(of(one), of(two))
  }
  same(player_errs(player_basic(), 0), player_basic())
  same(player_mixture(list(player_basic(), player_basic())), player_basic())
  same(player_as_dealer(), player_stands_on(17))
  same(player_with(function(view, moves) if (view$total < 17) "hit" else "stand"), "stands_on:total=17",
       insurance = FALSE)
  # Whole shoes, too, with all that they add up to.
  by_function <- player_with(function(view, moves) if (view$total < 17) "hit" else "stand")
  shoes <- function(player) {
    simulate(game_blackjack(packs = 1, cut_after = 26, players = player, insurance = FALSE), 60, seed = 3)
  }
  expect_equal(tidy(shoes(by_function)), tidy(shoes("stands_on:total=17")))
  against <- function(player) {
    tidy(compare(game_blackjack(packs = 1, cut_after = 26, insurance = FALSE),
                 game_blackjack(packs = 1, cut_after = 26, players = player, insurance = FALSE), nsim = 60, seed = 3))
  }
  expect_equal(against(by_function), against("stands_on:total=17"))
  expect_output(print(shoes("as_dealer")), "A shoe holds [45][.0-9]+ rounds on average")
  soft <- player_with(function(view, moves) {
    if ("decline" %in% moves) return("decline")
    if (if (view$soft) view$total < 17 else view$total + 10 <= 21) "hit" else "stand"
  })
  same(soft, player_never_busts())
  players <- list(player_regular("ferryman"), player_errs(player_insures(player_stands_on(16)), 0.1),
                  player_mixture(list(player_basic(), player_errs(player_as_dealer(), 0.2)), c(1, 3)))
  game <- game_blackjack(seats = 3, players = players)
  counts <- simulate(game, 500, seed = 2)
  file <- withr::local_tempfile(fileext = ".json")
  write_result(counts, file)
  expect_identical(c(read_result(file), simulate(game, 500, seed = 2, first_trial = 501))$n,
                   simulate(game, 1000, seed = 2)$n)
  rules <- withr::local_tempfile(fileext = ".yaml")
  write_rules(game, rules)
  expect_equal(simulate(game_blackjack(rules = rules), 500, seed = 2)$n, counts$n)
  code <- habanera:::experiment_code(game)$r
  expect_equal(simulate(eval(str2lang(code)), 500, seed = 2)$n, counts$n)
  expect_equal(names(counts$outcomes)[c(1, 9)], c("net_1", "result_3"))
  expect_output(print(counts), "Seat 1 wins [0-9.]+% of the rounds.*Seat 3 wins")
  wrong <- function(f) simulate(game_blackjack(players = player_with(f), insurance = FALSE), 5, seed = 1)
  expect_refusals(list(
    list(quote(wrong(function(view, moves) "fold")), "function", "one of its moves (hit, stand and double)"),
    list(quote(wrong(function(view, moves) stop("oh"))), "function", "failed at choice 1"),
    list(quote(player_errs(player_basic(), 2)), "input", "from 0 to 1"),
    list(quote(player_mixture(list(player_basic()))), "input", "two players or more"),
    list(quote(player_mixture(list(player_basic(), player_random()), c(1, -1))), "input", "above 0"),
    list(quote(player_insures(player_full_memory())), "input", "a player by rule"),
    list(quote(game_blackjack(players = "full_memory")), "input", "`players` must be"),
    list(quote(game_blackjack(players = "errs")), "input", "needs `player`"),
    list(quote(game_blackjack(players = "strategy:cells=h5")), "input", "needs `name`"),
    list(quote(player_regular("sexton")), "input", "\"sexton\"")
  ))
})

test_that("side bets pay by the first two cards and the card shown", {
  bets <- list(suited = "ifelse(card_at(1, suit == \"hearts\") & card_at(2, suit == \"hearts\"), 12, 0)",
               alike = c("largest_group(rank) == 3" = 30, "largest_group(rank) == 2" = 2))
  game <- game_blackjack(packs = 2, side_bets = bets)
  found <- tidy(house_edge(simulate(
    game_blackjack(packs = 2, side_bets = bets, record = c("net", "suited", "alike")), nsim = 2e5, seed = 8)))
  expect_equal(found$term, c("main", "suited", "alike"))
  # Two of 26 hearts among 104; three of a rank, or two.
  hearts <- 26 * 25 / (104 * 103)
  three <- 7 * 6 / (103 * 102)
  two <- 3 * 7 * 96 / (103 * 102)
  exact <- c(1 - 12 * hearts, 1 - 30 * three - 2 * two)
  expect_true(all(abs(found$estimate[2:3] - exact) < standard_errors * found$std.error[2:3]))
  solved <- tidy(house_edge(game))[2:3, ]
  expect_equal(solved$estimate, exact, tolerance = 1e-12)
  expect_equal(solved$win_share, c(hearts, three + two), tolerance = 1e-12)
  expect_equal(solved$sd[1], 12 * sqrt(hearts * (1 - hearts)), tolerance = 1e-12)
  expect_named(trials(game_blackjack(side_bets = bets, record = c("net", "alike")), 1, 1:2), c("trial", "net", "alike"))
  expect_refusals(list(
    list(quote(game_blackjack(side_bets = list(a = "nonsense(3)"))), "language", "nonsense"),
    list(quote(game_blackjack(side_bets = list(net = "1"))), "rules", "an outcome already"),
    list(quote(game_blackjack(side_bets = list(a = "ifelse(count(rank == \"A\") > 1, \"x\", \"y\")"))), "rules",
         "0 to a million"),
    list(quote(game_blackjack(side_bets = list(a = "ifelse(count(rank == \"A\") > 1, 30, 3.14159265358979)"))), "rules",
         "`a` must be a fraction"),
    list(quote(game_blackjack(side_bets = list("total(points)"))), "input", "a name of its own"),
    list(quote(game_blackjack(side_bets = list(a = "0 - 1 * (count(rank == \"A\") > 0)"))), "rules", "0 to a million")
  ))
})

test_that("the table is called aloud", {
  trace <- replay(game_blackjack(deck = as_cards("8S 6D 8H 10H 10C 2D 9C 10S 7C 7D 7H"), packs = 1, shuffle = "none"),
                  seed = 1)
  said <- capture.output(print(trace))
  for (line in c("seat 1 gets .*: hard 8", "the dealer shows .*: hard 6", "the dealer lays a card face down",
                 "seat 1 splits \\(hard 16; could hit, stand or double\\)", "seat 1 gets .*: hard 18",
                 "seat 1 doubles \\(hard 10", "the dealer turns .*: hard 16", "the round: up 3",
                 "1 round, the player is up 3")) {
    expect_true(any(grepl(line, said)), info = line)
  }
  expect_equal(attr(trace, "outcome")$first_hand, "pair 8")
  expect_equal(attr(trace, "outcome")$dealer_total, "bust")
})

test_that("houses that cannot be are refused with the way out", {
  no_aces <- deck_standard(ranks = c("5", "6", "9", "10"))
  expect_refusals(list(
    list(quote(game_blackjack(most_hands = 2, resplit_aces = TRUE)), "rules", "`most_hands` of 3 or more"),
    list(quote(game_blackjack(surrender = "late", hole_card = "unchecked_all_lost")), "rules", "must be \"checked\""),
    list(quote(game_blackjack(deck = no_aces, insurance = TRUE)), "rules", "the pack has none"),
    list(quote(game_blackjack(cut_after = 310)), "rules", "Cut after 304 cards at most"),
    list(quote(game_blackjack(packs = Inf, cut_after = 50)), "rules", "no cut"),
    list(quote(game_blackjack(packs = Inf, shuffle = "riffle")), "rules", "no `shuffle`"),
    list(quote(game_blackjack(packs = 9)), "input", "from 1 to 8, or Inf"),
    list(quote(game_blackjack(deck = deck_from(demo_file("orchard.csv")), points_by = "rank")), "rules",
         "cards count 1 to 10"),
    list(quote(game_blackjack(dealer_stands_on = 25)), "rules", "up to `bust_over`"),
    list(quote(game_blackjack(seats = 2, players = list("basic", "basic", "basic"))), "rules", "3 players for 2 seats"),
    list(quote(game_blackjack(natural_pays = pi)), "rules", "must be a fraction"),
    list(quote(exact(game_blackjack())), "work", "more than 60 cards"),
    list(quote(exact(game_blackjack(packs = Inf))), "work", "endless")
  ))
  expect_s3_class(game_blackjack(deck = no_aces), "habanera_game")
  orchard <- deck_from(demo_file("orchard.csv"))
  expect_s3_class(simulate(game_blackjack(deck = orchard), 100, seed = 1), "habanera_counts")
  short <- game_blackjack(deck = deck_standard()[c(1:4, 14:17)], packs = 1, players = player_stands_on(20))
  expect_error(exact(short), "need more cards", class = "habanera_error_rules")
  expect_error(simulate(short, 100, seed = 1), "than there are[.] Take more packs", class = "habanera_error_rules")
})

test_that("blackjack in the shell, and the edge of a run", {
  csv <- withr::local_tempfile(fileext = ".csv")
  write_strategy(player_basic(), csv)
  ran <- run_words("play", "blackjack", "--set", "packs=2", "--player", csv, "--trials", "1000", "--seed", "1")
  expect_equal(ran$status, 0)
  expect_match(ran$out, "The player wins", all = FALSE)
  expect_equal(run_words("edge", "blackjack", "--player", "as_dealer", "--trials", "1000", "--seed", "1")$status, 0)
  expect_equal(run_words("replay", "blackjack", "--seed", "1", "--player", "never_busts")$status, 0)
  expect_equal(run_words("play", "blackjack", "--player", "no-such.csv")$status, 3)
  counts <- simulate(game_blackjack(), 1e4, seed = 1)
  expect_equal(tidy(house_edge(counts))$estimate, -tidy(counts)$estimate[1], tolerance = 1e-12)
  expect_error(house_edge(simulate(game_blackjack(record = "hands"), 10, seed = 1)), "records no `net`",
               class = "habanera_error_input")
  varied <- vary_rules(game_blackjack(), natural_pays = c(1.5, 1.2), nsim = 2000, seed = 1)
  expect_lt(varied$estimate[varied$term == "net"][2], varied$estimate[varied$term == "net"][1])
})

test_that("a card is worth what it is at the table, and players meet there", {
  impact <- card_impact(game_blackjack(packs = 1, players = "as_dealer"), "rank", nsim = 5e4, seed = 6)
  # By two cards of each rank the means are those of trials in which the seat was dealt so many of it.
  game <- game_blackjack(packs = 1, players = "as_dealer", record = "net")
  played <- trials(game, 6, 1:2000)
  aces <- vapply(1:2000, function(trial) {
    sum(card_attributes(game$deck[habanera:::game_deck(game, 6, trial)[c(1, 3)]])$rank == "A")
  }, 0)
  slow <- stats::lm(played$net ~ aces)
  few <- card_impact(game, "rank", nsim = 2000, seed = 6)
  expect_equal(few$estimate[few$value == "A"], unname(stats::coef(slow)[2]), tolerance = 1e-9)
  expect_equal(impact$value[1], "A")
  expect_output(print(impact), "changes the mean of net")
  met <- round_robin(game_blackjack(seats = 2, packs = 1), c("basic", "never_busts", "random"), nsim = 4000, seed = 2)
  found <- tidy(met)
  rows <- found[found$part == "player", ]
  expect_equal(rows$term[which.max(rows$estimate)], "basic")
  expect_lt(rows$conf.high[rows$term == "random"], rows$conf.low[rows$term == "basic"])
  # The mean of all line-ups, one by one.
  line_up <- function(one, two) {
    mean(trials(game_blackjack(seats = 2, packs = 1, players = c(one, two)), 2, 1:4000)$net_1)
  }
  by_hand <- mean(c(line_up("basic", "never_busts"), line_up("basic", "random"), line_up("never_busts", "basic"),
                    line_up("never_busts", "random"), line_up("random", "basic"), line_up("random", "never_busts")))
  expect_equal(found$estimate[found$term == "seat 1"], by_hand, tolerance = 1e-9)
  expect_output(print(met), "Of a stake basic has")
  expect_s3_class(ggplot2::autoplot(met), "ggplot")
  expect_refusals(list(
    list(quote(card_impact(game_blackjack(cut_after = 100))), "rules", "no `cut_after`"),
    list(quote(round_robin(game_blackjack(), c("basic", "random"))), "input", "with one seat use compare")
  ))
})
