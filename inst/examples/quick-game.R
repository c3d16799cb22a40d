# Does this game ever end? The children's quick game at Lantern Hall, and the rules that end it in time.
library(habanera)

# As it is played: the orchard deck, one card face down in a tie, the pot gathered from the left.
as_played <- game_war(rules = demo_file("quick-game.yaml"), seat_names = c("left", "right"))
counts <- simulate(as_played, nsim = 5000, seed = 44)
print(summary(counts))

# One that never ends, step by step; and the piles that somebody photographed, played on by another rule.
stuck <- replay(counts, where = ended == "never_ends")
print(stuck, from = 1500, most = 9)
photographed <- demo_file("stuck-game.txt")
orchard <- deck_from(demo_file("orchard.csv"))
print(trials(game_war(deck = orchard, rank_by = "rank", piles = photographed, face_down = 1), seed = 1, trials = 1))

# What the order of the pot changes, on the same deals.
winner_first <- change_rules(as_played, collect = "winner_first")
print(compare(as_played, winner_first, nsim = 2000, seed = 44))

# Which rules end nine games in ten within a quarter of an hour, at six seconds a round?
varied <- vary_rules(winner_first, cards_each = c(6, 11, 16, 22), face_down = 0:3, nsim = 500, seed = 44)
print(varied)
print(autoplot(varied, seconds_per_round = 6, within = 15))

# The chosen rules: never more than 150 rounds, then the larger pile wins. What are high cards worth?
chosen <- change_rules(winner_first, cards_each = 16, face_down = 3, max_rounds = 150, at_limit = "most_cards")
print(simulate(chosen, nsim = 5000, seed = 44))
print(card_impact(chosen, "rank", nsim = 5000, seed = 44))
