#' Where does a card go?
#'
#' Follows a card, or the whole deck, through repeats of a procedure.
#'
#' @param procedure A procedure.
#' @param position The card's place at the start, from the top; `NULL` shows the whole deck.
#' @param times How often the procedure is repeated.
#' @param deck Cards, or how many.
#' @param where_from Instead of `position`: the place it ends at; the answer is where it must start.
#' @param nsim,seed For random procedures on more than 7 cards: trials and seed of the simulation; of R functions
#'   without `nsim` fewer, as many as take half a minute. The whole deck is that of trial 1 of the seed.
#' @return A data frame of class `habanera_followed` with a row for every repeat 0 to `times`: for the whole
#'   deck `times`, `position`, `card` (the place it started at); for one card of a deterministic procedure
#'   `times`, `position`; otherwise `times`, `position` and `probability` (exact up to 7 cards, else the
#'   simulated share).
#' @section Errors: `habanera_error_input` for places that are not in the deck.
#' @examples
#' follow(shuffle_faro(), position = 2, times = 14, deck = 44)
#' follow(shuffle_riffle(), position = 1, times = 3, deck = 5)
#' @export
follow <- function(procedure, position = NULL, times = 1, deck = 52, where_from = NULL, nsim = 1e5,
                   seed = NULL) {
  check_given()
  check_procedure(procedure)
  check_whole(times, 0, 1e4)
  deck_size <- counted_deck(deck, 1, most_cards, rlang::current_env())
  check_whole(nsim, 1, 1e9)
  if (!is.null(position)) check_whole(position, 1, deck_size)
  if (!is.null(where_from)) check_whole(where_from, 1, deck_size)
  if (!is.null(position) && !is.null(where_from)) refuse("Give `position` or `where_from`, not both.")
  seed <- resolve_seed(seed)
  found <- if (is.null(position) && is.null(where_from)) {
    follow_deck(procedure, times, deck_size, seed)
  } else if (!is.null(pass <- fixed_pass(procedure, deck_size))) {
    follow_path(pass, position, where_from, times)
  } else {
    if (missing(nsim) && has_function(procedure)) {
      nsim <- affordable_trials(rep(procedure, times), deck_numbered(deck_size))
    }
    follow_law(procedure, position, where_from, times, deck_size, nsim, seed)
  }
  structure(found, made = call_made(by_luck = is.null(fixed_pass(procedure, deck_size))),
            class = table_class("habanera_followed"), procedure = short_words(procedure), deck_size = deck_size)
}

# Its text form, but of an R function, which has none.
short_words <- function(procedure) if (has_function(procedure)) procedure_in_words(procedure) else format(procedure)

# Where each place's card comes from in one pass of a procedure that leaves nothing to chance; NULL of any other. An R
# function is taken for one when it does the same from several addresses, so many that a fair shuffle would do so less
# than once in a billion times.
fixed_pass <- function(procedure, n) {
  if (!has_function(procedure)) {
    return(if (has_fixed_steps(procedure)) core_shuffled_places(core_steps(procedure), n, 0, 0, 0))
  }
  deck <- deck_numbered(n)
  runs <- max(3, 1 + ceiling(30 / max(1, lfactorial(n) / log(2))))
  passes <- lapply(seq_len(runs), function(trial) codes_of(shuffled_cards(deck, procedure, 7919 * trial, trial, NULL)))
  if (length(unique(passes)) == 1) passes[[1]]
}

has_fixed_steps <- function(procedure) {
  fixed <- vapply(procedure$steps, function(step) {
    step$name %in% c("none", "faro") || (step$name == "piles" && step$parameters$pick_up != "random") ||
      step$times == 0
  }, TRUE)
  all(fixed)
}

# The deck after each repeat: trial 1 of the seed, its steps going on from one repeat to the next.
follow_deck <- function(procedure, times, n, seed) {
  rows <- lapply(0:times, function(k) {
    deck <- shuffled_cards(deck_numbered(n), rep(procedure, k), seed, 1, NULL)
    data.frame(times = k, position = seq_len(n), card = as.numeric(as.character(deck)))
  })
  do.call(rbind, rows)
}

follow_path <- function(from, position, where_from, times) {
  # A card at place p goes to the place that takes from p; backwards, to the place it came from.
  step <- if (is.null(where_from)) order(from) else from
  at <- if (is.null(where_from)) position else where_from
  path <- Reduce(function(place, k) step[place], seq_len(times), at, accumulate = TRUE)
  data.frame(times = 0:times, position = as.double(path))
}

follow_law <- function(procedure, position, where_from, times, n, nsim, seed) {
  laws <- lapply(0:times, function(k) {
    places <- if (k == 0) diag(n) else place_law(rep(procedure, k), n, nsim, seed)
    chance <- if (is.null(where_from)) places[position, ] else places[, where_from]
    data.frame(times = k, position = as.double(seq_len(n)), probability = chance)
  })
  do.call(rbind, laws)
}

