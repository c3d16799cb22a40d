#' What a counter gains, and what stops him
#'
#' The gain of a player who counts by how deep the shoe is dealt, how many packs it holds and how high he bets, all on
#' the same shoes: what a house asks before it puts in the cut card.
#'
#' Shoes are dealt to the deepest cut, once for each number of packs and highest bet; a shallower cut ends them earlier,
#' so that one run serves all. Gains are ratios of sums over shoes, as in [by_true_count()]. Where the gain comes to
#' nothing is had by straight lines between the cuts tried.
#'
#' @param game A game whose rounds are dealt from a shoe, such as [game_blackjack()].
#' @param player A [player_counting()], who takes the last seat; `NULL`: who sits in the game.
#' @param cut_after Shares of the shoe after which no round begins.
#' @param packs Numbers of packs; `NULL`: as the game has it.
#' @param most_bet Highest bets, to which his bets are held; `NULL`: as he bets.
#' @param nsim,seed,threads,progress As in [simulate()][simulate.habanera_experiment]; shoes.
#' @param seconds_per_round,seconds_per_shuffle How long these take, for what shuffling costs.
#' @return A `habanera_counter_gain`, a data frame: `packs`, `most_bet`, `cut_after` (share), `gain` (stakes in a
#'   hundred rounds), `std.error`, `conf.low`, `conf.high` (95%, by shoe), `verdict` ("gains" or "loses" where the whole
#'   interval does, else "open"), `mean_bet`, `rounds_per_shoe`, `rounds_per_hour`,
#'   `shuffling` (share of the time), `gain_per_hour`. `tidy()`: a row for each number of packs and highest bet, `term`
#'   "stops_at": `estimate`, the cut at which the gain is nothing (`NA`: at none of those tried), `conf.low`,
#'   `conf.high` (where the ends of its intervals are).
#' @section Errors: `habanera_error_input` for cuts that are no shares of the shoe, and where nobody counts.
#' @examples
#' counter <- player_counting(bets = c("0" = 1, "1" = 2, "2" = 4, "3" = 8))
#' counter_gain(game_blackjack(), counter, cut_after = c(0.5, 0.65, 0.8), nsim = 2000, seed = 1)
#' @export
counter_gain <- function(game, player = NULL, cut_after = seq(0.5, 0.85, by = 0.05), packs = NULL, most_bet = NULL,
                         nsim = 20000, seed = NULL, threads = NULL, seconds_per_round = 50, seconds_per_shuffle = 120,
                         progress = NULL) {
  check_given()
  call <- rlang::current_env()
  game <- money_game(game, call)
  fits <- is.numeric(cut_after) && length(cut_after) && all(is.finite(cut_after) & cut_after > 0 & cut_after < 1)
  if (!fits) refuse(sprintf("`cut_after` must be shares of the shoe, such as c(0.5, 0.75), not %s.", said(cut_after)))
  check_number(seconds_per_round, 1, 3600, "seconds_per_round", call)
  check_number(seconds_per_shuffle, 0, 3600, "seconds_per_shuffle", call)
  seat <- game_seats(game)
  if (!is.null(player)) game <- with_counter(game, player, seat, call)
  if (!length(counting_seats(game$rules$players, seat))) {
    refuse("Nobody counts here: give a player_counting() as `player`.")
  }
  if (!is.null(most_bet)) check_each_whole(most_bet, 1, 1e6, "most_bet", call)
  if (!is.null(packs)) check_each_whole(packs, 1, 8, "packs", call)
  seed <- resolve_seed(seed, call)
  tried <- expand.grid(most_bet = if (is.null(most_bet)) NA else most_bet,
                       packs = if (is.null(packs)) game$rules$packs else packs)
  bar <- local_progress("Playing shoes", progress, nrow(tried))
  rows <- lapply_until_interrupted(seq_len(nrow(tried)), function(i) {
    of <- change_game(game, list(packs = tried$packs[i]), call)
    if (!is.na(tried$most_bet[i])) of <- held_bets(of, tried$most_bet[i], call)
    gain_by_cut(of, sort(cut_after), list(nsim = nsim, seed = seed, threads = threads), call)
  }, "table", bar)
  part <- attr(rows, "part")
  rows <- do.call(rbind, rows)
  hour <- 3600 * rows$rounds_per_shoe / (rows$rounds_per_shoe * seconds_per_round + seconds_per_shuffle)
  rows$rounds_per_hour <- hour
  rows$shuffling <- 1 - hour * seconds_per_round / 3600
  rows$gain_per_hour <- rows$gain * hour / 100
  structure(rows, made = call_made(), class = table_class("habanera_counter_gain"), game = game, part = part,
            run = sprintf("%s to the deepest cut, seed %s", count_of(nsim, "shoe"), whole_code(seed)))
}

