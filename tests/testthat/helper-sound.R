# Sound play of two seats that bet by two slow programs from the rules alone (see helper-betting.R): best answers deal
# by deal, and the value by linear programming over sequences of moves.

# All courses of a hand, whatever the cards: who speaks and what may follow, or the chips in the end.
slow_courses <- function(rules, table = slow_start(rules), seat = slow_next(table, slow_first(rules, 1), 2),
                         text = character()) {
  while (is.null(seat) && sum(table$plays) > 1 && table$number < length(rules$streets)) {
    table <- slow_street(table, rules)
    seat <- slow_next(table, slow_first(rules, table$number), 2)
    text <- c(text, "/")
  }
  if (is.null(seat)) return(list(table = table))
  open <- slow_open(table, seat)
  follow <- lapply(names(open), function(name) {
    after <- slow_move(table, seat, name, open[[name]])
    slow_courses(rules, after, slow_next(after, seat %% 2 + 1, 2), c(text, name))
  })
  turned <- sum(vapply(rules$streets[seq_len(table$number)], `[[`, 0, "shared"))
  list(seat = seat, moves = names(open), follow = follow, turned = turned,
       actions = sub("( ?/)+$", "", paste(text, collapse = " ")))
}

# Every deal of two seats: the cards of both and those turned, one row each, with its chance.
slow_deals <- function(cards, own, shared, weight = function(one, other) 1) {
  rows <- list()
  hands <- utils::combn(length(cards), own, simplify = FALSE)
  for (one in hands) for (other in hands) {
    weighs <- weight(cards[one], cards[other])
    if (length(intersect(one, other)) || weighs == 0) next
    rest <- setdiff(seq_along(cards), c(one, other))
    boards <- if (shared == 0) list(integer()) else utils::combn(rest, shared, simplify = FALSE)
    # Which of them come first matters where they are turned one after the other.
    in_turn <- function(board) lapply(seq_along(board), function(i) c(board[i], board[-i]))
    if (shared > 1) boards <- unlist(lapply(boards, in_turn), FALSE)
    for (board in boards) rows[[length(rows) + 1]] <- list(hands = list(cards[one], cards[other]), board = cards[board],
                                                           weight = weighs / length(boards))
  }
  weights <- vapply(rows, `[[`, 0, "weight")
  list(hands = lapply(1:2, function(seat) lapply(rows, function(row) row$hands[[seat]])),
       board = lapply(rows, `[[`, "board"), chance = weights / sum(weights))
}

# What seat 1 has in each deal where a course ends, in chips; `strength` of a hand and all that was turned.
slow_ends <- function(rules, deals, strength) {
  sorted <- function(sets) vapply(sets, function(cards) paste(sort(cards), collapse = " "), "")
  of <- function(seat) {
    hands <- paste(sorted(deals$hands[[seat]]), sorted(deals$board), sep = " | ")
    first <- which(!duplicated(hands))
    mapply(strength, deals$hands[[seat]][first], deals$board[first])[match(hands, hands[first])]
  }
  strengths <- cbind(of(1), of(2))
  function(table, seat) {
    vapply(seq_along(deals$chance), function(i) slow_settle(table, rules, strengths[i, ])$net[seat], 0)
  }
}

# What a seat tells apart: its cards, in no order, and those turned by then, one on a street.
slow_known <- function(deals, seat, turned) {
  paste(vapply(deals$hands[[seat]], function(hand) paste(sort(hand), collapse = " "), ""),
        vapply(deals$board, function(board) paste(board[seq_len(turned)], collapse = " "), ""), sep = " | ")
}

# What the best answer of a seat brings, the other moving by `chance(seat, hands, boards, actions, move)`.
slow_best_answer <- function(node, seat, deals, ends, chance, reach = deals$chance) {
  if (is.null(node$seat)) return(ends(node$table, seat))
  if (node$seat != seat) {
    boards <- lapply(deals$board, function(board) board[seq_len(node$turned)])
    worth <- 0
    for (i in seq_along(node$moves)) {
      made <- if (length(node$moves) == 1) 1 else {
        chance(node$seat, deals$hands[[node$seat]], boards, node$actions, node$moves[i])
      }
      worth <- worth + made * slow_best_answer(node$follow[[i]], seat, deals, ends, chance, reach * made)
    }
    return(worth)
  }
  worths <- vapply(node$follow, function(next_node) slow_best_answer(next_node, seat, deals, ends, chance, reach),
                   numeric(length(reach)))
  known <- slow_known(deals, seat, node$turned)
  sums <- rowsum(worths * reach, known)
  best <- max.col(sums, "first")[match(known, rownames(sums))]
  worths[cbind(seq_along(best), best)]
}

