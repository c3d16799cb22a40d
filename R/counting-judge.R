#' @rdname counting_system
#' @param system A counting system, or the name of a plain one.
#' @param game,player As in [removal_effects()].
#' @export
judge_count <- function(system, game = game_blackjack(), player = NULL) {
  call <- rlang::current_env()
  system <- check_system(system, call)
  game <- edge_game(without_cut(money_game(game, call)), player, NULL, call)
  bets <- c("main", intersect("insurance", names(game$kind$bet_means(game, "main", call))))
  effects <- removal_effects(game, of = bets)
  groups <- game$kind$counted_by(game)
  copies <- kinds_of(game$deck)$copies
  tags <- tags_of_kinds(system, game$deck, call)
  rows <- lapply(bets, function(bet) {
    of_bet <- effects[effects$bet == bet, ]
    effect <- of_bet$effect[match(groups$labels, of_bet[[1]])]
    data.frame(term = if (bet == "main") "betting" else bet, estimate = weighed_correlation(tags, effect, copies))
  })
  structure(do.call(rbind, rows), class = c("habanera_count_judged", "data.frame"), system = system,
            words = in_words(game))
}

# Of tags, from their mean, with effects, whose mean is nothing.
weighed_correlation <- function(tags, effects, copies) {
  tags <- tags - sum(copies * tags) / sum(copies)
  sum(copies * tags * effects) / sqrt(sum(copies * tags^2) * sum(copies * effects^2))
}

#' @export
print.habanera_count_judged <- function(x, ...) {
  if (is.null(attr(x, "system"))) return(NextMethod())
  print(attr(x, "system"))
  cat_wrapped(sprintf("In %s its tags go with the effects of removal: %s.", attr(x, "words"),
                      join_words(sprintf("%s %.4f", x$term, x$estimate))))
  invisible(x)
}
