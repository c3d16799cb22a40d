# The figures among the screenshots: make-figures.R HALL SHOTS
library(habanera)
folders <- commandArgs(TRUE)
orchard <- deck_from(file.path(folders[1], "orchard.csv"))
tablet <- draws_recorded(file.path(folders[1], "tablet-draws.txt"), orchard, numbering = list(first = 0))
volunteers <- audit(shuffle_recorded(file.path(folders[1], "volunteer-shuffles.csv"), deck = orchard))
mixed <- mixing(list("riffle", "overhand x2", "wash, riffle"), times = 0:9, deck = orchard, nsim = 5e4, seed = 44)
stall <- draws(orchard, 3, alike = largest_group(suit), worth = total(points), high = count(rank >= 9) >= 1)
quick <- game_war(rules = file.path(folders[1], "quick-game.yaml"), seat_names = c("left", "right"))
played <- simulate(quick, nsim = 2e4, seed = 44)
twin <- player_counting(player_basic(), file.path(folders[1], "level-one.yaml"),
                        file.path(folders[1], "twins-bets.csv"))
figures <- list(
  "figure-audit" = autoplot(volunteers), "figure-mixing" = autoplot(mixed, by = "seconds"),
  "figure-tablet" = autoplot(tablet),
  "figure-sound" = autoplot(equilibrium(game_betting(rules = "all in or fold"), gap = 1e-4)),
  "figure-stuck-game" = autoplot(replay(played, where = ended == "never_ends")),
  "figure-tuned" = autoplot(tune_rules(quick, file.path(folders[1], "quick-game-wishes.yaml"), seconds_per_round = 6,
                                       seed = 44)),
  "figure-counter-gain" = autoplot(counter_gain(game_blackjack(), twin, packs = c(2, 6), nsim = 60000, seed = 44)),
  "figure-edges" = autoplot(edge_table(
    stall = file.path(folders[1], "stall.yaml"), table = file.path(folders[1], "table.yaml"),
    baccarat = file.path(folders[1], "banker-table.yaml"), machine = file.path(folders[1], "machine.yaml"),
    narrows = game_narrows(), `high card` = game_high_card()
  )),
  "figure-rule-effects" = autoplot(rule_effects(game_blackjack())),
  "figure-payout" = autoplot(payout(exact(stall), ifelse(alike == 3, 8, ifelse(worth >= 27, 3, 0)))),
  "figure-round-robin" = autoplot(round_robin(game_pairs(grid = c(6, 5)), habanera:::hall_regulars(), nsim = 1e4,
                                              seed = 44)),
  "figure-strategy" = autoplot(best_strategy(game_blackjack()))
)
for (name in names(figures)) {
  ggplot2::ggsave(file.path(folders[2], paste0(name, ".png")), figures[[name]], width = 11.6,
                  height = 7.3, dpi = 110, bg = "white")
}
