# What tune_rules() tunes, as a list: the thing `x` itself as it is now, `words` for it (but for what is changed), the
# `names` of estimates and of its `rules`, and functions: `dimensions(over)`, `change(changes)` (a candidate),
# `rules_of(candidate)`, `present(name)` (what a dimension is now, where none of its values is),
# `line_ups(line_ups, over)`, `known(tuning, names)` (what needs no trials, for each row of the race), `is_share(name)`,
# `price(candidate, name, edge)` (see priced_rule()), `parts_of(name)` (among how many single estimates its chance of
# error is divided), and of what is played `check_played(names)`, `allowed_unended(wishes)`,
# `to_play(candidate, players, names)` and `bounds(names, played, tally, done, error, allowed)`.
tuning_subject <- function(x, run, call) UseMethod("tuning_subject")

#' @export
tuning_subject.default <- function(x, run, call) {
  refuse(sprintf("`x` must be a game, a question of draws(), a payout() or a procedure(), not %s.", said(x)),
         call = call)
}

#' @export
tuning_subject.habanera_game <- function(x, run, call) {
  base <- with_ending(x)
  own_estimator <- function(name, game = base) estimator(name, game, run$seconds_per_round)
  list(
    x = x, words = function(changed) game_in_words(x, changed), names = tunable_names(base, run$seconds_per_round),
    rules = names(x$rules), rules_of = function(candidate) candidate$rules,
    dimensions = function(over) game_dimensions(x, over, call),
    change = function(changes) changed_game(x, changes, call),
    present = function(name) x$rules[[name]],
    line_ups = function(line_ups, over) checked_line_ups(line_ups, x, over, call),
    known = function(tuning, names) exact_edges(tuning, names, run, call),
    price = function(candidate, name, edge) priced_rule(without_cut(candidate), name, edge, call),
    parts_of = function(name) parts_of(own_estimator(name)),
    is_share = function(name) name %in% c("edge", "seat_spread") || identical(own_estimator(name)$kind, "share"),
    check_played = function(names) refuse_shoe_quantiles(base, lapply(names, own_estimator), call),
    allowed_unended = function(wishes) if (is.null(ending_of(base))) 0.001 else allowed_by_all(wishes, base),
    to_play = function(candidate, players, names) {
      columns <- unique(c(vapply(names, function(name) own_estimator(name)$column, ""), ending_of(base)$column))
      recording(at_line_up(candidate, players), columns)
    },
    bounds = function(names, game, tally, done, error, allowed) {
      estimators <- lapply(rlang::set_names(names), own_estimator, game)
      if (holds_rounds(game)) return(bounds_by_shoe(estimators, game, tally, done, error))
      # A seat that there is not never wins.
      lapply(estimators, function(of) {
        if (is.null(of)) new_bounds(0, 0, 0) else bounds_in_tally(of, tally, error, allowed)
      })
    }
  )
}

allowed_by_all <- function(wishes, game) {
  together <- Reduce(function(one, other) call("&", one, other), lapply(wishes, `[[`, "expr"))
  allowed_unended(together, game)
}

# Players by line-up, each with a name; without line-ups a single one that changes nothing.
checked_line_ups <- function(line_ups, game, over, call) {
  if (is.null(line_ups)) return(list(NULL))
  if (!"players" %in% names(game$rules)) {
    refuse(sprintf("Nobody decides in %s: no `line_ups`.", kind_of(game)$title), call = call)
  }
  if ("players" %in% names(over)) refuse("Give players in `over` or as `line_ups`, not both.", call = call)
  if (!is.list(line_ups) || inherits(line_ups, "habanera_player") || !length(line_ups)) {
    refuse(sprintf("`line_ups` must be a list of players, or of lists with one for each seat, not %s.", said(line_ups)),
           call = call)
  }
  texts <- vapply(line_ups, function(players) rule_text(change_game(game, list(players = players), call)$rules$players),
                  "")
  given <- rlang::names2(line_ups)
  rlang::set_names(line_ups, make.unique(ifelse(nzchar(given), given, texts)))
}

