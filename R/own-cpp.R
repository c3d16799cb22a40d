#' Your own game in C++
#'
#' A game as one C++ file, at the speed of the games that are shipped: it is simulated, replayed, worked out, compared,
#' varied, drawn and reported as these, and played by random, looking-ahead and solved players, by R functions and by
#' players of its own.
#'
#' The file has a class `Game`, made against the headers of this package (`#include "habanera/own.hpp"`; what it must
#' and may have stands there, in `habanera/own/game.hpp`). A game is a *position*, and what comes `next` in it: the top
#' card of the shuffled deck goes to a pile (`give()`), a seat decides (`moves()`, `move()`), or it is over
#' (`outcome()`).
#' The example `lift.cpp` has all of it, with comments; [write_game_template()] with `cpp = TRUE` copies it. A game that
#' shuffles again while it is played is for [game_custom()].
#'
#' The file is compiled once, which needs the tools that R packages are compiled with: what has it played in some
#' seconds when it is read; what replays it and works it out, and players who weigh moves, in half a minute when they
#' are asked for. What was compiled is kept by its content in `tools::R_user_dir("habanera", "cache")`. Your code runs
#' in R's own process: what it writes outside of its arrays can end the session, as in any C++.
#'
#' @param file The file, `.cpp`.
#' @param ... Rules by name, as the file states them; `deck`, the cards; and `players`: one for all seats or a list
#'   with one for each, of [player_random()], [player_with()] a function of `view` (a list of what the seat's view
#'   shows) and `moves` (their names, with amounts, or numbers), [player_lookahead()], [player_peeking()],
#'   [player_solved()], [player_by_table()], [player_mixture()] of these, [player_person()], or the name of a player
#'   that the file brings.
#' @param rules,shuffle,seat_names,record As in [game_war()].
#' @return A game: an experiment for [simulate()], [exact()], [trials()], [replay()], [compare()], [vary_rules()],
#'   [best_play()], [round_robin()], [check_game()] and the rest.
#' @section Outcomes: Those that the file states; of a game in which a seat wins also `score_1`, `score_2`, ...: what
#'   each seat has of the win.
#' @section Errors: `habanera_error_function` for a file that does not compile, with the line and what the compiler says
#'   of it, and for what goes wrong in the game, with the trial, the step and how to play it again;
#'   `habanera_error_endless` for a game that does not end in 200,000 steps; `habanera_error_rules` for rules that the
#'   file refuses.
#' @seealso [game_custom()] for a game as an R function; [check_game()]; [hidden_cards] for seats that hide cards from
#'   each other.
#' @examples
#' \donttest{
#' lift <- game_cpp(system.file("examples", "lift.cpp", package = "habanera"),
#'                  players = list("daring", "random"))
#' simulate(lift, nsim = 10000, seed = 1)
#' replay(lift, seed = 1)
#' }
#' @export
game_cpp <- function(file, ..., rules = NULL, shuffle = NULL, seat_names = NULL, record = NULL) {
  check_given()
  call <- rlang::current_env()
  make_game(kind_in_cpp(file, call), rlang::list2(...), rules, game_settings(shuffle, NULL, seat_names, record), call)
}

#' Seats that hide their cards: what belongs where
#'
#' For who writes a game in C++ in which seats hide cards from each other, as in the example `lanterns.cpp`.
#'
#' * **`Position`** holds all that is the case, everybody's cards too. No player ever gets it.
#' * **`View`**, a `Sight<View>`, holds what one seat sees, and is all that a player is handed: its own cards, what lies
#'   open, and what was done. `view(position, seat)` makes it. It can hold no way back to the position: a file whose
#'   view is one, or leads to one, does not compile. Its `shown()` tells all that is in it, thing by thing, by
#'   `shows("card", card)` of numbers and `shows_words("made", made)` of words; equality, hash and text are made of
#'   that. R's players get the same as a list.
#' * **What a seat remembers is part of its view.** Best play is found by what is seen, so that two moments which look
#'   alike must have the same past: hold the moves that were made. A game whose view is less says
#'   `static constexpr bool view_forgets = true`; [best_play()] and [equilibrium()] then refuse it where it matters.
#' * **Piles** say who sees the cards on them: `pile_hidden()`, `pile_open()`, `pile_own()` (a pile for each seat). From
#'   them come the cards that a seat has not seen, which [player_lookahead()] deals anew.
#' * **Amounts.** Moves are numbers below 64. Where they have amounts, `told(position, move)` gives the `OwnMove` that a
#'   number stands for there, such as `{bet, 20}`: which of `move_names`, and how much. Views, tables, logs and R's
#'   players have both: "bet 20".
#' * **`likeness(card)`** is the same for cards that no rule tells apart: they are one row of every table.
#' * **`worth(outcome, seat)`** says what an outcome is worth to a seat; without it the win, or money.
#'
#' [check_game()] deals the unseen cards anew at every choice and looks whether the seat is shown, or a player of the
#' file does, something else; and whether views tell what was seen and done before. [player_with()] functions are called
#' apart from the game's own frames.
#'
#' Evidence: a player who looks ahead weighs the deals by what the others did, where it is told how they play
#' (`playing =`); [best_play()] does so by the players `against =` whom it answers. Neither reads who really sits there.
#' @seealso [game_cpp()], [equilibrium()], [best_play()], [player_by_table()].
#' @name hidden_cards
NULL

