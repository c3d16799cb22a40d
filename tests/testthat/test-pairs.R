# Turns that one perfect memory needs, by a recursion over what is known (u cards unseen, k of them with a known mate),
# written from the rules alone: a known pair is taken at once; else an unseen card is turned, then its mate or another
# unseen one.
turns_of_one <- function(pairs) {
  expected <- remembered(function(u, k) {
    if (u == 0) return(0)
    # The first card is the mate of a known one, or new.
    found <- if (k > 0) k / u * (1 + expected(u - 1, k - 1)) else 0
    if (u == k) return(found)
    second <- 1 / (u - 1) * (1 + expected(u - 2, k))
    if (k > 0) second <- second + k / (u - 1) * (2 + expected(u - 2, k))
    fresh <- u - 2 - k
    if (fresh > 0) second <- second + fresh / (u - 1) * (1 + expected(u - 2, k + 2))
    found + (u - k) / u * second
  })
  expected(2 * pairs, 0)
}

# The mean lead of the seat to move over the other, both of perfect memory, by the same recursion; `again` as the rule.
lead_of_two <- function(pairs, again) {
  value <- remembered(function(u, k) {
    if (u == 0) return(0)
    after <- function(u, k, gain) gain + if (again) value(u, k) else -value(u, k)
    found <- if (k > 0) k / u * after(u - 1, k - 1, 1) else 0
    if (u == k) return(found)
    second <- 1 / (u - 1) * after(u - 2, k, 1)
    # The second card shows a pair to the other, who takes it first.
    if (k > 0) second <- second - k / (u - 1) * after(u - 2, k, 1)
    fresh <- u - 2 - k
    if (fresh > 0) second <- second - fresh / (u - 1) * value(u - 2, k + 2)
    found + (u - k) / u * second
  })
  value(2 * pairs, 0)
}

test_that("one perfect memory needs the turns of the exact recursion", {
  expect_equal(turns_of_one(1), 1)
  # Of two pairs: the second card is the mate with chance 1/3 (2 turns), else 3 turns.
  expect_equal(turns_of_one(2), 1 / 3 * 2 + 2 / 3 * 3)
  for (pairs in 1:4) {
    law <- exact(game_pairs(pairs = pairs, seats = 1))
    expect_equal(sum(law$outcomes$turns * law$probability), turns_of_one(pairs), tolerance = 1e-12)
  }
  counts <- simulate(game_pairs(seats = 1, record = "turns"), 2e4, seed = 5)
  found <- tidy(counts)[1, ]
  expect_lt(abs(found$estimate - turns_of_one(15)), standard_errors * found$std.error)
})

test_that("two perfect memories are worth what the recursion says, whoever turns again", {
  for (again in c(TRUE, FALSE)) {
    lead <- function(pairs) {
      law <- exact(game_pairs(pairs = pairs, again = again, record = c("pairs_1", "pairs_2")))
      sum((law$outcomes$pairs_1 - law$outcomes$pairs_2) * law$probability)
    }
    for (pairs in 1:4) expect_equal(lead(pairs), lead_of_two(pairs, again), tolerance = 1e-12,
                                    info = paste(pairs, again))
  }
  counts <- simulate(game_pairs(pairs = 10, record = c("pairs_1", "pairs_2")), 2e4, seed = 2)
  difference <- counts$outcomes$pairs_1 - counts$outcomes$pairs_2
  mean <- sum(difference * counts$n) / 2e4
  error <- sqrt(sum(counts$n * (difference - mean)^2) / 2e4^2)
  expect_lt(abs(mean - lead_of_two(10, TRUE)), standard_errors * error)
})

