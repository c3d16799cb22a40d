# The games by name, their rules as tables, and games as files tell them.

#' @rdname rules
#' @param name The name of a game, as [games()] lists them.
#' @param rules,shuffle,piles,seat_names,record As in [game_war()].
#' @export
game <- function(name, ..., rules = NULL, shuffle = NULL, piles = NULL, seat_names = NULL, record = NULL) {
  check_given()
  call <- rlang::current_env()
  make_game(game_kind(check_string(name), call), rlang::list2(...), rules,
            game_settings(shuffle, piles, seat_names, record), call)
}

#' @rdname rules
#' @export
games <- function(game = NULL) {
  kinds <- game_kinds()
  if (!is.null(game)) kinds <- kinds[check_choice(game, names(kinds))]
  rows <- lapply(unname(kinds), function(kind) {
    field <- function(name) vapply(kind$rules, `[[`, "", name)
    data.frame(game = kind$name, rule = rule_names(kind),
               default = unname(default_texts(kind)),
               allowed = field("allowed"), meaning = field("meaning"))
  })
  structure(do.call(rbind, rows), class = table_class("habanera_games"))
}

#' @export
tell.habanera_games <- function(x, ...) {
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
  cat(sprintf("<rules> %s\n", attr(x, "title")))
  default <- attr(x, "default")
  shown <- vapply(unclass(x)[names(default)], rule_text, "")
  lines <- aligned_lines(data.frame(rule = names(shown), value = unname(shown),
                                    default = ifelse(shown == default, "", default)))
  writeLines(paste0("  ", lines))
  invisible(x)
}

#' @export
from_plain.game <- function(plain, game) {
  if (isTRUE(plain$has_function)) return(experiment_as_kept(plain, game))
  piles <- if (length(plain$piles)) plain$piles
  given <- c(list(deck = deck_from_plain(plain$deck)), plain$rules)
  shuffle <- if (is.null(piles)) procedure_from_plain(plain$shuffle)
  settings <- game_settings(shuffle, piles, if (isTRUE(plain$named)) as.character(plain$seat_names),
                            as.character(plain$record))
  new_game(game_kind(plain$game), given, settings, NULL)
}

# A game out of the plain data of what is asked of it, which cannot do without its code.
restored_game <- function(plain, game = NULL) {
  found <- restore_experiment(plain, game)
  if (inherits(found, "habanera_kept")) refuse_kept(NULL)
  found
}
