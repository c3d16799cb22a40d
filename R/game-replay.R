#' Replay a game
#'
#' One game, step by step: that of a trial, as a simulation with this seed plays it.
#'
#' @param x A game, or counts of one.
#' @param seed,trial The address of the game; of counts, `trial` is one of theirs.
#' @param longest,shortest Of counts: the name of a number among the recorded outcomes; the game in which it was
#'   largest or smallest (of several the first), among those that have it: a game that never ends has no length.
#' @param where Of counts: a condition on recorded outcomes, such as `ended == "never_ends"`; the first such game.
#' @param ... Not used.
#' @return A `trace`: a data frame with a row per step: `step` (from 1), `round` (0 for the deal), `depth` (0, or how
#'   deep within games in the game), `seat` (its name, `NA` where nobody in particular acts), `action` (text), `cards`
#'   (codes, text), of blackjack also `note` (text, what is said at the
#'   table), where a seat counts `running_count` and `true_count` (not rounded, with the cards shown so far), then how
#'   many cards lie in each zone of the game's table after the step: of War `pile_1`, `pile_2`, ... (each seat's), `pot`
#'   and `aside` (on the table, and out of the game). Its outcome is `attr(x, "outcome")`. Printed it is a log.
#' @section Errors: `habanera_error_input` where there is no such trial, outcome or game.
#' @seealso [piles_at()] for the cards themselves.
#' @examples
#' replay(game_war(cards_each = 5, face_down = 1), seed = 1, trial = 3)
#' counts <- simulate(game_war(), nsim = 500, seed = 1)
#' head(replay(counts, longest = "rounds"))
#' @name replay_game
NULL

#' @rdname replay_game
#' @export
replay.habanera_game <- function(x, seed, trial = 1, ...) {
  check_given()
  check_seed(seed)
  check_whole(trial)
  if (isTRUE(x$rules$shoes > 1)) refuse("Of several `shoes` only the first could be replayed; replay a game of one.")
  deck <- game_deck(x, seed, trial)
  new_game_trace(x, replayed_game(x, deck, seed, trial), deck, seed, trial)
}

# As the core plays it once more, with where the cards lay after step `kept`.
replayed_game <- function(game, deck, seed, trial, kept = 0) plays_of(game)$replay(game, deck, seed, trial, kept)

#' @rdname replay_game
#' @export
replay.habanera_counts_game <- function(x, seed = NULL, trial = NULL, longest = NULL, shortest = NULL, where = NULL,
                                        ...) {
  call <- rlang::current_env()
  if (!is.null(seed)) refuse("Counts have a seed of their own.")
  condition <- rlang::enquo(where)
  asked <- c(trial = !is.null(trial), longest = !is.null(longest), shortest = !is.null(shortest),
             where = !rlang::quo_is_null(condition))
  if (sum(asked) != 1) refuse("Say which game: `trial`, `longest`, `shortest` or `where`.")
  from <- x$provenance
  if (asked[["where"]]) trial <- first_trial_where(condition, x, call)
  if (!is.null(longest)) trial <- extreme_trial(x, longest, "longest", call)
  if (!is.null(shortest)) trial <- extreme_trial(x, shortest, "shortest", call)
  check_whole(trial)
  if (!any(trial >= from$trials$first & trial <= from$trials$last)) {
    refuse(sprintf("These counts hold no trial %s.", said(trial)))
  }
  replay(from$experiment, from$seed, trial)
}

# The first trial in which a number was largest ("longest") or smallest ("shortest").
extreme_trial <- function(x, column, which_end, call) {
  numbers <- names(x$outcomes)[vapply(x$outcomes, is.numeric, TRUE)]
  values <- x$outcomes[[check_choice(column, numbers, which_end, call)]]
  if (all(is.na(values))) refuse(sprintf("No game here has `%s`: none ended.", column), call = call)
  end <- if (which_end == "longest") max else min
  min(x$example_trial[which(values == end(values, na.rm = TRUE))])
}

first_trial_where <- function(condition, x, call) {
  expr <- checked_given(condition, x, call)
  holds <- given_rows(expr, x$outcomes, call)
  if (!any(holds)) refuse(sprintf("`%s` never holds here.", expression_text(expr)), call = call)
  min(x$example_trial[holds])
}

