# Rules tuned to wishes: ranges and bounds by hand, sure answers beside exact ones, and what a user would slip on.

scope_of_two <- function() list(a = list(low = c(1, -2), high = c(2, 3)), b = list(low = c(0.5, 0), high = c(0.5, 4)))

test_that("ranges of what wishes are made of are those worked out by hand", {
  range <- function(text) range_of(parse(text = text)[[1]], scope_of_two())
  expect_equal(range("a + b"), list(low = c(1.5, -2), high = c(2.5, 7)))
  expect_equal(range("a - b"), list(low = c(0.5, -6), high = c(1.5, 3)))
  expect_equal(range("-a * b"), list(low = c(-1, -12), high = c(-0.5, 8)))
  expect_equal(range("abs(a)"), list(low = c(1, 0), high = c(2, 3)))
  expect_equal(range("a / 0"), list(low = c(-Inf, -Inf), high = c(Inf, Inf)))
  expect_equal(range("1 / a"), list(low = c(0.5, -Inf), high = c(1, Inf)))
  expect_equal(range("max(a, b)"), list(low = c(1, 0), high = c(2, 4)))
  expect_equal(range("min(a, 1)"), list(low = c(1, -2), high = c(1, 1)))
  truth <- function(text) truth_of(parse(text = text)[[1]], scope_of_two())
  expect_equal(truth("a >= 1"), list(sure = c(TRUE, FALSE), possible = c(TRUE, TRUE)))
  expect_equal(truth("!(a < 1)"), truth("a >= 1"))
  expect_equal(truth("a > 3 | b < 1"), list(sure = c(TRUE, FALSE), possible = c(TRUE, TRUE)))
  expect_equal(truth("a > 3"), list(sure = c(FALSE, FALSE), possible = c(FALSE, FALSE)))
})

test_that("whatever lies within the bounds agrees with what is called sure or impossible", {
  texts <- c("a * b - abs(a) <= 2", "max(a, b) / (b + 1) > 0.3 & a < 2", "min(a, -b) >= -1 | a * a > b")
  withr::with_seed(1, for (text in texts) {
    expr <- parse(text = text)[[1]]
    for (i in 1:200) {
      ends <- lapply(c(a = 1, b = 2), function(name) sort(stats::runif(2, -2, 3)))
      if (text == texts[2]) ends$b <- abs(ends$b)[order(abs(ends$b))]
      truth <- truth_of(expr, lapply(ends, function(end) list(low = end[1], high = end[2])))
      points <- lapply(ends, function(end) stats::runif(30, end[1], end[2]))
      holds <- eval(do.call(substitute, list(expr, list(max = quote(pmax), min = quote(pmin)))), points)
      if (truth$sure) expect_true(all(holds))
      if (!truth$possible) expect_false(any(holds))
    }
  })
})

test_that("bounds are those of their sources", {
  tally <- list(rows = data.frame(winner = c(0, 1, 2), rounds = c(3, 5, NA)), n = c(10, 70, 20))
  game <- with_ending(game_war(cards_each = 3))
  share <- share_bounds(70, 100, 0.01)
  expect_equal(unname(unlist(share[c("low", "high")])), c(stats::binom.test(70, 100, conf.level = 0.99)$conf.int),
               tolerance = 1e-9)
  spread <- spread_bounds(c(70, 20), 100, 0.02)
  expect_equal(spread$low, share$low - share_bounds(20, 100, 0.01)$high)
  # Of 0 and 1 as often as they come, by the formula as it is printed.
  seats_of_pairs <- game_pairs(pairs = 2)
  of_win <- list(column = "score_1", factor = 1 / unit_of(seats_of_pairs, "score_1"), game = seats_of_pairs)
  bounded <- mean_bounds(c(0, 1), c(300, 100), of_win, 0.04, 0)
  log <- log(2 / 0.02)
  half <- sqrt(2 * (0.25 * 0.75 * 400 / 399) * log / 400) + 7 * log / (3 * 399)
  expect_equal(c(bounded$low, bounded$high), 0.25 + c(-half, half), tolerance = 1e-12)
  expect_true(bounded$sure)
  # A number that nothing bounds: Student's t, from a thousand trials on; too many games without an end leave it open.
  loose <- list(column = "rounds", factor = 1, game = game)
  few <- mean_bounds(c(3, 5), c(10, 70), loose, 0.05, 0.001)
  expect_equal(c(few$low, few$high), c(-Inf, Inf))
  values <- rep(c(1, 4, 9), c(500, 300, 400))
  many <- mean_bounds(c(1, 4, 9), c(500, 300, 400), loose, 0.05, 0.001)
  expect_equal(c(many$low, many$high), c(stats::t.test(values)$conf.int), tolerance = 1e-12)
  expect_false(many$sure)
  alike <- mean_bounds(c(1, 4), c(5000, 3), loose, 0.05, 0.001)
  expect_equal(c(alike$low, alike$high), c(-Inf, Inf))
  expect_equal(mean_bounds(c(1, 4, 9, NA), c(500, 300, 400, 5), loose, 0.05, 0.001)$high, Inf)
  # Between order statistics; a game without an end is longer than any.
  quantile <- quantile_bounds(c(3, 5, NA), c(10, 70, 20), 0.5, 0.05)
  expect_equal(unlist(quantile[c("estimate", "low", "high")], use.names = FALSE), c(5, 5, 5))
  expect_equal(quantile_bounds(c(3, 5, NA), c(10, 70, 20), 0.9, 0.05)$high, Inf)
})

