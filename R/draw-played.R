# Trials of questions that have to be played in R, because the shuffle or the exchange is an R function.

played_in_r <- function(x) has_function(x$shuffle) || has_keep_function(x)

# The same as core_trial_question(): for each trial its keys and the hand at its end.
play_in_r <- function(x, seed, trials) {
  tables <- shuffled_tables(x, seed, trials)
  if (!has_keep_function(x)) return(core_play_on(x$spec, tables))
  hands <- first_hands(x, tables)
  next_card <- rep(x$size, length(trials))
  for (time in seq_len(x$stages[[1]]$times)) {
    for (row in seq_along(trials)) {
      keep <- kept_by_function(x, hands[row, ], seed, trials[row])
      gone <- which(!keep)
      hands[row, gone] <- tables[row, next_card[row] + seq_along(gone)]
      next_card[row] <- next_card[row] + length(gone)
    }
  }
  later <- x$turns * x$turn_size
  turned <- matrix(tables[cbind(rep(seq_along(trials), times = later),
                                rep(next_card, times = later) + rep(seq_len(later), each = length(trials)))],
                   nrow = length(trials))
  core_play_on(finished_spec(x, ncol(hands)), cbind(hands, turned))
}

# The question as asked of hands that are finished: drawn as they are, nothing more done with them.
finished_spec <- function(x, size) {
  spec <- x$spec
  spec$stages <- list()
  spec$held <- integer()
  spec$size <- size
  spec
}

first_hands <- function(x, tables) {
  held <- match(codes_of(x$held), x$pool$kinds$codes)
  cbind(matrix(rep(held, each = nrow(tables)), nrow = nrow(tables)), tables[, seq_len(x$size), drop = FALSE])
}

# The first cards after the shuffle, as kinds: a row per trial.
shuffled_tables <- function(x, seed, trials) {
  if (!has_function(x$shuffle) || x$replace) return(core_trial_draws(x$spec$draw, seed, trials))
  rows <- lapply(trials, function(trial) {
    match(codes_of(shuffled_cards(x$deck, x$shuffle, seed, trial, NULL)), x$pool$kinds$codes)
  })
  matrix(unlist(rows), nrow = length(trials), byrow = TRUE)
}

# The lane of the player in the first seat, whose function it is.
player_lane <- 2

kept_by_function <- function(x, kinds, seed, trial) {
  hand <- new_cards(x$pool$kinds$codes[kinds], catalogue_of(x$deck))
  where <- if (is.null(trial)) "" else sprintf(" in trial %s of seed %s", format_count(trial), whole_code(seed))
  asked <- function() x$stages[[1]]$f(hand)
  kept <- refuse_if_fails(if (is.null(trial)) asked() else with_trial_generator(seed, trial, player_lane, asked()),
                          sprintf("Your keep function failed%s.", where), "function", NULL)
  read_kept(kept, hand, where)
}

# TRUE or FALSE for each card of the hand.
read_kept <- function(kept, hand, where) {
  if (is.logical(kept) && length(kept) == length(hand) && !anyNA(kept)) return(kept)
  if (is.character(kept)) kept <- as_cards(kept, like = hand)
  if (!is_cards(kept)) {
    refuse(sprintf("Your keep function must return cards, or TRUE and FALSE for each card, not %s%s.", said(kept),
                   where),
           "function", NULL)
  }
  codes <- codes_of(hand)
  wanted <- tabulate(codes_of(kept), nrow(catalogue_of(hand)$data))
  if (any(wanted > tabulate(codes, length(wanted)))) {
    refuse(sprintf("Your keep function kept %s of the hand %s%s.", paste(format(kept), collapse = " "),
                   paste(format(hand), collapse = " "), where), "conservation", NULL)
  }
  copy <- stats::ave(seq_along(codes), codes, FUN = seq_along)
  copy <= wanted[codes]
}

tally_of_plays <- function(played, first) {
  keys <- unlist(played$keys)
  trial <- rep(first - 1 + seq_along(played$keys), times = lengths(played$keys))
  key <- sort(unique(keys))
  place <- match(keys, key)
  list(key = key, n = as.double(tabulate(place, length(key))), example_trial = trial[match(key, keys)])
}
