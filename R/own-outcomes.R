#' Outcomes of a game of one's own
#'
#' What a game made by [game_custom()] tells of a trial: each outcome has a type and a meaning, and `play()` must return
#' all of them by name, and no others.
#'
#' @param meaning What it is, in a few words.
#' @param choices The values that there can be, as text.
#' @param coin The smallest amount that money comes in.
#' @return A `habanera_outcome`, a list.
#' @examples
#' list(turns = outcome_whole("turns played"), won = outcome_flag("the patience comes out"),
#'      winner = outcome_seat("who wins"), net = outcome_money("what the player has won"))
#' @name outcomes
NULL

#' @rdname outcomes
#' @export
outcome_whole <- function(meaning) {
  check_given()
  new_outcome("whole", meaning)
}

#' @rdname outcomes
#' @export
outcome_money <- function(meaning, coin = 0.01) {
  check_given()
  check_number(coin, 1e-6, 1e6, "coin", rlang::current_env())
  new_outcome("money", meaning, coin = coin)
}

#' @rdname outcomes
#' @export
outcome_choice <- function(choices, meaning) {
  check_given()
  call <- rlang::current_env()
  if (!is.character(choices) || !length(choices) || anyNA(choices) || anyDuplicated(choices)) {
    refuse(sprintf("`choices` must be different texts, not %s.", said(choices)), call = call)
  }
  new_outcome("choice", meaning, choices = choices)
}

#' @rdname outcomes
#' @export
outcome_flag <- function(meaning) {
  check_given()
  new_outcome("flag", meaning, choices = c("no", "yes"))
}

#' @rdname outcomes
#' @export
outcome_seat <- function(meaning) {
  check_given()
  new_outcome("seat", meaning)
}

new_outcome <- function(type, meaning, ...) {
  check_string(meaning, "meaning", rlang::caller_env())
  structure(list(type = type, meaning = meaning, ...), class = "habanera_outcome")
}

checked_outcomes <- function(outcomes, call) {
  names <- if (is.list(outcomes)) rlang::names2(outcomes)
  fits <- is.list(outcomes) && length(outcomes) > 0 && all(grepl("^[a-z][a-z0-9_]*$", names)) && !anyDuplicated(names)
  if (!fits) refuse("`outcomes` must be a list by name, in small letters, such as list(turns = outcome_whole(...)).",
                    call = call)
  bad <- which(!vapply(outcomes, inherits, NA, "habanera_outcome"))
  if (length(bad)) {
    refuse(sprintf("`outcomes`: `%s` must be outcome_whole() or another such, not %s.", names[bad[1]],
                   said(outcomes[[bad[1]]])), call = call)
  }
  taken <- has_meaning(names)
  if (length(taken)) refuse(sprintf("`outcomes`: `%s` has a meaning already.", taken[1]), call = call)
  outcomes
}

# Names that results have for something else.
has_meaning <- function(names) {
  c(intersect(names, c("n", "example_trial", "probability", "turn", "trial")),
    grep("^score_[0-9]+$", names, value = TRUE))
}

most_custom_seats <- function() core_numbers()[["most_seats"]]

# What each seat has of the win, of games in which a seat wins: in parts that any number of seats can share.
whole_score <- function() core_numbers()[["whole_win"]]
score_names <- function(seats) sprintf("score_%d", seq_len(seats))
score_columns <- function(seats) {
  lapply(rlang::set_names(seq_len(seats), score_names(seats)), function(seat) {
    list(meaning = sprintf("what seat %d has of the win: 1, or a share of it", seat), told_of = "that were played",
         is_money = TRUE)
  })
}
score_units <- function() {
  as.list(rlang::set_names(rep(whole_score(), most_custom_seats()), score_names(most_custom_seats())))
}
score_limits <- function() rlang::rep_named(score_names(most_custom_seats()), list(c(0, 1)))

