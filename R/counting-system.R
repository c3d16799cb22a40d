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
#' their mean (Griffin 1999, The Theory of Blackjack, ch. 4).
#'
#' @param tags Numbers by rank (`c(A = -1, "2" = 1, ..., K = -1)`) or by value (then "10" is all cards of ten), or the
#'   name of a plain system, or a file (.yaml, .json) of these settings by name.
#' @param name What it is called.
#' @param start,start_per_deck The running count before the first card; and so much more for each deck in the shoe.
#' @param true_by How the decks left are told: "exact", to the nearest "half_decks" or "whole_decks" (at least one of
#'   these), or "none": the true count is the running count.
#' @param rounded How the true count is rounded: "floor", "truncate" (towards zero), "nearest" (halves up), "none".
#' @return `counting_system()`: a `habanera_count_system`. `judge_count()`: a data frame of class
#'   `habanera_count_judged`: `term` ("betting", and of blackjack "insurance"), `estimate` (the correlation).
#' @section Errors: `habanera_error_input` for a rank that has no tag, a tag for none, and settings out of range.
#' @seealso [design_tags()], [true_count_distribution()], [removal_effects()].
#' @examples
#' plain <- counting_system("level one balanced")
#' plain
#' judge_count(plain, game_blackjack(packs = 1), player_basic())
#' @export
counting_system <- function(tags, name = NULL, start = 0, start_per_deck = 0,
                            true_by = c("exact", "half_decks", "whole_decks", "none"),
                            rounded = c("floor", "truncate", "nearest", "none")) {
  call <- rlang::current_env()
  if (rlang::is_string(tags)) return(named_system(tags, call))
  if (!is.null(name)) check_string(name)
  if (is.list(tags)) tags <- unlist(tags)
  fits <- is.numeric(tags) && length(tags) && !is.null(names(tags)) && all(nzchar(names(tags))) &&
    !anyDuplicated(names(tags)) && all(is.finite(tags) & abs(tags) <= 100 & tags * 4 == round(tags * 4))
  if (!fits) {
    refuse("`tags` must be numbers by rank, whole or in quarters, such as c(A = -1, \"2\" = 1), or a known name.")
  }
  structure(list(name = if (is.null(name)) "a system" else name, tags = tags,
                 start = check_number(start, -1000, 1000, "start", call),
                 start_per_deck = check_number(start_per_deck, -100, 100, "start_per_deck", call),
                 true_by = check_choice(true_by, c("exact", "half_decks", "whole_decks", "none"), "true_by", call),
                 rounded = check_choice(rounded, c("floor", "truncate", "nearest", "none"), "rounded", call)),
            class = "habanera_count_system")
}

check_number <- function(x, from, to, name, call) {
  if (is.numeric(x) && length(x) == 1 && isTRUE(x >= from && x <= to)) return(as.double(x))
  refuse(sprintf("`%s` must be a number %s, not %s.", name, range_words(from, to), said(x)), call = call)
}

value_labels <- c("A", as.character(2:10))

plain_systems <- function() {
  tags <- function(...) rlang::set_names(c(...), value_labels)
  list(
    `level one balanced` = list(tags(-1, 1, 1, 1, 1, 1, 0, 0, 0, -1)),
    `level one, aces apart` = list(tags(0, 0, 1, 1, 1, 1, 0, 0, 0, -1)),
    `level two balanced` = list(tags(0, 1, 1, 2, 2, 1, 1, 0, 0, -2)),
    `level one unbalanced` = list(tags(-1, 1, 1, 1, 1, 1, 1, 0, 0, -1), start_per_deck = -4, true_by = "none")
  )
}

# A plain system, or one in a file.
named_system <- function(name, call) {
  if (grepl("[.](yaml|yml|json)$", name, ignore.case = TRUE)) system_from_file(name, call) else plain_system(name, call)
}

system_from_file <- function(file, call) {
  check_readable(file, call)
  text <- paste(read_text_lines(file, call), collapse = "\n")
  found <- if (file_kind(file) == "json") json_data(text, file, call) else yaml_data(text, file, call)
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

# The tag of each kind in a deck: by its rank, or by its value where the rank has none of its own.
tags_of_kinds <- function(system, deck, call) {
  kinds <- kinds_of(deck)
  data <- catalogue_of(deck)$data
  rank <- if (is.null(data[["rank"]])) kinds$cards else as.character(data[["rank"]][kinds$codes])
  value <- if (is.null(data[["points"]])) rank else value_names(data[["points"]][kinds$codes])
  used <- ifelse(rank %in% names(system$tags), rank, value)
  missing <- which(!used %in% names(system$tags))
  if (length(missing)) {
    refuse(sprintf("`tags` has none for %s, which the deck has.", quoted(rank[missing[1]])), call = call)
  }
  # Cards that are gone have tags all the same.
  idle <- setdiff(names(system$tags), c(used, as.character(data[["rank"]]), value_names(data[["points"]]), data$card))
  if (length(idle)) refuse(sprintf("`tags` has %s, which is none of the deck's.", quoted(idle[1])), call = call)
  unname(system$tags[used])
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
  print(data.frame(as.list(sprintf("%+g", x$tags)) |> rlang::set_names(names(x$tags)), check.names = FALSE),
        row.names = FALSE)
  if (x$start != 0 || x$start_per_deck != 0) {
    cat_wrapped(sprintf("It begins at %s and %s for each deck.", format_statistic(x$start),
                        format_statistic(x$start_per_deck)))
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

#' @rdname counting_system
#' @param system A counting system, or the name of a plain one.
#' @param game,player As in [removal_effects()].
#' @export
judge_count <- function(system, game = game_blackjack(), player = NULL) {
  call <- rlang::current_env()
  system <- check_system(system, call)
  game <- edge_game(without_cut(money_game(game, call)), player, NULL, call)
  bets <- c("main", intersect("insurance", names(game$kind$bet_means(game, "main", call))))
  effects <- removal_effects(game, of = bets)
  groups <- game$kind$counted_by(game)
  copies <- kinds_of(game$deck)$copies
  tags <- tags_of_kinds(system, game$deck, call)
  rows <- lapply(bets, function(bet) {
    of_bet <- effects[effects$bet == bet, ]
    effect <- of_bet$effect[match(groups$labels, of_bet[[1]])]
    data.frame(term = if (bet == "main") "betting" else bet, estimate = weighed_correlation(tags, effect, copies))
  })
  structure(do.call(rbind, rows), class = c("habanera_count_judged", "data.frame"), system = system,
            words = in_words(game))
}

# Of tags, from their mean, with effects, whose mean is nothing.
weighed_correlation <- function(tags, effects, copies) {
  tags <- tags - sum(copies * tags) / sum(copies)
  sum(copies * tags * effects) / sqrt(sum(copies * tags^2) * sum(copies * effects^2))
}

#' @export
print.habanera_count_judged <- function(x, ...) {
  if (is.null(attr(x, "system"))) return(NextMethod())
  print(attr(x, "system"))
  cat_wrapped(sprintf("In %s its tags go with the effects of removal: %s.", attr(x, "words"),
                      join_words(sprintf("%s %.4f", x$term, x$estimate))))
  invisible(x)
}