# In the last seat, beside those who sit there.
with_counter <- function(game, player, seats, call) {
  if (rlang::is_string(player)) player <- player_from_text(player, call)
  if (!inherits(player, "habanera_player") || player$name != "counting") {
    refuse(sprintf("`player` must be a player_counting(), not %s.", said(player)), call = call)
  }
  players <- seated_players(game$rules$players, seats)
  players[[seats]] <- player
  change_game(game, list(players = players), call)
}

held_bets <- function(game, most, call) {
  seats <- game_seats(game)
  players <- seated_players(game$rules$players, seats)
  at <- counting_seats(game$rules$players, seats)
  settings <- players[[at]]$settings
  settings$bets <- bet_ramp(settings$bets, c(1, most))
  players[[at]] <- do.call(player_counting, settings)
  change_game(game, list(players = players), call)
}

# Rounds are divided by how many cards are gone: a cut has those of its class and of all before it.
gain_by_cut <- function(game, cut_after, run, call) {
  cards <- length(game$deck)
  cuts <- pmax(1, round(cut_after * cards))
  if (anyDuplicated(cuts)) refuse("Some of `cut_after` are the same card of the shoe.", call = call)
  net <- counter_net(game)
  game <- change_game(game, list(cut_after = max(cuts)), call)
  settings <- game$settings
  settings$record <- c(net, "bet", "cards_gone")
  settings$classes <- list(column = "cards_gone", from = c(0, cuts[-length(cuts)]), numbers = c(net, "bet"))
  game <- new_game(kind_of(game), game$given, settings, call)
  found <- simulate(game, nsim = run$nsim, seed = run$seed, threads = run$threads)
  sums <- sums_of_counts(found)
  trials <- trial_count(found)
  column <- function(what, upto) paste0("cards_gone=", settings$classes$from[seq_len(upto)], ":", what)
  weights <- function(what, upto, by = 1) ifelse(names(sums$sum) %in% column(what, upto), by, 0)
  unit <- unit_of(game, net)
  rows <- lapply(seq_along(cuts), function(i) {
    gain <- ratio_of_sums(sums, trials, weights(net, i, 100 / unit), weights("entries", i))
    rounds <- sum(sums$sum[column("entries", i)])
    half <- student_half_width(gain$std.error, gain$freedom)
    data.frame(packs = game$rules$packs, most_bet = max(bettor_of(game)$bets), cut_after = cut_after[i],
               gain = gain$estimate, std.error = gain$std.error, conf.low = gain$estimate - half,
               conf.high = gain$estimate + half, verdict = gain_verdict(gain$estimate - half, gain$estimate + half),
               mean_bet = sum(sums$sum[column("bet", i)]) / rounds, rounds_per_shoe = rounds / trials)
  })
  do.call(rbind, rows)
}

# By the whole interval.
gain_verdict <- function(low, high) {
  ifelse(is.na(low), "open", ifelse(low > 0, "gains", ifelse(high < 0, "loses", "open")))
}

bettor_of <- function(game) game$spec$rules$bettor

# The outcome that is the result of the seat that counts.
counter_net <- function(game) {
  seats <- game_seats(game)
  if (seats == 1) "net" else paste0("net_", counting_seats(game$rules$players, seats))
}