# The value for seat 1 by linear programming over sequences (Koller, Megiddo & von Stengel 1996, "Efficient computation
# of equilibria for extensive two-person games"): seat 1 chooses how often it makes each sequence of its moves, seat 2
# answers each of its own. Variables without a sign are split in two.
slow_value_by_sequences <- function(root, deals, ends) {
  sequences <- list("", "")
  before <- list(list(), list())   # of each set the sequence that leads to it, and those that follow
  payoffs <- new.env()
  number <- function(seat, name) {
    if (!name %in% sequences[[seat]]) sequences[[seat]] <<- c(sequences[[seat]], name)
    match(name, sequences[[seat]])
  }
  go <- function(node, at, last) {
    if (is.null(node$seat)) {
      worth <- ends(node$table, 1)[at]
      keys <- paste(last[[1]], last[[2]])
      sums <- tapply(worth * deals$chance[at], keys, sum)
      for (key in names(sums)) payoffs[[key]] <- sum(payoffs[[key]], sums[[key]])
      return(invisible())
    }
    seat <- node$seat
    set <- paste(slow_known(deals, seat, node$turned)[at], node$actions, sep = " : ")
    for (name in unique(set)) before[[seat]][[name]] <<- list(last = last[[seat]][match(name, set)], moves = node$moves)
    for (i in seq_along(node$moves)) {
      made <- last
      names <- paste(set, node$moves[i], sep = " > ")
      numbers <- vapply(unique(names), function(name) number(seat, name), 0)
      made[[seat]] <- unname(numbers[names])
      go(node$follow[[i]], at, made)
    }
  }
  all <- seq_along(deals$chance)
  go(root, all, list(rep(1, length(all)), rep(1, length(all))))
  n <- lengths(sequences)
  sets <- lapply(before, names)
  # x of seat 1, then the values of the sets of seat 2 (the first: of the root), in two parts.
  values <- length(sets[[2]]) + 1
  columns <- n[1] + 2 * values
  start <- as.numeric(seq_len(columns) == 1)
  flows <- lapply(sets[[1]], function(name) {
    row <- numeric(columns)
    row[before[[1]][[name]]$last] <- -1
    row[match(paste(name, before[[1]][[name]]$moves, sep = " > "), sequences[[1]])] <- 1
    row
  })
  payoff <- matrix(0, n[2], n[1])
  for (key in ls(payoffs)) {
    pair <- as.numeric(strsplit(key, " ")[[1]])
    payoff[pair[2], pair[1]] <- payoffs[[key]]
  }
  plus <- function(set) n[1] + set
  minus <- function(set) n[1] + values + set
  answers <- lapply(seq_len(n[2]), function(sequence) {
    row <- numeric(columns)
    own <- if (sequence == 1) 1 else 1 + match(sub(" > [^>]*$", "", sequences[[2]][sequence]), sets[[2]])
    after <- 1 + which(vapply(before[[2]], `[[`, 0, "last") == sequence)
    row[plus(own)] <- 1
    row[minus(own)] <- -1
    row[plus(after)] <- -1
    row[minus(after)] <- 1
    row[seq_len(n[1])] <- row[seq_len(n[1])] - payoff[sequence, ]
    row
  })
  goal <- numeric(columns)
  goal[c(plus(1), minus(1))] <- c(1, -1)
  found <- lpSolve::lp("max", goal, do.call(rbind, c(list(start), flows, answers)),
                       c("=", rep("=", length(flows)), rep("<=", n[2])), c(1, rep(0, length(flows)), rep(0, n[2])))
  stopifnot(found$status == 0)
  found$objval
}

# The chances in a table of sound play, as slow_best_answer() asks them, of hands told by `told(hands, boards)`.
told_chances <- function(rows, turns, told) {
  known <- rlang::set_names(rows$chance, paste(rows$seat, rows$sees, rows$move, sep = "\r"))
  function(seat, hands, boards, actions, move) {
    parts <- told(hands, boards)
    sees <- seen_holding(parts$holding, if (turns) parts$shared, rep(actions, length(hands)))
    unname(known[paste(seat, sees, move, sep = "\r")])
  }
}
