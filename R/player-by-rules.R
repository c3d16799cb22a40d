#' A player by rules in words
#'
#' Ordered lines, "if this then that": the first whose condition holds, and whose move is open, is played, always or
#' with a chance; else the next is looked at. An opponent's habits can be stated so in a minute, changed, and varied.
#'
#' A line is `"if CONDITION then MOVE"`, `"MOVE if CONDITION"` (also `once`, `when`), `"else MOVE"`, or a move alone; at
#' its end it may say `"with chance 1/3"`. Where the chance fails the next line is looked at. Moves are told as the game
#' tells them; of moves with sizes the first words will do: `"raise"` is the first raise that is open, or all in, where
#' the seat has no more. Where no line fits, a seat at [game_betting()] checks, or folds, and insurance at
#' [game_blackjack()] is declined; at other games the trial fails: end with `else`, or with a move that is always open.
#'
#' A condition is of the language of questions (see [question_language]) on what the seat sees, by the names that a
#' player who is an R function is handed:
#' * of [game_betting()] `seat`, `street`, `pot`, `to_call`, `left`, `bets`, `others` and `actions` (text). The words
#'   `count()`, `total()`, `distinct()`, `largest_group()` and `category()` ask about its own cards and those that all
#'   see together; within `own()` or `shared()` about these alone: `own(largest_group(rank)) == 2`. `holds("pair of Q or
#'   better", "A K")` asks whether its own cards are one of these (see [hand_classes]);
#' * of [game_blackjack()] `total`, `soft`, `pair`, `up_card`, `cards`, `hands` and others;
#' * of [game_cpp()] and [game_custom()] what the game shows, by name. `3 %in% hand` asks whether one of several values
#'   is 3, `made == "check, bet"` how they are told together.
#'
#' Pay-table poker has [keep_rules()]; at [game_pairs()] moves are places, and no rules tell them.
#'
#' @param ... Lines as text, in their order; or one text in which ; divides them; or the name of a file: .txt with a
#'   line for each (those that begin with # are left out), or .yaml with a list of lines, or of `if`, `then` and
#'   `chance`.
#' @param name What it is called in prints and results; `NULL`: "rules", or the file's name.
#' @return A player. In [replay()][replay_game] it is told by which line each of its moves was made.
#'   `as.data.frame()`: `condition` (text, `NA`: none), `move`, `chance`, a row for each line.
#' @section Errors: `habanera_error_input` for a line that is none, with its number; `habanera_error_language` for a
#'   condition that cannot be understood; `habanera_error_rules` for a move that the game does not have;
#'   `habanera_error_function` where no line fits what is seen, or a condition has no answer, with the trial.
#' @seealso [player_by_table()], [mistakes()] for what such rules cost.
#' @examples
#' tight <- player_by_rules("if holds(\"3\") then bet", "call if holds(\"3\")", "check", "fold",
#'                          name = "tight")
#' small <- game_betting(rules = "one card, one bet", players = list(tight, "random"))
#' exact(small)
#' replay(small, seed = 1)
#' simulate(game_blackjack(players = player_by_rules("hit if total < 15", "stand")), nsim = 1000, seed = 1)
#' @export
player_by_rules <- function(..., name = NULL) {
  call <- rlang::current_env()
  given <- list(...)
  if (!is.null(name)) check_string(name)
  if (length(given) == 1 && rlang::is_string(given[[1]]) && grepl("[.](txt|ya?ml)$", given[[1]])) {
    if (is.null(name)) name <- basename(given[[1]])
    given <- lines_of_file(given[[1]], call)
  }
  if (!all(vapply(given, is.character, NA))) {
    refuse("Lines of player_by_rules() are text, such as \"if to_call > 4 then fold\".", call = call)
  }
  lines <- as.character(unlist(given))
  check_utf8(lines, "a line of player_by_rules()", call)
  lines <- trimws(unlist(lapply(lines, split_outside, ";")))
  lines <- lines[nzchar(lines)]
  if (!length(lines)) refuse("player_by_rules() needs a line, such as \"if to_call > 4 then fold\".", call = call)
  read <- lapply(seq_along(lines), function(i) read_play_line(lines[i], i, call))
  new_line_player(lines, read, if (is.null(name)) "rules" else name)
}

