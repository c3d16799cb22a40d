test_that("categories are those of the definitions, hand by hand", {
  withr::local_seed(3)
  deck <- deck_standard()
  data <- card_attributes(deck)
  places <- lapply(1:3000, function(i) sample(if (i %% 3) 52 else 13, 5))
  found <- hand_category(deck[unlist(places)], size = 5)
  by_hand <- vapply(places, function(at) plain_category(data$rank_high[at], data$suit[at]), "")
  expect_equal(as.character(found), by_hand)
  expect_true(is.ordered(found))
  expect_equal(levels(found)[c(1, 10)], c("high card", "five of a kind"))
  # Lists of cards and texts are the same hands.
  few <- places[1:20]
  expect_equal(hand_strength(lapply(few, function(at) deck[at])), hand_strength(deck[unlist(few)], size = 5))
  expect_equal(hand_strength(vapply(few, function(at) paste(deck[at], collapse = " "), "")),
               hand_strength(deck[unlist(few)], size = 5))
})

test_that("strengths compare by the cards that count, and places leave none out", {
  hands <- c("AS AD KC 9H 2S", "AH AC KD 9S 2D", "AS AD QC 9H 2S", "KS KD QH JC 9S", "2C 2D 2H 3S 4S")
  strength <- hand_strength(hands)
  expect_equal(strength[1], strength[2])
  expect_true(all(diff(strength[c(4, 3, 1, 5)]) > 0))
  expect_equal(hand_place(hands), c(3, 3, 2, 1, 4))
  # The wheel is the lowest straight; seven cards are worth their best five.
  expect_lt(hand_strength("AS 2D 3C 4H 5S"), hand_strength("2S 3D 4C 5H 6S"))
  expect_equal(hand_strength("AS KS QS JS 10S 2D 2C"), hand_strength("AH KH QH JH 10H"))
  expect_equal(as.character(hand_category("AS 2D 3C 4H 5S", hand_rules(ace = "high"))), "high card")
  expect_equal(as.character(hand_category("AS 2D 3C 4H 5S", hand_rules(ace = "low"))), "straight")
  expect_equal(as.character(hand_category("AS KD QC JH 10S", hand_rules(ace = "low"))), "high card")
})

test_that("rules move hands as they should", {
  short <- hand_rules(categories = c("straight flush", "four of a kind", "flush", "full house", "straight"))
  hands <- c("AS AD AC KH KS", "AS QS 9S 7S 6S")
  expect_equal(hand_place(hands), c(2, 1))
  expect_equal(hand_place(hands, short), c(1, 2))
  moved <- compare(hand_rules(), short, hands)
  expect_equal(moved$moved, c(-1, 1))
  expect_output(print(moved), "2 of 2 hands move")
  deuces <- hand_rules(wild = rank == "2")
  expect_equal(as.character(hand_category(c("2S 2D KC KH 9S", "2S 5H 6H 7H 8H"), deuces)),
               c("four of a kind", "straight flush"))
  wild <- quote(rank == "2")
  expect_equal(hand_rules(wild = wild), deuces)
  expect_equal(hand_rules(wild = "rank == \"2\""), deuces)
  jacks <- hand_rules(categories = c("pair of jacks or better", "high card"))
  expect_equal(as.character(hand_category(c("JS JD 2C 3H 4S", "10S 10D 2C 3H 4S"), jacks)),
               c("pair of jacks or better", "high card"))
  royal <- hand_rules(categories = c("royal flush", "straight flush"))
  expect_equal(as.character(hand_category(c("AS KS QS JS 10S", "KS QS JS 10S 9S"), royal)),
               c("royal flush", "straight flush"))
})

test_that("hands of ranks alone are compared as dealt, wild cards below all or as what they became", {
  # By hand: of one category the first card that differs decides.
  expect_equal(hand_place(c("33332", "2AAAA", "77888", "77788"), hand_rules(tie_break = "dealt_order")), c(4, 3, 2, 1))
  jokers <- hand_rules(tie_break = "dealt_order", wild = rank == "J", wild_counts_as = "lowest")
  expect_equal(as.character(hand_category(c("QJJQ2", "JKKK2"), jokers)), c("four of a kind", "four of a kind"))
  expect_equal(hand_place(c("QQQQ2", "JKKK2"), jokers), c(2, 1))
  # As what it became, the jack is a king.
  became <- hand_rules(tie_break = "dealt_order", wild = rank == "J")
  expect_equal(hand_place(c("QQQQ2", "JKKK2"), became), c(1, 2))
  expect_equal(hand_category("2 10 K K A"), hand_category("2TKKA"))
})

test_that("ties by the order dealt are broken card after card, in plain R", {
  set.seed(1)
  ranks <- c(2:10, "J", "Q", "K", "A")
  hands <- replicate(400, paste(sample(rep(ranks, 4), 5), collapse = " "))
  rules <- hand_rules(categories = c("four of a kind", "full house", "three of a kind", "two pair", "one pair"),
                      tie_break = "dealt_order")
  # One digit for the category, and one for each card as it came.
  slow <- vapply(strsplit(hands, " ", fixed = TRUE), function(hand) {
    rank <- match(hand, ranks)
    groups <- c(sort(as.vector(table(rank)), decreasing = TRUE), 0)
    category <- match(paste(groups[1:2], collapse = ""), c("11", "21", "22", "31", "32", "41"))
    category * 14^5 + sum(rank * 14^(4:0))
  }, 0)
  expect_equal(hand_place(hands, rules), match(slow, sort(unique(slow))))
})

