# The jobs of bench.R as one would write them in plain R, and the games of one's own that stand beside them.

plain_riffle <- function() {
  coins <- runif(52) < 0.5
  order(order(coins))
}

plain_naive_swap <- function() {
  deck <- 1:52
  for (i in 1:52) {
    j <- sample.int(52, 1)
    deck[c(i, j)] <- deck[c(j, i)]
  }
  deck
}

ranks <- card_attributes(deck_standard())$rank
suits <- card_attributes(deck_standard())$suit

plain_question <- function() {
  hand <- sample(52, 5)
  c(sum(ranks[hand] == "A") >= 2, sum(suits[hand] == "hearts") >= 3)
}

plain_positions <- function(n) table(replicate(n, sample(52)), rep(1:52, n))

# The rounds of a game of War, the winner's card going under first, three face down in a tie.
plain_war <- function(deck) {
  piles <- list(deck[c(TRUE, FALSE)], deck[c(FALSE, TRUE)])
  rounds <- 0
  while (all(lengths(piles) > 0) && rounds < 5000) {
    rounds <- rounds + 1
    laid <- list(piles[[1]][1], piles[[2]][1])
    piles <- lapply(piles, function(pile) pile[-1])
    while (laid[[1]][length(laid[[1]])] == laid[[2]][length(laid[[2]])]) {
      if (any(lengths(piles) == 0)) return(rounds)
      down <- pmin(4, lengths(piles))
      laid <- Map(function(pile, cards, n) c(cards, pile[seq_len(n)]), piles, laid, down)
      piles <- Map(function(pile, n) pile[-seq_len(n)], piles, down)
    }
    won <- if (laid[[1]][length(laid[[1]])] > laid[[2]][length(laid[[2]])]) 1 else 2
    most <- max(lengths(laid))
    both <- rbind(laid[[won]][seq_len(most)], laid[[3 - won]][seq_len(most)])
    piles[[won]] <- c(piles[[won]], both[!is.na(both)])
  }
  rounds
}

plain_high_card <- function() {
  cards <- sample(52, 2) %% 13
  cards[1] > cards[2]
}

plain_baccarat <- function() {
  v <- sample(rep(c(1:9, 0, 0, 0, 0), 32), 6)
  player <- (v[1] + v[3]) %% 10
  banker <- (v[2] + v[4]) %% 10
  if (player < 8 && banker < 8) {
    if (player > 5) {
      if (banker < 6) banker <- (banker + v[5]) %% 10
    } else {
      player <- (player + v[5]) %% 10
      from <- c(0, 0, 0, 0, 2, 4, 6, 10)[banker + 1]
      if (v[5] >= from && (banker < 4 || v[5] < 8) && !(banker == 3 && v[5] == 8)) banker <- (banker + v[6]) %% 10
    }
  }
  sign(player - banker)
}

# A round of a machine at which pairs and better are kept; whether a pair or better is held at the end.
plain_machine <- function() {
  cards <- sample(52, 10) %% 13
  hand <- cards[1:5]
  kept <- hand[hand %in% hand[duplicated(hand)]]
  anyDuplicated(c(kept, cards[5 + seq_len(5 - length(kept))])) > 0
}

# One card each, an ante and one bet, both seats by tables of chances by rank; in plain R and ours.
bets_by_rank <- list(opens = c(rep(0.25, 2), rep(0, 8), rep(0.75, 3)), bets = c(rep(0.5, 3), rep(0, 6), rep(1, 4)),
                     calls = c(rep(0, 5), rep(0.5, 3), rep(1, 5)))
plain_one_bet <- function() {
  ranks <- (sample(52, 2) - 1) %% 13 + 1
  net <- sign(ranks[1] - ranks[2])
  if (runif(1) < bets_by_rank$opens[ranks[1]]) return(if (runif(1) < bets_by_rank$calls[ranks[2]]) 2 * net else 1)
  if (runif(1) >= bets_by_rank$bets[ranks[2]]) return(net)
  if (runif(1) < bets_by_rank$calls[ranks[1]]) 2 * net else -1
}
one_bet_rows <- function(seat, actions, no, yes, chance) {
  rows <- data.frame(seat = seat, sees = sprintf("holding: %s; actions:%s", c(2:10, "J", "Q", "K", "A"), actions))
  rbind(cbind(rows, move = no, chance = 1 - chance), cbind(rows, move = yes, chance = chance))
}
one_bet <- game_betting(private = 1, ante = 1, streets = list(street(bets = 1)), record = "net_1",
                        players = player_by_table(with(bets_by_rank, rbind(
  one_bet_rows(1, "", "check", "bet", opens), one_bet_rows(1, " check bet", "fold", "call", calls),
  one_bet_rows(2, " check", "check", "bet", bets), one_bet_rows(2, " bet", "fold", "call", calls)))))

