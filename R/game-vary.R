#' Vary the rules of a game
#'
#' Plays a game by every combination of the rules given, all on the same deals, so that rows differ by their rules and
#' not by luck. Combinations that contradict themselves are passed over, with a note.
#'
#' @param game A game.
#' @param ... Rules by name, each with the values to try: `face_down = 0:3`, `tie = c("war", "split")`; a list where
#'   one of them is `NULL`.
#' @param nsim,seed,threads As in [simulate()][simulate.habanera_experiment]; each combination is played `nsim` times,
#'   and again beside the first one.
#' @param want `NULL`, or a condition on estimates, as text: `"rounds_p90 * 6 <= 900"`, `"winner_1 > 0.45"`. A
#'   combination meets it surely ("yes") or surely not ("no") when it holds, or does not, at both ends of all 95%
#'   intervals in it; otherwise more games must tell ("open").
#' @param of "outcomes": each combination is played. "edge": nothing is played, and what is told is the house's exact
#'   edge (see [house_edge()]; term "edge", which `want` may name), in a `habanera_varied_edges` with the same columns.
#' @return A `habanera_varied`: a data frame with a row for each combination and term: the rules varied, then `term`,
#'   `estimate`, `std.error`, `conf.low`, `conf.high` as in [tidy()][tidy.habanera_counts_game], then `difference`,
#'   `difference.low` and `difference.high` against the first combination on the same deals (with its 95% interval; `NA`
#'   for quantiles), and with `want` the column `meets`. `attr(x, "counts")` holds the counts of each combination.
#'   Interrupting keeps the combinations played by then, with a warning.
#' @section Errors: `habanera_error_rules` for rules that do not exist, or when all combinations contradict themselves;
#'   `habanera_error_language` for a wish that cannot be understood; before anything is played.
#' @seealso The figure is [autoplot.habanera_varied()]; each rule alone: [rule_effects()].
#' @examples
#' vary_rules(game_war(cards_each = 5), face_down = 0:2, nsim = 500, seed = 1, want = "rounds_p90 <= 20")
#' vary_rules(game_high_card(), ties = c("bank", "half_back"), packs = c(1, 6), of = "edge", want = "edge < 0.04")
#' @export
vary_rules <- function(game, ..., nsim = 1e4, seed = NULL, threads = NULL, want = NULL,
                       of = c("outcomes", "edge")) {
  call <- rlang::current_env()
  of <- check_choice(of, c("outcomes", "edge"))
  checked_game(game)
  values <- rlang::list2(...)
  if (!length(values)) refuse("Name a rule and the values to try, as in `rule = 0:3`.")
  refuse_unknown_rules(game$kind, values, call)
  if (of == "edge") {
    if (is.null(game$kind$bets(game$rules))) refuse_moneyless(game, call)
    return(vary_edges(game, possible_variants(game, rule_grid(values, call), call), want, call))
  }
  wish <- checked_wish(want, game, call)
  grid <- possible_variants(game, rule_grid(values, call), call)
  seed <- resolve_seed(seed)
  played <- lapply_until_interrupted(grid$variants, function(variant) {
    list(counts = simulate(variant, nsim = nsim, seed = seed, threads = threads),
         beside = beside_first(variant, grid$variants[[1]], nsim, seed, threads))
  }, "combination")
  table <- grid$table[seq_along(played), , drop = FALSE]
  rows <- lapply(seq_along(played), function(i) varied_rows(played[[i]], table[i, , drop = FALSE], wish, call))
  rows <- do.call(rbind, rows)
  rownames(rows) <- NULL
  structure(rows, class = c("habanera_varied", "data.frame"), rules = names(values),
            counts = lapply(played, `[[`, "counts"), grid = table, values = values, game = game, seed = seed,
            want = want)
}

checked_wish <- function(want, game, call) {
  if (is.null(want)) return(NULL)
  expr <- parse_expression(check_string(want, "want", call), "want", call)
  checked_on_names(expr, estimate_names(game), NULL, "what can be wished of is", call)
}

# How a variant differs from the first, or NULL where deals cannot be compared (an R function shuffles; other seats).
beside_first <- function(variant, first, nsim, seed, threads) {
  if (identical(variant$given, first$given)) return(NULL)
  tryCatch(tidy(simulate(new_game_pair(first, variant, NULL), nsim, seed, threads = threads)),
           habanera_error_input = function(cnd) NULL)
}

varied_rows <- function(played, rules, wish, call) {
  terms <- tidy(played$counts)
  beside <- played$beside[match(terms$term, played$beside$term), c("estimate", "conf.low", "conf.high")]
  if (is.null(beside)) beside <- terms[c("estimate", "conf.low", "conf.high")] * NA
  names(beside) <- c("difference", "difference.low", "difference.high")
  found <- cbind(rules[rep(1, nrow(terms)), , drop = FALSE],
                 terms[c("term", "estimate", "std.error", "conf.low", "conf.high")], beside)
  if (!is.null(wish)) found$meets <- meets_wish(wish, played$counts, call)
  found
}

