# The twenty-one table of Lantern Hall: what does the hall keep, of whom, and what does a rule change?
library(habanera)

table <- game_blackjack()
print(house_edge(table, nsim = 2e5, seed = 44))

# Who comes: on the same rounds, and one of them called aloud.
guests <- c("basic", "regular:name=baker", "regular:name=ferryman", "never_busts", "as_dealer")
print(vary_rules(table, players = guests, nsim = 2e4, seed = 44))
print(replay(game_blackjack(players = player_regular("baker")), seed = 44, trial = 3))

# A way to play is a table: write it, change it, compare.
sound <- as.data.frame(player_basic())
sound[sound$hand == "hard 16", as.character(7:10)] <- "S"
print(compare(player_basic(), strategy_table(sound, "fears sixteen")))

# What a rule is worth, on the same rounds; whole shoes have errors by shoe.
print(compare(table, game_blackjack(natural_pays = 1.2), nsim = 2e4, seed = 44))
print(simulate(game_blackjack(cut_after = 0.75, seats = 2), nsim = 200, seed = 44))

# A bet beside the table.
alike <- list(alike = c("largest_group(rank) == 3" = 30, "largest_group(rank) == 2" = 3))
print(house_edge(game_blackjack(side_bets = alike), nsim = 1e5, seed = 44))
