#' Which cards are kept
#'
#' Ways to choose the cards that are kept when a hand is exchanged. `keep_groups()` keeps every card whose
#' value of the attribute another card of the hand shares (pairs and better). `keep_suit()` keeps the cards
#' of the commonest suit when there are at least so many, else none; of equally common ones the suit that
#' comes first in the catalogue. `keep_run()` keeps one card of each value of the longest run of values
#' without a gap when it is at least so long, else none; of equally long ones the lowest, and of cards of
#' one value the first in the catalogue. `keep_where()` keeps the cards for which a condition holds.
#'
#' @param attribute Name of an attribute. For `keep_run()`, of whole numbers; `NULL`: `rank_high`, or else
#'   `rank`.
#' @param at_least Number of cards.
#' @param condition A condition on a card's attributes, such as `points >= 10`.
#' @return A way to keep cards, for [exchange_cards()].
#' @examples
#' draws(deck_standard(), 5, flush = largest_group(suit) == 5) |>
#'   exchange_cards(list(keep_suit(at_least = 4), keep_groups())) |>
#'   simulate(nsim = 1e4, seed = 1)
#' @export
keep_groups <- function(attribute = "rank") {
  check_string(attribute)
  new_keep("groups", attribute = attribute)
}

#' @rdname keep_groups
#' @export
keep_suit <- function(at_least = 4, attribute = "suit") {
  check_string(attribute)
  new_keep("suit", at_least = check_whole(at_least, 1, most_cards), attribute = attribute)
}

#' @rdname keep_groups
#' @export
keep_run <- function(at_least = 4, attribute = NULL) {
  if (!is.null(attribute)) check_string(attribute)
  new_keep("run", at_least = check_whole(at_least, 1, most_cards), attribute = attribute)
}

#' @rdname keep_groups
#' @export
keep_where <- function(condition) new_keep("where", condition = rlang::enquo(condition))

new_keep <- function(what, attribute = NULL, at_least = 1, condition = NULL) {
  structure(list(what = what, attribute = attribute, at_least = at_least, condition = condition),
            class = "habanera_keep")
}

#' @export
format.habanera_keep <- function(x, ...) {
  settings <- c(
    if (!is.null(x$condition)) expression_text(rlang::quo_squash(x$condition)),
    if (x$what %in% c("suit", "run")) sprintf("at_least = %s", format_count(x$at_least)),
    if (!is.null(x$attribute) && !identical(x$attribute, switch(x$what, groups = "rank", suit = "suit"))) {
      sprintf("attribute = %s", quoted(x$attribute))
    }
  )
  sprintf("keep_%s(%s)", x$what, paste(settings, collapse = ", "))
}

#' @export
print.habanera_keep <- function(x, ...) {
  cat("<keep> ", format(x), "\n", sep = "")
  invisible(x)
}

# The ways as a list, each made fast to the deck's catalogue: conditions checked, attributes found.
checked_ways <- function(keep, x, call) {
  ways <- if (inherits(keep, "habanera_keep")) list(keep) else keep
  if (!is.list(ways) || !length(ways) || !all(vapply(ways, inherits, TRUE, "habanera_keep"))) {
    refuse(sprintf("`keep` must be a way to keep cards, such as keep_groups(), a list of such, or a function, not %s.",
                   said(keep)), call = call)
  }
  lapply(ways, checked_way, catalogue_of(x$deck), call)
}

checked_way <- function(way, catalogue, call) {
  known <- names(catalogue$data)
  if (way$what == "where") {
    env <- if (rlang::is_quosure(way$condition)) rlang::quo_get_env(way$condition)
    expr <- if (rlang::is_quosure(way$condition)) rlang::quo_get_expr(way$condition) else way$condition
    way$condition <- checked_attributes(expr, catalogue, env, call)
    return(way)
  }
  if (is.null(way$attribute)) way$attribute <- if ("rank_high" %in% known) "rank_high" else "rank"
  if (!way$attribute %in% known) {
    refuse(sprintf("keep_%s() needs an attribute of the deck (%s), not %s%s", way$what, join_words(known),
                   quoted(way$attribute), did_you_mean(way$attribute, known)), call = call)
  }
  if (way$what == "run") refuse_no_run(catalogue$data[[way$attribute]], way$attribute, call)
  way
}

refuse_no_run <- function(values, attribute, call) {
  there <- values[!is.na(values)]
  if (is.numeric(there) && all(there == floor(there)) && diff(range(there, 0)) <= most_cards) return(invisible())
  refuse(sprintf("keep_run() needs an attribute of whole numbers, which `%s` is not.", attribute), call = call)
}

# As the core takes a way: a value for each kind, 0xffff where it has none.
core_way <- function(way, pool, call) {
  value <- way_values(way, pool, call)
  list(what = match(way$what, c("where", "groups", "suit", "run")) - 1L,
       value = ifelse(is.na(value), 0xffff, value), values = max(value + 1, 2, na.rm = TRUE), at_least = way$at_least)
}

way_values <- function(way, pool, call) {
  if (way$what == "where") return(condition_values(way$condition, pool, format(way), call))
  values <- pool$data[[way$attribute]]
  if (way$what == "run") return(values - min(values, Inf, na.rm = TRUE))
  seen <- unique(values[!is.na(values)])
  match(values, seen) - 1
}

plain_way <- function(way) {
  list(what = way$what, attribute = way$attribute, at_least = way$at_least,
       condition = if (!is.null(way$condition)) expression_text(way$condition))
}

way_from_plain <- function(plain, catalogue) {
  condition <- if (!is.null(plain$condition)) parse_expression(plain$condition, "condition", NULL)
  checked_way(new_keep(plain$what, plain$attribute, as.double(plain$at_least), condition), catalogue, NULL)
}
