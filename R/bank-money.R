#' A law of money by hand
#'
#' What a round brings, and how likely: for [bankroll()], [sessions()] and the like where no game stands behind it.
#'
#' @param net What a round can bring the player for each stake, numbers.
#' @param probability How likely each is; they sum to one.
#' @return A `habanera_money`, a data frame: `net`, `probability`.
#' @section Errors: `habanera_error_input` for probabilities that do not sum to one, and results that are whole in no
#'   unit.
#' @examples
#' money_distribution(c(-1, 1), c(0.52, 0.48))
#' @export
money_distribution <- function(net, probability) {
  check_given()
  call <- rlang::current_env()
  if (!is.numeric(net) || !length(net) || !all(is.finite(net))) {
    refuse(sprintf("`net` must be numbers, what a round can bring, not %s.", said(net)))
  }
  fits <- is.numeric(probability) && length(probability) == length(net) && all(is.finite(probability)) &&
    all(probability >= 0)
  if (!fits) refuse(sprintf("`probability` must be as many numbers as `net`, none below 0, not %s.", said(probability)))
  if (abs(sum(probability) - 1) > 1e-9) {
    refuse(sprintf("`probability` must sum to one, not to %s.", format_number(sum(probability), 10)))
  }
  rows <- gathered_rows(data.frame(net = as.double(net)))
  law <- data.frame(net = rows$outcomes[["net"]], probability = rows$sum(probability / sum(probability)))
  law <- law[law$probability > 0, ]
  unit_of_money(law$net, call)
  structure(law[order(law$net), ],
            made = call_made(), class = table_class("habanera_money"), row.names = seq_len(nrow(law)))
}

#' @export
tell.habanera_money <- function(x, rows = 20, ...) {
  if (!all(c("net", "probability") %in% names(x))) return(NextMethod())
  moments <- pay_moments(x$net, x$probability)
  cat_wrapped(sprintf("<money> A round brings %s stakes on average, with a standard deviation of %s.",
                      format_number(moments$mean, 4), format_number(moments$sd, 4)))
  print_head(data.frame(net = x$net, probability = format_percent(x$probability, 4)), rows)
  invisible(x)
}

# How many of the smallest coin make one.
unit_of_money <- function(net, call) {
  fractions <- lapply(net, nearest_fraction)
  bad <- which(vapply(fractions, is.null, NA))
  if (length(bad)) {
    refuse(sprintf("A round brings %s, which is whole in no unit of money; round it to a coin.",
                   format(net[bad[1]], digits = 15)), call = call)
  }
  unit <- whole_unit(net)
  if (unit > 1e6) refuse("What a round brings makes the smallest coin less than a millionth of a stake.", call = call)
  unit
}

# What a round is to the player (of a game the bet of this number), out of any of the things that tell it: `net`
# (stakes) and `probability`; `error`, the standard error of the mean (0 where exact); its `words`; `together`: whether
# rounds hang together, which a law of single rounds leaves out; and whether all of it is `exact`.
round_law <- function(x, call, bet = 1) {
  law <- told_law(x, call, bet)
  if (is.na(law$error)) refuse("A single trial does not tell how far a round is from its mean: play more.", call = call)
  law
}

told_law <- function(x, call, bet) {
  if (inherits(x, "habanera_money")) {
    return(list(net = x$net, probability = x$probability, error = 0, words = "a law of money by hand",
                together = FALSE, exact = TRUE))
  }
  if (inherits(x, "habanera_payout")) return(law_of_payout(x))
  if (inherits(x, "habanera_game")) return(law_of_game(x, call, bet))
  if (inherits(x, c("habanera_counts_game", "habanera_distribution_game"))) return(law_of_outcomes(x, call, bet))
  if (inherits(x, "habanera_by_true_count")) return(law_by_true_count(x))
  refuse(sprintf(paste("`x` must be a game for money, counts or a distribution of one, what by_true_count() or",
                       "reprice() gave, a payout or a law of money, not %s."), said(x)), call = call)
}

# Of a game: exact where that is in reach, else of a million rounds; their mean is moved to the exact one where the edge
# is solved.
law_of_game <- function(game, call, bet = 1) {
  bets <- capability(game, "takes_bets", call)$bets(game$rules)
  game <- recording(game, bets$column[bet])
  if (holds_rounds(game)) return(law_of_outcomes(in_whole_runs(simulate(game, nsim = 20000, seed = 1)), call, bet))
  law <- tryCatch(exact(game), habanera_error_work = function(cnd) {
    in_whole_runs(simulate(game, nsim = 1e6, seed = 1))
  }) |>
    law_of_outcomes(call, bet)
  solved <- if (law$error > 0) solved_edge(game, call)
  if (is.null(solved)) return(law)
  seats <- game_seats(game)
  law <- moved_law(law, seats * solved$bets$mean[bet] - sum(law$net * law$probability))
  law[c("error", "exact")] <- list(0, FALSE)
  law$words <- paste(law$words, "(its mean exact, its spread simulated)")
  law
}

# Of the rounds dealt, by the bets that are laid at each count.
law_by_true_count <- function(x) {
  kept <- attr(x, "kept")
  bets <- bets_at(kept$ramp, kept$classes$from)
  totals <- kept$totals
  list(net = kept$nets$net * bets[kept$nets$class], probability = kept$nets$n / sum(kept$nets$n),
       error = totals$std.error[totals$term == "gain"] / 100,
       words = paste0(in_words(kept$game), if (kept$repriced) {
         sprintf("; its shoes priced anew with bets %s", ramp_in_words(kept$ramp))
       }), together = TRUE,
       exact = FALSE) |> gathered_law()
}

law_of_payout <- function(x) {
  lines <- x$lines
  list(net = (lines[["pays"]] - x$stake) / x$stake, probability = lines[["chance"]] / sum(lines[["chance"]]),
       error = x$error$mean / x$stake, words = "the payout", together = FALSE, exact = x$error$mean == 0) |>
    gathered_law()
}

law_of_outcomes <- function(x, call, bet = 1) {
  game <- x$provenance$experiment
  bets <- bets_of(game)
  column <- intersect(c(bets$column[bet], if (bet == 1) "net"), names(x$outcomes))[1]
  if (is.null(bets) || is.na(column)) {
    refuse("These counts record no `net`; simulate the game with `record = \"net\"`.", call = call)
  }
  weight <- if (is.null(x$n)) x$probability else x$n
  # In stakes of one seat, of all that play.
  stake <- bets$stake[bet] / game_seats(game)
  net <- x$outcomes[[column]] / stake
  moments <- pay_moments(net, weight)
  error <- if (is.null(x$n)) 0 else pay_errors(x, column, x$outcomes[[column]], weight)$mean
  list(net = net, probability = weight / sum(weight), error = error / stake, words = in_words(game),
       together = holds_rounds(game), exact = is.null(x$n)) |> gathered_law()
}

gathered_law <- function(law) {
  rows <- gathered_rows(data.frame(net = law$net))
  probability <- rows$sum(law$probability)
  order <- order(rows$outcomes[["net"]])
  law[c("net", "probability")] <- list(rows$outcomes[["net"]][order], probability[order])
  law
}

# In whole units, as the core takes it.
core_law <- function(law, unit) list(net = round(law$net * unit), probability = law$probability)

# The same law with its mean moved by so much: each result weighed by how high it is (Esscher 1932, Skand.
# Aktuarietidskr. 15, 175-195).
moved_law <- function(law, by) {
  moments <- pay_moments(law$net, law$probability)
  weight <- law$probability * exp(by / moments$sd^2 * (law$net - moments$mean))
  law$probability <- weight / sum(weight)
  law
}