new_line_player <- function(lines, read, name) {
  player <- new_player("by_rules")
  player$settings <- list(lines = utils::URLencode(paste(lines, collapse = "\n"), reserved = TRUE),
                          name = utils::URLencode(name, reserved = TRUE))
  player$label <- name
  player$lines <- read
  class(player) <- c("habanera_line_player", class(player))
  player
}

# As a player's text names it.
rules_from_text <- function(lines, name = "rules") {
  lines <- strsplit(utils::URLdecode(as.character(lines)), "\n", fixed = TRUE)[[1]]
  do.call(player_by_rules, c(as.list(lines), list(name = utils::URLdecode(as.character(name)))))
}

lines_of_file <- function(file, call) {
  check_readable(file, call)
  if (file_kind(file) == "txt") {
    lines <- trimws(read_text_lines(file, call))
    return(as.list(lines[nzchar(lines) & !grepl("^#", lines)]))
  }
  found <- list_data(file, call)
  if (!is.list(found) && !is.character(found)) {
    refuse(sprintf("%s must hold a list of lines.", file_name(file)), "file", call)
  }
  lapply(found, function(line) {
    if (rlang::is_string(line)) return(line)
    known <- c("if", "then", "chance")
    if (!is.list(line) || is.null(line[["then"]]) || !all(names(line) %in% known)) {
      refuse(sprintf("%s: a line has `if`, `then` and `chance`, or is one text, not %s.", file_name(file), said(line)),
             "file", call)
    }
    paste0(if (!is.null(line[["if"]])) sprintf("if %s then ", line[["if"]]), line[["then"]],
           if (!is.null(line[["chance"]])) sprintf(" with chance %s", line[["chance"]]))
  })
}

# Whether text is lines, and no player's name or list of what is kept of a hand.
tells_play_lines <- function(text) any(grepl("^(if .+ then .+|else .+|.+ (if|once|when) .+)$", trimws(text)))

read_play_line <- function(line, number, call) {
  slip <- function(...) refuse(sprintf("Line %d, %s: %s", number, quoted(shortened(line)), sprintf(...)), call = call)
  rest <- trimws(line)
  chance <- 1
  found <- regmatches(rest, regexec("^(.*?)[, ]+with chance (.+)$", rest))[[1]]
  if (length(found)) {
    rest <- trimws(found[2])
    chance <- fraction_value(sub("%$", "", found[3])) / if (grepl("%$", found[3])) 100 else 1
    if (is.na(chance) || chance <= 0 || chance > 1) slip("a chance is above 0 and at most 1, such as 1/3.")
  }
  condition <- NULL
  if (grepl("^(if|when|once) ", rest)) {
    found <- regmatches(rest, regexec("^(?:if|when|once) (.*) then (.+)$", rest))[[1]]
    if (!length(found)) slip("after `if` comes a condition, then `then` and a move.")
    condition <- found[2]
    rest <- found[3]
  } else if (grepl(" (if|when|once) ", rest)) {
    found <- regmatches(rest, regexec("^(.+?) (?:if|when|once) (.+)$", rest, perl = TRUE))[[1]]
    condition <- found[3]
    rest <- found[2]
  } else {
    rest <- sub("^(else|otherwise) ", "", rest)
  }
  if (!grepl("^[[:alnum:]][[:alnum:] /._-]*$", rest)) slip("%s is no move.", quoted(rest))
  if (!is.null(condition)) condition <- expression_text(parse_expression(condition, sprintf("line %d", number), call))
  list(text = line, condition = condition, move = gsub("[[:space:]]+", " ", trimws(rest)), chance = chance)
}

#' @export
as.data.frame.habanera_line_player <- function(x, row.names = NULL, optional = FALSE, ...) {
  data.frame(condition = vapply(x$lines, function(line) if (is.null(line$condition)) NA_character_ else line$condition,
                                ""),
             move = vapply(x$lines, `[[`, "", "move"), chance = vapply(x$lines, `[[`, 0, "chance"))
}