# The kind that a file states. What is compiled is looked up where it is needed: a kind may come from another process.
kind_in_cpp <- function(file, call) {
  code <- cpp_code(file, call)
  part <- function(name) game_worked_out(file, code, call)[[name]]
  plays <- function() game_plays(file, code, call)
  stated <- checked_statement(core_own_statement(plays()), file, call)
  whole <- function(spec) made_machine(part("machine"), spec, file = file)
  machine <- function(spec) {
    if (is_played_alone(spec$players, stated)) made_machine(core_own_game, plays(), spec, file = file) else whole(spec)
  }
  columns <- cpp_columns(stated)
  winner <- names_where(stated$outcomes, "type", "seat")[1]
  new_kind(
    stated$name, gsub("_", " ", sentence(stated$name)), "game_cpp", stated$summary, cpp_rules(stated), columns,
    names_of(stated$outcomes), machine, whole_machine = whole,
    can = cpp_capabilities(stated, part, file, winner), code = paste(code, collapse = "\n"),
    settled = function(rules, piles, changed, call) {
      refuse_other_number(rules$players, seats_of(rules), call)
      refuse_unweighed(stated, rules$players, seats_of(rules), call)
      refuse_unsolvable(seated_players(rules$players, seats_of(rules)), call)
      rules
    },
    fitted = function(rules, call) list(units = cpp_units(stated)),
    cards = function(rules, deck, record, kept, call) cards_for_cpp(deck),
    core = function(rules, cards, dealing) cpp_spec(stated, rules, cards),
    likeness = function(game) core_own_likeness(plays(), game$spec$rules), limits = function(rules) score_limits(),
    step_notes = if (stated$has_amounts) function(game, action, steps) {
      ifelse(grepl("^chooses ", action) & steps$value != 0, paste0(" ", format_count(steps$value)), "")
    },
    view_words = function(rules, view) shown_words(view), move_words = if (length(stated$moves)) stated$moves,
    winner = if (!is.na(winner)) winner, step_words = c(deal = "shuffled"),
    end_in_words = function(trace) outcomes_in_words(attr(trace, "outcome")[names_of(stated$outcomes)]),
    fewer_deals = "a smaller deck, coarser cards, or a key() in the file"
  )
}

cpp_capabilities <- function(stated, part, file, winner) {
  c(list(
    compiled = list(file = file, failing_step = function(game, seed, trial) {
      part("failing_step")(game$spec$rules, game_deck(game, seed, trial), seed, trial)
    }),
    searches = list(solve = function(game, seat, call) {
      if (stated$hides_cards) return(cpp_best_answer(game, seat, part, stated, call))
      solved_in_seat(game, seat, call, function(player) cpp_solved(part("solved")(player), stated))
    }),
    prices_mistakes = list(by_sight = function(game, seat, call) cpp_mistakes(game, seat, part, stated, call)),
    plays_soundly = list(solve = function(game, gap, seconds, call) {
      cpp_sound(game, gap, seconds, part, stated, call)
    }),
    hides = c(list(leak = function(game, nsim, seed) cpp_leak(game, part("hiding"), nsim, seed)),
              if (stated$hides_cards && !stated$view_forgets) {
                list(forgotten = function(game, nsim, seed) cpp_forgotten(game, part("hiding"), nsim, seed))
              })
  ), if (!is.na(winner)) list(scores = list(
    columns = function(rules) sprintf("score_%d", seq_len(seats_of(rules))), of = "the win"
  )))
}

# Whether the players, as the core takes them, go by what they are shown, or are those of the file: who weighs moves
# works the game out.
is_played_alone <- function(players, stated) {
  is_plain <- function(player) {
    player$name %in% plain_players || player$name == "mixture" && all(vapply(player$players, is_plain, NA))
  }
  all(vapply(players, function(player) is_plain(player) || player$name %in% names_of(stated$players), NA))
}

plain_players <- c("random", "table", "by_rules", "with")

