#' @rdname exact
#' @section Games: Every deal of a small deck is played, by the code that simulates. After a uniform shuffle, cards that
#'   are alike to the game (of one rank) are dealt as one kind, which leaves far fewer deals. What a game leaves to
#'   chance after the deal (a shuffled pot) is walked too. Where seats decide by what lies on the table alone, and the
#'   shuffle is uniform, courses of the game that come to like positions go on as one, so that much larger games are in
#'   reach; steps that all courses together take with a chance below 1e-18 are left out. Of rounds from one shoe,
#'   `probability` is how many of its rounds give the outcome on average.
#' @param most For games: the most deals, or positions, walked.
#' @export
exact.habanera_game <- function(x, ..., most = most_paths) {
  call <- rlang::current_env()
  check_no_more(call, ...)
  check_whole(most, 1, 1e9)
  if (has_function_player(x) || has_function(x$shuffle)) refuse("exact() cannot walk an R function.", "work")
  ahead <- Filter(function(player) player$name %in% c("lookahead", "peeking"), x$rules$players)
  if (length(ahead)) {
    refuse(sprintf("exact() cannot walk the games that player_%s() plays out; simulate().", ahead[[1]]$name), "work")
  }
  told_by_trials <- intersect(x$record, x$simulated_only)
  if (length(told_by_trials)) {
    refuse(sprintf("`%s` hangs on every card of the round, which exact() does not follow; simulate().",
                   told_by_trials[1]), "work", call)
  }
  why <- kind_of(x)$out_of_reach(x$rules, x$deck)
  if (!is.null(why)) refuse(why, "work", call)
  walked_distribution(x, plays_of(x)$walk(x, most, call))
}

walked_distribution <- function(x, walked) {
  rows <- gathered_rows(game_outcomes(x, recorded_rows(walked$rows, x$record)))
  new_distribution(result_kind(x), rows$outcomes, rows$sum(walked$probability),
                   new_provenance(x, entries_per_trial(x), source = "exact"))
}
