# The pairs table at Lantern Hall: how long it takes, and what a memory is worth.
library(habanera)

# One perfect memory alone, exactly on a small table and played on the large one.
print(exact(game_pairs(pairs = 4, seats = 1, record = "turns")))
print(simulate(game_pairs(seats = 1, grid = c(6, 5), record = "turns"), nsim = 5000, seed = 44))

# Two regulars, step by step for a while, and who wins.
regulars <- list(player_full_memory(), player_forgetful(recall = 0.7, span = 12))
evening <- game_pairs(players = regulars, grid = c(6, 5), seat_names = c("baker", "ferryman"))
print(replay(evening, seed = 44), most = 12)
print(summary(simulate(evening, nsim = 5000, seed = 44)))

# How well must one remember to win one game in three?
for (recall in c(0.7, 0.8, 0.9)) {
  rival <- change_rules(evening, players = list(player_full_memory(), player_forgetful(recall)))
  print(estimates(simulate(rival, nsim = 5000, seed = 44), "winner_ferryman"))
}
