#' Is this shuffle fair?
#'
#' Tests whether a shuffle loses or doubles cards, and whether it leaves every arrangement equally often. The
#' verdict comes in plain words first; a table of tests follows.
#'
#' @section Tests: With N trials of n cards, each against its law under a uniform shuffle:
#'   * `conservation`: every result is a rearrangement of the deck. Otherwise no other test is made.
#'   * `position_by_card`: sum of (O - E)^2 / E times (n - 1)/n, on (n - 1)^2 degrees of freedom (both margins
#'     are fixed); `position_by_kind`, where copies of a card cannot be told apart: on (kinds - 1)(n - 1).
#'   * `stayed_put`, `still_together` (neighbours in their old order), `rising_sequences`, `inversions`,
#'     `cycles`, `total_distance` (sum of how far each card moved): a chi-square against the whole law, cut into
#'     at most 20 intervals of nearly equal probability with 10 or more expected in each; above 400 cards the
#'     mean against a normal law with the exact mean and variance.
#'   * `parity`: whether the arrangement is an even or an odd one.
#'   * `top_cards`: the ordered top cards, up to 3 (all of up to 6 cards): a chi-square, or, with fewer than 5
#'     expected in a cell, the number of coincident pairs, which is Poisson with mean N(N-1)/(2 cells).
#'   * `successive`: the mean Spearman correlation between the places of cards in a trial and in the one before;
#'     each has mean 0 and variance 1/(n - 1).
#'   * `alike_suit`, `alike_rank`, ...: neighbours that share an attribute; in a grid also one above the other.
#'   * `guesser`: half of the trials teach which card most often comes first, and which after which; on the other
#'     half the guesser names each card before it is turned. Its right guesses have mean 1 + 1/2 + ... + 1/n and
#'     variance sum of 1/m - 1/m^2 a deck; the test is one-sided.
#'   * `repeats` (recorded shuffles, programs, R functions): whole arrangements that came again; Poisson with
#'     mean N(N-1)/2 over the number of arrangements, one-sided.
#'
#'   p-values are adjusted by Holm's method (1979), so that a fair shuffle is called biased with a chance of at
#'   most `level`.
#'
#' @param procedure A procedure or text for [procedure()], [shuffle_recorded()] or [shuffle_program()].
#' @param deck Cards, up to 4,096; of recorded shuffles and programs their own.
#' @param nsim Number of trials; of recorded shuffles all there are, unless given.
#' @param seed A whole number, or `NULL`.
#' @param each `"fresh"`: every trial starts from the deck in order; `"continued"`: from the result of the
#'   trial before, in chains of 1,000 trials that each start from the deck in order.
#' @param level The chance of calling a fair shuffle biased.
#' @param threads As in [simulate()][simulate.habanera_experiment].
#' @param ... `alike`: names of attributes for neighbours that share one (default: suit and rank, where the deck
#'   has them); `grid`: `c(rows, columns)` when the cards are laid out row by row; `progress` as in
#'   [simulate()][simulate.habanera_experiment]; `sizes`: numbers of cards, to audit the procedure on numbered
#'   decks of each size instead (see [audit_sizes]).
#' @return A `habanera_audit`. `verdict()` gives `"no_bias_seen"`, `"biased"` or `"not_a_shuffle"` (of draws `"too_few"`
#'   where there are too few to tell); `tidy()` a row per test: `term`, `statistic`, `p.value`, `p.adjusted`, `effect`
#'   (in words) and `could_see` (the smallest bias that would have been found with 95% power, in the test's own unit);
#'   `summary()` the places where it fails; `autoplot()` figures; `report()` a page.
#' @section Errors: `habanera_error_input` for impossible settings; `habanera_error_work` for more than 4,096
#'   cards; `habanera_error_program` as in [shuffle_program()]. Interrupting keeps what is counted, with a
#'   warning.
#' @examples
#' audit(shuffle_riffle(7), nsim = 2e4, seed = 1)
#' verdict(audit(shuffle_naive_swap(), nsim = 2e4, seed = 1))
#' @export
audit <- function(procedure, deck = deck_standard(), nsim = 1e5, seed = NULL, threads = NULL,
                  each = c("fresh", "continued"), level = 0.01, ...) {
  check_given()
  UseMethod("audit")
}

