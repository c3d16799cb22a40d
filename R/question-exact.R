#' @rdname exact
#' @section Questions: A plain draw is worked out class by class: cards that no word tells apart are one class,
#'   the number of each class among the cards still to come is hypergeometric (Johnson, Kemp & Kotz 2005,
#'   "Univariate discrete distributions", eq. 6.1), with replacement binomial, and the state is the
#'   cards drawn and the words' values so far; with `category()` every set of cards is looked at
#'   once. Where the order counts (`card_at()`), where there are stages, and
#'   in [draw_until()], the hands are followed card by card. A shuffle that is not uniform can be worked
#'   out for up to 7 cards, from the exact law of its arrangements, without redraws. `method = "walk"` walks
#'   every path of the code that simulates.
#' @export
exact.habanera_question <- function(x, method = c("classes", "walk"), ...) {
  exact_question(x, check_choice(method, c("classes", "walk")), rlang::current_env())
}

exact_question <- function(x, method, call, limits = exact_limits) {
  refuse_far_places(x, call)
  law <- within_limits(keyed_law(x, method, call, limits), x, call)
  rows <- gathered_rows(key_outcomes(x, law$key))
  new_distribution(result_kind(x), rows$outcomes, rows$sum(law$probability),
                   new_provenance(x, entries_per_trial(x), source = law$source))
}

# Beyond these an exact answer is refused, and not given beside a simulated one unasked: states of the class
# by class law, different hands followed through stages, and sets of cards that are read once each.
exact_limits <- list(states = 2e7, hands = 1e6, sets = 1.5e8)
quick_limits <- list(states = 5e5, hands = 2e4, sets = 3e6)
most_walked_cards <- 7

#' @export
quick_exact.habanera_asked <- function(experiment) {
  if (has_keep_function(experiment)) return(NULL)
  tryCatch(exact_question(experiment, "classes", NULL, quick_limits), habanera_error_work = function(cnd) NULL)
}

# Chances by the core's keys, with how they were found.
keyed_law <- function(x, method, call, limits) {
  shuffled <- !x$replace && !is_uniform(x$shuffle)
  if (is_sampling(x$whole) && method != "walk") {
    refuse("A deck sampled anew in each trial is only walked: exact(x, method = \"walk\"), or simulate().", "work",
           call)
  }
  if (shuffled && method != "walk") return(c(arrangement_law(x, call), source = "arrangements"))
  if (method == "walk") return(c(walked_question(x, call), source = "walk"))
  if (is_plain_question(x)) {
    return(c(classes_law(x, if (length(x$spec$words$categories)) limits$sets else limits$states), source = "classes"))
  }
  refuse_too_many_hands(x, limits$hands, call)
  c(hands_law(x, limits$hands), source = "hands")
}

# Whether a hand at any turn is a draw of so many cards, and nothing else matters.
is_plain_question <- function(x) {
  inherits(x, "habanera_question") && !is_sampling(x$whole) && !length(x$stages) && !length(x$spec$turn_words) &&
    !length(x$spec$words$places)
}

classes_law <- function(x, most) {
  classes <- question_classes(x)
  turns <- lapply(0:x$turns, function(turn) {
    law <- core_class_law(x$spec$words, classes, x$size + turn * x$turn_size, x$replace, most)
    list(key = turn * x$words$cells + law$key, probability = law$probability)
  })
  list(key = unlist(lapply(turns, `[[`, "key")), probability = unlist(lapply(turns, `[[`, "probability")))
}

within_limits <- function(code, x, call) {
  tryCatch(code, error = function(cnd) {
    if (inherits(cnd, "habanera_error")) rlang::cnd_signal(cnd)
    refuse_as_out_of_reach(x, conditionMessage(cnd), call)
  })
}

walked_question <- function(x, call) {
  if (played_in_r(x)) refuse("An R function cannot be walked.", "work", call)
  core_walk_question(x$spec, most_paths)
}

# Every arrangement that the shuffle leaves, with its chance, and what is asked played on it.
arrangement_law <- function(x, call) {
  if (has_function(x$shuffle)) refuse("An R function cannot be worked out exactly; simulate().", "work", call)
  if (length(x$deck) > most_walked_cards) {
    refuse(sprintf("After a shuffle that is not uniform, at most %s can be worked out exactly, not %s; simulate().",
                   count_of(most_walked_cards, "card"), format_count(length(x$deck))), "work", call)
  }
  if (length(x$stages)) {
    refuse(paste("After a shuffle that is not uniform, a hand with redraws or exchanges cannot be worked out exactly;",
                 "simulate()."), "work", call)
  }
  law <- core_exact_law(core_steps(x$shuffle, repeated = FALSE), as.integer(step_times(x$shuffle)), length(x$deck),
                        most_paths, most_products)
  kinds <- match(codes_of(x$deck), x$pool$kinds$codes)
  tables <- matrix(kinds[law$places], nrow = length(law$probability))
  played <- core_play_on(x$spec, tables)
  keys <- unlist(played$keys)
  list(key = keys, probability = rep(law$probability, times = lengths(played$keys)))
}
