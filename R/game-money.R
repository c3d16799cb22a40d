# What games for money have in common: their smallest unit, and how deep a shoe is dealt.

# Cards that are out of the game from the start, kept as text.
rule_cards <- function(name, meaning) {
  new_rule(name, NULL, "cards, such as \"5S 5H 6D\", or NULL: none", meaning, function(value, name, call) {
    if (is.null(value) || !length(value)) return(NULL)
    if (!is_cards(value) && !is.character(value)) {
      refuse(sprintf("`%s` must be cards or their codes, not %s.", name, said(value)), call = call)
    }
    codes <- if (is_cards(value)) as.character(value) else unlist(strsplit(trimws(value), "[[:space:],]+"))
    paste(codes, collapse = " ")
  })
}

rule_cut <- function() {
  allowed <- "a whole number of cards, a share of the shoe below 1, or NULL: every round from a fresh shoe"
  new_rule("cut_after", NULL, allowed,
           "a round begins only while fewer cards than that are gone; a trial is then one whole shoe",
           function(value, name, call) {
             if (is.null(value)) return(NULL)
             if (is.character(value)) value <- fraction_value(value)
             fits <- is.numeric(value) && length(value) == 1 &&
               isTRUE(value > 0 && (value < 1 || value == round(value)))
             if (!fits) refuse(sprintf("`%s` must be %s, not %s.", name, allowed, said(value)), call = call)
             if (value == 1) {
               inform_user("`cut_after` 1 is one card: each shoe has one round. A share is below 1, such as 0.75.")
             }
             as.double(value)
           })
}

# A session of several shoes, each the last one shuffled again.
rules_session <- function() {
  list(
    rule_choice("collected", c("anew", "in_order"), paste(
      "whether each shoe is a new one, or but for the first the last collected as it was dealt: on the tray the cards",
      "of a round lie on those before, seat by seat, then the dealer's; those not dealt go on top; all are shuffled by",
      "`shuffle`"
    )),
    rule_whole("shoes", 1, 1, 1000, "shoes in a trial, with `collected` in_order")
  )
}

session_not_walked <- "Sessions of several shoes are not walked; simulate()."

refuse_session <- function(rules, call) {
  if (rules$shoes > 1 && rules$collected == "anew") {
    refuse("Shoes that are new each are trials of their own: `shoes` above 1 goes with `collected` \"in_order\".",
           "rules", call)
  }
  if (rules$collected == "in_order" && (rules$shoes == 1 || is.null(rules$cut_after))) {
    refuse("`collected` \"in_order\" is of several `shoes` with a cut: say `shoes` and `cut_after`.", "rules", call)
  }
  functions <- vapply(rules$players, decides_in_r, NA)
  if (rules$shoes > 1 && any(functions)) {
    refuse("Several `shoes` are played by the core alone: no players that are R functions.", "rules", call)
  }
}

# As a number of cards; a shoe must have `round` cards for a round.
settled_cut <- function(cut, burn, cards, round, call) {
  if (burn + round > cards) {
    refuse(sprintf("A shoe of %s, %s of them burned, has no round.", count_of(cards, "card"), format_count(burn)),
           "rules", call)
  }
  if (is.null(cut)) return(NULL)
  if (cut < 1) cut <- max(1, round(cut * cards))
  if (cut > cards) {
    refuse(sprintf("`cut_after` is %s, and the shoe has %s; say a share of it, such as 0.75.", format_count(cut),
                   count_of(cards, "card")), "rules", call)
  }
  if (cut <= burn) {
    refuse(sprintf("`cut_after` is %s: the %s burned are more; no round would begin.", format_count(cut),
                   count_of(burn, "card")), "rules", call)
  }
  cut
}

# The smallest whole number of units a stake must have to make these multiples of it whole: their least common
# denominator.
whole_unit <- function(multiples) {
  if (is.null(multiples) || all(multiples == floor(multiples)) %in% TRUE) return(1)
  denominators <- vapply(multiples, function(x) nearest_fraction(x)[2], 0)
  Reduce(function(a, b) a * b / greatest_divisor(c(a, b)), denominators, 1)
}

# Money is counted in whole units, so that what a bet pays, `rules` by name, must be a fraction.
refuse_unpayable <- function(rules, call) {
  for (name in names(rules)) {
    for (pay in rules[[name]]) {
      if (!is.null(nearest_fraction(pay))) next
      refuse(sprintf("`%s` must be a fraction in which money can be paid, such as 3:2 or 0.95, not %s.", name,
                     said(pay)), "rules", call)
    }
  }
  if (whole_unit(unlist(rules)) > 1e6) {
    refuse(sprintf("%s make the smallest coin less than a millionth of a stake.",
                   join_words(paste0("`", names(rules), "`"))), "rules", call)
  }
}

# "up 2 stakes", "down 1.5 stakes", "even".
net_in_words <- function(net) {
  if (net == 0) return("even")
  sprintf("%s %s %s", if (net > 0) "up" else "down", format_money(abs(net)), if (abs(net) == 1) "stake" else "stakes")
}

# The shoe of a game that has `deck`, `packs` and `dead`.
shoe_of_packs <- function(rules) {
  packs <- rep(rules$deck, rules$packs)
  dead <- codes_of(named_cards(rules$dead, packs, "dead", NULL))
  without_codes(packs, dead)
}

# Nobody decides anything but the bet.
refuse_deciding <- function(players, call) {
  set <- intersect(c("strategy", "deviations", "insurance_at"), names(players[[1]]$settings))
  if (length(set)) {
    refuse(sprintf("Nothing is decided here but the bet: player_counting() without `%s`.", set[1]), "rules", call)
  }
}

# The rules of a game whose rounds of up to so many cards come from a shoe, and in which only bets are laid.
settled_bets_only <- function(rules, round, call) {
  dead <- named_cards(rules$dead, rules$deck, "dead", call)
  parted_deck(rep(rules$deck, rules$packs), NULL, dead, call)
  refuse_other_number(rules$players, 1, call)
  refuse_counter(rules, 1, FALSE, call)
  refuse_deciding(rules$players, call)
  refuse_session(rules, call)
  rules["cut_after"] <- list(settled_cut(rules$cut_after, rules$burn, length(shoe_of_packs(rules)), round, call))
  rules
}

# How many cards can be dealt in a trial, a round taking up to so many.
dealt_of_shoe <- function(rules, deck, round) {
  if (rules$shoes > 1) return(length(deck))
  min(length(deck), max(rules$burn, if (is.null(rules$cut_after)) 0 else rules$cut_after - 1) + round)
}

without_dead <- function(game, dead, call) {
  more <- as.character(named_cards(dead, game$rules$deck, "dead", call))
  change_game(game, list(dead = paste(c(game$rules$dead, more), collapse = " ")), call)
}

net_end_in_words <- function(trace) {
  outcome <- attr(trace, "outcome")
  sprintf("%s, the player is %s", count_of(nrow(outcome), "round"), net_in_words(sum(outcome$net)))
}

# The bets of a game that has one, of one stake.
bet_of_one_stake <- function(rules) data.frame(term = "main", column = "net", stake = 1, staked = NA_character_)
