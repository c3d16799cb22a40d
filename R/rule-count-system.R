#' Counting systems
#'
#' What a card counter keeps in mind: a tag for each rank or value, added up card by card (the running count), and that
#' sum by the decks that are left (the true count).
#'
#' Some plain systems are known by a description: "level one balanced", "level one, aces apart", "level two balanced",
#' "level one unbalanced" (the running count alone, which begins low and comes to zero as the shoe does).
#'
#' A system is judged by how its tags go with the effects of removal: their correlation, weighed with the cards there
#' are, \eqn{\sum n t e / \sqrt{\sum n t^2 \sum n e^2}}{sum(n t e) / sqrt(sum(n t^2) sum(n e^2))}, the tags taken from
#' their mean (Griffin 1999, The Theory of Blackjack, ch. 4). Of play it is told what share it has of the gain that all
#' cards seen would bring once half of the shoe is dealt: of each cell the two best moves differ by \eqn{d}, and as
#' cards go this moves by a normal of the spread \eqn{\sigma} that the effects of removal give it; a count whose tags
#' have the correlation \eqn{r} with these follows it with a spread of \eqn{r \sigma}, and gains the mean of what lies
#' above \eqn{d} (the same, ch. 4 and appendix A).
#'
#' @param tags Numbers by rank (`c(A = -1, "2" = 1, ..., K = -1)`) or by value (then "10" is all cards of ten), or the
#'   name of a plain system, or a file (.yaml, .json) of these settings by name.
#' @param name What it is called.
#' @param attribute An attribute of the cards by whose values tags are named, as `"colour"` with
#'   `c(red = 1, black = -1)`;
#'   `NULL`: ranks or values.
#' @param side Ranks (or values) that are counted apart, as `c(A = -1)`: what each of them that has come above its share
#'   of the cards dealt adds to the count by which bets are laid. Play is by the count without it.
#' @param initial,initial_per_deck The running count before the first card; and so much more for each deck in the shoe.
#' @param true_by How the decks left are told: "exact", to the nearest "half_decks" or "whole_decks" (at least one of
#'   these), or "none": the true count is the running count.
#' @param rounded How the true count is rounded: "floor", "truncate" (towards zero), "nearest" (halves up), "none".
#' @return `counting_system()`: a `habanera_count_system`; as text it is its name, where it is a plain one, else its
#'   tags and settings in one line, from which it can be made again. `judge_count()`: a data frame of class
#'   `habanera_count_judged`: `term` ("betting", and of blackjack "insurance" and "play"), `estimate` (the correlation;
#'   of play the share of the gain).
#' @section Errors: `habanera_error_input` for a rank that has no tag, a tag for none, and settings out of range.
#' @seealso [design_tags()], [true_count_distribution()], [removal_effects()], [player_counting()].
#' @examples
#' plain <- counting_system("level one balanced")
#' plain
#' judge_count(game_blackjack(packs = 1), plain, player_basic())
#' @export
counting_system <- function(tags, name = NULL, attribute = NULL, side = NULL, initial = 0, initial_per_deck = 0,
                            true_by = c("exact", "half_decks", "whole_decks", "none"),
                            rounded = c("floor", "truncate", "nearest", "none")) {
  check_given()
  call <- rlang::current_env()
  if (rlang::is_string(tags)) return(named_system(tags, call))
  if (!is.null(name)) check_string(name)
  structure(list(name = if (is.null(name)) "a system" else name, tags = check_tags(tags, "tags", call),
                 attribute = if (!is.null(attribute)) check_string(attribute),
                 side = if (length(side)) check_tags(side, "side", call),
                 initial = check_number(initial, -1000, 1000, "initial", call),
                 initial_per_deck = check_number(initial_per_deck, -100, 100, "initial_per_deck", call),
                 true_by = check_choice(true_by, c("exact", "half_decks", "whole_decks", "none"), "true_by", call),
                 rounded = check_choice(rounded, c("floor", "truncate", "nearest", "none"), "rounded", call)),
            class = "habanera_count_system")
}

check_tags <- function(tags, name, call) {
  if (is.list(tags)) tags <- unlist(tags)
  fits <- is.numeric(tags) && length(tags) && !is.null(names(tags)) && all(nzchar(names(tags))) &&
    !anyDuplicated(names(tags)) && all(is.finite(tags) & abs(tags) <= 100 & tags * 4 == round(tags * 4))
  if (fits) return(tags)
  refuse(sprintf("`%s` must be numbers by rank, whole or in quarters, such as c(A = -1, \"2\" = 1)%s.", name,
                 if (name == "tags") ", or a known name" else ""), call = call)
}

value_labels <- c("A", as.character(2:10))

