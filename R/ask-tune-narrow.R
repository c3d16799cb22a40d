# More combinations than are tried: coarse ones first, then, step by step, those near the ones that may still meet the
# wishes. What lies between two that surely miss the same wish is not tried, which is told.

most_coarse <- 500
# A coarse combination plays no further than this before its neighbours are tried.
coarse_trials <- 16000

# What is to be tried, `places` as of candidate_places(), out of how many (`of`), and how many trials narrowing took.
# `race(places, of)`: of the `places` that it took, after a short race, which `may_do`, the wishes that each surely
# misses (`missed`, a column each), how `bad` it looks, and the `trials` of that race.
places_to_try <- function(dimensions, changes, race, call) {
  of <- prod(vapply(dimensions, function(dimension) length(dimension$values), 0))
  if (!is.null(changes) || of <= most_candidates) {
    places <- candidate_places(dimensions, changes, call)
    return(list(places = places, of = nrow(places), trials = 0))
  }
  strides <- coarse_strides(dimensions, call)
  places <- places_of_grid(Map(thinned, dimensions, strides))
  trials <- 0
  while (any(strides > 1)) {
    raced <- race(places, of)
    trials <- trials + raced$trials
    promising <- is_promising(raced, strides)
    # All miss alike: the coarse are told, and how near they come.
    if (!any(promising)) break
    finer <- ceiling(strides / 2)
    places <- places_beside(raced$places[promising, , drop = FALSE], dimensions, strides, finer)
    if (nrow(places) > most_candidates) {
      refuse(sprintf("Of %s combinations %s or more may meet the wishes; at most %s are tried. %s", format_count(of),
                     format_count(nrow(places)), format_count(most_candidates),
                     "Wish for more, or take fewer values."), "work", call)
    }
    strides <- finer
  }
  list(places = places[order(changes_of(places, dimensions)), , drop = FALSE], of = of, trials = trials)
}

# What a short race says of candidates, see places_to_try().
judged_shortly <- function(tuning, run) {
  run["checkpoint"] <- list(NULL)
  state <- run_race(tuning, run, until = coarse_trials)
  if (identical(state$stopped, "interrupted")) rlang::interrupt()
  scope <- scope_of(tuning, state)
  missed <- vapply(tuning$wishes, function(wish) {
    possible <- rep_len(truth_of(wish$expr, scope)$possible, length(tuning$candidate_of))
    rowSums(!matrix(possible, length(tuning$candidates))) > 0
  }, logical(length(tuning$candidates)))
  miss <- worst_rows(tuning, state)$miss
  may_do <- state$meets != "no"
  if (!is.null(tuning$aim)) may_do <- may_do & state$best != "worse"
  # Of what misses how much; of what does not how far it is from what is aimed at.
  aim <- aim_order(tuning, state)
  bad <- ifelse(miss > 0, max(aim, 0) + miss, aim)
  bad[is.na(bad)] <- Inf
  list(places = tuning$places, may_do = may_do, missed = matrix(missed, nrow(tuning$places)), bad = bad,
       trials = sum(state$done))
}

# Beside which finer ones are worth a trial: what may do; two neighbours with no wish that both miss, for in between all
# may be met; and what looks better than its neighbours.
is_promising <- function(raced, strides) {
  pairs <- rows_beside(raced$places, strides)
  one <- pairs[, 1]
  other <- pairs[, 2]
  common <- rowSums(raced$missed[one, , drop = FALSE] & raced$missed[other, , drop = FALSE]) > 0
  between <- ncol(raced$missed) > 0 & !common
  worse <- ifelse(raced$bad[one] > raced$bad[other], one, ifelse(raced$bad[other] > raced$bad[one], other, NA))
  better <- one + other - worse
  rows <- seq_len(nrow(raced$places))
  raced$may_do | rows %in% c(one[between], other[between]) | (rows %in% better & !rows %in% worse)
}

# Rows that differ in one sequence alone, by no more than its stride.
rows_beside <- function(places, strides) {
  found <- lapply(which(strides > 1), function(along) {
    others <- do.call(paste, c(list(rep("", nrow(places))), as.data.frame(places[, -along, drop = FALSE])))
    row <- order(others, places[, along])
    one <- row[-length(row)]
    other <- row[-1]
    beside <- others[one] == others[other] & places[other, along] - places[one, along] <= strides[along]
    cbind(one[beside], other[beside])
  })
  do.call(rbind, c(list(matrix(0L, 0, 2)), found))
}

# Only sequences of numbers that rise or fall are thinned: between other values nothing lies.
is_sequence <- function(dimension) {
  values <- dimension$labels
  is.numeric(values) && length(values) > 2 && (all(diff(values) > 0) || all(diff(values) < 0))
}

# By how much each sequence is thinned, the longest first, until there are few enough combinations.
coarse_strides <- function(dimensions, call) {
  strides <- rep(1, length(dimensions))
  sequences <- vapply(dimensions, is_sequence, NA)
  count <- function() lengths(Map(thinned, dimensions, strides))
  while (prod(count()) > most_coarse) {
    left <- ifelse(sequences, count(), 0)
    if (max(left) <= 3) {
      refuse_many(prod(vapply(dimensions, function(dimension) length(dimension$values), 0)), call)
      break
    }
    longest <- which.max(left)
    strides[longest] <- 2 * strides[longest]
  }
  strides
}

# Every so manieth value, both ends, and what is now.
thinned <- function(dimension, stride) {
  count <- length(dimension$values)
  sort(unique(c(seq(1, count, by = stride), count, if (!is.na(dimension$now)) dimension$now)))
}

places_of_grid <- function(values) {
  places <- as.matrix(expand.grid(values))
  dimnames(places) <- NULL
  places
}

# Those on the finer grid that lie less than a coarse step from one that is left.
places_beside <- function(left, dimensions, strides, finer) {
  on_grid <- Map(thinned, dimensions, finer)
  near <- lapply(seq_len(nrow(left)), function(row) {
    places_of_grid(Map(function(values, at, stride) values[abs(values - at) < stride], on_grid, left[row, ], strides))
  })
  unique(do.call(rbind, near))
}
