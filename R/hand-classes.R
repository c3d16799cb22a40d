#' Hands told by class
#'
#' Words that stand for several hands at once, wherever hands that a seat may have are told: in [showdown()], in the
#' rule `holdings` of [game_betting()] and in the tables of its players ([player_by_table()]).
#'
#' Of two cards:
#' * `"pair of Q"`, `"pair of Q or better"`, `"any pair"`;
#' * `"A K suited"`, `"A K unsuited"`, `"A K"`: two ranks of one suit, of two suits, or both;
#' * `"A 9 or better"`, also `suited` or `unsuited`: the first rank with the second and all above it, below the first;
#' * `"any two"`: every hand.
#'
#' Of one card: a rank (`"K"`), or `"K or better"`. Ranks are those of the deck, and rank as in [hand_rules()]. A weight
#' beside a class is the weight of each of its hands.
#'
#' @examples
#' showdown(list("pair of Q or better", "A K suited"))
#' @name hand_classes
NULL

# The hands that a text stands for as codes, one each; NULL where it is no class. `ranked` is what ranked_cards() gives.
hands_of_class <- function(text, ranked, size) {
  words <- strsplit(trimws(text), "[[:space:]]+")[[1]]
  better <- length(words) > 2 && identical(utils::tail(words, 2), c("or", "better"))
  suits <- intersect(words, c("suited", "unsuited"))
  words <- setdiff_in_order(if (better) utils::head(words, -2) else words, suits)
  # "A 9 suited or better" and "A 9 or better suited" are the same.
  if (!better && length(words) > 2 && identical(utils::tail(words, 2), c("or", "better"))) {
    better <- TRUE
    words <- utils::head(words, -2)
  }
  if (length(suits) > 1) return(NULL)
  if (size == 1) return(one_card_class(words, better, suits, ranked))
  if (size == 2) two_card_class(words, better, suits, ranked)
}

setdiff_in_order <- function(words, without) words[!words %in% without]

one_card_class <- function(words, better, suits, ranked) {
  at <- if (length(words) == 1 && !length(suits)) match(toupper(words), toupper(ranked$ranks))
  if (is.null(at) || is.na(at)) return(NULL)
  as.list(ranked$codes[if (better) ranked$rank >= at else ranked$rank == at])
}

two_card_class <- function(words, better, suits, ranked) {
  place <- function(word) match(toupper(word), toupper(ranked$ranks))
  all <- length(ranked$ranks)
  if (identical(words, c("any", "two")) && !better && !length(suits)) return(pairs_of_ranks(ranked, NULL, suits))
  if (identical(words, c("any", "pair")) && !better && !length(suits)) {
    return(pairs_of_ranks(ranked, cbind(seq_len(all), seq_len(all)), suits))
  }
  if (length(words) == 3 && identical(words[1:2], c("pair", "of")) && !length(suits)) {
    at <- place(words[3])
    if (is.na(at)) return(NULL)
    to <- if (better) all else at
    return(pairs_of_ranks(ranked, cbind(at:to, at:to), suits))
  }
  at <- if (length(words) == 2) place(words)
  if (is.null(at) || anyNA(at) || at[1] == at[2]) return(NULL)
  if (!better) return(pairs_of_ranks(ranked, cbind(at[1], at[2]), suits))
  if (at[1] < at[2]) return(NULL)
  pairs_of_ranks(ranked, cbind(at[1], at[2]:(at[1] - 1)), suits)
}

# All hands of two cards of these pairs of ranks (NULL: of any), by their suits.
pairs_of_ranks <- function(ranked, ranks, suits) {
  cards <- ranked$codes
  two <- utils::combn(seq_along(cards), 2)
  key <- function(one, other) paste(pmin(one, other), pmax(one, other))
  keep <- rep(TRUE, ncol(two))
  if (!is.null(ranks)) keep <- key(ranked$rank[two[1, ]], ranked$rank[two[2, ]]) %in% key(ranks[, 1], ranks[, 2])
  same <- !is.na(ranked$suit[two[1, ]]) & ranked$suit[two[1, ]] == ranked$suit[two[2, ]]
  same[is.na(same)] <- FALSE
  if (length(suits)) keep <- keep & (if (suits == "suited") same else !same)
  hands <- unique(t(apply(two[, keep, drop = FALSE], 2, function(at) sort(cards[at]))))
  lapply(seq_len(nrow(hands)), function(i) hands[i, ])
}

# The cards of a deck with their ranks: `codes` (each as often as it is there), `rank` (places among `ranks`, from the
# lowest), `suit`.
ranked_cards <- function(deck, rules, call) {
  codes <- codes_of(deck)
  bound <- bound_hand_rules(rules, catalogue_of(deck), codes, call)
  list(codes = codes, rank = bound$rank[codes] + 1, suit = bound$suit[codes], ranks = bound$ranks)
}

# A function that gives the hands that cards or a text stand for, as a list of codes: one, or those of a class.
hand_reader <- function(deck, rules, size, name, call) {
  ranked <- NULL
  known <- catalogue_of(deck)$data$card
  function(x) {
    is_class <- rlang::is_string(x) && validUTF8(x) && !all(strsplit(trimws(x), "[[:space:],]+")[[1]] %in% known)
    if (is_class) {
      if (is.null(ranked)) ranked <<- ranked_cards(deck, rules, call)
      found <- hands_of_class(x, ranked, size)
      if (length(found)) return(found)
      if (grepl("\\b(pair|any|suited|unsuited|or better)\\b", x)) refuse_hand_class(x, ranked, size, name, call)
    }
    list(codes_of(named_cards(x, deck, name, call)))
  }
}

refuse_hand_class <- function(x, ranked, size, name, call) {
  like <- if (size == 1) sprintf("\"%s or better\"", utils::tail(ranked$ranks, 1)) else {
    two <- utils::tail(ranked$ranks, 2)
    sprintf("\"pair of %s or better\", \"%s %s suited\"", two[1], two[2], two[1])
  }
  refuse(sprintf("`%s`: %s is no class of hands of this deck; one is %s (ranks: %s).", name, quoted(x), like,
                 join_words(ranked$ranks)), call = call)
}
