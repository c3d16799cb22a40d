# Is somebody's shuffle any good? Here is one in R that sorts by a comparison which tosses a coin.
library(habanera)

coin_shuffle <- function(cards) {
  order <- seq_along(cards)
  for (i in seq_along(order)[-1]) {
    j <- i
    while (j > 1 && runif(1) < 0.5) {
      order[c(j - 1, j)] <- order[c(j, j - 1)]
      j <- j - 1
    }
  }
  cards[order]
}

found <- audit(shuffle_with(coin_shuffle), deck_numbered(12), nsim = 1000, seed = 1)
found
summary(found, places = 5)
diagnose(found)

# The smallest deck on which our own version of it fails, and how many trials would have shown it.
audit(shuffle_coin_sort(), nsim = 5000, seed = 1, sizes = 0:4)
trials_needed(shuffle_coin_sort(), nsim = 2000, seed = 1)

# How many riffles leave a sharp player less than a fifth of a card?
mixing("riffle", times = 5:8, nsim = 5000, seed = 1, gain = 0.2, distance = 0.5)
