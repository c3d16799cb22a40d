# What does a shuffle do: to one deck, to a tiny deck exactly, to one card, when repeated?
library(habanera)

routine <- procedure("riffle x3, strip, cut")
print(routine)
print(replay(routine, seed = 1, trial = 1, deck = deck_numbered(16)))

# A loop with a classic slip, on three cards.
print(summary(exact(shuffle_naive_swap(), deck_numbered(3))))

# The top card after one and two riffles; and eight perfect interleaves.
print(follow(shuffle_riffle(), position = 1, times = 2, deck = 6))
print(follow(shuffle_faro(), position = 2, times = 14, deck = 44))
print(restore_period(shuffle_faro("in"), 42:46))

# How far from uniform, exactly.
print(exact_distance(shuffle_riffle(), 52, times = 1:8))

# Are two versions of one shuffle the same?
print(compare(shuffle_naive_swap(), shuffle_uniform(), nsim = 20000, seed = 1))

# A volunteer's own way, as an R function.
three_piles <- shuffle_with(function(cards) cards[order(seq_along(cards) %% 3)])
print(simulate(positions(deck_numbered(9), c(shuffle_riffle(), three_piles)), nsim = 500, seed = 1))
