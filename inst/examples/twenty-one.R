# The twenty-one table of Lantern Hall: what does the hall keep, of whom, which mistakes pay for the roof, and what does
# a rule change?
library(habanera)

# Against the best play by totals, exactly; and by the dealer's up card.
table <- game_blackjack()
edge <- house_edge(table)
print(edge)
print(as.data.frame(edge, by = "up_card"))

# Best play, by what a player looks at; one hand, and why.
best <- best_strategy(table)
print(best)
print(advise(table, "10S 6H", "9D", working = TRUE))
print(dealer_totals(table))

# Who comes, and what their mistakes bring.
baker <- strategy_table(demo_file("bakers-table.csv"))
print(mistakes(table, baker))
print(replay(game_blackjack(players = baker), seed = 44, trial = 3))

# What rules are worth, alone and together. A hall that wants two per cent of who plays well:
print(vary_rules(table, natural_pays = c(1.5, 1.2, 1), double_on = c("any_two", "10_11"), of = "edge",
                 want = "edge > 0.015 & edge < 0.025"))

# A way to play is a table: write it, change it, compare.
sound <- strategy_grid(player_basic())
sound[sound$hand == "hard 16", as.character(7:10)] <- "S"
print(compare(player_basic(), strategy_table(sound, "fears sixteen")))

# Rounds played: whole shoes have errors by shoe; a bet beside the table.
print(simulate(game_blackjack(cut_after = 0.75, seats = 2), nsim = 200, seed = 44))
alike <- list(alike = c("largest_group(rank) == 3" = 30, "largest_group(rank) == 2" = 3))
print(house_edge(game_blackjack(side_bets = alike), player_basic()))
