# How often does an audit call a fair shuffle biased? Audits of uniform shuffles over many seeds: the share
# of runs with a false alarm among all tests (which Holm's method keeps at the level or below), and for
# each test the share of its own p-values below the level (which should be the level).
#
#   SEEDS=2000 TRIALS=2000 CARDS=52 Rscript false-alarms.R        as it stands: about three minutes
#   SEEDS=100 Rscript false-alarms.R                              quick: about ten seconds
library(habanera)

setting <- function(name, usual) as.numeric(Sys.getenv(name, usual))
seeds <- setting("SEEDS", 2000)
trials <- setting("TRIALS", 2000)
deck <- if (setting("CARDS", 52) == 52) deck_standard() else deck_numbered(setting("CARDS", 52))

tests <- do.call(rbind, lapply(seq_len(seeds), function(seed) {
  if (seed %% 100 == 0) message(sprintf("%.0f of %.0f audits", seed, seeds))
  cbind(seed = seed, tidy(audit(shuffle_uniform(), deck, nsim = trials, seed = seed, threads = 1)))
}))
tests <- tests[!is.na(tests$p.value), ]

for (level in c(0.05, 0.01)) {
  alarms <- tapply(tests$p.adjusted < level, tests$seed, any)
  error <- sqrt(level * (1 - level) / seeds)
  cat(sprintf("Level %g%%: a false alarm in %.2f%% of %d audits; at most %.2f%% allowed (4 standard errors).\n",
              100 * level, 100 * mean(alarms), seeds, 100 * (level + 4 * error)))
  share <- tapply(tests$p.value < level, factor(tests$term, unique(tests$term)), mean)
  cat(sprintf("  %-17s %5.2f%%  (%+.1f standard errors)\n", names(share), 100 * share, (share - level) / error),
      sep = "")
}