test_that("a game laid out in order is played as it can be worked by hand", {
  # 1 1 2 2 3 3, by one of perfect memory: a pair a turn.
  trace <- replay(game_pairs(pairs = 3, seats = 1, shuffle = "none"), seed = 1)
  expect_equal(attr(trace, "outcome")$turns, 3)
  expect_equal(trace$action, c("deal", rep(c("turns_first", "turns_second", "wins_pair"), 3), "wins"))
  expect_equal(trace$table + trace$won_1, rep(6, nrow(trace)))
  expect_output(print(trace), "Seat 1 wins after 3 turns \\(pairs: 3\\).*turns 1.*has a pair")
  one <- trials(game_pairs(pairs = 3, seats = 1, shuffle = "none", record = c("turns", "decisions_1", "forced_1")), 1,
                1)
  expect_equal(unlist(one[-1]), c(turns = 3, decisions_1 = 6, forced_1 = 1))
})

test_that("players are set, printed, varied, compared, written and read", {
  evening <- game_pairs(pairs = 6, players = list(player_full_memory(), player_forgetful(0.7, 4)))
  expect_output(print(rules(evening)), "full_memory, forgetful:recall=0.7:span=4")
  for (players in list("full_memory, forgetful:recall=0.7:span=4", c("full_memory", "forgetful:span=4"))) {
    expect_identical(rules(game_pairs(pairs = 6, players = players)), rules(evening))
  }
  file <- withr::local_tempfile(fileext = ".yaml")
  write_rules(evening, file)
  expect_identical(rules(game_pairs(rules = file)), rules(evening))
  expect_identical(rules(eval(parse(text = experiment_code(evening)$r))), rules(evening))
  result <- withr::local_tempfile(fileext = ".json")
  counts <- simulate(evening, 2000, seed = 1)
  write_result(counts, result)
  expect_equal(as.data.frame(simulate(read_result(result)$provenance$experiment, 2000, seed = 1)),
               as.data.frame(counts))
  # On the same deals: perfect memory beats one that forgets.
  better <- tidy(compare(evening, change_rules(evening, players = "forgetful:recall=0.7:span=4, full_memory"), 5000,
                         seed = 1))
  expect_gt(better$conf.low[better$term == "winner=2"], 0)
  # With m pairs left a turn at random finds one with chance 1 / (2 m - 1): n pairs take n^2 turns.
  varied <- vary_rules(evening, players = list("random", player_full_memory()), nsim = 2000, seed = 1)
  turns <- varied[varied$term == "turns", ]
  expect_lt(abs(turns$estimate[1] - 36), standard_errors * turns$std.error[1])
  expect_s3_class(autoplot(replay(evening, seed = 1)), "ggplot")
  expect_equal(as.data.frame(simulate(evening, 500, seed = 1, threads = 2)),
               as.data.frame(simulate(evening, 500, seed = 1, threads = 1)))
})

test_that("a forgetful player with full recall is one of full memory, and the shuffle is the deal's", {
  game <- function(players) as.data.frame(simulate(game_pairs(pairs = 8, players = players), 2000, seed = 3))
  expect_equal(game(player_forgetful(1)), game(player_full_memory()))
  by_faro <- game_pairs(pairs = 4, seats = 1, shuffle = procedure("faro"))
  expect_equal(nrow(exact(by_faro)$outcomes), 1)
})

test_that("any deck whose cards come in twos will do", {
  orchard <- deck_from(demo_file("orchard.csv"))
  # Four suits of each rank: two pairs of each.
  twos <- game_pairs(deck = orchard, match_by = "rank", pairs = 22)
  expect_equal(length(twos$deck), 44)
  expect_equal(sum(trials(game_pairs(deck = orchard, match_by = "rank", pairs = 4, record = c("pairs_1", "pairs_2")),
                          1, 1:5)[, 2:3]), 20)
  expect_error(game_pairs(deck = deck_numbered(6), match_by = "rank", pairs = 2), "must come in twos by `rank`; \"1\"",
               class = "habanera_error_rules")
})

