# Games of one's own in files: R code whose last value is a game, run only where it is named as such.

is_game_file <- function(name) length(name) == 1 && grepl("[.][rR]$", name)

game_from_file <- function(file, call) {
  check_readable(file, call)
  space <- new.env(parent = globalenv())
  value <- tryCatch(source(file, local = space, echo = FALSE)$value, habanera_error = rlang::cnd_signal,
                    error = function(cnd) {
                      refuse(sprintf("%s failed: %s.", file_name(file), sub("[.]?[[:space:]]*$", "",
                                                                           conditionMessage(cnd))), "file", call)
                    })
  if (inherits(value, "habanera_game")) return(value)
  made <- Filter(function(each) inherits(each, "habanera_game"), mget(ls(space), envir = space))
  if (length(made) == 1) return(made[[1]])
  refuse(sprintf("%s must end with a game, as game_custom() makes it; it %s.", file_name(file),
                 if (length(made)) sprintf("makes %s: name one in its last line", join_words(names(made))) else
                   "makes none"), "file", call)
}

#' A start for a game of one's own
#'
#' Writes two files: `name.R` or `name.cpp`, a small game with comments, which is to be changed into yours, and
#' `test-name.R`, a test of it for testthat.
#'
#' @param name What the game is called, in small letters.
#' @param dir The folder, which is there; files that are there already are not written over.
#' @param cpp Whether the game is to be in C++.
#' @return The names of the files, invisibly.
#' @section Errors: `habanera_error_input` for a name of other letters; `habanera_error_file` where a file is there
#'   already, or cannot be written.
#' @seealso [game_custom()], [game_cpp()].
#' @examples
#' folder <- tempfile()
#' dir.create(folder)
#' write_game_template("first_pair", folder)
#' @export
write_game_template <- function(name, dir = ".", cpp = FALSE) {
  check_given()
  call <- rlang::current_env()
  check_string(name)
  check_string(dir)
  check_flag(cpp)
  if (!grepl("^[a-z][a-z0-9_]*$", name)) {
    refuse(sprintf("`name` must be of small letters, digits and _, not %s.", quoted(name)))
  }
  files <- file.path(dir, paste0(c("", "test-"), name, c(if (cpp) ".cpp" else ".R", ".R")))
  there <- files[file.exists(files)]
  if (length(there)) refuse(sprintf("%s is there already.", file_name(there[1])), "file")
  shipped <- function(...) readLines(system.file(..., package = "habanera"))
  # The start in C++ is the example.
  game <- if (cpp) gsub("\\blift\\b", name, shipped("examples", "lift.cpp")) else {
    gsub("NAME", name, shipped("templates", "game.R"), fixed = TRUE)
  }
  test <- gsub("NAME", name, shipped("templates", if (cpp) "test-game-cpp.R" else "test-game.R"), fixed = TRUE)
  write_lines_whole(game, files[1], call)
  write_lines_whole(test, files[2], call)
  invisible(files)
}

# What a person in a seat is shown, a line for each thing.
shown_words <- function(view) {
  plain <- is.list(view) && length(view) && !is.null(names(view)) && all(vapply(view, is.atomic, NA))
  if (!plain) return(c("", utils::capture.output(print(view))))
  values <- vapply(view, function(each) {
    paste(if (is.numeric(each)) format_statistic(each) else as.character(each), collapse = ", ")
  }, "")
  c("", sprintf("%s: %s", names(view), values))
}
