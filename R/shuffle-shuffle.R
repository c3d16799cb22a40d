#' Shuffle cards
#'
#' One shuffle: that of trial `trial` of `seed`, the same one that a simulation with this seed plays.
#'
#' @param x Cards, the top first.
#' @param procedure A shuffling procedure.
#' @param seed A whole number from 0 to below 2^53, or `NULL` to take one from R's generator.
#' @param trial The trial's number, a whole number of 0 or more.
#' @return The cards in their new order (the same cards, unless the procedure is no shuffle).
#' @examples
#' shuffle(deck_standard(), seed = 1)
#' shuffle(deck_standard(), shuffle_riffle(3), seed = 1)
#' @export
shuffle <- function(x, procedure = shuffle_uniform(), seed = NULL, trial = 1) {
  check_given()
  check_cards_argument(x)
  check_procedure(procedure)
  check_whole(trial)
  if (length(x) > most_cards) {
    refuse(sprintf("A deck has at most %s cards, not %s.", format_count(most_cards),
                   format_count(length(x))))
  }
  shuffled_cards(x, procedure, resolve_seed(seed), trial, rlang::current_env())
}

# Steps of the core are played together; R functions in between, each part with a lane of its own. With
# `conserve`, a function that loses or doubles cards is refused.
shuffled_cards <- function(x, procedure, seed, trial, call, conserve = TRUE) {
  parts <- procedure_parts(procedure)
  for (i in seq_along(parts)) {
    lane <- if (i == 1) 0 else first_part_lane + i
    f <- parts[[i]]$steps[[1]]$f
    x <- if (is.null(f)) {
      x[core_shuffled_places(core_steps(parts[[i]]), length(x), seed, trial, lane)]
    } else {
      call_shuffle_function(f, x, seed, trial, lane, conserve, call)
    }
  }
  x
}

# Far above the lanes of the deal, the game and the seats.
first_part_lane <- 2^20

# A procedure cut where R functions are called: runs of steps of the core, and single functions.
procedure_parts <- function(procedure) {
  steps <- rep(procedure$steps, step_times(procedure) * is_function_step(procedure) +
                 !is_function_step(procedure))
  whole <- new_procedure(steps)
  whole$steps <- lapply(whole$steps, function(step) {
    if (!is.null(step$f)) step$times <- 1
    step
  })
  by_function <- is_function_step(whole)
  part <- cumsum(by_function | c(TRUE, by_function[-length(by_function)]))
  if (!length(steps)) return(list())
  lapply(unname(split(whole$steps, part)), new_procedure)
}

is_function_step <- function(procedure) {
  vapply(procedure$steps, function(step) !is.null(step$f), TRUE)
}

has_function <- function(procedure) any(is_function_step(procedure))

call_shuffle_function <- function(f, x, seed, trial, lane, conserve, call) {
  where <- sprintf("in trial %s of seed %s", format_count(trial), whole_code(seed))
  y <- refuse_if_fails(with_trial_generator(seed, trial, lane, f(x)),
                       sprintf("Your shuffle failed %s.", where), "function", call)
  if (!is_cards(y) || catalogue_of(y)$id != catalogue_of(x)$id) {
    refuse(sprintf("Your shuffle must return the cards it was given, not %s, %s.", said(y), where),
           "function", call)
  }
  if (!conserve) return(y)
  wrong <- check_cards(y, against = x)
  if (nrow(wrong)) {
    refuse(sprintf("Your shuffle returned %s for %s: %s is %s, %s.", count_of(length(y), "card"),
                   format_count(length(x)), quoted(wrong$card[1]), wrong$problem[1], where),
           "function", call)
  }
  y
}

#' @export
value_code.habanera_procedure <- function(x) if (!has_function(x)) sprintf("procedure(%s)", as_code(format(x)))
