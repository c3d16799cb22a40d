# What an audit counts of a procedure's arrangements: the counts of an experiment, in the parts that the
# core keeps (see `inst/include/habanera/shuffle/battery.hpp`).

# What is counted of a deck. `identity`: whether every card is known from all others.
battery_spec <- function(deck, identity, alike, grid) {
  kinds <- kinds_of(deck)
  n <- length(deck)
  groups <- alike_groups(deck, alike, identity)
  below <- if (is.null(grid)) 0 else grid[2]
  list(copies = if (identity) rep(1, n) else as.double(kinds$copies), cards = n,
       top = if (identity) top_length(n) else 0, ranking = integer(),
       alike = lapply(groups, function(group) list(group = group, below = below)))
}

# For each attribute the number of each card's value; cards without a value are like no other.
alike_groups <- function(deck, alike, identity) {
  codes <- if (identity) codes_of(deck) else kinds_of(deck)$codes
  data <- catalogue_of(deck)$data
  lapply(rlang::set_names(alike), function(attribute) {
    values <- data[[attribute]][codes]
    group <- match(values, unique(values))
    group[is.na(values)] <- max(group, 0) + seq_len(sum(is.na(values)))
    group
  })
}

most_top_cells <- 2e5

# How many cards from the top are looked at together: at most 3, and all of up to 6 cards.
top_length <- function(n) {
  if (n <= 6) return(n)
  max(which(cumprod(n - 0:2) <= most_top_cells))
}

# How many trials go on from one another before the deck is put in order again.
chain_trials <- 1000

new_battery <- function(shuffle, spec, chain) {
  new_experiment("habanera_battery", shuffle = shuffle, spec = spec, chain = chain,
                 parts = core_audit_parts(spec))
}

#' @export
result_kind.habanera_battery <- function(experiment) "battery"
#' @export
entries_per_trial.habanera_battery <- function(experiment) 1
#' @export
trials_in_chain.habanera_battery <- function(experiment) experiment$chain
#' @export
outcome_space.habanera_battery <- function(experiment) {
  data.frame(part = rep(experiment$parts$part, experiment$parts$cells))
}
#' @export
run_lap.habanera_battery <- function(experiment, seed, first, count, threads) {
  core_audit_procedure(core_steps(experiment$shuffle), experiment$spec, seed, experiment$chain, first, count,
                       threads)
}

# Counts of parts as a list: `n`, `example_trial` (lists by part; several parts named "alike" are a list
# of their own) and `trials`.
battery_parts <- function(parts, n, example_trial, trials) {
  before <- cumsum(parts$cells) - parts$cells
  as_parts <- function(x) {
    pieces <- Map(function(before, cells) x[before + seq_len(cells)], before, parts$cells)
    is_alike <- parts$part == "alike"
    c(rlang::set_names(pieces[!is_alike], parts$part[!is_alike]), list(alike = pieces[is_alike]))
  }
  list(n = as_parts(n), example_trial = as_parts(example_trial), trials = trials)
}

# The counts of the half that teaches the guesser and the half that it guesses in, and of both together.
# count(spec, first, trials) gives the parts of some trials.
count_in_halves <- function(spec, nsim, chain, count) {
  half <- chain * floor(nsim / 2 / chain)
  if (half == 0 || spec$cards < 2 || length(spec$copies) < spec$cards) {
    all <- count(spec, 1, nsim)
    return(list(all = all, taught = NULL, guessed = NULL))
  }
  taught <- count(spec, 1, half)
  if (taught$trials < half) return(list(all = taught, taught = taught, guessed = NULL))
  spec$ranking <- learnt_ranking(taught, spec$cards)
  guessed <- tryCatch(count(spec, half + 1, nsim - half), interrupt = function(cnd) warn_interrupted(half, nsim))
  if (!is.list(guessed)) return(list(all = taught, taught = taught, guessed = NULL))
  list(all = add_parts(taught, guessed), taught = taught, guessed = guessed)
}

# For each card the cards that follow it, the most frequent first; last, those that come first.
learnt_ranking <- function(taught, n) {
  follows <- matrix(taught$n$follows, nrow = n)
  first <- taught$n$position[seq_len(n)]
  as.integer(unlist(c(lapply(seq_len(n), function(card) order(-follows[, card])), list(order(-first)))))
}

add_parts <- function(one, two) {
  shared <- setdiff(names(one$n), c("follows", "right_guesses", "alike"))
  all <- one
  all$n[shared] <- Map(`+`, one$n[shared], two$n[shared])
  all$example_trial[shared] <- Map(pmin, one$example_trial[shared], two$example_trial[shared])
  all$n$alike <- Map(`+`, one$n$alike, two$n$alike)
  all$n$right_guesses <- two$n$right_guesses
  all$trials <- one$trials + two$trials
  all
}

# The counts of a procedure without R functions, or of rows of arrangements made elsewhere.
count_procedure <- function(shuffle, spec, nsim, chain, seed, threads, progress) {
  count_in_halves(spec, nsim, chain, function(spec, first, trials) {
    counts <- simulate(new_battery(shuffle, spec, chain), trials, seed, first_trial = first, threads = threads,
                       progress = progress)
    battery_parts(counts$provenance$experiment$parts, counts$n, counts$example_trial, trial_count(counts))
  })
}

count_rows <- function(rows, spec, threads) {
  count_in_halves(spec, nrow(rows), 1, function(spec, first, trials) {
    counted <- core_audit_rows(rows, spec, first, trials, threads)
    battery_parts(core_audit_parts(spec), counted$n, counted$example_trial, trials)
  })
}
