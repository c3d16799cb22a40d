short <- deck_standard(ranks = c("9", "10", "J", "Q", "K", "A"))

# What a hand of three is worth by a pay table, in plain R: ranks and suits as numbers, `all` the ranks of the deck, of
# which those are neighbours that have none between.
pay_by_hand <- function(ranks, suits, pays, all) {
  flush <- length(unique(suits)) == 1
  straight <- length(unique(ranks)) == 3 && diff(range(match(ranks, sort(unique(all))))) == 2
  most <- max(table(ranks))
  if (most == 3) return(pays[["three of a kind"]])
  if (flush && straight) return(pays[["straight flush"]])
  if (straight) return(pays[["straight"]])
  if (flush) return(pays[["flush"]])
  if (most == 2) pays[["one pair"]] else 0
}

three_card_pays <- c(`three of a kind` = 20, `straight flush` = 16, straight = 4, flush = 2, `one pair` = 1)

test_that("the best play of a small machine is that of every hand, keep and draw in plain R", {
  deck <- deck_standard(ranks = c("3", "4", "5", "7"), suits = c("clubs", "hearts", "spades"))
  rank <- card_attributes(deck)$rank_high
  suit <- card_attributes(deck)$suit
  hands <- utils::combn(length(deck), 3)
  pay <- apply(hands, 2, function(hand) pay_by_hand(rank[hand], suit[hand], three_card_pays, rank))
  worth <- function(hand, kept) {
    fits <- colSums(matrix(hands %in% kept, 3)) == length(kept) &
      colSums(matrix(hands %in% setdiff(hand, kept), 3)) == 0
    mean(pay[fits])
  }
  keeps <- function(hand) c(list(integer()), unlist(lapply(1:3, function(k) utils::combn(hand, k, simplify = FALSE)),
                                                    recursive = FALSE))
  best <- apply(hands, 2, function(hand) max(vapply(keeps(hand), function(kept) worth(hand, kept), 0)))
  game <- game_video_poker(three_card_pays, deck = deck, cards = 3, ace = "high")
  expect_equal(tidy(best_strategy(game))$estimate[1], mean(best), tolerance = 1e-12)
  hand <- hands[, 100]
  advice <- advise(game, deck[hand])
  by_hand <- vapply(keeps(hand), function(kept) worth(hand, kept) - 1, 0)
  names(by_hand) <- vapply(keeps(hand), function(kept) {
    if (length(kept)) paste("keep", paste(as.character(deck[kept]), collapse = " ")) else "keep nothing"
  }, "")
  expect_equal(advice$expected, unname(by_hand[advice$move]), tolerance = 1e-12)
  expect_equal(advice$best, advice$expected > max(by_hand) - 1e-9)
})

test_that("known pay tables return what is known of them", {
  # Returns in per cent as they are in print; the deck with a joker has none in print for this table.
  known <- list(
    list(NULL, NULL, 99.5439),
    list(c(`natural royal flush` = 800, `four wild cards` = 200, `royal flush` = 25, `five of a kind` = 15,
           `straight flush` = 9, `four of a kind` = 5, `full house` = 3, flush = 2, straight = 2,
           `three of a kind` = 1), "rank == '2'", 100.7620),
    list(c(`royal flush` = 800, `straight flush` = 50, `four of A` = 80, `four of 2 to 4` = 40, `four of a kind` = 25,
           `full house` = 8, flush = 5, straight = 4, `three of a kind` = 3, `two pair` = 2,
           `pair of jacks or better` = 1), NULL, 99.1660)
  )
  for (table in known) {
    best <- best_strategy(game_video_poker(table[[1]], wild = table[[2]]))
    found <- rlang::set_names(tidy(best)$estimate, tidy(best)$term)
    expect_equal(round(100 * found[["return_to_player"]], 4), table[[3]])
    lines <- as.data.frame(best)
    expect_equal(sum(lines$probability), 1, tolerance = 1e-12)
    expect_equal(sum(lines$contribution), found[["return_to_player"]], tolerance = 1e-12)
    expect_equal(found[["hit_frequency"]], sum(lines$probability[lines$pays > 0]), tolerance = 1e-12)
  }
  expect_output(print(best_strategy(game_video_poker())), "It returns 99.5439%")
})

