# Decks made of a catalogue by chance: once, or anew in each trial.

#' @rdname deck_standard
#' @param size Number of cards, 0 to 65,535.
#' @param weights One number per kind, 0 or more, or the name of an attribute; `NULL`: the copies.
#' @param max_copies The most copies of a kind: one number for all, or one per kind.
#' @param seed A whole number from 0 to below 2^53, or `NULL` to take one from R's generator.
#' @param anew Whether the deck is picked anew in each trial of [draws()] that asks questions, rather than once:
#'   then what is returned is no cards but a sampling that only [draws()] takes as a deck, and `seed` has no part.
#' @export
deck_sampled <- function(catalogue, size, weights = NULL, max_copies = Inf, seed = NULL, anew = FALSE) {
  check_given()
  call <- rlang::current_env()
  listed <- if (is_cards(catalogue)) listing_of_deck(catalogue) else read_listing(catalogue, call)
  data <- listed$catalogue$data
  check_whole(size, 0, most_cards)
  check_flag(anew)
  if (rlang::is_string(weights)) weights <- data[[check_choice(weights, names(data), call = call)]]
  weights <- check_weights(if (is.null(weights)) listed$copies else weights, nrow(data), call)
  most <- check_max_copies(max_copies, nrow(data), size, call)
  if (sum(most[weights > 0]) < size) {
    refuse(sprintf("`size` must be at most %s with these weights and copies, not %s.",
                   format_count(sum(most[weights > 0])), format_count(size)))
  }
  if (anew) return(new_sampling(listed, size, weights, most, call))
  kinds <- core_sampled_kinds(weights, most, as.integer(size), resolve_seed(seed))
  never <- setdiff(seq_len(nrow(data)), kinds)
  if (length(never)) inform_user(sprintf("Never came: %s.", join_some(data$card[never], 12)))
  catalogue <- listed$catalogue
  catalogue$recipe <- NULL
  new_cards(kinds, catalogue)
}

check_weights <- function(weights, kinds, call) {
  fits <- is.numeric(weights) && length(weights) == kinds && all(is.finite(weights)) &&
    all(weights >= 0)
  if (fits && (kinds == 0 || any(weights > 0))) return(as.double(weights))
  refuse(sprintf("`weights` must be %s of 0 or more, not all 0, not %s.",
                 count_of(kinds, "number"), said(weights)), call = call)
}

check_max_copies <- function(max_copies, kinds, size, call) {
  fits <- is.numeric(max_copies) && length(max_copies) %in% c(1, kinds) &&
    all(!is.na(max_copies) & max_copies >= 0 & max_copies == floor(max_copies))
  if (!fits) {
    refuse(sprintf("`max_copies` must be one whole number of 0 or more, or one per kind, not %s.",
                   said(max_copies)), call = call)
  }
  # More copies than the deck has cards cannot come: this also makes Inf a number.
  pmin(rep(max_copies, length.out = kinds), size)
}

#' @export
print.habanera_sampling <- function(x, ...) {
  cat("<sampling> ", deck_in_words(x), "\n", sep = "")
  invisible(x)
}
