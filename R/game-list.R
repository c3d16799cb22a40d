# The games there are: each file of a game has a function kind_of_NAME(), by which it is found.

kind_makers <- function() ls(topenv(), pattern = "^kind_of_")
game_names <- function() c(sub("^kind_of_", "", kind_makers()), names(added_kinds$all))
game_kinds <- function() lapply(rlang::set_names(game_names()), game_kind)

# Kinds that are not of this package; and those that were made before, since each is made once.
added_kinds <- new.env()
made_kinds <- new.env()

game_kind <- function(name, call = NULL) {
  known <- Filter(Negate(is.null), c(added_kinds$all[name], made_kinds$all[name]))
  if (length(known)) return(known[[1]])
  if (!name %in% game_names()) {
    refuse(sprintf("There is no game %s%s Games: %s.", quoted(name), did_you_mean(name, game_names()),
                   join_words(game_names())), call = call)
  }
  made_kinds$all[[name]] <- get(paste0("kind_of_", name), topenv())()
}

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
               default = vapply(kind$rules, function(rule) rule_text(as_rule_value(rule)), ""),
               allowed = field("allowed"), meaning = field("meaning"))
  })
  structure(do.call(rbind, rows), class = c("habanera_games", "habanera_table", "data.frame"))
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
  kind <- attr(x, "kind")
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
    refuse("A game with R or C++ code of one's own cannot be read from a file; make it again.", "file", call = NULL)
  }
  shuffle <- if (is.null(piles)) procedure_from_plain(plain$shuffle)
  settings <- game_settings(shuffle, piles, if (isTRUE(plain$named)) as.character(plain$seat_names),
                            as.character(plain$record))
  new_game(game_kind(plain$game), given, settings, NULL)
}
