#' Sit in yourself
#'
#' Plays a game with you in one of its seats, so that a rule is felt before it is counted. Each time it is your turn you
#' see what a player in that seat may see, and what you may do; one key and Enter makes a move, `q` stops. Your moves
#' are kept in a file, if you name one: the same call takes a stopped game up again. `judge_moves()` tells afterwards
#' what each move was worth beside the others.
#'
#' @param game A game with decisions, such as [game_pairs()].
#' @param seat Your seat; the others are played by the players of the game.
#' @param seed,trial The address of the deal; `seed = NULL` takes one from R's own generator.
#' @param file `NULL`, or the name of a file that keeps your moves (.json).
#' @return `sit_in()`: a `habanera_sitting`, invisibly: a list of `game`, `seed`, `trial`, `seat`, `moves` (numbers, as
#'   players have them), `over`, and once it is over `trace` (see [replay()][replay_game]).
#' @section Errors: `habanera_error_file` for a file of another game, deal or seat, or that cannot be read or written;
#'   `habanera_error_input` for a game without decisions.
#' @seealso [player_person()] for a seat at the console in any call that plays one trial.
#' @examples
#' \dontrun{
#' sit_in(game_pairs(pairs = 6, players = "forgetful"), file = "evening.json")
#' judge_moves("evening.json")
#' }
#' @export
sit_in <- function(game, seat = 1, seed = NULL, trial = 1, file = NULL) {
  check_given()
  call <- rlang::current_env()
  checked_game(game)
  refuse_without_decisions(game, call)
  check_whole(seat, 1, game_seats(game))
  check_whole(trial)
  if (!is.null(file) && !is.null(game$own)) {
    refuse("Moves at a game with code of one's own are not kept: no `file`.")
  }
  kept <- if (!is.null(file) && file.exists(check_string(file))) read_sitting(file, call)
  if (!is.null(kept) && is.null(seed)) seed <- kept$seed
  sitting <- list(game = game, seed = resolve_seed(seed, call), trial = trial, seat = as.double(seat),
                  moves = numeric(), over = FALSE, file = file)
  if (!is.null(kept)) sitting$moves <- moves_to_take_up(kept, sitting, call)
  play_sitting(sitting)
}

# The game with `player` in a seat of its.
with_player_in <- function(game, seat, player) {
  players <- seated_players(game$rules$players, game_seats(game))
  players[[seat]] <- player
  change_game(game, list(players = players), NULL)
}

play_sitting <- function(sitting) {
  state <- new.env()
  state$moves <- sitting$moves
  keep <- function(over) write_sitting(utils::modifyList(sitting, list(moves = state$moves, over = over)))
  asked <- function(view, moves, choice) {
    if (choice <= length(state$moves)) return(kept_move(state$moves[choice], moves, choice, sitting$file))
    kind <- kind_of(sitting$game)
    # Moves of a game in R are told in its own words, choice by choice.
    words <- words_by_number(moves, kind$move_words)
    state$moves[choice] <- asked_move(kind$view_words(sitting$game$rules, view), as.vector(moves), words)
    keep(FALSE)
    state$moves[choice]
  }
  game <- with_player_in(sitting$game, sitting$seat, player_asked(asked))
  trace <- tryCatch(replay(game, sitting$seed, sitting$trial), habanera_stopped = function(cnd) NULL)
  if (!is.null(trace)) keep(TRUE)
  sitting[c("moves", "over")] <- list(state$moves, !is.null(trace))
  sitting["trace"] <- list(trace)
  invisible(structure(sitting, class = result_class("habanera_sitting")))
}

kept_move <- function(move, moves, choice, file) {
  if (move %in% moves) return(move)
  refuse(sprintf("%s keeps as choice %s a move that the game does not have there.",
                 if (is.null(file)) "The sitting" else file_name(file), format_count(choice)), "file", NULL)
}

# A player whose function is told the number of its choice, too.
player_asked <- function(f) {
  player <- player_person()
  player$asked <- f
  player
}

#' @export
in_words.habanera_sitting <- function(x, ...) paste0(in_words(x$game), ": ", sitting_in_words(x))

#' @rawNamespace S3method(generics::tidy, habanera_sitting)
tidy.habanera_sitting <- function(x, ...) data.frame(choice = as.double(seq_along(x$moves)), move = as.double(x$moves))

#' @export
tell.habanera_sitting <- function(x, ...) {
  cat_wrapped("<sitting> ", in_words(x$game), "; seat ", format_count(x$seat), sprintf(", seed %s, trial %s",
              whole_code(x$seed), format_count(x$trial)))
  cat_wrapped(sitting_in_words(x))
  invisible(x)
}

sitting_in_words <- function(x) {
  moves <- count_of(length(x$moves), "move")
  if (!x$over) return(sprintf("Stopped after %s%s.", moves, if (is.null(x$file)) "" else
    sprintf("; %s keeps them, and the same call goes on", file_name(x$file))))
  sprintf("%s; you made %s.", sentence(kind_of(x$game)$end_in_words(x$trace)), moves)
}

sitting_form <- 1

