# Runs games of one's own: one trial after the other, every course, or step by step.

# What is the same for all trials.
custom_setting <- function(game) {
  own <- game$kind$own_play
  seats <- game$kind$seats(game$rules)
  of_seat <- rep(own$piles == "own", lengths_of(own, seats))
  names <- pile_names(own$piles, seats)
  owner <- ifelse(of_seat, suppressWarnings(as.numeric(sub("^.*_", "", names))), 0)
  kinds <- kinds_of(game$deck)
  # A check tells every card apart; else cards are numbered by their kinds.
  cards <- if (is.null(own$of_cards)) seq_along(kinds$codes) else own$of_cards
  list(piles = names, owner = rlang::set_names(owner, names), open = rep(own$piles == "open", lengths_of(own, seats)),
       faces = kinds$cards[cards], seats = seats,
       of = as.list(catalogue_of(game$deck)$data[kinds$codes[cards], , drop = FALSE]))
}

# How many piles there are of each name.
lengths_of <- function(own, seats) ifelse(own$piles == "own", seats, 1)

custom_words <- function(game) {
  setting <- custom_setting(game)
  types <- vapply(game$kind$own_play$outcomes, `[[`, "", "type")
  choices <- lapply(game$kind$own_play$outcomes[types %in% c("choice", "flag")], `[[`, "choices")
  list(outcomes = names(types), seats = names(types)[types == "seat"],
       categories = lapply(choices, function(words) rlang::set_names(seq_along(words) - 1L, words)),
       actions = integer(), zones = list(name = ifelse(setting$owner > 0, sub("_[0-9]+$", "", setting$piles),
                                                       setting$piles), seat = unname(setting$owner)),
       holds_rounds = FALSE)
}

# A function of a deck (kinds from the top; NULL: not settled) that plays one game and gives all outcomes as numbers.
# `ask(seat, view, moves, usual)`, where given, chooses in the place of the players, whose choice is `usual()`.
custom_player <- function(game, luck, watch = NULL, ask = NULL) {
  own <- game$kind$own_play
  setting <- custom_setting(game)
  players <- seated_players(game$rules$players, setting$seats)
  usual <- function(seat, view, moves) player_choice(players[[seat]], seat, view, moves, luck)
  choose <- if (is.null(ask)) usual else function(seat, view, moves) {
    ask(seat, view, moves, function() usual(seat, view, moves))
  }
  here <- new_table(setting, luck, choose, watch)
  rules <- unclass(game$rules)
  kinds <- kinds_of(game$deck)
  places <- if (is.null(own$of_cards)) match(codes_of(game$deck), kinds$codes) else seq_along(game$deck)
  function(deck) tryCatch({
    lies <- laid_decks(own, setting, deck, kinds$copies, places)
    here$begin(lies$piles, lies$bag)
    if (length(own$decks) > 1) for (pile in names(own$decks)) here$verbs$shuffle(pile)
    if (!is.null(watch)) watch("deal", 0, integer(), here$piles())
    values <- own_code(own$play(here$verbs, rules, players))
    outcome_numbers(own$outcomes, values, setting$seats)
  }, habanera_error_function = function(cnd) {
    refuse(sprintf("%s (step %s)", rlang::cnd_message(cnd), format_count(here$step())), "function", NULL)
  })
}

# The place of the move that a player makes.
player_choice <- function(player, seat, view, moves, luck) {
  if (length(moves) == 1) return(1)
  if (is.null(player$f)) return(luck$below(length(moves)))
  answer <- refuse_if_fails(player$f(view, moves), sprintf("The player of seat %d failed.", seat), "function", NULL)
  chosen <- which(vapply(seq_along(moves), function(i) identical_move(moves[[i]], answer), NA))
  if (length(chosen)) return(chosen[1])
  open <- vapply(seq_along(moves), function(i) paste(format(moves[[i]]), collapse = " "), "")
  refuse(sprintf("The player of seat %d must return one of its moves (%s), not %s.", seat, join_some(open, 8),
                 said(answer)), "function", NULL)
}

