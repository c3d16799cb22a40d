# The prize stall: what does it pay, what should it cost, and what is it worth to change a prize?
library(habanera)

orchard <- deck_from(demo_file("orchard.csv"))

# A visitor draws three cards. Three of one fruit win 8 tokens; 27 points or more win 3.
stall <- draws(orchard, 3, alike = largest_group(suit), worth = total(points))
law <- exact(stall)
print(payout(law, ifelse(alike == 3, 8, ifelse(worth >= 27, 3, 0)), stake = 1))

# The roof fund is to keep 15% of every stake: by the price of a play, or by the prizes.
print(price_for(law, ifelse(alike == 3, 8, ifelse(worth >= 27, 3, 0))))
print(price_for(law, ifelse(alike == 3, 8, ifelse(worth >= 27, 3, 0)), stake = 1))

# The chance of three alike, written out, and as an evening of 400 plays might show it.
print(show_working(draws(orchard, 3, three = largest_group(suit) == 3)))
evening <- simulate(stall, nsim = 400, seed = 2026)
print(summary(evening, given = alike == 3))

# How long until the first pear, and which of these three to keep for points?
print(exact(draw_until(orchard, count(suit == "pear") >= 1)))
print(best_exchange("11F 2G 6P", total(points), orchard))
