#' What hands are worth
#'
#' `hand_category()` names the best category of each hand, `hand_strength()` gives a number that compares hands between
#' calls under the same rules (higher is better, equal is tied), `hand_place()` the place of each among those given: 1
#' is the weakest, tied hands share a place, and no place is left out. `explain_hand()` tells which cards count and what
#' each wild card became.
#'
#' @param hands A list of cards, one for each hand; one `cards` vector with `size` (hands end to end), or a single
#'   hand; or texts such as `"AS KS QS JS 10S"`, one for each hand; or a data frame with columns of cards, or the name
#'   of a file (.csv, .tsv, .txt, .xlsx) with a hand a line, as [draws_recorded()] reads them. Texts of ranks alone (`"2
#'   10 K K A"`, `"T55J5"`) are hands without suits.
#' @param rules [hand_rules()], or a file of them (.yaml, .json).
#' @param size With one `cards` vector: how many cards make a hand.
#' @param deck The deck that the hands are dealt from, which tells what ranks are neighbours; `NULL`: all cards of the
#'   catalogue that the hands are of. A hand that holds a card more often than its deck is refused.
#' @param columns Of a data frame or file: which columns hold the cards; `NULL`: those that do.
#' @return `hand_category()`: an ordered factor, its levels from the worst; `hand_strength()`: whole numbers;
#'   `hand_place()`: whole numbers from 1; `explain_hand()`: a `habanera_hand`, a list of `category`, `counting` (the
#'   cards that count, with what wild ones became) and `strength`.
#' @section Errors: `habanera_error_input` for hands of no card or more than 9, and a card without a rank;
#'   `habanera_error_conservation` for a card that is in a hand more often than in the deck; `habanera_error_notation`
#'   for cards that cannot be read, with the hand.
#' @examples
#' hands <- c("AS KS QS JS 10S", "2C 2D 7H 7S KD", "5C 4D 3H 2S AD")
#' hand_category(hands)
#' hand_place(hands)
#' explain_hand("2C 2D 9H 2S KD", hand_rules(wild = rank == "2"))
#' # Prizes by place, as 10 tokens for each place.
#' sum(10 * hand_place(hands))
#' @name hands
NULL

#' @rdname hands
#' @export
hand_category <- function(hands, rules = hand_rules(), size = NULL, deck = NULL, columns = NULL) {
  check_given()
  hand_worth(hands, rules, size, deck, rlang::current_env(), columns)$category
}

#' @rdname hands
#' @export
hand_strength <- function(hands, rules = hand_rules(), size = NULL, deck = NULL, columns = NULL) {
  check_given()
  hand_worth(hands, rules, size, deck, rlang::current_env(), columns)$strength
}

#' @rdname hands
#' @export
hand_place <- function(hands, rules = hand_rules(), size = NULL, deck = NULL, columns = NULL) {
  check_given()
  places_of(hand_worth(hands, rules, size, deck, rlang::current_env(), columns)$strength)
}

places_of <- function(strength) match(strength, sort(unique(strength)))

hand_worth <- function(hands, rules, size, deck, call, columns = NULL) {
  worth_of_read(read_hands(hands, size, deck, call, columns), check_hand_rules(rules, call), call)
}

# Of hands that are read: a list of `category` (an ordered factor), `strength`, and the rules as they were `bound`.
worth_of_read <- function(read, rules, call) {
  bound <- bound_hand_rules(rules, read$catalogue, read$deck, call)
  refuse_rankless(bound, read, call)
  found <- core_hand_worth(core_hand_rules(bound), read$codes, read$sizes)
  list(category = factor(bound$names[found$category + 1], levels = bound$names, ordered = TRUE),
       strength = found$strength, bound = bound)
}

# As the core takes them: what has no rank or suit is told by the wild cards.
core_hand_rules <- function(bound) {
  bound$rank[is.na(bound$rank)] <- 0
  bound$suit[is.na(bound$suit)] <- -1
  bound$low_ace[is.na(bound$low_ace)] <- -1
  bound$ranks <- length(bound$ranks)
  bound
}

#' @rdname hands
#' @export
explain_hand <- function(hands, rules = hand_rules(), deck = NULL) {
  check_given()
  call <- rlang::current_env()
  rules <- check_hand_rules(rules, call)
  read <- read_hands(hands, NULL, deck, call)
  if (length(read$sizes) != 1) refuse(sprintf("One hand is explained, not %s.", count_of(length(read$sizes), "hand")))
  found <- worth_of_read(read, rules, call)
  structure(list(category = as.character(found$category), strength = found$strength,
                 counting = counting_cards(read, found$bound, rules),
                 hand = paste(read$catalogue$data$card[read$codes], collapse = " ")),
                 made = call_made(), class = result_class("habanera_hand"))
}

# The best choice of the cards that count, and what each wild one of them became: the first assignment of ranks and
# suits that leaves the hand its strength.
counting_cards <- function(read, bound, rules) {
  codes <- read$codes
  size <- min(rules$size, length(codes))
  chosen <- utils::combn(length(codes), size, simplify = FALSE)
  worth <- core_hand_worth(core_hand_rules(bound), codes[unlist(chosen)], rep(size, length(chosen)))$strength
  counting <- codes[chosen[[which.max(worth)]]]
  became <- as.list(read$catalogue$data$card[counting])
  for (place in which(bound$wild[counting])) {
    others <- which(!bound$wild & !is.na(bound$rank))
    tried <- vapply(others, function(code) {
      counting[place] <- code
      core_hand_worth(core_hand_rules(utils::modifyList(bound, list(wild_lowest = FALSE))), counting, size)$category
    }, 0)
    now <- core_hand_worth(core_hand_rules(bound), counting, size)$category
    value <- ifelse(tried == now, bound$rank[others], -1)
    became[[place]] <- paste(became[[place]], "as", read$catalogue$data$card[others[which.max(value)]])
    counting[place] <- others[which.max(value)]
  }
  unlist(became)
}

#' @rawNamespace S3method(generics::tidy, habanera_hand)
tidy.habanera_hand <- function(x, ...) {
  data.frame(hand = x$hand, category = x$category, strength = x$strength, counting = paste(x$counting, collapse = " "))
}

#' @export
in_words.habanera_hand <- function(x, ...) sprintf("%s: %s", x$hand, x$category)

#' @export
tell.habanera_hand <- function(x, ...) {
  cat_wrapped(sprintf("<hand> %s", x$hand))
  cat_wrapped(sprintf("%s: %s", sentence(x$category), join_words(x$counting)))
  invisible(x)
}
