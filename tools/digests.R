# Some thousand calls of all kinds, and of each a digest of what it answers, kept in tools/digests.csv. What is made
# faster or redrawn must give the same bits: games with every rule set to something else and many rules at once,
# draws, shuffles, audits, hands, exact answers, replays, and what the examples of the help print.
#
#   make digests                 tells which calls answer otherwise than is kept; status 1 if any does
#   KEEP=1 make digests          keeps what they answer now
#   ONLY=blackjack make digests  those with this in their words, and no others
library(habanera)
options(width = 100, cli.num_colors = 1, habanera.progress = FALSE)
kept_file <- "tools/digests.csv"

# Of each kind what each rule may be besides its default, as it is written in a call.
settings <- list(
  war = c("deck = deck_numbered(8)", "deck = deck_standard(ranks = 7:9)", "seats = 3", "seats = 4", "cards_each = 5",
          "deal_pattern = 'block'", "rank_by = 'rank_low'", "take_from = 'bottom'", "scoring = 'points'",
          "collect = 'loser_first'", "collect = 'seat_order'", "collect = 'shuffled'", "tie = 'split'",
          "tie = 'discard'", "tie = 'seat', tie_seat = 2", "tie = 'nothing'", "face_down = 0", "face_down = 1",
          "face_down = 7", "if_short = 'loses'", "repetition = 'seat_1'", "repetition = 'tied'", "inner_game = TRUE",
          "max_rounds = 50, at_limit = 'most_cards'", "shuffle = shuffle_riffle(2)"),
  pairs = c("pairs = 3", "pairs = 26", "seats = 1", "seats = 3", "seats = 6", "grid = c(5, 6)", "again = FALSE",
            "deck = deck_standard(), match_by = 'rank'", "players = 'careful'", "players = 'random'",
            "players = 'forgetful'", "players = list('full_memory', player_forgetful(0.4))",
            "players = list(player_forgetful(1, span = 4), 'random')", "pairs = 4, players = c('lookahead', 'random')",
            "pairs = 4, players = c('solved', 'careful')", "shuffle = shuffle_overhand(3)"),
  blackjack = c("packs = 1", "packs = 2", "packs = 8", "packs = Inf", "deck = deck_standard(ranks = c(2:9, 'A'))",
                "bust_over = 18, dealer_stands_on = 14", "seats = 3", "seats = 7", "players = 'as_dealer'",
                "players = 'never_busts'", "players = player_stands_on(15)", "players = 'random'",
                "players = player_errs(player_basic(), 0.2)", "players = 'insures'",
                "players = player_mixture(list(player_basic(), player_as_dealer()), weights = c(0.7, 0.3))",
                "soft_17 = 'hits'", "dealer_stands_on = 16", "natural_pays = 1.2", "ties = 'dealer'",
                "hole_card = 'unchecked_all_lost'", "hole_card = 'unchecked_stake_only'", "double_on = '9_to_11'",
                "double_on = '10_11'", "double_on = 'any_cards'", "double_on = 'none'", "double_after_split = FALSE",
                "most_hands = 1", "most_hands = 3", "split_by = 'rank'", "split_aces = 'play_on'",
                "resplit_aces = TRUE",
                "surrender = 'late'", "surrender = 'early'", "insurance = FALSE", "cards_that_win = 5", "stake = 5",
                "side_bets = list(pair = c('largest_group(rank) == 2' = 11))", "cut_after = 0.75", "cut_after = 40",
                "burn = 3", "cut_after = 0.6", "cut_after = 0.8, shoes = 3, collected = 'in_order'",
                "cut_after = 0.75, players = player_counting()",
                "cut_after = 0.7, players = player_counting(bets = c('0' = 1, '1' = 2, '2' = 8), insurance_at = 3)",
                "cut_after = 0.7, players = player_counting(bets = c('0' = 1, '1' = 4), deviations = 'h16_10_0__S')",
                "cut_after = 0.7, seats = 2, players = list(player_counting(), 'basic')",
                "shuffle = shuffle_riffle(3)"),
  baccarat = c("packs = 1", "packs = 6", "dead = '5S 5H 6D'", "natural_from = 7",
               "points_by = 'rank_low', natural_from = 6", "player_pays = 2",
               "banker_commission = 0", "banker_six_pays = 0.5", "tie_pays = 9", "bet_on = 'player'", "bet_on = 'tie'",
               "side_bets = list(pair = c('opening(player, largest_group(rank) == 2)' = 11))",
               paste("side_bets = list(wide = c('margin >= 7' = 9),",
                     "six = c(\"winner == 'banker' & banker_total == 6\" = 12))"),
               "cut_after = 0.75", "cut_after = 30", "burn = 5",
               "cut_after = 0.8, shoes = 2, collected = 'in_order'", "cut_after = 0.75, players = 'counting'",
               "deck = deck_standard(ranks = c('A', 2:9))", "shuffle = shuffle_riffle(2)"),
  high_card = c("packs = 2", "packs = 6", "dead = 'AS AH'", "rank_by = 'rank_low'", "ties = 'half_back'",
                "ties = 'push'", "ties = 'again'", "pays = 1.5", "colour_bet = \"rank_high < 8\"",
                "colour_bet = \"rank_high < 8\", colour_pays = 0.95", "suit_bet = \"suit == 'hearts'\"",
                "suit_bet = \"suit == 'hearts'\", suit_pays = 2.5", "cut_after = 0.5", "cut_after = 20", "burn = 2",
                "packs = 6, cut_after = 0.8, shoes = 2, collected = 'in_order'",
                "packs = 2, cut_after = 0.7, players = 'counting'",
                "deck = deck_standard(ranks = 2:9)", "shuffle = shuffle_overhand(4)"),
  video_poker = c("ace = 'high'", "cards = 3, pays = c('three of a kind' = 10, flush = 5, 'one pair' = 1)",
                  "players = 'random'", "players = keep_rules('four of a kind', 'two pair', 'any pair')",
                  paste("deck = deck_standard(jokers = 1), wild = \"rank == 'joker'\",",
                        "pays = c('five of a kind' = 200, flush = 5)"),
                  "pays = c('full house' = 8, flush = 5, 'pair of jacks or better' = 1)"),
  narrows = c("goes_on_to = 5", "goes_on_to = 9", "raise = 2", "given_up = 0.5", "pair_pays = 2",
              "rank_by = 'rank_low'"),
  betting = c("rules = 'one card, one bet'", "rules = 'one card, two streets'",
              "rules = 'all in or fold', players = 'calls_all'", "seats = 3, blinds = c(1, 2)", "ante = 2",
              "stacks = c(30, 45)", "players = 'calls_all'",
              "players = player_by_rules('raise if holds(\"any pair\")', 'call if to_call < pot / 2')",
              "streets = list(street(bets = 'pot', most_bets = 3), street(shared = 3, bets = c('1/2 pot', 'all in')))",
              "board = 'KS 8H 3D', pot = 10", "holdings = list('pair of 9 or better', NULL)",
              "shuffle = shuffle_riffle(4)"))
