# What experiments are to results.

# Results are told what experiments are through these: as plain data and back (with the `game` given again where it
# holds code of one's own), what kind of result they give (the last part of its class), whether counts `n` add up to so
# many trials, and in words.
as_plain <- function(experiment) UseMethod("as_plain")
from_plain <- function(plain, game) UseMethod("from_plain")
result_kind <- function(experiment) UseMethod("result_kind")
adds_up <- function(experiment, n, trials) UseMethod("adds_up")

#' @export
from_plain.default <- function(plain, game) {
  refuse(sprintf("This version knows no experiment of the kind %s.", said(class(plain)[1])), "file",
         call = NULL)
}

#' In words
#'
#' What a result says first, or what an experiment is, in a sentence.
#'
#' @param x A result, or an experiment: draws, a question, a game.
#' @param ... Not used.
#' @return A text.
#' @examples
#' in_words(house_edge(game_high_card()))
#' in_words(game_war())
#' @export
in_words <- function(x, ...) {
  check_given()
  UseMethod("in_words")
}

#' @export
in_words.default <- function(x, ...) refuse(sprintf("`x` must be a result or an experiment, not %s.", said(x)))

# Tells two experiments apart.
experiment_digest <- function(experiment) cli::hash_sha256(to_json(as_plain(experiment)))
