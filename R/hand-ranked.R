#' Hands side by side
#'
#' `rank_hands()` puts category, strength and place beside each hand; `compare()` of two [hand_rules()] tells which
#' hands move when the rules change.
#'
#' @param hands,rules,size,deck,columns As in [hand_category()].
#' @return `rank_hands()`: a data frame of class `habanera_ranked`: `hand` (text), `category`, `strength`, `place` (1 is
#'   the weakest). `compare()`: a data frame of class `habanera_moved`: `hand`, then `category_x`, `category_y`,
#'   `place_x`, `place_y` by both rules, and `moved` (`place_y - place_x`).
#' @section Errors: as [hand_category()].
#' @examples
#' hands <- c("2C 2D 7H 7S KD", "9H 9C 2S 3D 4H", "AS KS 9S 4S 2S")
#' rank_hands(hands)
#' compare(hand_rules(), hand_rules(wild = rank == "2"), hands)
#' @export
rank_hands <- function(hands, rules = hand_rules(), size = NULL, deck = NULL, columns = NULL) {
  check_given()
  call <- rlang::current_env()
  rules <- check_hand_rules(rules, call)
  read <- read_hands(hands, size, deck, call, columns)
  ranked_hands(read, rules, call)
}

ranked_hands <- function(read, rules, call) {
  found <- worth_of_read(read, rules, call)
  hand <- rep(seq_along(read$sizes), times = read$sizes)
  texts <- vapply(split(read$catalogue$data$card[read$codes], factor(hand, seq_along(read$sizes))), paste, "",
                  collapse = " ", USE.NAMES = FALSE)
  structure(data.frame(hand = texts, category = found$category, strength = found$strength,
                       place = places_of(found$strength)),
            made = call_made(), class = table_class("habanera_ranked"))
}

#' @export
tell.habanera_ranked <- function(x, rows = 20, ...) {
  if (!all(c("hand", "category", "place") %in% names(x)) || !nrow(x)) return(NextMethod())
  best <- which(x$place == max(x$place))
  cat_wrapped(sprintf("<hands> Of %s the best %s %s (%s).", count_of(nrow(x), "hand"),
                      if (length(best) == 1) "is" else "are", join_some(sprintf("%s", x$hand[best]), 3),
                      x$category[best[1]]))
  print_head(plain_table(x[c("hand", "category", "place")]), rows)
  invisible(x)
}

#' @rdname rank_hands
#' @param x,y Two [hand_rules()].
#' @param ... Not used.
#' @export
compare.habanera_hand_rules <- function(x, y, hands, size = NULL, deck = NULL, ...) {
  check_given()
  call <- rlang::current_env()
  check_no_more(call, ...)
  y <- check_hand_rules(y, call)
  read <- read_hands(hands, size, deck, call)
  one <- ranked_hands(read, x, call)
  two <- ranked_hands(read, y, call)
  structure(data.frame(hand = one$hand, category_x = as.character(one$category),
                       category_y = as.character(two$category), place_x = one$place, place_y = two$place,
                       moved = two$place - one$place),
            made = call_made(), class = table_class("habanera_moved"))
}

#' @export
tell.habanera_moved <- function(x, rows = 20, ...) {
  if (!all(c("moved", "category_x", "category_y") %in% names(x))) return(NextMethod())
  moved <- sum(x$moved != 0)
  other <- sum(x$category_x != x$category_y)
  cat_wrapped(sprintf("<hands> %s of %s %s by the other rules, and %s %s in another category.", format_count(moved),
                      count_of(nrow(x), "hand"), if (moved == 1) "moves" else "move",
                      if (other) format_count(other) else "none", if (other <= 1) "is" else "are"))
  print_head(plain_table(x), rows)
  invisible(x)
}
