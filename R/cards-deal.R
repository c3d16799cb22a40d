#' Deal hands
#'
#' @param x Cards, the top first.
#' @param hands The number of hands, or their names.
#' @param size Cards for each hand; `NULL` deals all, the remainder to the first seats.
#' @param pattern `"alternate"`: a card to each seat in turn; `"block"`: each hand at once.
#' @return A list of class `habanera_deal`: each hand by its name (`hand_1`, `hand_2`, ... unless
#'   named), then `stock`, the cards left over, all of them `cards` in the order dealt.
#' @section Errors: `habanera_error_input` when more is dealt than there is.
#' @examples
#' deal(shuffle(deck_standard(), seed = 1), hands = 4, size = 5)
#' @export
deal <- function(x, hands, size = NULL, pattern = c("alternate", "block")) {
  check_given()
  check_cards_argument(x)
  names <- hand_names(hands, rlang::current_env())
  pattern <- check_choice(pattern, c("alternate", "block"))
  sizes <- hand_sizes(length(x), length(names), size, rlang::current_env())
  seat <- if (pattern == "block") rep(seq_along(sizes), times = sizes) else {
    rounds <- rep(seq_along(sizes), times = max(sizes))
    rounds[seq_len(sum(sizes))]
  }
  dealt <- lapply(seq_along(sizes), function(i) x[which(seat == i)])
  stock <- x[seq_along(x) > sum(sizes)]
  structure(c(rlang::set_names(dealt, names), list(stock = stock)), class = "habanera_deal")
}

hand_names <- function(hands, call) {
  if (!is.character(hands)) {
    check_whole(hands, 1, most_cards, "hands", call)
    return(paste0("hand_", seq_len(hands)))
  }
  check_utf8(hands, "hands", call)
  bad <- is.na(hands) | !nzchar(hands) | hands == "stock" | duplicated(hands)
  if (!length(hands) || any(bad)) {
    refuse("`hands` must be a number or different names, none of them \"stock\".", call = call)
  }
  hands
}

hand_sizes <- function(cards, hands, size, call) {
  if (is.null(size)) return(cards %/% hands + (seq_len(hands) <= cards %% hands))
  most <- cards %/% hands
  check_whole(size, name = "size", call = call)
  if (size > most) {
    refuse(sprintf("`size` must be at most %s for %s from %s, not %s.", format_count(most),
                   count_of(hands, "hand"), count_of(cards, "card"), format_count(size)),
           call = call)
  }
  rep(size, hands)
}

#' @export
print.habanera_deal <- function(x, ...) {
  hands <- setdiff(names(x), "stock")
  cat(sprintf("<deal> %s, %s in the stock\n", count_of(length(hands), "hand"),
              count_of(length(x$stock), "card")))
  width <- max(nchar(names(x)))
  for (name in c(hands, if (length(x$stock)) "stock")) {
    lines <- hand_lines(x[[name]], if (name == "stock") 13 else 60)
    cat(paste(formatC(c(name, rep("", length(lines) - 1)), width = -width), lines), sep = "\n")
  }
  invisible(x)
}

# A hand whole, 13 cards on a line; what is longer than `most` is cut short.
hand_lines <- function(hand, most) {
  if (!length(hand)) return("")
  shown <- utils::head(hand, most)
  faces <- paint_suits(format(shown), shown)
  lines <- vapply(split(faces, (seq_along(faces) - 1) %/% 13), paste, "", collapse = " ")
  more <- length(hand) - length(shown)
  if (more > 0) lines[length(lines)] <- sprintf("%s ... and %s more", lines[length(lines)], format_count(more))
  unname(lines)
}
