# Games in which seats bet: stated as data, played by tables and by rules in words, worked out exactly.
library(habanera)

# Two seats, one card of three each, one bet. Nobody says how to play: any move that is open.
small <- game_betting(deck_numbered(3), private = 1, ante = 1, streets = list(street(bets = 1)))
exact(small)
replay(small, seed = 2)

# A way of playing in words, and the best answer to it.
timid <- player_by_rules("bet if holds(\"3\")", "call if holds(\"3\")", "check", "fold", name = "timid")
best_play(small, 1, against = timid)
mistakes(small, timid, seat = 2, against = "random")

# The hall's own game: a card of the orchard deck each, a card turned, two bets on each street.
harvest <- game_betting(rules = demo_file("harvest.yaml"))
ferryman <- player_by_rules(demo_file("ferryman-bets.txt"))
simulate(change_rules(harvest, players = list(ferryman, player_calls_all())), nsim = 1e4, seed = 1)

# From the middle: five cards lie open, ten chips in the pot, and it is known what the seats may hold.
last_bet <- game_betting(board = "KS 8H 3D 3C 2S", pot = 10, stacks = 20, streets = list(street(bets = "pot")),
                         holdings = list(c("8D 8C" = 1, "7D 6D" = 1), "K Q unsuited"))
bets <- equilibrium(last_bet)
bets
summary(bets, "holding")
advise(last_bet, "8D 8C", against = bets)

# Sound play, its price of a habit, and the ante that makes a game fairer.
sound <- equilibrium(small, gap = 1e-6)
mistakes(small, timid, seat = 2, against = sound)
vary_rules(small, ante = 1:4, of = "value")

# Of players that met: which mixture none of them beats.
equilibrium(round_robin(small, list(timid = timid, sound = sound, caller = player_calls_all()), nsim = 2000, seed = 1))
