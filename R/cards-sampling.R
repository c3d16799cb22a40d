# A deck that is picked anew in each trial: `from`, the deck that lists its kinds, its `size`, and for each card of
# the catalogue its weight and the most copies.

new_sampling <- function(listed, size, weights, max_copies, call) {
  from <- new_cards(rep(seq_along(listed$copies), times = listed$copies), listed$catalogue)
  x <- structure(list(from = from, size = as.double(size), weights = weights, max_copies = as.double(max_copies)),
                 class = "habanera_sampling")
  most <- sum(max_copies[sampled_codes(x)])
  if (most > most_cards) {
    refuse(sprintf("A deck sampled anew may hold %s cards of all kinds together; at most %s: lower `max_copies`.",
                   format_count(most), format_count(most_cards)), call = call)
  }
  x
}

is_sampling <- function(x) inherits(x, "habanera_sampling")

# The codes of the cards that can come.
sampled_codes <- function(x) which(x$weights > 0 & x$max_copies > 0)

# Whether kinds have other weights than their copies in the deck that lists them.
is_weighted <- function(x) !identical(as.double(x$weights), as.double(tabulate(codes_of(x$from), length(x$weights))))

# All cards that the deck may hold.
sampled_pool <- function(x) {
  codes <- sampled_codes(x)
  new_cards(rep(codes, times = x$max_copies[codes]), catalogue_of(x$from))
}

# What the core is told of kinds in the order of the pool.
core_sampling <- function(x) {
  codes <- sampled_codes(x)
  list(weights = x$weights[codes], max_copies = x$max_copies[codes])
}

# The kinds in a deck, each as often as it lies there.
listing_of_deck <- function(deck) {
  copies <- as.double(tabulate(codes_of(deck), nrow(catalogue_of(deck)$data)))
  list(catalogue = catalogue_of(deck), copies = copies)
}
