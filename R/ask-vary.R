#' Vary the rules of a game
#'
#' Plays a game by every combination of the rules given, all on the same deals, so that rows differ by their rules and
#' not by luck. Combinations that contradict themselves are passed over, with a note.
#'
#' @param game A game.
#' @param ... Rules by name, each with the values to try: `face_down = 0:3`, `tie = c("war", "split")`; a list where
#'   one of them is `NULL`.
#' @param nsim,seed,threads As in [simulate()][simulate.habanera_experiment]; each combination is played `nsim` times.
#' @param want `NULL`, or a condition on estimates, as text: `"rounds_p90 * 6 <= 900"`, `"winner_1 > 0.45"`. A
#'   combination meets it surely ("yes") or surely not ("no") when it holds, or does not, all over the 95% intervals
#'   of what it names; otherwise more games must tell ("open"). A game without an end is longer than any: `rounds_p90 <=
#'   200` is missed where more than a tenth do not end, and a mean is never surely small while more than one game in a
#'   thousand may have no end (or the share that the wish itself allows, as in `"rounds <= 150 & ended_never_ends <=
#'   0.01"`; how games ended may be named whether it is recorded or not).
#' @param of "outcomes": each combination is played. "edge": nothing is played, and what is told is the house's exact
#'   edge (see [house_edge()]; term "edge", which `want` may name), in a `habanera_varied_edges` with the same columns.
#'   "value": nothing is played, and what is told is what sound play brings seat 1 (see [equilibrium()]; term "value",
#'   with the interval in which it surely lies), each to a gap of 1e-4 or for 60 seconds, in a `habanera_varied_values`.
#' @param checkpoint,anew A file in which the combinations played are kept as they are done; a call that finds it goes
#'   on from there, or begins anew.
#' @param progress Whether to show a progress bar after two seconds, as in [simulate()][simulate.habanera_experiment].
#' @return A `habanera_varied`: a data frame with a row for each combination and term: the rules varied, then `term`,
#'   `estimate`, `std.error`, `conf.low`, `conf.high` as in [tidy()][tidy.habanera_counts_game], then `difference`,
#'   `difference.low` and `difference.high` against the first combination on the same deals (with its 95% interval; `NA`
#'   for quantiles, and where fewer than 20 deals differed, see [compare()][compare.habanera_game]), `differed` (the
#'   share of the deals that did), `share_ended` (the share of games that ended; numbers are of those), and with `want`
#'   the column `meets`. `attr(x, "counts")` holds the counts of each combination. Interrupting keeps the combinations
#'   played by then, with a warning.
#' @section Errors: `habanera_error_rules` for rules that do not exist, or when all combinations contradict themselves;
#'   `habanera_error_language` for a wish that cannot be understood; before anything is played.
#' @seealso The figure is [autoplot.habanera_varied()]; each rule alone: [rule_effects()].
#' @examples
#' vary_rules(game_war(cards_each = 5), face_down = 0:2, nsim = 500, seed = 1,
#'            want = "rounds_p90 <= 20")
#' vary_rules(game_high_card(), ties = c("bank", "half_back"), packs = c(1, 6), of = "edge",
#'            want = "edge < 0.04")
#' vary_rules(game_betting(rules = "one card, one bet"), ante = 1:3, of = "value")
#' @export
vary_rules <- function(game, ..., nsim = 1e4, seed = NULL, threads = NULL, want = NULL,
                       of = c("outcomes", "edge", "value"), checkpoint = NULL, anew = FALSE, progress = NULL) {
  check_given()
  call <- rlang::current_env()
  of <- check_choice(of, c("outcomes", "edge", "value"))
  checked_game(game)
  values <- rlang::list2(...)
  if (!length(values)) refuse("Name a rule and the values to try, as in `rule = 0:3`.")
  refuse_unknown_rules(kind_of(game), values, call)
  if (check_flag(anew) && is.null(checkpoint)) refuse("`anew` goes with `checkpoint`.")
  if (of != "outcomes" && !is.null(checkpoint)) refuse("`checkpoint` goes with what is played, not with what is exact.")
  if (of == "edge") {
    capability(game, "takes_bets", call)
    grid <- possible_variants(game, rule_grid(values, call), call)
    return(vary_edges(game, grid, want, resolve_threads(threads, call), progress, call))
  }
  if (of == "value") {
    capability(game, "plays_soundly", call)
    return(vary_values(game, possible_variants(game, rule_grid(values, call), call), want, progress, call))
  }
  wish <- checked_wish(want, game, call)
  grid <- possible_variants(game, rule_grid(values, call), call)
  run <- list(nsim = check_whole(nsim, 1, 1e12), seed = seed, first = 1, threads = resolve_threads(threads, call),
              checkpoint = check_checkpoint(checkpoint, call), anew = anew, progress = progress)
  played <- play_combinations(grid$variants, run, call)
  table <- grid$table[seq_along(played), , drop = FALSE]
  rows <- lapply(seq_along(played), function(i) varied_rows(played[[i]], table[i, , drop = FALSE], game, wish, call))
  rows <- do.call(rbind, rows)
  rownames(rows) <- NULL
  structure(rows, made = call_made(), class = table_class("habanera_varied"), rules = names(values),
            part = attr(played, "part"), counts = lapply(played, `[[`, "counts"), grid = table, values = values,
            game = game, seed = played[[1]]$counts$provenance$seed, want = want)
}

