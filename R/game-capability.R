# What only some games have: capabilities, small records that a kind registers as `can`, by name, and that whoever asks
# looks for by this name. What is missing is refused in the same words everywhere.

# `lacks` says of a game that it has none, `have` ends "other games ..." of those that have it; `parts` tell who writes
# a game what the record holds. `own` is how a game of one's own comes by it, where it can.
new_capability <- function(lacks, have, parts, own = NULL) list(lacks = lacks, have = have, parts = parts, own = own)

capabilities <- function() list(
  takes_bets = new_capability("is not played for money", "are", c(
    bets = paste("function(rules): the bets that can be made, a data frame with `term`, `column` (the outcome that is",
                 "the player's result), `stake` and `staked` (the outcome that tells what was staked in all; NA: the",
                 "stake)"))),
  drops_cards = new_capability("has no dead cards", "have", c(
    without = "function(game, dead, call): the game without cards that are gone")),
  solves = new_capability("has no edge that is worked out", "have", c(
    edge = "function(game, call): all bets as new_solved_edge() takes them; NULL where that is not in reach",
    with_player = "function(game, call): the game with the player of whom an edge tells where none was given",
    bet_means = paste("function(game, of, call): the player's expected results of all bets by name, in initial stakes",
                      "(NA where not asked for in `of`)"))),
  plays_best = new_capability("has no best play that is worked out", "have", c(
    strategy = "function(game, knows, call): best play as a strategy, by what the player looks at",
    expected = "function(game, knows, call): what each move of each decision brings, a row each",
    edge_of = "function(knows, call): a function of one game after the other, its edge against the best player",
    edges_of = paste("where it is quicker, function(games, threads): the edges of many at once; NULL where they are",
                     "too little alike"),
    straight_in = "a rule in which every such edge is a straight line: two of many values are solved",
    by_hands = "in the place of these, function(game, call): what best_strategy() gives",
    by_rule = "in the place of these, function(rules): a list of one rule by name, with the values that are tried")),
  advises = new_capability("does not tell what each move is worth", "do", c(
    advise = "function(game, cards, up_card, hands, working, call): as advise() gives it",
    by_sight = paste("in the place of it, function(game, cards, shared, actions, call): of games whose seats hide",
                     "their cards the `seat` that speaks, what it `sees`, and the `unit` of what moves bring"))),
  tells_dealer = new_capability("has no dealer who plays by rule", "have", c(
    totals = "function(game, call): as dealer_totals() gives it")),
  prices_mistakes = new_capability("has no best play by which mistakes are priced", "have", c(
    mistakes = "function(game, call): a list of `rows`, `edge`, `best_edge` and `best`, as mistakes() takes them",
    by_sight = paste("in the place of it, function(game, seat, call): of games whose seats hide their cards, a list of",
                     "`moves` (of each row of a seat's play), `value`, `unit` and `of_win`"))),
  pays_by_lines = new_capability("has no table of what its lines pay", "have", c(
    lines = "function(game, call): a list of what lines pay `now` and `edge_of`, a function of other pays")),
  counts = new_capability("has no table that is departed from by the count", "have", c(
    cells = "function(game, call): what moves are worth in shoes of fractions, by cells",
    departures = "function(game, found, run, call): what departing in cells brings in simulated shoes")),
  searches = new_capability("is not gone through position by position", "are", c(
    solve = "function(game, seat, call): what best play of a seat is worth, a list of `worth`, `positions`, `words`"),
    "game_custom() or game_cpp()"),
  plays_soundly = new_capability("is not made of what its seats see", "are", c(
    solve = "function(game, gap, seconds, call): sound play of two seats, as equilibrium() takes it",
    coarser = "what is to be taken where it is too large, in words"),
    "game_cpp()"),
  judges = new_capability("does not judge moves that were made", "do", c(
    judge = paste("function(rules, seat, moves, deck, seed, trial): for each choice a list of the `moves` open and",
                  "their `worth` by the seat's player"))),
  scores = new_capability("does not say what each seat has of the win or of a stake", "do", c(
    columns = "function(rules): the outcomes that are what each seat has of it", of = "\"the win\" or \"a stake\""),
    "an outcome that is outcome_seat()"),
  deals_hands = new_capability("deals no hands before it is played", "do", c(
    opening = "function(rules): how the first cards go to the seats: a list of `sizes` and `alternate`")),
  takes_piles = new_capability("does not start from given `piles`", "do", c(
    told = "the rules that given piles stand for", dealt_by = "the rules that deal cards")),
  hides = new_capability("is not tested for what its seats may not see", "are", c(
    leak = "function(game, nsim, seed): the first choice that hangs on what a seat may not see, see first_leak()",
    forgotten = paste("function(game, nsim, seed), where views hold all that was seen before: the first that does not",
                      "(its `trial` and what it `sees`), or how many `views` were held against each other"))),
  in_r = new_capability("is not played by an R function", "are", c(
    play = "the function", outcomes = "its outcomes, see outcome_whole()", piles = "what is seen of its piles",
    decks = "how many cards each of its decks holds", worth = "the function that tells what outcomes are worth",
    of_cards = "cards told apart in a check"),
    "game_custom()"),
  compiled = new_capability("is not compiled from a file", "are", c(
    file = "the file", failing_step = "function(game, seed, trial): the step at which it fails"),
    "game_cpp()")
)

# What is registered must be a capability with its parts.
checked_capabilities <- function(can) {
  stopifnot(names(can) %in% names(capabilities()))
  for (name in names(can)) stopifnot(names(can[[name]]) %in% names(capabilities()[[name]]$parts))
  can
}

# The record of a game, NULL where it has none.
able <- function(game, name) kind_of(game)$can[[name]]

# The same where nothing else will do; `instead` tells what may help.
capability <- function(game, name, call, instead = NULL) {
  found <- able(game, name)
  if (is.null(found)) refuse_unable(game, name, instead, call)
  found
}

refuse_unable <- function(game, name, instead, call) {
  what <- capabilities()[[name]]
  others <- Filter(function(kind) !is.null(kind$can[[name]]), game_kinds())
  titles <- vapply(others, `[[`, "", "title", USE.NAMES = FALSE)
  refuse(paste0(kind_of(game)$title, " ", what$lacks,
                if (length(titles)) sprintf("; %s %s", join_words(titles), verb_for(what$have, length(titles))),
                if (!is.null(what$own)) sprintf("; a game of one's own comes by it with %s", what$own), ".",
                if (!is.null(instead)) paste0(" ", instead)), call = call)
}

# "are" of several is "is" of one.
verb_for <- function(plural, count) if (count == 1) c(are = "is", do = "does", have = "has")[[plural]] else plural

# What several ask for.

# What scores are shares of, or how many of.
scored_in <- function(game) {
  of <- able(game, "scores")$of
  if (is.function(of)) of(game$rules) else of
}

# The bets that can be made; NULL: it is not played for money.
bets_of <- function(game) {
  found <- able(game, "takes_bets")
  if (!is.null(found)) found$bets(game$rules)
}

# All bets worked out, as new_solved_edge() takes them; NULL where that is not in reach.
solved_edge <- function(game, call) {
  found <- able(game, "solves")
  if (!is.null(found)) found$edge(game, call)
}

# The player's expected results of all bets by name, in initial stakes; NULL: house_edge() tells.
solved_means <- function(game, of, call) {
  found <- able(game, "solves")
  if (!is.null(found)) found$bet_means(game, of, call)
}

without_cards <- function(game, dead, call) {
  if (is.null(dead)) game else capability(game, "drops_cards", call)$without(game, dead, call)
}
