# Where the luck of a game of one's own comes from: R's generator, set from the trial's address; or a path of choices,
# of which all are walked.

# `changed(number, cards)` is handed the cards of each shuffle, counted from 1, and gives them back as they are to lie.
drawn_luck <- function(changed = function(number, cards) cards) {
  shuffles <- 0
  list(walks = FALSE, below = function(n) sample.int(n, 1),
       weighed = function(weights) sample.int(length(weights), 1, prob = weights), shuffled = function(cards) {
    shuffles <<- shuffles + 1
    changed(shuffles, cards[sample.int(length(cards))])
  })
}

# Luck for a single trial in which cards that a shuffle has hidden change places: `other` by the number of the shuffle
# is a list of `cards` and of what lies in their places.
changed_luck <- function(other) {
  drawn_luck(function(number, cards) {
    change <- other[[as.character(number)]]
    if (is.null(change)) return(cards)
    at <- match(change$cards, cards)
    if (anyNA(at)) rlang::abort("does not fit", class = "habanera_far_enough")
    replace(cards, at, change$by)
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
