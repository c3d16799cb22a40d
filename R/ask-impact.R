#' What a card is worth
#'
#' How much being dealt a card (or one more of a rank, or of a suit) changes a seat's chance to win, or anything else
#' that a game records.
#'
#' @param game A game with a deal.
#' @param attribute What is held: "card", or an attribute of the cards such as "rank" or "suit".
#' @param outcome "win" (the seat wins), or the name of an outcome that is a number, such as "rounds"; `NULL`: "win", or
#'   of a game against the house the first that it records.
#' @param seat The seat that holds it, from 1.
#' @param nsim,seed,threads,progress As in [simulate()][simulate.habanera_experiment].
#' @return A `habanera_impact`: a data frame with a row for each value of the attribute, the largest effect first:
#'   `value` (text), `held` (how many the seat is dealt on average), `estimate` (by how much one more of them changes
#'   the outcome: the slope of its mean against the number held, and for a single card the difference between holding
#'   and not holding it), `std.error`, `conf.low`, `conf.high`, `statistic`, `p.value`. A win counts 1.
#' @section Formula: Least squares with standard errors that allow for unequal variances (White 1980, Econometrica 48,
#'   eq. 1).
#' @section Errors: `habanera_error_input` for an attribute that the deck does not have, an outcome that is no number,
#'   or a game without a deal.
#' @examples
#' card_impact(game_war(cards_each = 5), "rank", nsim = 2000, seed = 1)
#' @export
card_impact <- function(game, attribute = "card", outcome = NULL, seat = 1, nsim = 1e5, seed = NULL, threads = NULL,
                        progress = NULL) {
  check_given()
  call <- rlang::current_env()
  checked_game(game)
  if (is.null(outcome)) outcome <- if (is.null(kind_of(game)$winner)) game$record[1] else "win"
  check_whole(seat, 1, game_seats(game))
  x <- new_holding(game, attribute, outcome, seat, call)
  counts <- simulate(x, nsim, seed, threads = threads, progress = progress)
  rows <- lapply(split(seq_along(counts$n), factor(counts$outcomes[["value"]], levels = x$values)), function(at) {
    holding_slope(counts$outcomes[["held"]][at], counts$outcomes[["outcome"]][at], counts$n[at])
  })
  found <- cbind(value = x$values, do.call(rbind, rows))
  found <- found[order(-abs(found$estimate)), , drop = FALSE]
  rownames(found) <- NULL
  structure(found, made = call_made(), class = table_class("habanera_impact"), counts = counts)
}

new_holding <- function(game, attribute, outcome, seat, call) {
  dealing <- capability(game, "deals_hands", call)$opening(game$rules)
  if (holds_rounds(game)) refuse("card_impact() is of single rounds: no `cut_after`.", "rules", call)
  if (!is.null(game$piles)) refuse("Given piles are the same in every trial; card_impact() needs a deal.", call = call)
  if (has_r_function(game)) refuse("card_impact() cannot play by an R function.", call = call)
  data <- catalogue_of(game$deck)$data[kinds_of(game$deck)$codes, , drop = FALSE]
  check_choice(attribute, names(data), "attribute", call)
  numbers <- names(game$columns)
  numbers <- numbers[!is_category(game, numbers)]
  check_choice(outcome, c(if (!is.null(kind_of(game)$winner)) "win", numbers), "outcome", call)
  labels <- ifelse(is.na(data[[attribute]]), "none", as.character(data[[attribute]]))
  game$spec$dealing <- dealing
  game$spec$record <- if (outcome == "win") kind_of(game)$winner else core_columns(game$columns, outcome)
  new_experiment("habanera_holding", game = game, attribute = attribute, outcome = outcome, seat = seat,
                 values = unique(labels), classes = match(labels, unique(labels)))
}

#' @export
result_kind.habanera_holding <- function(experiment) "holding"
#' @export
entries_per_trial.habanera_holding <- function(experiment) length(experiment$values)
# Games without a value are left out.
#' @export
adds_up.habanera_holding <- function(experiment, n, trials) sum(n) <= trials * entries_per_trial(experiment)
#' @export
in_words.habanera_holding <- function(x, ...) {
  sprintf("%s by %s dealt to %s in %s", x$outcome, x$attribute,
          seat_headings(x$game$seat_names[x$seat]), in_words(x$game))
}
#' @export
as_plain.habanera_holding <- function(experiment) {
  list(kind = "holding", game = as_plain(experiment$game), attribute = experiment$attribute,
       outcome = experiment$outcome, seat = experiment$seat)
}
#' @export
from_plain.holding <- function(plain, game) {
  new_holding(restored_game(plain$game, game), plain$attribute, plain$outcome, as.double(plain$seat), NULL)
}
#' @export
finest_outcome.habanera_holding <- function(experiment) experiment$outcome
#' @export
precision_terms.habanera_holding <- function(experiment) character()

#' @export
run_lap.habanera_holding <- function(experiment, seed, first, count, threads) {
  spec <- experiment$game$spec
  holding <- list(classes = experiment$classes, size = length(experiment$values), seat = experiment$seat,
                  dealing = spec$dealing)
  tally <- core_count_holdings(game_machine(experiment$game), spec, holding, seed, first, count, threads)
  counted_rows(tally, c("value", "held", "outcome"))
}

#' @export
counted_outcomes.habanera_holding <- function(experiment, tally) {
  outcomes <- tally$rows
  outcomes[["value"]] <- experiment$values[outcomes[["value"]] + 1]
  outcomes[["outcome"]] <- if (experiment$outcome == "win") {
    as.double(outcomes[["outcome"]] == experiment$seat)
  } else outcomes[["outcome"]] / unit_of(experiment$game, experiment$outcome)
  in_text_order(outcomes, tally)
}

# Least squares of the outcome against the number held, from joint counts.
holding_slope <- function(held, outcome, n) {
  total <- sum(n)
  mean_held <- sum(n * held) / total
  centred <- held - mean_held
  spread <- sum(n * centred^2)
  slope <- sum(n * centred * outcome) / spread
  left <- outcome - sum(n * outcome) / total - slope * centred
  error <- sqrt(sum(n * centred^2 * left^2)) / spread
  half <- stats::qnorm(0.975) * error
  z <- slope / error
  data.frame(held = mean_held, estimate = slope, std.error = error, conf.low = slope - half, conf.high = slope + half,
             statistic = z, p.value = 2 * stats::pnorm(-abs(z)))
}

#' @export
tell.habanera_impact <- function(x, rows = 15, ...) {
  counts <- attr(x, "counts")
  from <- counts$provenance$experiment
  chance <- from$outcome == "win"
  cat_wrapped("<impact> ", in_words(from))
  what <- if (chance) sprintf("the chance that %s wins", seat_headings(from$game$seat_names[from$seat])) else {
    sprintf("the mean of %s", from$outcome)
  }
  one_more <- if (from$attribute == "card") "The card" else sprintf("One more card of the %s", from$attribute)
  cat_wrapped(sprintf("%s changes %s by so much; %s.", one_more, what, run_in_words(counts)))
  games <- sum(counts$n) / length(from$values)
  if (games < trial_count(counts)) {
    cat_wrapped(sprintf("Of the %s of games %s.", format_percent(games / trial_count(counts), 4),
                        from$game$columns[[from$outcome]]$told_of))
  }
  shown <- data.frame(x$value, format_number(x$held), signed(x$estimate, chance),
                      paste(signed(x$conf.low, chance), "to", signed(x$conf.high, chance)))
  names(shown) <- c(from$attribute, "held on average", "change", "95%")
  print_head(shown, rows)
  invisible(x)
}
