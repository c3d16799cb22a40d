# Best play of a seat at a game of one's own in R: every course is walked, the seat's own choices left open, and these
# are made from the last to the first, each by all that the seat was shown and did before it.

custom_solved <- function(game, seat, call) {
  players <- seated_players(game$rules$players, game_seats(game))
  if (!all(vapply(players[-seat], function(player) player$name %in% c("random", "table", "by_rules"), NA))) {
    refuse(paste("The other seats of a game in R must play at random (player_random()), or by player_by_table(), to be",
                 "gone through."), "rules", call)
  }
  tells <- tells_worth_to_all(vapply(able(game, "in_r")$outcomes, `[[`, "", "type"), game_seats(game))
  if (!tells && is.null(able(game, "in_r")$worth)) {
    refuse("Best play must know what outcomes are worth: `worth`, an outcome that is a seat, or money for each seat.",
           "rules", call)
  }
  if (!is_uniform(game$shuffle)) refuse("Courses are walked from a uniform shuffle.", "work", call)
  game <- change_game(game, list(players = replace(players, seat, list(player_random()))), call)
  refuse_courses(game, most_paths, call)
  courses <- open_courses(game, seat, call)
  worth <- best_worth(courses, seq_along(courses$worth), 1)
  words <- if (is.null(kind_of(game)$winner)) sprintf("%s on average", format_number(worth, 6)) else {
    sprintf("%s of the win", format_percent(worth, 5))
  }
  list(worth = worth, positions = length(unique(unlist(courses$seen))), words = words, game = in_words(game))
}

# Of every course what the seat was shown at its choices (as a key of all before them, too), what it chose, and what
# came of it, weighed with the chance of all that it did not choose.
open_courses <- function(game, seat, call) {
  luck <- walked_luck()
  seen <- made <- list()
  worth <- numeric()
  now <- list()
  ask <- function(at, view, moves, usual) {
    if (at != seat || length(moves) == 1) return(usual())
    chosen <- luck$free(length(moves))
    now$seen <<- c(now$seen, rlang::hash(list(now, view, moves)))
    now$made <<- c(now$made, chosen)
    chosen
  }
  play <- custom_player(game, luck, ask = ask)
  worth_to <- worth_reader(game)
  repeat {
    luck$begin()
    now <- list(seen = character(), made = integer())
    values <- with_own_errors(play(NULL), game, 0, function() NULL, play)
    course <- length(worth) + 1
    if (course > most_paths) {
      refuse(sprintf("There are more than %s courses to walk.", format_count(most_paths)), "work", call)
    }
    seen[[course]] <- now$seen
    made[[course]] <- now$made
    worth[course] <- luck$chance() * worth_to(values, seat)
    if (!luck$next_one()) return(list(seen = seen, made = made, worth = worth))
  }
}

# What the courses of these places are worth with the best choices from that of this number on.
best_worth <- function(courses, places, number) {
  lasts <- lengths(courses$seen[places]) >= number
  over <- sum(courses$worth[places[!lasts]])
  places <- places[lasts]
  if (!length(places)) return(over)
  at <- vapply(courses$seen[places], `[[`, "", number)
  chosen <- vapply(courses$made[places], `[[`, 0L, number)
  best <- vapply(split(seq_along(places), at), function(alike) {
    max(vapply(split(alike, chosen[alike]), function(one) best_worth(courses, places[one], number + 1), 0))
  }, 0)
  over + sum(best)
}
