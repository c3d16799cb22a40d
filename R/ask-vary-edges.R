# The exact edges of a game by combinations of its rules: vary_rules() with `of = "edge"`.

vary_edges <- function(game, grid, want, threads, progress, call) {
  wish <- wish_on_one(want, "edge", call)
  games <- lapply(grid$variants, without_cut)
  solved <- edges_at_once(games, threads)
  if (is.null(solved)) {
    edge_of <- edge_of_players(game, call)
    bar <- local_progress("Solving combinations", progress, length(games))
    solved <- lapply_until_interrupted(games, edge_of, "combination", bar)
  }
  edges <- unlist(solved)
  table <- grid$table[seq_along(edges), , drop = FALSE]
  difference <- edges - edges[1]
  rows <- cbind(table, data.frame(term = "edge", estimate = edges, std.error = 0, conf.low = edges, conf.high = edges,
                                  difference = difference, difference.low = difference, difference.high = difference))
  if (!is.null(wish)) {
    rows$meets <- ifelse(holds_on_one(wish, "edge", edges, call), "yes", "no")
  }
  rownames(rows) <- NULL
  structure(rows,
            made = call_made(), class = table_class("habanera_varied_edges"), rules = names(grid$table), game = game,
            want = want, part = attr(solved, "part"))
}

# A wish on one name, and whether values of it meet it.
wish_on_one <- function(want, name, call) {
  if (is.null(want)) return(NULL)
  checked_on_names(parse_expression(check_string(want, "want", call), "want", call), name, NULL,
                   "what can be wished of is", call)
}
holds_on_one <- function(wish, name, values, call) {
  holds <- interpret(wish, list(values = rlang::set_names(list(values), name), rows = length(values)), call)
  if (!is.logical(holds)) {
    refuse(sprintf("`want` must be a condition, such as \"%s < 0.008\".", name), "language", call)
  }
  rep_len(holds, length(values))
}

# Where a kind works out the edges of many games sooner than of one after the other; else NULL.
edges_at_once <- function(games, threads) {
  solver <- able(games[[1]], "plays_best")$edges_of
  if (!is.null(solver)) solver(games, threads)
}

# Against the players given, or the best where none were.
edge_of_players <- function(game, call) {
  against_best <- edge_finder(game, "total", call)
  function(each) {
    if (is.null(each$given$players)) return(against_best(each))
    solved <- solved_edge(each, call)
    if (is.null(solved)) refuse("Who plays by luck has no exact edge: of = \"outcomes\" plays.", "work", call)
    0 - solved$bets$mean[1]
  }
}

#' @export
tell.habanera_varied_edges <- function(x, rows = 30, ...) {
  game <- attr(x, "game")
  if (is.null(game)) return(NextMethod())
  names <- attr(x, "rules")
  cat_wrapped("<varied rules> ", game_in_words(game, names), "; the house's edge, exact", part_in_words(x))
  at <- function(row) sprintf("%s (%s)", rules_in_words(as.list(x[row, names, drop = FALSE])),
                              signed_percent(x$estimate[row]))
  if (!is.null(x$meets)) {
    cat_wrapped(sprintf("`%s` is met by %s of %s.", attr(x, "want"), format_count(sum(x$meets == "yes")),
                        count_of(nrow(x), "combination")))
  }
  cat_wrapped(sprintf("The edge is smallest with %s and largest with %s.", at(which.min(x$estimate)),
                      at(which.max(x$estimate))))
  shown <- cbind(plain_table(x)[names], edge = plain_percent(x$estimate),
                 `against the first` = percent_points(x$difference))
  if (!is.null(x$meets)) shown$meets <- x$meets
  print_head(shown, rows)
  invisible(x)
}