# Small decks with exact answers: the chance to win at high card, by how ties go.
small_high_card <- function() {
  game_high_card(deck = deck_from(data.frame(card = c("a", "b", "c"), rank = 1:3, copies = c(2, 2, 3))), packs = 1,
                 rank_by = "rank", record = c("result", "net"))
}

race_of <- function(game, over, want, nsim, level, least = NULL) {
  run <- list(nsim = nsim, seconds = 600, seed = 1, threads = 1, level = level, seconds_per_round = NULL,
              checkpoint = NULL, anew = FALSE, progress = NULL)
  wished <- list(want = want, least = least, most = NULL)
  subject <- tuning_subject(game, run, NULL)
  dimensions <- subject$dimensions(over)
  places <- candidate_places(dimensions, NULL, NULL)
  tuning <- new_tuning(subject, dimensions, list(places = places, of = nrow(places)), wished, list(NULL), run, NULL)
  function(seed) run_race(tuning, utils::modifyList(run, list(seed = seed)))
}

test_that("rules that fail by a hair are called sure no more often than was promised", {
  game <- small_high_card()
  ties <- c("bank", "push", "again")
  law <- lapply(ties, function(way) exact(change_rules(game, ties = way)))
  wins <- vapply(law, function(each) sum(each$probability[each$outcomes[["result"]] == "win"]), 0)
  loses <- vapply(law, function(each) sum(each$probability[each$outcomes[["result"]] == "loss"]), 0)
  # Each of the two wishes fails for some rule by nothing: sure is never right there.
  level <- 0.2
  wishes <- c(sprintf("result_win > %.15f", wins[1]), "result_loss < 0.999")
  race <- race_of(game, list(ties = ties), wishes, 4000, level)
  fails <- wins <= wins[1] + 1e-12
  expect_true(any(fails) && !all(fails))
  wrong <- vapply(1:500, function(seed) any(race(seed)$meets[fails] == "yes"), NA)
  expect_lte(mean(wrong), level + 4 * sqrt(level * (1 - level) / 500))
  # And what holds or fails by far is told, each time.
  told <- race_of(game, list(ties = ties), "result_loss <= 0.43", 16000, level)
  meets <- vapply(1:20, function(seed) told(seed)$meets, character(length(ties)))
  expect_true(all(meets == ifelse(loses <= 0.43, "yes", "no")))
})

test_that("edges are exact, and as vary_rules() has them", {
  game <- game_high_card()
  found <- tune_rules(game, list(ties = c("bank", "half_back", "push"), packs = c(1, 6)),
                      want = c("edge > 0.01", "edge < 0.04"))
  grid <- vary_rules(game, ties = c("bank", "half_back", "push"), packs = c(1, 6), of = "edge")
  at <- match(paste(found$ties, found$packs), paste(grid$ties, grid$packs))
  expect_equal(found$edge, grid$estimate[at])
  expect_equal(found$meets == "yes", grid$estimate[at] > 0.01 & grid$estimate[at] < 0.04)
  expect_equal(found$changes, (found$ties != "bank") + (found$packs != 1))
  expect_equal(unique(found$trials), 0)
  expect_output(print(found), "2 of 6 combinations meet .*half_back.*All of it is exact")
  # What is nearest to an aim, of those that meet the wish.
  near <- tune_rules(game, list(ties = c("bank", "half_back", "push"), packs = c(1, 2, 6)), want = "edge > 0",
                     least = "abs(edge - 0.03)")
  best <- near[near$best == "best", ]
  expect_equal(c(best$ties, best$packs), c("half_back", "1"))
  expect_setequal(near$best[near$edge > 1e-9 & near$best != "best"], "worse")
  # A line of a pay table, and what it must pay by price_for().
  table <- game_video_poker(deck = deck_from(demo_file("orchard.csv")), pays = demo_file("machine-pays.csv"))
  now <- rules(table)$pays
  line <- names(now)[which.max(now)]
  lines <- tune_rules(table, rlang::set_names(list(now[[line]] + c(-1, 0, 1)), line), least = "edge")
  expect_equal(lines[[line]][lines$best == "best"], now[[line]] + 1)
})