test_that("what cannot be played is refused with what is allowed", {
  bad <- list(
    list(quote(game_pairs(pairs = 27)), "input", "`pairs` must be a whole number from 1 to 26"),
    list(quote(game_pairs(deck = as_cards("AS AS KD KD"), pairs = 3, match_by = "card")), "rules",
         "has 2 pairs, not 3"),
    list(quote(game_pairs(grid = c(4, 5))), "rules", "A grid of 4 by 5 holds 20 cards, not the 30 of 15 pairs"),
    list(quote(game_pairs(players = list(player_random(), player_random(), player_random()))), "rules",
         "3 players for 2 seats"),
    list(quote(game_pairs(players = "full_memry")), "input", "did you mean \"full_memory\"?"),
    list(quote(game_pairs(players = "forgetful:recal=1")), "input", "is set as in"),
    list(quote(game_pairs(players = 3)), "input", "`players` must be a player"),
    list(quote(player_forgetful(1.5)), "input", "recall"),
    list(quote(game_pairs(piles = list("1", "2"))), "rules", "does not start from given"),
    list(quote(game_pairs(match_by = "suit")), "rules", "`match_by` must name an attribute")
  )
  for (case in bad) {
    expect_error(eval(case[[1]]), case[[3]], fixed = TRUE, class = paste0("habanera_error_", case[[2]]))
  }
})

test_that("pairs are played in the shell", {
  ran <- run_words("play", "pairs", "--set", "pairs=6, players=full_memory,forgetful:recall=0.5", "--trials", "2000",
                   "--seed", "1", "--format", "csv")
  game <- game_pairs(pairs = 6, players = list(player_full_memory(), player_forgetful(0.5)))
  expect_equal(utils::read.csv(text = ran$out)$n, as.data.frame(simulate(game, 2000, seed = 1))$n)
  varied <- run_words("vary", "pairs", "--over", "players=full_memory;careful;random", "--trials", "100", "--seed", "1")
  expect_match(varied$out, "careful", all = FALSE)
})

test_that("an R function plays as the player of the core that does the same", {
  # Full memory, written from its description alone.
  full_memory <- function(view, moves) {
    mate <- function(place) setdiff(which(view$lies & view$seen %in% view$seen[place]), place)
    unseen <- moves[is.na(view$seen[moves])]
    if (!is.na(view$first)) {
      found <- mate(view$first)
      if (length(found)) return(found[1])
      return(if (length(unseen)) unseen[1] else moves[1])
    }
    seen <- moves[!is.na(view$seen[moves])]
    paired <- seen[vapply(seen, function(place) length(mate(place)) > 0, NA)]
    if (length(paired)) paired[1] else if (length(unseen)) unseen[1] else moves[1]
  }
  by_function <- game_pairs(pairs = 6, players = list(player_with(full_memory), player_careful()))
  by_core <- game_pairs(pairs = 6, players = list(player_full_memory(), player_careful()))
  expect_equal(trials(by_function, 2, 1:40), trials(by_core, 2, 1:40))
  expect_equal(as.data.frame(simulate(by_function, 60, seed = 2)), as.data.frame(simulate(by_core, 60, seed = 2)))
  expect_equal(replay(by_function, 2, 7)$cards, replay(by_core, 2, 7)$cards)
  # Its luck is the trial's.
  lucky <- game_pairs(pairs = 5, players = player_with(function(view, moves) moves[sample(length(moves), 1)]))
  expect_equal(trials(lucky, 3, 4:6), trials(lucky, 3, 1:6)[4:6, ], ignore_attr = TRUE)
  expect_equal(attr(replay(lucky, 3, 5), "outcome")$turns, trials(lucky, 3, 5)$turns)
})

