# Where the luck of a game of one's own comes from: R's generator, set from the trial's address; or a path of choices,
# of which all are walked.

# `shuffled()` gives the cards of a pile in the order in which they are to lie.
drawn_luck <- function(shuffled = function(cards) cards[sample.int(length(cards))]) {
  list(walks = FALSE, below = function(n) sample.int(n, 1),
       weighed = function(weights) sample.int(length(weights), 1, prob = weights), shuffled = shuffled)
}

# Luck for one trial after the other in which cards that a shuffle has hidden change places: `change(other)` begins one,
# where `other` by the number of the shuffle is a list of `cards` and of what lies in their places.
changed_luck <- function(other = list()) {
  shuffles <- 0
  luck <- drawn_luck(function(cards) {
    shuffles <<- shuffles + 1
    cards <- cards[sample.int(length(cards))]
    if (shuffles > length(other)) return(cards)
    change <- other[[shuffles]]
    at <- match(change$cards, cards)
    if (anyNA(at)) stop(does_not_fit)
    replace(cards, at, change$by)
  })
  c(luck, change = function(by) {
    shuffles <<- 0
    other <<- by
  })
}

# Choices so far, and how many others each has: `path$next_one()` goes on to the next course, FALSE after the last.
walked_luck <- function() {
  taken <- sizes <- integer()
  at <- 0
  chance <- 1
  choice <- function(size) {
    at <<- at + 1
    if (at > length(taken)) {
      taken[at] <<- 1L
      sizes[at] <<- size
    }
    taken[at]
  }
  list(
    walks = TRUE,
    below = function(n) {
      chance <<- chance / n
      choice(n)
    },
    # One of so many that nobody's luck decides.
    free = choice,
    weighed = function(weights) {
      open <- which(weights > 0)
      kind <- open[choice(length(open))]
      chance <<- chance * weights[kind] / sum(weights)
      kind
    },
    begin = function() {
      at <<- 0
      chance <<- 1
    },
    chance = function() chance,
    next_one = function() {
      last <- length(taken)
      while (last > 0 && taken[last] == sizes[last]) last <- last - 1
      taken <<- taken[seq_len(last)]
      sizes <<- sizes[seq_len(last)]
      if (last > 0) taken[last] <<- taken[last] + 1L
      last > 0
    }
  )
}