test_that("exact and simulated agree for random pay tables, players and decks", {
  withr::local_seed(31)
  lists <- list(player_solved(), player_random(),
                keep_rules("three of a kind", "four to a flush", "any pair", "two suited cards of J or better"))
  for (round in 1:3) {
    lines <- setdiff(names(habanera:::hand_categories), c("one pair", "high card", "royal flush"))
    pays <- rlang::set_names(sort(sample(2:40, 8), decreasing = TRUE), lines)
    game <- game_video_poker(c(pays, `pair of Q or better` = 1), deck = c(short, deck_standard(jokers = 1)[53]),
                             wild = "rank == 'joker'", players = lists[[round]], record = c("net", "kept"))
    exactly <- tidy(exact(game))[1:2, ]
    found <- tidy(simulate(game, 2e4, seed = round))[1:2, ]
    expect_true(all(abs(found$estimate - exactly$estimate) < standard_errors * found$std.error))
  }
})

test_that("the edges of many pay tables at once are those one by one", {
  set.seed(5)
  games <- list(game_video_poker(three_card_pays, deck = short, cards = 3),
                game_video_poker(c(`straight flush` = 20, `three of a kind` = 9, straight = 4, flush = 3,
                                   `pair of kings or better` = 1),
                                 deck = deck_standard(ranks = c("9", "10", "J", "Q", "K", "A"), jokers = 1),
                                 wild = "rank == 'joker'", cards = 3))
  for (game in games) {
    lines <- names(game$rules$pays)
    tables <- lapply(1:12, function(i) rlang::set_names(sample(1:20, length(lines), TRUE) / sample(1:2, 1), lines))
    varied <- vary_rules(game, pays = tables, of = "edge")
    one_by_one <- vapply(tables, function(pays) tidy(house_edge(change_rules(game, pays = pays), nsim = 1))$estimate[1],
                         0)
    expect_equal(varied$estimate, one_by_one, tolerance = 1e-12)
    # On several processes the same, and where somebody plays otherwise, or the cards differ, one by one.
    changed <- lapply(rep(tables, 45), function(pays) change_rules(game, pays = pays))
    expect_equal(video_poker_edges(changed, 2), rep(one_by_one, 45), tolerance = 1e-12)
  }
  expect_null(video_poker_edges(games, 1))
  expect_null(video_poker_edges(list(change_rules(games[[1]], players = player_random())), 1))
})

test_that("lines of what is kept do as they say", {
  game <- function(...) game_video_poker(deck = deck_standard(), players = keep_rules(...))
  # What of a hand is kept, by the replay of a trial in which it is dealt.
  keeps <- function(line, hand) {
    made <- game(line)
    spec <- made$spec$rules
    kinds <- match(habanera:::codes_of(as_cards(hand)), habanera:::kinds_of(made$deck)$codes)
    deck <- c(kinds, setdiff(seq_along(made$deck), kinds))
    steps <- habanera:::core_replay_game(habanera:::game_machine(made), deck, 1, 1, 0)$steps
    kept <- steps$cards[[which(steps$action == 1)]]
    paste(habanera:::kinds_of(made$deck)$cards[kept], collapse = " ")
  }
  cases <- list(
    c("pair of jacks or better", "JS 3D JH 3C 9S", "JS JH"), c("pair of jacks or better", "3S 3D JH 4C 9S", ""),
    c("any pair", "3S 3D JH 4C 9S", "3S 3D"), c("high pair", "3S 3D QH QC 9S", "QH QC"),
    c("two pair", "3S 3D QH QC 9S", "3S 3D QH QC"), c("full house", "3S 3D QH QC QS", "3S 3D QH QC QS"),
    c("four to a flush", "2S 9S JH KS 4S", "2S 9S KS 4S"), c("three to a royal flush", "2D 10S JH KS AS", "10S KS AS"),
    c("four to an open straight", "4D 5S 6H 7C KD", "4D 5S 6H 7C"), c("four to an open straight", "AD 2S 3H 4C KD", ""),
    c("four to an inside straight", "AD 2S 3H 4C KD", "AD 2S 3H 4C"),
    c("three to a straight flush", "4D 6D 8D KS 2C", "4D 6D 8D"),
    c("two suited cards of J or better", "QS KS JH AD 2S", "QS KS"),
    c("one card of Q or better", "QS KH JH 3D 2S", "KH"),
    c("four of A", "AS AH AD AC 2S", "AS AH AD AC"), c("nothing", "AS AH AD AC 2S", ""),
    c("kept == 3 & distinct(suit) == 3 & count(rank == 'A') == 0", "AS 3S 4S 5D 6C", "4S 5D 6C")
  )
  for (case in cases) expect_equal(keeps(case[1], case[2]), case[3], info = case[1])
})