plain_systems <- function() {
  tags <- function(...) rlang::set_names(c(...), value_labels)
  list(
    `level one balanced` = list(tags(-1, 1, 1, 1, 1, 1, 0, 0, 0, -1)),
    `level one, aces apart` = list(tags(0, 0, 1, 1, 1, 1, 0, 0, 0, -1)),
    `level two balanced` = list(tags(0, 1, 1, 2, 2, 1, 1, 0, 0, -2)),
    `level one unbalanced` = list(tags(-1, 1, 1, 1, 1, 1, 1, 0, 0, -1), initial_per_deck = -4, true_by = "none")
  )
}

# A plain system, one in a file, or one told as text.
named_system <- function(name, call) {
  check_string(name, "system", call)
  if (grepl("=", name, fixed = TRUE)) return(system_from_text(name, call))
  if (grepl("[.](yaml|yml|json)$", name, ignore.case = TRUE)) system_from_file(name, call) else plain_system(name, call)
}

system_from_file <- function(file, call) {
  check_readable(file, call)
  found <- list_data(file, call)
  known <- names(formals(counting_system))
  unknown <- if (is.list(found)) setdiff(names(found), known)
  if (!is.list(found) || is.null(found[["tags"]]) || length(unknown)) {
    refuse(sprintf("%s must hold `tags` by rank, and of a counting system else only %s%s.", file_name(file),
                   join_words(setdiff(known, "tags")),
                   if (length(unknown)) sprintf("; not %s", quoted(unknown[1])) else ""), "file", call)
  }
  if (is.null(found[["name"]])) found[["name"]] <- basename(file)
  tryCatch(do.call(counting_system, found), habanera_error_input = function(cnd) {
    refuse(sprintf("%s: %s", file_name(file), rlang::cnd_message(cnd)), call = call)
  })
}

plain_system <- function(name, call) {
  known <- plain_systems()
  if (!name %in% names(known)) {
    refuse(sprintf("There is no plain system %s%s Known are %s.", quoted(name), did_you_mean(name, names(known)),
                   join_words(quoted(names(known)))), call = call)
  }
  do.call(counting_system, c(known[[name]], name = name))
}

# In one line: "A=-1 2=1 ... side.A=-1 initial=-4", what is as by default left out.
#' @export
format.habanera_count_system <- function(x, ...) {
  plain <- plain_systems()
  if (x$name %in% names(plain) && identical(unclass(plain_system(x$name, NULL)), unclass(x))) return(x$name)
  settings <- c(initial = whole_code_of(x$initial), initial_per_deck = whole_code_of(x$initial_per_deck),
                true_by = x$true_by, rounded = x$rounded)
  settings <- settings[settings != c("0", "0", "exact", "floor")]
  parts <- c(tag_texts(x$tags), if (!is.null(x$attribute)) paste0("attribute=", x$attribute),
             if (length(x$side)) paste0("side.", tag_texts(x$side)),
             sprintf("%s=%s", names(settings), settings),
             if (x$name != "a system") paste0("name=", utils::URLencode(x$name, reserved = TRUE)))
  paste(parts, collapse = " ")
}

#' @export
as.character.habanera_count_system <- function(x, ...) format(x)

whole_code_of <- function(x) format(x, digits = 15)

tag_texts <- function(tags) sprintf("%s=%s", names(tags), vapply(tags, whole_code_of, ""))

system_from_text <- function(text, call) {
  parts <- strsplit(trimws(text), "[[:space:]]+")[[1]]
  if (!all(grepl("^[^=]+=[^=]+$", parts))) {
    refuse(sprintf("A counting system as text is such as \"A=-1 2=1 10=-1\", not %s.", quoted(text)), call = call)
  }
  values <- rlang::set_names(sub("^[^=]*=", "", parts), sub("=.*$", "", parts))
  numbers <- function(values) suppressWarnings(rlang::set_names(as.numeric(values), names(values)))
  words <- intersect(names(values), c("name", "attribute", "true_by", "rounded"))
  starts <- intersect(names(values), c("initial", "initial_per_deck"))
  is_side <- startsWith(names(values), "side.")
  side <- values[is_side]
  names(side) <- sub("^side[.]", "", names(side))
  settings <- c(as.list(values[words]), as.list(numbers(values[starts])))
  if (!is.null(settings$name)) settings$name <- utils::URLdecode(settings$name)
  tags <- values[!is_side & !names(values) %in% c(words, starts)]
  do.call(counting_system, c(list(tags = numbers(tags), side = if (length(side)) numbers(side)), settings))
}

# The tag of each kind in a deck: by its rank, or by its value where the rank has none of its own.
tags_of_kinds <- function(system, deck, call) {
  labels <- kind_labels(deck, system$attribute, call)
  used <- ifelse(labels$rank %in% names(system$tags), labels$rank, labels$value)
  missing <- which(!used %in% names(system$tags))
  if (length(missing)) {
    refuse(sprintf("`tags` has none for %s, which the deck has.", quoted(labels$rank[missing[1]])), call = call)
  }
  refuse_idle_tags(system$tags, used, deck, system$attribute, "tags", call)
  unname(system$tags[used])
}

