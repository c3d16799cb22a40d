# Asks a person at the console.

# One of the moves, by the key typed for it.
asked_move <- function(lines, moves, words = NULL) {
  keys <- move_keys(moves)
  shown <- if (is.null(words)) keys else paste(keys, words[moves], sep = " ")
  say <- function(...) cat(..., "\n", sep = "", file = if (interactive()) stdout() else stderr())
  say(paste(lines, collapse = "\n"))
  repeat {
    say(sprintf("Your move (%s; q stops):", paste(shown, collapse = if (is.null(words)) " " else ", ")))
    typed <- typed_line()
    if (is.null(typed) || typed %in% c("q", "Q")) rlang::abort("stopped", class = "habanera_stopped")
    if (typed %in% keys) return(moves[match(typed, keys)])
    say(sprintf("There is no move %s.", quoted(typed)))
  }
}

# Words by the numbers of moves: those that came with the moves that are open, or those that moves always have.
words_by_number <- function(moves, usual) {
  told <- attr(moves, "words")
  if (is.null(told)) usual else replace(character(max(moves)), moves, told)
}

# A key for each move that there can be: its number below ten, then letters; `q` is no move.
move_keys <- function(moves) {
  c(1:9, setdiff(c(letters, LETTERS), c("q", "Q")))[moves]
}

# NULL at the end of what can be read.
typed_line <- function() {
  line <- if (interactive()) readline() else readLines(console_input(), n = 1, warn = FALSE)
  if (length(line)) trimws(line)
}

# Standard input of a script is opened once, else what was read ahead would be lost.
console_input <- local({
  input <- NULL
  function() {
    if (is.null(input)) input <<- file("stdin", "r")
    input
  }
})
