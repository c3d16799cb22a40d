# A seat that counts: what it does, checked step by step, and what comes of it, shoe by shoe.

test_that("every card shown is counted, the hole card at the end, and bets go by the count before the round", {
  game <- game_blackjack(players = seat_counting(bets = usual_bets), cut_after = 0.5, packs = 2, burn = 3)
  for (shoe in 1:6) {
    trace <- replay(game, seed = 4, trial = shoe)
    outcome <- attr(trace, "outcome")
    deck <- as.character(kinds_of(game$deck)$cards)[attr(trace, "deck")]
    gone <- 3
    running <- 0
    for (round in seq_len(max(trace$round))) {
      before <- running
      level <- floor(before * 52 / (104 - gone))
      expect_equal(outcome$running_count[round], before)
      expect_equal(outcome$true_count[round], level)
      expect_equal(outcome$cards_gone[round], gone)
      expect_equal(outcome$bet[round], unname(usual_bets[as.character(min(max(level, 0), 3))]))
      steps <- trace[trace$round == round, ]
      hidden <- FALSE
      for (i in seq_len(nrow(steps))) {
        if (steps$action[i] == "dealer_hides") {
          gone <- gone + 1
          hidden <- gone
        } else if (nzchar(steps$cards[i])) {
          running <- running + level_one_tags(steps$cards[i])
          if (steps$action[i] == "dealer_turns") hidden <- FALSE else gone <- gone + 1
        }
        last <- i == nrow(steps)
        if (last && hidden) running <- running + level_one_tags(deck[hidden])
        expect_equal(steps$running_count[i], running)
        expect_equal(steps$true_count[i], running * 52 / (104 - gone))
      }
      expect_equal(outcome$net[round], outcome$bet[round] * outcome$net_per_bet[round])
    }
  }
})

test_that("play, insurance, leaving and coming back go by the count", {
  plan <- data.frame(hand = c("hard 16", "hard 12"), up_card = c("10", "4"), from = c(0, NA), below = c(NA, 1),
                     move = c("S", "hit"))
  game <- game_blackjack(players = seat_counting(deviations = plan, insurance_at = 1), cut_after = 0.8, packs = 2)
  seen <- c(S = 0, H = 0, low = 0, high = 0, insured = 0, declined = 0)
  for (shoe in 1:60) {
    trace <- replay(game, seed = 9, trial = shoe)
    level <- floor(trace$true_count + 1e-9)
    shown <- cummax(ifelse(trace$action == "dealer_shows", seq_len(nrow(trace)), 0))
    up <- ifelse(shown > 0, trace$cards[pmax(shown, 1)], "")
    either <- function(one, yes, no) as.character(ifelse(one, yes, no))
    ten <- grepl("^(10|J|Q|K)", up)
    sixteen <- grepl("^ [(]hard 16;", trace$note) & ten & trace$action %in% c("hits", "stands")
    expect_equal(trace$action[sixteen], either(level[sixteen] >= 0, "stands", "hits"))
    twelve <- grepl("^ [(]hard 12;", trace$note) & grepl("^4", up) & trace$action %in% c("hits", "stands")
    expect_equal(trace$action[twelve], either(level[twelve] < 1, "hits", "stands"))
    asked <- trace$action %in% c("insures", "declines")
    expect_equal(trace$action[asked], either(level[asked] >= 1, "insures", "declines"))
    seen <- seen + c(sum(sixteen & level >= 0), sum(sixteen & level < 0), sum(twelve & level < 1),
                     sum(twelve & level >= 1), sum(asked & level >= 1), sum(asked & level < 1))
  }
  expect_true(all(seen > 0))

  away <- list(player_basic(), seat_counting(bets = usual_bets, leaves_below = -1, enters_at = 1), player_basic())
  game <- game_blackjack(players = away, seats = 3, cut_after = 0.75, packs = 2)
  found <- trials(change_rules(game), seed = 3, trials = 1:50)
  expect_named(found, c("trial", "net_2", "staked_2", "plays", "true_count", "bet", "net_per_bet"))
  for (shoe in split(found, found$trial)) {
    there <- FALSE
    for (i in seq_len(nrow(shoe))) {
      there <- shoe$true_count[i] >= -1 && (there || shoe$true_count[i] >= 1)
      expect_equal(shoe$plays[i], as.numeric(there))
    }
    expect_true(all(shoe$net_2[shoe$plays == 0] == 0 & shoe$bet[shoe$plays == 0] == 0))
  }
  expect_true(all(0:1 %in% found$plays))
  # Who sits out gets no card, and those beside him do.
  trace <- replay(game, seed = 3, trial = 1)
  outcome <- attr(trace, "outcome")
  gets <- function(seat) unique(trace$round[which(trace$seat == seat & trace$action == "seat_gets")])
  expect_equal(gets("2"), which(outcome$plays == 1))
  expect_equal(gets("3"), seq_len(nrow(outcome)))
  expect_equal(outcome$result_2 == "sits out", outcome$plays == 0)
})

