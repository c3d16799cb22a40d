# Every table of a house: baccarat by its own third cards, a machine by its pay table, the stall, and all of them in one
# table of edges.
library(habanera)

# Baccarat, exactly: every bet at once, the usual table of third cards and the hall's own.
print(house_edge(game_baccarat()))
print(rules(game_baccarat())$third_card)
hall <- game_baccarat(packs = 6, third_card = demo_file("third-cards.csv"), tie_pays = 9)
print(exact(hall))
print(compare(game_baccarat(packs = 6, record = "net_banker"),
              game_baccarat(packs = 6, banker_six_pays = "1:2", record = "net_banker"), nsim = 1e4, seed = 44))

# Bets beside the table: what a house may think of.
beside <- list(
  pair = c("opening(player, largest_group(rank) == 2)" = 12),
  alike = c("opening(player, distinct(rank) == 1 & distinct(suit) == 1)" = 26),
  wide = c("margin == 9" = 12, "margin == 8" = 5, "margin == 7" = 3),
  late_six = c("winner == 'banker' & banker_total == 6 & banker_cards == 3" = 21)
)
print(house_edge(game_baccarat(side_bets = beside)))
print(removal_effects(game_baccarat(side_bets = beside), of = c("tie", "pair")))

# The machine: best play, one hand, the baker's list.
machine <- game_video_poker(demo_file("machine-pays.csv"), deck = deck_from(demo_file("orchard.csv")))
print(best_strategy(machine))
print(advise(machine, "9F 10F 11F 4G 4M"))
print(mistakes(machine, keep_rules(demo_file("kept-by-the-baker.txt"))))

# What must a line pay? Whole numbers near the edge that is wanted; the jackpot that favours the player.
print(price_for(machine, edge = 0.06, lines = "full house"))
print(price_for(machine, edge = 0, lines = "straight flush", whole = FALSE))
# Four lines in proportion.
print(price_for(machine, edge = 0.06, lines = c("full house", "flush", "straight", "straight flush")))

# All tables side by side.
tables <- edge_table(stall = demo_file("stall.yaml"), table = demo_file("table.yaml"), machine = machine,
                     baccarat = hall, narrows = game_narrows(), rounds_per_hour = c(90, 70, 400, 60, 80))
print(tables)
