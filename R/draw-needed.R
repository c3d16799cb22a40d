#' How many draws would show it?
#'
#' The number of trials after which a card that comes up `off_by` too often (others a little less)
#' would be noticed with the stated power: by its own z, when the card was named beforehand; by the
#' largest z of all kinds, judged at the level divided by the number of kinds (Bonferroni); and by
#' the overall chi-square of [summary()][summary.habanera_counts], through its noncentral law.
#'
#' With p the card's fair chance of being drawn and q = p (1 + off_by), the z test needs
#' (z_level sqrt(v(p)) + z_power sqrt(v(q)))^2 / (q - p)^2 trials, v(p) = p (1 - p) being the
#' variance in one trial, or for several copies the exact variance, scaled alike (Fleiss, Levin &
#' Paik 2003, "Statistical methods for rates and proportions", ch. 2). The chi-square needs a
#' noncentrality that grows by the factor times the sum of (change)^2 / expected with every trial
#' (Cohen 1988, "Statistical power analysis", ch. 7).
#'
#' @param deck Cards.
#' @param size Number of cards drawn.
#' @param off_by How much too often, as a share: 0.05 is 5% more often than it should.
#' @param tampered In the place of `off_by`: the share of hands that are made to hold a pair, or better. How many hands
#'   show that is told for the tests of categories and of different ranks by which [draws_recorded()] are judged, at the
#'   level that Holm's correction leaves to the first of eight tests.
#' @param card The code of the card; `NULL`: the first of the deck.
#' @param replace As in [draws()].
#' @param level Chance of a false alarm.
#' @param power Chance of noticing.
#' @return A data frame: `test` (text), `trials` (whole number).
#' @section Errors: `habanera_error_input` when a card cannot come that much more often.
#' @examples
#' draws_needed(deck_standard(), 5, off_by = 0.05)
#' draws_needed(deck_standard(), 5, tampered = 0.06, level = 0.01)
#' @export
draws_needed <- function(deck, size, off_by = NULL, card = NULL, replace = FALSE, level = 0.05,
                         power = 0.95, tampered = NULL) {
  check_given()
  call <- rlang::current_env()
  experiment <- checked_draws(deck, size, replace, call)
  check_level(level)
  check_between(power, level, 1)
  if (is.null(off_by) == is.null(tampered)) {
    refuse("Say either `off_by`, how much too often a card comes, or `tampered`, the share of hands.")
  }
  if (!is.null(tampered)) return(hands_needed(experiment, tampered, level, power, call))
  check_between(off_by, 0, 1e6)
  kinds <- kinds_of(deck)
  law <- fair_law(experiment, kinds$copies)
  if (is.na(law$factor) || law$df < 1 || size == 0) {
    refuse("Nothing can come up too often here: every draw holds the same cards.")
  }
  kind <- named_kind(card, deck, kinds, rlang::current_env())
  most <- if (replace) size else min(kinds$copies[kind], size)
  change <- shifted_rates(law, kind, off_by, most, rlang::current_env())
  data.frame(
    test = c("this card's z, named beforehand", "the largest z of all kinds", "overall chi-square"),
    trials = ceiling(c(trials_for_z(law, kind, change, most, level, power),
                       trials_for_z(law, kind, change, most, level / length(kinds$copies), power),
                       trials_for_chi_square(law, change, level, power)))
  )
}

# So many hands show, by the test of categories, that a pair was forced into a share of them: at the level that Holm
# leaves to the first of the tests that there are.
hands_needed <- function(experiment, tampered, level, power, call) {
  check_between(tampered, 0, 1, call = call)
  plan <- list(experiment = experiment, kinds = kinds_of(experiment$deck), size = experiment$size)
  plan$data <- catalogue_of(experiment$deck)$data[plan$kinds$codes, , drop = FALSE]
  trait <- if (!experiment$replace && experiment$size > 1) category_trait(plan)
  if (is.null(trait)) {
    refuse("Tampering is told by categories of hands: of two cards or more, without replacement, with ranks and suits.",
           call = call)
  }
  of_one <- forced_pair_noncentrality(trait$law, tampered)
  ranks <- different_trait("rank", plan)
  of_ranks <- forced_rank_noncentrality(ranks, tampered)
  if (of_one < 1e-12) refuse("Hands of so few cards are no other for it: there is no pair to be forced.", call = call)
  # Rare categories are put together, the fewer hands there are; so the number that the last of them asks for.
  hands <- 100
  for (step in 1:50) {
    cells <- max(2, sum(trait$law * hands >= 5) + 1)
    hands <- needed_noncentrality(cells - 1, level / usual_hand_tests, power) / of_one
  }
  data.frame(test = c("categories of hands, a pair forced", "different ranks in a hand, a pair forced"),
             trials = ceiling(c(hands, needed_noncentrality(1, level / usual_hand_tests, power) / of_ranks)))
}

# Of hands of a standard pack that are not written in order.
usual_hand_tests <- 8

named_kind <- function(card, deck, kinds, call) {
  if (is.null(card)) return(kinds$places[1])
  check_string(card, "card", call)
  code <- read_codes(card, catalogue_of(deck), call = call)
  kind <- match(code, kinds$codes)
  if (length(kind) != 1 || is.na(kind)) {
    refuse(sprintf("`card` must be one card of the deck, not %s.", quoted(card)), call = call)
  }
  kind
}

# The change of each kind's expected number per trial.
shifted_rates <- function(law, kind, off_by, most, call) {
  gain <- law$expected[kind] * off_by
  if (law$expected[kind] + gain >= most) {
    refuse(sprintf("`off_by` must be below %s: this card cannot come more often than %s a draw.",
                   format_number(most / law$expected[kind] - 1), count_of(most, "time")), call = call)
  }
  change <- -gain * law$expected / sum(law$expected[-kind])
  change[kind] <- gain
  change
}

trials_for_z <- function(law, kind, change, most, level, power) {
  fair <- law$variance[kind]
  # Chances as a share of the most that a draw can hold: for one copy, of coming at all.
  p <- law$expected[kind] / most
  q <- p + change[kind] / most
  shifted <- fair * q * (1 - q) / (p * (1 - p))
  z <- stats::qnorm(level / 2, lower.tail = FALSE) * sqrt(fair) + stats::qnorm(power) * sqrt(shifted)
  (z / change[kind])^2
}

trials_for_chi_square <- function(law, change, level, power) {
  needed_noncentrality(law$df, level, power) / (law$factor * sum(change^2 / law$expected))
}