test_that("a race calls sure what more trials bear out, the same by any number of threads", {
  game <- game_war(deck = deck_from(demo_file("orchard.csv")), rank_by = "rank")
  tuned <- function(threads) {
    tune_rules(game, list(cards_each = c(4, 8, 16), face_down = 1:2),
               want = c("rounds_p90 <= 60", "seat_spread <= 0.1"), nsim = 16000, seed = 7, threads = threads)
  }
  found <- tuned(1)
  expect_identical(found, tuned(2))
  expect_true(all(c("yes", "no") %in% found$meets))
  for (row in which(found$meets != "open")) {
    counts <- simulate(change_rules(game, cards_each = found$cards_each[row], face_down = found$face_down[row]),
                       nsim = 1e5, seed = 99)
    terms <- estimates(counts, c("rounds_p90", "winner_1", "winner_2"))$estimate
    expect_equal(terms[1] <= 60 && abs(terms[2] - terms[3]) <= 0.1, found$meets[row] == "yes",
                 info = paste(found$cards_each[row], found$face_down[row]))
  }
  # What surely misses plays no further.
  expect_lt(min(found$trials[found$meets == "no"]), max(found$trials))
  expect_equal(attr(found, "trials"), sum(found$trials))
  fresh <- attr(found, "fresh")
  expect_true(all(fresh$conf.low <= fresh$estimate & fresh$estimate <= fresh$conf.high))
  expect_setequal(fresh$term, c("rounds_p90", "seat_spread"))
})

test_that("wishes hold at every line-up, and the worst is named", {
  game <- game_pairs(pairs = 4)
  memories <- list(good = player_full_memory(), poor = player_forgetful(0.5))
  found <- tune_rules(game, list(pairs = c(4, 6)), want = "winner_2 > winner_1 - 0.05", line_ups = memories,
                      nsim = 16000, seed = 1)
  alone <- function(pairs, player) {
    terms <- estimates(simulate(change_rules(game, pairs = pairs, players = player), 20000, seed = 5),
                       c("winner_1", "winner_2"))$estimate
    terms[2] - terms[1]
  }
  for (row in seq_len(nrow(found))) {
    margins <- vapply(memories, function(player) alone(found$pairs[row], player), 0)
    expect_equal(found$worst[row], names(memories)[which.min(margins)])
    expect_equal(found$meets[row], if (all(margins > -0.05)) "yes" else "no")
  }
  expect_error(tune_rules(game_war(), list(face_down = 0:1), "rounds > 1", line_ups = memories), "Nobody decides")
})

test_that("players, copies, the rules as they are and wishes on rules may stand in it", {
  game <- game_pairs(pairs = 4, seats = 1, record = "turns")
  by_player <- tune_rules(game, list(players = list("full_memory", "random")), least = "turns", nsim = 2000, seed = 1)
  expect_equal(by_player$players[by_player$best == "best"], "full_memory")
  war <- game_war(deck = deck_numbered(8), cards_each = 4)
  copies <- tune_rules(game_high_card(deck = deck_from(data.frame(card = c("A", "B", "C"), rank = 1:3, copies = 3)),
                                      rank_by = "rank"),
                       list(copies = list("rank == 3" = 1:3)), most = "edge")
  expect_equal(names(copies)[1], "copies: rank == 3")
  expect_equal(copies$changes[copies[[1]] == 3], 0)
  by_hand <- function(three) {
    n <- c(3, 3, three)
    pairs <- outer(n, n) - diag(n)
    # The bank has ties.
    (sum(pairs[upper.tri(pairs)]) + sum(diag(pairs)) - sum(pairs[lower.tri(pairs)])) / sum(pairs)
  }
  expect_equal(copies$edge[order(copies[[1]])], vapply(1:3, by_hand, 0))
  beside <- tune_rules(war, list(cards_each = 2:4), want = c("rounds < now(rounds)", "cards_each * 2 <= 6"),
                       nsim = 4000, seed = 1)
  expect_setequal(beside$cards_each, 2:3)
  expect_setequal(beside$meets, "yes")
  expect_output(print(beside), "1 combination not tried")
  printable <- tune_rules(game_blackjack(), list(natural_pays = c(1.2, 1.37, 1.5)),
                          want = c("edge < 0.03", "printable(natural_pays)"))
  expect_setequal(printable$natural_pays, c(1.2, 1.5))
})