varied_rows <- function(played, rules, game, wish, call) {
  terms <- tidy(played$counts)
  terms <- terms[recorded_of_term(terms$term) %in% game$record, , drop = FALSE]
  told <- c("estimate", "conf.low", "conf.high")
  beside <- if (is.null(played$beside)) cbind(terms[told] * NA, differed = NA_real_) else {
    played$beside[match(terms$term, played$beside$term), c(told, "differed")]
  }
  names(beside) <- c("difference", "difference.low", "difference.high", "differed")
  ended <- share_ended(played$counts)$estimate
  found <- cbind(rules[rep(1, nrow(terms)), , drop = FALSE],
                 terms[c("term", "estimate", "std.error", "conf.low", "conf.high")], beside,
                 share_ended = if (is.null(ended)) 1 else ended)
  if (!is.null(wish)) found$meets <- meets_wish(wish, played$counts, call)
  found
}

# The outcome that a term is of: rounds of rounds_p90, winner of winner=1.
recorded_of_term <- function(terms) sub("(=.*|_p[0-9.]+)$", "", terms)

# The combinations that can be played, as games; the others are told.
possible_variants <- function(game, grid, call) {
  variants <- lapply(grid, function(changes) {
    tryCatch(change_game(game, changes, call), habanera_error = function(cnd) {
      # A value that no rule can have is a slip; rules that do not go together are passed over.
      if (!inherits(cnd, "habanera_error_rules")) {
        refuse(c(sprintf("With %s:", rules_in_words(changes)), x = rlang::cnd_message(cnd)), "rules", call)
      }
      list(problem = sprintf("%s: %s", rules_in_words(changes), rlang::cnd_message(cnd)))
    })
  })
  possible <- vapply(variants, inherits, TRUE, "habanera_game")
  problems <- vapply(variants[!possible], `[[`, "", "problem")
  if (!any(possible)) refuse(c("No combination can be played.", x = problems[1]), "rules", call)
  if (length(problems)) {
    inform_user(sprintf("%s passed over, such as %s", count_of(length(problems), "combination that contradicts itself",
                                                               "combinations that contradict themselves"), problems[1]))
  }
  table <- variant_table(variants[possible], names(grid[[1]]))
  if (anyDuplicated(table)) {
    refuse(sprintf("%s would be played twice; give values that read differently, once each.",
                   rules_in_words(as.list(table[duplicated(table), , drop = FALSE][1, , drop = FALSE]))), "rules", call)
  }
  list(variants = variants[possible], table = table)
}

most_variants <- 20000

