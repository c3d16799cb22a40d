#' @rdname counting_system
#' @param system A counting system, or the name of a plain one.
#' @param game,player,progress As in [removal_effects()].
#' @export
judge_count <- function(game = game_blackjack(), system = "level one balanced", player = NULL, progress = NULL) {
  check_given()
  call <- rlang::current_env()
  local_progress("Judging the count", progress)
  system <- check_system(system, call)
  game <- edge_game(without_cut(money_game(game, call)), player, NULL, call)
  main <- bets_of(game)$term[1]
  bets <- c(main, intersect("insurance", names(solved_means(game, main, call))))
  effects <- removal_effects(game, of = bets)
  groups <- kind_of(game)$counted_by(game)
  copies <- kinds_of(game$deck)$copies
  rows <- lapply(bets, function(bet) {
    of_bet <- effects[effects$bet == bet, ]
    effect <- of_bet$effect[match(groups$labels, of_bet[[1]])]
    # What is counted apart is for bets alone.
    tags <- (if (bet == main) bet_tags_of_kinds else tags_of_kinds)(system, game$deck, call)
    data.frame(term = if (bet == main) "betting" else bet, estimate = weighed_correlation(tags, effect, copies))
  })
  if (!is.null(able(game, "counts"))) {
    rows <- c(rows, list(data.frame(term = "play", estimate = play_correlation(system, game, call))))
  }
  structure(do.call(rbind, rows), made = call_made(), class = table_class("habanera_count_judged"), system = system,
            words = in_words(game))
}

#' @export
in_words.habanera_count_judged <- function(x, ...) {
  sprintf("In %s the tags go with the effects of removal: %s.", attr(x, "words"),
          join_words(sprintf("%s %.4f", x$term, x$estimate)))
}

#' @export
tell.habanera_count_judged <- function(x, ...) {
  print(attr(x, "system"))
  told <- x[x$term != "play", ]
  cat_wrapped(sprintf("In %s its tags go with the effects of removal: %s.", attr(x, "words"),
                      join_words(sprintf("%s %.4f", told$term, told$estimate))))
  if ("play" %in% x$term) {
    cat_wrapped(sprintf("By it play can gain %s of what it could by all cards seen, once half of the shoe is dealt.",
                        format_percent(x$estimate[x$term == "play"], 3)))
  }
  invisible(x)
}
