# A round of blackjack in plain R, from the rules as they are told alone; it shares nothing with the package. `values`
# are the cards' values in the order of the shoe, `table` the entries by hand and up card, `house` a list of rules.

plain_total <- function(cards, over) {
  hard <- sum(cards)
  soft <- any(cards == 1) && hard + 10 <= over
  list(total = if (soft) hard + 10 else hard, soft = soft, bust = hard > over)
}

plain_round <- function(values, table, house) {
  place <- 0
  draw <- function() {
    place <<- place + 1
    values[place]
  }
  over <- house$bust_over
  own <- draw()
  up <- draw()
  own <- c(own, draw())
  checked <- house$hole_card == "checked"
  hidden <- if (checked) draw()
  is_natural <- function(cards) length(cards) == 2 && any(cards == 1) && sum(cards) + 10 == over
  natural <- is_natural(own)
  up_name <- if (up == 1) "A" else as.character(up)
  entry <- function(cards, may_split, kind = NULL) {
    t <- plain_total(cards, over)
    pair <- paste("pair", if (cards[1] == 1) "A" else cards[1])
    paired <- may_split && length(cards) == 2 && cards[1] == cards[2] && pair %in% rownames(table)
    if (paired && table[pair, up_name] != "-") return(table[pair, up_name])
    total <- max(t$total, if (t$soft) 13 else 5)
    table[paste(if (t$soft) "soft" else "hard", total), up_name]
  }
  may_split_now <- function(cards, count, of_aces) {
    length(cards) == 2 && cards[1] == cards[2] && count < house$most_hands && !(of_aces && !house$resplit_aces)
  }
  staked <- 1
  if (house$surrender == "early" && !natural && !plain_total(own, over)$bust &&
      substr(entry(own, may_split_now(own, 1, FALSE)), 1, 1) == "R") {
    return(list(net = -0.5, staked = 1, result = "surrender"))
  }
  insured <- house$insured && up == 1
  insurance <- function(found) if (insured) (if (found) 1 else -0.5) else 0
  settled <- function(net, staked, special = NULL, found = FALSE) {
    net <- net + insurance(found)
    list(net = net, staked = staked + 0.5 * insured,
         result = if (!is.null(special) && (special != "natural" || net > 0)) special else
           if (net > 0) "win" else if (net < 0) "loss" else "push")
  }
  tie <- if (house$ties == "push") 0 else -1
  if (checked && is_natural(c(up, hidden))) {
    return(settled(if (natural) tie else -1, 1, if (natural) "natural", TRUE))
  }
  wins_at_once <- function(cards) !is.null(house$cards_that_win) && length(cards) >= house$cards_that_win &&
    !plain_total(cards, over)$bust
  # Hands still to play, as cards, whether split and whether of aces.
  waiting <- list(list(cards = own, split = FALSE, aces = FALSE))
  done <- list()
  surrendered <- FALSE
  count <- 1
  while (length(waiting)) {
    hand <- waiting[[1]]
    waiting <- waiting[-1]
    bet <- 1
    if (length(hand$cards) == 1) hand$cards <- c(hand$cards, draw())
    repeat {
      t <- plain_total(hand$cards, over)
      if (!hand$split && is_natural(hand$cards)) break
      if (t$bust || wins_at_once(hand$cards)) break
      splits <- may_split_now(hand$cards, count, hand$aces)
      one_card <- hand$aces && house$split_aces == "one_card" && length(hand$cards) == 2
      if (one_card && !splits) break
      doubles <- !one_card && house$double_on != "none" && (!hand$split || house$double_after_split) &&
        (house$double_on == "any_cards" || (length(hand$cards) == 2 && switch(
          house$double_on, any_two = TRUE, `9_to_11` = !t$soft && t$total %in% 9:11,
          `10_11` = !t$soft && t$total %in% 10:11)))
      gives_up <- house$surrender == "late" && length(hand$cards) == 2 && !hand$split && !one_card
      allowed <- c(if (!one_card) "H", "S", if (splits) "P", if (doubles) "D", if (gives_up) "R")
      pick <- function(entry) {
        choices <- strsplit(entry, "/", fixed = TRUE)[[1]]
        choices[choices %in% allowed][1]
      }
      move <- pick(entry(hand$cards, splits))
      if (is.na(move)) move <- pick(entry(hand$cards, FALSE))
      if (is.na(move)) move <- "S"
      if (move == "S") break
      if (move == "R") {
        surrendered <- TRUE
        break
      }
      if (move == "P") {
        count <- count + 1
        half <- list(cards = hand$cards[1], split = TRUE, aces = hand$cards[1] == 1)
        waiting <- c(list(half), waiting)
        hand <- half
        hand$cards <- c(hand$cards, draw())
        next
      }
      hand$cards <- c(hand$cards, draw())
      if (move == "D") {
        bet <- 2
        break
      }
    }
    done <- c(done, list(list(cards = hand$cards, bet = bet, split = hand$split)))
  }
  if (surrendered) {
    # Late: after the look; what insurance there was is lost.
    return(settled(-0.5, 1, "surrender"))
  }
  live <- function(hand) !plain_total(hand$cards, over)$bust && !wins_at_once(hand$cards) &&
    !(!hand$split && is_natural(hand$cards))
  compared <- any(vapply(done, live, NA))
  dealer <- up
  if (checked) dealer <- c(up, hidden) else {
    wanted <- compared || natural || insured ||
      (house$hole_card == "unchecked_stake_only")
    if (wanted) dealer <- c(dealer, draw())
  }
  bets <- vapply(done, `[[`, 0, "bet")
  if (is_natural(dealer)) {
    if (house$hole_card == "unchecked_stake_only") {
      return(settled(if (natural) tie else -1, 1, if (natural) "natural", TRUE))
    }
    net <- vapply(done, function(hand) {
      if (!hand$split && is_natural(hand$cards)) tie else if (wins_at_once(hand$cards)) hand$bet else -hand$bet
    }, 0)
    return(settled(sum(net), sum(bets), if (natural) "natural", TRUE))
  }
  if (compared) {
    repeat {
      t <- plain_total(dealer, over)
      if (t$total > house$dealer_stands_on) break
      if (t$total == house$dealer_stands_on && !(t$soft && house$soft_17 == "hits")) break
      dealer <- c(dealer, draw())
    }
  }
  theirs <- plain_total(dealer, over)
  net <- vapply(done, function(hand) {
    if (!hand$split && is_natural(hand$cards)) return(house$natural_pays)
    mine <- plain_total(hand$cards, over)
    if (mine$bust) return(-hand$bet)
    if (wins_at_once(hand$cards) || theirs$bust || mine$total > theirs$total) return(hand$bet)
    if (mine$total < theirs$total || house$ties == "dealer") return(-hand$bet)
    0
  }, 0)
  settled(sum(net), sum(bets), if (natural) "natural")
}

