# Pairs for one seat in plain R, from the rules alone: the turns still to come by best play, for every move of a choice.
# What counts is how many cards lie unseen, how many known ones have an unseen mate, and how many known pairs there are.

plain_turns <- function() {
  known <- new.env()
  # Everything but names: how many unseen cards, known singles whose mate is unseen, and known pairs.
  still <- function(unseen, singles, pairs) {
    if (unseen == 0 && singles == 0 && pairs == 0) return(0)
    key <- paste(unseen, singles, pairs)
    if (is.null(known[[key]])) known[[key]] <- min(first_moves(unseen, singles, pairs))
    known[[key]]
  }
  # A known pair is there to be taken; an unseen card; a known single.
  first_moves <- function(unseen, singles, pairs) {
    c(pair = if (pairs > 0) 1 + still(unseen, singles, pairs - 1), unseen = if (unseen > 0) after_new(unseen, singles,
                                                                                                     pairs),
      single = if (singles > 0 && unseen > 0) after_single(unseen, singles, pairs))
  }
  # A first card that was unseen is the mate of a known one, or new; then the best second.
  after_new <- function(unseen, singles, pairs) {
    mate <- if (singles > 0) singles / unseen * (1 + still(unseen - 1, singles - 1, pairs)) else 0
    fresh <- unseen - singles
    mate + if (fresh > 0) fresh / unseen * min(second_moves(unseen - 1, singles, pairs)) else 0
  }
  # `unseen` lie still unseen, beside a new card that was turned: turn another, or a known one, which shows nothing.
  second_moves <- function(unseen, singles, pairs) {
    c(unseen = if (unseen > 0) after_second(unseen, singles, pairs),
      known = if (singles > 0 || pairs > 0) 1 + still(unseen, singles + 1, pairs))
  }
  after_second <- function(unseen, singles, pairs) {
    rest <- unseen - 1 - singles
    1 / unseen * (1 + still(unseen - 1, singles, pairs)) +
      (if (singles > 0) singles / unseen * (1 + still(unseen - 1, singles, pairs + 1)) else 0) +
      (if (rest > 0) rest / unseen * (1 + still(unseen - 1, singles + 2, pairs)) else 0)
  }
  # A known single first: the second is unseen and may be its mate.
  after_single <- function(unseen, singles, pairs) {
    rest <- unseen - singles
    1 / unseen * (1 + still(unseen - 1, singles - 1, pairs)) +
      (if (singles > 1) (singles - 1) / unseen * (1 + still(unseen - 1, singles - 1, pairs + 1)) else 0) +
      (if (rest > 0) rest / unseen * (1 + still(unseen - 1, singles + 1, pairs)) else 0)
  }
  # The second card beside a first whose mate is known, too.
  beside_known_mate <- function(unseen, singles, pairs) {
    fresh <- unseen - singles
    c(mate = 1 + still(unseen, singles, pairs), known = 1 + still(unseen, singles, pairs + 1),
      unseen = if (unseen > 0) (if (singles > 0) singles / unseen * (1 + still(unseen - 1, singles - 1, pairs + 2)) else
        0) + (if (fresh > 0) fresh / unseen * (1 + still(unseen - 1, singles + 1, pairs + 1)) else 0))
  }
  list(still = still, after_new = after_new, second_moves = second_moves, after_single = after_single,
       beside_known_mate = beside_known_mate)
}

# The turns still to come by each open move of every choice of a game that was played by these moves, in a list.
plain_worths <- function(deck, moves) {
  by <- plain_turns()
  lies <- rep(TRUE, length(deck))
  seen <- rep(FALSE, length(deck))
  first <- 0
  was_seen <- FALSE
  lapply(moves, function(move) {
    mate <- function(place) setdiff(which(deck == deck[place]), place)
    others <- lies & seq_along(deck) != first
    of <- function(place) seen[place] & seen[vapply(place, mate, 0)]
    unseen <- sum(others & !seen)
    singles <- sum(vapply(which(others & seen), function(place) !seen[mate(place)], NA))
    pairs <- sum(vapply(which(others & seen), of, NA)) / 2
    open <- which(others)
    turns <- vapply(open, function(place) {
      if (first == 0) {
        if (!seen[place]) return(by$after_new(unseen, singles, pairs))
        return(if (seen[mate(place)]) 1 + by$still(unseen, singles, pairs - 1) else
          by$after_single(unseen, singles, pairs))
      }
      partner <- mate(first)
      if (seen[partner]) {
        # Of the two that lie known together the partner is no single and no half of another pair.
        single <- singles
        whole <- sum(vapply(setdiff(which(others & seen), partner), of, NA)) / 2
        kind <- if (place == partner) "mate" else if (seen[place]) "known" else "unseen"
        return(by$beside_known_mate(unseen, single, whole)[[kind]])
      }
      if (was_seen) return(if (seen[place]) 1 + by$still(unseen, singles + 1, pairs) else
        by$after_single(unseen, singles + 1, pairs))
      by$second_moves(unseen, singles, pairs)[[if (seen[place]) "known" else "unseen"]]
    }, 0)
    if (first == 0) {
      was_seen <<- seen[move]
      seen[move] <<- TRUE
      first <<- move
    } else {
      seen[move] <<- TRUE
      if (deck[move] == deck[first]) lies[c(move, first)] <<- FALSE
      first <<- 0
    }
    rlang::set_names(turns, open)
  })
}
