# What conditions of players by rules may ask of a hand that is bet on.

betting_facts <- c("seat", "street", "pot", "to_call", "left", "bets", "others", "actions")
betting_words <- c("count", "total", "distinct", "largest_group", "category", "holds", "own", "shared")

betting_sight <- function(table, rules, cards) {
  pool <- list(data = catalogue_of(cards$deck)$data[cards$codes, , drop = FALSE])
  list(rows = rows_told_by(table, rules, cards), known = betting_facts, words = betting_words,
       implied = c("check", "fold"), instead = list(bet = "all in", raise = "all in"),
       check = function(word) checked_betting_word(word, cards), scale = function(expr) betting_scale(expr, cards),
       word = function(word) core_betting_word(word, rules, cards, pool))
}

checked_betting_word <- function(word, cards) {
  name <- as.character(word[[1]])
  catalogue <- catalogue_of(cards$deck)
  if (name %in% c("own", "shared")) {
    inner <- if (length(word) == 2) word[[2]]
    if (!is.call(inner) || !as.character(inner[[1]]) %in% setdiff(betting_words, c("own", "shared", "holds"))) {
      refuse(sprintf("%s() takes a word about cards, as in %s(count(rank == \"A\")).", name, name), "language", NULL)
    }
    return(as.call(list(word[[1]], checked_betting_word(inner, cards))))
  }
  if (name != "holds") return(checked_word(word, catalogue, list(), NULL, NULL))
  hands <- as.list(word)[-1]
  if (!length(hands) || !all(vapply(hands, rlang::is_string, NA))) {
    refuse("holds() takes hands or classes of them as text, such as holds(\"pair of Q or better\").", "language", NULL)
  }
  word
}

# The part of a deck that a word asks about, and the word itself.
asked_part <- function(word) {
  of <- as.character(word[[1]])
  if (of %in% c("own", "shared")) list(of = of, word = word[[2]]) else list(of = "all", word = word)
}

core_betting_word <- function(word, rules, cards, pool) {
  part <- asked_part(word)
  word <- part$word
  text <- expression_text(word)
  name <- as.character(word[[1]])
  spec <- function(...) list(what = "cards", of = if (name == "holds") "own" else part$of, ...)
  switch(name,
    count = spec(word = "sum", by_kind = condition_values(word[[2]], pool, text, NULL)),
    total = spec(word = "sum", by_kind = numbers_of_kinds(word, pool, text)),
    category = spec(word = "category", rules = core_hand_rules(category_rules(word, cards))),
    holds = spec(word = "holds", hands = held_hands(as.list(word)[-1], rules, cards)),
    spec(word = name, by_kind = {
      values <- attribute_values(word[[2]], pool, text, NULL)
      as.double(match(values, unique(values)))
    })
  )
}

numbers_of_kinds <- function(word, pool, text) {
  values <- attribute_values(word[[2]], pool, text, NULL)
  if (is.numeric(values)) return(as.double(values))
  refuse(sprintf("In `%s`, `%s` is not a number for each card.", text, expression_text(word[[2]])), "language", NULL)
}

# By the game's own rules for hands where nothing else is said.
category_rules <- function(word, cards) {
  given <- as.list(word)[-1]
  if (!length(given)) return(cards$bound)
  bound <- bound_hand_rules(asked_hand_rules(given, NULL, NULL), catalogue_of(cards$deck), cards$codes, NULL)
  utils::modifyList(bound, lapply(bound[c("rank", "suit", "wild")], `[`, cards$codes))
}

betting_scale <- function(expr, cards) {
  if (!is.call(expr)) return(NULL)
  word <- asked_part(expr)$word
  if (rlang::is_call(word, "category")) category_rules(word, cards)$names
}

held_hands <- function(texts, rules, cards) {
  slip <- function(...) refuse(ended(sprintf("holds(): %s", sprintf(...))), "language", NULL)
  hands <- unlist(lapply(texts, function(text) {
    found <- kinds_of_holding(text, rules, cards, slip)
    fits <- lengths(found) == rules$private
    if (!all(fits)) slip("%s is no hand of %s", quoted(text), count_of(rules$private, "card"))
    # Cards that are told as one stand for all that are alike.
    if (all(strsplit(text, "[[:space:],]+")[[1]] %in% cards$told$codes)) found else alike_hands(found, cards)
  }), recursive = FALSE)
  lapply(unique(lapply(hands, sort)), as.integer)
}

alike_hands <- function(hands, cards) {
  unlist(lapply(hands, function(hand) {
    kinds <- lapply(hand, function(kind) which(cards$told$stands_for == cards$told$stands_for[kind]))
    grid <- as.matrix(expand.grid(kinds))
    lapply(seq_len(nrow(grid)), function(i) unname(grid[i, ]))
  }), recursive = FALSE)
}

# Whether the rules of some player ask for suits by name, so that hands that differ in these alone are not the same.
names_suits <- function(players, deck) {
  tells <- setdiff(names(catalogue_of(deck)$data), c("rank", "rank_high"))
  any(vapply(players, function(player) {
    inner <- unlist(lapply(player$settings, function(value) {
      if (inherits(value, "habanera_player")) list(value) else if (inherits(value, "habanera_players")) unclass(value)
    }), recursive = FALSE)
    asked <- unlist(lapply(player$lines, function(line) {
      if (is.null(line$condition)) return(NULL)
      expr <- parse_expression(line$condition, "a line", NULL)
      words <- calls_of(expr, c("count", "total", "category", "holds"))
      codes <- unlist(lapply(calls_of(expr, "holds"), function(word) {
        if (any(unlist(strsplit(unlist(as.list(word)[-1]), "[[:space:],]+")) %in% catalogue_of(deck)$data$card)) "card"
      }))
      c(unlist(lapply(words, all.names, functions = FALSE)), codes)
    }))
    any(asked %in% tells) || (length(inner) && names_suits(inner, deck))
  }, NA))
}
