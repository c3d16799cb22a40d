# Cells of a table of blackjack in shoes of fractions: what is left to be dealt, as it is on average at some count.

# A list of `cells`, a data frame of those that a hand of two cards can come to, with `hand`, `up_card`, the `one` and
# `other` value of such a hand and the value `up`; and functions: `expected(left)` gives what each move of each cell is
# worth before a round with `left` of each kind in the shoe, `worth(row, left)` the same of some moves of one cell where
# `left` are unseen once its cards are, `lost(left, player, other)` what cells cost in a round where two players differ,
# and `move(player, cells)` what a player of a table does in cells.
blackjack_cells <- function(game, call) {
  spec <- game$spec$rules
  shoe <- solved_shoe(game)
  with_counts <- function(left) replace(shoe, "counts", list(left))
  kind_of <- function(value) match(value, spec$points)
  cells <- two_card_cells(sort(unique(spec$points)), game$rules)
  player_spec <- function(player) core_customer(player, game$rules, sort(unique(spec$points)), call)
  list(
    cells = cells,
    expected = function(left) {
      found <- solving(core_blackjack_expected(spec, with_counts(left), "total"), call)
      rows <- data.frame(hand = solved_rows(found), up_card = value_names(found$up), move = found$move,
                         expected = found$expected)
      rows[!startsWith(rows$hand, "early"), ]
    },
    worth = function(row, left, moves) {
      cell <- cells[row, ]
      seen <- c(kind_of(cell$one), kind_of(cell$other), kind_of(cell$up))
      for (kind in seen) left[kind] <- left[kind] + 1
      # What a split is worth takes long, and is asked of few.
      pair <- "split" %in% moves
      used <- sum(c(cell$one, cell$other, cell$up) == cell$one)
      stated <- list(values = as.integer(c(cell$one, cell$other)), up = as.integer(cell$up), split = 0L, pair = pair,
                     pairs_left = sum(left[spec$points == cell$one]) - used,
                     hands = 1)
      found <- solving(core_blackjack_advice(spec, with_counts(left), stated), call)
      first <- !duplicated(found$move)
      rlang::set_names(found$expected[first], found$move[first])
    },
    lost = function(left, player, other) {
      found <- solving(core_blackjack_mistakes(spec, with_counts(left), player_spec(player), player_spec(other)), call)
      data.frame(hand = solved_rows(found), up_card = value_names(found$up), how_often = found$how_often,
                 loss = found$loss)
    },
    # Of a cell left to the total, the total's.
    move = function(player) {
      fitted <- fitted_cells(player, game$rules, sort(unique(spec$points)), call)
      for (hand in grep("^pair", rownames(fitted), value = TRUE)) fitted[hand, ] <- with_totals(fitted, hand)
      entry_of <- function(hand, up) {
        if (!hand %in% rownames(fitted)) hand <- total_of_pair(hand)
        if (hand %in% rownames(fitted)) fitted[hand, up] else NA_character_
      }
      unlist(Map(entry_of, cells$hand, cells$up_card), use.names = FALSE)
    }
  )
}

total_of_pair <- function(hand) {
  value <- sub("pair ", "", hand)
  if (value == "A") "soft 12" else paste("hard", 2 * written_numbers(value))
}

# Hands of two cards, no pairs among the totals but where nothing else makes one.
two_card_cells <- function(values, rules) {
  pairs <- expand.grid(one = values, other = values)
  pairs <- pairs[pairs$one <= pairs$other, ]
  total <- pairs$one + pairs$other
  soft <- pairs$one == 1 & total + 10 < rules$bust_over
  natural <- pairs$one == 1 & total + 10 == rules$bust_over
  hand <- ifelse(pairs$one == pairs$other, paste("pair", value_names(pairs$one)),
                 ifelse(soft, paste("soft", total + 10), paste("hard", total)))
  keep <- !natural & total <= rules$bust_over & !duplicated(hand) & (rules$most_hands > 1 | !startsWith(hand, "pair"))
  hands <- data.frame(hand = hand, one = pairs$one, other = pairs$other)[keep, ]
  cells <- merge(hands, data.frame(up = values, up_card = value_names(values)))
  cells[order(match(cells$hand, table_rows), match(cells$up_card, up_cards)), ]
}

# The game's player counts and departs; what each of his departures brings over the shoes of a run, as sums by shoe:
# first the rounds, then cell by cell.
blackjack_departures <- function(game, cells, run, call) {
  player <- game$spec$rules$players[[1]]
  settled <- game$rules$players[[1]]
  settled$settings$deviations <- NULL
  values <- sort(unique(game$spec$rules$points))
  plain <- core_customer(settled, game$rules, values, call)
  kind <- sub(" .*$", "", cells$hand)
  number <- sub("^[a-z]+ ", "", cells$hand)
  keys <- cbind(match(kind, c("hard", "soft", "pair")) - 1L, as.integer(ifelse(number == "A", "1", number)),
                match(cells$up_card, c("A", 2:10)))
  storage.mode(keys) <- "integer"
  solving(core_blackjack_forks(game$spec$rules, game$spec$draw, plain, player, keys, run$seed, 1, run$nsim,
                               run$threads), call)
}
