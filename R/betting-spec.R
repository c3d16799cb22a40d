# The rules of games in which seats bet as the core takes them.

betting_likeness <- function(game) {
  stands_for <- game$spec$rules$cards$stands_for
  stands_for[seq_along(kinds_of(game$deck)$codes)]
}

betting_spec <- function(rules, cards, dealing) {
  chips <- list(seats = rules$seats, ante = rules$ante, pot = rules$pot, stacks = rep_len(rules$stacks, rules$seats),
                blinds = as.double(rules$blinds), streets = lapply(rules$streets, core_street))
  told <- cards$told
  told$stands_for <- as.integer(told$stands_for)
  table <- list(chips = chips, own = rules$private, board = as.integer(cards$board), cards = told,
                strength = cards$strength, tells_holdings = cards$tells_holdings,
                holdings = core_holdings(rules, cards))
  players <- seated_players(rules$players, rules$seats)
  c(table, list(players = core_players(players, table, function(view) betting_view_words(rules, view),
                                       betting_moves(rules), sight = betting_sight(table, rules, cards))))
}

core_street <- function(each) {
  sizes <- function(of) lapply(of, size_parts)
  list(shared = each$shared, bets = sizes(each$bets), raises = sizes(each$raises), most_bets = each$most_bets,
       only_all_in = each$calls == "all in", first = each$first)
}

# The hands that each seat may be dealt, as kinds.
core_holdings <- function(rules, cards) {
  if (all(vapply(rules$holdings, is.null, NA))) return(NULL)
  by_hands <- if (is.function(rules$strength)) hand_rules() else rules$strength
  read <- hand_reader(cards$deck, by_hands, rules$private, "holdings", cards$call)
  seats <- rep_len(unclass(rules$holdings), rules$seats)
  lapply(seq_along(seats), function(seat) {
    if (is.null(seats[[seat]])) return(list())
    found <- lapply(names(seats[[seat]]), read)
    weights <- rep(unname(seats[[seat]]), times = lengths(found))
    hands <- unlist(found, recursive = FALSE)
    for (hand in hands) refuse_held(hand, seat, rules, cards)
    list(hands = lapply(hands, function(hand) match(hand, cards$codes)), weights = weights)
  })
}

refuse_held <- function(hand, seat, rules, cards) {
  call <- cards$call
  told <- function() quoted(paste(catalogue_of(cards$deck)$data$card[hand], collapse = " "))
  if (length(hand) != rules$private) {
    refuse(sprintf("`holdings` of seat %d: %s is no hand of %s.", seat, told(), count_of(rules$private, "card")),
           "rules", call)
  }
  there <- codes_of(cards$deck)
  if (any(tabulate(hand, max(hand)) > tabulate(there, max(hand, there))[seq_len(max(hand))])) {
    lies <- if (any(cards$codes[cards$board] %in% hand)) "lies on the board" else "is not in the deck so often"
    refuse(sprintf("`holdings` of seat %d: a card of %s %s.", seat, told(), lies), "rules", call)
  }
}
