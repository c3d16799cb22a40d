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
    function_position_counts(procedure, deck, kinds$codes, seed, first, nsim)
  } else {
    spec <- draw_spec(deck, length(deck), FALSE, FALSE, procedure)
    core_count_positions(spec, seed, first, nsim, resolve_threads(NULL))$n
  }
  matrix(counts, nrow = length(kinds$codes))
}

function_position_counts <- function(procedure, deck, codes, seed, first, nsim) {
  counts <- numeric(length(codes) * length(deck))
  bar <- local_progress("Shuffling", total = nsim)
  for (done in seq_len(nsim)) {
    shuffled <- codes_of(shuffled_cards(deck, procedure, seed, first + done - 1, NULL))
    cells <- match(shuffled, codes) + length(codes) * (seq_along(shuffled) - 1)
    counts[cells] <- counts[cells] + 1
    if (done %% 50 == 0) bar$move(done)
  }
  counts
}
