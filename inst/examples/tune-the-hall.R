# Which rules meet what the hall wishes? The quick game, the prize stall and the twenty-one table, each tuned.
library(habanera)

# Nine games in ten within a quarter of an hour, hardly one without an end, no better seat.
quick <- game_war(rules = demo_file("quick-game.yaml"))
over <- list(cards_each = c(6, 10, 14, 18), face_down = 0:2, collect = c("winner_first", "shuffled"))
found <- tune_rules(quick, over, want = c("minutes_p90 <= 15", "ended_never_ends <= 0.001", "seat_spread <= 0.05"),
                    seconds_per_round = 6, nsim = 32000, seed = 44)
print(found)
print(autoplot(found))
print(head(tidy(found)))

# What is paid at the stall, so that it keeps a seventh.
stall <- payout(exact(draws(deck_from(demo_file("orchard.csv")), 3, alike = largest_group(suit))), c("3" = 8, "2" = 1))
print(tune_rules(stall, list("3" = 5:14, "2" = c(0, 0.5, 1)), want = "hit_frequency > 0.5",
                 least = "abs(edge - 1/7)"))

# About one percent at the table, by at most two new rules; exact.
table <- game_blackjack(rules = demo_file("table.yaml"))
print(tune_rules(table, list(natural_pays = c(1.2, 1.4), soft_17 = "hits", double_on = "10_11", surrender = "late"),
                 want = c("edge > 0.008", "edge < 0.012"), changes = 2))