#' @export
print.habanera_line_player <- function(x, ...) {
  cat_wrapped("<player> ", sprintf("%s, by %s; the first that fits is played.", x$label,
                                   count_of(length(x$lines), "line")))
  writeLines(sprintf("  %d. %s", seq_along(x$lines), vapply(x$lines, line_text, "")))
  invisible(x)
}

line_text <- function(line) {
  paste0(if (!is.null(line$condition)) sprintf("if %s then ", line$condition) else "", line$move,
         if (line$chance < 1) sprintf(" with chance %s", probability_text(line$chance)) else "")
}

probability_text <- function(chance) gsub(":", "/", number_in_words(chance), fixed = TRUE)

# The lines as the core takes them; what may stand in their conditions the game's `sight` tells, see plain_sight().
core_lines <- function(player, words, sight) {
  refuse_unknown_moves(player, words)
  lines <- lapply(seq_along(player$lines), function(i) {
    line <- player$lines[[i]]
    list(condition = if (!is.null(line$condition)) core_condition(line$condition, sight, i),
         moves = c(line$move, sight$instead[[line$move]]), chance = line$chance)
  })
  # What is done where nothing else is said.
  implied <- lapply(sight$implied, function(move) list(condition = NULL, moves = move, chance = 1))
  list(name = "by_rules", lines = c(lines, implied))
}

refuse_unknown_moves <- function(player, words) {
  if (is.null(words)) return(invisible())
  for (i in seq_along(player$lines)) {
    move <- player$lines[[i]]$move
    if (move %in% words || any(startsWith(words, paste0(move, " "))) || sub(" -?[0-9]+$", "", move) %in% words) next
    refuse(sprintf("Line %d of %s: the game has no move %s%s Moves: %s.", i, quoted(player$label), quoted(move),
                   did_you_mean(move, words), join_words(words)), "rules", NULL)
  }
}

core_condition <- function(text, sight, number) {
  about <- sprintf("line %d", number)
  expr <- parse_expression(text, about, NULL)
  known <- if (is.null(sight$known)) all.names(expr, functions = FALSE) else sight$known
  lookup <- list(known = known, words = sight$words, env = NULL, what = "a seat sees",
                 check_word = if (!is.null(sight$check)) sight$check)
  compiled_condition(checked_expression(expr, lookup, NULL), sight)
}

# A checked expression as nested lists.
compiled_condition <- function(expr, sight) {
  if (is.symbol(expr)) return(list(what = "name", value = as.character(expr)))
  if (is.character(expr)) return(list(what = "text", value = expr))
  if (!is.call(expr)) return(list(what = "number", value = as.double(expr)))
  name <- as.character(expr[[1]])
  if (name %in% sight$words) return(sight$word(expr))
  operands <- as.list(expr)[-1]
  if (name == "%in%") operands <- c(operands[1], several_values(operands[[2]]))
  levels <- Filter(Negate(is.null), lapply(operands, function(part) sight$scale(part)))
  if (length(levels)) operands <- lapply(operands, place_on_scale, levels[[1]], expr)
  list(what = "function", value = name, parts = unname(lapply(operands, compiled_condition, sight)))
}

several_values <- function(expr) {
  if (is.call(expr) && as.character(expr[[1]]) %in% c("c", ":", "(")) {
    return(as.list(interpret(expr, list(values = list(), rows = 1), NULL)))
  }
  if (length(expr) > 1) as.list(expr) else list(expr)
}

# A place on a scale, such as the category of a hand, by its number from the lowest.
place_on_scale <- function(operand, scale, expr) {
  if (!is.character(operand)) return(operand)
  at <- match(operand, scale)
  if (is.na(at)) {
    refuse(sprintf("In `%s`, %s is none of %s%s", expression_text(expr), quoted(operand),
                   join_words(quoted(scale), "or"), did_you_mean(operand, scale)), "language", NULL)
  }
  at - 1
}
