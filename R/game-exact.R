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
  rlang::check_dots_empty(call = call)
  check_whole(most, 1, 1e9)
  if (has_function_player(x) || has_function(x$shuffle)) refuse("exact() cannot walk an R function.", "work")
  if (any(vapply(x$rules$players, function(player) player$name == "lookahead", NA))) {
    refuse("exact() cannot walk the games that player_lookahead() plays out; simulate().", "work")
  }
  told_by_trials <- intersect(x$record, x$simulated_only)
  if (length(told_by_trials)) {
    refuse(sprintf("`%s` hangs on every card of the round, which exact() does not follow; simulate().",
                   told_by_trials[1]), "work", call)
  }
  why <- kind_of(x)$out_of_reach(x$rules, x$deck)
  if (!is.null(why)) refuse(why, "work", call)
  if (is_own_game(x)) return(walked_distribution(x, able(x, "in_r")$walk(x, most, call)))
  machine <- game_machine(x)
  deals <- if (core_walks_by_memory(machine, x$spec)) 0 else count_of_deals(x)
  if (deals > most) refuse_deals(x, deals, most, call)
  walked <- tryCatch(core_walk_game(machine, x$spec, most),
                     `std::length_error` = function(cnd) refuse_deals(x, NULL, most, call),
                     `habanera::StockRanOut` = function(cnd) {
                       refuse("Some courses of the game need more cards than the pack has; take a larger one.", "rules",
                              call)
                     },
                     `habanera::OutOfReach` = refuse_unsolved, `habanera::EndlessGame` = function(cnd) {
                       refuse("By these players some courses of the game never end; simulate().", "work", call)
                     })
  walked_distribution(x, walked)
}

walked_distribution <- function(x, walked) {
  rows <- gathered_rows(game_outcomes(x, recorded_rows(walked$rows, x$record)))
  new_distribution(result_kind(x), rows$outcomes, rows$sum(walked$probability),
                   new_provenance(x, entries_per_trial(x), source = "exact"))
}

refuse_deals <- function(game, deals, most, call) {
  count <- if (is.null(deals)) "more" else if (deals < 1e15) format_count(round(deals)) else format_number(deals, 3)
  refuse(sprintf("There are %s deals (with what is left to chance after them) to play; at most %s are. %s", count,
                 format_count(most), sprintf("Take %s, or simulate().", kind_of(game)$fewer_deals)), "work", call)
}

# Of a uniform shuffle: arrangements of the dealt cards by likeness; otherwise the paths of the shuffle.
count_of_deals <- function(game) {
  if (!is.null(game$piles)) return(1)
  n <- length(game$deck)
  if (!is_uniform(game$shuffle)) return(prod(core_step_paths(core_steps(game$shuffle), n)))
  copies <- rowsum(kinds_of(game$deck)$copies, kind_of(game)$likeness(game))[, 1]
  arrangements_of(copies, game$spec$draw$size)
}

# How many different rows of `size` cards there are: the coefficient of an exponential generating function (Riordan
# 1958, An Introduction to Combinatorial Analysis, ch. 1).
arrangements_of <- function(copies, size) {
  ways <- 1
  for (most in copies) {
    taken <- 1 / factorial(0:most)
    longer <- numeric(length(ways) + most)
    for (i in seq_along(taken)) {
      at <- seq_along(ways) + i - 1
      longer[at] <- longer[at] + ways * taken[i]
    }
    ways <- utils::head(longer, size + 1)
  }
  if (length(ways) <= size) 0 else ways[size + 1] * factorial(size)
}
