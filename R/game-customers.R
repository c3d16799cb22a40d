#' Players at a table against the house
#'
#' Who plays [game_blackjack()], besides [strategy_table()].
#'
#' `player_basic()` plays a sound table for common rules (several packs, the dealer stands on all 17, doubling after a
#' split). `player_as_dealer()` plays as the dealer does. `player_never_busts()` stands on a hard total that a card could
#' bust, and plays soft ones as the dealer. `player_stands_on()` hits below a total. `player_regular()` is one of the
#' regulars of Lantern Hall, with the mistakes that people make: the baker stands on every 12 and never splits; the
#' ferryman doubles every 9 to 11, and splits every pair; the elder twin plays a sound table but fears sixteen, and stands;
#' the younger twin plays as the dealer, but splits aces and eights.
#'
#' `player_errs()` plays as another, but now and then makes any other move that is open; `player_insures()` plays as
#' another and takes insurance; `player_mixture()` is a seat in which customers come and go: for each trial one of them
#' sits down. [player_random()], [player_person()] and [player_with()] sit at this table, too: the function is told as
#' `view` a list of `seat`, `hand` (which of the hands on the table), `total`, `soft`, `pair`, `first` (the value of its
#' first card), `cards`, `up_card` (1 an ace), `hands` (of the seat), `totals` (of all hands) and `cards_gone`, and as
#' `moves` names: "hit", "stand", "double", "split", "surrender", "insure", "decline".
#'
#' @param total The lowest total to stand on.
#' @param name Of `player_regular()`: "baker", "ferryman", "elder twin" or "younger twin".
#' @param player A player.
#' @param how_often The chance at each decision of making another move.
#' @param when TRUE: always.
#' @param players Players, a list.
#' @param weights How often each sits down, one number for each, above 0.
#' @return A `habanera_player`.
#' @section Errors: `habanera_error_input` for settings out of range.
#' @seealso [strategy_table()], [game_blackjack()].
#' @examples
#' house_edge(game_blackjack(players = player_never_busts()), nsim = 1e5, seed = 1)
#' player_mixture(list(player_basic(), player_errs(player_basic(), 0.1)), c(1, 3))
#' @name customers
NULL

# A table built in: `cells` are the entries for the up cards 2 to 10 and A, a letter each.
basic_cells <- paste0(
  "h5=HHHHHHHHHH/h6=HHHHHHHHHH/h7=HHHHHHHHHH/h8=HHHHHHHHHH/h9=HDDDDHHHHH/h10=DDDDDDDDHH/h11=DDDDDDDDDH/",
  "h12=HHSSSHHHHH/h13=SSSSSHHHHH/h14=SSSSSHHHHH/h15=SSSSSHHHRH/h16=SSSSSHHRRR/h17=SSSSSSSSSS/h18=SSSSSSSSSS/",
  "h19=SSSSSSSSSS/h20=SSSSSSSSSS/h21=SSSSSSSSSS/s13=HHHDDHHHHH/s14=HHHDDHHHHH/s15=HHDDDHHHHH/s16=HHDDDHHHHH/",
  "s17=HDDDDHHHHH/s18=SddddSSHHH/s19=SSSSSSSSSS/s20=SSSSSSSSSS/s21=SSSSSSSSSS/p2=PPPPPPHHHH/p3=PPPPPPHHHH/",
  "p4=HHHPPHHHHH/p5=----------/p6=PPPPPHHHHH/p7=PPPPPPHHHH/p8=PPPPPPPPPP/p9=PPPPPSPPSS/p10=----------/pA=PPPPPPPPPP"
)

#' @rdname customers
#' @export
player_basic <- function() built_in_strategy("basic", cells_from_text(basic_cells, NULL))

# Known by its name, so that it stands in files by that, and gives way to rules that have no splits.
built_in_strategy <- function(kind, cells, settings = list()) {
  player <- new_strategy(cells, kind)
  player$name <- kind
  player$settings <- settings
  player$built_in <- TRUE
  player
}

#' @export
as.character.habanera_player <- function(x, ...) player_text(x)

#' @rdname customers
#' @export
player_as_dealer <- function() new_player("as_dealer")

#' @rdname customers
#' @export
player_never_busts <- function() new_player("never_busts")

#' @rdname customers
#' @export
player_stands_on <- function(total = 17) new_player("stands_on", total = as.double(check_whole(total, 2, 40)))

#' @rdname customers
#' @export
player_regular <- function(name = c("baker", "ferryman", "elder twin", "younger twin")) {
  name <- check_choice(name, c("baker", "ferryman", "elder twin", "younger twin"))
  cells <- cells_from_text(basic_cells, NULL)
  hard <- function(totals) paste("hard", totals)
  pairs <- startsWith(rownames(cells), "pair")
  if (name == "baker") {
    cells[hard(12:16), ] <- "S"
    cells <- cells[!pairs, ]
  }
  if (name == "ferryman") {
    cells[hard(9:11), ] <- "D/H"
    cells[pairs, ] <- "P"
  }
  if (name == "elder twin") cells[hard(16), ] <- "S"
  if (name == "younger twin") {
    cells[hard(5:21), ] <- rep(ifelse(5:21 < 17, "H", "S"), times = 10)
    cells[paste("soft", 13:21), ] <- rep(ifelse(13:21 < 17, "H", "S"), times = 10)
    cells <- cells[!pairs | rownames(cells) %in% c("pair A", "pair 8"), ]
  }
  player <- built_in_strategy("regular", cells, list(name = name))
  player$label <- paste("the", name)
  player
}