test_that("draws and what is paid for them are tuned, exactly where that is in reach", {
  orchard <- deck_from(demo_file("orchard.csv"))
  stall <- draws(orchard, 3, alike = largest_group(suit))
  law <- exact(stall)
  paid <- payout(law, c("3" = 8, "2" = 1))
  found <- tune_rules(paid, list("3" = 6:9, "2" = c(0, 1), stake = 1:2), want = c("edge > 0.1", "edge < 0.2"))
  by_hand <- vapply(seq_len(nrow(found)), function(row) {
    tidy(payout(law, c("3" = found[["3"]][row], "2" = found[["2"]][row]), stake = found$stake[row]))$estimate[2]
  }, 0)
  expect_equal(found$edge, by_hand)
  expect_equal(found$meets == "yes", by_hand > 0.1 & by_hand < 0.2)
  expect_output(print(found), "3 pays 7 \\(1 change\\)|3 pays 6 \\(1 change\\)")
  # Other cards make another law.
  more <- tune_rules(paid, list(copies = list('rank == "7"' = 0:2), "3" = 8), most = "edge")
  expect_equal(more$edge[more[[1]] == 1], tidy(paid)$estimate[2])
  expect_length(unique(more$edge), 3)
  expect_error(tune_rules(paid, list("4" = 1:2), "edge > 0"), "\"4\" is none of them", class = "habanera_error_rules")
  expect_error(tune_rules(payout(simulate(stall, 100, seed = 1), c("3" = 8)), list("3" = 1:2), "edge > 0"), "of exact")

  question <- draws(deck_standard(), 5, two = count(rank == "A") >= 2, kind = category())
  sizes <- tune_rules(question, list(size = 5:7, copies = list('rank == "A"' = 3:4)), want = "two > 0.1",
                      least = "size")
  aces <- function(size, copies) stats::phyper(1, 4 * copies, 48, size, lower.tail = FALSE)
  expect_equal(sizes$two, aces(sizes$size, 4 * sizes[[2]] / 4))
  # Out of reach exactly: played.
  hands <- draws(deck_standard(), 9, a = count(rank == "A"), flush = category() == "flush")
  played <- tune_rules(hands, list(size = 10:11), want = c("flush < 0.5", "a > 0.1"), nsim = 2000, seed = 1)
  expect_gt(min(played$trials), 0)
  expect_setequal(played$meets, "yes")
  expect_error(tune_rules(draws(deck_standard(), 5, kind = category()), list(size = 5), "kind > 1"), "not known here")
  expect_error(tune_rules(question, list(size = 5:6), "two > 0.1", line_ups = list(1)), "Nobody decides")
  expect_error(tune_rules(law, list(size = 5), "two > 0.1"), "must be a game")
})

test_that("where rules miss by a price it is named, with the nearest that is printed", {
  game <- game_blackjack(players = "basic")
  found <- tune_rules(game, list(natural_pays = c(1, 1.5), soft_17 = "hits"),
                      want = c("edge > 0.0095", "edge < 0.0105"))
  expect_setequal(found$meets, "no")
  best <- price_for(change_rules(game, soft_17 = "hits"), edge = 0.01, lines = "natural_pays", whole = FALSE)
  expect_output(print(found), sprintf("natural_pays %.3f\\s+would keep 1%%", best$natural_pays[1]))
  expect_equal(nearest_printable(1.369), 11 / 8)
  expect_equal(fraction_text(11 / 8), "11/8")
  expect_equal(fraction_text(7), "7")
  stall <- payout(exact(draws(deck_from(demo_file("orchard.csv")), 3, alike = largest_group(suit))),
                  c("3" = 8, "2" = 1))
  expect_output(print(tune_rules(stall, list("3" = c(8, 10)), c("edge > 0.14", "edge < 0.16"))), "61/10, which keeps")
})

