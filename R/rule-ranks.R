# Cards by their rank, for games in which the higher card wins.

# What every kind of card counts for: its rank if all ranks are whole numbers, else its place in their order.
ranks_of_kinds <- function(deck, rank_by, call) {
  kinds <- kinds_of(deck)
  data <- catalogue_of(deck)$data
  numbers <- names(data)[vapply(data, is.numeric, TRUE)]
  if (!rank_by %in% numbers) {
    refuse(sprintf("`rank_by` must name an attribute of the deck that is a number (%s), not %s%s",
                   if (length(numbers)) join_words(numbers, "or") else "it has none", quoted(rank_by),
                   did_you_mean(rank_by, numbers)), "rules", call)
  }
  rank <- data[[rank_by]][kinds$codes]
  if (anyNA(rank)) {
    refuse(sprintf("%s has no `%s`; leave it out of the deck, or set_attributes().", kinds$cards[is.na(rank)][1],
                   rank_by), "rules", call)
  }
  whole <- all(rank == floor(rank) & rank >= 0 & rank < 2^31)
  list(by = rank_by, whole = whole, rank = if (whole) as.double(rank) else match(rank, sort(unique(rank))))
}

refuse_for_ranks <- function(names, what, ranks, call) {
  if (!length(names)) return(invisible())
  refuse(sprintf("`%s` needs ranks that are whole numbers of 0 or more; `%s` is not.", names[1], ranks$by), "rules",
         call)
}