#' @rawNamespace S3method(generics::tidy, habanera_counter_gain)
tidy.habanera_counter_gain <- function(x, ...) {
  groups <- split(plain_table(x), list(x$most_bet, x$packs), drop = TRUE)
  rows <- lapply(groups, function(rows) {
    data.frame(packs = rows$packs[1], most_bet = rows$most_bet[1], term = "stops_at",
               estimate = crossing(rows$cut_after, rows$gain), conf.low = crossing(rows$cut_after, rows$conf.high),
               conf.high = crossing(rows$cut_after, rows$conf.low))
  })
  do.call(rbind, unname(rows))
}

# Where a line through these points first rises above nothing; NA: nowhere between them.
crossing <- function(x, y) {
  at <- if (!anyNA(y)) which(y[-1] > 0 & y[-length(y)] <= 0)
  if (!length(at)) return(NA_real_)
  i <- at[1]
  x[i] - y[i] * (x[i + 1] - x[i]) / (y[i + 1] - y[i])
}

#' @export
tell.habanera_counter_gain <- function(x, rows = 30, ...) {
  cat_wrapped("<counter's gain> ", paste(stop_sentences(x), collapse = " "))
  cat_wrapped(sprintf("%s; %s%s.", gain_game_in_words(x), attr(x, "run"), part_in_words(x)))
  print_head(data.frame(
    packs = x$packs, `most bet` = x$most_bet, `cut after` = format_percent(x$cut_after, 3),
    `gain in 100` = sprintf("%+.3f", x$gain), `+/-` = ifelse(is.na(x$conf.low), "",
                                                             sprintf("%.3f", (x$conf.high - x$conf.low) / 2)),
    who = x$verdict,
    `minutes shuffling` = sprintf("%.1f", 60 * x$shuffling), `gain an hour` = sprintf("%+.3f", x$gain_per_hour),
    check.names = FALSE), rows)
  invisible(x)
}

gain_game_in_words <- function(x) {
  varied <- c("cut_after", if (length(unique(x$packs)) > 1 || x$packs[1] != attr(x, "game")$rules$packs) "packs")
  game_in_words(attr(x, "game"), varied)
}

stop_sentences <- function(x) {
  stops <- tidy(x)
  vapply(seq_len(nrow(stops)), function(i) {
    of <- plain_table(x)[x$packs == stops$packs[i] & x$most_bet == stops$most_bet[i], ]
    deepest <- of[which.max(of$cut_after), ]
    interval <- interval_in_words(deepest$conf.low, deepest$conf.high, function(end) format_number(end, 3))
    sprintf("With %s and bets of up to %s who counts %s: %s stakes in 100 rounds after %s of the shoe (%s)%s.",
            count_of(deepest$packs, "pack"), count_of(deepest$most_bet, "stake"), verdicts_in_words(of),
            format_number(deepest$gain, 3), format_percent(deepest$cut_after, 3),
            if (is.na(interval)) "too few shoes for an interval" else interval, stop_in_words(stops[i, ]))
  }, "")
}

# "gains after 75% to 85% of the shoe, loses after 50%, and after 60% and 70% it is open".
verdicts_in_words <- function(rows) {
  if (length(unique(rows$verdict)) == 1 && rows$verdict[1] != "open") {
    return(sprintf("%s at every cut tried", rows$verdict[1]))
  }
  at <- function(verdict) {
    places <- which(rows$verdict == verdict)
    cuts <- format_percent(rows$cut_after[places], 3)
    if (length(cuts) > 2 && all(diff(places) == 1)) paste(cuts[1], "to", cuts[length(cuts)]) else join_words(cuts)
  }
  of <- " of the shoe"
  words <- character()
  for (verdict in intersect(c("gains", "loses"), rows$verdict)) {
    words <- c(words, sprintf("%s after %s%s", verdict, at(verdict), if (length(words)) "" else of))
  }
  if (!length(words)) return("may gain or lose, at every cut tried")
  if ("open" %in% rows$verdict) words <- c(words, sprintf("and after %s it is open", at("open")))
  paste(words, collapse = ", ")
}

stop_in_words <- function(stop) {
  if (is.na(stop$estimate)) return("")
  interval <- interval_in_words(stop$conf.low, stop$conf.high, function(end) format_percent(end, 3))
  sprintf("; the gain comes to nothing near %s%s", format_percent(stop$estimate, 3),
          if (is.na(interval)) "" else sprintf(" (%s)", interval))
}
