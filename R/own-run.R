# One game of one's own: what is the same for all its trials, and how one is played.

# What is the same for all trials.
custom_setting <- function(game) {
  own <- able(game, "in_r")
  seats <- game_seats(game)
  of_seat <- rep(own$piles == "own", lengths_of(own, seats))
  names <- pile_names(own$piles, seats)
  owner <- ifelse(of_seat, written_numbers(sub("^.*_", "", names)), 0)
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
  types <- vapply(able(game, "in_r")$outcomes, `[[`, "", "type")
  choices <- lapply(able(game, "in_r")$outcomes[types %in% c("choice", "flag")], `[[`, "choices")
  scores <- if ("seat" %in% types) score_names(setting$seats)
  list(outcomes = c(names(types), scores), seats = names(types)[types == "seat"],
       categories = lapply(choices, function(words) rlang::set_names(seq_along(words) - 1L, words)),
       actions = integer(), zones = list(name = ifelse(setting$owner > 0, sub("_[0-9]+$", "", setting$piles),
                                                       setting$piles), seat = unname(setting$owner)),
       holds_rounds = FALSE)
}

# A function of a deck (kinds from the top; NULL: not settled) that plays one game and gives all outcomes as numbers.
# `ask(seat, view, moves, usual)`, where given, chooses in the place of the players, whose choice is `usual()`. With
# `eyes` the table in the core, `core`, knows what the seats can see.
custom_player <- function(game, luck, watch = NULL, ask = NULL, eyes = FALSE) {
  own <- able(game, "in_r")
  setting <- custom_setting(game)
  players <- seated_players(game$rules$players, setting$seats)
  tables <- lapply(seq_along(players), function(seat) {
    if (players[[seat]]$name == "table") return(chances_by_table(players[[seat]], seat))
    if (players[[seat]]$name == "by_rules") chances_by_lines(players[[seat]])
  })
  functions <- lapply(players, function(player) if (player$name == "person") asked_in_r(player) else player$f)
  usual <- function(seat, view, moves) {
    if (length(moves) == 1) return(1)
    f <- functions[[seat]]
    if (!is.null(tables[[seat]])) return(luck$weighed(tables[[seat]](view, moves)))
    if (is.null(f)) return(luck$below(length(moves)))
    # Whose function is being asked, if it fails.
    core_table_ask_for(here$core, seat)
    answer <- asked_apart(f, view, moves)
    core_table_ask_for(here$core, 0)
    place_of_answer(answer, seat, moves)
  }
  choose <- if (is.null(ask)) usual else function(seat, view, moves) {
    ask(seat, view, moves, function() usual(seat, view, moves))
  }
  here <- new_table(setting, luck, choose, watch,
                    if (is.null(ask) && is.null(watch) && !luck$walks) asked_in_core(functions, tables), eyes)
  rules <- unclass(game$rules)
  kinds <- kinds_of(game$deck)
  read <- outcome_reader(own$outcomes, setting$seats)
  with_scores <- score_keeper(winner_among(own$outcomes), setting$seats)
  places <- if (is.null(own$of_cards)) match(codes_of(game$deck), kinds$codes) else seq_along(game$deck)
  lay <- deck_layer(own, setting, kinds$copies, places)
  play <- function(deck) {
    lies <- lay(deck)
    here$begin(lies$cards, lies$at, lies$bag)
    if (length(own$decks) > 1) for (pile in names(own$decks)) here$verbs$shuffle(pile)
    if (eyes || !is.null(watch)) here$deal()
    with_scores(read(own$play(here$verbs, rules, players)))
  }
  structure(play, core = here$core)
}

# Players as the core asks them: a function, TRUE where luck chooses, NULL where only R knows how.
asked_in_core <- function(functions, tables) {
  Map(function(f, table) if (!is.null(table)) NULL else if (is.null(f)) TRUE else f, functions, tables)
}

# A player finds nothing in the frame that calls it, and no way from there to the table.
asked_apart <- function(f, view, moves) f(view, moves)
environment(asked_apart) <- baseenv()

# A person chooses by the places of moves, which may be anything, and is told them in words.
asked_in_r <- function(player) {
  choices <- 0
  asked <- if (!is.null(player$asked)) player$asked else function(view, moves, choice) {
    tryCatch(asked_move(shown_words(view), as.vector(moves), attr(moves, "words")),
             habanera_stopped = function(cnd) rlang::interrupt())
  }
  function(view, moves) {
    choices <<- choices + 1
    words <- vapply(seq_along(moves), function(i) paste(format(moves[[i]]), collapse = " "), "")
    moves[[asked(view, structure(seq_along(moves), words = words), choices)]]
  }
}

# One game, its luck being that of the address of its trial.
custom_trial <- function(game, seed, trial, play, deck) {
  with_own_errors(with_trial_generator(seed, trial, player_lane, play(deck)), game, seed, function() trial, play)
}

# What goes wrong in a game is told with its step and how to play it again: `trial()` is the number of the one played,
# or NULL where courses are walked.
with_own_errors <- function(code, game, seed, trial, play) {
  tryCatch(code, error = function(cnd) {
    ours <- inherits(cnd, "habanera_error")
    # What ends a game by intent, and what is said of more than the user's code.
    passes <- inherits(cnd, c("habanera_far_enough", "habanera_stopped")) ||
      (ours && !inherits(cnd, "habanera_error_function"))
    if (passes) stop(cnd)
    core <- attr(play, "core")
    asked <- if (is.null(core)) 0 else core_table_asked(core)
    said <- if (ours) rlang::cnd_message(cnd) else {
      sprintf("%s failed: %s.", if (asked > 0) sprintf("The player of seat %d", asked) else "Your play()",
              sub("[.]?[[:space:]]*$", "", conditionMessage(cnd)))
    }
    if (!is.null(core)) said <- sprintf("%s (step %s)", said, format_count(core_table_steps(core)))
    if (is.null(trial())) refuse(said, "function", NULL)
    refuse_in_trial(rlang::error_cnd(message = said), game, seed, trial())
  })
}

# Where the cards lie at first, as a function of the deck: those of one deck on the first pile, of several each on its
# own.
deck_layer <- function(own, setting, copies, places) {
  if (length(own$decks) == 1 && is.null(names(own$decks))) {
    return(function(deck) {
      list(cards = list(if (is.null(deck)) rep(-1L, sum(copies)) else deck), at = 1,
           bag = if (is.null(deck)) copies)
    })
  }
  part <- rep(seq_along(own$decks), own$decks)
  each <- list(cards = lapply(seq_along(own$decks), function(i) places[part == i]),
               at = match(names(own$decks), setting$piles))
  function(deck) each
}

# One of each name, or one for each seat.
pile_names <- function(piles, seats) {
  unlist(lapply(names(piles), function(name) {
    if (piles[[name]] == "own") paste(name, seq_len(seats), sep = "_") else name
  }))
}
