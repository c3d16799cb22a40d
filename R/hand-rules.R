#' Rules for hands
#'
#' What a hand of cards is worth, as data: which categories there are and in what order, how many cards count, what is
#' wild, where the ace stands, and what breaks ties.
#'
#' A hand is of the best category that it holds, in the order given, so that any order and any part of them can be had:
#' a flush above a full house, or groups alone where suits do not matter. Where more cards are held than count, the best
#' of them do.
#'
#' Straights are neighbouring ranks. Ranks are neighbours when no card of the deck lies between, whatever they are
#' called: of a deck without the ranks 2 to 5 the ace, where it also counts below the lowest rank, is a neighbour of the
#' 6, and A-6-7-8-9 is a straight. A royal flush is the highest straight flush of the deck at hand, whatever its top,
#' and a wild card becomes a rank and a suit that the deck has. Where hands are told without their deck, the deck is all
#' cards of their catalogue.
#'
#' @param size How many cards of a hand count, 1 to 9.
#' @param categories Names, the best first: "five of a kind", "royal flush" (a straight flush to the highest rank of
#'   the deck; not by default), "straight flush", "four of a kind", "full house", "flush", "straight", "three of a
#'   kind", "two pair", "one pair", "high card" (which is added at the end where it lacks); groups of a rank or of some,
#'   such as "pair of jacks or better", "three of 10 or better", "four of A", "four of 2 to 4"; any of them without wild
#'   cards, as "natural royal flush"; and "four wild cards" or more. `NULL`: all that so many cards can hold.
#' @param wild Cards that stand for whatever makes the best category: a condition on the attributes of a card as in
#'   `count()`, bare (`rank == "2"`), quoted, or as text; `NULL`: none. A wild card in a flush is none that is there.
#' @param ace Where a rank called "A" stands: "both" above and, in straights, below all others; or "high" or "low"
#'   alone.
#' @param rank_by The attribute that ranks cards; `NULL`: `rank_high` where the deck has it, else `rank`, else the order
#'   of the catalogue.
#' @param tie_break "kickers": like hands are compared by the cards that make the category, then by the others, the
#'   highest first; "dealt_order": by the cards as dealt, the first first, unsorted.
#' @param wild_counts_as In breaking ties wild cards count as what they became ("substitute"), or below every rank
#'   ("lowest").
#' @return A `habanera_hand_rules`, a list.
#' @section Errors: `habanera_error_input` for a category that there is not, with the nearest, and for one that needs
#'   more cards than count; `habanera_error_language` for a condition that cannot be understood.
#' @seealso [hand_category()], [category_odds()].
#' @examples
#' hand_rules()
#' hand_rules(categories = c("straight flush", "four of a kind", "flush", "full house"))
#' hand_rules(wild = rank == "joker", categories = c("pair of jacks or better", "high card"))
#' @export
hand_rules <- function(size = 5, categories = NULL, wild = NULL, ace = c("both", "high", "low"), rank_by = NULL,
                       tie_break = c("kickers", "dealt_order"), wild_counts_as = c("substitute", "lowest")) {
  call <- rlang::current_env()
  condition <- wild_condition(rlang::enexpr(wild), rlang::caller_env(), call)
  new_hand_rules(check_whole(size, 1, 9), categories, condition, check_choice(ace, c("both", "high", "low")),
                 if (!is.null(rank_by)) check_string(rank_by), check_choice(tie_break, c("kickers", "dealt_order")),
                 check_choice(wild_counts_as, c("substitute", "lowest")), call)
}

new_hand_rules <- function(size, categories, wild, ace, rank_by, tie_break, wild_counts_as, call) {
  if (is.character(categories)) check_utf8(categories, "categories", call)
  structure(list(size = size, categories = checked_categories(categories, size, call), wild = wild, ace = ace,
                 rank_by = rank_by, tie_break = tie_break, wild_counts_as = wild_counts_as),
            class = "habanera_hand_rules")
}

# Text of a condition: given bare, quoted, by a name that holds it, or as text.
wild_condition <- function(expr, env, call) {
  if (is.symbol(expr) || rlang::is_call(expr, "quote")) {
    expr <- refuse_if_fails(rlang::eval_bare(expr, env), sprintf("`wild` cannot be found: %s.", expression_text(expr)),
                            "language", call)
  }
  if (is.null(expr)) return(NULL)
  if (!is.language(expr)) expr <- parse_expression(check_string(expr, "wild", call), "wild", call)
  expression_text(expr)
}

# The categories of the core with the cards they need; NA: as many as count.
hand_categories <- c(`five of a kind` = 5, `royal flush` = NA, `straight flush` = NA, `four of a kind` = 4,
                     `full house` = 5, flush = NA, straight = NA, `three of a kind` = 3, `two pair` = 4, `one pair` = 2,
                     `high card` = 0)

