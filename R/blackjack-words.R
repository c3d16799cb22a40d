# What is said of a game of blackjack.

# The names of the moves, in the order of the core's numbers.
blackjack_moves <- function() names(sort(core_blackjack_moves()))

blackjack_in_short <- function(outcomes, weight, game) {
  columns <- grep("^result(_[1-7])?$", names(outcomes), value = TRUE)
  told <- vapply(columns, function(column) results_in_words(outcome_shares(outcomes[[column]], weight)), "")
  if (!length(told)) return(NULL)
  who <- ifelse(columns == "result", "The player", sub("result_", "Seat ", columns))
  paste0(who, " ", told, ".", collapse = " ")
}

results_in_words <- function(shares) {
  of <- function(names) sum(shares[intersect(names, names(shares))])
  join_words(c(sprintf("wins %s of the rounds", format_percent(of(c("win", "natural")))),
               sprintf("loses %s", format_percent(of("loss"))),
               if (of("push") > 0) sprintf("%s are pushed", format_percent(of("push"))),
               if (of("surrender") > 0) sprintf("%s given up", format_percent(of("surrender")))))
}

blackjack_step_words <- c(
  deal = "shuffled", seat_gets = "gets", dealer_shows = "the dealer shows",
  dealer_hides = "the dealer lays a card face down", dealer_looks = "the dealer looks: no natural",
  dealer_has_natural = "the dealer looks: a natural", dealer_turns = "the dealer turns",
  dealer_draws = "the dealer draws", hits = "hits", stands = "stands", doubles = "doubles", splits = "splits",
  surrenders = "gives up", insures = "takes insurance", declines = "declines", seats_win = "the round",
  seats_lose = "the round", nobody_wins = "the round"
)

# Totals after a card; at a decision the total and what else was allowed; at the end what was won.
blackjack_step_notes <- function(game, action, steps) {
  value <- steps$value
  total <- sprintf("%s %s", ifelse(value %% 2 == 1, "soft", "hard"), value %/% 2)
  moves <- blackjack_moves()
  told <- c(hit = "hits", stand = "stands", double = "doubles", split = "splits", surrender = "surrenders",
            insure = "insures", decline = "declines")
  made <- match(action, told[moves])
  others <- vapply(seq_along(action), function(i) {
    if (is.na(made[i])) return("")
    could <- moves[setdiff(which(steps$open[i] %/% 2^(seq_along(moves) - 1) %% 2 == 1), made[i])]
    if (length(could)) sprintf("; could %s", join_words(could, "or")) else ""
  }, "")
  ends <- action %in% c("seats_win", "seats_lose", "nobody_wins")
  unit <- unit_of(game, "net")
  said <- ifelse(!is.na(made), sprintf(" (%s%s)", total, others), sprintf(": %s", total))
  said[ends] <- vapply(value[ends] / unit, function(net) paste0(": ", net_in_money(net)), "")
  said[action %in% c("deal", "dealer_hides", "dealer_looks", "dealer_has_natural")] <- ""
  said
}

net_in_money <- function(net) {
  if (net == 0) "even" else sprintf("%s %s", if (net > 0) "up" else "down", format_money(abs(net)))
}

blackjack_end_in_words <- function(trace) {
  outcome <- attr(trace, "outcome")
  net <- sum(outcome$net)
  who <- if (length(attr(trace, "game")$seat_names) == 1) "the player is" else "the players together are"
  sprintf("%s, %s %s", count_of(nrow(outcome), "round"), who, net_in_money(net))
}

# What a person in a seat is shown.
blackjack_view_words <- function(rules, view) {
  value <- function(points) if (points == 1) "an ace" else as.character(points)
  hands <- if (view$hands > 1) sprintf(" (one of %d hands)", view$hands) else ""
  c("", sprintf("Seat %d. The dealer shows %s; you have %s %d in %s%s.", view$seat, value(view$up_card),
                if (view$soft) "soft" else "hard", view$total, count_of(view$cards, "card"), hands))
}

blackjack_examples <- list(
  play = c("habanera play blackjack --set packs=2 --player basic --trials 1e6 --seed 1",
           "habanera play blackjack --set soft_17=hits --set cut_after=0.75 --trials 1e4 --seed 1",
           "habanera play blackjack --counting level-one.yaml --bets twins-bets.csv --set cut_after=0.75 --seed 1",
           "habanera play blackjack --person 1"),
  replay = "habanera replay blackjack --player never_busts --seed 1",
  vary = c("habanera vary blackjack --over 'natural_pays=3:2;6:5;1' --over soft_17=stands,hits",
           "habanera vary blackjack --of edge --over packs=1,6 --over surrender=none,late --want 'edge < 0.004'"),
  tune = "habanera tune blackjack --rules table.yaml --wishes table-wishes.yaml --out table-tuned.csv",
  compare = "habanera compare blackjack --other natural_pays=6:5 --seed 1",
  price = "habanera price blackjack --lines natural_pays --edge 0.01",
  edge = c("habanera edge blackjack --set surrender=late --expect 'edge < 0.008'",
           "habanera edge blackjack --player regular:name=baker --by up_card",
           "habanera edge blackjack --set packs=1 --player basic --dead \"5S 5H\""),
  strategy = c("habanera strategy blackjack --set soft_17=hits",
               "habanera strategy blackjack --knows all_cards --figure basic.png --out basic.csv"),
  mistakes = "habanera mistakes blackjack --player regular:name=baker",
  advise = c("habanera advise blackjack \"10S 6H\" --up 9D --working",
             "habanera advise blackjack \"8S 3H\" --up 6D --hands 2"),
  rule_effects = "habanera rule-effects blackjack --figure rules.png",
  removal = "habanera removal blackjack --of main,insurance --figure removal.png",
  dealer = "habanera dealer blackjack --set packs=1 --dead \"AS AH\""
)
