# How well a count serves play: the share of what perfect knowledge of the cards left would gain by playing otherwise.

# Of every cell the two best moves differ by some advantage, which the cards seen move about its mean: by the effects of
# removal, whose sum over a sample is nearly normal. Who knows the cards gains the expected excess over nothing of such
# a normal; who knows the count has it with a spread that is less by the correlation of tags and effects (Griffin 1999,
# The Theory of Blackjack, ch. 4 and app. A).
play_correlation <- function(system, game, call, depth = 0.5) {
  cells <- play_effects(game, call)
  shoe <- game$deck
  copies <- kinds_of(shoe)$copies
  tags <- tags_of_kinds(system, shoe, call)
  cards <- length(shoe)
  dealt <- depth * cards
  # Of the mean of what is left, per card seen at this depth.
  scale <- (cards - 1) / (cards - dealt) * sqrt(dealt * (cards - dealt) / (cards - 1))
  gains <- vapply(seq_along(cells$chance), function(row) {
    effects <- cells$effects[row, ]
    effects <- effects - sum(copies * effects) / cards
    spread <- scale * sqrt(sum(copies * effects^2) / cards)
    if (spread < 1e-12) return(c(0, 0))
    known <- abs(weighed_correlation(tags, effects, copies))
    cells$chance[row] * c(expected_excess(cells$lead[row], spread), expected_excess(cells$lead[row], spread * known))
  }, c(0, 0))
  sum(gains[2, ]) / sum(gains[1, ])
}

# Of a normal with this mean deficit and spread, what it is above nothing on average.
expected_excess <- function(deficit, spread) {
  if (spread == 0) return(0)
  z <- deficit / spread
  spread * (stats::dnorm(z) - z * stats::pnorm(z, lower.tail = FALSE))
}

# Of every cell: how likely a hand of two cards is in it, by how much the best move leads the second, and how a missing
# card of each kind changes this.
play_effects <- function(game, call) {
  worked <- able(game, "counts")$cells(game, call)
  kinds <- kinds_of(game$deck)
  values <- game$spec$rules$points
  full <- worked$expected(kinds$copies)
  of_cell <- paste(full$hand, full$up_card)
  order <- order(of_cell, -full$expected)
  ranked <- full[order, ]
  place <- stats::ave(seq_along(order), of_cell[order], FUN = seq_along)
  best <- ranked[place == 1, ]
  second <- ranked[place == 2, ]
  both <- match(paste(second$hand, second$up_card), paste(best$hand, best$up_card))
  best <- best[both, ]
  likely <- cell_chances(worked$cells, kinds$copies, values)
  chance <- likely$chance[match(paste(best$hand, best$up_card), paste(likely$hand, likely$up_card))]
  keep <- !is.na(chance)
  worth <- function(table, rows) table[["expected"]][match(paste(rows$hand, rows$up_card, rows$move),
                                                      paste(table[["hand"]], table[["up_card"]], table[["move"]]))]
  lead <- best$expected - second$expected
  by_value <- lapply(unique(values), function(value) {
    left <- kinds$copies
    left[match(value, values)] <- left[match(value, values)] - 1
    lacking <- worked$expected(left)
    # What the other move gains by it.
    lead - (worth(lacking, best) - worth(lacking, second))
  })
  effects <- do.call(cbind, by_value)[, match(values, unique(values)), drop = FALSE]
  list(chance = chance[keep], lead = lead[keep], effects = effects[keep, , drop = FALSE])
}

# Of all hands of two cards that a cell holds.
cell_chances <- function(cells, copies, values) {
  share <- tapply(copies, values, sum) / sum(copies)
  of_value <- function(value) as.vector(share[as.character(value)])
  pairs <- expand.grid(one = as.numeric(names(share)), other = as.numeric(names(share)))
  hand <- ifelse(pairs$one == pairs$other, paste("pair", value_names(pairs$one)),
                 ifelse(pmin(pairs$one, pairs$other) == 1, paste("soft", pairs$one + pairs$other + 10),
                        paste("hard", pairs$one + pairs$other)))
  of_hand <- tapply(of_value(pairs$one) * of_value(pairs$other), hand, sum)
  found <- unique(cells[c("hand", "up_card", "up")])
  found$chance <- as.vector(of_hand[found$hand]) * of_value(found$up)
  found
}
