# Bets beside the table: on a seat's first two cards and the dealer's up card, in the language of questions.

# By name what is handed back for one stake, as text; conditions with what they pay become one expression.
rule_side_bets <- function(meaning) {
  allowed <- "expressions by name, or conditions with what they pay, or NULL"
  new_rule("side_bets", NULL, allowed, meaning, function(value, name, call) {
    if (is.null(value) || !length(value)) return(NULL)
    if (rlang::is_string(value) && is.null(names(value))) value <- typed_bets(value, call)
    names <- rlang::names2(value)
    if (!all(grepl("^[A-Za-z][A-Za-z0-9_]*$", names)) || anyDuplicated(names) || length(value) > 8) {
      refuse("`side_bets` must be up to 8 bets, each with a name of its own of letters, digits and _.", call = call)
    }
    lapply(as.list(value), bet_text, call)
  })
}

# "name = expression" as the shell types it.
typed_bets <- function(text, call) lapply(parse_expressions(text, "side_bets", call), expression_text)

bet_text <- function(bet, call) {
  if (is.list(bet)) bet <- unlist(bet)
  if (is.language(bet)) return(expression_text(bet))
  if (is.numeric(bet) && !is.null(names(bet))) {
    choices <- sprintf("ifelse(%s, %s, ", names(bet), format(unname(bet), digits = 15, trim = TRUE))
    bet <- paste0(paste(choices, collapse = ""), "0", strrep(")", length(bet)))
  }
  expression_text(parse_expression(check_string(bet, "side_bets", call), "side_bets", call))
}

# What each side bet hands back by the classes of three cards that none of them tells apart.
side_bet_values <- function(rules, deck, call) {
  kinds <- length(kinds_of(deck)$codes)
  if (is.null(rules$side_bets)) return(list(class = rep(1L, kinds), classes = 1, handed = list()))
  # Of a pack alone three cards alike could not come.
  three <- rep(deck, 3)
  questions <- lapply(names(rules$side_bets), function(name) {
    expr <- parse_expression(rules$side_bets[[name]], name, call)
    checked <- checked_outcome(expr, catalogue_of(deck), list(), NULL, call, turns = FALSE)
    columns <- rlang::set_names(list(checked), name)
    without_notes(new_question(parted_deck(three), 3, columns, FALSE, shuffle_none(), call))
  })
  class <- like_kinds(lapply(questions, function(question) question_classes(question)$of_kind))
  if (max(class) > most_bet_classes) {
    refuse(sprintf("The side bets tell %s kinds of cards apart; at most %d can be. Ask something coarser.",
                   format_count(max(class)), most_bet_classes), "work", call)
  }
  first <- match(seq_len(max(class)), class)
  # The third card changes fastest, as in the core.
  triples <- as.matrix(expand.grid(first, first, first))[, 3:1, drop = FALSE]
  storage.mode(triples) <- "integer"
  handed <- lapply(questions, bet_on_triples, triples, call)
  list(class = class, classes = max(class), handed = rlang::set_names(handed, names(rules$side_bets)))
}

most_bet_classes <- 120

bet_on_triples <- function(question, triples, call) {
  keys <- unlist(core_play_on(question$spec, triples)$keys)
  values <- outcome_values(question$columns[[1]], question$words, keys, call)
  if (is.character(values) || !all(values >= 0 & values <= 1e6)) {
    refuse(sprintf("The side bet `%s` must hand back 0 to a million for a stake.", names(question$columns)), "rules",
           call)
  }
  as.double(values)
}

# What is said of their outcomes.
side_bet_columns <- function(bets) {
  rlang::set_names(lapply(seq_along(bets), function(i) {
    list(meaning = sprintf("what the bet %s brings the player", bets[i]), told_of = "that were played", is_money = TRUE,
         core = paste0("side_", i))
  }), bets)
}