# Lift, a game of one's own (inst/examples/lift.cpp), of two seats that go on to fifteen points: in plain R by hand, and
# by the verbs of a table.
values <- card_attributes(deck_standard())$rank_low
goes_on <- function(view) view$in_turn < 15
plain_lift <- function() {
  deck <- sample(52)
  points <- c(0, 0)
  in_turn <- turned <- 0
  seat <- 1
  while (turned < 52 && all(points < 30)) {
    turned <- turned + 1
    value <- values[deck[turned]]
    in_turn <- in_turn + value
    goes <- value < 11 && points[seat] + in_turn < 30 && turned < 52 && goes_on(list(in_turn = in_turn))
    if (!goes) {
      if (value < 11) points[seat] <- points[seat] + in_turn
      seat <- 3 - seat
      in_turn <- 0
    }
  }
  list(winner = if (points[1] == points[2]) 0 else which.max(points), turned = turned)
}
own_lift <- game_custom("lift", deck_standard(), function(table, rules, players) {
  points <- c(0, 0)
  in_turn <- turned <- 0
  seat <- 1
  while (turned < 52 && all(points < rules$enough)) {
    turned <- turned + 1
    value <- table$of$rank_low[table$move("stock", "row")]
    in_turn <- in_turn + value
    goes <- value < 11 && points[seat] + in_turn < rules$enough && turned < 52 &&
      table$ask(seat, list(in_turn = in_turn), c("stop", "go on")) == "go on"
    if (!goes) {
      if (value < 11) points[seat] <- points[seat] + in_turn
      seat <- 3 - seat
      in_turn <- 0
    }
  }
  list(winner = if (points[1] == points[2]) 0 else which.max(points), turned = turned)
}, outcomes = list(winner = outcome_seat("who has won"), turned = outcome_whole("cards turned")),
piles = c(stock = "hidden", row = "open"), rules = list(enough = 30), seats = 2,
players = player_with(function(view, moves) if (goes_on(view)) "go on" else "stop"))
cpp_lift <- game_cpp(system.file("examples", "lift.cpp", package = "habanera"), players = "daring")

# Cards are turned until an ace comes, by hand and as a game of one's own.
plain_ace <- function() {
  stock <- sample(52)
  shown <- integer()
  repeat {
    card <- stock[1]
    stock <- stock[-1]
    shown <- c(card, shown)
    if (ranks[card] == "A") return(length(shown))
  }
}
own_ace <- game_custom("ace", deck_standard(), function(table, rules, players) {
  repeat if (table$of$rank[table$move("stock", "shown")] == "A") return(list(turned = table$size("shown")))
}, outcomes = list(turned = outcome_whole("cards turned")))

# A table of pairs, two seats that remember all.
plain_pairs <- function(pairs) {
  deck <- sample(rep(seq_len(pairs), 2))
  seen <- integer()
  known_pairs <- unseen <- turns <- 0
  while (unseen < length(deck) || known_pairs > 0) {
    turns <- turns + 1
    if (known_pairs > 0) {
      known_pairs <- known_pairs - 1
      next
    }
    shown <- deck[unseen + 1]
    unseen <- unseen + 1
    if (shown %in% seen) next
    seen <- c(seen, shown)
    second <- deck[unseen + 1]
    unseen <- unseen + 1
    if (second == shown) next
    if (second %in% seen) known_pairs <- known_pairs + 1
    seen <- c(seen, second)
  }
  turns
}

# A round of blackjack by a table, as the tests have it in plain R.
source("tests/testthat/helper-blackjack.R")
six_packs_values <- card_attributes(deck_standard(packs = 6))$points
usual_house <- c(lapply(rules(game_blackjack()), identity), list(insured = FALSE))
basic_entries <- as.matrix(as.data.frame(player_basic())[-1])
rownames(basic_entries) <- as.data.frame(player_basic())$hand
plain_blackjack <- function() plain_round(six_packs_values[sample(312, 60)], basic_entries, usual_house)

# Every deal of eight cards, in plain R for the first so many of them.
# Of a shoe so many rounds as it holds on average, each from fresh cards.
plain_shoe <- function() for (i in 1:43) plain_blackjack()

plain_deals <- function(n) {
  orders <- as.matrix(expand.grid(rep(list(1:8), 4)))
  orders <- orders[apply(orders, 1, anyDuplicated) == 0, ][seq_len(n), ]
  table(apply(orders, 1, function(first) plain_war(c(first, setdiff(1:8, first)))))
}
