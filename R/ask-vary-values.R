# What sound play brings seat 1 by combinations of a game's rules: vary_rules() with `of = "value"`.

gap_of_values <- 1e-4

vary_values <- function(game, grid, want, progress, call) {
  wish <- wish_on_one(want, "value", call)
  bar <- local_progress("Solving combinations", progress, length(grid$variants))
  solved <- lapply_until_interrupted(grid$variants, function(variant) {
    found <- equilibrium(variant, gap = gap_of_values)
    list(unit = found$unit, row = data.frame(term = "value", estimate = found$value, std.error = 0,
                                             conf.low = found$low, conf.high = found$high))
  }, "combination", bar)
  values <- do.call(rbind, lapply(solved, `[[`, "row"))
  table <- grid$table[seq_len(nrow(values)), , drop = FALSE]
  first <- values[1, ]
  rows <- cbind(table, values, difference = values$estimate - first$estimate,
                difference.low = values[["conf.low"]] - first[["conf.high"]],
                difference.high = values[["conf.high"]] - first[["conf.low"]])
  rows[1, c("difference.low", "difference.high")] <- 0
  if (!is.null(wish)) {
    rows$meets <- vapply(seq_len(nrow(values)), function(i) {
      points <- points_between(values[["conf.low"]][i], values$estimate[i], values[["conf.high"]][i], 101)
      holds <- holds_on_one(wish, "value", points, call)
      if (all(holds)) "yes" else if (!any(holds)) "no" else "open"
    }, "")
  }
  rownames(rows) <- NULL
  structure(rows, made = call_made(), class = table_class("habanera_varied_values"),
            rules = names(grid$table), game = game, want = want,
            part = attr(solved, "part"), unit = join_words(unique(unlist(lapply(solved, `[[`, "unit"))), "or"))
}

#' @export
tell.habanera_varied_values <- function(x, rows = 30, ...) {
  game <- attr(x, "game")
  if (is.null(game)) return(NextMethod())
  names <- attr(x, "rules")
  cat_wrapped("<varied rules> ", game_in_words(game, c(names, "players")), "; what sound play brings seat 1",
              sub(", in $", "", paste0(", in ", attr(x, "unit"))), part_in_words(x))
  at <- function(row) sprintf("%s (%s)", rules_in_words(as.list(x[row, names, drop = FALSE])),
                              format_number(x$estimate[row], 4))
  if (!is.null(x$meets)) {
    cat_wrapped(sprintf("`%s` is surely met by %s of %s.", attr(x, "want"), format_count(sum(x$meets == "yes")),
                        count_of(nrow(x), "combination")))
  }
  cat_wrapped(sprintf("Seat 1 has least with %s and most with %s.", at(which.min(x$estimate)),
                      at(which.max(x$estimate))))
  told <- function(column) format_number(x[[column]], 4)
  shown <- cbind(plain_table(x)[names], value = told("estimate"), from = told("conf.low"), to = told("conf.high"))
  if (!is.null(x$meets)) shown$meets <- x$meets
  print_head(shown, rows)
  invisible(x)
}
