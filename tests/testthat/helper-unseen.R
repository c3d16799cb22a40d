# A hand of blackjack in plain R against an up card, from what is unseen: `left` counts the unseen cards by value, 1 to
# 10, whole or fractions; the dealer has looked, and has no natural. Nothing of the package is used.

plain_hit_or_stand <- function(left, up, stands_on = 17) {
  may_lie <- !(1:10 == if (up == 10) 1 else if (up == 1) 10 else 0)
  without <- function(left, card) replace(left, card, max(0, left[card] - 1))
  best_total <- function(hard, ace) if (ace && hard + 10 <= 21) hard + 10 else hard
  # What the dealer ends on, by 17 to 21 and "bust", from so many points.
  dealer <- function(left, hard, ace) {
    total <- best_total(hard, ace)
    if (total > 21) return(c(0, 0, 0, 0, 0, 1))
    if (total >= stands_on) return(as.numeric(17:22 == total))
    law <- numeric(6)
    for (card in which(left > 0)) law <- law + left[card] / sum(left) * dealer(without(left, card), hard + card,
                                                                             ace || card == 1)
    law
  }
  hidden <- function(left) {
    weight <- left * may_lie
    weight / sum(weight)
  }
  known <- new.env()
  stand <- function(hard, ace, left) {
    key <- paste(c("s", format(left, digits = 12)), collapse = " ")
    if (is.null(known[[key]])) {
      chance <- hidden(left)
      known[[key]] <- Reduce(`+`, lapply(which(chance > 0), function(card) {
        chance[card] * dealer(without(left, card), up + card, up == 1 || card == 1)
      }))
    }
    law <- known[[key]]
    total <- best_total(hard, ace)
    sum(law * c(sign(total - 17:21), 1))
  }
  # The next card, the hidden one being none that makes a natural.
  hit <- function(hard, ace, left) {
    chance <- hidden(left)
    sum(vapply(which(left > 0), function(card) {
      next_one <- sum(chance * pmax(0, left[card] - (1:10 == card))) / (sum(left) - 1)
      if (next_one == 0) return(0)
      next_one * (if (hard + card > 21) -1 else best(hard + card, ace || card == 1, without(left, card)))
    }, 0))
  }
  best <- function(hard, ace, left) {
    standing <- stand(hard, ace, left)
    # Nobody hits what is as good as it gets.
    if (best_total(hard, ace) >= 19) standing else max(standing, hit(hard, ace, left))
  }
  list(stand = stand, hit = hit, best = best, double = function(hard, ace, left) {
    chance <- hidden(left)
    2 * sum(vapply(which(left > 0), function(card) {
      next_one <- sum(chance * pmax(0, left[card] - (1:10 == card))) / (sum(left) - 1)
      next_one * (if (hard + card > 21) -1 else stand(hard + card, ace || card == 1, without(left, card)))
    }, 0))
  }, next_card = function(card, left) sum(hidden(left) * pmax(0, left[card] - (1:10 == card))) / (sum(left) - 1))
}
