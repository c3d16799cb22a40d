#' Results by the true count
#'
#' What a seat that counts won at each true count before the round, for each stake that it bet, and what it gains in
#' all.
#'
#' Rounds of a shoe hang together, so that all is kept shoe by shoe: means are ratios of sums over shoes, with errors by
#' the deviations of shoes from them, and sums over counts by the products between them (Cochran 1977, Sampling
#' Techniques, section 6.4), or, of a count that came in 64 shoes or fewer, by leaving out one of them after the other
#' (the jackknife: Miller 1974, Biometrika 61, 1-15). Intervals are Student's t, by the number of shoes that had the
#' count. Bets change nothing of the cards, so that `reprice()` prices the shoes that were played anew by other bets,
#' exactly.
#'
#' @param x What [simulate()][simulate.habanera_experiment] gave of a game with a [player_counting()] and a
#'   `cut_after`; of `reprice()` also what `by_true_count()` gave. [bankroll()] and [sessions()] take either.
#' @return A `habanera_by_true_count`, a data frame with a row per true count that came: `true_count` (whole; those
#'   beyond its range with the outermost), `rounds` (dealt), `played` (by the seat), `share` (of the rounds dealt),
#'   `mean` (result for each stake bet), `std.error`, `conf.low`, `conf.high` (95%; `NA` where it came in fewer than 6
#'   shoes, or always brought the same), `sd` (of a round), `bet` (stakes), `gain` (stakes in a hundred rounds dealt
#'   that are won at this count). `tidy()`: `term` ("gain", in a hundred rounds dealt; "per_bet", for each stake bet;
#'   "bet", the mean; "plays", the share of the rounds played), `estimate`, `std.error`, `conf.low`, `conf.high` (95%).
#' @section Errors: `habanera_error_input` for counts of no seat that counts, or that do not record `true_count` and
#'   `net_per_bet`.
#' @seealso [bet_sizes()], [counter_gain()].
#' @examples
#' counter <- player_counting(bets = c("0" = 1, "1" = 2, "2" = 4))
#' shoes <- simulate(game_blackjack(players = counter, cut_after = 0.75), nsim = 500, seed = 1)
#' found <- by_true_count(shoes)
#' found
#' tidy(reprice(found, c("0" = 1, "1" = 4, "2" = 8)))
#' @export
by_true_count <- function(x) {
  check_given()
  call <- rlang::current_env()
  game <- if (inherits(x, "habanera_counts_game")) x$provenance$experiment
  classes <- if (!is.null(game)) round_classes(game)
  if (is.null(classes) || classes$column != "true_count") {
    refuse(paste("`x` must be counts of a game with `cut_after` and a player_counting() that record `true_count` and",
                 "`net_per_bet`; made by simulate()."))
  }
  seats <- seated_players(game$rules$players, game_seats(game))
  ramp <- seats[[counting_seats(game$rules$players, length(seats))]]$settings$bets
  priced_counts(list(game = game, sums = sums_of_counts(x), trials = trial_count(x), classes = classes,
                     nets = nets_by_class(x, classes), run = run_in_words(x), ramp = ramp, repriced = FALSE))
}

# How often a round at a count brought so much for each stake bet: `class`, `net` (0 of a round that was not played),
# `n`, `played`.
nets_by_class <- function(x, classes) {
  played <- if (is.null(x$outcomes[["plays"]])) rep(1, length(x$n)) else x$outcomes[["plays"]]
  rows <- gathered_rows(data.frame(class = pmax(1, findInterval(x$outcomes[["true_count"]], classes$from)),
                                   net = played * x$outcomes[["net_per_bet"]]))
  cbind(rows$outcomes, n = rows$sum(x$n), played = rows$sum(x$n * played))
}

# Of what is won for each stake bet in a round that is played.
sd_by_class <- function(nets, size) {
  sum_of <- function(x) {
    found <- tapply(x, factor(nets$class, seq_len(size)), sum)
    ifelse(is.na(found), 0, as.vector(found))
  }
  rounds <- sum_of(nets$played)
  # What was not played adds nothing.
  sqrt(pmax(0, sum_of(nets$n * nets$net^2) / rounds - (sum_of(nets$n * nets$net) / rounds)^2))
}

#' @rdname by_true_count
#' @param bets A [bet_ramp()], or what it takes.
#' @export
reprice <- function(x, bets) {
  check_given()
  call <- rlang::current_env()
  if (!inherits(x, "habanera_by_true_count")) x <- by_true_count(x)
  kept <- attr(x, "kept")
  kept$ramp <- check_ramp(bets, call)
  kept$repriced <- TRUE
  priced_counts(kept)
}