identical_move <- function(move, answer) {
  identical(move, answer) || (length(move) == 1 && length(answer) == 1 && isTRUE(move == answer))
}

# What fails in the user's code is told as it stands there; what we refuse stays so.
own_code <- function(code) {
  tryCatch(code, error = function(cnd) {
    if (inherits(cnd, c("habanera_error", "habanera_far_enough"))) stop(cnd)
    refuse(sprintf("Your play() failed: %s.", sub("[.]?[[:space:]]*$", "", conditionMessage(cnd))), "function", NULL)
  })
}

# Where the cards lie at first: those of one deck on the first pile, of several each on its own.
laid_decks <- function(own, setting, deck, copies, places) {
  if (length(own$decks) == 1 && is.null(names(own$decks))) {
    piles <- if (is.null(deck)) rep(-1, sum(copies)) else deck
    return(list(piles = rlang::set_names(list(piles), setting$piles[1]), bag = if (is.null(deck)) copies))
  }
  part <- rep(seq_along(own$decks), own$decks)
  list(piles = lapply(rlang::set_names(seq_along(own$decks), names(own$decks)), function(i) places[part == i]),
       bag = NULL)
}

custom_trials <- function(game, seed, trials) {
  play <- custom_runner(game)
  found <- vapply(trials, function(trial) {
    deck <- game_deck(game, seed, trial)
    in_trial(game, seed, trial, play(deck))[game$record]
  }, rlang::set_names(numeric(length(game$record)), game$record))
  found <- matrix(found, nrow = length(game$record))
  list(rows = lapply(seq_along(game$record), function(i) found[i, ]), each = rep(1, length(trials)))
}

# One game with its steps, as the core gives those of others.
custom_replay <- function(game, deck, seed, trial, kept) {
  steps <- list()
  zones <- list()
  setting <- custom_setting(game)
  play <- custom_runner(game, function(action, seat, cards, piles) {
    steps[[length(steps) + 1]] <<- list(action = action, seat = seat, cards = cards, sizes = unname(lengths(piles)))
    if (length(steps) == kept) zones <<- unname(piles)
  })
  outcome <- in_trial(game, seed, trial, play(deck))
  part <- function(name, type) vapply(steps, `[[`, type, name)
  zero <- rep(0, length(steps))
  list(steps = list(depth = zero, round = zero, seat = part("seat", 0), action = part("action", ""),
                    cards = lapply(steps, `[[`, "cards"),
                    sizes = do.call(rbind, lapply(steps, `[[`, "sizes")), value = zero, open = zero,
                    running_count = zero, true_count = zero),
       outcome = as.list(unname(outcome)), zones = zones)
}

# Every course with its chance: rows of the recorded outcomes, and their probability.
custom_walk <- function(game, most, call) {
  if (!is_uniform(game$shuffle)) refuse("Courses are walked from a uniform shuffle; simulate().", "work", call)
  about <- count_of_courses(game)
  if (about > most) {
    refuse(sprintf("There are about %s courses of the game to walk; at most %s are. Take %s, or simulate().",
                   format_number(about, 2), format_count(most), game$kind$fewer_deals), "work", call)
  }
  luck <- walked_luck()
  play <- custom_player(game, luck)
  rows <- list()
  chances <- numeric()
  repeat {
    luck$begin()
    rows[[length(rows) + 1]] <- play(NULL)[game$record]
    chances[length(rows)] <- luck$chance()
    if (length(rows) > most) {
      refuse(sprintf("There are more than %s courses to walk.", format_count(most)), "work", call)
    }
    if (!luck$next_one()) break
  }
  list(rows = lapply(seq_along(game$record), function(i) vapply(rows, `[[`, 0, i)), probability = chances)
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
  with_trial_generator(1, 1, 0, mean(vapply(1:100, function(dive) {
    ways <<- 1
    play(NULL)
    ways
  }, 0)))
}
