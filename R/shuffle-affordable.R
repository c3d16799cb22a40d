# As many trials of an R function as take about half a minute, by the time of the first few; at most the usual number.
usual_trials <- 1e5
seconds_for_function <- 30

affordable_trials <- function(procedure, deck) {
  tried <- 20
  spent <- system.time(for (trial in seq_len(tried)) {
    shuffled_cards(deck, procedure, 1, trial, NULL, conserve = FALSE)
  })[["elapsed"]]
  nsim <- max(1000, min(usual_trials, signif(seconds_for_function * tried / max(spent, 1e-3), 1)))
  if (nsim < usual_trials) {
    inform_user(sprintf("Your function takes about %s a trial: %s are played; `nsim` asks for another number.",
                        sprintf("%.1f ms", 1000 * spent / tried), count_of(nsim, "trial")))
  }
  nsim
}