# The first outcome that is a seat, NA where none is.
winner_among <- function(outcomes) names(outcomes)[vapply(outcomes, `[[`, "", "type") == "seat"][1]

# Whether outcomes of these types tell each seat what they are worth to it: one is a seat, or each seat has its money.
tells_worth_to_all <- function(types, seats) "seat" %in% types || sum(types == "money") == seats

# A function of outcomes as numbers that puts the scores to them.
score_keeper <- function(winner, seats) {
  if (is.na(winner)) return(identity)
  scores <- lapply(0:seats, function(won) {
    rlang::set_names(if (won == 0) rep(whole_score() / seats, seats) else whole_score() * (seq_len(seats) == won),
                     score_names(seats))
  })
  function(numbers) c(numbers, scores[[numbers[[winner]] + 1]])
}

# What is said of them in a kind.
outcome_columns <- function(outcomes) {
  lapply(outcomes, function(outcome) {
    switch(outcome$type, whole = list(meaning = outcome$meaning, told_of = "that were played"),
           money = list(meaning = outcome$meaning, told_of = "that were played", is_money = TRUE),
           list(meaning = outcome$meaning))
  })
}

# As a whole number, as results hold it; what is none of the type is refused.
outcome_number <- function(outcome, value, name, seats) {
  slip <- function(wanted) {
    refuse(sprintf("play() must return `%s` as %s, not %s.", name, wanted, said(value)), "function", NULL)
  }
  if (length(value) != 1) slip("one value")
  switch(outcome$type,
    whole = if (is.numeric(value) && (is.na(value) || value == round(value))) as.double(value) else
      slip("a whole number"),
    money = if (is.numeric(value) && is.finite(value)) round(value / outcome$coin) else slip("a number"),
    choice = if (value %in% outcome$choices) match(value, outcome$choices) - 1 else
      slip(sprintf("one of %s", join_words(outcome$choices, "or"))),
    flag = if (is.logical(value) && !is.na(value)) as.double(value) else slip("TRUE or FALSE"),
    seat = if (is.numeric(value) && value %in% 0:seats) as.double(value) else
      slip(sprintf("a seat, 1 to %d, or 0: nobody", seats))
  )
}

# A function of what play() returned that gives all outcomes as numbers; it is called for every trial, so that whole
# numbers and seats, the most usual, are read in the core.
outcome_reader <- function(outcomes, seats) {
  names <- names(outcomes)
  types <- unname(vapply(outcomes, `[[`, "", "type"))
  least <- ifelse(types == "whole", -2^53, ifelse(types == "seat", 0, NA))
  most <- ifelse(types == "whole", 2^53, ifelse(types == "seat", seats, NA))
  function(values) {
    numbers <- .Call(`_habanera_core_table_outcomes`, values, names, least, most)
    if (is.null(numbers)) {
      if (!identical(names(values), names)) refuse_other_outcomes(outcomes, values)
      numbers <- rlang::rep_named(names, NA_real_)
    }
    if (anyNA(numbers)) {
      for (i in which(is.na(numbers))) {
        numbers[i] <- outcome_number(outcomes[[i]], values[[names[i]]], names[i], seats)
      }
    }
    numbers
  }
}

# In whatever order, all there must be and no others.
refuse_other_outcomes <- function(outcomes, values) {
  given <- rlang::names2(values)
  missing <- setdiff(names(outcomes), given)
  other <- setdiff(given, names(outcomes))
  if (!is.list(values) && is.null(names(values))) {
    refuse(sprintf("play() must return its outcomes by name (%s), not %s.", join_words(names(outcomes)), said(values)),
           "function", NULL)
  }
  if (length(missing)) refuse(sprintf("play() has forgotten the outcome `%s`.", missing[1]), "function", NULL)
  if (length(other)) {
    refuse(sprintf("play() returns `%s`, which is not among its outcomes%s", other[1],
                   did_you_mean(other[1], names(outcomes))), "function", NULL)
  }
}