test_that("cards counted apart are for bets, tags may be of any attribute, and a system is told in a line", {
  aces <- counting_system("level one, aces apart")
  apart <- counting_system(aces$tags, side = c(A = -1))
  game <- game_blackjack(packs = 1, cut_after = 0.6, players = player_counting(system = apart, bets = usual_bets))
  betting <- function(system) judge_count(game_blackjack(packs = 1), system, player_basic())$estimate[1]
  expect_gt(betting(apart), betting(aces))
  trace <- replay(game, seed = 2, trial = 3)
  outcome <- attr(trace, "outcome")
  shown <- as.character(kinds_of(game$deck)$cards)[attr(trace, "deck")]
  values <- sub("[SHDC]$", "", shown)
  tags <- ifelse(values %in% c("10", "J", "Q", "K"), -1, ifelse(values %in% 3:6, 1, 0))
  for (round in seq_len(nrow(outcome))) {
    gone <- seq_len(outcome$cards_gone[round])
    # An ace above its share of the cards dealt counts one less.
    count <- sum(tags[gone]) - (sum(values[gone] == "A") - length(gone) / 13)
    expect_equal(outcome$running_count[round], sum(tags[gone]))
    expect_equal(outcome$true_count[round], floor(count * 52 / (52 - length(gone)) + 1e-9))
  }
  suits <- counting_system(c(hearts = 1, diamonds = 1, spades = -1, clubs = -1), attribute = "suit", true_by = "none")
  red <- game_high_card(colour_bet = "suit == \"hearts\" | suit == \"diamonds\"", ties = "push", cut_after = 0.9,
                        players = player_counting(system = suits, bets = usual_bets))
  rows <- by_true_count(simulate(red, nsim = 2000, seed = 1))
  # Many red cards gone make red rare: who bets on it then loses.
  expect_lt(rows$mean[rows$true_count == 4], -0.05)
  expect_gt(rows$mean[rows$true_count == -4], 0.05)
  for (system in list(aces, apart, suits, counting_system(aces$tags, "a: b", initial = 2, rounded = "nearest"))) {
    expect_equal(counting_system(format(system)), system)
  }
})

test_that("results by the true count are those of single shoes added up, with errors by shoe", {
  game <- game_blackjack(players = seat_counting(bets = usual_bets), cut_after = 0.75)
  run <- simulate(game, nsim = 300, seed = 5)
  found <- by_true_count(run)
  rounds <- trials(game, seed = 5, trials = 1:300)
  class <- pmin(pmax(rounds$true_count, -15), 15)
  for (count in c(-2, 0, 1, 2)) {
    at <- class == count
    row <- found[found$true_count == count, ]
    expect_equal(row$rounds, sum(at))
    expect_equal(row$mean, mean(rounds$net_per_bet[at]))
    expect_equal(row$sd, sqrt(mean((rounds$net_per_bet[at] - mean(rounds$net_per_bet[at]))^2)))
    by_shoe <- tapply((rounds$net_per_bet - row$mean) * at, rounds$trial, sum)
    shoes <- length(unique(rounds$trial[at]))
    expect_gt(shoes, 64)
    expect_equal(row$std.error, sqrt(sum(by_shoe^2) * shoes / (shoes - 1)) / sum(at))
  }
  totals <- tidy(found)
  gain <- totals[totals$term == "gain", ]
  expect_equal(gain$estimate, 100 * sum(rounds$net) / nrow(rounds))
  expect_equal(gain$estimate, sum(found$gain))
  left <- tapply(rounds$net - mean(rounds$net), rounds$trial, sum)
  expect_equal(gain$std.error, 100 * sqrt(sum(left^2) * 300 / 299) / nrow(rounds))
  expect_equal(totals$estimate[totals$term == "per_bet"], sum(rounds$net) / sum(rounds$bet))
  expect_output(print(found), "in 100 rounds")

  other <- c("0" = 1, "1" = 5, "2" = 10)
  again <- simulate(game_blackjack(players = seat_counting(bets = other), cut_after = 0.75), nsim = 300, seed = 5)
  expect_equal(tidy(reprice(run, other)), tidy(by_true_count(again)), tolerance = 1e-9)
  expect_output(print(reprice(found, other)), "these very shoes priced anew")
  parts <- c(simulate(game, nsim = 100, seed = 5), simulate(game, nsim = 200, seed = 5, first_trial = 101))
  expect_equal(tidy(by_true_count(parts)), totals)
  for (file in c(withr::local_tempfile(fileext = ".csv"), withr::local_tempfile(fileext = ".json"))) {
    write_result(run, file)
    expect_equal(tidy(by_true_count(read_result(file))), totals)
  }
  # Where an R function sits beside, shoes are played here and divided here, and come to the same.
  by_hand <- player_with(function(view, moves) {
    if ("decline" %in% moves) "decline" else if (view$total < 17) "hit" else "stand"
  })
  beside <- function(first) {
    players <- list(first, seat_counting(bets = usual_bets, leaves_below = -1, enters_at = 0))
    tidy(by_true_count(simulate(game_blackjack(seats = 2, players = players, cut_after = 0.3), nsim = 20, seed = 2)))
  }
  expect_equal(beside(by_hand), beside(player_stands_on(17)))
  waits <- list(player_basic(), seat_counting(enters_at = 90))
  idle <- by_true_count(simulate(game_blackjack(seats = 2, players = waits, cut_after = 0.5), nsim = 20, seed = 1))
  expect_output(print(idle), "Who counts plays no round here")
})

