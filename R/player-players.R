#' Players
#'
#' Who decides for the seats of a game, given to it as its rule `players`: one for all seats, or a list with one for
#' each.
#'
#' `player_full_memory()` remembers all that was turned: it takes a known pair first, else turns a card it has not seen,
#' then its mate if that is known, else another it has not seen. `player_careful()` does the same, but where the mate of
#' the first card is not known turns one already seen with its second, so that nothing new is shown.
#' `player_forgetful()` looks at each of its choices on what was shown since the last: each of these cards it keeps with
#' the chance `recall`, and drops it after `span` other cards; one that it has kept it does not lose by seeing it again.
#' Among cards it does not know it takes any. `player_random()` makes any move. `player_calls_all()`, of
#' [game_betting()], calls whatever is bet and bets nothing. `player_with()` is a function of yours.
#' `player_flat()` is who lays the same bet each round where nothing is decided.
#'
#' `player_lookahead()` knows no game: it tries each move by games played out at random, the cards that its seat has not
#' seen being dealt anew among the deals that fit, the same deals for every move, and makes the one that is best on
#' average (of pairs: has most of the win; alone: takes fewest turns). Its judgement is that of whoever plays these
#' games out: the random player will do for any game, a better one looks further. Comes a position again, it makes
#' another move than before. `player_peeking()` does the same but sees more than it may, at a game of [game_cpp()], so
#' that a peek can be priced: only this player does. `player_solved()` plays best: every course of the
#' game is gone through, with the other seats as they are, or played as `game` or `against` says; see also
#' [best_play()]. `player_person()` is you, at the console: for [replay()][replay_game] and [trials()] of a trial or a
#' few; [sit_in()] keeps your moves, too.
#'
#' @param recall The chance that a card seen is kept in mind, from 0 to 1.
#' @param span After how many other cards seen it is dropped; `Inf`: never.
#' @param name What it is called in prints and tables.
#' @param samples How many games are played out for each move.
#' @param playing The player who plays them out, for all seats: `player_random()`, `player_full_memory()`,
#'   `player_careful()`; of [game_cpp()] also [player_by_table()], a mixture, or the name of a player of the file. Where
#'   seats hide cards from each other, what they did is weighed by how likely this player does it with what they may
#'   hold (Bayes); with `player_random()`, who assumes nothing, all deals that fit are alike.
#' @param sees What is seen beside what a seat may: `"hands"` (those of the others), `"next"` (the next card of the
#'   stock), or both; `how_often` of its choices.
#' @param game,against A game, or players for all its seats in their order (the solved one's own seat does not matter),
#'   against whom best play is found; `NULL`: those who sit in the game with it.
#' @param f An R function of `view` and `moves` that returns one of `moves`, a vector of whole numbers. Of
#'   [game_pairs()] a move is a place, counted from 1, and `view` a list of `seen` (for each place the number of
#'   the pair that its card belongs to, `NA` where nobody has seen it), `when` (at which sighting it was last seen),
#'   `lies` (whether a card
#'   still lies there), `first` (the place of the card turned first, `NA` before), `seat` and `pairs` (won by each
#'   seat).
#'   Of [game_video_poker()] `view` is a list of the hand's `card`, `rank`, `suit` and `rank_high`, and the function
#'   returns the places of the cards that are kept, or TRUE or FALSE for each.
#'   R's generator is set from each trial's address before the game. Such games are played one after the other, in R.
#' @return A `habanera_player`. As text, for the shell and files, the name and what is set:
#'   `"forgetful:recall=0.7:span=6"`.
#' @section Errors: `habanera_error_input` for settings out of range; `habanera_error_function` for a function that
#'   fails or returns what is no move, with the game, trial and choice.
#' @seealso [game_pairs()].
#' @examples
#' game_pairs(pairs = 6, players = list(player_full_memory(), player_forgetful(0.7)))
#' @name players
NULL

#' @rdname players
#' @export
player_full_memory <- function() new_player("full_memory")

#' @rdname players
#' @export
player_careful <- function() new_player("careful")

#' @rdname players
#' @export
player_forgetful <- function(recall = 0.7, span = Inf) {
  fits <- is.numeric(recall) && length(recall) == 1 && !is.na(recall) && recall >= 0 && recall <= 1
  if (!fits) refuse(sprintf("`recall` must be a number from 0 to 1, not %s.", said(recall)))
  if (!identical(span, Inf)) check_whole(span, 0, 1e6)
  new_player("forgetful", recall = as.double(recall), span = as.double(span))
}

#' @rdname players
#' @export
player_random <- function() new_player("random")

#' @rdname players
#' @export
player_calls_all <- function() new_player("calls_all")

#' @rdname players
#' @export
player_with <- function(f, name = "function") {
  check_given()
  check_function(f)
  player <- new_player("with")
  player[c("f", "label")] <- list(f, check_string(name))
  player
}

#' @rdname players
#' @export
player_lookahead <- function(samples = 20, playing = player_random()) {
  check_whole(samples, 1, 1e6)
  new_player("lookahead", samples = as.double(samples), playing = assumed_player(playing, rlang::current_env()))
}

#' @rdname players
#' @export
player_peeking <- function(sees = "hands", how_often = 1, samples = 20, playing = player_random()) {
  call <- rlang::current_env()
  if (rlang::is_string(sees)) sees <- strsplit(sees, "+", fixed = TRUE)[[1]]
  if (!is.character(sees) || !length(sees) || !all(sees %in% c("hands", "next"))) {
    refuse(sprintf("`sees` must be \"hands\" or \"next\", or both, not %s.", said(sees)))
  }
  how_often <- check_number(how_often, 0, 1, "how_often", call)
  check_whole(samples, 1, 1e6)
  new_player("peeking", sees = paste(unique(sees), collapse = "+"), how_often = how_often,
             samples = as.double(samples), playing = assumed_player(playing, call))
}

