# Sound play of seats that bet, each in a process of its own, one thread: seconds until it is proven to a gap, and the
# most memory; beside the smallest the same rounds in plain R.
#
#   Rscript bench/sound.R NAME    one of them
library(habanera)
source("bench/measure.R")
options(habanera.progress = FALSE, habanera.threads = 1)

pairs_count <- hand_rules(size = 2, categories = c("one pair", "high card"))
streets <- list(street(bets = 2, most_bets = 2), street(shared = 1, bets = 4, most_bets = 2))
last_street <- street(bets = c("1/2 pot", "pot"), raises = "all in", most_bets = 2)
last_bet <- game_betting(board = "KS 8H 3D QC 2S", pot = 10, stacks = 20, streets = list(last_street))
last_card <- game_betting(board = "KS 8H 3D QC", pot = 10, stacks = 20, streets = list(
  street(bets = c("1/2 pot", "all in"), raises = "all in", most_bets = 2),
  street(shared = 1, bets = c("1/2 pot", "pot"), raises = "all in", most_bets = 2)))
small <- game_betting(rules = "one card, one bet")
two_streets <- game_betting(rules = "one card, two streets")
all_ranks <- game_betting(private = 1, ante = 1, streets = streets, strength = pairs_count)
shove <- function(stacks = 20) game_betting(rules = "all in or fold", stacks = stacks)

# Three cards and one bet: the rounds of the core, deal by deal, by hand.
plain_rounds <- function(rounds) {
  deals <- expand.grid(one = 1:3, two = 1:3)
  deals <- deals[deals$one != deals$two, ]
  sign <- ifelse(deals$one > deals$two, 1, -1)
  # Of each of four decisions and three cards: to be bold or not.
  regrets <- now <- sums <- array(0, c(4, 3, 2))
  now[] <- 0.5
  learn <- function(decision, card, bold, meek, reach, round) {
    mixed <- now[decision, card, 1] * bold + now[decision, card, 2] * meek
    for (move in 1:2) {
      gained <- tapply(reach * ((if (move == 1) bold else meek) - mixed), card, sum)
      regrets[decision, , move] <<- pmax(regrets[decision, , move] + gained, 0)
      now[decision, , move] <<- pmax(regrets[decision, , move] + gained, 0)
    }
    all <- rowSums(now[decision, , ])
    now[decision, , ] <<- ifelse(all > 0, now[decision, , ] / all, 0.5)
  }
  at <- function(decision, card, move = 1) now[cbind(decision, card, move)]
  for (round in seq_len(rounds)) {
    # Decisions: 1 seat 1 bets; 2 seat 2 bets after a check; 3 seat 2 calls; 4 seat 1 calls.
    bet <- at(1, deals$one)
    called <- at(3, deals$two)
    after_bet <- called * 2 * sign + (1 - called)
    answered <- at(4, deals$one) * 2 * sign - (1 - at(4, deals$one))
    after_check <- at(2, deals$two) * answered + (1 - at(2, deals$two)) * sign
    learn(4, deals$one, 2 * sign, -1 + 0 * sign, at(2, deals$two) / 6, round)
    learn(1, deals$one, after_bet, after_check, rep(1 / 6, 6), round)
    learn(2, deals$two, -answered, -sign, (1 - bet) / 6, round)
    learn(3, deals$two, -2 * sign, -1 + 0 * sign, bet / 6, round)
    sums <- sums + round^2 * now
  }
  sums
}

sound_jobs <- list(
  "three cards, one bet, to 1e-6 of the ante" = function() equilibrium(small, gap = 1e-6),
  "the same rounds in plain R" = function() plain_rounds(340),
  "one card, two streets, six cards, to 1e-3" = function() equilibrium(two_streets),
  "the same to 1e-6" = function() equilibrium(two_streets, gap = 1e-6),
  "one card, two streets, 52 cards, to 1e-3" = function() equilibrium(all_ranks),
  "a last street, 1,081 hands a seat, to 0.1% of the pot" = function() equilibrium(last_bet, gap = 0.01),
  "the same to 0.01%" = function() equilibrium(last_bet, gap = 0.001),
  "a board of four, to 0.1% of the pot" = function() equilibrium(last_card, gap = 0.01, seconds = 300),
  "class against class on 134,459 boards" = function() {
    Sys.setenv(R_USER_CACHE_DIR = tempfile())
    equilibrium(shove(), gap = 1)
  },
  "ten stacks with it, to 1e-5 of the blind" = function() {
    for (stacks in seq(4, 40, 4)) equilibrium(shove(stacks), gap = 1e-5)
  }
)

megabytes <- function() {
  as.numeric(gsub("[^0-9]", "", grep("VmHWM", readLines("/proc/self/status"), value = TRUE))) / 1024
}

wanted <- commandArgs(TRUE)
if (length(wanted)) {
  before <- megabytes()
  if (grepl("ten stacks", wanted)) equilibrium(shove(), gap = 1)
  found <- NULL
  seconds <- processor_seconds(found <- sound_jobs[[wanted]]())
  cat(sprintf("%.3f\t%.0f\t%s\n", seconds, megabytes() - before, if (is.list(found)) found$rounds else ""))
} else {
  rows <- lapply(names(sound_jobs), function(name) {
    said <- strsplit(system2("Rscript", c("bench/sound.R", shQuote(name)), stdout = TRUE), "\t")[[1]]
    data.frame(`sound play` = name, `seconds of processor time` = said[1], `MB more` = said[2],
               rounds = if (length(said) > 2) said[3] else "", check.names = FALSE)
  })
  cat("\n")
  markdown(do.call(rbind, rows))
}
