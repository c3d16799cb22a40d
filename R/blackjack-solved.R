# Blackjack worked out by the core: edges, best play, advice, mistakes.

# The shoe as the core takes it.
solved_shoe <- function(game) {
  list(counts = kinds_of(game$deck)$copies, endless = is.infinite(game$rules$packs),
       threads = min(resolve_threads(NULL), length(up_cards)))
}

# A round that needs more cards than there are cannot be worked out.
solving <- function(code, call) {
  tryCatch(code, `habanera::StockRanOut` = function(cnd) {
    refuse("Some courses of a round need more cards than the pack has; take more packs.", "rules", call)
  })
}

# The quick solver weighs courses by what comes next, and does not follow any to its end; so where a pack may be too
# small for a round, one that needs more cards is looked for: among many rounds, and then by walking their courses, as
# exact() does, as far as that is quickly done.
refuse_dry_shoe <- function(game, call) {
  if (!may_run_dry(game)) return(invisible())
  machine <- game_machine(game)
  spec <- recording(game, "cards_used")$spec
  solving(core_count_game(machine, spec, 1, 1, 1e5, 1), call)
  if (!is.null(kind_of(game)$out_of_reach(game$rules, game$deck))) return(invisible())
  tryCatch(solving(core_walk_game(machine, spec, 2e5), call), `std::length_error` = function(cnd) NULL)
  invisible()
}

# Whether the hands could hold more than all points of the pack, an ace being one: each is over at the latest with the
# card that takes it beyond where it may still draw.
may_run_dry <- function(game) {
  if (is.infinite(game$rules$packs)) return(FALSE)
  points <- game$spec$rules$points
  fullest <- max(game$rules$bust_over, game$rules$dealer_stands_on) + max(points)
  hands <- game$rules$seats * game$rules$most_hands + 1
  burned <- game$rules$burn * max(points)
  sum(points * kinds_of(game$deck)$copies) - burned < hands * fullest
}

# A game whose shoe lacks cards is one of a single pack of what is left.
blackjack_without <- function(game, dead, call) {
  if (is.infinite(game$rules$packs)) refuse("An endless shoe lacks no cards: no `dead`.", "rules", call)
  left <- parted_deck(game$deck, NULL, dead, call)$deck
  change_game(game, list(deck = left, packs = 1, cut_after = NULL), call)
}

blackjack_with_player <- function(game, call) {
  if (!is.null(game$given$players)) return(game)
  change_game(game, list(players = blackjack_best(game, "total", call)), call)
}

# The table by which a player of the core decides, and whether he insures; NULL where luck or an R function decides.
decided_by_table <- function(spec) {
  if (spec$name == "strategy") return(list(table = spec, insures = FALSE))
  if (spec$name != "insures") return(NULL)
  inner <- decided_by_table(spec$player)
  if (is.null(inner)) NULL else list(table = inner$table, insures = TRUE)
}

refuse_random <- function(game, call) {
  random <- vapply(seated_players(game$rules$players, game$rules$seats), function(player) player$name == "random", NA)
  if (any(random)) {
    refuse("player_random() plays by luck alone: there is no exact edge. house_edge(simulate(game)) has it simulated.",
           call = call)
  }
}

blackjack_solved_edge <- function(game, call) {
  refuse_random(game, call)
  if (!is.null(game$rules$cut_after)) return(NULL)
  seats <- lapply(game$spec$rules$players, decided_by_table)
  if (any(vapply(seats, is.null, NA))) return(NULL)
  refuse_dry_shoe(game, call)
  shoe <- solved_shoe(game)
  parts <- lapply(unique(seats), function(seat) {
    part <- opening_parts(solving(core_blackjack_edge(game$spec$rules, shoe, seat$table, seat$insures), call))
    share <- sum(vapply(seats, identical, NA, seat)) / length(seats)
    part[part_numbers] <- share * part[part_numbers]
    part
  })
  parts <- do.call(rbind, parts)
  sums <- colSums(parts[part_numbers])
  alone <- length(seats) == 1
  main <- data.frame(term = "main", mean = sums[["net"]], staked = sums[["staked"]],
                     sd = if (alone) sqrt(sums[["square"]] - sums[["net"]]^2) else NA_real_,
                     win_share = if (alone) sums[["won"]] else NA_real_)
  list(bets = rbind(main, side_bet_edges(game, shoe)), parts = parts)
}

