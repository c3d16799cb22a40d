# Runs games of one's own: one trial after the other, every course, or step by step.

# A function of a deck that plays one game, whoever sits there.
custom_runner <- function(game, watch = NULL) {
  if (looks_ahead(game)) custom_player_ahead(game, watch) else custom_player(game, drawn_luck(), watch)
}

custom_trials <- function(game, seed, trials) {
  play <- custom_runner(game)
  at <- NULL
  outcomes <- custom_words(game)$outcomes
  found <- matrix(0, length(outcomes), length(trials), dimnames = list(outcomes, NULL))
  with_own_errors(with_generator_kept(for (block in blocks_of(seq_along(trials), trials_at_once)) {
    decks <- game_decks(game, seed, trials[block])
    seeds <- core_generator_seeds(seed, trials[block], player_lane, generator_kind)
    for (i in seq_along(block)) {
      at <- trials[block[i]]
      set_generator(seeds[, i])
      found[, block[i]] <- play(decks[, i])
    }
  }), game, seed, function() at, play)
  list(rows = lapply(game$record, function(name) found[name, ]), each = rep(1, length(trials)))
}

# Decks are shuffled together for as many trials.
trials_at_once <- 1000
blocks_of <- function(numbers, size) split(numbers, (numbers - 1) %/% size)

# One game with its steps, as the core gives those of others.
custom_replay <- function(game, deck, seed, trial, kept) {
  steps <- list()
  zones <- list()
  setting <- custom_setting(game)
  play <- custom_runner(game, function(action, seat, cards, piles) {
    steps[[length(steps) + 1]] <<- list(action = action, seat = seat, cards = cards, sizes = unname(lengths(piles)))
    if (length(steps) == kept) zones <<- unname(piles)
  })
  outcome <- custom_trial(game, seed, trial, play, deck)
  part <- function(name, type) vapply(steps, `[[`, type, name)
  zero <- rep(0, length(steps))
  list(steps = list(depth = zero, round = as.numeric(seq_along(steps) > 1), seat = part("seat", 0),
                    action = part("action", ""), cards = lapply(steps, `[[`, "cards"),
                    sizes = do.call(rbind, lapply(steps, `[[`, "sizes")), value = zero, open = zero, line = zero,
                    running_count = zero, true_count = zero),
       outcome = as.list(unname(outcome)), zones = zones)
}

# Every course with its chance: rows of the recorded outcomes, and their probability.
custom_walk <- function(game, most, call) {
  if (!is_uniform(game$shuffle)) refuse("Courses are walked from a uniform shuffle; simulate().", "work", call)
  refuse_courses(game, most, call)
  luck <- walked_luck()
  play <- custom_player(game, luck)
  rows <- list()
  chances <- numeric()
  walked <- function() with_own_errors(play(NULL), game, 0, function() NULL, play)
  repeat {
    luck$begin()
    rows[[length(rows) + 1]] <- walked()[game$record]
    chances[length(rows)] <- luck$chance()
    if (length(rows) > most) {
      refuse(sprintf("There are more than %s courses to walk.", format_count(most)), "work", call)
    }
    if (!luck$next_one()) break
  }
  list(rows = lapply(seq_along(game$record), function(i) vapply(rows, `[[`, 0, i)), probability = chances)
}

refuse_courses <- function(game, most, call) {
  about <- count_of_courses(game)
  if (about <= most) return(invisible())
  refuse(sprintf("There are about %s courses of the game to walk; at most %s are. Take %s, or simulate().",
                 format_number(about, 2), format_count(most), kind_of(game)$fewer_deals), "work", call)
}

# About how many courses there are: the mean of the product of the choices on the way of courses taken at random (Knuth
# 1975, Mathematics of Computation 29, 121-136).
count_of_courses <- function(game) {
  ways <- 1
  choose <- function(n) {
    ways <<- ways * n
    sample.int(n, 1)
  }
  play <- custom_player(game, list(walks = TRUE, below = choose, weighed = function(weights) {
    open <- which(weights > 0)
    open[choose(length(open))]
  }))
  dives <- function() vapply(1:100, function(dive) {
    ways <<- 1
    play(NULL)
    ways
  }, 0)
  mean(with_own_errors(with_trial_generator(1, 1, 0, dives()), game, 0, function() NULL, play))
}

custom_outcome <- function(game, kinds, names, seed) {
  values <- custom_trial(game, seed, 1, custom_runner(game), kinds)
  game_outcomes(game, as.data.frame(as.list(values)))
}