test_that("a list of what is kept plays as the same list in plain R", {
  ranks <- c("9", "10", "J", "Q", "K", "A")
  lines <- c("four of a kind", "full house", "three of a kind", "four to a flush", "two pair", "high pair",
             "four to an open straight", "any pair", "two suited cards of J or better", "one card of K or better")
  # Of several ways the one of the highest cards, then the first.
  highest <- function(ways, value) {
    if (!length(ways)) return(NULL)
    worth <- vapply(ways, function(way) sum(sort(value[way], decreasing = TRUE) * 100^(rev(seq_along(way)) - 1)), 0)
    ways[[which.max(worth)]]
  }
  keeps <- function(view, moves) {
    value <- match(view$rank, ranks)
    suit <- view$suit
    times <- table(value)
    of <- function(size, holds) highest(Filter(holds, utils::combn(5, size, simplify = FALSE)), value)
    of_times <- function(n) as.numeric(names(times)[times == n])
    if (max(times) == 4) return(which(value == of_times(4)))
    if (length(times) == 2) return(1:5)
    if (max(times) == 3) return(which(value == of_times(3)))
    flush <- of(4, function(way) length(unique(suit[way])) == 1)
    if (!is.null(flush)) return(flush)
    pairs <- of_times(2)
    if (length(pairs) == 2 || any(pairs >= 3)) return(which(value %in% pairs))
    open <- of(4, function(way) {
      held <- sort(value[way])
      completes <- function(other) {
        row <- sort(c(held, other))
        all(diff(row) == 1) || setequal(row, c(6, 1:4))
      }
      !anyDuplicated(held) && sum(vapply(setdiff(1:6, held), completes, NA)) >= 2
    })
    if (!is.null(open)) return(open)
    if (length(pairs)) return(which(value == pairs))
    suited <- of(2, function(way) suit[way[1]] == suit[way[2]] && all(value[way] >= 3))
    if (!is.null(suited)) return(suited)
    single <- of(1, function(way) value[way] >= 5)
    if (is.null(single)) integer() else single
  }
  game <- function(player) {
    game_video_poker(deck = deck_standard(ranks = ranks), players = player, record = c("net", "kept", "dealt"))
  }
  by_list <- trials(game(keep_rules(lines)), 1, 1:2000)
  expect_equal(as.data.frame(trials(game(player_with(keeps, "in plain R")), 1, 1:2000)), as.data.frame(by_list))
  expect_setequal(by_list$kept, 1:5)
})

test_that("what mistakes cost adds up to what the player has less, whoever he is", {
  list_player <- keep_rules(paste("four of a kind; three of a kind; high pair; four to a flush; any pair;",
                                  "one card of J or better"))
  simple <- player_with(function(view, moves) which(view$rank %in% c("A", "K")), "aces and kings")
  game <- game_video_poker(deck = short)
  best <- tidy(house_edge(game))$estimate
  found <- mistakes(game, list_player)
  expect_equal(sum(found$loss), tidy(house_edge(game, list_player))$estimate - best, tolerance = 1e-10)
  expect_equal(found$loss, found$cost * found$how_often, tolerance = 1e-12)
  expect_false(is.unsorted(-found$loss))
  own <- mistakes(game, simple)
  edge <- tidy(house_edge(simulate(change_rules(game, players = simple), 4000, seed = 6)))
  expect_lt(abs(best + sum(own$loss) - edge$estimate), standard_errors * edge$std.error)
  expect_output(print(own), "aces and kings")
  expect_equal(nrow(mistakes(game, player_solved())), 0)
  # The examples are what is said of them.
  row <- found[1, ]
  advice <- advise(game, row$hand)
  expect_equal(advice$move[1], row$should)
  expect_true(row$kept %in% advice$move)
})

test_that("a jackpot favours the player from the size at which its edge is nothing", {
  game <- game_video_poker(c(`royal flush` = 30, `straight flush` = 12, `four of a kind` = 8, `full house` = 2,
                             flush = 3, straight = 1, `three of a kind` = 1), deck = short)
  found <- price_for(game, edge = 0, lines = "royal flush", whole = FALSE)
  at <- found[["royal flush"]][which.min(abs(found$off))]
  whole <- price_for(game, edge = 0, lines = "royal flush")
  expect_equal(whole[["royal flush"]], round(whole[["royal flush"]]))
  expect_true(all(diff(abs(whole$off)) >= 0))
  edge_at <- function(pay) {
    pays <- rules(game)$pays
    pays[["royal flush"]] <- pay
    tidy(house_edge(change_rules(game, pays = pays)))$estimate
  }
  # A thousandth of the pay is what it is solved to.
  expect_lt(abs(found$edge[1]), 1e-3 * (edge_at(floor(at)) - edge_at(floor(at) + 1)))
  expect_gt(edge_at(floor(at)), 0)
  expect_lt(edge_at(ceiling(at)), 0)
  expect_equal(whole$edge[1], edge_at(whole[["royal flush"]][1]), tolerance = 1e-10)
  two <- price_for(game, edge = 0.03, lines = c("flush", "full house"))
  expect_true(all(c("flush", "full house", "edge", "off") %in% names(two)))
  expect_equal(two$off, two$edge - 0.03, tolerance = 1e-12)
})