# Insurance is told of where an ace is up, per unit insured, and worked out where it is asked for.
blackjack_bet_means <- function(game, of, call) {
  solved <- blackjack_solved_edge(game, call)
  if (is.null(solved)) return(NULL)
  means <- rlang::set_names(solved$bets$mean, solved$bets$term)
  if (!isTRUE(game$spec$rules$insurance)) return(means)
  if (!"insurance" %in% of) return(c(means, insurance = NA))
  table <- decided_by_table(game$spec$rules$players[[1]])$table
  sums <- lapply(c(FALSE, TRUE), function(insures) {
    found <- solving(core_blackjack_edge(game$spec$rules, solved_shoe(game), table, insures), call)
    ace <- found$up == 1
    c(sum(found$net[ace]), sum(found$staked[ace]))
  })
  insured <- sums[[2]] - sums[[1]]
  c(means, insurance = insured[1] / insured[2])
}

blackjack_counted_by <- function(game) {
  values <- game$spec$rules$points
  list(name = "value", labels = value_names(values), order = order(match(value_names(values), c("A", 2:10))),
       shown = list(insurance = "A"))
}

part_numbers <- c("probability", "net", "staked", "square", "won")

# By what comes first, in the order in which people list it.
opening_parts <- function(found) {
  hands <- game_openings()
  data.frame(first_hand = factor(found$first_hand, hands), up_card = factor(value_names(found$up), up_cards),
             move = factor(found$move, c(blackjack_moves(), "none")),
             as.data.frame(found[part_numbers]))
}

game_openings <- function() c(paste("hard", 2:40), paste("soft", 12:40), paste("pair", up_cards), "natural")

# Several seats have a bet each, which hang together by the dealer's card.
side_bet_edges <- function(game, shoe) {
  moments <- core_blackjack_side_bets(game$spec$rules, shoe)
  unit <- game$spec$rules$stake_units
  rows <- Map(function(name, moment) {
    data.frame(term = name, mean = moment[1] / unit, staked = 1,
               sd = if (game$rules$seats == 1) sqrt(moment[2] - moment[1]^2) / unit else NA_real_,
               win_share = if (game$rules$seats == 1) moment[3] else NA_real_)
  }, names(game$rules$side_bets), moments)
  do.call(rbind, unname(rows))
}

knows_labels <- c(total = "best play by totals", two_cards = "best play by two cards",
                  all_cards = "best play by all cards")

blackjack_best <- function(game, knows, call) {
  found <- solving(core_blackjack_best(game$spec$rules, solved_shoe(game), knows), call)
  values <- sort(unique(game$spec$rules$points))
  totals <- function(kind, from) {
    cells <- cells_of_core(from, paste(kind, 0:31))
    cells[rownames(cells) %in% possible_hands(game$rules, values), , drop = FALSE]
  }
  pairs <- cells_of_core(found$pair, paste("pair", c("-", "A", 2:10)))
  pairs <- pairs[rownames(pairs) %in% paste("pair", value_names(values)), , drop = FALSE]
  cards <- cells_of_core(found$by_cards$cells, rows_of_held(found$by_cards$held, found$by_cards$split))
  cells <- rbind(totals("hard", found$hard), totals("soft", found$soft), if (game$rules$most_hands > 1) pairs, cards)
  cells[, !up_cards %in% value_names(values)] <- NA
  new_strategy(cells, knows_labels[[knows]])
}

# A function of a game.
blackjack_best_edges <- function(knows, call) {
  function(game) 0 - solving(core_blackjack_best_worth(game$spec$rules, solved_shoe(game), knows), call)
}

# Entries from the numbers of the core, a column for each row of the strategy.
cells_of_core <- function(numbers, rows) {
  letters <- names(entry_moves)[match(seq_along(blackjack_moves()) - 1, core_blackjack_moves()[entry_moves])]
  first <- letters[numbers[seq(1, 19, by = 2), , drop = FALSE] + 1]
  other <- letters[numbers[seq(2, 20, by = 2), , drop = FALSE] + 1]
  entries <- ifelse(first %in% c("D", "R"), paste(first, other, sep = "/"), first)
  # By value in the core, an ace first.
  matrix(entries, ncol = 10, byrow = TRUE, dimnames = list(rows, c("A", 2:10)))[, up_cards, drop = FALSE]
}