test_that("an R function that fails or makes no move is named with its trial and choice", {
  bad <- function(f) simulate(game_pairs(pairs = 2, players = player_with(f)), 10, seed = 5)
  expect_error(bad(function(view, moves) stop("no idea")), "failed at choice 1.*no idea.*seed 5, trial 1;",
               class = "habanera_error_function")
  expect_error(bad(function(view, moves) if (is.na(view$first)) moves[1] else view$first),
               "must return one of its moves \\(2, 3 and 4\\), not 1, at choice 2", class = "habanera_error_function")
  expect_error(bad(function(view, moves) "left"), "not \"left\"", class = "habanera_error_function")
  by_function <- game_pairs(pairs = 2, players = player_with(function(view, moves) moves[1]))
  expect_error(exact(by_function), "cannot walk an R function", class = "habanera_error_work")
  expect_error(exact(game_pairs(pairs = 2, players = "lookahead")), "player_lookahead", class = "habanera_error_work")
  # What was counted before the failure is in the error.
  calls <- 0
  failing <- player_with(function(view, moves) {
    calls <<- calls + 1
    if (calls > 6000) stop("tired") else moves[1 + (calls %% length(moves))]
  })
  cnd <- tryCatch(simulate(game_pairs(pairs = 1, seats = 1, players = failing), 1e4, seed = 1), error = identity)
  expect_s3_class(cnd, "habanera_error_function")
  expect_match(conditionMessage(cnd), "tired.*The counts of the [0-9,]+ trials before it")
  expect_equal(trials_of(cnd$counts), sum(cnd$counts$n))
})

# The table as two seats play it, in plain R and from the rules alone: each has a memory of places, which keeps what was
# shown since its last choice with its chance, and drops it after so many other cards.
played_by_hand <- function(pairs, recall, span, careful) {
  deck <- sample(rep(seq_len(pairs), 2))
  lies <- rep(TRUE, length(deck))
  shown <- looked <- integer(length(deck))
  kept <- list(integer(length(deck)), integer(length(deck)))
  looks <- list(looked, looked)
  sightings <- turns <- 0
  won <- c(0, 0)
  seat <- 1
  any_of <- function(places) places[sample.int(length(places), 1)]
  known_to <- function(seat, but) {
    for (place in which(lies & shown != looks[[seat]] & seq_along(deck) != but)) {
      if (runif(1) < recall[seat]) kept[[seat]][place] <<- shown[place]
      looks[[seat]][place] <<- shown[place]
    }
    which(lies & kept[[seat]] > 0 & sightings - kept[[seat]] <= span[seat] & seq_along(deck) != but)
  }
  show <- function(place) {
    sightings <<- sightings + 1
    shown[place] <<- sightings
  }
  while (any(lies)) {
    known <- known_to(seat, 0)
    paired <- known[deck[known] %in% deck[known][duplicated(deck[known])]]
    unknown <- setdiff(which(lies), known)
    first <- if (length(paired)) paired[1] else if (length(unknown)) any_of(unknown) else any_of(which(lies))
    show(first)
    known <- known_to(seat, first)
    unknown <- setdiff(which(lies), c(known, first))
    mate <- known[deck[known] == deck[first]]
    second <- if (length(mate)) mate[1] else if (careful[seat] && length(known)) known[1] else
      if (length(unknown)) any_of(unknown) else any_of(setdiff(which(lies), first))
    show(second)
    turns <- turns + 1
    if (deck[first] == deck[second]) {
      lies[c(first, second)] <- FALSE
      won[seat] <- won[seat] + 1
    } else {
      seat <- 3 - seat
    }
  }
  c(turns = turns, pairs_1 = won[1])
}

test_that("careful and forgetful players play as a slow program written from the rules has them", {
  set.seed(11)
  seats <- list(
    list(player_careful(), player_forgetful(0.6, 5), recall = c(1, 0.6), span = c(Inf, 5), careful = c(TRUE, FALSE)),
    list(player_forgetful(0.8, 3), player_forgetful(0.3), recall = c(0.8, 0.3), span = c(3, Inf),
         careful = c(FALSE, FALSE)),
    list(player_full_memory(), player_careful(), recall = c(1, 1), span = c(Inf, Inf), careful = c(FALSE, TRUE))
  )
  for (case in seats) {
    slow <- replicate(1500, played_by_hand(5, case$recall, case$span, case$careful))
    counts <- simulate(game_pairs(pairs = 5, players = case[1:2], record = c("turns", "pairs_1")), 20000, seed = 6)
    found <- tidy(counts)
    for (term in c("turns", "pairs_1")) {
      error <- sqrt(found$std.error[found$term == term]^2 + var(slow[term, ]) / ncol(slow))
      z <- (found$estimate[found$term == term] - mean(slow[term, ])) / error
      expect_lt(abs(z), standard_errors, label = paste(term, format(case[[1]]), format(case[[2]]), "z"))
    }
  }
})