# What the class refuses when it is made.
made_machine <- function(machine, ..., file) {
  tryCatch(machine(...), `C++Error` = function(cnd) {
    refuse(sprintf("%s cannot be played so: %s.", basename(file), conditionMessage(cnd)), "rules", NULL)
  })
}

cpp_code <- function(file, call) {
  check_string(file, "file", call)
  if (!is_cpp_file(file)) refuse(sprintf("`file` must be a .cpp file, not %s.", quoted(file)), call = call)
  code <- read_text_lines(file, call)
  if (!any(grepl("\\b(class|struct|using)[[:space:]]+Game\\b", code))) {
    refuse(sprintf("%s must have a class `Game`.", file_name(file)), "function", call)
  }
  code
}

is_cpp_file <- function(name) length(name) == 1 && grepl("[.]cpp$", name)

names_of <- function(things) vapply(things, `[[`, "", "name")

names_where <- function(things, field, is) names_of(Filter(function(thing) thing[[field]] == is, things))

seats_of <- function(rules) if (is.null(rules$seats)) 1 else rules$seats

# What stands in a file is held to the same as what game_custom() is given.
checked_statement <- function(stated, file, call) {
  slip <- function(...) refuse(sprintf("%s: %s", file_name(file), sprintf(...)), "function", call)
  small <- "^[a-z][a-z0-9_]*$"
  for (field in c("rules", "outcomes", "piles", "players")) {
    names <- names_of(stated[[field]])
    bad <- c(names[!grepl(small, names)], names[duplicated(names)])
    if (length(bad)) slip("`%s`: %s must be a name of its own, in small letters, digits and _.", field, quoted(bad[1]))
  }
  if (!grepl(small, stated$name)) slip("`name` must be of small letters, digits and _, not %s.", quoted(stated$name))
  taken <- c(intersect(names_of(stated$rules), names_of_settings), has_meaning(names_of(stated$outcomes)),
             intersect(names_of(stated$players), c(names(player_makers()), "with", "nobody")))
  if (length(taken)) slip("the name %s has a meaning already.", quoted(taken[1]))
  seats <- Filter(function(rule) rule$name == "seats", stated$rules)
  if (length(seats) && seats[[1]]$to > most_custom_seats()) slip("at most %d `seats` can play.", most_custom_seats())
  stated
}

names_of_settings <- c("deck", "players", "game", "file", "rules", "shuffle", "piles", "record")

cpp_rules <- function(stated) {
  c(list(rule_deck("the cards"),
         rule_players(c("random", "lookahead", "peeking", "solved", "table", "by_rules", "mixture", "person"),
                      "who decides for the seats", names_of(stated$players))),
    lapply(stated$rules, function(rule) {
      switch(rule$type, whole = rule_whole(rule$name, rule$default, rule$from, rule$to, rule$meaning),
             fraction = rule_fraction(rule$name, rule$default, rule$from, rule$to, rule$meaning),
             flag = rule_flag(rule$name, rule$default != 0, rule$meaning),
             choice = rule_choice(rule$name, rule$choices, rule$meaning))
    }))
}

cpp_columns <- function(stated) {
  outcomes <- rlang::set_names(lapply(stated$outcomes, function(outcome) {
    new_outcome(outcome$type, outcome$meaning, coin = outcome$coin)
  }), names_of(stated$outcomes))
  seats <- Filter(function(rule) rule$name == "seats", stated$rules)
  c(outcome_columns(outcomes),
    if (length(names_where(stated$outcomes, "type", "seat"))) score_columns(if (length(seats)) seats[[1]]$to else 1))
}

cpp_units <- function(stated) {
  money <- Filter(function(outcome) outcome$type == "money", stated$outcomes)
  c(rlang::set_names(lapply(money, function(outcome) 1 / outcome$coin), names_of(money)), score_units())
}

# Attributes of the kinds of cards, as numbers where they are, and as text.
cards_for_cpp <- function(deck) {
  kinds <- kinds_of(deck)
  data <- as.list(catalogue_of(deck)$data[kinds$codes, , drop = FALSE])
  numbers <- Filter(is.numeric, data)
  list(card_numbers = lapply(numbers, as.double),
       card_words = lapply(data, function(values) ifelse(is.na(values), "", as.character(values))),
       copies = as.double(kinds$copies))
}

cpp_spec <- function(stated, rules, cards) {
  values <- lapply(unclass(rules)[names_of(stated$rules)], function(value) {
    if (is.logical(value)) as.double(value) else value
  })
  table <- list(setting = c(list(rules = values), cards))
  words <- if (length(stated$moves)) stated$moves
  c(table, list(players = core_players(seated_players(rules$players, seats_of(rules)), table, shown_words, words)))
}

cpp_solved <- function(found, stated) c(found, list(words = worth_on_average(found$worth, of_win(stated))))
