# The rules of games in which seats bet.

betting_rules <- function() {
  list(
    rule_deck("the cards"), rule_whole("seats", 2, 2, 6, "how many play"),
    rule_whole("private", 2, 1, 8, "cards of its own that each seat is dealt"),
    rule_whole("ante", 0, 0, 1e9, "what each seat puts into the pot before the cards, in chips"),
    rule_numbers("blinds", NULL, 0, 1e9,
                 paste("what the first seats must bet before the cards, the smaller first, in chips; one of two seats",
                       "is the second's"), without = "none"),
    rule_numbers("stacks", 100, 1, 1e9, "the chips of each seat, or of all"),
    rule_streets("what is turned and how it is bet on, street by street; then hands are shown"),
    rule_strength("which hand is better; of one card and none turned, its rank"),
    rule_own_cards(), rule_board(),
    rule_whole("pot", 0, 0, 1e9, "chips that are in the pot already and belong to nobody"),
    rule_holdings(),
    rule_players(c("random", "calls_all", "table", "by_rules", "lookahead", "mixture", "person"),
                 "who decides for the seats")
  )
}

rule_own_cards <- function() {
  new_rule("own_cards", "any", "\"any\", or how many", "how many of a seat's own cards count at the end, exactly",
           function(value, name, call) {
    if (identical(value, "any")) return(value)
    number <- if (is.character(value)) written_numbers(value) else value
    check_whole(if (length(number) == 1 && is.na(number)) value else number, 1, 8, name, call)
  })
}

# Cards that lie there from the start, as text.
rule_board <- function() {
  new_rule("board", NULL, "cards or their text, such as \"KS 8H 3D\", or NULL: none",
           "cards that all see from the start; the deck is then without them", function(value, name, call) {
    if (is.null(value)) return(NULL)
    if (is_cards(value)) value <- as.character(value)
    if (is.list(value)) value <- unlist(value)
    if (!is.character(value) || !length(value) || anyNA(value)) {
      refuse(sprintf("`%s` must be cards or their text, not %s.", name, said(value)), call = call)
    }
    check_utf8(value, name, call)
    words <- strsplit(paste(value, collapse = " "), "[[:space:],]+")[[1]]
    words[nzchar(words)]
  })
}

# The hands that seats may be dealt: for each seat their weights by the text of hands, or NULL: any.
rule_holdings <- function() {
  allowed <- paste("for each seat hands or classes of them (see ?hand_classes), or weights by these, or NULL: any;",
                   "such as list(\"pair of Q or better\", c(\"A K\" = 2, \"any pair\" = 1))")
  new_rule("holdings", NULL, allowed, "the hands that each seat may be dealt", function(value, name, call) {
    if (is.null(value)) return(NULL)
    if (rlang::is_string(value) && grepl(";", value, fixed = TRUE)) {
      value <- as.list(trimws(strsplit(value, ";", fixed = TRUE)[[1]]))
    }
    if (!is.list(value)) value <- list(value)
    structure(lapply(unname(unclass(value)), weighted_hands, name, allowed, call), class = "habanera_holdings")
  })
}

weighted_hands <- function(seat, name, allowed, call) {
  if (is.null(seat) || identical(seat, "any")) return(NULL)
  if (is.list(seat) && !is.null(names(seat))) seat <- unlist(seat)
  if (is.list(seat)) seat <- unlist(seat)
  if (rlang::is_string(seat) && is.null(names(seat))) seat <- typed_list(seat)
  weights <- if (is.numeric(seat) && !is_cards(seat)) seat else if (is.character(seat) && !is.null(names(seat))) {
    rlang::set_names(written_numbers(seat), names(seat))
  } else if (is.character(seat)) rlang::set_names(rep(1, length(seat)), seat)
  fits <- length(weights) > 0 && all(is.finite(weights) & weights > 0) && all(nzchar(rlang::names2(weights))) &&
    !anyDuplicated(names(weights))
  if (!fits) refuse(sprintf("`%s` must be %s, not %s.", name, allowed, said(seat)), call = call)
  check_utf8(names(weights), name, call)
  rlang::set_names(as.double(weights), trimws(names(weights)))
}

#' @export
rule_text.habanera_holdings <- function(value) {
  paste(vapply(value, function(seat) {
    if (is.null(seat)) return("any")
    if (length(seat) > 4) return(sprintf("one of %s", count_of(length(seat), "hand or class", "hands or classes")))
    if (all(seat == 1)) return(join_words(names(seat), "or"))
    paste(names(seat), "=", format_number(seat, 6), collapse = ", ")
  }, ""), collapse = "; ")
}

#' @export
typed_rule.habanera_holdings <- function(value) {
  paste(vapply(value, function(seat) {
    if (is.null(seat)) "any" else if (all(seat == 1)) paste(names(seat), collapse = ", ") else {
      paste(names(seat), vapply(seat, number_in_words, "", mark = ""), sep = "=", collapse = ", ")
    }
  }, ""), collapse = "; ")
}