test_that("what is asked for in vain is said before work begins", {
  war <- game_war(deck = deck_numbered(8), cards_each = 4)
  errors <- list(
    list(quote(tune_rules(war, list(cards_each = 2:4), want = "rouns < 3")), "language", "did you mean \"rounds\""),
    list(quote(tune_rules(war, list(cards_each = 2:4), want = "ended < 3")), "language",
         "rounds, rounds_p1 to rounds_p99, deck"),
    list(quote(tune_rules(war, list(cards_each = 2:4), want = "minutes_p90 < 3")), "input", "seconds_per_round"),
    list(quote(tune_rules(game_war(), list(face_down = 0:1), want = "rounds < cards_each")), "rules",
         "only where it is a number; here it is \"NULL\""),
    list(quote(tune_rules(war, c(cards_each = 2), want = "rounds < 3")), "input", "must be a list of rules"),
    list(quote(tune_rules(war, list(cards_each = 2:4), want = "now(rounds) < 3")), "language",
         "nothing that candidates"),
    list(quote(tune_rules(war, list(cards_each = 2:4))), "input", "Say what is wished for"),
    list(quote(tune_rules(war, list(cards_each = 2:4), want = "rounds + 3")), "language", "must be a condition"),
    list(quote(tune_rules(war, list(cards_each = 2:4), want = c("rounds < 3", "rounds > 5"))), "language",
         "No rules can meet both"),
    list(quote(tune_rules(war, list(cards_each = 2:4), want = "winner_1 > 0.4999 & winner_1 < 0.5001", nsim = 1e4)),
         "work", "it takes about"),
    list(quote(tune_rules(war, list(cards_eac = 2:4), want = "rounds < 3")), "rules", "did you mean \"cards_each\""),
    list(quote(tune_rules(war, list(cards_each = integer()), want = "rounds < 3")), "rules", "no values to try"),
    list(quote(tune_rules(war, list(cards_each = c(2, 2)), want = "rounds < 3")), "rules", "twice"),
    list(quote(tune_rules(war, list(cards_each = 2:4), least = "rounds > 3")), "language", "must be a number"),
    list(quote(tune_rules(war, list(cards_each = 2:4), least = "rounds", most = "rounds")), "input", "not both"),
    list(quote(tune_rules(war, list(cards_each = 2:4), want = "rounds %% 2 == 0")), "language", "is made of"),
    list(quote(tune_rules(war, list(cards_each = 2:4), want = "now(3) < rounds")), "language", "name of an estimate"),
    list(quote(tune_rules(war, list(cards_each = 2:4), want = "cards_each > 7")), "rules", "No combination meets"),
    list(quote(tune_rules(war, list(copies = list("rank == 77" = 1:2)), want = "rounds > 3")), "input", "No card"),
    list(quote(tune_rules(war, list(max_rounds = 1:300, cards_each = 2:4, face_down = 0:40), want = "rounds < 3",
                          changes = 3)), "work", "combinations of rules"),
    list(quote(tune_rules(war, list(cards_each = 2:4), want = "rounds < 3", nsim = 10)), "input", "nsim")
  )
  for (each in errors) {
    expect_error(eval(each[[1]]), each[[3]], class = paste0("habanera_error_", each[[2]]), info = deparse(each[[1]]))
  }
})

test_that("time that runs out leaves what is known, and says so", {
  found <- tune_rules(game_war(), list(face_down = 0:3), want = "rounds_p90 <= 200", seconds = 0, seed = 1)
  expect_setequal(found$meets, "open")
  expect_output(print(found), "was out of time\\s+before all")
  expect_error(autoplot(found), "No candidate has been played")
  expect_error(autoplot(tidy(found)))
  some <- tune_rules(game_war(cards_each = 6), list(face_down = 0:3), want = c("rounds_p90 <= 40", "seat_spread < 0.1"),
                     nsim = 4000, seed = 1)
  expect_s3_class(autoplot(some), "ggplot")
  expect_output(print(some[1:2, ]), "face_down")
})

