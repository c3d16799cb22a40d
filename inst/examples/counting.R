# Can the twenty-one table of Lantern Hall be beaten by one who counts, and what stops him?
library(habanera)

# What a missing card is worth, exactly; tags that follow it, and the twin's own.
table <- game_blackjack()
effects <- removal_effects(table)
print(effects)
print(design_tags(effects))
twin <- counting_system(demo_file("level-one.yaml"))
print(twin)
print(true_count_distribution(table, twin, 156))

# Shoes played by his count: what a stake brings at each, in all, and by other bets on the very same shoes.
counter <- player_counting(player_basic(), twin, bets = demo_file("twins-bets.csv"))
shoes <- simulate(game_blackjack(players = counter, cut_after = 0.75), nsim = 10000, seed = 44)
found <- by_true_count(shoes)
print(found)
print(tidy(reprice(found, c("0" = 1, "1" = 4, "2" = 12))))
print(bet_sizes(found, bankroll = 400))

# Where play should go by the count, from two packs; a player who does so, insures by it, and leaves poor shoes.
changes <- find_deviations(game_blackjack(packs = 2), twin, range = -3:3, nsim = 5000, seed = 44)
print(changes)
better <- player_counting(player_basic(), twin, c("0" = 1, "1" = 4), deviations = changes[changes$main, ],
                          insurance_at = 3, leaves_below = -1, enters_at = 0)
beside <- game_blackjack(packs = 2, seats = 2, players = list(player_basic(), better), cut_after = 0.7)
print(by_true_count(simulate(beside, nsim = 2000, seed = 44)))

# Counters at equal risk, and what other bets on the same shoes do to a bankroll.
print(compare_counters(game_blackjack(packs = 2, cut_after = 0.75), list(
  twin = counter, steep = player_counting(player_basic(), twin, c("0" = 1, "1" = 6, "2" = 12))
), nsim = 5000, seed = 44))
print(bankroll(reprice(found, c("0" = 1, "1" = 4, "2" = 12)), start = 400, rounds = 500))

# What stops him: the cut, on the same shoes.
print(counter_gain(table, counter, cut_after = c(0.5, 0.6, 0.7, 0.8), nsim = 10000, seed = 44))

# Does a guest do so? Bets and cards as they were written down.
print(bets_follow(game_blackjack(), demo_file("bets-at-the-window.csv"), twin))
print(bets_follow(game_blackjack(), demo_file("bets-by-the-door.csv"), twin))