#' @export
plain_rule.habanera_holdings <- function(value) {
  lapply(value, function(seat) if (is.null(seat)) "any" else as.list(seat))
}

#' @export
rule_code.habanera_holdings <- function(value) {
  sprintf("list(%s)", paste(vapply(unclass(value), function(seat) rule_code.default(seat), ""), collapse = ", "))
}

# Rules by their shape.
betting_shapes <- function() {
  list(
    `one card, one bet` = list(deck = deck_numbered(3), private = 1, ante = 1, streets = list(street())),
    `one card, two streets` = list(
      deck = deck_ranks(1:3, copies = 2), private = 1, ante = 1,
      streets = list(street(bets = 2, most_bets = 2), street(shared = 1, bets = 4, most_bets = 2)),
      strength = hand_rules(size = 2, categories = c("one pair", "high card"))
    ),
    `all in or fold` = list(
      blinds = c(1, 2), stacks = 20,
      streets = list(street(bets = "all in", calls = "all in"), street(shared = 5, bets = NULL))
    )
  )
}

settled_betting <- function(rules, piles, changed, call) {
  slip <- function(...) refuse(sprintf(...), "rules", call)
  seats <- rules$seats
  refuse_other_number(rules$players, seats, call)
  if (!length(rules$stacks) %in% c(1, seats)) {
    slip("There are %s for %s.", count_of(length(rules$stacks), "stack"), count_of(seats, "seat"))
  }
  stacks <- rep_len(rules$stacks, seats)
  bad <- which(rules$stacks != floor(rules$stacks))
  if (length(bad)) slip("Chips are whole: a stack cannot be %s.", format_number(rules$stacks[bad[1]], 6))
  rules["blinds"] <- list(settled_blinds(rules, slip))
  due <- rules$ante + c(rules$blinds, rep(0, seats))[seq_len(seats)]
  bad <- which(due > stacks)
  if (length(bad)) {
    slip("Seat %d must put in %s before the cards, more than its stack of %s.", bad[1],
         count_of(due[bad[1]], "chip"), format_count(stacks[bad[1]]))
  }
  if (rules$pot > 0 && (rules$ante > 0 || length(rules$blinds))) {
    slip("A `pot` is there already: no `ante` and no `blinds`.")
  }
  refuse_streets(rules, slip)
  if (!is.null(rules$holdings) && !length(rules$holdings) %in% c(1, seats)) {
    slip("`holdings` are told for %s, not for %s.", count_of(length(rules$holdings), "seat"), count_of(seats, "seat"))
  }
  shared <- sum(vapply(rules$streets, `[[`, 0, "shared"))
  needed <- seats * rules$private + shared + length(rules$board)
  if (needed > length(rules$deck)) {
    slip("%s with %s each and %s that all see need %s; the deck has %s.", count_of(seats, "seat"),
         count_of(rules$private, "card"), count_of(shared + length(rules$board), "card"), count_of(needed, "card"),
         format_count(length(rules$deck)))
  }
  if (rules$private + shared + length(rules$board) > 9) {
    slip("A seat's %s and the %s that all see are more than 9 cards.", count_of(rules$private, "card"),
         format_count(shared + length(rules$board)))
  }
  moves <- sum(seats * (1 + vapply(rules$streets, `[[`, 0, "most_bets")))
  if (moves > 160) {
    slip("A hand could have %s moves, of which 160 can be kept: fewer streets, seats, or bets (`most_bets`).",
         format_count(moves))
  }
  if (!is.function(rules$strength) && rules$strength$tie_break == "dealt_order") {
    slip("`strength`: a seat's cards lie in no order, so that hands cannot be compared as dealt.")
  }
  if (is.numeric(rules$own_cards) && rules$own_cards > rules$private) {
    slip("`own_cards` must be at most %s, not %s.", format_count(rules$private), format_count(rules$own_cards))
  }
  rules
}

# Of two seats the first may have none.
settled_blinds <- function(rules, slip) {
  blinds <- rules$blinds
  if (is.null(blinds) || all(blinds == 0)) return(NULL)
  if (any(blinds != floor(blinds))) slip("Chips are whole: `blinds` cannot be %s.", said(blinds))
  if (length(blinds) > rules$seats) {
    slip("There are %s for %s.", count_of(length(blinds), "blind"), count_of(rules$seats, "seat"))
  }
  if (is.unsorted(blinds)) slip("`blinds` are told the smaller first, not as %s.", join_words(format_count(blinds)))
  if (rules$seats == 2 && length(blinds) == 1) c(0, blinds) else blinds
}

refuse_streets <- function(rules, slip) {
  first <- unlist(lapply(rules$streets, `[[`, "first"))
  if (any(first > rules$seats)) slip("Seat %s cannot speak first: there are %s.", format_count(max(first)),
                                     format_count(rules$seats))
  all_in <- vapply(rules$streets, function(each) each$calls == "all in", NA)
  if (any(all_in[-1]) || (all_in[1] && is.null(rules$blinds))) {
    slip("`calls` of \"all in\" are of a blind, on the first street: here none is posted.")
  }
}