#' @export
audit.default <- function(procedure, ...) {
  refuse(sprintf("`procedure` must be a shuffling procedure, shuffle_recorded() or shuffle_program(), not %s.",
                 said(procedure)))
}

#' @export
audit.character <- function(procedure, ...) audit(procedure(procedure), ...)

#' @export
audit.habanera_procedure <- function(procedure, deck = deck_standard(), nsim = 1e5, seed = NULL,
                                     threads = NULL, each = c("fresh", "continued"), level = 0.01, sizes = NULL,
                                     ...) {
  call <- rlang::current_env()
  if (missing(nsim) && has_function(procedure) && is.null(sizes)) nsim <- affordable_trials(procedure, check_deck(deck))
  check_whole(nsim, 1, 1e12)
  each <- check_choice(each, c("fresh", "continued"))
  seed <- resolve_seed(seed)
  if (!is.null(sizes)) {
    if (!missing(deck) || ...length()) {
      refuse("`sizes` audits numbered decks: no `deck`, `alike`, `grid` or `progress`.")
    }
    return(audit_over_sizes(procedure, sizes, nsim, seed, each, level, threads, call))
  }
  audit_procedure(procedure, deck, nsim, seed, each, level, threads, ..., call = call)
}

#' @export
audit.habanera_shuffles_recorded <- function(procedure, deck = NULL, nsim = NULL, seed = NULL, threads = NULL,
                                             each = "fresh", level = 0.01, ...) {
  refuse_our_settings(seed, each)
  if (!is.null(deck) && !identical(deck, procedure$deck)) {
    if (is.null(procedure$file)) refuse("These arrangements are of a table: give shuffle_recorded() the deck.")
    procedure <- shuffle_recorded(procedure$file, deck, procedure$numbering, procedure$notation, procedure$columns)
  }
  if (is.null(procedure$deck)) rlang::cnd_signal(procedure$problem)
  rows <- procedure$rows
  if (!is.null(nsim)) {
    check_whole(nsim, 1)
    if (nsim > nrow(rows)) {
      refuse(sprintf("`nsim` must be at most the %s arrangements that there are, not %s.", format_count(nrow(rows)),
                     format_count(nsim)))
    }
    rows <- rows[seq_len(nsim), , drop = FALSE]
  }
  audit_rows(procedure, rows, level, threads, ...)
}

#' @export
audit.habanera_shuffles_program <- function(procedure, deck = NULL, nsim = 1e5, seed = NULL, threads = NULL,
                                            each = "fresh", level = 0.01, ...) {
  refuse_our_settings(seed, each)
  if (!is.null(deck)) procedure$deck <- check_deck(deck)
  check_whole(nsim, 1, most_program_trials)
  call <- rlang::current_env()
  audit_plan(procedure$deck, level, ..., call = call)  # nothing bad waits for the program's end
  made <- run_shuffle_program(procedure, nsim, call)
  procedure$identity <- made$identity
  found <- if (!is.null(made$rows)) audit_rows(procedure, made$rows, level, threads, ...)
  if (is.null(made$failure)) return(found)
  kept <- if (!is.null(found)) {
    c(i = sprintf("The audit of the %s that it had written is in the error's field `audit`.",
                  count_of(nrow(made$rows), "arrangement")))
  }
  refuse_program(made$failure, call, kept, audit = found)
}

refuse_our_settings <- function(seed, each, call = rlang::caller_env()) {
  if (!is.null(seed)) refuse("Shuffles made elsewhere have a chance of their own: no `seed` governs it.", call = call)
  if (!identical(each, "fresh")) refuse("Only a procedure can be started in another way.", call = call)
}