# "yes", "no" or "open": the wish at all corners of the intervals of what it names.
meets_wish <- function(wish, counts, call) {
  names <- unique(all.vars(wish))
  terms <- estimates(counts, names)
  if (anyNA(terms$estimate)) return("open")
  corners <- expand.grid(Map(function(low, high) unique(c(low, high)), terms$conf.low, terms$conf.high))
  names(corners) <- names
  holds <- interpret(wish, list(values = as.list(corners), rows = nrow(corners)), call)
  if (!is.logical(holds)) refuse("`want` must be a condition, such as \"rounds_p90 <= 150\".", "language", call)
  if (all(holds)) "yes" else if (!any(holds)) "no" else "open"
}

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

most_variants <- 1000

# All combinations, as lists of rules.
rule_grid <- function(values, call) {
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
print.habanera_varied <- function(x, rows = 30, ...) {
  if (is.null(attr(x, "game"))) return(NextMethod())
  cat_wrapped("<varied rules> ", game_in_words(attr(x, "game"), attr(x, "rules")), "; ",
              sprintf("%s each, all on the same deals, seed %s", count_of(trial_count(attr(x, "counts")[[1]]), "game"),
                      whole_code(attr(x, "seed"))))
  writeLines(strwrap(varied_in_words(x), getOption("width")))
  print_head(varied_table(x), rows)
  differences <- difference_table(x)
  if (!is.null(differences)) {
    cat("Against the first row, on the same deals (* 0 lies outside the 95% interval):\n")
    print_head(differences, rows)
  }
  invisible(x)
}

# Which combination is best by the wish, or which has the smallest and the largest mean of the first number.
varied_in_words <- function(x) {
  grid <- attr(x, "grid")
  first <- !duplicated(do.call(paste, c(unname(as.list(x[names(grid)])), sep = "\r")))
  if (!is.null(attr(x, "want"))) {
    meets <- x$meets[first]
    yes <- which(meets == "yes")
    named <- vapply(yes, function(i) rules_in_words(as.list(grid[i, , drop = FALSE])), "")
    shown <- if (length(yes)) paste0(": ", join_some(named, 4)) else ""
    return(sprintf("`%s` is surely met by %s of %s%s; surely not by %s, open for %s.", attr(x, "want"),
                   format_count(length(yes)), count_of(nrow(grid), "combination"), shown,
                   format_count(sum(meets == "no")),
                   format_count(sum(meets == "open"))))
  }
  game <- attr(x, "game")
  numbers <- game$record[!is_category(game, game$record)]
  rows <- which(x$term == numbers[1] & !is.na(x$estimate))
  if (length(rows) < 2) return(character())
  least <- rows[which.min(x$estimate[rows])]
  most <- rows[which.max(x$estimate[rows])]
  at <- function(row) {
    sprintf("%s (%s)", rules_in_words(as.list(x[row, names(grid), drop = FALSE])), format_statistic(x$estimate[row]))
  }
  sprintf("The mean of %s is smallest with %s and largest with %s.", numbers[1], at(least), at(most))
}

varied_terms <- function(x) {
  terms <- unique(x$term)
  terms[order(match(sub("(=.*|_p[0-9]+)$", "", terms), attr(x, "game")$record), terms)]
}

# A row for each combination, a column for each term, with half the width of its interval.
varied_table <- function(x) {
  grid <- attr(x, "grid")
  terms <- varied_terms(x)
  cells <- lapply(terms, function(term) {
    vapply(attr(x, "counts"), function(counts) {
      found <- tidy(counts)
      row <- found[match(term, found$term), ]
      if (is.na(row$estimate)) return("none")
      half <- (row$conf.high - row$conf.low) / 2
      if (is.na(half)) return(format_statistic(row$estimate))
      if (grepl("=", term, fixed = TRUE)) sprintf("%s \u00b1%.1f", format_percent(row$estimate), 100 * half) else
        sprintf("%s \u00b1%s", format_statistic(row$estimate), format_number(half, 2))
    }, "")
  })
  shown <- cbind(grid, rlang::set_names(as.data.frame(cells), terms))
  if (!is.null(x$meets)) shown$meets <- x$meets[!duplicated(x[names(grid)])]
  rownames(shown) <- NULL
  shown
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
    paste0(signed(rows$difference, grepl("=", term, fixed = TRUE)), ifelse(sure, " *", ""))
  })
  shown <- cbind(grid, rlang::set_names(as.data.frame(cells), terms))[-1, , drop = FALSE]
  rownames(shown) <- NULL
  shown
}
