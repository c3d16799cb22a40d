# The games there are. A game is a kind: a list of `name`, `title`, `summary`, `constructor` (all text), `rules` (see
# game-rule.R), `columns` (its outcomes: for each its meaning and its values: the words of a category, "number", or a
# function of the game that gives the words), `record` (the columns counted by default), `needs_whole_ranks` (the
# columns that do) and functions:
#   in_short(outcomes, weight)             what came of it in a sentence or two
#   contradictions(rules, changed, call)   refuses rules that do not go together; `changed` names those that are not as
#                                          by default
#   settled(rules, piles, changed, call)   the rules once given piles are known
#   sizes(rules)                           how many cards each seat is dealt
#   core(rules, ranks)                     the rules as the core takes them
# and, for replays, `actions` (the names of the core's actions, from 0) and `step_words` (what each is in a log). The
# core knows the same games: see with_game() in src/game.cpp.

game_kinds <- function() list(war = war_kind())

game_kind <- function(name) game_kinds()[[name]]

#' @rdname rules
#' @export
games <- function(game = NULL) {
  kinds <- game_kinds()
  if (!is.null(game)) kinds <- kinds[check_choice(game, names(kinds))]
  rows <- lapply(unname(kinds), function(kind) {
    field <- function(name) vapply(kind$rules, `[[`, "", name)
    data.frame(game = kind$name, rule = rule_names(kind),
               default = vapply(kind$rules, function(rule) rule_text(as_rule_value(rule)), ""),
               allowed = field("allowed"), meaning = field("meaning"))
  })
  structure(do.call(rbind, rows), class = c("habanera_games", "data.frame"))
}

#' @export
print.habanera_games <- function(x, ...) {
  if (!all(c("game", "rule", "default", "allowed", "meaning") %in% names(x))) return(NextMethod())
  for (name in unique(x$game)) {
    kind <- game_kind(name)
    cat(sprintf("%s: %s\n", name, kind$summary))
    rows <- x[x$game == name, , drop = FALSE]
    width <- max(nchar(rows$rule))
    for (i in seq_len(nrow(rows))) writeLines(rule_lines(rows[i, ], width))
    writeLines(strwrap(sprintf("Outcomes: %s.", join_words(names(kind$columns))), max(60, getOption("width")),
                       indent = 2, exdent = 4))
  }
  invisible(x)
}

rule_lines <- function(row, width) {
  indent <- strrep(" ", width + 4)
  words <- sprintf("%s. %s. Default: %s.", row$meaning, sentence(row$allowed), row$default)
  lines <- strwrap(words, max(60, getOption("width")) - width - 4)
  paste0(c(paste0("  ", formatC(row$rule, width = -width), "  "), rep(indent, length(lines) - 1)), lines)
}

#' @export
print.habanera_rules <- function(x, ...) {
  kind <- game_kind(attr(x, "kind"))
  cat(sprintf("<rules> %s\n", kind$title))
  shown <- vapply(unclass(x)[rule_names(kind)], rule_text, "")
  default <- vapply(kind$rules, function(rule) rule_text(as_rule_value(rule)), "")
  lines <- aligned_lines(data.frame(rule = names(shown), value = unname(shown),
                                    default = ifelse(shown == default, "", default)))
  writeLines(paste0("  ", lines))
  invisible(x)
}

#' @export
from_plain.game <- function(plain) {
  piles <- if (length(plain$piles)) plain$piles
  given <- c(list(deck = deck_from_plain(plain$deck)), plain$rules)
  if (isTRUE(plain$has_function)) {
    refuse("A game shuffled by an R function cannot be read from a file.", "file", call = NULL)
  }
  shuffle <- if (is.null(piles)) procedure_from_plain(plain$shuffle)
  settings <- game_settings(shuffle, piles, if (isTRUE(plain$named)) as.character(plain$seat_names),
                            as.character(plain$record))
  new_game(game_kind(plain$game), given, settings, NULL)
}