new_game_trace <- function(game, played, deck, seed, trial) {
  steps <- played$steps
  kinds <- kinds_of(game$deck)
  actions <- c(deal = -1L, game$words$actions)
  words <- if (is.character(steps$action)) steps$action else names(actions)[match(steps$action, actions)]
  trace <- data.frame(
    step = as.double(seq_along(steps$round)), round = steps$round, depth = steps$depth,
    seat = c(NA, game$seat_names)[steps$seat + 1], action = words,
    cards = vapply(steps$cards, function(cards) paste(kinds$cards[cards], collapse = " "), "")
  )
  kind <- kind_of(game)
  if (!is.null(kind$step_notes)) trace$note <- kind$step_notes(game, trace$action, steps)
  trace <- with_lines(trace, game, steps)
  if (!is.null(kind$step_columns)) trace <- cbind(trace, kind$step_columns(steps))
  bettor <- game$spec$rules$bettor
  if (!is.null(bettor)) {
    trace$running_count <- steps$running_count / bettor$system$unit
    trace$true_count <- steps$true_count
  }
  trace[zone_columns(game)] <- as.data.frame(steps$sizes)
  structure(trace,
            made = call_made(), class = table_class("habanera_game_trace"), game = game, deck = deck, seed = seed,
            trial = trial, outcome = whole_outcome(game, played$outcome))
}

# By which line of its rules a seat decided, of players who go by some.
with_lines <- function(trace, game, steps) {
  if (!any(steps$line > 0)) return(trace)
  players <- seated_players(game$rules$players, game_seats(game))
  told <- vapply(seq_along(steps$line), function(i) {
    if (!isTRUE(steps$line[i] > 0)) return("")
    lines <- players[[steps$seat[i]]]$lines
    if (is.null(lines)) return(sprintf("; by line %s", format_count(steps$line[i])))
    if (steps$line[i] > length(lines)) return("; no line fits")
    sprintf("; by line %s: %s", format_count(steps$line[i]), line_text(lines[[steps$line[i]]]))
  }, "")
  trace$note <- paste0(if (is.null(trace[["note"]])) "" else trace[["note"]], told)
  trace
}

# All outcome columns of one game, recorded or not.
whole_outcome <- function(game, values) {
  rows <- rlang::set_names(values, game$words$outcomes)
  known <- names(game$columns)
  game_outcomes(game, as.data.frame(rlang::set_names(rows[core_columns(game$columns, known)], known), optional = TRUE))
}

#' Where the cards lay
#'
#' The piles of a game at one moment, the top card of each first: to look at, or to go on from under another rule.
#'
#' @param trace What [replay()][replay_game] of a game gave.
#' @param step The number of a step: the piles after it.
#' @param round The number of a round: the piles at its beginning.
#' @return A list of cards, one for each seat, by name; the cards on the table are `attr(x, "pot")`. At the beginning
#'   of a round it can be given to the game as `piles = `.
#' @section Errors: `habanera_error_input` for a step or round that the game does not have.
#' @examples
#' war <- game_war(cards_each = 5, face_down = 1)
#' piles <- piles_at(replay(war, seed = 1, trial = 3), round = 4)
#' piles
#' replay(game_war(piles = piles, face_down = 0), seed = 1)
#' @export
piles_at <- function(trace, step = NULL, round = NULL) {
  check_given()
  if (!inherits(trace, "habanera_game_trace") || is.null(attr(trace, "game"))) {
    refuse(sprintf("`trace` must come from replay() of a game, not %s.", said(trace)))
  }
  if (is.null(step) == is.null(round)) refuse("Give `step` or `round`.")
  if (is.null(step)) step <- step_before_round(trace, check_whole(round, 1, max(trace$round)))
  check_whole(step, 1, nrow(trace))
  if (trace$depth[step] > 0) refuse(sprintf("Step %s lies within a game in the game.", format_count(step)))
  game <- attr(trace, "game")
  played <- replayed_game(game, attr(trace, "deck"), attr(trace, "seed"), attr(trace, "trial"), step)
  codes <- kinds_of(game$deck)$codes
  cards <- lapply(played$zones, function(kinds) new_cards(codes[kinds], catalogue_of(game$deck)))
  of_seat <- game$words$zones$seat > 0
  piles <- rlang::set_names(cards[of_seat], sub("^seat ", "", zone_headings(game)[of_seat]))
  on_table <- rlang::set_names(cards[!of_seat], game$words$zones$name[!of_seat])
  on_table <- on_table[setdiff(names(on_table), kind_of(game)$gone)]
  rlang::exec(structure, piles, class = "habanera_piles", !!!on_table, zones = names(on_table), step = step,
              round = max(1, trace$round[step]))
}

