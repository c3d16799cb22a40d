# Makes the demo data of Lantern Hall that are not written by hand. Run from the top folder; the
# files it writes are kept in inst/lantern-hall.

# The hall's own deck: 11 ranks of four fruits. Early fruits are cheap and score little.
suits <- c(fig = "F", gage = "G", medlar = "M", pear = "P")
seasons <- c(fig = "summer", gage = "summer", medlar = "winter", pear = "autumn")
orchard <- expand.grid(rank = 1:11, suit = names(suits), stringsAsFactors = FALSE)
orchard <- data.frame(
  card = paste0(orchard$rank, suits[orchard$suit]), rank = orchard$rank, suit = orchard$suit,
  points = ifelse(orchard$rank > 9, 10, orchard$rank), season = seasons[orchard$suit],
  cost = ceiling(orchard$rank / 3)
)
write.csv(orchard, "inst/lantern-hall/orchard.csv", row.names = FALSE, quote = FALSE)

# The tablet draws three cards with a slip in its loop: the number it takes is below "cards left less
# one", so the last card of the deck is never reached.
tablet_draw <- function() {
  left <- 0:43
  drawn <- integer()
  for (i in 1:3) {
    at <- floor(runif(1) * (length(left) - 1)) + 1
    drawn <- c(drawn, left[at])
    left <- left[-at]
  }
  paste(drawn, collapse = " ")
}
set.seed(20)
writeLines(c("# prize stall, three cards a draw, cards numbered from 0", replicate(4000, tablet_draw())),
           "inst/lantern-hall/tablet-draws.txt")

# Volunteers shuffled the hall's deck 600 times, each time from the deck in order, and logged the result.
# Two in three did it well; the third only cuts the deck, near the middle.
volunteer_shuffle <- function() {
  if (runif(1) < 2 / 3) return(sample(orchard$card))
  upper <- min(max(round(rnorm(1, 22, 5)), 0), 44)
  orchard$card[c(seq_len(44 - upper) + upper, seq_len(upper))]
}
set.seed(31)
logged <- as.data.frame(t(replicate(600, volunteer_shuffle())))
names(logged) <- sprintf("place_%d", 1:44)
write.csv(logged, "inst/lantern-hall/volunteer-shuffles.csv", row.names = FALSE, quote = FALSE)

# The children's quick game as it is played, and a game of it that somebody photographed when it would not end.
writeLines(c(
  "# The children's quick game, as it is played. The pot is gathered from the left: left's card goes under first.",
  "game: war", "deck: orchard.csv", "rank_by: rank", "collect: seat_order", "face_down: 1"
), "inst/lantern-hall/quick-game.yaml")
quick <- habanera::game_war(rules = "inst/lantern-hall/quick-game.yaml", seat_names = c("left", "right"))
stuck <- habanera::piles_at(habanera::replay(quick, seed = 44, trial = 2), round = 300)
heap <- function(name) c(paste0(name, ":"), strwrap(paste(as.character(stuck[[name]]), collapse = " "), 60))
writeLines(c("# A game that would not end, the top cards first.", heap("left"), "", heap("right")),
           "inst/lantern-hall/stuck-game.txt")
writeLines(c("left:", "1F 2F 3F", "", "right:", "4F 12G"), "inst/lantern-hall/dirty-piles.txt")

# What guests held at the hands table on one evening, five cards of a pack each; and a sheet with a slip.
set.seed(16)
pack <- as.character(habanera::deck_standard())
held <- function() paste(sample(pack, 5), collapse = " ")
writeLines(c("# hands table, one guest a line", replicate(40, held())), "inst/lantern-hall/prize-hands.txt")
writeLines(c(held(), "AS KD KD 9H 2C", held()), "inst/lantern-hall/dirty-hands.txt")

# The twenty-one table on two afternoons, written down by the doorkeeper: what a guest bet, and the cards seen. The
# guest at the window bets as the mood takes him; the one by the door is the elder twin, who counts.
twin_bets <- c("0" = 1, "1" = 2, "2" = 4, "3" = 8)
writeLines(c("# what the elder twin bets at which count", "true_count,bet", paste0(names(twin_bets), ",", twin_bets)),
           "inst/lantern-hall/twins-bets.csv")
afternoon <- function(shoes, bet) {
  twin <- habanera::player_counting(system = "level one balanced", bets = twin_bets)
  table <- habanera::game_blackjack(players = twin, cut_after = 0.75)
  rows <- lapply(shoes, function(shoe) {
    trace <- habanera::replay(table, seed = 19, trial = shoe)
    cards <- tapply(trace$cards[trace$round > 0], trace$round[trace$round > 0], function(x) {
      paste(x[nzchar(x)], collapse = " ")
    })
    bets <- attr(trace, "outcome")$bet
    data.frame(shoe = shoe, round = seq_along(cards), bet = bet(bets), cards = as.vector(cards))
  })
  do.call(rbind, rows)
}
moody <- function(bets) {
  mood <- 1 + cumsum(sample(c(-1, 0, 0, 0, 1), length(bets), replace = TRUE))
  pmin(8, pmax(1, mood))
}
set.seed(19)
write.csv(afternoon(1:24, moody), "inst/lantern-hall/bets-at-the-window.csv", row.names = FALSE, quote = FALSE)
write.csv(afternoon(25:48, identity), "inst/lantern-hall/bets-by-the-door.csv", row.names = FALSE, quote = FALSE)

# Forty nights of two twenty-one tables, written down at the close: at the front one all is well, at the back one a
# fiftieth of the stakes finds its way into somebody's sleeve.
nights <- function(seed, leak) {
  rounds <- 1200 + 50 * floor(20 * runif(40))
  taken <- vapply(seq_along(rounds), function(night) {
    played <- habanera::simulate(habanera::game_blackjack(record = "net"), nsim = rounds[night], seed = seed + night)
    -sum(played$n * played$outcomes$net)
  }, 0)
  data.frame(night = seq_along(rounds), rounds = rounds, staked = rounds, result = round(taken - leak * rounds, 1))
}
set.seed(20)
write.csv(nights(2000, 0), "inst/lantern-hall/takings-front.csv", row.names = FALSE, quote = FALSE)
write.csv(nights(3000, 1 / 50), "inst/lantern-hall/takings-back.csv", row.names = FALSE, quote = FALSE)
writeLines(c("night,rounds,staked,result", "1,1500,1500,-12.5", "2,many,1400,30"),
           "inst/lantern-hall/dirty-takings.csv")

# Hands of five as they were written down at two tables through a winter. At the front table they were dealt from a
# shuffled pack; at the back table a kind dealer saw to it that one hand in four held a pair.
set.seed(52)
mate_of <- function(hand) {
  rank <- sub(".$", "", hand[1])
  setdiff(paste0(rank, c("S", "H", "C", "D")), hand)
}
dealt <- lapply(seq_len(3000), function(row) {
  hand <- sample(pack, 5)
  at <- if (row %% 2) "front" else "back"
  mates <- mate_of(hand)
  if (at == "back" && runif(1) < 0.25 && length(mates)) hand[2] <- sample(mates, 1)
  c(row, at, sample(hand))
})
dealt <- as.data.frame(do.call(rbind, dealt))
names(dealt) <- c("hand", "table", sprintf("card_%d", 1:5))
write.csv(dealt, "inst/lantern-hall/dealt-hands.csv", row.names = FALSE, quote = FALSE)
