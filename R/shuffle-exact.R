#' The exact distribution of a procedure
#'
#' The distribution of the arrangement that a procedure leaves, by walking every path of its choices, step
#' by step; steps and repeats are convolved. Up to 8 cards.
#'
#' @param x A procedure.
#' @param deck Cards, at most 8, in the order they start in.
#' @param ... Not used.
#' @return A distribution with the columns `arrangement` (text: codes from the top, separated by spaces)
#'   and `probability`, one row per arrangement that can come. `summary()` and `tidy()` of it have the
#'   terms `total_variation` (distance from the uniform distribution over all arrangements of these
#'   cards: half the sum of absolute differences), `separation` (1 minus the least probability over the
#'   uniform one) and `entropy` (in bits); `summary()` also names the most and the least likely
#'   arrangements (Aldous & Diaconis 1986, "Shuffling cards and stopping times", p. 335).
#' @section Errors: `habanera_error_work` for more than 8 cards, for procedures without an end of paths,
#'   and for more than 5 million paths or 100 million products: the error says how many.
#' @examples
#' exact(shuffle_naive_swap(), deck_numbered(3))
#' summary(exact(shuffle_riffle(2), deck_numbered(5)))
#' @export
exact.habanera_procedure <- function(x, deck, ...) {
  check_given()
  call <- rlang::current_env()
  check_deck(deck)
  if (has_function(x)) return(exact_function(x, deck, call))
  steps <- core_steps(x, repeated = FALSE)
  refuse_long_walk(x, steps, length(deck), call)
  law <- tryCatch(
    core_exact_law(steps, as.integer(step_times(x)), length(deck), most_paths, most_products),
    error = function(cnd) refuse(paste0("The exact answer is out of reach: ", conditionMessage(cnd), "."),
                                 "work", call)
  )
  named <- arrangement_names(law$places, deck)
  # Like cards make like arrangements of different places.
  total <- rowsum(law$probability, named, reorder = FALSE)
  experiment <- arrangements(deck, x)
  new_distribution("arrangements", data.frame(arrangement = rownames(total)), total[, 1],
                   new_provenance(experiment, 1, source = "walk"))
}

# Of an R function only one that leaves nothing to chance has an exact answer.
exact_function <- function(x, deck, call) {
  pass <- fixed_pass(x, length(deck))
  if (is.null(pass)) refuse("A random R function cannot be walked; simulate(positions(deck, x)).", "work", call)
  arrangement <- paste(as.character(deck)[pass], collapse = " ")
  new_distribution("arrangements", data.frame(arrangement = arrangement), 1,
                   new_provenance(arrangements(deck, x), 1, source = "walk"))
}

most_exact_cards <- 8
most_paths <- 5e6
most_products <- 1e8

refuse_long_walk <- function(x, steps, cards, call) {
  if (cards > most_exact_cards) {
    refuse(sprintf("Arrangements can be worked out for at most %d cards, not %s: there are %s of them.",
                   most_exact_cards, format_count(cards), format_number(factorial(min(cards, 170)), 2)),
           "work", call)
  }
  paths <- core_step_paths(steps, cards)
  if (any(is.infinite(paths))) {
    refuse(sprintf("The paths of %s have no end.", quoted(x$steps[[which(is.infinite(paths))[1]]]$name)),
           "work", call)
  }
  if (any(paths > most_paths)) {
    refuse(sprintf("%s has about %s paths to walk on %s; at most %s are.",
                   quoted(x$steps[[which.max(paths)]]$name), format_number(max(paths), 2),
                   count_of(cards, "card"), format_count(most_paths)), "work", call)
  }
}

arrangement_names <- function(places, deck) {
  cards <- as.character(deck)
  if (!ncol(places)) return(rep("", nrow(places)))
  apply(matrix(cards[places], nrow = nrow(places)), 1, paste, collapse = " ")
}

# The question that such a distribution answers.
arrangements <- function(deck, shuffle) {
  new_experiment("habanera_arrangements", deck = deck, shuffle = shuffle)
}

