# The figures among the screenshots: make-figures.R HALL SHOTS
library(habanera)
folders <- commandArgs(TRUE)
orchard <- deck_from(file.path(folders[1], "orchard.csv"))
tablet <- draws_recorded(file.path(folders[1], "tablet-draws.txt"), orchard, numbering = list(first = 0))
placed <- simulate(positions(orchard), nsim = 1e5, seed = 1)
volunteers <- audit(shuffle_recorded(file.path(folders[1], "volunteer-shuffles.csv"), deck = orchard))
five_riffles <- audit(shuffle_riffle(5), seed = 1)
mixed <- mixing(list("riffle", "overhand x2", "wash, riffle"), times = 0:9, deck = orchard, nsim = 5e4, seed = 44)
figures <- list(
  "figure-audit" = autoplot(volunteers), "figure-statistics" = autoplot(five_riffles, show = "statistics"),
  "figure-guesser" = autoplot(five_riffles, show = "guesser"), "figure-mixing" = autoplot(mixed, by = "seconds"),
  "figure-tablet" = autoplot(tablet), "figure-positions" = autoplot(placed),
  "figure-arrangements" = autoplot(exact(shuffle_naive_swap(), deck_numbered(4))),
  "figure-deck-strips" = autoplot(follow(shuffle_faro(), times = 8)),
  "figure-ribbons" = autoplot(follow(shuffle_riffle(), position = 1, times = 5, seed = 1)),
  "figure-periods" = autoplot(restore_period(shuffle_faro("in"), 2:104))
)
for (name in names(figures)) {
  ggplot2::ggsave(file.path(folders[2], paste0(name, ".png")), figures[[name]], width = 11.6,
                  height = 7.3, dpi = 110, bg = "white")
}