write_sitting <- function(sitting) {
  if (is.null(sitting$file)) return(invisible())
  plain <- list(habanera_sitting = sitting_form, game = as_plain(sitting$game), words = in_words(sitting$game),
                seed = sitting$seed, trial = sitting$trial, seat = sitting$seat, over = sitting$over,
                moves = as.list(sitting$moves))
  write_lines_whole(to_json(plain), sitting$file, NULL)
}

read_sitting <- function(file, call) {
  check_readable(file, call)
  not_ours <- function(cnd) refuse(sprintf("%s holds no moves that sit_in() kept.", file_name(file)), "file", call)
  tryCatch({
    plain <- list_data(file, call, simplifyDataFrame = FALSE)
    stopifnot(identical(as.double(plain$habanera_sitting), sitting_form), is.list(plain$game),
              is.numeric(plain$moves) || !length(plain$moves))
    list(game = restored_game(plain$game), words = plain$words, seed = as.double(plain$seed),
         trial = as.double(plain$trial), seat = as.double(plain$seat), moves = as.double(unlist(plain$moves)),
         over = isTRUE(plain$over), file = file)
  }, error = not_ours)
}

moves_to_take_up <- function(kept, sitting, call) {
  same <- identical(experiment_digest(kept$game), experiment_digest(sitting$game)) &&
    all(unlist(kept[c("seed", "trial", "seat")]) == unlist(sitting[c("seed", "trial", "seat")]))
  if (!same) {
    refuse(sprintf("%s keeps another game: %s; seat %s, seed %s, trial %s.", file_name(sitting$file), kept$words,
                   format_count(kept$seat), whole_code(kept$seed), format_count(kept$trial)), "file", call)
  }
  kept$moves
}

#' @rdname sit_in
#' @param x What `sit_in()` gave, or the name of its file.
#' @param by The player whose judgement is asked: [player_lookahead()], or [player_solved()].
#' @return `judge_moves()`: a data frame of class `habanera_judged` with a row per choice that was one: `choice` (its
#'   number), `move`, `best` (the keys of the move made and of the best), `worth`, `best_worth` (what they are worth to
#'   the seat: of several seats the expected share of the win, of one minus the turns still to come) and `cost` (the
#'   difference).
#' @export
judge_moves <- function(x, by = player_lookahead(200, player_full_memory())) {
  check_given()
  call <- rlang::current_env()
  if (rlang::is_string(x)) x <- read_sitting(x, call)
  if (!is.list(x) || is.null(x$moves)) refuse(sprintf("`x` must be what sit_in() gave, or its file, not %s.", said(x)))
  judges <- capability(x$game, "judges", rlang::current_env())
  if (rlang::is_string(by)) by <- player_from_text(by, call)
  if (!inherits(by, "habanera_player") || !by$name %in% c("lookahead", "solved")) {
    refuse(sprintf("`by` must be player_lookahead() or player_solved(), not %s.", said(by)))
  }
  judged <- with_player_in(x$game, x$seat, by)
  deck <- game_deck(x$game, x$seed, x$trial)
  # A move that a place does not have is told by its choice, and not by the core.
  whole <- is.finite(x$moves) & x$moves == floor(x$moves) & x$moves >= 1 & x$moves <= 64
  if (!all(whole)) kept_move(NA, integer(), which(!whole)[1], x$file)
  found <- tryCatch(judges$judge(judged$spec$rules, x$seat, x$moves, deck, x$seed, x$trial),
                    `habanera::OutOfReach` = refuse_unsolved)
  structure(judged_rows(found, x$moves, x$file), class = table_class("habanera_judged"), by = format(by),
            words = in_words(x$game), seat = x$seat)
}

# A row for each choice that was one.
judged_rows <- function(found, moves, file) {
  rows <- lapply(seq_along(found), function(i) {
    open <- found[[i]]$moves
    worth <- found[[i]]$worth
    made <- match(kept_move(moves[i], open, i, file), open)
    best <- if (worth[made] >= max(worth) - 1e-11) made else which.max(worth)
    data.frame(choice = i, move = move_keys(open[made]), best = move_keys(open[best]), worth = worth[made],
               best_worth = worth[best], cost = worth[best] - worth[made])[length(open) > 1, ]
  })
  none <- data.frame(choice = integer(), move = character(), best = character(), worth = numeric(),
                     best_worth = numeric(), cost = numeric())
  rows <- do.call(rbind, c(list(none), rows))
  rownames(rows) <- NULL
  rows
}

#' @export
tell.habanera_judged <- function(x, rows = 20, ...) {
  cat_wrapped("<judged moves> ", attr(x, "words"), "; seat ", format_count(attr(x, "seat")))
  costly <- sum(x$cost > 1e-11)
  cat_wrapped(sprintf("%s of %s cost something by the judgement of %s, %s in all%s.", format_count(costly),
                      count_of(nrow(x), "choice"), attr(x, "by"), format_number(sum(x$cost), 3),
                      if (costly) sprintf("; the dearest, choice %s, %s", format_count(x$choice[which.max(x$cost)]),
                                          format_number(max(x$cost), 3)) else ""))
  if (startsWith(attr(x, "by"), "lookahead")) cat_wrapped("Small costs may be the luck of the games it played out.")
  print_head(plain_table(x), rows)
  invisible(x)
}
