#' What is in a deck
#'
#' How many cards there are, which come more than once, and how they divide by each attribute.
#'
#' @param object Cards.
#' @param ... Not used.
#' @return A `habanera_deck_summary`, a data frame: `attribute` ("card", "rank", "suit", ...), `value` (text), `cards`
#'   (how many).
#' @examples
#' summary(deck_from(c("AS", "AS", "KD")))
#' summary(deck_standard(packs = 2))
#' @export
summary.cards <- function(object, ...) {
  data <- catalogue_of(object)$data[codes_of(object), , drop = FALSE]
  told <- intersect(c("card", "rank", "suit"), names(data))
  told <- c(told, setdiff(names(data)[vapply(data, is.character, NA)], told))
  rows <- lapply(told, function(name) {
    values <- data[[name]]
    if (name == "rank" && !is.null(data[["rank_high"]])) values <- values[order(data[["rank_high"]])]
    n <- table(factor(values, unique(values)), useNA = "no")
    data.frame(attribute = rep(name, length(n)), value = names(n), cards = as.double(n))
  })
  structure(do.call(rbind, rows), made = call_made(), class = table_class("habanera_deck_summary"),
            title = catalogue_of(object)$title, size = length(object))
}

#' @export
tell.habanera_deck_summary <- function(x, ...) {
  cards <- x[x$attribute == "card", ]
  copies <- sort(unique(cards$cards))
  cat_wrapped(sprintf("<deck> %s, %s: %s%s.", count_of(attr(x, "size"), "card"), attr(x, "title"),
                      count_of(nrow(cards), "different one"),
                      if (!nrow(cards)) "" else if (length(copies) == 1) {
                        if (copies == 1) ", each once" else sprintf(", each %s times", format_count(copies))
                      } else sprintf("; most often %s (%s times)", join_some(cards$value[cards$cards == max(copies)],
                                                                             3),
                                     format_count(max(copies)))))
  for (name in setdiff(unique(x$attribute), "card")) {
    rows <- x[x$attribute == name, ]
    cat_wrapped(sprintf("  %s: %s", name, join_some(sprintf("%s %s", rows$value, format_count(rows$cards)), 15)))
  }
  invisible(x)
}
