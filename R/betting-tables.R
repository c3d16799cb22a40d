# Tables of chances of those who bet: what their rows say of holdings, of cards that all see and of moves so far, as the
# game tells it.

# A function of a table's rows for one seat: each stands for all that its words can mean; what cannot be is refused.
rows_told_by <- function(table, rules, cards) {
  function(rows, seat, player) {
    if (!nrow(rows)) return(rows)
    slip <- function(sees, ...) {
      refuse(ended(sprintf("The table %s, where %s is seen: %s", quoted(player$label), quoted(sees), sprintf(...))),
             "rules", NULL)
    }
    sights <- unique(rows$sees)
    parts <- sight_parts(sights, slip)
    courses <- unique(parts$actions)
    open <- core_betting_open(table, courses)[match(parts$actions, courses)]
    by_sight <- split(seq_len(nrow(rows)), factor(rows$sees, sights))
    for (i in seq_along(sights)) {
      refuse_other_course(open[[i]], rows[["move"]][by_sight[[i]]], rows[["chance"]][by_sight[[i]]], seat, sights[i],
                          isTRUE(player$by_holding), slip)
    }
    told <- told_sights(sights, parts, open, table, rules, cards, slip)
    at <- unlist(by_sight[told$from], use.names = FALSE)
    data.frame(sees = rep(told$text, times = lengths(by_sight)[told$from]), move = rows[["move"]][at],
               chance = rows[["chance"]][at])
  }
}

# With a full stop, unless it asks something.
ended <- function(text) if (grepl("[?.]$", text)) text else paste0(text, ".")

# The texts that each sight stands for, as the game tells them, and `from` which sight each is.
told_sights <- function(sights, parts, open, table, rules, cards, slip) {
  once <- function(texts, read) {
    known <- unique(texts)
    found <- lapply(known, function(text) read(text, function(...) slip(sights[match(text, texts)], ...)))
    found[match(texts, known)]
  }
  shared <- once(parts$shared, function(text, slip) kinds_in_words(text, cards, slip))
  holdings <- once(parts$holding, function(text, slip) kinds_of_holding(text, rules, cards, slip))
  turned <- vapply(open, `[[`, 0, "turned")
  bad <- which(lengths(shared) != turned)[1]
  if (!is.na(bad)) {
    slip(sights[bad], "%s lie open by then, not %s", count_of(turned[bad], "card"), format_count(length(shared[[bad]])))
  }
  hands <- Map(function(own, open) lapply(own, c, open), holdings, shared)
  go_together <- holds_together(table[["cards"]], cards$board)
  can_be <- function(hand, open) length(hand) - length(open) == rules$private && go_together(hand)
  hands <- Map(function(all, open) Filter(function(hand) can_be(hand, open), all), hands, shared)
  bad <- which(lengths(hands) == 0)[1]
  if (!is.na(bad)) {
    slip(sights[bad], "%s can be no hand of %s%s", quoted(parts$holding[bad]), count_of(rules$private, "card"),
         if (length(shared[[bad]])) " beside these" else "")
  }
  from <- rep(seq_along(sights), times = lengths(hands))
  groups <- c(rules$private, length(cards$board), vapply(rules$streets, `[[`, 0, "shared"))
  told <- core_betting_told(table[["cards"]], as.integer(groups[groups > 0]), unlist(hands, recursive = FALSE))
  turns <- shared_in_all(rules) + length(rules$board) > 0
  text <- seen_holding(told$holding, if (turns) told$shared, vapply(open, `[[`, "", "text")[from])
  kept <- !duplicated(data.frame(text, from))
  twice <- which(duplicated(text[kept]))[1]
  if (!is.na(twice)) {
    first <- match(text[kept][twice], text[kept])
    slip(sights[from[kept][twice]], "%s tells of the same", quoted(sights[from[kept][first]]))
  }
  list(text = text[kept], from = from[kept])
}

# Whether cards, as kinds, can be there all at once, beside these on the board or with them.
holds_together <- function(known, board) {
  copies <- known$copies
  copies[board] <- copies[board] + 1
  like <- known$stands_for
  counts <- as.vector(rowsum(copies, like)[as.character(like), ])
  function(hand) !any(tabulate(like[hand], length(like))[like[hand]] > counts[hand])
}

sight_parts <- function(sights, slip) {
  parts <- holding_parts(sights)
  if (is.null(parts)) {
    bad <- which(vapply(sights, function(sees) is.null(holding_parts(sees)), NA))[1]
    slip(sights[bad], "what a seat sees is told as \"holding: K; shared: 7; actions: check bet\"")
  }
  if (is.null(parts$shared)) parts$shared <- rep("", length(sights))
  parts
}

refuse_other_course <- function(open, moves, chances, seat, sees, wants_all, slip) {
  if (nzchar(open$wrong)) slip(sees, "the moves cannot go on with %s by these rules", quoted(open$wrong))
  if (open$seat == 0) slip(sees, "the hand is over then")
  if (open$seat != seat) slip(sees, "then seat %s speaks, not seat %s", format_count(open$seat), format_count(seat))
  lacking <- if (wants_all) setdiff(open$moves, moves)
  if (length(lacking)) slip(sees, "it misses %s, which is open there; write 0 if it is never made", quoted(lacking[1]))
  bad <- moves[chances > 0 & !moves %in% open$moves]
  if (length(bad)) {
    slip(sees, "%s is not open there, %s", quoted(bad[1]), sprintf(if (length(open$moves) == 1) "only %s is" else
      "but %s", join_words(open$moves, "or")))
  }
}

# Cards by their codes, or as they are told.
kinds_in_words <- function(text, cards, slip) {
  words <- strsplit(text, "[[:space:],]+")[[1]]
  words <- words[nzchar(words)]
  at <- match(words, cards$told$names)
  at[is.na(at)] <- match(words[is.na(at)], cards$told$codes)
  if (anyNA(at)) slip("%s is no card here%s", quoted(words[is.na(at)][1]),
                     did_you_mean(words[is.na(at)][1], unique(c(cards$told$names, cards$told$codes))))
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