test_that("ranks are neighbours when no card of the deck lies between", {
  short <- deck_standard(ranks = c("6", "7", "8", "9", "10", "J", "Q", "K", "A"))
  low <- "AS 6H 7C 8D 9S"
  expect_equal(as.character(hand_category(low, deck = short)), "straight")
  expect_equal(as.character(hand_category(low)), "high card")
  expect_equal(as.character(hand_category(low, hand_rules(ace = "high"), deck = short)), "high card")
  # The same 36 cards in a catalogue of one's own, and by the question language: one meaning.
  data <- cbind(card = as.character(short), card_attributes(short)[c("rank", "suit", "rank_high")])
  own <- new_cards(seq_len(36), new_catalogue(data, "cards of one's own"))
  expect_equal(category_odds(own, 5)$n, category_odds(short, 5)$n)
  asked <- exact(draws(short, 5, k = category()))
  expect_equal(asked$probability[asked$outcomes$k == "straight"], 6 * (4^5 - 4) / choose(36, 5), tolerance = 1e-9)
  # Every hand of a small deck with a gap, one by one: of 3, 4, 5, 9 and ace any neighbouring three.
  gap <- deck_standard(ranks = c("3", "4", "5", "9", "A"))
  rows <- list(c("3", "4", "5"), c("4", "5", "9"), c("5", "9", "A"), c("A", "3", "4"))
  hands <- utils::combn(20, 3)
  rank <- card_attributes(gap)$rank
  suit <- card_attributes(gap)$suit
  in_row <- apply(hands, 2, function(hand) any(vapply(rows, setequal, NA, rank[hand])))
  one_suit <- apply(hands, 2, function(hand) length(unique(suit[hand])) == 1)
  odds <- category_odds(gap, 3)
  expect_equal(odds$n[match(c("straight flush", "straight"), odds$category)],
               c(sum(in_row & one_suit), sum(in_row & !one_suit)))
  # A royal flush is the highest of the deck, and a wild card becomes what the deck has.
  queens <- deck_standard(ranks = c("8", "9", "10", "J", "Q"), jokers = 1)
  royal <- hand_rules(categories = c("royal flush", "straight flush", "flush"), wild = rank == "joker")
  expect_equal(as.character(hand_category("8S 9S 10S JS QS", royal, deck = queens)), "royal flush")
  explained <- explain_hand("JOKER 8S 9S 10S JS", hand_rules(wild = rank == "joker"), deck = queens)
  expect_match(explained$counting, "as QS", all = FALSE)
  expect_output(print(category_odds(size = 1)), "All 52 hands are high card")
  machine <- game_video_poker(deck = short)
  drawn <- simulate(machine, 3000, seed = 1)
  expect_gt(sum(drawn$n[drawn$outcomes$category == "straight"]), 0)
})

test_that("counts of categories are those of the textbooks, by every variation", {
  n <- function(...) rlang::set_names(category_odds(...)$n, category_odds(...)$category)
  expect_equal(unname(n()), c(0, 40, 624, 3744, 5108, 10200, 54912, 123552, 1098240, 1302540))
  # Best five of seven, and of six.
  expect_equal(unname(n(size = 7)),
               c(0, 41584, 224848, 3473184, 4047644, 6180020, 6461620, 31433400, 58627800, 23294460))
  expect_equal(sum(n(size = 6)), choose(52, 6))
  # Three cards: a straight is rarer than a flush.
  expect_equal(unname(n(size = 3)), c(48, 1096, 720, 52, 3744, 16440))
  # With a joker: 13 fives of a kind, and 204 straight flushes with the royal ones.
  joker <- n(deck_standard(jokers = 1), rules = hand_rules(wild = rank == "joker"))
  expect_equal(unname(joker), c(13, 204, 3120, 6552, 7804, 20532, 137280, 123552, 1268088, 1302540))
  # 36 cards, 6 to ace: rows from the ace below the six to the ten are 6, of 4 suits; 9 x 32 fours of a kind.
  short <- n(deck_standard(ranks = c("6", "7", "8", "9", "10", "J", "Q", "K", "A")))
  expect_equal(short[["straight flush"]], 6 * 4)
  expect_equal(short[["four of a kind"]], 288)
  expect_equal(short[["straight"]], 6 * (4^5 - 4))
  expect_equal(sum(short), choose(36, 5))
  # Two packs: five of a kind of eight cards of a rank; a flush of 26 cards.
  two <- n(deck_standard(packs = 2))
  expect_equal(two[["five of a kind"]], 13 * choose(8, 5))
  expect_equal(two[["flush"]] + two[["straight flush"]], 4 * choose(26, 5))
  expect_equal(sum(two), choose(104, 5))
  expect_equal(n(size = 7, threads = 1), n(size = 7, threads = 2))
  # The orchard's 44 cards, against every hand judged by the evaluator.
  orchard <- deck_from(demo_file("orchard.csv"))
  hands <- utils::combn(44, 3)
  rules <- hand_rules(size = 3, rank_by = "rank")
  one_by_one <- table(hand_category(orchard[as.vector(hands)], rules, size = 3))
  counted <- category_odds(orchard, 3, rules)
  expect_equal(counted$n, as.vector(rev(one_by_one)))
})