step_before_round <- function(trace, round) {
  max(trace$step[trace$depth == 0 & trace$round < round])
}

#' @export
tell.habanera_game_trace <- function(x, from = 1, most = 40, ...) {
  game <- attr(x, "game")
  if (is.null(game)) return(NextMethod())
  check_whole(from, 1, nrow(x))
  writeLines(trace_heading(x))
  rows <- seq_len(nrow(x)) >= from & seq_len(nrow(x)) < from + most
  left <- nrow(x) - max(which(rows))
  # How it ended is always shown.
  lines <- trace_lines(x, rows | seq_len(nrow(x)) == nrow(x))
  writeLines(if (left > 1) append(lines, sprintf("# ... %s more ...", count_of(left - 1, "step")),
                                  length(lines) - 1) else
    lines)
  working <- kind_of(game)$closing_words(x)
  if (left == 0 && !is.null(working)) cat_wrapped(working)
  invisible(x)
}

trace_heading <- function(trace) {
  c(strwrap(sprintf("<trace> %s; seed %s, trial %s", in_words(attr(trace, "game")), whole_code(attr(trace, "seed")),
                    format_count(attr(trace, "trial"))), getOption("width"), exdent = 2),
    strwrap(paste0(sentence(outcome_in_words(trace)), "."), getOption("width"), exdent = 2))
}

outcome_in_words <- function(trace) kind_of(attr(trace, "game"))$end_in_words(trace)

# The steps as lines of a table: who did what with which cards, then how many cards lie in each zone.
trace_lines <- function(trace, rows = rep(TRUE, nrow(trace))) {
  game <- attr(trace, "game")
  shown <- plain_table(trace)[rows, , drop = FALSE]
  zones <- zone_columns(game)
  used <- kind_of(game)$logs_zones &
    (game$words$zones$seat > 0 | vapply(trace[zones], function(size) any(size > 0), TRUE))
  sizes <- rlang::set_names(shown[zones[used]], zone_headings(game)[used])
  flush_right <- function(values, name) formatC(c(name, format_count(values)), width = max(4, nchar(name)))
  counts <- lapply(shown[intersect(c("running_count", "true_count"), names(shown))], sprintf, fmt = "%+.1f")
  columns <- c(list(flush_right(shown$step, "step"), flush_right(shown$round, "round")),
               list(padded(c("", step_texts(shown, game)))),
               Map(right_aligned, counts, sub("_count", "", names(counts))), Map(flush_right, sizes, names(sizes)))
  sub(" +$", "", do.call(paste, unname(columns)))
}

right_aligned <- function(texts, name) formatC(c(name, texts), width = max(nchar(c(name, texts))))

padded <- function(text) paste0(text, strrep(" ", max(cli::ansi_nchar(text)) - cli::ansi_nchar(text)))

step_texts <- function(steps, game) {
  words <- step_word(kind_of(game), steps$action)
  who <- ifelse(is.na(steps$seat), "", paste0(seat_headings(as.character(steps$seat)), " "))
  cards <- vapply(strsplit(steps$cards, " ", fixed = TRUE), shown_cards, "", like = game$deck)
  # A colon is only for cards.
  notes <- if (is.null(steps[["note"]])) "" else steps[["note"]]
  paste0(strrep("| ", steps$depth), who, ifelse(nzchar(cards), paste(words, cards), sub(":$", "", words)), notes)
}

# An action for which the kind has no words is told by its own.
step_word <- function(kind, action) {
  words <- kind$step_words[action]
  unname(ifelse(is.na(words), gsub("_", " ", action), words))
}

# Codes as faces, painted where the terminal can.
shown_cards <- function(codes, like) {
  if (!length(codes)) return("")
  cards <- new_cards(find_codes(codes, catalogue_of(like)), catalogue_of(like))
  paste(paint_suits(format(cards), cards), collapse = " ")
}