blackjack_expected <- function(game, knows, call) {
  found <- solving(core_blackjack_expected(game$spec$rules, solved_shoe(game), knows), call)
  rows <- data.frame(hand = solved_rows(found), up_card = value_names(found$up), move = found$move,
                      expected = found$expected, best = found$best == 1)
  order <- order(row_rank(found, rows$hand), match(rows$up_card, up_cards), match(rows$move, blackjack_moves()))
  rows <- rows[order, , drop = FALSE]
  rownames(rows) <- NULL
  rows
}

# Rows of the core by name; a decision before the dealer looks has a row of its own.
solved_rows <- function(found) {
  names <- paste(found$kind, value_names(found$value), recycle0 = TRUE)
  of_cards <- found$kind %in% c("cards", "split")
  if (any(of_cards)) {
    key <- paste(found$value[of_cards], found$split[of_cards])
    first <- !duplicated(key)
    rows <- rows_of_held(found$value[of_cards][first], found$split[of_cards][first])
    names[of_cards] <- rows[match(key, key[first])]
  }
  totals <- found$kind %in% c("hard", "soft")
  names[totals] <- paste(found$kind[totals], found$value[totals])
  names[found$early == 1] <- paste("early", names[found$early == 1])
  names
}

row_rank <- function(found, names) {
  rows <- unique(names[found$early == 0])
  early <- unique(names[found$early == 1])
  match(names, c(rows[row_order(rows)], early))
}

blackjack_dealer_totals <- function(game, call) {
  found <- solving(core_blackjack_dealer(game$spec$rules, solved_shoe(game)), call)
  rows <- data.frame(up_card = value_names(found$up), total = found$total, probability = found$probability)
  natural <- tapply(ifelse(rows$total == "natural", rows$probability, 0), rows$up_card, sum)
  rows$if_no_natural <- ifelse(rows$total == "natural", 0, rows$probability / (1 - natural[rows$up_card]))
  totals <- setdiff(unique(rows$total), c("natural", "bust"))
  all <- expand.grid(total = c(totals[order(as.numeric(totals))], "natural", "bust"),
                     up_card = intersect(up_cards, rows$up_card), stringsAsFactors = FALSE)[2:1]
  there <- match(paste(all$up_card, all$total), paste(rows$up_card, rows$total))
  for (column in c("probability", "if_no_natural")) {
    all[[column]] <- ifelse(is.na(there), 0, as.vector(rows[[column]])[there])
  }
  all
}

# A hand in play as the core takes it, with the game without all other cards that are known.
blackjack_advice <- function(game, cards, up_card, hands, working, call) {
  shoe <- game$deck
  held <- named_cards(cards, shoe, "cards", call)
  up <- named_cards(up_card, shoe, "up_card", call)
  if (length(held) < 2) refuse("`cards` must be the two cards or more of a hand, such as \"10S 6H\".", call = call)
  if (length(up) != 1) refuse(sprintf("`up_card` must be one card, not %s.", said(up_card)), call = call)
  if (hands > game$rules$most_hands) {
    refuse(sprintf("A seat has at most %s here, not %s.", count_of(game$rules$most_hands, "hand"), format_count(hands)),
           call = call)
  }
  if (!is.infinite(game$rules$packs)) parted_deck(shoe, c(held, up), NULL, call)
  kinds <- kinds_of(shoe)
  spec <- game$spec$rules
  kind <- match(codes_of(held), kinds$codes)
  if (anyNA(kind) || !codes_of(up) %in% kinds$codes) {
    refuse("`cards` and `up_card` must be cards of the shoe.", "conservation", call)
  }
  if (hands > 1) game <- blackjack_beside(game, c(held, up), spec$pairs_with[kind[1]], hands - 1, call)
  pair <- length(kind) == 2 && spec$pairs_with[kind[1]] == spec$pairs_with[kind[2]]
  paired <- kinds_of(game$deck)$copies[game$spec$rules$pairs_with == spec$pairs_with[kind[1]]]
  used <- if (is.infinite(game$rules$packs)) 0 else {
    sum(spec$pairs_with[c(kind, match(codes_of(up), kinds$codes))] == spec$pairs_with[kind[1]])
  }
  stated <- list(values = as.integer(spec$points[kind]), up = as.integer(spec$points[match(codes_of(up), kinds$codes)]),
                 split = if (hands > 1) as.integer(spec$points[kind[1]]) else 0L, pair = pair,
                 pairs_left = sum(paired) - used, hands = hands)
  found <- tryCatch(solving(core_blackjack_advice(game$spec$rules, solved_shoe(game), stated), call),
                    `std::invalid_argument` = function(cnd) {
                      refuse(sprintf("%s: %s.", join_words(as.character(held)), conditionMessage(cnd)), "rules", call)
                    })
  c(found, list(held = held, up_card = up, dealer = if (working) dealer_beside(game, held, stated$up, call)))
}

