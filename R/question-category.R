# The word category(): of which category of some hand_rules() a hand is.

# `category()`, `category(rules)` or `category(hand_rules(wild = rank == "2"))` with the rules as values, so that the
# text of the word says all of it.
checked_category <- function(word, catalogue, env, call) {
  given <- as.list(word)[-1]
  rules <- asked_hand_rules(given, env, call)
  bound_hand_rules(rules, catalogue, NULL, call)
  # A size that was said stays, though it be the usual one.
  said <- if (says_size(given)) list(size = rules$size)
  changed <- changed_hand_rules(rules)
  as.call(c(word[[1]], said, changed[setdiff(names(changed), "size")]))
}

# Whether how many cards count was said, by name or in rules that were given.
says_size <- function(given) {
  if (length(given) == 1 && !nzchar(rlang::names2(given))) {
    return(!rlang::is_call(given[[1]], "hand_rules") || says_size(as.list(given[[1]])[-1]))
  }
  "size" %in% names(given)
}

asked_hand_rules <- function(given, env, call) {
  if (length(given) == 1 && !nzchar(rlang::names2(given))) {
    if (rlang::is_call(given[[1]], "hand_rules")) return(asked_hand_rules(as.list(given[[1]])[-1], env, call))
    found <- if (is.symbol(given[[1]]) && !is.null(env)) get0(as.character(given[[1]]), env)
    if (inherits(found, "habanera_hand_rules")) return(found)
  }
  unknown <- setdiff(rlang::names2(given), names(formals(hand_rules)))
  if (length(unknown)) {
    refuse(sprintf("category() takes hand_rules(), or what they take by name (%s)%s",
                   join_words(names(formals(hand_rules))),
                   if (nzchar(unknown[1])) sprintf(", not `%s`.", unknown[1]) else "."), "language", call)
  }
  settings <- Map(function(name, value) {
    if (rlang::is_missing(value)) refuse(sprintf("category(): `%s` has no value.", name), "language", call)
    # A condition on cards is worked out when it is known which.
    if (name == "wild" && is.call(value)) expression_text(value) else constant_values(value, env, call)
  }, names(given), given)
  do.call(hand_rules, settings)
}

# Unless it is said how many cards count, as many do as are drawn, five at most.
category_word <- function(word, pool, text, call) {
  given <- as.list(word)[-1]
  if (!says_size(given)) given <- c(given, list(size = max(1, min(5, pool$most))))
  rules <- asked_hand_rules(given, NULL, call)
  rules$tie_break <- "kickers"  # a category does not depend on it
  catalogue <- catalogue_of(pool$deck)
  codes <- pool$kinds$codes
  wild <- if (!is.null(rules$wild)) wild_cards(rules$wild, catalogue, rep(TRUE, nrow(catalogue$data)), call)
  if (!is.null(wild) && !any(wild[codes])) {
    refuse(sprintf("In `%s`, `%s` holds for no card of the deck.", text, rules$wild), "language", call)
  }
  bound <- bound_hand_rules(rules, catalogue, codes, call)
  refuse_rankless(bound, list(codes = codes, catalogue = catalogue), call)
  rows <- c("straight", "flush", "straight flush", "royal flush")
  if (pool$most < rules$size && any(rules$categories %in% rows)) {
    inform_user(sprintf("`%s`: %s count, and hands have at most %s: no straight and no flush can be. See hand_rules().",
                        text, count_of(rules$size, "card"), format_count(pool$most)))
  }
  of_kinds <- lapply(bound[c("rank", "suit", "wild")], `[`, codes)
  list(high = length(bound$names) - 1, levels = bound$names,
       rules = core_hand_rules(utils::modifyList(bound, of_kinds)))
}

# What tells two kinds of cards apart where categories are asked for: suits only where one of them is made by suits.
category_traits <- function(categories) {
  by_suits <- c("flush", "straight flush", "royal flush")
  unlist(lapply(categories, function(category) {
    rules <- category$rules
    asked <- vapply(rules$categories, `[[`, "", "what")
    list(ifelse(rules$wild, -1, rules$rank), as.double(rules$wild), if (any(asked %in% by_suits)) rules$suit)
  }), recursive = FALSE)
}
