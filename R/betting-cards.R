# What the cards are to those who bet on them.

# The cards that are dealt from: without those that lie on the board.
betting_deck <- function(rules) {
  if (!length(rules$board)) return(rules$deck)
  parted_deck(rules$deck, NULL, paste(rules$board, collapse = " "), NULL)$deck
}

# Kinds of the deck, then those that lie on the board alone.
betting_cards <- function(rules, deck, record, kept, call) {
  catalogue <- catalogue_of(deck)
  kinds <- kinds_of(deck)
  board <- find_codes(rules$board, catalogue)
  codes <- c(kinds$codes, setdiff(board, kinds$codes))
  by_hands <- inherits(rules$strength, "habanera_hand_rules")
  bound <- bound_hand_rules(if (by_hands) rules$strength else hand_rules(), catalogue, codes, call)
  if (by_hands) refuse_rankless(bound, list(codes = codes, catalogue = catalogue), call)
  of_kind <- utils::modifyList(bound, lapply(bound[c("rank", "suit", "wild")], `[`, codes))
  told <- told_kinds(rules, of_kind, kinds, codes, catalogue)
  tells_holdings <- any(grepl("^holding_", record))
  if (tells_holdings && length(codes)^rules$private >= 2^53) {
    refuse("Hands of so many cards of so many kinds are too many to be recorded: no `holding_1`.", "work", call)
  }
  list(kinds = kinds, codes = codes, deck = deck, board = match(board, codes), bound = of_kind, told = told,
       strength = strength_of_hands(rules, of_kind, codes, kinds, catalogue, call),
       tells_holdings = tells_holdings, call = call)
}

# How kinds are told: see BettingCards in the core.
told_kinds <- function(rules, bound, kinds, codes, catalogue) {
  copies <- c(kinds$copies, rep(0, length(codes) - length(kinds$codes)))
  rank <- ifelse(is.na(bound$rank), length(bound$ranks), bound$rank)
  named <- names_suits(unclass(rules$players), new_cards(kinds$codes, catalogue))
  suits <- named || suits_matter(rules, bound)
  stands_for <- if (suits) seq_along(codes) else match(paste(rank, bound$wild), paste(rank, bound$wild))
  names <- catalogue$data$card[codes]
  merged <- !suits & !bound$wild
  names[merged] <- bound$ranks[rank[merged] + 1]
  of_suit <- if (suits && !named && suits_are_alike(rules, bound, copies)) split(seq_along(codes)[order(rank)],
                                                                       bound$suit[order(rank)])
  list(copies = copies, names = names, codes = catalogue$data$card[codes], stands_for = stands_for, rank = rank,
       suit = if (suits) ifelse(is.na(bound$suit), -1, bound$suit) else rep(-1, length(codes)),
       suits_alike = !is.null(of_suit), of_suit = unname(of_suit),
       like_suit = if (is.null(of_suit)) numeric() else suits_like(bound, copies))
}

# Of each suit the first of which the same ranks lie on the board.
suits_like <- function(bound, copies) {
  gone <- copies == 0
  by_suit <- split(bound$rank[gone], factor(bound$suit[gone], sort(unique(bound$suit))))
  lie <- vapply(by_suit, function(ranks) paste(sort(ranks), collapse = " "), "")
  match(lie, lie)
}

# Whether hands may be told apart by suits: a flush counts and can be held, or an R function looks at them.
suits_matter <- function(rules, bound) {
  if (is.function(rules$strength)) return(TRUE)
  seen <- rules$private + shared_in_all(rules) + length(rules$board)
  flushes <- vapply(bound$categories, function(each) each$what %in% c("flush", "straight flush", "royal flush"), NA)
  by_rank <- tapply(bound$wild, bound$rank, function(wild) length(unique(wild)) == 1)
  (seen >= bound$size && bound$size > 1 && any(flushes)) || !all(by_rank) || bound$dealt_order
}

# Whether an exchange of suits changes nothing.
suits_are_alike <- function(rules, bound, copies) {
  on_board <- !is.null(rules$board)
  if (is.function(rules$strength) || any(bound$wild) || anyNA(bound$suit) || anyNA(bound$rank)) return(FALSE)
  if (!is.null(rules$holdings) || any(copies > 1) || (!on_board && any(copies == 0))) return(FALSE)
  ranks <- split(bound$rank, bound$suit)
  length(ranks) > 1 && length(bound$ranks) <= 32 && all(vapply(ranks, function(suit) {
    length(suit) == length(bound$ranks) && setequal(suit, seq_along(bound$ranks) - 1)
  }, NA))
}

strength_of_hands <- function(rules, bound, codes, kinds, catalogue, call) {
  seen <- shared_in_all(rules) + length(rules$board)
  if (is.function(rules$strength)) return(strength_by_function(rules, codes, kinds, catalogue, call))
  if (rules$private == 1 && seen == 0 && !any(bound$wild)) return(list(by = "ranks", worth = bound$rank))
  list(by = "hands", rules = core_hand_rules(bound), cards = rules$private + seen,
       singles = !any(bound$wild) && all(kinds$copies == 1),
       own_cards = if (identical(rules$own_cards, "any")) 0 else rules$own_cards)
}

most_hands_asked <- 2e5

# Every hand of a seat with every set of cards that all see in the end is asked once.
strength_by_function <- function(rules, codes, kinds, catalogue, call) {
  shared <- shared_in_all(rules)
  places <- rep(seq_along(kinds$codes), times = kinds$copies)
  hands <- choose(length(places), rules$private) * choose(length(places) - rules$private, shared)
  if (hands > most_hands_asked) {
    refuse(sprintf(paste("A function is asked about at most %s hands and boards, not %s: take a smaller deck or",
                         "hand_rules()."), format_count(most_hands_asked), format_number(hands, 3)), "work", call)
  }
  board <- match(find_codes(rules$board, catalogue), codes)
  asked <- asked_hands(places, rules$private, shared, board)
  takes <- length(formals(rules$strength))
  worth <- vapply(asked, function(hand) {
    own <- new_cards(codes[hand[seq_len(rules$private)]], catalogue)
    open <- new_cards(codes[hand[-seq_len(rules$private)]], catalogue)
    told <- function() sprintf("%s%s", join_words(as.character(own)),
                               if (length(open)) paste(" with", join_words(as.character(open))) else "")
    value <- refuse_if_fails(if (takes == 1) rules$strength(own) else rules$strength(own, open),
                             sprintf("`strength` failed for %s.", told()), "function", call)
    if (is.numeric(value) && length(value) == 1 && is.finite(value)) return(as.double(value))
    refuse(sprintf("`strength` must return one number, not %s, for %s.", said(value), told()), "function", call)
  }, 0)
  list(by = "table", hands = asked, worth = match(worth, sort(unique(worth))))
}

asked_hands <- function(places, private, shared, board) {
  own <- unique(t(utils::combn(seq_along(places), private)))
  hands <- lapply(seq_len(nrow(own)), function(i) {
    held <- sort(places[own[i, ]])
    rest <- places[-own[i, ]]
    open <- if (shared == 0) list(integer()) else {
      lapply(utils::combn(length(rest), shared, simplify = FALSE), function(at) rest[at])
    }
    lapply(open, function(turned) as.integer(c(held, sort(c(turned, board)))))
  })
  unique(unlist(hands, recursive = FALSE))
}