at_line_up <- function(game, players, call = NULL) {
  if (is.null(players)) game else change_game(game, list(players = players), call)
}

# The edges of the candidates, and of the game as it is, where they can be worked out.
exact_edges <- function(tuning, names, run, call) {
  wanted <- intersect(c("edge", now_name("edge")), names)
  game <- tuning$subject$x
  if (!length(wanted) || holds_rounds(game)) return(NULL)
  seated <- function(candidate, at) at_line_up(candidate, tuning$line_ups[[at]], call)
  found <- tryCatch({
    games <- lapply(seq_along(tuning$candidate_of), function(row) {
      seated(tuning$candidates[[tuning$candidate_of[row]]], line_up_of(tuning, row))
    })
    present <- if (now_name("edge") %in% names) lapply(seq_along(tuning$line_ups), seated, candidate = game)
    edges <- exact_edges_of(c(games, present), run, call)
    list(edge = edges[seq_along(games)], now = rep(edges[-seq_along(games)], each = length(tuning$candidates)))
  # Of who plays by luck, too, edges are simulated.
  }, habanera_error_work = function(cnd) NULL, habanera_error_input = function(cnd) NULL)
  if (!is.null(found)) rlang::set_names(found, c("edge", now_name("edge")))[wanted]
}

exact_edges_of <- function(games, run, call) {
  found <- edges_at_once(games, run$threads)
  if (!is.null(found)) return(found)
  edge_of <- edge_of_players(games[[1]], call)
  bar <- local_progress("Solving", run$progress, length(games))
  edges <- numeric(length(games))
  done <- 0
  for (line in straight_lines(games)) {
    ends <- line$ends
    solved <- vapply(games[line$rows[ends]], edge_of, 0)
    edges[line$rows] <- solved[1] + (solved[length(ends)] - solved[1]) * line$share
    done <- done + length(line$rows)
    bar$move(done)
  }
  edges
}

# Games that differ in nothing but a rule by which their edges lie on a straight line, where there is such a rule: their
# `rows`, which of them are at its `ends`, and how far each lies from the first to the second.
straight_lines <- function(games) {
  rule <- able(games[[1]], "plays_best")$straight_in
  if (is.null(rule)) return(lapply(seq_along(games), function(row) list(rows = row, ends = 1, share = 0)))
  alike <- vapply(games, function(game) rlang::hash(game$rules[names(game$rules) != rule]), "")
  lapply(unname(split(seq_along(games), factor(alike, unique(alike)))), function(rows) {
    values <- vapply(games[rows], function(game) game$rules[[rule]], 0)
    ends <- unique(c(which.min(values), which.max(values)))
    list(rows = rows, ends = ends, share = (values - min(values)) / max(diff(range(values)), 1e-300))
  })
}

refuse_shoe_quantiles <- function(game, estimators, call) {
  if (!holds_rounds(game)) return(invisible())
  if (any(vapply(estimators, function(each) each$kind %in% c("quantile", "spread"), NA))) {
    refuse("Rounds of a shoe hang together: wish for a mean or a chance of theirs, which have errors by shoe.", "rules",
           call)
  }
}

# Rounds of a shoe hang together: their errors are by shoe, and about so sure.
bounds_by_shoe <- function(estimators, game, tally, done, error) {
  found <- counted_outcomes(game, tally)
  terms <- column_estimates(found$outcomes, found$n, done, 1 - error, sums = round_sums(game, tally[["sums"]]))
  lapply(estimators, function(of) {
    term <- if (of$kind == "share") paste0(of$column, "=", category_words(game, of$column)[of$code + 1]) else of$column
    row <- terms[match(term, terms$term), ]
    scale <- if (of$kind == "mean") of$factor * unit_of(game, of$column) else 1
    ends <- c(row$conf.low, row$conf.high) * scale
    if (anyNA(ends)) ends <- c(-Inf, Inf)
    new_bounds(row$estimate * scale, min(ends), max(ends), sure = FALSE)
  })
}