trials_of <- c(war = 400, pairs = 1000, blackjack = 3000, baccarat = 3000, high_card = 3000, video_poker = 300,
               narrows = 2000, betting = 2000)


rules_in <- function(settings) unlist(regmatches(settings, gregexpr("[a-z_]+(?= =)", settings, perl = TRUE)))
# By kind: each setting alone, and so many times three at once; the trials one by one; a game as it went. What cannot be
# is refused, and the refusal is an answer.
play_calls <- function(kind, mixed) {
  game <- function(settings) sprintf("game_%s(%s)", kind, paste(settings, collapse = ", "))
  simulated <- function(game, seed) {
    sprintf("simulate(%s, nsim = %d, seed = %d, threads = 2)", game, trials_of[[kind]], seed)
  }
  all <- settings[[kind]]
  alone <- vapply(all, game, "")
  three_at_once <- vapply(seq_len(mixed), function(i) {
    game(Reduce(function(chosen, one) if (any(rules_in(one) %in% rules_in(chosen))) chosen else c(chosen, one),
                sample(all))[1:3])
  }, "")
  c(simulated(game(character()), 1:3), simulated(alone, 4), simulated(three_at_once, 5),
    sprintf("trials(%s, 6, 1:5)", alone), sprintf("replay(%s, seed = 7, trial = %d)", alone, seq_along(all)))
}
set.seed(1)
mixed <- c(war = 50, pairs = 30, blackjack = 100, baccarat = 40, high_card = 30, video_poker = 5, narrows = 5,
           betting = 15)