checked_categories <- function(categories, size, call) {
  if (is.null(categories)) {
    needed <- hand_categories[names(hand_categories) != "royal flush"]
    # Of a single card no suit and no row is told.
    return(names(needed)[(is.na(needed) & size > 1) | (!is.na(needed) & needed <= size)])
  }
  if (!is.character(categories) || !length(categories) || anyNA(categories)) {
    refuse(sprintf("`categories` must be names, the best first, not %s.", said(categories)), call = call)
  }
  categories <- category_text(categories)
  for (name in categories) {
    parts <- category_parts(name, call)
    needed <- max(hand_categories[[parts$category]], parts$wild)
    if (!is.na(needed) && needed > size) {
      refuse(sprintf("%s needs %s; %s count: say `size` for more.", quoted(name), count_of(needed, "card"),
                     format_count(size)), call = call)
    }
  }
  twice <- categories[duplicated(categories)]
  if (length(twice)) refuse(sprintf("`categories` names %s twice.", quoted(twice[1])), call = call)
  if ("high card" %in% categories[-length(categories)]) {
    refuse("Every hand holds \"high card\": it must be the last of `categories`.", call = call)
  }
  union(categories, "high card")
}

# In small letters but for ranks, as in "pair of K or better".
category_text <- function(names) {
  gsub("\\b(of|to) ([akqj])(?= or better$| to |$)", "\\1 \\U\\2", tolower(trimws(names)), perl = TRUE)
}

# A category of the core with what is asked besides: "pair of jacks or better" is one pair `from` the rank J on, "four
# of 2 to 4" four of a kind `to` the rank 4, "natural flush" one without wild cards, "four wild cards" so many of them.
category_parts <- function(name, call) {
  if (!isTRUE(nzchar(name))) return(read_category(name, call))
  if (is.null(read_categories[[name]])) assign(name, read_category(category_text(name), call), envir = read_categories)
  read_categories[[name]]
}

# What was read already: of many pay tables the lines are the same.
read_categories <- new.env(parent = emptyenv())

read_category <- function(name, call) {
  plain <- list(category = name, from = NULL, to = NULL, natural = FALSE, wild = 0)
  if (name %in% names(hand_categories)) return(plain)
  if (grepl("^natural ", name)) {
    return(utils::modifyList(category_parts(sub("^natural ", "", name), call), list(natural = TRUE)))
  }
  wild <- regmatches(name, regexec("^(one|two|three|four|five|[1-9]) wild cards?$", name))[[1]]
  if (length(wild)) {
    number <- match(wild[2], c("one", "two", "three", "four", "five"), written_numbers(wild[2]))
    return(utils::modifyList(plain, list(category = "high card", wild = number)))
  }
  groups <- c(pair = "one pair", three = "three of a kind", four = "four of a kind")
  group <- "^(pair|three|four) of (?!kind$)([^ ]+)( or better| to ([^ ]+))?$"
  found <- regmatches(name, regexec(group, name, perl = TRUE))[[1]]
  if (length(found)) {
    from <- named_rank(found[3])
    plain[c("category", "from")] <- list(groups[[found[2]]], from)
    if (found[4] != " or better") plain$to <- if (nzchar(found[5])) named_rank(found[5]) else from
    return(plain)
  }
  refuse(sprintf(paste("There is no category %s%s Categories: %s; or such as \"pair of jacks or better\", \"four of 2",
                       "to 4\", \"natural royal flush\", \"four wild cards\"."), quoted(name),
                 did_you_mean(name, names(hand_categories)), join_words(names(hand_categories))), call = call)
}

named_rank <- function(word) {
  words <- c(jack = "J", jacks = "J", queen = "Q", queens = "Q", king = "K", kings = "K", ace = "A", aces = "A",
             ten = "10", tens = "10", t = "10")
  if (word %in% names(words)) words[[word]] else toupper(sub("^([0-9]+)s$", "\\1", word))
}

# What of the rules is not as by default, as arguments of hand_rules().
changed_hand_rules <- function(rules) {
  usual <- hand_rules(size = rules$size)
  changed <- names(rules)[!mapply(identical, unclass(rules), unclass(usual)[names(rules)])]
  c(if (rules$size != 5) list(size = rules$size), unclass(rules)[changed])
}

#' @export
print.habanera_hand_rules <- function(x, ...) {
  cat(sprintf("<hand rules> the best %s of a hand count\n", count_of(x$size, "card")))
  cat_wrapped("  categories, the best first: ", join_words(x$categories))
  set <- c(wild = x$wild, ace = if (x$ace != "both") x$ace, rank_by = x$rank_by,
           tie_break = if (x$tie_break != "kickers") x$tie_break,
           wild_counts_as = if (x$wild_counts_as != "substitute") x$wild_counts_as)
  for (name in names(set)) cat(sprintf("  %s: %s\n", name, set[[name]]))
  invisible(x)
}

check_hand_rules <- function(rules, call = rlang::caller_env()) {
  if (inherits(rules, "habanera_hand_rules")) return(rules)
  if (rlang::is_string(rules)) return(hand_rules_from_file(rules, call))
  refuse(sprintf("`rules` must be hand_rules() or a file of them, not %s.", said(rules)), call = call)
}

# A YAML or JSON file with the arguments of hand_rules().
hand_rules_from_file <- function(file, call) {
  check_readable(file, call)
  given <- list_data(file, call)
  known <- names(formals(hand_rules))
  unknown <- if (is.list(given)) setdiff(rlang::names2(given), known)
  if (!is.list(given) || length(unknown)) {
    named <- unknown[nzchar(unknown)]
    refuse(sprintf("%s must hold rules for hands (%s)%s", file_name(file), join_words(known),
                   if (length(named)) sprintf(", not `%s`.", named[1]) else " by name."), "file", call)
  }
  do.call(hand_rules, lapply(given, unlist))
}
