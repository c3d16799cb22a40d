#' The rules of a game
#'
#' Rules are data: a plain list that prints, compares and varies, and reads and writes as YAML or JSON. `rules()` gives
#' those of a game, `change_rules()` the same game by other rules, `write_rules()` writes them to a file that every
#' `game_*()` reads again as `rules = `, and `games()` lists the games there are with what each rule may be.
#'
#' @param game A game, such as [game_war()]; of `games()` a name, or nothing for all of them.
#' @param ... Rules by name.
#' @param file A file ending in .yaml, .yml or .json.
#' @return `rules()`: a list with a value for each rule. `change_rules()`: a game. `write_rules()`: the file's name,
#'   invisibly. `games()`: a data frame with a row per rule: `game`, `rule`, `default`, `allowed`, `meaning` (text).
#' @section Errors: `habanera_error_rules` for a rule that does not exist or contradicts another, and
#'   `habanera_error_input` for a value that a rule cannot have; both say what is allowed.
#' @examples
#' quick <- game_war(face_down = 1, cards_each = 13)
#' rules(quick)
#' change_rules(quick, face_down = 2)
#' games("war")[c("rule", "default")]
#' @export
rules <- function(game) {
  check_given()
  checked_game(game)
  kind <- kind_of(game)
  structure(game$rules, class = "habanera_rules", title = kind$title, default = default_texts(kind))
}

#' @rdname rules
#' @export
change_rules <- function(game, ...) {
  check_given()
  call <- rlang::current_env()
  checked_game(game)
  change_game(game, rlang::list2(...), call)
}

# Rules given by hand stay, so that a contradiction can be told from a default that gives way.
change_game <- function(game, changes, call) {
  kind <- kind_of(game)
  refuse_unknown_rules(kind, changes, call)
  given <- game$given
  for (name in names(changes)) given[name] <- list(changes[[name]])
  new_game(kind, given, game$settings, call)
}

#' @rdname rules
#' @export
write_rules <- function(game, file) {
  check_given()
  call <- rlang::current_env()
  checked_game(game)
  if (has_function_player(game)) refuse("A player that is an R function cannot be written to a file.", call = call)
  plain <- c(list(game = game$game), plain_rules(game$rules))
  lines <- switch(file_kind(check_string(file)), yaml = , yml = yaml::as.yaml(whole_as_integers(plain),
                                                                              handlers = list(logical = yaml_truth)),
                  json = as.character(jsonlite::toJSON(plain, auto_unbox = TRUE, null = "null", pretty = TRUE)),
                  refuse(sprintf("%s must end in .yaml, .yml or .json.", quoted(file)), "file", call))
  write_lines_whole(sub("\n$", "", lines), file, call)
}

# The words of YAML 1.2, which all its readers take.
yaml_truth <- function(x) structure(ifelse(x, "true", "false"), class = "verbatim")

# YAML tells 2 from 2.0; to us they are one.
whole_as_integers <- function(x) {
  if (is.list(x)) return(lapply(x, whole_as_integers))
  if (is.double(x) && all(!is.na(x) & x == round(x) & abs(x) < 2^31)) as.integer(x) else x
}

plain_rules <- function(rules) lapply(unclass(rules), plain_rule)