games <- unlist(Map(play_calls, names(mixed), mixed), use.names = FALSE)

# Games of one's own, in R and in C++.
lift <- game_cpp(system.file("examples", "lift.cpp", package = "habanera"), players = "daring")
ace <- game_custom("ace", deck_standard(), function(table, rules, players) {
  repeat if (table$of$rank[table$move("stock", "shown")] == "A") return(list(turned = table$size("shown")))
}, outcomes = list(turned = outcome_whole("cards turned")))
own <- c(sprintf("simulate(change_rules(lift, %s), nsim = 2000, seed = 1, threads = 2)",
                 c("enough = 30", "seats = 3", "court = 14", "players = 'random'", "enough = 100, seats = 4")),
         "trials(lift, 1, 1:20)", "replay(lift, seed = 2, trial = 3)", "simulate(ace, nsim = 300, seed = 1)",
         "exact(change_rules(lift, enough = 3))", "replay(ace, seed = 2)", "check_game(lift, seed = 1)")

decks <- c("deck_standard()", "deck_standard(packs = 6)", "deck_standard(jokers = 2)", "deck_numbered(40)",
           "deck_from(demo_file('windfall.yaml'))")
draws <- c(
  outer(decks, c("1", "5", "7", "5, replace = TRUE", "40"), function(deck, size) {
    sprintf("simulate(draws(%s, %s), nsim = 3000, seed = 1, threads = 2)", deck, size)
  }),
  outer(c("a = count(rank == 'A')", "two_up = count(rank == 'A') >= 2, three = largest_group(suit) >= 3",
          "w = total(points), many = distinct(rank)", "c = card_at(1, suit == 'hearts')", "g = largest_group(rank)",
          "k = category()"), c("5", "7", "5, replace = TRUE"), function(asked, size) {
    sprintf("draws(deck_standard(), %s, %s)", size, asked)
  }) |> outer(c("exact", "simulate1"), function(drawn, how) sprintf("%s(%s)", how, drawn)),
  sprintf("simulate1(draw_until(deck_standard(), %s))", c("count(rank == 'A') >= 1", "distinct(suit) == 4")),
  sprintf("payout(exact(draws(deck_standard(), 5, a = count(rank == 'A'))), %s)", c("a * 2", "c('2' = 5, '3' = 50)")))
simulate1 <- function(x) simulate(x, nsim = 3000, seed = 1, threads = 2)

shuffles <- c("uniform()", "riffle()", "riffle(3)", "riffle(clump = 0.2)", "overhand(3)", "strip(6)", "cut()", "faro()",
              "faro(side = 'in')", "piles(4)", "wash(seconds = 5)", "naive_swap()", "random_keys()",
              "random_keys(values = 20)",
              "coin_sort()", "modulo()", "overwrite()", "one_cycle()", "top_to_random(5)", "transpositions(8)",
              "shelf(5)", "small_seed(bits = 4)", "none()")
shuffling <- c(
  outer(sprintf("shuffle_%s", shuffles), c("deck_standard()", "deck_numbered(10)", "deck_standard(packs = 2)"),
        function(shuffle, deck) sprintf("simulate1(positions(%s, %s))", deck, shuffle)),
  sprintf("audit(shuffle_%s, nsim = 2000, seed = 1, threads = 2)", shuffles),
  sprintf("exact(shuffle_%s, deck_numbered(5))",
          setdiff(shuffles, c("wash(seconds = 5)", "random_keys()", "modulo()"))))

hands <- c(
  sprintf("category_odds(size = %s)",
          c(3:7, "5, deck = deck_standard(jokers = 1), rules = hand_rules(wild = rank == 'joker')")),
  sprintf("hand_strength(shuffle(deck_standard(), seed = %d)[1:50], size = 5)", 1:2),
  "showdown(list('AS KS', 'QH QD'))", "showdown(list('AS KS', 'QH QD', '7C 2D'), nsim = 20000, seed = 1, threads = 2)",
  "showdown(list('AS KS', 'QH QD'), board = '2S 9S KD')")
