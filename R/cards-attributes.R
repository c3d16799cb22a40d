#' @rdname card_attributes
#' @param ... Attributes by name. The value is either a vector with one entry per card of `x`, or a
#'   vector named by ranks, by suits or by card codes; the name `other` stands for all the rest.
#'   Without `other`, cards that are not named keep what they had (a message says so), and have `NA`
#'   in a new attribute.
#' @return `set_attributes()`: the same cards with a catalogue of their own, which no longer mixes
#'   with the standard one.
#' @section Errors: `habanera_error_input` when names fit neither ranks, suits nor cards, or when
#'   copies of one card would get different values.
#' @export
set_attributes <- function(x, ...) {
  check_given()
  check_cards_argument(x)
  values <- rlang::list2(...)
  if (!length(values) || is.null(names(values)) || any(!nzchar(names(values)))) {
    refuse("Give each attribute by name, as in set_attributes(deck, points = c(A = 4, other = 0)).")
  }
  catalogue <- catalogue_of(x)
  check_attribute_columns(values, "`...`", rlang::current_env())
  if ("card" %in% names(values)) refuse("`card` is the card's code and cannot be set.")
  data <- catalogue$data
  for (attribute in names(values)) {
    data[[attribute]] <- new_attribute(values[[attribute]], attribute, x, data,
                                       rlang::current_env())
  }
  title <- sprintf("%s with %s set", sub(" with .* set$", "", catalogue$title),
                   join_words(names(values)))
  new_cards(codes_of(x), new_catalogue(data, title, catalogue$glyphs))
}

new_attribute <- function(value, attribute, x, data, call) {
  if (!is.null(names(value))) return(attribute_by_name(value, attribute, data, call))
  if (length(value) != length(x)) {
    refuse(sprintf("`%s` must be named, or have one value for each of the %s, not %s.", attribute,
                   count_of(length(x), "card"), format_count(length(value))), call = call)
  }
  attribute_by_place(value, attribute, x, data, call)
}

attribute_by_place <- function(value, attribute, x, data, call) {
  codes <- codes_of(x)
  first <- match(codes, codes)
  differs <- which(!(value == value[first] | (is.na(value) & is.na(value[first]))))
  if (length(differs)) {
    refuse(sprintf("`%s` gives two values to card %s.", attribute,
                   quoted(data$card[codes[differs[1]]])), call = call)
  }
  column <- old_values(data, attribute, value)
  column[codes] <- value
  column
}

attribute_by_name <- function(value, attribute, data, call) {
  keys <- setdiff(names(value), "other")
  by <- Find(function(column) all(keys %in% data[[column]]),
             intersect(c("rank", "suit", "card"), names(data)))
  if (is.null(by)) refuse_attribute_names(keys, attribute, data, call)
  column <- old_values(data, attribute, value)
  named <- data[[by]] %in% keys
  if ("other" %in% names(value)) {
    column[!named] <- value[["other"]]
  } else if (attribute %in% names(data) && !all(named)) {
    inform_user(sprintf("%s keep their `%s`; add `other = ` to set it.",
                        count_of(sum(!named), "kind of card", "kinds of card"), attribute))
  }
  column[named] <- unname(value[as.character(data[[by]][named])])
  column
}

old_values <- function(data, attribute, like) {
  if (attribute %in% names(data)) data[[attribute]] else rep(like[NA_integer_], nrow(data))
}

refuse_attribute_names <- function(keys, attribute, data, call) {
  known <- unlist(data[intersect(c("rank", "suit", "card"), names(data))])
  strange <- setdiff(keys, known)
  what <- if (length(strange)) {
    sprintf("%s is none%s", quoted(strange[1]), did_you_mean(strange[1], unique(known)))
  } else {
    "these are a mixture."
  }
  refuse(sprintf("The names of `%s` must all be ranks, all suits or all cards: %s", attribute, what),
         call = call)
}

# Values of cards as they are said: 1 is an ace.
value_names <- function(values) ifelse(values == 1, "A", as.character(values))