# Who plays the games of somebody who looks ahead out. A name that no player here has can be one of a game's own file.
assumed_player <- function(playing, call) {
  if (rlang::is_string(playing)) {
    own <- grepl("^[a-z][a-z0-9_]*$", playing) && !playing %in% names(player_makers())
    playing <- if (own) new_player(playing) else player_from_text(playing, call)
  }
  refused <- c("lookahead", "peeking", "solved", "person", "with", "forgetful")
  if (inherits(playing, "habanera_player") && !playing$name %in% refused) return(playing)
  refuse(sprintf("`playing` must be a player by what it sees (random, full_memory, careful, a table), not %s.",
                 if (inherits(playing, "habanera_player")) quoted(format(playing)) else said(playing)), call = call)
}

#' @rdname players
#' @export
player_solved <- function(game = NULL, against = NULL) {
  if (!is.null(game)) {
    if (!inherits(game, "habanera_game")) refuse(sprintf("`game` must be a game, not %s.", said(game)))
    against <- seated_players(game$rules$players, length(game$seat_names))
  }
  if (is.null(against)) return(new_player("solved"))
  if (rlang::is_string(against)) against <- strsplit(against, "+", fixed = TRUE)[[1]]
  if (inherits(against, "habanera_player")) against <- list(against)
  call <- rlang::current_env()
  against <- lapply(against, function(player) {
    if (rlang::is_string(player)) player <- player_from_text(player, call)
    if (inherits(player, "habanera_player")) return(player)
    refuse(sprintf("`against` must be players, such as \"full_memory+careful\", not %s.", said(player)), call = call)
  })
  if (!length(against)) refuse("`against` must be players; there is none.", call = call)
  refuse_if_foreseeing(Filter(function(player) player$name != "solved", against), call)
  # Its own seat is its own, whoever sat there.
  names <- vapply(against, function(player) if (player$name == "solved") "full_memory" else player$name, "")
  new_player("solved", against = paste(names, collapse = "+"))
}

#' @rdname players
#' @export
player_person <- function() new_player("person")

player_makers <- function() {
  list(full_memory = player_full_memory, careful = player_careful, forgetful = player_forgetful,
       random = player_random, calls_all = player_calls_all, lookahead = player_lookahead, peeking = player_peeking,
       solved = player_solved, person = player_person,
       basic = player_basic, strategy = strategy_from_cells, as_dealer = player_as_dealer,
       never_busts = player_never_busts, stands_on = player_stands_on, regular = player_regular, errs = player_errs,
       insures = player_insures, mixture = player_mixture, counting = player_counting, flat = player_flat,
       keep = keep_rules, table = table_from_text, by_rules = rules_from_text)
}

player_from_text <- function(text, call) {
  check_string(text, "players", call)
  if (grepl("[.]csv$", text, ignore.case = TRUE)) {
    return(if (holds_chances(text)) player_by_table(text) else strategy_table(text))
  }
  if (grepl("[.]txt$", text, ignore.case = TRUE)) {
    return(if (tells_play_lines(read_text_lines(text, call))) player_by_rules(text) else keep_rules(text))
  }
  if (tells_play_lines(text) || grepl("[.]ya?ml$", text, ignore.case = TRUE)) return(player_by_rules(text))
  parts <- split_outside(text, ":")
  name <- parts[1]
  if (!name %in% names(player_makers())) {
    refuse(sprintf("There is no player %s%s Players: %s.", quoted(name), did_you_mean(name, names(player_makers())),
                   join_words(names(player_makers()))), call = call)
  }
  given <- sub("^[^=]*=", "", parts[-1])
  names(given) <- sub("=.*$", "", parts[-1])
  settings <- lapply(given, function(value) {
    if (grepl("^[(].*[)]$", value)) return(nested_players(sub("^[(](.*)[)]$", "\\1", value), call))
    number <- written_numbers(value)
    if (is.na(number)) value else number
  })
  takes <- names(formals(player_makers()[[name]]))
  unknown <- if (!"..." %in% takes) setdiff(names(settings), takes)
  if (length(unknown) || !all(grepl("=", parts[-1], fixed = TRUE))) {
    refuse(sprintf("The player %s is set as in \"forgetful:recall=0.7:span=6\", not %s.", quoted(name), quoted(text)),
           call = call)
  }
  needed <- Filter(rlang::is_missing, as.list(formals(player_makers()[[name]]))[setdiff(takes, "...")])
  lacking <- setdiff(names(needed), names(settings))
  if (length(lacking)) {
    refuse(sprintf("The player %s needs `%s`, as in \"%s:%s=...\".", quoted(name), lacking[1], name, lacking[1]),
           call = call)
  }
  do.call(player_makers()[[name]], settings)
}

# What stands in brackets: a player, or several.
nested_players <- function(text, call) {
  players <- lapply(split_outside(text, ","), player_from_text, call)
  if (length(players) == 1) players[[1]] else players
}

# Players who decide by what lies on the table alone, so that best play against them can be found.
decides_by_view <- function(player) {
  player$name %in% c("full_memory", "careful", "random") ||
    (player$name == "forgetful" && all(unlist(player$settings) >= c(1, Inf)))
}

refuse_if_foreseeing <- function(players, call) {
  others <- Filter(Negate(decides_by_view), players)
  if (!length(others)) return(invisible())
  refuse(sprintf(paste("`player_solved()` plays best against players who decide by what lies on the table, such as",
                       "full_memory, careful and random, not %s."), quoted(format(others[[1]]))), "rules", call)
}
