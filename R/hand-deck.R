# Rules for hands, bound to a deck: what each of its cards is to them.

# A list as the core takes it, over all cards of the catalogue, with the `ranks` by name. Ranks and suits are those of
# the deck, `codes` (NULL: all of the catalogue): two ranks are neighbours when no card of the deck lies between.
bound_hand_rules <- function(rules, catalogue, codes, call) {
  data <- catalogue$data
  in_deck <- if (is.null(codes)) rep(TRUE, nrow(data)) else seq_len(nrow(data)) %in% codes
  wild <- if (is.null(rules$wild)) rep(FALSE, nrow(data)) else wild_cards(rules$wild, catalogue, in_deck, call)
  value <- rank_values(rules, data, call)
  value[!in_deck] <- NA
  ranks <- sort(unique(value[!is.na(value)]))
  if (length(ranks) > 32) {
    refuse(sprintf("Hands are told by at most 32 ranks; %s has %s.", catalogue$title, format_count(length(ranks))),
           call = call)
  }
  suit <- if (is.null(data$suit)) rep(NA, nrow(data)) else data$suit
  suits <- unique(suit[!is.na(suit) & in_deck])
  names <- if (is.null(data$rank)) as.character(ranks) else as.character(data$rank)[match(ranks, value)]
  list(
    size = rules$size, rank = match(value, ranks) - 1, suit = match(suit, suits) - 1, wild = wild,
    ranks = names, suits = length(suits), low_ace = if (rules$ace == "both") match("A", names) - 1 else NA_real_,
    categories = lapply(rules$categories, bound_category, names, call), dealt_order = rules$tie_break == "dealt_order",
    wild_lowest = rules$wild_counts_as == "lowest", names = rev(rules$categories)
  )
}

bound_category <- function(name, ranks, call) {
  parts <- category_parts(name, call)
  place <- function(rank, without) {
    at <- if (is.null(rank)) without else match(rank, toupper(ranks))
    if (is.na(at)) {
      refuse(sprintf("%s: no card of the deck has the rank %s.", quoted(name), quoted(rank)), call = call)
    }
    at - 1
  }
  list(what = parts$category, from = place(parts$from, 1), to = place(parts$to, 33), natural = parts$natural,
       wild = parts$wild)
}

wild_cards <- function(condition, catalogue, in_deck, call) {
  data <- catalogue$data
  expr <- checked_on_names(parse_expression(condition, "wild", call), names(data), NULL, "cards have", call)
  holds <- interpret(expr, list(values = as.list(data), rows = nrow(data)), call)
  if (!is.logical(holds)) refuse("`wild` must be a condition, such as rank == \"2\".", "language", call)
  holds <- rep_len(holds, nrow(data)) & !is.na(holds) & in_deck
  if (!any(holds)) refuse(sprintf("`wild`: `%s` holds for no card of the deck.", condition), call = call)
  holds
}

# A number for each card, with the ace where the rules have it.
rank_values <- function(rules, data, call) {
  by <- rules$rank_by
  if (is.null(by)) by <- c(intersect(c("rank_high", "rank"), names(data)), "card")[1]
  if (!by %in% names(data)) {
    refuse(sprintf("`rank_by` must name an attribute of the cards (%s), not %s%s", join_words(names(data), "or"),
                   quoted(by), did_you_mean(by, names(data))), call = call)
  }
  value <- data[[by]]
  if (!is.numeric(value)) value <- match(value, unique(value))
  aces <- !is.na(value) & as.character(if (is.null(data$rank)) data$card else data$rank) %in% "A"
  if (any(aces) && !all(aces)) {
    others <- value[!aces & !is.na(value)]
    value[aces] <- if (rules$ace == "low") min(others) - 1 else max(others) + 1
  }
  value
}

#' @rdname deck_standard
#' @param copies For `deck_ranks()`: how many cards of each rank there are.
#' @export
deck_ranks <- function(ranks = NULL, copies = 4) {
  if (!is.null(ranks) && !is.character(ranks) && !is.numeric(ranks)) {
    refuse(sprintf("`ranks` must be texts or numbers, not %s.", said(ranks)))
  }
  ranks <- if (is.null(ranks)) standard_ranks else unique(as.character(ranks))
  check_whole(copies, 1, 1000)
  high <- if (all(ranks %in% standard_ranks)) match(ranks, standard_ranks) + 1 else seq_along(ranks)
  data <- data.frame(card = ranks, rank = ranks, rank_high = as.double(high))
  new_cards(rep(seq_along(ranks), each = copies), new_catalogue(data, "ranks without suits"))
}
