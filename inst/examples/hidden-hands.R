# Hands that seats hide from each other: sound play, what a habit costs, what a bet tells, what a peek is worth.
library(habanera)

# Lanterns (lanterns.cpp, beside this file): a card each that only its seat sees, one bet. It is compiled the first
# time.
lanterns <- game_cpp(system.file("examples", "lanterns.cpp", package = "habanera"), deck = deck_numbered(3))

# What each seat should do by what it sees, so that nobody gains by playing otherwise; and how far from it at most.
sound <- equilibrium(lanterns)
print(sound)

# The ferryman never bluffs and calls too much: a table. What does that cost him in seat 2, who finds the answer?
ferryman <- player_by_table(demo_file("ferryman.csv"), "ferryman")
print(ferryman)
answer <- best_play(lanterns, 1, against = ferryman)
print(answer)
print(tidy(exact(change_rules(lanterns, players = list(player_by_table(answer), ferryman))))[3, ])

# What was done tells what is held: who knows that only the highest card is bet folds the others.
timid <- change_rules(lanterns, deck = deck_numbered(10), players = list("timid", player_lookahead(50, "timid")))
print(simulate(timid, nsim = 2000, seed = 44))

# A peek, priced: the same player with and without a look at the other hand.
for (player in list(player_lookahead(50), player_peeking("hands", samples = 50))) {
  found <- tidy(simulate(change_rules(lanterns, players = list("random", player)), nsim = 2000, seed = 44))
  cat(format(player), ":", format(found$estimate[found$term == "net_2"]), "a game\n")
}

# Is what a seat sees all that it should, and no more?
print(check_game(lanterns))