test_that("intervals by shoe hold what they promise, where rounds of a shoe hang together", {
  # Ties pushed and red as likely as black: at every count of ranks the mean is nothing, exactly.
  game <- game_high_card(ties = "push", colour_bet = "suit %in% c(\"hearts\", \"diamonds\")", cut_after = 0.9,
                         players = player_counting(system = "level one balanced", bets = usual_bets))
  repeats <- 400
  holds <- vapply(seq_len(repeats), function(i) {
    found <- by_true_count(simulate(game, nsim = 100, seed = i, threads = 1))
    rows <- tidy(found)
    at <- found[found$true_count == 0, ]
    c(rows$conf.low[1] <= 0 && rows$conf.high[1] >= 0, at$conf.low <= 0 && at$conf.high >= 0)
  }, c(NA, NA))
  promised <- 0.95
  near <- standard_errors * sqrt(promised * (1 - promised) / repeats)
  expect_lt(abs(mean(holds[1, ]) - promised), near)
  expect_lt(abs(mean(holds[2, ]) - promised), near)
})

test_that("bets by the count have the law of all orders of a small shoe", {
  deck <- as_cards("AS KS 2S 3H 4H 5D")
  tags <- c(A = -1, K = -1, "2" = 1, "3" = 1, "4" = 1, "5" = 0)
  counts <- player_counting(system = counting_system(tags, true_by = "none"), bets = c("0" = 1, "1" = 3))
  game <- game_high_card(deck = deck, cut_after = 3, players = counts, record = c("net", "bet"))
  strength <- c(14, 13, 2, 3, 4, 5)
  orders <- as.matrix(expand.grid(rep(list(1:6), 6)))
  orders <- orders[apply(orders, 1, function(order) !anyDuplicated(order)), ]
  slow <- apply(orders, 1, function(order) {
    bet <- if (sum(tags[order[1:2]]) >= 1) 3 else 1
    won <- function(places) sign(strength[order[places[1]]] - strength[order[places[2]]])
    c(won(1:2), bet * won(3:4), bet)
  })
  found <- exact(game)
  share <- function(net, bet) {
    at <- found$outcomes$net == net & found$outcomes$bet == bet
    sum(found$probability[at])
  }
  expect_equal(share(3, 3), mean(slow[2, ] == 3), tolerance = 1e-12)
  expect_equal(share(-1, 1), mean(slow[1, ] == -1) + mean(slow[2, ] == -1), tolerance = 1e-12)
  played <- simulate(game, nsim = 20000, seed = 1)
  threes <- sum(played$n[played$outcomes$net == 3]) / 20000
  expect_lt(abs(threes - share(3, 3)), standard_errors * sqrt(share(3, 3) * (1 - share(3, 3)) / 20000))
})
