# Cards drawn and counted by the core.

# What the core is told of a draw. Pairs are counted only where a kind can come twice in a trial.
draw_spec <- function(deck, size, replace, can_repeat, shuffle) {
  kinds <- kinds_of(deck)
  list(places = kinds$places, kinds = length(kinds$codes), size = size, replace = replace,
       pairs = can_repeat, steps = core_steps(shuffle))
}

# How often each kind of card (rows) came at each position (columns) in trials `first` and on.
position_counts <- function(procedure, deck, seed, first, nsim) {
  kinds <- kinds_of(deck)
  counts <- if (has_function(procedure)) {
    tabulate(unlist(lapply(first - 1 + seq_len(nsim), function(trial) {
      shuffled <- codes_of(shuffled_cards(deck, procedure, seed, trial, NULL))
      match(shuffled, kinds$codes) + length(kinds$codes) * (seq_along(shuffled) - 1)
    })), length(kinds$codes) * length(deck))
  } else {
    spec <- draw_spec(deck, length(deck), FALSE, FALSE, procedure)
    core_count_positions(spec, seed, first, nsim, resolve_threads(NULL))$n
  }
  matrix(counts, nrow = length(kinds$codes))
}