#' @rdname customers
#' @export
player_errs <- function(player, how_often = 0.05) {
  fits <- is.numeric(how_often) && length(how_often) == 1 && isTRUE(how_often >= 0 && how_often <= 1)
  if (!fits) refuse(sprintf("`how_often` must be a number from 0 to 1, not %s.", said(how_often)))
  new_player("errs", player = customer(player, "player"), how_often = as.double(how_often))
}

#' @rdname customers
#' @export
player_insures <- function(player = player_basic(), when = TRUE) {
  if (!isTRUE(when) && !identical(when, "TRUE")) refuse(sprintf("`when` must be TRUE, not %s.", said(when)))
  new_player("insures", player = customer(player, "player"))
}

#' @rdname customers
#' @export
player_mixture <- function(players, weights = 1) {
  call <- rlang::current_env()
  if (rlang::is_string(players)) players <- split_outside(players, ",")
  if (rlang::is_string(weights)) weights <- suppressWarnings(as.numeric(strsplit(weights, "+", fixed = TRUE)[[1]]))
  if (inherits(players, "habanera_player") || length(players) < 2) {
    refuse("`players` must be two players or more, as a list.", call = call)
  }
  players <- lapply(players, customer, "players", call)
  weights <- rep_len(weights, length(players))
  if (!is.numeric(weights) || anyNA(weights) || any(weights <= 0 | !is.finite(weights))) {
    refuse(sprintf("`weights` must be numbers above 0, one for each player, not %s.", said(weights)), call = call)
  }
  new_player("mixture", players = new_players(players), weights = paste(format(weights, digits = 15, trim = TRUE),
                                                                       collapse = "+"))
}

# One who can sit at the table alone.
customer <- function(player, name, call = rlang::caller_env()) {
  if (rlang::is_string(player)) player <- player_from_text(player, call)
  known <- inherits(player, "habanera_player") && is.null(player$f) &&
    player$name %in% setdiff(blackjack_players, "person")
  if (known) return(player)
  refuse(sprintf("`%s` must be a player by rule (%s), not %s.", name, join_words(setdiff(blackjack_players, "person"),
                                                                                  "or"),
                 if (inherits(player, "habanera_player")) quoted(format(player)) else said(player)), call = call)
}

blackjack_players <- c("basic", "strategy", "as_dealer", "never_busts", "stands_on", "regular", "errs", "insures",
                       "mixture", "random", "person")

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
         random = list(name = "random"),
         if (is.null(player$cells)) core_player(player, function(view) blackjack_view_words(rules, view),
                                                blackjack_moves) else core_strategy(player, rules, values, call))
}

core_mixture <- function(player, nested) {
  weights <- as.numeric(strsplit(player$settings$weights, "+", fixed = TRUE)[[1]])
  list(name = "mixture", players = lapply(player$settings$players, nested),
       up_to = weights / rev(cumsum(rev(weights))))
}

# What the dealer does on totals of 0 to 31.
dealer_entries <- function(rules, soft) {
  on <- rules$dealer_stands_on
  ifelse(0:31 < on | (soft & rules$soft_17 == "hits" & 0:31 == on), "H", "S")
}

# Entries by total alone, whatever the up card.
core_totals <- function(rules, hard, soft) {
  rows <- function(entries) lapply(entries, function(entry) core_cells(rep(entry, 10)))
  list(name = "strategy", hard = rows(hard), soft = rows(soft), pair = rows(rep("S", 10)),
       pair_by_total = rep(TRUE, 10))
}

# First choice and other as the core numbers its moves, for up cards of 1 to 10.
core_cells <- function(entries) {
  first <- c(H = 0L, S = 1L, D = 2L, P = 3L, R = 4L)
  # What is never met is stood on.
  entries[is.na(entries) | entries == "-"] <- "S"
  by_value <- entries[c(10, 1:9)]
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
  for (hand in intersect(pairs, rownames(cells))) cells[hand, ] <- with_totals(cells, hand, rules)
  list(name = "strategy", hard = lapply(paste("hard", 0:31), row), soft = lapply(paste("soft", 0:31), row),
       pair = lapply(pairs, row), pair_by_total = vapply(pairs, by_total, NA, USE.NAMES = FALSE))
}

with_totals <- function(cells, hand, rules) {
  value <- sub("pair ", "", hand)
  total <- if (value == "A") paste("soft", if (12 <= rules$bust_over) 12 else 2) else paste("hard", 2 * as.numeric(value))
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
  if (length(lacking)) refuse(sprintf("%s has no row %s.", about, quoted(lacking[1])), "rules", call)
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