#' @export
result_kind.habanera_arrangements <- function(experiment) "arrangements"
#' @export
in_words.habanera_arrangements <- function(x, ...) {
  sprintf("the arrangement of %s after %s", deck_in_words(x$deck),
          procedure_in_words(x$shuffle))
}
#' @export
as_plain.habanera_arrangements <- function(experiment) {
  list(kind = "arrangements", deck = plain_deck(experiment$deck), shuffle = format(experiment$shuffle))
}
#' @export
from_plain.arrangements <- function(plain, game) {
  arrangements(deck_from_plain(plain$deck), procedure(plain$shuffle))
}

# How many different arrangements the cards of a deck have: n! over the copies' factorials.
arrangement_count <- function(deck) {
  round(exp(lfactorial(length(deck)) - sum(lfactorial(tabulate(codes_of(deck))))))
}

#' @rawNamespace S3method(generics::tidy, habanera_distribution_arrangements)
tidy.habanera_distribution_arrangements <- function(x, ...) {
  all <- arrangement_count(x$provenance$experiment$deck)
  p <- x$probability
  # A procedure that loses cards leaves what is no arrangement of the deck: all that is off.
  real <- is_rearrangement(x)
  distance <- (sum(abs(p[real] - 1 / all)) + (all - sum(real)) / all + sum(p[!real])) / 2
  least <- if (sum(real) < all) 0 else min(p[real])
  data.frame(term = c("total_variation", "separation", "entropy"),
             estimate = c(max(0, distance), max(0, 1 - all * least), -sum(p * log2(p))))
}

is_rearrangement <- function(x) {
  sorted <- function(text) paste(sort(strsplit(text, " ", fixed = TRUE)[[1]]), collapse = " ")
  deck <- paste(sort(as.character(x$provenance$experiment$deck)), collapse = " ")
  vapply(x$outcomes[["arrangement"]], sorted, "", USE.NAMES = FALSE) == deck
}

#' @export
summary.habanera_distribution_arrangements <- function(object, ...) {
  terms <- tidy(object)
  structure(
    list(terms = rlang::set_names(as.list(terms$estimate), terms$term),
         likeliest = extreme_arrangements(object, max), least = extreme_arrangements(object, min),
         possible = sum(is_rearrangement(object)), lost = sum(!is_rearrangement(object)),
         all = arrangement_count(object$provenance$experiment$deck),
         question = in_words(object$provenance$experiment)),
    made = call_made(), class = result_class("habanera_arrangement_summary")
  )
}

extreme_arrangements <- function(x, extreme) {
  p <- extreme(x$probability)
  list(arrangement = x$outcomes[["arrangement"]][abs(x$probability - p) < 1e-12], probability = p)
}

#' @rawNamespace S3method(generics::tidy, habanera_arrangement_summary)
tidy.habanera_arrangement_summary <- function(x, ...) {
  data.frame(term = names(x$terms), estimate = unlist(x$terms, use.names = FALSE))
}

#' @export
tell.habanera_arrangement_summary <- function(x, ...) {
  cat("<summary> ", x$question, ", exact\n", sep = "")
  if (x$lost > 0) cat(sprintf("Not a shuffle: cards are lost and doubled in %s.\n", count_of(x$lost, "outcome")))
  cat(sprintf("%s of the %s arrangements of these cards can come; a uniform shuffle gives each %s.\n",
              format_count(x$possible), format_count(x$all), fraction_in_words(1 / x$all)))
  say <- function(which, found) {
    cat(sprintf("%s likely: %s (%s)\n", which, fraction_in_words(found$probability),
                join_some(quoted(found$arrangement), 3)))
  }
  say("Most", x$likeliest)
  say("Least", x$least)
  cat(sprintf("total variation %s, separation %s, entropy %s bits of %s\n",
              format_number(x$terms$total_variation, 4), format_number(x$terms$separation, 4),
              format_number(x$terms$entropy, 4), format_number(log2(x$all), 4)))
  invisible(x)
}
