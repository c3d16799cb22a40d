# A slow program for games in which seats bet, from their rules alone: it follows a replay move by move and says what
# was open, what it took, and what came of it.

# `size` as chips on top of the call, for a seat with `left` after it, where the pot is then `pot`.
slow_size <- function(size, left, pot, least) {
  if (size == "all in") return(left)
  if (grepl("pot$", size)) {
    share <- if (size == "pot") 1 else eval(parse(text = sub(" pot", "", size)))
    chips <- floor(share * pot + 1e-9)
  } else chips <- as.numeric(size)
  min(left, max(chips, least, 1))
}

# What may be done, by name with the chips that it takes.
slow_open <- function(table, seat) {
  owes <- min(table$owed - table$bet[seat], table$left[seat])
  open <- list()
  if (table$owed > table$bet[seat]) {
    open$fold <- 0
    merely <- table$street$calls == "all in" && table$bets == 0 && table$left[seat] > owes
    if (!merely) open$call <- owes
  } else open$check <- 0
  others <- setdiff(which(table$plays & table$left > 0), seat)
  after <- table$left[seat] - (table$owed - table$bet[seat])
  may <- table$bets < table$street$most_bets && !table$spoken[seat] && after > 0 && length(others) > 0
  if (!may) return(open)
  sizes <- if (table$bets == 0) table$street$bets else table$street$raises
  word <- if (table$owed > 0) "raise" else "bet"
  pot <- table$dead + sum(table$put) + (table$owed - table$bet[seat])
  for (size in sizes) {
    chips <- slow_size(size, after, pot, table$last)
    name <- if (chips == after) "all in" else if (length(sizes) == 1) word else paste(word, size)
    # The last of those that come to the same stays.
    same <- names(open)[vapply(open, function(took) took == table$owed - table$bet[seat] + chips, NA) &
                          !names(open) %in% c("fold", "check", "call")]
    open[same] <- NULL
    open[[name]] <- table$owed - table$bet[seat] + chips
  }
  open
}

slow_start <- function(rules) {
  seats <- rules$seats
  blinds <- c(rules$blinds, rep(0, seats))[seq_len(seats)]
  list(left = rep_len(rules$stacks, seats) - rules$ante - blinds, put = blinds, bet = blinds,
       dead = rules$pot + seats * rules$ante, owed = max(blinds), last = max(blinds), plays = rep(TRUE, seats),
       spoken = rep(FALSE, seats), bets = 0, street = rules$streets[[1]], number = 1)
}

slow_move <- function(table, seat, name, chips) {
  table$left[seat] <- table$left[seat] - chips
  table$put[seat] <- table$put[seat] + chips
  table$bet[seat] <- table$bet[seat] + chips
  if (name == "fold") table$plays[seat] <- FALSE
  if (!name %in% c("fold", "check", "call")) {
    raised <- table$bet[seat] - table$owed
    table$owed <- table$bet[seat]
    table$bets <- table$bets + 1
    if (raised >= table$last) {
      table$last <- raised
      table$spoken[] <- FALSE
    }
  }
  table$spoken[seat] <- TRUE
  table
}

# Who speaks next from a seat on, NULL: nobody on this street.
slow_next <- function(table, from, seats) {
  if (sum(table$plays) == 1) return(NULL)
  for (seat in (from - 1 + seq_len(seats) - 1) %% seats + 1) {
    if (!table$plays[seat] || table$left[seat] == 0) next
    others <- setdiff(which(table$plays & table$left > 0), seat)
    if (table$owed > table$bet[seat] || (!table$spoken[seat] && length(others))) return(seat)
  }
  NULL
}

slow_street <- function(table, rules) {
  table$number <- table$number + 1
  table$street <- rules$streets[[table$number]]
  table$bet[] <- 0
  table$owed <- table$last <- table$bets <- 0
  table$spoken[] <- FALSE
  table
}

slow_first <- function(rules, street) {
  dealer <- if (rules$seats == 2 && length(rules$blinds)) 1 else rules$seats
  if (!is.null(rules$streets[[street]]$first)) return(rules$streets[[street]]$first)
  if (street == 1 && length(rules$blinds)) return(length(rules$blinds) %% rules$seats + 1)
  dealer %% rules$seats + 1
}

