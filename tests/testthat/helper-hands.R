# Categories of five cards in plain R, from the definitions: ranks from 2 to 14.
plain_category <- function(ranks, suits) {
  groups <- sort(table(ranks), decreasing = TRUE)
  flush <- length(unique(suits)) == 1
  run <- length(groups) == 5 && (diff(range(ranks)) == 4 || setequal(ranks, c(14, 2:5)))
  if (run && flush) return("straight flush")
  if (groups[1] == 4) return("four of a kind")
  if (groups[1] == 3 && groups[2] == 2) return("full house")
  if (flush) return("flush")
  if (run) return("straight")
  if (groups[1] == 3) return("three of a kind")
  if (groups[1] == 2 && groups[2] == 2) return("two pair")
  if (groups[1] == 2) "one pair" else "high card"
}

# What a stake at the hands table brings back, so many times: five cards, all but those of a rank that is there twice
# exchanged, paid by category.
plain_hands_stall <- function(times) {
  withr::local_seed(45)
  ranks <- rep(2:14, 4)
  suits <- rep(1:4, each = 13)
  pays <- habanera:::hands_stall_pays
  replicate(times, {
    cards <- sample(52, 10)
    hand <- cards[1:5]
    alone <- !ranks[hand] %in% ranks[hand][duplicated(ranks[hand])]
    hand[alone] <- cards[5 + seq_len(sum(alone))]
    paid <- pays[plain_category(ranks[hand], suits[hand])]
    if (is.na(paid)) 0 else paid[[1]]
  })
}
