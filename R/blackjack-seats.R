# Players at a table of blackjack as the core takes them.

# A player as the core takes it, by the rules of the house and the values of its cards.
core_customer <- function(player, rules, values, call) {
  nested <- function(inner) core_customer(inner, rules, values, call)
  switch(player$name,
         as_dealer = core_totals(rules, dealer_entries(rules, FALSE), dealer_entries(rules, TRUE)),
         never_busts = core_totals(rules, ifelse(0:31 + max(values) > rules$bust_over, "S", "H"),
                                   dealer_entries(rules, TRUE)),
         stands_on = core_totals(rules, ifelse(0:31 < player$settings$total, "H", "S"),
                                 ifelse(0:31 < player$settings$total, "H", "S")),
         errs = list(name = "errs", player = nested(player$settings$player), how_often = player$settings$how_often),
         insures = list(name = "insures", player = nested(player$settings$player)),
         mixture = core_mixture(player, nested),
         counting = core_counting(player, nested, rules, call),
         random = list(name = "random"),
         if (is.null(player$cells)) core_decider(player, rules) else core_strategy(player, rules, values, call))
}

# A person or an R function.
core_decider <- function(player, rules) {
  core_player(player, function(view) blackjack_view_words(rules, view), blackjack_moves(), where_in_round,
              sight = plain_sight(blackjack_facts, "decline"))
}

# What conditions may ask of: see player_by_rules().
blackjack_facts <- c("seat", "hand", "total", "soft", "pair", "first", "cards", "up_card", "hands", "totals",
                     "cards_gone")

where_in_round <- function(view) sprintf(" (seat %d, hand %d, total %d)", view$seat, view$hand, view$total)

# A player for each stretch of counts in which play is the same.
core_counting <- function(player, nested, rules, call) {
  settings <- player$settings
  base <- if (is.null(settings$strategy)) player_basic() else settings$strategy
  deviations <- settings$deviations
  if (!is.null(deviations)) refuse_forbidden(deviations, rules, call)
  from <- sort(unique(c(-1e6, stats::na.omit(c(deviations$from, deviations$below)))))
  players <- if (is.null(deviations)) list(base) else lapply(from, deviating, player = base, deviations = deviations)
  list(name = "counting", players = lapply(players, nested), from = from, insures_from = settings$insurance_at)
}

# What the dealer does on totals of 0 to 31.
dealer_entries <- function(rules, soft) {
  on <- rules$dealer_stands_on
  ifelse(0:31 < on | (soft & rules$soft_17 == "hits" & 0:31 == on), "H", "S")
}

# The moves by the letters of a strategy's entries.
entry_moves <- c(H = "hit", S = "stand", D = "double", P = "split", R = "surrender")

# Entries by total alone, whatever the up card.
core_totals <- function(rules, hard, soft) {
  rows <- function(entries) lapply(entries, function(entry) core_cells(rep(entry, 10)))
  list(name = "strategy", hard = rows(hard), soft = rows(soft), pair = rows(rep("S", 10)),
       pair_by_total = rep(TRUE, 10))
}

# First choice and other as the core numbers its moves, for up cards of 1 to 10; `entries` of one row, or of several, a
# column each.
core_cells <- function(entries) {
  moves <- core_blackjack_moves()[entry_moves]
  first <- rlang::set_names(moves, names(entry_moves))
  # What is never met is stood on.
  entries[is.na(entries) | entries == "-"] <- "S"
  by_value <- matrix(entries, nrow = 10)[c(10, 1:9), ]
  one <- first[substr(by_value, 1, 1)]
  other <- ifelse(grepl("/", by_value, fixed = TRUE), first[sub("^./", "", by_value)], one)
  as.integer(rbind(one, other))
}

