#' How often each category comes
#'
#' Counts every hand of a deck by its category, exactly.
#'
#' @param deck Cards.
#' @param size How many cards a hand has, 1 to 9; of more than count, the best do.
#' @param rules [hand_rules()] or a file of them; `NULL`: those for so many cards, five at most.
#' @param threads,progress As in [simulate()][simulate.habanera_experiment].
#' @return A `habanera_odds`: a data frame with a row for each category, the best first: `category` (text), `n` (how
#'   many hands), `probability`.
#' @section Errors: `habanera_error_input` for more cards than the deck has, and a wild condition that holds for none;
#'   `habanera_error_work` for more than 4e9 different hands, or 2e8 where the deck holds a card twice.
#' @examples
#' category_odds()
#' category_odds(deck_standard(ranks = c("6", "7", "8", "9", "10", "J", "Q", "K", "A")), 5)
#' category_odds(size = 3)
#' @export
category_odds <- function(deck = deck_standard(), size = 5, rules = NULL, threads = NULL, progress = NULL) {
  call <- rlang::current_env()
  check_deck(deck, call)
  check_whole(size, 1, min(9, max(1, length(deck))))
  rules <- if (is.null(rules)) hand_rules(size = min(size, 5)) else check_hand_rules(rules, call)
  if (rules$tie_break == "dealt_order") rules$tie_break <- "kickers"  # a category does not depend on it
  kinds <- kinds_of(deck)
  bound <- bound_hand_rules(rules, catalogue_of(deck), kinds$codes, call)
  refuse_rankless(bound, list(codes = kinds$codes, catalogue = catalogue_of(deck)), call)
  refuse_many_hands(kinds, size, call)
  # Cards of a rank side by side, so that hands share their beginnings.
  order <- order(bound$rank[kinds$codes], na.last = TRUE)
  local_progress("Counting hands", progress)
  n <- tryCatch(
    core_count_categories(core_hand_rules(bound), kinds$codes[order], as.integer(kinds$copies[order]), size,
                          resolve_threads(threads, call)),
    `std::length_error` = function(cnd) {
      refuse(sprintf("This cannot be counted: %s.", conditionMessage(cnd)), "work", call)
    }
  )
  found <- data.frame(category = rev(bound$names), n = rev(n), probability = rev(n) / choose(length(deck), size))
  structure(found, made = call_made(), class = table_class("habanera_odds"), deck = deck, size = size, rules = rules)
}

# Where cards are there twice, hands are told apart the slow way.
refuse_many_hands <- function(kinds, size, call) {
  alike <- any(kinds$copies > 1)
  hands <- choose(length(kinds$codes) + if (alike) size - 1 else 0, size)
  most <- if (alike) 2e8 else 4e9
  if (hands <= most) return(invisible())
  refuse(sprintf("There are about %s different hands to count; at most %s are. Take fewer cards.",
                 format_number(hands, 3), format_count(most)), "work", call)
}

#' @export
tell.habanera_odds <- function(x, ...) {
  cat_wrapped(sprintf("<category odds> hands of %s from %s, exact", count_of(attr(x, "size"), "card"),
                      deck_in_words(attr(x, "deck"))))
  cat_wrapped(odds_in_words(x))
  shown <- data.frame(category = x$category, n = format_count(x$n), probability = format_percent(x$probability, 4),
                      `1 in` = one_in_odds(x$probability), check.names = FALSE)
  print_rows(shown)
  invisible(x)
}

# Better than the least: what there is of that.
odds_in_words <- function(x) {
  came <- x$category[x$n > 0]
  if (length(came) == 1) return(sprintf("All %s hands are %s.", format_count(sum(x$n)), came))
  sprintf("Of %s hands %s are %s or better.", format_count(sum(x$n)),
          format_percent(1 - x$probability[x$category == came[length(came)]], 4), came[length(came) - 1])
}

one_in_odds <- function(p) {
  ifelse(p > 0, ifelse(p < 1e-4, format_count(signif(1 / p, 4)), format_number(1 / p, 4)), "")
}
