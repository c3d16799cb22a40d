# A first session: does each card come up as often as it should?
library(habanera)

# The hall's own deck of 44 cards, three of which are drawn at the prize stall.
orchard <- deck_from(demo_file("orchard.csv"))
stall <- draws(orchard, 3)

# A million draws, each with an address: trial 17 of seed 2026 is the same for everybody.
counts <- simulate(stall, nsim = 1e6, seed = 2026)
print(counts)
print(trials(stall, seed = 2026, trials = 17))

# By fruit, and against the exact answer.
print(summary(counts, group = "suit"))
print(compare(counts, exact(stall)))