core_strategy <- function(player, rules, values, call) {
  cells <- fitted_cells(player, rules, values, call)
  row <- function(hand) core_cells(if (hand %in% rownames(cells)) cells[hand, ] else rep("S", 10))
  pairs <- paste("pair", c("A", 2:10))
  by_total <- function(hand) !hand %in% rownames(cells) || all(cells[hand, ] %in% c("-", NA))
  # A cell that leaves a pair to its total has that total's entry.
  for (hand in intersect(pairs, rownames(cells))) cells[hand, ] <- with_totals(cells, hand)
  list(name = "strategy", hard = lapply(paste("hard", 0:31), row), soft = lapply(paste("soft", 0:31), row),
       pair = lapply(pairs, row), pair_by_total = vapply(pairs, by_total, NA, USE.NAMES = FALSE),
       by_cards = core_card_rows(cells))
}

# Rows of single hands, a column of cells each.
core_card_rows <- function(cells) {
  cells <- cells[is_card_row(rownames(cells)), , drop = FALSE]
  c(held_by_rows(rownames(cells)),
    list(cells = matrix(core_cells(t(cells)), nrow = 20)))
}

# Whether a player as the core takes it, or one that it plays as, looks at the single cards of a hand.
looks_at_cards <- function(spec) {
  length(spec$by_cards$held) > 0 || (!is.null(spec[["player"]]) && looks_at_cards(spec[["player"]])) ||
    any(vapply(as.list(spec[["players"]]), looks_at_cards, NA))
}

with_totals <- function(cells, hand) {
  value <- sub("pair ", "", hand)
  total <- if (value == "A") "soft 12" else paste("hard", 2 * as.numeric(value))
  ifelse(cells[hand, ] == "-" & total %in% rownames(cells), cells[match(total, rownames(cells)), ], cells[hand, ])
}

# Every hand that can occur has a row, and every up card a column; what the rules never allow is refused.
fitted_cells <- function(player, rules, values, call) {
  cells <- player$cells
  ups <- ifelse(values == 1, "A", as.character(values))
  cells <- with_row(cells, "hard 4", "hard 5")
  cells <- with_row(cells, "soft 12", "soft 13")
  for (kind in c("hard", "soft")) {
    last <- paste(kind, rules$bust_over)
    if (!last %in% rownames(cells)) cells <- rbind(cells, matrix("S", 1, 10, dimnames = list(last, up_cards)))
  }
  needed <- c(paste("hard", 5:rules$bust_over), if (1 %in% values) paste("soft", 13:rules$bust_over))
  needed <- needed[needed %in% possible_hands(rules, values)]
  about <- sprintf("The strategy %s", quoted(player$label))
  lacking <- setdiff(needed, rownames(cells))
  if (length(lacking)) {
    instead <- if (!is.null(player$built_in)) " Take other `players`, such as player_as_dealer()."
    refuse(paste0(sprintf("%s has no row %s.", about, quoted(lacking[1])), instead), "rules", call)
  }
  missing <- which(is.na(cells[needed, ups, drop = FALSE]), arr.ind = TRUE)
  if (nrow(missing)) {
    refuse(sprintf("%s has no entry in row %s, column %s.", about, quoted(needed[missing[1, 1]]),
                   quoted(ups[missing[1, 2]])), "rules", call)
  }
  if (rules$most_hands == 1) cells <- without_splits(cells, player, about, call)
  cells
}

with_row <- function(cells, hand, like) {
  if (hand %in% rownames(cells) || !like %in% rownames(cells)) return(cells)
  rbind(cells, matrix(cells[like, ], 1, dimnames = list(hand, up_cards)))
}

# Totals that a hand can have with these values.
possible_hands <- function(rules, values) {
  others <- values[values > 1]
  hard <- if (length(others)) seq(2 * min(others), rules$bust_over) else integer()
  c(paste("hard", union(hard, if (1 %in% values) seq(min(12, rules$bust_over), rules$bust_over))),
    paste("soft", 12:max(12, rules$bust_over)))
}

without_splits <- function(cells, player, about, call) {
  splits <- which(matrix(cells %in% c("P", "R/P"), nrow(cells)), arr.ind = TRUE)
  if (nrow(splits) && is.null(player$built_in)) {
    refuse(sprintf("%s splits in row %s, column %s, and `most_hands` is 1: nothing is split.", about,
                   quoted(rownames(cells)[splits[1, 1]]), quoted(up_cards[splits[1, 2]])), "rules", call)
  }
  cells[!startsWith(rownames(cells), "pair"), , drop = FALSE]
}
