# Trials of questions that have to be played in R, because the shuffle or the exchange is an R function.

played_in_r <- function(x) has_function(x$shuffle) || has_keep_function(x)

# The same as core_trial_question(): for each trial its keys and the hand at its end.
play_in_r <- function(x, seed, trials) {
  tables <- shuffled_tables(x, seed, trials)
  if (!has_keep_function(x)) return(core_play_on(x$spec, tables))
  finished <- lapply(seq_along(trials), function(row) exchanged_by_function(x, tables[row, ], seed, trials[row]))
  core_play_on(finished_spec(x), do.call(rbind, finished))
}

# The hand of one trial after its exchanges, and the cards that come by turn. All calls of a trial share one
# generator.
exchanged_by_function <- function(x, table, seed, trial) {
  hand <- c(match(codes_of(x$held), x$pool$kinds$codes), table[seq_len(x$size)])
  rest <- table[seq_along(table) > x$size]
  with_trial_generator(seed, trial, player_lane, for (time in seq_len(x$stages[[1]]$times)) {
    gone <- which(!kept_by_function(x, hand, sprintf(" in trial %s of seed %s", format_count(trial), whole_code(seed))))
    hand[gone] <- rest[seq_along(gone)]
    rest <- rest[seq_along(rest) > length(gone)]
  })
  c(hand, rest[seq_len(x$turns * x$turn_size)])
}

# The question as asked of hands that are finished: drawn as they are, nothing more done with them.
finished_spec <- function(x) {
  spec <- x$spec
  spec$stages <- list()
  spec$held <- integer()
  spec$size <- x$size + length(x$held)
  spec
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

# `where` tells errors the trial.
kept_by_function <- function(x, kinds, where = "") {
  hand <- new_cards(x$pool$kinds$codes[kinds], catalogue_of(x$deck))
  kept <- refuse_if_fails(x$stages[[1]]$f(hand), sprintf("Your keep function failed%s.", where), "function", NULL)
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