# All combinations, as lists of rules.
rule_grid <- function(values, call) {
  for (name in names(values)) {
    if (!is.atomic(values[[name]]) && !is.list(values[[name]])) {
      refuse(sprintf("`%s` must be a vector or a list of values to try, not %s.", name, said(values[[name]])),
             call = call)
    }
  }
  values <- lapply(values, as.list)
  sizes <- lengths(values)
  empty <- which(sizes == 0)
  if (length(empty)) refuse(sprintf("`%s` has no values to try.", names(values)[empty[1]]), "rules", call)
  if (prod(sizes) > most_variants) {
    refuse(sprintf("There are %s combinations of rules; at most %s are played.", format_count(prod(sizes)),
                   format_count(most_variants)), "work", call)
  }
  places <- expand.grid(lapply(sizes, seq_len))
  lapply(seq_len(nrow(places)), function(i) Map(function(each, at) each[[at]], values, unlist(places[i, ])))
}

# A row for each variant, with the rules varied as columns to read.
variant_table <- function(variants, names) {
  columns <- lapply(names, function(name) rule_column(lapply(variants, function(variant) variant$rules[[name]])))
  as.data.frame(rlang::set_names(columns, names), stringsAsFactors = FALSE, optional = TRUE)
}

# Numbers and texts as they are; anything else in words.
rule_column <- function(values) {
  plain <- vapply(values, function(value) length(value) == 1 && is.atomic(value) && !is_cards(value), TRUE)
  if (all(plain)) return(unlist(values))
  vapply(values, function(value) if (is.null(value)) "all" else rule_text(value), "")
}

#' @export
tell.habanera_varied <- function(x, rows = 30, ...) {
  cat_wrapped("<varied rules> ", game_in_words(attr(x, "game"), attr(x, "rules")), "; ",
              sprintf("%s each, %s, seed %s", count_of(trial_count(attr(x, "counts")[[1]]), "game"),
                      if (varied_deals_match(x)) "all on the same deals" else
                        "with other decks or shuffles, so that deals are not matched", whole_code(attr(x, "seed"))),
              part_in_words(x))
  cat_wrapped(varied_in_words(x))
  print_head(varied_table(x), rows)
  differences <- difference_table(x)
  if (!is.null(differences)) {
    cat_wrapped("Against the first row, ", if (varied_deals_match(x)) "on the same deals" else "trial by trial",
                " (* 0 lies outside the 95% interval; where few deals ",
                "differed, how many):")
    print_head(differences, rows)
  }
  invisible(x)
}

varied_deals_match <- function(x) {
  games <- lapply(attr(x, "counts"), function(counts) counts$provenance$experiment)
  all(vapply(games[-1], deals_match, NA, x = games[[1]]))
}

# Which combination is best by the wish, or which has the smallest and the largest mean of the first number; and which
# had games that did not end.
varied_in_words <- function(x) {
  grid <- attr(x, "grid")
  first <- !duplicated(do.call(paste, c(unname(as.list(x[names(grid)])), sep = "\r")))
  unended <- unended_in_words(grid, x$share_ended[first])
  if (is.null(attr(x, "want"))) return(c(means_in_words(x), unended))
  meets <- x$meets[first]
  yes <- which(meets == "yes")
  named <- vapply(yes, function(i) rules_in_words(as.list(grid[i, , drop = FALSE])), "")
  shown <- if (length(yes)) paste0(": ", join_some(named, 4)) else ""
  c(sprintf("`%s` is surely met by %s of %s%s; surely not by %s, open for %s.", attr(x, "want"),
            format_count(length(yes)), count_of(nrow(grid), "combination"), shown,
            format_count(sum(meets == "no")), format_count(sum(meets == "open"))), unended)
}