# `kept` is all that is needed to price the shoes: their sums and what the rounds were divided by.
priced_counts <- function(kept) {
  from <- kept$classes$from
  bets <- bets_at(kept$ramp, from)
  columns <- names(kept$sums$sum)
  column_of <- function(what, counts = from) paste0("true_count=", counts, ":", what)
  counted <- if ("plays" %in% kept$classes$numbers) "plays" else "entries"
  unit <- kept$sums$unit[[column_of("net_per_bet")[1]]]
  weights <- function(what, by = rep(1, length(from))) {
    all <- rlang::set_names(numeric(length(columns)), columns)
    all[column_of(what)] <- by
    all
  }
  ratio <- function(top, bottom) ratio_of_sums(kept$sums, kept$trials, top, bottom)
  rounds <- kept$sums$sum[column_of("entries")]
  came <- which(rounds > 0)
  each <- lapply(came, function(i) {
    at <- replace(numeric(length(from)), i, 1)
    if (kept$sums$sum[column_of(counted)[i]] == 0) return(c(list(estimate = NA_real_), unknown_ratio))
    ratio(weights("net_per_bet", at / unit), weights(counted, at))
  })
  each_half <- vapply(each, function(ratio) student_half_width(ratio$std.error, ratio$freedom), 0)
  each_mean <- vapply(each, `[[`, 0, "estimate")
  won <- kept$sums$sum[column_of("net_per_bet")] / unit
  rows <- data.frame(
    true_count = from[came], rounds = unname(rounds[came]),
    played = unname(kept$sums$sum[column_of(counted)[came]]), share = unname(rounds[came] / sum(rounds)),
    mean = each_mean, std.error = ifelse(is.na(each_half), NA, vapply(each, `[[`, 0, "std.error")),
    conf.low = each_mean - each_half, conf.high = each_mean + each_half,
    sd = sd_by_class(kept$nets, length(from))[came], row.names = NULL, bet = bets[came],
    gain = unname(100 * bets[came] * won[came] / sum(rounds))
  )
  all <- weights("entries")
  totals <- list(gain = ratio(weights("net_per_bet", 100 * bets / unit), all),
                 per_bet = ratio(weights("net_per_bet", bets / unit), weights(counted, bets)),
                 bet = ratio(weights(counted, bets), all), plays = ratio(weights(counted), all))
  kept$totals <- data.frame(term = names(totals), estimate = vapply(totals, `[[`, 0, "estimate"),
                            std.error = vapply(totals, `[[`, 0, "std.error"),
                            freedom = vapply(totals, `[[`, 0, "freedom"), row.names = NULL)
  structure(rows, made = call_made(), class = table_class("habanera_by_true_count"), kept = kept)
}

#' @rawNamespace S3method(generics::tidy, habanera_by_true_count)
tidy.habanera_by_true_count <- function(x, ...) {
  totals <- attr(x, "kept")$totals
  half <- student_half_width(totals$std.error, totals$freedom)
  data.frame(totals[c("term", "estimate", "std.error")], conf.low = totals$estimate - half,
             conf.high = totals$estimate + half)
}

#' @export
tell.habanera_by_true_count <- function(x, rows = 25, ...) {
  kept <- attr(x, "kept")
  cat_wrapped("<by true count> ", gain_in_words(tidy(x)))
  anew <- if (kept$repriced) sprintf("; these very shoes priced anew with bets %s", ramp_in_words(kept$ramp)) else ""
  cat_wrapped(sprintf("%s; %s%s.", in_words(kept$game), kept$run, anew))
  shown <- data.frame(`true count` = x$true_count, rounds = format_count(x$rounds), share = format_percent(x$share, 3),
                      mean = format_percent(x$mean, 3), `+/-` = ifelse(is.na(x$conf.low), "",
                                                                       format_percent((x$conf.high - x$conf.low) / 2,
                                                                                      2)),
                      bet = x$bet, `gain in 100` = sprintf("%+.3f", x$gain), check.names = FALSE)
  print_head(middle_rows(shown, x$rounds, rows), rows)
  invisible(x)
}

# "The counter gains 0.52 stakes in 100 rounds (95%: 0.1 to 0.9), 0.3% of what is bet."
gain_in_words <- function(totals) {
  of <- function(term) totals[totals$term == term, ]
  if (of("plays")$estimate == 0) return("Who counts plays no round here.")
  gain <- of("gain")
  verb <- if (gain$estimate >= 0) "gains" else "loses"
  sign <- if (gain$estimate >= 0) 1 else -1
  range <- sort(sign * c(gain$conf.low, gain$conf.high), na.last = TRUE)
  interval <- interval_in_words(range[1], range[2], function(end) format_number(end, 3))
  open <- if (!is.na(range[1]) && range[1] <= 0) ", so that it is open whether he gains" else ""
  sprintf("Who counts %s %s in 100 rounds (%s%s), %s of a mean bet of %s%s.", verb,
          paste(format_number(abs(gain$estimate), 3), "stakes"),
          if (is.na(interval)) "too few shoes for an interval" else interval, open,
          format_percent(abs(of("per_bet")$estimate), 3), format_number(of("bet")$estimate, 3),
          if (of("plays")$estimate == 1) "" else {
            sprintf(", playing %s of them", format_percent(of("plays")$estimate, 3))
          })
}

# The rows around the one that came most.
middle_rows <- function(table, weight, rows) {
  if (nrow(table) <= rows) return(table)
  first <- max(1, min(which.max(weight) - rows %/% 2, nrow(table) - rows + 1))
  table[first - 1 + seq_len(rows), , drop = FALSE]
}