test_that("pay tables come from files, with what is wrong in them", {
  yaml <- withr::local_tempfile(fileext = ".yaml")
  writeLines(c("royal flush: 800", "straight flush: 50", "four of a kind: 25", "full house: 8", "flush: 5",
               "straight: 4", "three of a kind: 3", "two pair: 2", "pair of jacks or better: 1"), yaml)
  csv <- withr::local_tempfile(fileext = ".csv")
  read <- rules(game_video_poker(yaml))$pays
  write.csv(data.frame(line = names(read), pays = read), csv, row.names = FALSE)
  expect_equal(rules(game_video_poker(csv))$pays, rules(game_video_poker(yaml))$pays)
  expect_equal(rules(game_video_poker(yaml))$pays[["full house"]], 8)
  kept <- withr::local_tempfile(fileext = ".yaml")
  # A table without a line for five of a kind, where there can be five, is warned of whenever it is read.
  expect_warning(write_rules(game_video_poker(yaml, wild = "rank == '2'"), kept), "five of a kind")
  expect_warning(again <- game("video_poker", rules = kept), "five of a kind")
  expect_equal(rules(again)$wild, "rank == \"2\"")
  expect_warning(game_video_poker(c(flush = 6, straight = 4, `one pair` = 1)), "no line for straight flush",
                 class = "habanera_warning_pays")
  order <- c(flush = 2, `straight flush` = 40, `four of a kind` = 9, `full house` = 8)
  expect_warning(game_video_poker(order), "\"straight flush\" pays more than \"flush\"",
                 class = "habanera_warning_pays")
  expect_warning(taken <- game_video_poker(rules = hand_rules(wild = rank == "2", ace = "high")), "five of a kind")
  expect_equal(rules(taken)[c("wild", "ace")], list(wild = "rank == \"2\"", ace = "high"), ignore_attr = TRUE)
})

test_that("a round is told step by step, and its shares by line", {
  trace <- replay(game_video_poker(), seed = 1)
  expect_output(print(trace), "is paid|is not paid")
  law <- exact(game_video_poker(deck = short, record = c("category", "kept")))
  expect_output(print(law), "Something is paid in")
  expect_true("nothing" %in% law$outcomes$category)
})

test_that("what no machine can be is refused, and how", {
  game <- game_video_poker(deck = short)
  expect_refusals(list(
    list(quote(game_video_poker(c(pear = 2))), "input", "no category \"pear\""),
    list(quote(game_video_poker(c(flush = -1))), "input", "numbers of 0 or more"),
    list(quote(game_video_poker(5)), "input", "by the names of categories"),
    list(quote(game_video_poker("none.yaml")), "file", "none.yaml"),
    list(quote(game_video_poker(c(`high card` = 1, flush = 5))), "input", "must be the last line"),
    list(quote(game_video_poker(deck = deck_standard()[1:8])), "rules", "too small for a hand"),
    list(quote(game_video_poker(deck = deck_standard(packs = 2))), "rules", "hands to go through"),
    list(quote(game_video_poker(deck = deck_standard(jokers = 1))), "input", "has no rank; say what is wild"),
    list(quote(advise(game, "JS QS KS AS")), "input", "must be the 5 cards of a hand"),
    list(quote(advise(game, "JS QS KS AS JS")), "conservation", "JS"),
    list(quote(advise(game, "JS QS KS AS 2S")), "conservation", "2S"),
    list(quote(advise(game, "JS QS KS AS 9S", "9D")), "input", "no `up_card`"),
    list(quote(keep_rules("fuor to a flush")), "input", "did you mean \"four to a flush\"?"),
    list(quote(keep_rules()), "input", "needs a line"),
    list(quote(keep_rules("three to an open straight")), "input", "open and inside are told of four cards"),
    list(quote(game_video_poker(deck = short, players = keep_rules("one card of 1 or better"))), "rules",
         "no card of the deck has the rank \"1\""),
    list(quote(game_video_poker(deck = short, players = keep_rules("kept == 2 & pips > 3"))), "language", "pips"),
    list(quote(price_for(game, lines = "pear")), "input", "`lines` must name"),
    list(quote(price_for(game, edge = 0.99999, lines = "flush")), "input", "No pay of \"flush\""),
    list(quote(best_strategy(game_high_card())), "input", "Blackjack, The narrows and Pay-table poker have"),
    list(quote(trials(change_rules(game, players = player_with(function(view, moves) 9)), 1, 1)), "function",
         "places of the cards that are kept")
  ))
})