# A card is turned and its number is told, with so much more; at one of the games R is interrupted, or something else.
turned_card <- function(at, happens = rlang::interrupt) {
  games <- 0
  game_custom("turned_card", deck_numbered(4), function(table, rules, players) {
    games <<- games + 1
    if (games == at) happens()
    card <- table$move("stock", "open")
    list(value = card + rules$more)
  }, rules = list(rule_whole("more", 0, 0, 4, "what is added")), outcomes = list(value = outcome_whole("points")),
  piles = c(stock = "hidden", open = "open"))
}

test_that("a race that was stopped goes on from its checkpoint, and ends as an undisturbed one", {
  file <- withr::local_tempfile()
  tuned <- function(at, ..., more = 0:1, happens = rlang::interrupt) {
    tune_rules(turned_card(at, happens), list(more = more), want = "value > 2.5", nsim = 4000, seed = 3, ...)
  }
  whole <- tuned(Inf)
  expect_equal(whole$meets, c("yes", "open"))
  # Stopped after the first look.
  expect_warning(stopped <- tuned(2500, checkpoint = file), class = "habanera_warning_interrupted")
  expect_lt(attr(stopped, "trials"), attr(whole, "trials"))
  expect_match(attr(stopped, "part"), "1 of 2 combinations decided")
  expect_equal(as.data.frame(tuned(Inf, checkpoint = file)), as.data.frame(whole))
  expect_error(tuned(Inf, checkpoint = file, more = 0:2), "of another race", class = "habanera_error_checkpoint")
  writeLines("habanera checkpoint 4 nothing", file)
  expect_error(tuned(Inf, checkpoint = file), "damaged", class = "habanera_error_checkpoint")
  expect_equal(as.data.frame(tuned(Inf, checkpoint = file, anew = TRUE)), as.data.frame(whole))
  # One who will not wait for the fresh deals has what the race found; a checkpoint that cannot be written is told.
  expect_false(is.null(attr(whole, "fresh")))
  late <- tuned(attr(whole, "trials") + 50)
  expect_null(attr(late, "fresh"))
  expect_equal(as.data.frame(late), as.data.frame(whole))
  folder <- withr::local_tempdir()
  lose <- function() unlink(folder, recursive = TRUE)
  expect_warning(kept <- tuned(1500, checkpoint = file.path(folder, "race"), happens = lose),
                 class = "habanera_warning_unwritten")
  expect_equal(as.data.frame(kept), as.data.frame(whole))
})

test_that("the shell tunes by options and by a file of wishes", {
  run <- run_words("tune", "war", "--rules", demo_file("quick-game.yaml"), "--over", "cards_each=6,12", "--want",
                   "minutes_p90 <= 15", "--want", "ended_never_ends <= 0.01", "--seconds-per-round", "6", "--trials",
                   "8000", "--seed", "1")
  expect_equal(run$status, 0)
  said <- paste(run$out, collapse = " ")
  expect_match(said, "of 2 combinations surely +meet")
  copies <- run_words("tune", "high_card", "--copies", "3:4 of rank == 'A'", "--most", "edge", "--format", "csv")
  rows <- utils::read.csv(text = copies$out, check.names = FALSE)
  expect_equal(rows[["copies: rank == 'A'"]][rows$best == "best"], 4)
  wished <- run_words("tune", "blackjack", "--rules", demo_file("table.yaml"), "--wishes",
                      demo_file("table-wishes.yaml"), "--changes", "1")
  expect_match(paste(wished$out, collapse = " "), "1 of 11 combinations meets .*natural_pays 1.4 \\(1 change\\)")
  file <- withr::local_tempfile(fileext = ".yaml")
  # What is typed wins over the file, whole.
  writeLines(c("over: {ties: [bank, push]}", "want: edge > 0.01"), file)
  typed <- run_words("tune", "high_card", "--wishes", file, "--over", "ties=half_back", "--format", "csv")
  expect_equal(utils::read.csv(text = typed$out)$ties, "half_back")
  writeLines(c("over: {pairs: [4]}", "want: seat_spread < 0.9", "line_ups: [random, careful]"), file)
  seated <- tune_rules(game_pairs(), file, line_ups = list(one = "full_memory", two = "random"), nsim = 1000, seed = 1)
  expect_equal(attr(seated, "line_ups"), c("one", "two"))
  writeLines("ower: {ties: [bank]}", file)
  expect_match(run_words("tune", "high_card", "--wishes", file)$err, "did you mean \"over\"", all = FALSE)
  expect_bad_usage(list(list(c("tune", "war"), "needs --over"),
                        list(c("tune", "war", "--copies", "aces"), "--copies takes numbers")))
})