means_in_words <- function(x) {
  game <- attr(x, "game")
  numbers <- game$record[!is_category(game, game$record)]
  rows <- which(x$term == numbers[1] & !is.na(x$estimate))
  # What a part of the games took is no answer beside what all took.
  rows <- if (is_of_ended(numbers[1], game)) rows[x$share_ended[rows] == 1] else rows
  if (length(rows) < 2) return(character())
  least <- rows[which.min(x$estimate[rows])]
  most <- rows[which.max(x$estimate[rows])]
  if (x$estimate[least] == x$estimate[most]) {
    return(sprintf("The mean of %s came out the same with all, %s.", numbers[1], format_statistic(x$estimate[least])))
  }
  at <- function(row) {
    interval <- interval_in_words(x$conf.low[row], x$conf.high[row], format_statistic)
    sprintf("%s (%s%s)", rules_in_words(as.list(x[row, names(attr(x, "grid")), drop = FALSE])),
            format_statistic(x$estimate[row]), if (is.na(interval)) "" else paste(";", interval))
  }
  sprintf("The mean of %s came out smallest with %s and largest with %s.", numbers[1], at(least), at(most))
}

unended_in_words <- function(grid, share) {
  short <- which(share < 1)
  if (!length(short)) return(NULL)
  named <- vapply(short, function(i) {
    sprintf("%s (%s ended)", rules_in_words(as.list(grid[i, , drop = FALSE])), share_below_one(share[i]))
  }, "")
  sprintf("Not all games ended with %s: what their numbers tell is of those that did.", join_some(named, 4))
}

varied_terms <- function(x) {
  terms <- unique(x$term)
  terms[order(match(recorded_of_term(terms), attr(x, "game")$record), terms)]
}

# A row for each combination, a column for each term, with half the width of its interval.
varied_table <- function(x) {
  grid <- attr(x, "grid")
  terms <- varied_terms(x)
  key <- function(table) do.call(paste, c(unname(as.list(table[names(grid)])), sep = "\r"))
  cells <- lapply(terms, function(term) {
    rows <- x[x$term == term, , drop = FALSE]
    rows <- rows[match(key(grid), key(rows)), , drop = FALSE]
    vapply(seq_len(nrow(rows)), function(i) varied_cell(rows[i, , drop = FALSE], grepl("=", term, fixed = TRUE)), "")
  })
  shown <- cbind(grid, rlang::set_names(as.data.frame(cells), terms))
  first <- !duplicated(x[names(grid)])
  if (any(x$share_ended < 1)) shown$ended <- share_below_one(x$share_ended[first])
  if (!is.null(x$meets)) shown$meets <- x$meets[first]
  rownames(shown) <- NULL
  shown
}

varied_cell <- function(row, is_chance) {
  if (is.na(row$estimate)) return("none")
  show <- if (is_chance) format_percent else format_statistic
  half <- (row$conf.high - row$conf.low) / 2
  if (is.na(half)) return(show(row$estimate))
  if (is.infinite(half)) return(sprintf("%s (%s)", show(row$estimate), open_in_words(row$conf.low, row$conf.high,
                                                                                     show)))
  sprintf("%s %s%s", show(row$estimate), plus_minus(),
          if (is_chance) sprintf("%.1f", 100 * half) else format_number(half, 2))
}

difference_table <- function(x) {
  grid <- attr(x, "grid")
  terms <- Filter(function(term) any(!is.na(x$difference[x$term == term])), varied_terms(x))
  if (!length(terms)) return(NULL)
  key <- function(table) do.call(paste, c(unname(as.list(table[names(grid)])), sep = "\r"))
  cells <- lapply(terms, function(term) {
    rows <- x[x$term == term, , drop = FALSE]
    rows <- rows[match(key(grid), key(rows)), , drop = FALSE]
    sure <- !is.na(rows$difference.low) & (rows$difference.low > 0 | rows$difference.high < 0)
    paste0(signed(rows$difference, grepl("=", term, fixed = TRUE)), ifelse(sure, " *", ""), few_differed(x, rows))
  })
  shown <- cbind(grid, rlang::set_names(as.data.frame(cells), terms))[-1, , drop = FALSE]
  rownames(shown) <- NULL
  shown
}

# "(in 3 deals)" where so few differed that the difference has no interval of its own.
few_differed <- function(x, rows) {
  deals <- round(rows$differed * trial_count(attr(x, "counts")[[1]]))
  few <- which(deals > 0 & deals < enough_differing)
  replace(character(length(deals)), few, sprintf(" (in %s)", vapply(deals[few], count_of, "", "deal")))
}