test_that("of no hands there is nothing to tell", {
  expect_equal(length(hand_category(character())), 0)
  expect_equal(hand_place(list()), integer())
  expect_equal(nrow(rank_hands(character())), 0)
  expect_equal(nrow(compare(hand_rules(), hand_rules(), character())), 0)
})

test_that("a hand is explained", {
  found <- explain_hand("2C 2D 9H 2S KD", hand_rules(wild = rank == "2"))
  expect_equal(found$category, "four of a kind")
  expect_equal(sum(grepl("as K", found$counting)), 3)
  expect_output(print(found), "Four of a kind: 2C as K")
  plain <- explain_hand("AS KS QS JS 10S 2D 3C")
  expect_setequal(plain$counting, c("AS", "KS", "QS", "JS", "10S"))
})

test_that("rules are data, and come from files", {
  file <- withr::local_tempfile(fileext = ".yaml")
  writeLines(c("size: 3", "categories: [straight flush, three of a kind, straight, flush, one pair]",
               "wild: rank == \"2\"", "ace: high"), file)
  rules <- hand_rules(3, c("straight flush", "three of a kind", "straight", "flush", "one pair"), rank == "2", "high")
  expect_equal(hand_category("KS KD 2C", file), hand_category("KS KD 2C", rules))
  expect_output(print(rules), "wild: rank == \"2\"")
  expect_output(print(rank_hands(c("KS KD 2C", "3S 4D 5C"), rules)), "Of 2 hands the best is KS KD 2C")
})

test_that("what is no hand and no rule is told", {
  expect_refusals(list(
    list(quote(hand_rules(categories = "four of kind")), "input", "did you mean \"four of a kind\""),
    list(quote(hand_rules(size = 3, categories = "full house")), "input", "needs 5 cards; 3 count"),
    list(quote(hand_rules(categories = c("high card", "flush"))), "input", "must be the last"),
    list(quote(hand_rules(wild = no_such_thing)), "language", "`wild` cannot be found"),
    list(quote(hand_rules(size = 10)), "input", "`size` must be a whole number"),
    list(quote(hand_category("AS KS", hand_rules(wild = rank == "1"))), "input", "holds for no card"),
    list(quote(hand_category("AS KS", hand_rules(wild = colour == "red"))), "language", "colour"),
    list(quote(hand_category("AS AS KD QC JH")), "conservation", "Hand 1 has \"AS\" 2 times"),
    list(quote(hand_category(c("AS KS", "AS 1S"))), "notation", "Hand 2: Unknown card \"1S\""),
    list(quote(hand_category(deck_standard())), "input", "52 cards; hands have 1 to 9"),
    list(quote(hand_category(deck_standard(), size = 5)), "input", "52 cards do not make hands of 5"),
    list(quote(hand_category("JOKER AS KS QS JS")), "input", "\"JOKER\" has no rank; say what is wild"),
    list(quote(hand_category(list(deck_standard()[1:5], 7))), "input", "Hand 2 must be cards"),
    list(quote(hand_category("AS KS", hand_rules(rank_by = "worth"))), "input", "`rank_by` must name"),
    list(quote(hand_category("AS KS", hand_rules(categories = "pair of 17 or better"))), "input", "the rank \"17\""),
    list(quote(category_odds(size = 10)), "input", "`size` must be a whole number"),
    list(quote(category_odds(deck_numbered(60), 5)), "input", "at most 32 ranks"),
    list(quote(category_odds(deck_standard(packs = 2), 8)), "work", "different hands to count"),
    list(quote(explain_hand(c("AS", "KS"))), "input", "One hand is explained")
  ))
})

test_that("the shell ranks the hands of a file and counts categories", {
  file <- withr::local_tempfile()
  writeLines(c("# the hall's prizes", "AS KS QS JS 10S", "", "2C 2D 7H 7S KD # a note", "5C 4D 3H 2S AD"), file)
  ran <- run_words("hands", file)
  expect_equal(ran$status, 0)
  expect_match(ran$out, "Of 3 hands the best is AS KS QS JS 10S", all = FALSE)
  table <- utils::read.csv(text = run_words("hands", file, "--wild", "rank == \"2\"", "--format", "csv")$out,
                           comment.char = "#")
  expect_equal(table$category, c("straight flush", "four of a kind", "straight"))
  expect_match(run_words("category-odds", "--size", "3")$out, "22,100 hands", all = FALSE)
  expect_equal(run_words("hands")$status, 2)
  expect_equal(run_words("category-odds", "--categories", "flsh")$status, 2)
})
