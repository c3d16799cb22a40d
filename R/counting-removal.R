#' What a card that is gone is worth
#'
#' The exact change of the expected result of a bet when one card of each value (or rank) is missing from the full shoe,
#' and the exact edge of any given shoe.
#'
#' The player stays as he is: as given, or the best of the full shoe by totals. A card taken at random tells nothing, so
#' that the effects, weighed with how many cards there are of each, sum to zero to rounding, which the print shows
#' (Griffin 1999, The Theory of Blackjack, ch. 3, has them as the basis of counting).
#'
#' @param game A game for money whose edge is exact, such as [game_blackjack()]. A cut is passed over.
#' @param player As in [house_edge()].
#' @param of Bets by name, as `term` in `tidy(house_edge(game))`: "main", side bets; of blackjack "insurance", too;
#'   `NULL`: the main bet.
#' @param shoe Cards: the whole shoe from which a round is dealt.
#' @param progress Whether to show a progress bar after two seconds, as in [simulate()][simulate.habanera_experiment].
#' @return `removal_effects()`: a `habanera_removal`, a data frame: `value` or `rank`, `bet`, `copies` (in the shoe; of
#'   insurance without the ace that is shown), `effect` (the change of the player's expected result, in initial stakes;
#'   of insurance, given an ace up, per unit insured). `shoe_edge()`: as [house_edge()].
#' @section Errors: `habanera_error_input` for a bet that the game does not have; `habanera_error_rules` for an endless
#'   shoe, which lacks no cards; `habanera_error_work` where the edge would be simulated.
#' @seealso [counting_system()], [design_tags()]; the figure is [autoplot.habanera_removal()].
#' @examples
#' removal_effects(game_high_card(ties = "half_back"))
#' removal_effects(game_blackjack(packs = 1), player_basic())
#' shoe_edge(game_blackjack(), deck_standard(packs = 2)[-(1:20)])
#' @export
removal_effects <- function(game, player = NULL, of = NULL, progress = NULL) {
  check_given()
  call <- rlang::current_env()
  local_progress("Taking cards out", progress)
  game <- money_game(game, call)
  game <- edge_game(without_cut(game), player, NULL, call)
  if (is.null(of)) of <- bets_of(game)$term[1]
  if (!is.character(of)) refuse(sprintf("`of` must name bets of the game, not %s.", said(of)), call = call)
  groups <- kind_of(game)$counted_by(game)
  kinds <- kinds_of(game$deck)
  like <- like_kinds(list(kind_of(game)$likeness(game), groups$labels))
  whole <- bet_means(game, of, call)
  changes <- vapply(which(!duplicated(like)), function(kind) {
    gone <- game$deck[match(kinds$codes[kind], codes_of(game$deck))]
    bet_means(without_cards(game, gone, call), of, call) - whole
  }, whole)
  changes <- matrix(changes, nrow = length(of))[, match(like, unique(like)), drop = FALSE]
  labels <- unique(groups$labels[groups$order])
  rows <- lapply(seq_along(of), function(bet) {
    copies <- vapply(labels, function(label) sum(kinds$copies[groups$labels == label]), 0)
    sums <- vapply(labels, function(label) {
      here <- groups$labels == label
      sum(kinds$copies[here] * changes[bet, here])
    }, 0)
    hidden <- copies - (labels %in% groups$shown[[of[bet]]])
    rlang::set_names(data.frame(labels, of[bet], unname(hidden), unname(sums / copies)),
                     c(groups$name, "bet", "copies", "effect"))
  })
  structure(do.call(rbind, rows),
            made = call_made(), class = table_class("habanera_removal"), words = in_words(game), game = game)
}

money_game <- function(game, call) {
  checked_game(game, call = call)
  capability(game, "takes_bets", call)
  game
}

# The player's expected result of bets by name, in initial stakes, exactly.
bet_means <- function(game, of, call) {
  means <- solved_means(game, of, call)
  if (is.null(means)) {
    edge <- house_edge(game, nsim = 1)
    exact <- edge$bets[edge$bets$how == "exact", ]
    if (!all(of %in% exact$term) && any(of %in% edge$bets$term)) {
      refuse("The edge of this bet would be simulated; removal needs it exactly.", "work", call)
    }
    means <- rlang::set_names(0 - exact$estimate, exact$term)
  }
  unknown <- setdiff(of, names(means))
  if (!length(of) || anyDuplicated(of) || length(unknown)) {
    refuse(sprintf("`of` must name bets of the game (%s), each once, not %s%s", join_words(names(means)), said(of),
                   did_you_mean(unknown[1], names(means))), call = call)
  }
  means[of]
}

#' @export
tell.habanera_removal <- function(x, ...) {
  cat_wrapped(sprintf("<removal> %s; one card missing, exact", attr(x, "words")))
  for (bet in unique(x$bet)) {
    rows <- x[x$bet == bet, ]
    most <- which.max(rows$effect)
    least <- which.min(rows$effect)
    cat_wrapped(sprintf("%s: a missing %s gains the player most (%s of a stake), a missing %s costs most (%s). %s",
                        sentence(bet), rows[[1]][most], percent_points(rows$effect[most]), rows[[1]][least],
                        percent_points(rows$effect[least]), weighed_sum_in_words(rows)))
  }
  shown <- data.frame(unique(x[[1]]))
  names(shown) <- names(x)[1]
  for (bet in unique(x$bet)) shown[[bet]] <- percent_points(x$effect[x$bet == bet])
  print_head(shown, 60)
  invisible(x)
}

weighed_sum_in_words <- function(rows) {
  sum <- sum(rows$copies * rows$effect)
  sprintf("Weighed with the cards there are they sum to %s.",
          if (abs(sum) < 1e-12) "0 within 1e-12" else format(sum, digits = 1))
}

#' @rdname removal_effects
#' @export
shoe_edge <- function(game, shoe, player = NULL) {
  check_given()
  call <- rlang::current_env()
  game <- money_game(game, call)
  check_cards_argument(shoe, "shoe", call)
  if (!all(c("deck", "packs") %in% rule_names(kind_of(game)))) {
    refuse(sprintf("%s is not dealt from a shoe.", kind_of(game)$title), call = call)
  }
  game <- change_game(without_cut(game), list(deck = shoe, packs = 1), call)
  house_edge(game, player)
}

# Of tags and effects, each from its mean: that of effects is nothing but where a card is shown, as for insurance.
weighed_correlation <- function(tags, effects, copies) {
  tags <- tags - sum(copies * tags) / sum(copies)
  effects <- effects - sum(copies * effects) / sum(copies)
  sum(copies * tags * effects) / sqrt(sum(copies * tags^2) * sum(copies * effects^2))
}