solved <- c(
  sprintf("house_edge(game_blackjack(%s), player_basic())", settings$blackjack[c(1, 2, 4, 16, 17, 18, 21, 23, 28, 32)]),
  sprintf("best_strategy(game_blackjack(%s))", settings$blackjack[c(1, 16, 19, 20, 27, 32, 33)]),
  sprintf("exact(game_baccarat(%s))", settings$baccarat[c(1:12)]), "removal_effects(game_baccarat())",
  sprintf("exact(game_high_card(%s))", settings$high_card[1:12]), sprintf("exact(game_narrows(%s))", settings$narrows),
  sprintf("best_strategy(game_video_poker(%s))", settings$video_poker[c(1, 2, 5, 6)]),
  sprintf("exact(game_war(deck = deck_numbered(8), %s))", setdiff(settings$war[c(3, 6:25)], "collect = 'shuffled'")),
  sprintf("exact(game_pairs(pairs = 4, players = '%s'))", c("full_memory", "careful", "random")),
  "best_play(game_pairs(pairs = 6))", "rule_effects(game_blackjack())", "removal_effects(game_blackjack())",
  "shoe_edge(game_blackjack(), as_cards('AS KD 5H 9C'))",
  "find_deviations(game_blackjack(packs = 2), range = -3:3, nsim = 2000, seed = 1)",
  "round_robin(game_pairs(pairs = 5), c('full_memory', 'careful', 'random'), nsim = 200, seed = 1)",
  "vary_rules(game_war(), face_down = 0:3, nsim = 200, seed = 1)",
  "compare(game_war(), game_war(face_down = 1), nsim = 300, seed = 1)",
  "card_impact(game_war(), nsim = 200, seed = 1)", "bankroll(game_high_card(), start = 10, rounds = 100)",
  "sessions(game_high_card(), 100)", "equilibrium(game_betting(rules = 'one card, one bet'))",
  "best_play(game_betting(rules = 'one card, one bet'), against = 'calls_all')",
  "mistakes(game_betting(rules = 'one card, two streets'), 'random', against = 'calls_all')",
  "exact(game_betting(rules = 'one card, two streets'))",
  "by_true_count(simulate(game_blackjack(cut_after = 234, players = player_counting()), nsim = 300, seed = 1))")

# What is printed; where R keeps a function says nothing.
printed <- function(code) gsub("<(environment|bytecode): 0x[0-9a-f]+>", "", utils::capture.output(code))

pages <- tools::Rd_db("habanera")
# What the examples of a page of the help print.
print_examples <- function(page) {
  lines <- utils::capture.output(tools::Rd2ex(pages[[page]]))
  where <- new.env(parent = globalenv())
  printed(for (expr in parse(text = lines)) {
    shown <- withVisible(eval(expr, where))
    if (shown$visible) print(shown$value)
  })
}

answer <- function(call) {
  values <- tryCatch({
    value <- suppressMessages(suppressWarnings(eval(parse(text = call))))
    list(frame = tryCatch(as.list(as.data.frame(value)), error = function(cnd) NULL),
         tidy = tryCatch(as.list(tidy(value)), error = function(cnd) NULL),
         shown = printed(print(value)))
  }, error = function(cnd) paste("refused:", conditionMessage(cnd)))
  c(digest = substr(rlang::hash(values), 1, 16), is_refused = is.character(values))
}

calls <- unique(c(games, own, draws, shuffling, hands, solved, sprintf("print_examples('%s')", names(pages))))
calls <- grep(Sys.getenv("ONLY", "."), calls, value = TRUE)
# Examples write files and draw.
grDevices::pdf(NULL)
home <- setwd(tempdir())
answers <- parallel::mclapply(calls, answer, mc.cores = parallel::detectCores(), mc.preschedule = FALSE)
setwd(home)
now <- data.frame(call = calls, digest = vapply(answers, `[[`, "", "digest"))
refused <- sum(vapply(answers, `[[`, "", "is_refused") == "TRUE")
cat(sprintf("%d calls, of which %d are refused.\n", length(calls), refused))

if (nzchar(Sys.getenv("KEEP"))) {
  utils::write.csv(now, kept_file, row.names = FALSE)
  quit()
}
kept <- utils::read.csv(kept_file)
kept <- kept$digest[match(now$call, kept$call)]
differs <- is.na(kept) | kept != now$digest
cat(sprintf("%d answer otherwise than is kept%s\n", sum(differs), if (any(differs)) ":" else "."))
writeLines(sprintf("  %s%s", now$call, ifelse(is.na(kept), " (not kept)", ""))[differs])
quit(status = as.integer(any(differs)))
