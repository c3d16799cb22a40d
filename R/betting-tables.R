# Tables of chances of those who bet: what their rows say of holdings, of cards that all see and of moves so far, as the
# game tells it.

# A function of a table's rows for one seat: each stands for all that its words can mean; what cannot be is refused.
rows_told_by <- function(table, rules, cards) {
  function(rows, seat, player) {
    label <- player$label
    if (!nrow(rows)) return(rows)
    slip <- function(sees, ...) {
      refuse(sprintf("The table %s, where %s is seen: %s.", quoted(label), quoted(sees), sprintf(...)), "rules", NULL)
    }
    turns <- shared_in_all(rules) + length(rules$board) > 0
    sights <- unique(rows$sees)
    parts <- lapply(sights, sight_parts, slip)
    said <- vapply(parts, `[[`, "", "actions")
    open <- core_betting_open(table, said)
    by_sight <- split(seq_len(nrow(rows)), factor(rows$sees, sights))
    told <- lapply(seq_along(sights), function(i) {
      refuse_other_course(open[[i]], rows[by_sight[[i]], ], seat, sights[i], isTRUE(player$by_holding), slip)
      texts_of_cards(parts[[i]], open[[i]], table, rules, cards, function(...) slip(sights[i], ...))
    })
    texts <- lapply(seq_along(sights), function(i) {
      unique(seen_holding(told[[i]]$holding, if (turns) told[[i]]$shared, open[[i]]$text))
    })
    from <- rep(seq_along(sights), times = lengths(texts))
    twice <- which(duplicated(unlist(texts)))[1]
    if (!is.na(twice)) {
      first <- match(unlist(texts)[twice], unlist(texts))
      slip(sights[from[twice]], "%s tells of the same", quoted(sights[from[first]]))
    }
    out <- lapply(seq_along(sights), function(i) {
      own <- rows[by_sight[[i]], c("move", "chance")]
      data.frame(sees = rep(texts[[i]], each = nrow(own)), move = rep(own$move, times = length(texts[[i]])),
                 chance = rep(own$chance, times = length(texts[[i]])))
    })
    do.call(rbind, out)
  }
}

sight_parts <- function(sees, slip) {
  parts <- holding_parts(sees)
  if (is.null(parts)) slip(sees, "what a seat sees is told as \"holding: K; shared: 7; actions: check bet\"")
  if (is.null(parts$shared)) parts$shared <- ""
  parts
}

refuse_other_course <- function(open, rows, seat, sees, wants_all, slip) {
  if (nzchar(open$wrong)) slip(sees, "the moves cannot go on with %s by these rules", quoted(open$wrong))
  if (open$seat == 0) slip(sees, "the hand is over then")
  if (open$seat != seat) slip(sees, "then seat %s speaks, not seat %s", format_count(open$seat), format_count(seat))
  bad <- rows$move[rows$chance > 0 & !rows$move %in% open$moves]
  lacking <- if (wants_all) setdiff(open$moves, rows$move)
  if (length(lacking)) slip(sees, "it misses %s, which is open there; write 0 if it is never made", quoted(lacking[1]))
  if (length(bad)) {
    slip(sees, "%s is not open there, %s", quoted(bad[1]), sprintf(if (length(open$moves) == 1) "only %s is" else
      "but %s", join_words(open$moves, "or")))
  }
}

# The texts of the holdings and shared cards that a row stands for.
texts_of_cards <- function(part, open, table, rules, cards, slip) {
  shared <- kinds_in_words(part$shared, cards, slip)
  if (length(shared) != open$turned) {
    slip("%s lie open by then, not %s", count_of(open$turned, "card"), format_count(length(shared)))
  }
  holdings <- kinds_of_holding(part$holding, rules, cards, slip)
  copies <- table$cards$copies
  copies[cards$board] <- copies[cards$board] + 1
  like <- table$cards$stands_for
  counts <- as.vector(rowsum(copies, like)[as.character(like), ])
  fits <- vapply(holdings, function(own) {
    length(own) == rules$private && all(tabulate(like[c(own, shared)], length(like)) <= counts * (like == seq_along(like)))
  }, NA)
  if (!any(fits)) {
    slip("%s can be no hand of %s%s", quoted(part$holding), count_of(rules$private, "card"),
         if (length(shared)) " beside these" else "")
  }
  groups <- c(rules$private, length(cards$board), vapply(rules$streets, `[[`, 0, "shared"))
  core_betting_told(table$cards, as.integer(groups[groups > 0]), lapply(holdings[fits], c, shared))
}

# Cards by their codes, or as they are told.
kinds_in_words <- function(text, cards, slip) {
  words <- strsplit(text, "[[:space:],]+")[[1]]
  words <- words[nzchar(words)]
  at <- match(words, cards$told$names)
  at[is.na(at)] <- match(words[is.na(at)], cards$told$codes)
  if (anyNA(at)) slip("%s is no card here%s", quoted(words[is.na(at)][1]), sub("\\.$", "", did_you_mean(
    words[is.na(at)][1], unique(c(cards$told$names, cards$told$codes)))))
  as.integer(at)
}

kinds_of_holding <- function(text, rules, cards, slip) {
  words <- strsplit(text, "[[:space:],]+")[[1]]
  if (all(words %in% c(cards$told$names, cards$told$codes)) && length(words) == rules$private) {
    return(list(kinds_in_words(text, cards, slip)))
  }
  by_hands <- if (is.function(rules$strength)) hand_rules() else rules$strength
  found <- hands_of_class(text, ranked_cards(cards$deck, by_hands, NULL), rules$private)
  if (length(found)) return(lapply(found, match, cards$codes))
  list(kinds_in_words(text, cards, slip))
}