# What each seat has in the end, in chips, and the pot.
slow_settle <- function(table, rules, strength) {
  seats <- rules$seats
  put <- table$put
  top <- which.max(put)
  put[top] <- max(put[-top])
  net <- -put - rules$ante
  if (sum(table$plays) == 1) {
    net[table$plays] <- net[table$plays] + table$dead + sum(put)
    return(list(net = net, pot = table$dead + sum(put)))
  }
  dealer <- if (seats == 2 && length(rules$blinds)) 1 else seats
  turn <- (dealer + seq_len(seats) - 1) %% seats + 1
  before <- 0
  for (level in sort(unique(put[table$plays]))) {
    pot <- sum(pmin(put, level) - pmin(put, before)) + if (level == min(put[table$plays])) table$dead else 0
    plays <- table$plays & put >= level
    best <- which(plays & strength == max(strength[plays]))
    shares <- rep(pot %/% length(best), length(best))
    odd <- pot %% length(best)
    in_turn <- turn[turn %in% best]
    if (odd > 0) shares[match(in_turn[seq_len(odd)], best)] <- shares[match(in_turn[seq_len(odd)], best)] + 1
    net[best] <- net[best] + shares
    before <- level
  }
  list(net = net, pot = table$dead + sum(put))
}

# Follows a replay: what is `told` of it, and the same by the `slow` program, as lists.
follow_replay <- function(trace, strength_of) {
  game <- attr(trace, "game")
  rules <- game$rules
  rules$streets <- unclass(rules$streets)
  steps <- as.data.frame(trace)
  outcome <- attr(trace, "outcome")
  table <- slow_start(rules)
  seat <- slow_next(table, slow_first(rules, 1), rules$seats)
  moves <- steps[steps$action %in% c("folds", "checks", "calls", "bets", "raises", "goes_all_in"), ]
  text <- courses <- character()
  slow <- list()
  for (i in seq_len(nrow(moves))) {
    while (is.null(seat)) {
      table <- slow_street(table, rules)
      seat <- slow_next(table, slow_first(rules, table$number), rules$seats)
      text <- c(text, "/")
    }
    open <- slow_open(table, seat)
    before <- paste(text, collapse = " ")
    name <- move_said(outcome$actions, before, names(open))
    courses <- c(courses, before)
    slow[[i]] <- list(open = c(seat, sort(names(open))), seat = game$seat_names[seat],
                      chips = c(open[[name]], min(table$owed - table$bet[seat], table$left[seat]),
                                table$dead + sum(table$put)))
    text <- c(text, name)
    table <- slow_move(table, seat, name, open[[name]])
    seat <- slow_next(table, seat %% rules$seats + 1, rules$seats)
  }
  read <- core_betting_open(game$spec$rules, courses)
  told <- lapply(seq_len(nrow(moves)), function(i) {
    list(open = c(read[[i]]$seat, sort(read[[i]]$moves)), seat = moves$seat[i],
         chips = unlist(moves[i, c("chips", "to_call", "pot")], use.names = FALSE))
  })
  # On the streets that are left nobody speaks.
  silent <- is.null(seat)
  while (sum(table$plays) > 1 && table$number < length(rules$streets)) {
    table <- slow_street(table, rules)
    silent <- silent && is.null(slow_next(table, slow_first(rules, table$number), rules$seats))
  }
  hands <- strsplit(steps$cards[steps$action == "gets"], " ")
  names(hands) <- steps$seat[steps$action == "gets"]
  shared <- c(rules$board, unlist(strsplit(steps$cards[steps$action == "is_turned"], " ")))
  strength <- vapply(game$seat_names, function(name) strength_of(hands[[name]], shared), 0)
  settled <- slow_settle(table, rules, strength)
  unit <- betting_unit(game$rules)
  nets <- unname(unlist(outcome[sprintf("net_%d", seq_len(rules$seats))])) * unit
  list(told = c(told, list(net = nets, pot = outcome$pot * unit, silent = TRUE, sum = rules$pot)),
       slow = c(slow, list(net = settled$net, pot = settled$pot, silent = silent, sum = sum(settled$net))))
}

# Which of the open moves a text of all moves goes on with.
move_said <- function(all, before, open) {
  rest <- substring(all, nchar(before) + 1 + (nchar(before) > 0))
  fits <- open[startsWith(rest, open)]
  fits[which.max(nchar(fits))]
}

one_bet <- game_betting(deck_numbered(3), private = 1, ante = 1, streets = list(street(bets = 1)))
# Sound play of seat 2 at it.
sound_second <- data.frame(holding = c(1, 2, 3, 1, 2, 3), actions = rep(c("check", "bet"), each = 3),
                           check = c(2 / 3, 1, 0, NA, NA, NA), bet = c(1 / 3, 0, 1, NA, NA, NA),
                           call = c(NA, NA, NA, 0, 1 / 3, 1), fold = c(NA, NA, NA, 1, 2 / 3, 0))
