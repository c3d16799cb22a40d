# How large a reserve do twelve nights need, who goes broke, does doubling work, was it luck?
library(habanera)

# The stall, exactly: its nights, its season, the reserve.
orchard <- deck_from(demo_file("orchard.csv"))
stall <- payout(exact(draws(orchard, 3, alike = largest_group(suit))), c("3" = 8, "2" = 1))
print(sessions(stall, rounds = 150, reserve = 50))

# The twenty-one table with three seats, which win and lose together.
print(sessions(game_blackjack(seats = 3), rounds = 600))
# Of counts the sampling error is carried on.
print(tidy(sessions(simulate(game_blackjack(seats = 3, record = "net"), nsim = 1e5, seed = 44), rounds = 600)))

# A guest: ruin, goal, the deepest fall; and a plan that doubles after losses.
print(bankroll(game_high_card(), start = 50, rounds = 300, goal = 100))
print(bankroll(game_high_card(), start = 100, rounds = 300, bets = bet_progression(after_loss = 2, limit = 64)))
print(tidy(bankroll(money_distribution(c(-1, 1), c(0.49, 0.51)), start = 50, rounds = Inf)))

# With an advantage: how much to stake. Of an edge: how long it hides.
print(stake_fraction(money_distribution(c(-1, 1), c(0.48, 0.52))))
print(rounds_to_show(game_high_card()))

# Forty nights as they were written down.
print(takings(game_blackjack(), demo_file("takings-front.csv"), player_basic()))
print(takings(game_blackjack(), demo_file("takings-back.csv"), player_basic()))