# What each kind adds to the count for bets: besides its tag that of what is counted apart, from its share of the pack.
bet_tags_of_kinds <- function(system, deck, call) {
  tags <- tags_of_kinds(system, deck, call)
  if (is.null(system$side)) return(tags)
  labels <- kind_labels(deck, system$attribute, call)
  used <- ifelse(labels$rank %in% names(system$side), labels$rank, labels$value)
  refuse_idle_tags(system$side, used, deck, system$attribute, "side", call)
  side <- ifelse(used %in% names(system$side), system$side[used], 0)
  copies <- kinds_of(deck)$copies
  tags + side - sum(side * copies) / sum(copies)
}

kind_labels <- function(deck, by, call) {
  kinds <- kinds_of(deck)
  data <- catalogue_of(deck)$data
  if (!is.null(by)) {
    if (!by %in% names(data)) {
      refuse(sprintf("`attribute` must be one of the deck (%s), not %s%s", join_words(names(data), "or"), quoted(by),
                     did_you_mean(by, names(data))), call = call)
    }
    label <- as.character(data[[by]][kinds$codes])
    return(list(rank = label, value = label))
  }
  rank <- if (is.null(data[["rank"]])) kinds$cards else as.character(data[["rank"]][kinds$codes])
  list(rank = rank, value = if (is.null(data[["points"]])) rank else value_names(data[["points"]][kinds$codes]))
}

# Cards that are gone have tags all the same.
refuse_idle_tags <- function(tags, used, deck, by, name, call) {
  data <- catalogue_of(deck)$data
  known <- if (is.null(by)) c(as.character(data[["rank"]]), value_names(data[["points"]]), data$card) else {
    as.character(data[[by]])
  }
  idle <- setdiff(names(tags), c(used, known))
  if (length(idle)) refuse(sprintf("`%s` has %s, which is none of the deck's.", name, quoted(idle[1])), call = call)
}

# As the core counts: whole, in units of a quarter of a tag and a card's share of a deck of `pack` cards.
count_unit <- function(pack) tag_parts() * pack
tag_parts <- function() core_numbers()[["parts_of_a_tag"]]

# `shoe` are all cards there are.
core_count_system <- function(system, shoe, pack, call) {
  unit <- count_unit(pack)
  list(tags = round(unit * tags_of_kinds(system, shoe, call)),
       bet_tags = round(unit * bet_tags_of_kinds(system, shoe, call)),
       start = round(unit * (system$initial + system$initial_per_deck * length(shoe) / pack)), unit = unit, pack = pack,
       true_by = system$true_by, rounded = system$rounded)
}

check_system <- function(x, call) {
  if (rlang::is_string(x)) return(named_system(x, call))
  if (inherits(x, "habanera_count_system")) return(x)
  refuse(sprintf("`system` must be a counting system, made by counting_system(), not %s.", said(x)), call = call)
}

#' @export
print.habanera_count_system <- function(x, ...) {
  deck <- deck_standard()
  sum <- tryCatch(sum(tags_of_kinds(x, deck, NULL) * kinds_of(deck)$copies), habanera_error = function(cnd) NA)
  balance <- if (is.na(sum)) "" else if (sum == 0) ", balanced" else {
    sprintf(", unbalanced: a pack adds up to %s", format_statistic(sum))
  }
  cat_wrapped(sprintf("<counting system> %s: level %s%s; %s.", x$name, format_statistic(max(abs(x$tags))), balance,
                      true_in_words(x)))
  print_rows(data.frame(as.list(sprintf("%+g", x$tags)) |> rlang::set_names(names(x$tags)), check.names = FALSE))
  if (length(x$side)) {
    cat_wrapped(sprintf("Counted apart, for bets: %s.", join_words(sprintf("%s %+g", names(x$side), x$side))))
  }
  if (x$initial != 0 || x$initial_per_deck != 0) {
    cat_wrapped(sprintf("It begins at %s and %s for each deck.", format_statistic(x$initial),
                        format_statistic(x$initial_per_deck)))
  }
  invisible(x)
}

true_in_words <- function(x) {
  if (x$true_by == "none") return("the running count alone")
  decks <- c(exact = "the decks left", half_decks = "the decks left to the half",
             whole_decks = "the decks left to the whole")[[x$true_by]]
  rounds <- c(floor = ", rounded down", truncate = ", rounded towards zero", nearest = ", rounded", none = "")
  sprintf("a true count by %s%s", decks, rounds[[x$rounded]])
}
