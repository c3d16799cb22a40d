# The exact law of hands, followed card by card through the stages. A law is a list of `rows` (an integer
# matrix with a hand in each row: cards by class, cards out of play by class, marks) and `chances`. The marks
# are first one for each card_at(), then one for each word over turns.
#
# A `maker` holds what the core makes laws with (`classes`, `replace`, `limit`), all the words about `places`
# that are marked, and the number of `classes`' columns.

hands_law <- function(x, most_hands) {
  # The core keeps the numbers of a hand in 16 bits.
  if (x$pool$most > most_cards) {
    refuse(sprintf("A hand of %s cannot be followed card by card; at most %s can.", count_of(x$pool$most, "card"),
                   format_count(most_cards)), "work", call = NULL)
  }
  spec <- with_mark_columns(x$spec)
  maker <- new_law_maker(x, spec, most_hands)
  if (spec$until) return(until_law(spec, maker))
  start <- start_law(spec, maker)
  law <- drawn_law(maker, start, x$size)
  for (i in seq_along(x$stages)) {
    stage <- spec$stages[[i]]
    law <- if (stage$stage == "redraw") redrawn_law(maker, start, law, stage) else {
      exchanged_law(x, maker, law, stage, x$stages[[i]])
    }
  }
  turned_law(x, spec, maker, law)
}

# Every set of words is told which marks are those of its own places.
with_mark_columns <- function(spec) {
  marked <- 0
  with_marks <- function(words) {
    words$marks <- marked + seq_along(words$places)
    marked <<- marked + length(words$places)
    words
  }
  if (!is.null(spec$words)) spec$words <- with_marks(spec$words)
  if (!is.null(spec$condition)) spec$condition$words <- with_marks(spec$condition$words)
  for (i in seq_along(spec$stages)) {
    if (spec$stages[[i]]$stage == "redraw") {
      spec$stages[[i]]$condition$words <- with_marks(spec$stages[[i]]$condition$words)
    }
  }
  for (i in seq_along(spec$turn_words)) {
    spec$turn_words[[i]]$condition$words <- with_marks(spec$turn_words[[i]]$condition$words)
  }
  spec
}

new_law_maker <- function(x, spec, most_hands) {
  classes <- question_classes(x)
  all <- words_in(spec)
  marked <- all[[1]]
  marked$places <- unlist(lapply(all, `[[`, "places"), recursive = FALSE)
  list(classes = classes, replace = x$replace, limit = most_hands, marked = marked, columns = 2 * length(classes$kind))
}

start_law <- function(spec, maker) {
  places <- length(maker$marked$places)
  turned <- length(spec$turn_words)
  start <- core_hands_start(maker, places + turned)
  every <- vapply(spec$turn_words, `[[`, TRUE, "every")
  start$rows[, maker$columns + places + seq_len(turned)] <- as.integer(every)
  start
}

drawn_law <- function(maker, law, count) core_hands_draw(maker, law, as.integer(count), maker$marked)

# The part of a law in which something holds.
law_where <- function(law, holds) list(rows = law$rows[holds, , drop = FALSE], chances = law$chances[holds])

law_joined <- function(maker, one, two) {
  law_merged(maker, list(rows = rbind(one$rows, two$rows), chances = c(one$chances, two$chances)))
}

# The core goes row by row, so that like rows must become one: drawing nothing does that.
law_merged <- function(maker, law) drawn_law(maker, law, 0)

# The index of some words for each hand.
law_index <- function(maker, law, words) {
  steps <- vapply(words$places, `[[`, 0, "step")
  marks <- law$rows[, maker$columns + words$marks, drop = FALSE]
  core_hands_indices(maker, law, words) + as.vector(marks %*% steps)
}

law_holds <- function(maker, law, condition, turn = 0) {
  condition$holds[law_index(maker, law, condition$words) + 1 + turn * condition$words$cells] == 1
}

redrawn_law <- function(maker, start, law, stage) {
  for (time in seq_along(stage$sizes)) {
    again <- law_holds(maker, law, stage$condition)
    if (!any(again)) return(law)
    fresh <- drawn_law(maker, start, stage$sizes[time])
    for (i in seq_len(stage$put_back[time])) fresh <- core_hands_put_under(maker, fresh, stage$under_first)
    fresh$chances <- fresh$chances * sum(law$chances[again])
    law <- law_joined(maker, law_where(law, !again), fresh)
  }
  law
}

exchanged_law <- function(x, maker, law, stage, given) {
  for (time in seq_len(stage$times)) {
    kept <- if (is.null(given$code)) core_hands_kept(maker, law, stage$ways) else kept_classes(x, maker, law)
    law <- core_hands_exchange(maker, law, kept)
  }
  law
}

# Every kind is a class of its own where an R function decides.
kept_classes <- function(x, maker, law) {
  kinds <- maker$classes$kind
  kept <- lapply(seq_len(nrow(law$rows)), function(row) {
    hand <- rep(kinds, times = law$rows[row, seq_along(kinds)])
    tabulate(match(hand[kept_by_function(x, hand)], kinds), length(kinds))
  })
  matrix(unlist(kept), ncol = length(kinds), byrow = TRUE)
}

# The keys of all turns with their chances.
turned_law <- function(x, spec, maker, law) {
  found <- list()
  for (turn in 0:x$turns) {
    law <- with_turn_marks(spec, maker, law, turn)
    found[[turn + 1]] <- list(key = turn * x$words$cells + turn_keys(spec, maker, law), probability = law$chances)
    if (turn < x$turns) law <- drawn_law(maker, law, x$turn_size)
  }
  list(key = unlist(lapply(found, `[[`, "key")), probability = unlist(lapply(found, `[[`, "probability")))
}

turn_columns <- function(spec, maker) maker$columns + length(maker$marked$places) + seq_along(spec$turn_words)

with_turn_marks <- function(spec, maker, law, turn) {
  columns <- turn_columns(spec, maker)
  if (!length(columns)) return(law)
  # All are asked before any mark is changed: until they are merged again, rows may be alike.
  holds <- lapply(spec$turn_words, function(word) as.integer(law_holds(maker, law, word$condition, turn)))
  for (i in seq_along(columns)) {
    both <- if (spec$turn_words[[i]]$every) pmin else pmax
    law$rows[, columns[i]] <- both(law$rows[, columns[i]], holds[[i]])
  }
  law_merged(maker, law)
}

turn_keys <- function(spec, maker, law) {
  steps <- vapply(spec$turn_words, `[[`, 0, "step")
  law_index(maker, law, spec$words) + as.vector(law$rows[, turn_columns(spec, maker), drop = FALSE] %*% steps)
}

# Turning cards until: what has met the condition after each card is set aside.
until_law <- function(spec, maker) {
  law <- start_law(spec, maker)
  key <- probability <- numeric()
  for (turned in 0:spec$most) {
    met <- law_holds(maker, law, spec$condition)
    key <- c(key, 2 * turned + 1)
    probability <- c(probability, sum(law$chances[met]))
    law <- law_where(law, !met)
    if (!nrow(law$rows)) break
    if (turned < spec$most) law <- drawn_law(maker, law, 1)
  }
  key <- c(key, 2 * spec$most)
  probability <- c(probability, sum(law$chances))
  list(key = key[probability > 0], probability = probability[probability > 0])
}
