# A player as a value: its name, its settings, and of some a label, a table of `cells` or an R function `f`. As text it
# is the name and what is set, from which it can be made again; another player stands in brackets.

new_player <- function(name, ...) structure(list(name = name, settings = list(...)), class = "habanera_player")

#' @export
format.habanera_player <- function(x, ...) {
  if (!is.null(x$label)) return(x$label)
  set <- Filter(function(value) !identical(value, Inf), x$settings)
  values <- vapply(set, function(value) {
    if (inherits(value, "habanera_players")) paste(player_labels(value), collapse = "+") else format(value, digits = 15)
  }, "")
  paste(c(x$name, sprintf("%s=%s", names(set), values)), collapse = ":")
}

#' @export
print.habanera_player <- function(x, ...) {
  cat("<player> ", format(x), "\n", sep = "")
  invisible(x)
}

new_players <- function(players) structure(unname(players), class = "habanera_players")

# Divided at a mark that stands outside of brackets, in which another player may stand.
split_outside <- function(text, mark) {
  letters <- strsplit(text, "")[[1]]
  depth <- cumsum((letters == "(") - (letters == ")"))
  part <- cumsum(letters == mark & depth == 0)
  unname(vapply(split(letters, part), function(piece) {
    sub(paste0("^", mark), "", paste(piece, collapse = ""))
  }, ""))
}

# The whole of a player as text, from which it can be made again.
player_text <- function(player) {
  if (!is.null(player$f)) return(player$label)
  set <- Filter(function(value) !identical(value, Inf), player$settings)
  values <- vapply(names(set), function(name) setting_text(set[[name]], name), "")
  paste(c(player$name, sprintf("%s=%s", names(set), values)), collapse = ":")
}

setting_text <- function(value, name) {
  if (inherits(value, "habanera_players")) return(sprintf("(%s)", paste(player_texts(value), collapse = ",")))
  if (!inherits(value, "habanera_player")) return(format(value, digits = 15))
  text <- player_text(value)
  # Who looks ahead by another names it without brackets.
  if (name == "playing" && !grepl(":", text, fixed = TRUE)) text else sprintf("(%s)", text)
}

player_texts <- function(players) vapply(players, player_text, "")
player_labels <- function(players) vapply(players, format, "")

#' @export
as.character.habanera_player <- function(x, ...) player_text(x)

# One for each seat.
seated_players <- function(players, seats) unclass(players)[rep_len(seq_along(players), seats)]
