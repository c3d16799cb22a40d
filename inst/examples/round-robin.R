# Who plays best at the pairs table of Lantern Hall? A round robin, best play, and a house edge beside it.
library(habanera)

regulars <- list(baker = player_full_memory(), ferryman = player_forgetful(0.7, 12), `elder twin` = player_careful(),
                 `younger twin` = player_forgetful(1, 6))
met <- round_robin(game_pairs(grid = c(6, 5)), regulars, nsim = 500, seed = 44)
print(met)
print(tidy(met))

# The best that a seat can do against the careful twin.
print(best_play(game_pairs(players = player_careful())))

# The stall by the door: what the house keeps, by what becomes of a tie.
for (ties in c("bank", "half_back", "push")) print(house_edge(game_high_card(ties = ties)))