test_that("who remembers nothing turns the square of the pairs, worked by hand", {
  # With n pairs left two cards taken blindly match with a chance of 1 in 2n - 1: the turns add up to 1 + 3 + 5 + ...
  for (pairs in 2:5) {
    found <- tidy(simulate(game_pairs(pairs = pairs, seats = 1, players = player_forgetful(0)), 20000, seed = pairs))
    turns <- found[found$term == "turns", ]
    expect_lt(abs(turns$estimate - pairs^2), standard_errors * turns$std.error)
  }
})

test_that("players that never finish a game are stopped, and the trial is named", {
  # Turns the first two cards for ever, unless they are a pair: of two pairs they are with chance 1/3.
  stubborn <- game_pairs(pairs = 2, seats = 1, players = player_with(function(view, moves) moves[1], "stubborn"))
  paired <- which(trials(game_pairs(pairs = 2, seats = 1), 1, 1:20)$turns == 2)
  expect_equal(trials(stubborn, 1, paired)$turns, rep(2, length(paired)))
  stuck <- setdiff(1:20, paired)[1]
  expect_error(trials(stubborn, 1, stuck), sprintf("seed 1: trial %d does not end in 200000 steps", stuck),
               class = "habanera_error_endless")
  law <- exact(game_pairs(pairs = 2, seats = 1, players = "random"))
  # Each turn of two among so many cards finds a pair with chance 1/(cards - 1): 3 turns, then 1.
  expect_equal(sum(law$outcomes$turns * law$probability), 4, tolerance = 1e-12)
})

test_that("R functions that decide are told apart, and stay out of files of rules", {
  first <- player_with(function(view, moves) moves[sample(length(moves), 1)], "one")
  other <- player_with(function(view, moves) rev(moves)[sample(length(moves), 1)], "other")
  game <- function(player) game_pairs(pairs = 3, players = player)
  file <- withr::local_tempfile()
  simulate(game(first), 20, seed = 1, checkpoint = file)
  expect_error(simulate(game(other), 40, seed = 1, checkpoint = file), "of another run",
               class = "habanera_error_checkpoint")
  expect_error(write_rules(game(first), withr::local_tempfile(fileext = ".yaml")), "cannot be written")
  varied <- vary_rules(game(first), players = list(first, other), nsim = 20, seed = 1)
  expect_equal(unique(varied$players), c("one", "other"))
  expect_error(vary_rules(game(first), players = list(first, first), nsim = 20, seed = 1), "would be played twice",
               class = "habanera_error_rules")
})

test_that("functions and built-in players are compared on the same deals", {
  full <- game_pairs(pairs = 3, players = c("full_memory", "random"))
  # A player that turns as the first one does in every trial: what it decides is read from the games of the other.
  first_open <- player_with(function(view, moves) moves[1], "first")
  by_function <- game_pairs(pairs = 1, players = list(first_open, "random"))
  built_in <- game_pairs(pairs = 1, players = list("full_memory", "random"))
  same <- compare(by_function, built_in, nsim = 50, seed = 1)
  expect_equal(tidy(same)$estimate, c(0, 0))
  expect_equal(sum(same$n), 50 * (1 + 3))
  careful <- game_pairs(pairs = 3, players = c("careful", "random"))
  in_core <- compare(full, careful, nsim = 300, seed = 2)
  in_r <- habanera:::pairs_in_r(in_core$provenance$experiment, 2, 1, 300)
  again <- habanera:::counted_outcomes(in_core$provenance$experiment, in_r)
  expect_equal(again$outcomes, in_core$outcomes)
  expect_equal(again$n, in_core$n)
  expect_equal(again$example_trial, in_core$example_trial)
})
