# Games in which seats bet, in words: moves, replays, what came of hands.

# All moves that these rules can have, as tables tell them.
betting_moves <- function(rules) {
  sized <- function(sizes, words) {
    if (is.null(sizes)) return(NULL)
    plain <- setdiff(sizes, "all in")
    told <- if (length(sizes) == 1) words else as.vector(outer(words, plain, paste))
    c(if (length(plain)) told, "all in")
  }
  words <- lapply(rules$streets, function(each) {
    c(sized(each$bets, c("bet", "raise")), sized(each$raises, "raise"))
  })
  unique(c("fold", "check", "call", unlist(words)))
}

# Outcomes that the core tells by numbers, as text: NA where a hand has more moves than a number tells, and for what a
# seat holds where that is not recorded.
betting_told_by_code <- function(game) {
  told <- function(decode) {
    function(numbers) {
      text <- rep(NA_character_, length(numbers))
      text[numbers >= 0] <- decode(game$spec$rules, numbers[numbers >= 0])
      text
    }
  }
  seats <- sprintf("holding_%d", seq_len(game$rules$seats))
  c(list(actions = told(core_betting_actions)),
    rlang::set_names(rep(list(told(core_betting_holdings)), length(seats)), seats))
}

# What a person in a seat is shown.
betting_view_words <- function(rules, view) {
  shared <- if (length(view$shared)) sprintf("; all see %s", paste(view$shared, collapse = " ")) else ""
  c("", sprintf("Seat %s holds %s%s.", format_count(view$seat), paste(view$holding, collapse = " "), shared),
    if (nzchar(view$actions)) sprintf("So far: %s.", view$actions),
    sprintf("The pot is %s, %s to call; you have %s.", format_count(view$pot), format_count(view$to_call),
            format_count(view$left)))
}

betting_in_short <- function(outcomes, weight, game) {
  shares <- outcome_shares(outcomes[["ended"]], weight)
  nets <- outcomes[grepl("^net_", names(outcomes))]
  means <- vapply(nets, function(net) sum(net * weight) / sum(weight), 0)
  seats <- game$seat_names[as.numeric(sub("^net_", "", names(means)))]
  won <- ifelse(abs(means) < 1e-12, sprintf("%s neither wins nor loses", seat_headings(seats)),
                sprintf("%s %s %s %s a hand", seat_headings(seats), ifelse(means < 0, "loses", "wins"),
                        format_number(abs(means), 4), unit_in_words(game$rules)))
  shown <- if ("showdown" %in% names(shares)) shares[["showdown"]] else 0
  told <- c(if (length(means)) join_words(won),
            if (!is.null(shares)) sprintf("hands are shown in %s", format_percent(shown, 4)))
  if (!length(told)) return(NULL)
  paste0(sentence(paste(told, collapse = "; ")), ".")
}

signed_number <- function(x) {
  paste0(ifelse(x > 0, "+", ""), gsub(":", "/", vapply(x, number_in_words, "", USE.NAMES = FALSE), fixed = TRUE))
}

betting_step_words <- c(deal = "shuffled", gets = "holds", is_turned = "turned:", goes_all_in = "goes all in",
                        takes_it = "takes the pot", wins = "wins the pot", shares = "the pot is shared:")

# As a table would be called: chips, what was to be called, and the pot before the move.
betting_step_notes <- function(game, action, steps) {
  chips <- function(x) format_count(x)
  by <- steps$value - steps$owed
  pot <- sprintf("pot %s", chips(steps$pot))
  owes <- ifelse(steps$owed > 0, sprintf("%s to call, ", chips(steps$owed)), "")
  note <- character(length(action))
  told <- list(
    checks = sprintf(" (%s)", pot), folds = sprintf(" (%s%s)", owes, pot),
    calls = sprintf(" %s (%s)", chips(steps$value), pot), bets = sprintf(" %s (%s)", chips(steps$value), pot),
    raises = sprintf(" by %s (%s%s)", chips(by), owes, pot),
    goes_all_in = sprintf(" with %s (%s%s)", chips(steps$value), owes, pot),
    takes_it = sprintf(" of %s: all others folded", chips(steps$pot)), wins = sprintf(" of %s", chips(steps$pot)),
    shares = sprintf(" %s", chips(steps$pot))
  )
  for (name in names(told)) note[action %in% name] <- told[[name]][action %in% name]
  note
}

betting_step_columns <- function(steps) {
  data.frame(chips = ifelse(steps$pot > 0, steps$value, 0), to_call = steps$owed, pot = steps$pot)
}

betting_end_in_words <- function(trace) {
  outcome <- attr(trace, "outcome")
  game <- attr(trace, "game")
  nets <- unlist(outcome[sprintf("net_%d", seq_along(game$seat_names))])
  sprintf("%s %s; %s, in %s", if (outcome$winner == "nobody") "the pot is shared" else
    sprintf("%s wins", seat_headings(outcome$winner)), if (outcome$ended == "fold") "without a showdown" else
      "at the showdown", join_words(sprintf("%s %s", seat_headings(game$seat_names), signed_number(nets))),
    unit_in_words(game$rules))
}

# The chips that each seat has put in.
betting_course <- function(trace) {
  game <- attr(trace, "game")
  table <- plain_table(trace)
  rules <- game$rules
  seats <- seq_len(rules$seats)
  posted <- rules$ante + c(rules$blinds, rep(0, rules$seats))[seats]
  puts_in <- !table[["action"]] %in% c("wins", "takes_it")
  put <- vapply(seats, function(seat) {
    posted[seat] + cumsum(ifelse(table[["seat"]] %in% game$seat_names[seat] & puts_in, table[["chips"]], 0))
  }, numeric(nrow(table)))
  put <- matrix(put, ncol = length(seats))
  list(data = data.frame(x = rep(table[["step"]], times = length(seats)),
                         series = rep(seat_headings(game$seat_names), each = nrow(table)), cards = as.vector(put)),
       x = "steps", y = "chips put in", note = NULL)
}

betting_examples <- list(
  play = c("habanera play betting --rules \"one card, one bet\" --exact",
           "habanera play betting --rules \"all in or fold\" --set players=calls_all,random --trials 1e5 --seed 1",
           "habanera play betting --rules harvest.yaml --set players=ferryman-bets.txt,calls_all --seed 1"),
  replay = "habanera replay betting --set seats=3 --set blinds=1,2 --seed 1",
  vary = "habanera vary betting --rules \"all in or fold\" --over stacks=10,20,40 --of value",
  compare = "habanera compare betting --rules \"one card, one bet\" --other players=calls_all --seed 1",
  best = c("habanera best betting --rules \"one card, one bet\" --against calls_all",
           "habanera best betting --rules harvest.yaml --against ferryman-bets.txt"),
  mistakes = "habanera mistakes betting --rules harvest.yaml --player ferryman-bets.txt --against random",
  advise = "habanera advise betting 2 --rules \"one card, one bet\" --actions bet",
  equilibrium = c("habanera equilibrium betting --rules \"one card, two streets\"",
                  "habanera equilibrium betting --rules \"all in or fold\" --figure chart.svg"),
  round_robin = paste("habanera round-robin betting --rules harvest.yaml --players",
                      "ferryman-bets.txt,calls_all,random --seed 1")
)