random_house <- function() {
  pick <- function(...) sample(c(...), 1)
  house <- list(
    soft_17 = pick("stands", "hits"), dealer_stands_on = pick(16, 17, 17, 18), natural_pays = pick(1.5, 1.2, 1, 2),
    ties = pick("push", "push", "dealer"), hole_card = pick("checked", "unchecked_all_lost", "unchecked_stake_only"),
    double_on = pick("any_two", "9_to_11", "10_11", "any_cards", "none"), double_after_split = pick(TRUE, FALSE),
    most_hands = pick(1, 2, 3, 4, 4), split_aces = pick("one_card", "play_on"), resplit_aces = pick(TRUE, FALSE),
    surrender = pick("none", "late", "early"), bust_over = pick(21, 21, 21, 22, 19), insured = pick(TRUE, FALSE)
  )
  if (house$surrender == "late") house$hole_card <- "checked"
  if (house$most_hands < 3) house$resplit_aces <- FALSE
  if (house$most_hands == 1) {
    house$split_aces <- "one_card"
    house$double_after_split <- TRUE
  }
  house["cards_that_win"] <- list(if (runif(1) < 0.3) pick(4, 5))
  house
}

# Entries as they come.
random_table <- function(house) {
  hard <- paste("hard", 5:house$bust_over)
  soft <- paste("soft", 13:house$bust_over)
  pairs <- if (house$most_hands > 1) paste("pair", sample(c("A", 2:10), 8))
  entry <- function(n, splits) {
    sample(c("H", "S", "D/H", "D/S", "R/H", "R/S", "H", "S", if (splits) rep(c("P", "R/P", "-"), 3)), n, TRUE)
  }
  table <- rbind(matrix(entry(10 * length(hard), FALSE), length(hard)),
                 matrix(entry(10 * length(soft), FALSE), length(soft)),
                 if (length(pairs)) matrix(entry(10 * length(pairs), TRUE), length(pairs)))
  dimnames(table) <- list(c(hard, soft, pairs), c(2:10, "A"))
  # Nobody hits what any card busts.
  table[paste("hard", house$bust_over), ] <- "S"
  table
}

# A table that splits tens.
ten_splitter <- local({
  table <- as.data.frame(player_basic())
  table[table$hand == "pair 10", -1] <- "P"
  table
})
