# Tallies of draws that were not made by the core: a matrix of kinds (numbers in the order of
# kinds_of()), one row per trial, from trial `first` on.
tally_of_draws <- function(kinds, count, first, repeats) {
  rows <- rep(seq_len(nrow(kinds)), times = ncol(kinds))
  held <- as.vector(kinds)
  earliest <- match(seq_len(count), as.vector(t(kinds)))
  example <- first + (earliest - 1) %/% max(1, ncol(kinds))
  list(n = as.double(tabulate(held, count)), example_trial = ifelse(is.na(example), Inf, example),
       squares = if (repeats) squares_of_rows(rows, held, count))
}

# How often each kind stands in a row, squared and summed over the rows.
squares_of_rows <- function(rows, held, count) {
  runs <- rle(sort((rows - 1) * count + held))
  squares <- rowsum(runs$lengths^2, (runs$values - 1) %% count + 1)
  all <- numeric(count)
  all[as.integer(rownames(squares))] <- squares[, 1]
  all
}

# Stops at the first draw without replacement that holds more copies than the deck has.
refuse_doubled <- function(kinds, deck, replace, label, call) {
  if (replace || !length(kinds)) return(invisible())
  parts <- kinds_of(deck)
  count <- length(parts$codes)
  rows <- rep(seq_len(nrow(kinds)), times = ncol(kinds))
  runs <- rle(sort((rows - 1) * count + as.vector(kinds)))
  kind <- (runs$values - 1) %% count + 1
  bad <- which(runs$lengths > parts$copies[kind])
  if (!length(bad)) return(invisible())
  refuse(sprintf(paste("%s has %s %d times; the deck has it %d. If cards go back before the next is",
                       "drawn, say `replace = TRUE`."),
                 label((runs$values[bad[1]] - 1) %/% count + 1), quoted(parts$cards[kind[bad[1]]]),
                 runs$lengths[bad[1]], parts$copies[kind[bad[1]]]), "conservation", call)
}
