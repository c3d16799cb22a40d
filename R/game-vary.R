#' Vary the rules of a game
#'
#' Plays a game by every combination of the rules given, all on the same deals, so that rows differ by their rules and
#' not by luck.
#'
#' @param game A game.
#' @param ... Rules by name, each with the values to try: `face_down = 0:3`, `tie = c("war", "split")`; a list where
#'   one of them is `NULL`.
#' @param nsim,seed,threads As in [simulate()][simulate.habanera_experiment]; each combination is played `nsim` times.
#' @return A `habanera_varied`: a data frame with a row for each combination and term: the rules varied, then `term`,
#'   `estimate`, `std.error`, `conf.low`, `conf.high` as in [tidy()][tidy.habanera_counts_game]. `attr(x, "counts")`
#'   holds the counts of each combination. Interrupting keeps the combinations played by then, with a warning.
#' @section Errors: `habanera_error_rules` for rules that do not exist or contradict each other, before anything is
#'   played; the combination is named.
#' @seealso The figure is [autoplot.habanera_varied()].
#' @examples
#' vary_rules(game_war(cards_each = 5), face_down = 0:2, nsim = 500, seed = 1)
#' @export
vary_rules <- function(game, ..., nsim = 1e4, seed = NULL, threads = NULL) {
  call <- rlang::current_env()
  check_game(game)
  values <- rlang::list2(...)
  if (!length(values)) refuse("Name a rule and the values to try, as in `face_down = 0:3`.")
  refuse_unknown_rules(game$kind, values, call)
  grid <- rule_grid(values, call)
  seed <- resolve_seed(seed)
  variants <- lapply(grid$rows, varied_game, game = game, call = call)
  play <- function(variant) simulate(variant, nsim = nsim, seed = seed, threads = threads)
  counts <- lapply_until_interrupted(variants, play, "combination")
  played <- grid$table[seq_along(counts), , drop = FALSE]
  rows <- lapply(seq_along(counts), function(i) {
    terms <- tidy(counts[[i]])
    cbind(played[rep(i, nrow(terms)), , drop = FALSE],
          terms[c("term", "estimate", "std.error", "conf.low", "conf.high")])
  })
  rows <- do.call(rbind, rows)
  rownames(rows) <- NULL
  structure(rows, class = c("habanera_varied", "data.frame"), rules = names(values), counts = counts,
            grid = played, game = game, seed = seed)
}

most_variants <- 1000

# All combinations: `rows` as lists of rules, `table` with each rule as a column to read.
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
  rows <- lapply(seq_len(nrow(places)), function(i) Map(function(each, at) each[[at]], values, unlist(places[i, ])))
  table <- Map(function(each, at) rule_column(each)[at], values, places)
  list(rows = rows, table = as.data.frame(table, stringsAsFactors = FALSE, optional = TRUE))
}

# Numbers and texts as they are; anything else in words.
rule_column <- function(values) {
  plain <- vapply(values, function(value) length(value) == 1 && is.atomic(value) && !is_cards(value), TRUE)
  if (all(plain)) return(unlist(values))
  vapply(values, function(value) if (is.null(value)) "all" else rule_text(value), "")
}

varied_game <- function(changes, game, call) {
  tryCatch(change_game(game, changes, call), habanera_error = function(cnd) {
    refuse(c(sprintf("With %s:", rules_in_words(changes)), x = rlang::cnd_message(cnd)), "rules", call)
  })
}

rules_in_words <- function(rules) paste(names(rules), "=", vapply(rules, rule_text, ""), collapse = ", ")

#' @export
print.habanera_varied <- function(x, rows = 30, ...) {
  if (is.null(attr(x, "game"))) return(NextMethod())
  cat_wrapped("<varied rules> ", game_in_words(attr(x, "game"), attr(x, "rules")), "; ",
              sprintf("%s each, all on the same deals, seed %s", count_of(trial_count(attr(x, "counts")[[1]]), "game"),
                      whole_code(attr(x, "seed"))))
  print_head(varied_table(x), rows)
  invisible(x)
}

# A row for each combination, a column for each term.
varied_table <- function(x) {
  grid <- attr(x, "grid")
  terms <- unique(x$term)
  terms <- terms[order(match(sub("(=.*|_p[0-9]+)$", "", terms), attr(x, "game")$record), terms)]
  cells <- lapply(terms, function(term) {
    vapply(attr(x, "counts"), function(counts) {
      found <- tidy(counts)
      value <- found$estimate[match(term, found$term)]
      if (is.na(value)) return("none")
      if (grepl("=", term, fixed = TRUE)) format_percent(value) else format_statistic(value)
    }, "")
  })
  shown <- cbind(grid, rlang::set_names(as.data.frame(cells), terms))
  rownames(shown) <- NULL
  shown
}
