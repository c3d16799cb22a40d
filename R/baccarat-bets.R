# Bets beside the table of baccarat, in the language of questions with words for its hands.

# What a bet may look at by name, for each result that the core numbers.
baccarat_results <- function(rules) {
  numbers <- seq_len(400) - 1
  found <- data.frame(player_total = numbers %/% 40, banker_total = numbers %/% 4 %% 10,
                      player_cards = 2 + numbers %/% 2 %% 2, banker_cards = 2 + numbers %% 2)
  margin <- found$player_total - found$banker_total
  found$winner <- ifelse(margin > 0, "player", ifelse(margin < 0, "banker", "tie"))
  found$margin <- abs(margin)
  found$cards_used <- found$player_cards + found$banker_cards
  found$natural <- found$cards_used == 4 & pmax(found$player_total, found$banker_total) >= rules$natural_from
  found
}

# `opening(player, ...)` asks the first two cards of a hand, `final(player, ...)` all of them, `final(both, ...)` those
# of both hands.
baccarat_scopes <- list(opening = c("player", "banker"), final = c("player", "banker", "both"))

checked_baccarat_bet <- function(expr, rules, catalogue, call) {
  lookup <- list(known = names(baccarat_results(rules)), words = names(baccarat_scopes), env = NULL,
                 what = "a bet may look at", check_word = function(word) checked_scope(word, catalogue, call))
  checked_expression(expr, lookup, call)
}

checked_scope <- function(word, catalogue, call) {
  name <- as.character(word[[1]])
  hands <- baccarat_scopes[[name]]
  hand <- if (length(word) == 3 && is.symbol(word[[2]])) as.character(word[[2]]) else ""
  if (!hand %in% hands) {
    refuse(sprintf("%s() takes a hand (%s) and what is asked of it, as in %s(player, largest_group(rank) == 2).", name,
                   join_words(hands, "or"), name), "language", call)
  }
  as.call(list(word[[1]], word[[2]], checked_outcome(word[[3]], catalogue, list(), NULL, call, turns = FALSE)))
}

# Each bet as the core takes it, with what it hands back for one stake instead of what it brings, and whether it looks
# at all cards; the numbers of like kinds of cards.
baccarat_bets_of <- function(rules, deck, call) {
  bets <- lapply(rlang::set_names(as.character(names(rules$side_bets))), function(name) {
    expr <- checked_baccarat_bet(parse_expression(rules$side_bets[[name]], name, call), rules, catalogue_of(deck), call)
    baccarat_bet(expr, name, rules, deck, call)
  })
  traits <- unlist(lapply(bets, `[[`, "traits"), recursive = FALSE)
  list(bets = lapply(bets, `[[`, "core"), handed = lapply(bets, `[[`, "handed"),
       all_cards = names(bets)[vapply(bets, function(bet) bet$all_cards, NA)], traits = traits)
}

baccarat_bet <- function(expr, name, rules, deck, call) {
  scopes <- do.call(c, lapply(names(baccarat_scopes), function(word) calls_of(expr, word)))
  asked <- lapply(scopes, scope_values, deck, call)
  results <- baccarat_results(rules)
  by_result <- any(all.vars(expr) %in% names(results))
  sizes <- c(if (by_result) nrow(results), vapply(asked, `[[`, 0, "cells"))
  cells <- prod(sizes)
  if (cells > most_cells) refuse_cells(expression_text(expr), cells, call)
  steps <- cumprod(c(1, sizes))[seq_along(sizes)]
  # Which value each part has in each cell.
  places <- lapply(seq_along(sizes), function(i) (seq_len(cells) - 1) %/% steps[i] %% sizes[i] + 1)
  values <- if (by_result) as.list(results[places[[1]], , drop = FALSE]) else list()
  words <- Map(function(one, place) one$values[place], asked, if (by_result) places[-1] else places)
  handed <- laid_out(interpret(expr, list(values = values, words = words, rows = cells), call), cells)
  if (is.character(handed) || anyNA(handed) || !all(handed >= 0 & handed <= 1e6)) {
    refuse(sprintf("The side bet `%s` must hand back 0 to a million for a stake.", name), "rules", call)
  }
  scope_steps <- if (by_result) steps[-1] else steps
  core <- list(by_result = if (by_result) seq_len(400) - 1 else numeric(), player_opening = numeric(),
               banker_opening = numeric(), player_cards = NULL, banker_cards = NULL, all_cards = NULL)
  for (i in seq_along(asked)) core <- with_scope(core, asked[[i]], scope_steps[i])
  list(core = core, handed = as.double(handed), traits = unlist(lapply(asked, `[[`, "traits"), recursive = FALSE),
       all_cards = any(vapply(asked, function(one) one$name == "final", NA)))
}

with_scope <- function(core, asked, step) {
  if (asked$name == "opening") {
    part <- paste0(asked$hand, "_opening")
    if (!length(core[[part]])) core[[part]] <- numeric(length(asked$index))
    core[[part]] <- core[[part]] + step * asked$index
    return(core)
  }
  part <- if (asked$hand == "both") "all_cards" else paste0(asked$hand, "_cards")
  if (!is.null(core[[part]])) {
    refuse(sprintf("Ask all that a side bet wants of the cards of one hand in a single final(%s, ...).", asked$hand),
           "language", NULL)
  }
  core[part] <- list(scaled_words(asked$words, step))
  core
}

# The words with their index times a step.
scaled_words <- function(words, step) {
  by_step <- function(each) lapply(each, function(one) utils::modifyList(one, list(step = one$step * step)))
  words[c("start", "added", "cells")] <- lapply(words[c("start", "added", "cells")], function(x) x * step)
  words[c("groups", "places", "categories")] <- lapply(words[c("groups", "places", "categories")], by_step)
  words
}

# What `opening()` or `final()` says: its `cells`, the value in each, by what kinds are told apart (`traits`), and how
# the core finds the cell: by an `index` of two kinds, or by `words` of all cards.
scope_values <- function(scope, deck, call) {
  name <- as.character(scope[[1]])
  asked <- list(name = name, hand = as.character(scope[[2]]))
  size <- if (name == "opening") 2 else if (asked$hand == "both") 6 else 3
  pool <- new_pool(rep(deck, 6), deck[0], FALSE, 2, size)
  words <- without_notes(asked_words(list(scope[[3]]), pool, hand_words, call))
  core <- core_words(words, pool)
  asked$traits <- word_traits(core)
  if (name == "final") {
    if (words$cells > most_cells) refuse_cells(expression_text(scope), words$cells, call)
    asked[c("words", "cells")] <- list(core, words$cells)
    asked$values <- rep(NA, words$cells)
    index <- possible_index(words, words$cells)
    asked$values[index + 1] <- outcome_values(scope[[3]], words, index, call)
    # Cells that no hand comes to.
    asked$values[is.na(asked$values)] <- asked$values[index[1] + 1]
    return(asked)
  }
  kinds <- nrow(pool$data)
  pairs <- cbind(rep(seq_len(kinds), each = kinds), rep(seq_len(kinds), times = kinds))
  values <- outcome_values(scope[[3]], words, core_read_hands(core, pairs), call)
  levels <- unique(values)
  asked[c("index", "cells", "values")] <- list(match(values, levels) - 1, length(levels), levels)
  asked
}

# What the words tell cards apart by.
word_traits <- function(core) {
  traits <- c(list(core$added), lapply(core$groups, `[[`, "group"), lapply(core$places, `[[`, "holds"),
              category_traits(core$categories))
  Filter(length, traits)
}