# What the dealer ends on when a hand is known.
dealer_beside <- function(game, held, up, call) {
  if (!is.infinite(game$rules$packs)) game <- blackjack_without(game, held, call)
  totals <- blackjack_dealer_totals(game, call)
  totals <- totals[totals$up_card == value_names(up), ]
  looked <- game$rules$hole_card == "checked"
  shown <- data.frame(total = totals$total, probability = if (looked) totals$if_no_natural else totals$probability)
  shown[shown$probability > 0, ]
}

# The game without a card of the pair in each of the seat's other hands.
blackjack_beside <- function(game, known, pairs_with, others, call) {
  if (is.infinite(game$rules$packs)) return(game)
  left <- without_codes(game$deck, codes_of(known))
  kinds <- kinds_of(game$deck)
  like <- left[codes_of(left) %in% kinds$codes[game$spec$rules$pairs_with == pairs_with]]
  if (length(like) < others) refuse("The shoe does not hold so many cards of the pair.", "conservation", call)
  blackjack_without(game, like[seq_len(others)], call)
}

# Against the best play by totals.
blackjack_mistakes <- function(game, call) {
  best <- change_game(game, list(players = able(game, "plays_best")$strategy(game, "total", call)), call)
  list(rows = mistakes_against(best, game, call), edge = exact_edge(game, call), best_edge = exact_edge(best, call),
       best = "best play by totals")
}

mistakes_against <- function(best, game, call) {
  if (game$rules$seats > 1) refuse("mistakes() is of one seat: `seats` 1.", "rules", call)
  refuse_random(game, call)
  seat <- decided_by_table(game$spec$rules$players[[1]])
  if (is.null(seat)) {
    refuse(sprintf("%s decides by luck or by an R function; mistakes() prices a strategy.",
                   sentence(format(game$rules$players[[1]]))), call = call)
  }
  shoe <- solved_shoe(game)
  found <- solving(core_blackjack_mistakes(game$spec$rules, shoe, seat$table, best$spec$rules$players[[1]]), call)
  # Who declines to give up early plays on.
  move <- function(name) ifelse(name == "decline", "play on", name)
  rows <- data.frame(hand = solved_rows(found), up_card = value_names(found$up), played = move(found$played),
                     best = move(found$best), cost = found$loss / found$how_often, how_often = found$how_often,
                     loss = found$loss)
  if (seat$insures) rbind(rows, insurance_mistake(game, shoe, seat$table, call)) else rows
}

# Insurance is declined by the reference; it comes up where an ace is shown to a seat that has not given up.
insurance_mistake <- function(game, shoe, table, call) {
  found <- function(insures) {
    rows <- as.data.frame(solving(core_blackjack_edge(game$spec$rules, shoe, table, insures), call))
    rows[rows$up == 1 & !(game$rules$surrender == "early" & rows$move == "surrender"), ]
  }
  declined <- found(FALSE)
  lost <- sum(declined$net) - sum(found(TRUE)$net)
  often <- sum(declined$probability)
  if (!isTRUE(game$spec$rules$insurance) || often == 0) return(NULL)
  data.frame(hand = "insurance", up_card = "A", played = "insure", best = "decline", cost = lost / often,
             how_often = often, loss = lost)
}