# The chance that the card from each place (rows) ends at each place (columns).
place_law <- function(procedure, n, nsim, seed) {
  law <- if (n <= 7 && !has_function(procedure)) tryCatch(exact(procedure, deck_numbered(n)),
                                                           habanera_error_work = function(cnd) NULL)
  if (is.null(law)) return(simulated_place_law(procedure, n, nsim, seed))
  cards <- do.call(rbind, strsplit(law$outcomes[["arrangement"]], " ", fixed = TRUE))
  outer(seq_len(n), seq_len(n), Vectorize(function(card, place) {
    sum(law$probability[cards[, place] == card])
  }))
}

most_place_cells <- 2^24

simulated_place_law <- function(procedure, n, nsim, seed) {
  if (n^2 > most_place_cells) {
    refuse(sprintf("A random procedure can be followed on at most %s cards, not %s.",
                   format_count(sqrt(most_place_cells)), format_count(n)), "work", call = NULL)
  }
  position_counts(procedure, deck_numbered(n), seed, 1, nsim) / nsim
}

#' @export
tell.habanera_followed <- function(x, rows = 30, ...) {
  cat(sprintf("<followed> %s, %s\n", attr(x, "procedure"), count_of(attr(x, "deck_size"), "card")))
  kept <- unique(x$times)
  shown <- utils::head(kept, rows)
  cat(sprintf("  after %d: %s\n", shown, vapply(shown, function(k) followed_line(x[x$times == k, ]), "")),
      sep = "")
  if (length(kept) > rows) cat(sprintf("# ... with %s more repeats\n", format_count(length(kept) - rows)))
  invisible(x)
}

# One repeat on a line: the deck, the place, or the likeliest places.
followed_line <- function(now) {
  if ("card" %in% names(now)) return(paste(now$card, collapse = " "))
  if (!"probability" %in% names(now)) return(paste("place", now$position))
  now <- now[now$probability > 0, ]
  likely <- utils::head(now[order(-now$probability), ], 8)
  more <- nrow(now) - nrow(likely)
  paste0(paste(sprintf("%s (%s)", likely$position, format_number(likely$probability)), collapse = ", "),
         if (more > 0) sprintf(" and %d more places", more))
}

#' When is the deck back?
#'
#' After how many repeats a deterministic procedure has the deck back as it was: the least common multiple
#' of the lengths of its cycles.
#'
#' @param procedure A deterministic procedure: faros, pile shuffles that are picked up in a set order, an R function
#'   that does the same whenever it is called.
#' @param deck Cards, or how many, or several such numbers.
#' @return A data frame of class `habanera_periods`: `deck_size`, `period` (`NA` above 2^53) and `cycles`
#'   (text: "2 of 1, 6 of 8" are two cycles of length 1 and six of length 8). `autoplot()` draws periods
#'   over sizes.
#' @section Errors: `habanera_error_input` for a random procedure.
#' @examples
#' restore_period(shuffle_faro(), 44)
#' restore_period(shuffle_faro("in"), 42:46)
#' @export
restore_period <- function(procedure, deck = 52) {
  check_given()
  check_procedure(procedure)
  deck_size <- if (is_cards(deck)) length(deck) else deck
  fits <- is.numeric(deck_size) && length(deck_size) %in% 1:1e4 && all(is.finite(deck_size)) &&
    all(deck_size >= 0 & deck_size <= most_cards & deck_size == floor(deck_size))
  if (!fits) refuse(sprintf("`deck` must be cards, or numbers of them, such as 52 or 2:60, not %s.", said(deck)))
  passes <- lapply(deck_size, function(n) fixed_pass(procedure, n))
  if (any(vapply(passes, is.null, TRUE))) {
    refuse(sprintf("%s is random: it has no period. exact() or follow() say what it does.",
                   quoted(format(procedure))))
  }
  cycles <- lapply(passes, cycle_lengths)
  found <- data.frame(deck_size = as.double(deck_size), period = vapply(cycles, least_common_multiple, 0),
                      cycles = vapply(cycles, cycles_in_words, ""))
  structure(found, made = call_made(), class = table_class("habanera_periods"), procedure = short_words(procedure))
}

cycle_lengths <- function(from) {
  seen <- logical(length(from))
  lengths <- numeric()
  for (start in seq_along(from)) {
    length <- 0
    while (!seen[start]) {
      seen[start] <- TRUE
      start <- from[start]
      length <- length + 1
    }
    if (length > 0) lengths <- c(lengths, length)
  }
  lengths
}

least_common_multiple <- function(lengths) {
  divisor <- function(a, b) if (b == 0) a else divisor(b, a %% b)
  Reduce(function(a, b) {
    multiple <- a / divisor(a, b) * b
    if (is.na(multiple) || multiple > 2^53) NA_real_ else multiple
  }, unique(lengths), 1)
}

cycles_in_words <- function(lengths) {
  counts <- table(lengths)
  paste(sprintf("%d of %s", counts, names(counts)), collapse = ", ")
}

#' @export
in_words.habanera_periods <- function(x, ...) {
  sprintf("%s: %s", attr(x, "procedure"), join_some(sprintf("a deck of %s is as it was after %s times",
                                                            format_count(x$deck_size), format_count(x$period)), 3))
}

#' @export
tell.habanera_periods <- function(x, rows = 30, ...) {
  cat(sprintf("<periods> %s\n", attr(x, "procedure")))
  print_head(as.data.frame(unclass(x)), rows)
  invisible(x)
}
