# A kind of game: all that is particular to it. Whatever runs, reads, compares, varies, replays, draws or reports games
# asks their kind, which travels with them, and knows no game by name.

# `name`, `title`, `constructor`, `summary` are text, `rules` a list of rules (rule-rule.R), `columns` a list by name of
# what is to be said of each outcome of the core (`meaning`; of a number `told_of`, the games that have one; of a
# category `legend`, what its words mean; `lacks_end` where a game without an end has no value; `without_end`, the words
# that mean that it has none by given rules), `record` the outcomes counted by default. `machine(core)` makes the game in
# the core from what `core()` gave. `...` are further parts, in the place of those that most games need not have.
new_kind <- function(name, title, constructor, summary, rules, columns, record, machine, ...) {
  further <- rlang::list2(...)
  kind <- usual_kind()
  stopifnot(names(further) %in% names(kind))
  kind[names(further)] <- further
  c(list(name = name, title = title, constructor = constructor, summary = summary, rules = rules, columns = columns,
         record = record, machine = machine), kind)
}

# A game that its user wrote, in R or in C++.
is_ones_own <- function(game) game$kind$constructor %in% c("game_custom", "game_cpp")

usual_kind <- function() list(
  # How many seats there are.
  seats = function(rules) if (is.null(rules$seats)) 1 else rules$seats,
  # The kind as it is by these rules: with the outcomes that they bring, and what is recorded by default.
  fitted = function(kind, rules, call) kind,
  # Refuses rules that do not go together; `changed` names those that are not as by default.
  contradictions = function(rules, changed, call) invisible(),
  # Warns of rules that are allowed, and may be a slip.
  caution = function(rules) invisible(),
  # The rules once given piles are known (NULL: a deal).
  settled = function(rules, piles, changed, call) rules,
  # Whether it can start from given piles, the rules that these stand for, and those that deal cards.
  takes_piles = FALSE, told_by_piles = character(), dealing_rules = character(),
  # The cards played with.
  deck = function(rules) rules$deck,
  # How the deck is dealt to the seats: a list of `sizes` and `alternate`; NULL: it is not.
  dealing = function(rules, piles) NULL,
  # How many cards from the top can come into play where no seat is dealt any.
  dealt = function(rules, deck) length(deck),
  # Whether every card is drawn afresh from the whole deck.
  afresh = function(rules) FALSE,
  # What the cards are to the game (`record` names what is recorded), and the rules as the core takes them.
  cards = function(rules, deck, record, call) NULL,
  core = function(rules, cards, dealing) unclass(rules),
  # A number for each kind in the deck, the same for cards alike to the game.
  likeness = function(game) seq_along(kinds_of(game$deck)$codes),
  # Of a number that the core counts in a smaller unit: how many of these make one, by its name.
  units = function(rules) list(),
  # The least and the most that numbers can come to, by their names, where the rules bound them.
  limits = function(rules) list(),
  # The bets that can be made, for house_edge(): a data frame with `term`, `column` (the outcome that is the player's
  # result), `stake` and `staked` (the outcome that tells what was staked in all; NA: the stake).
  bets = function(rules) NULL,
  # The game without cards that are gone, and with the player of whom an edge tells where none was given.
  without = function(game, dead, call) refuse(sprintf("%s has no dead cards.", game$kind$title), call = call),
  with_player = function(game, call) game,
  # The edges of all bets worked out, as new_solved_edge() takes them, NULL where that is not in reach.
  solved_edge = function(game, call) NULL,
  # What an analyst of best play asks, of games that have it worked out: functions of the game. See best_strategy(),
  # dealer_totals(), advise(), mistakes().
  best_strategy = NULL, best_play = NULL, expected = NULL, dealer_totals = NULL, advise = NULL, mistakes = NULL,
  # A rule, by name, and the values among which the best play is found.
  best_of = NULL,
  # The rules that pay, for price_for(): see price_lines_of_rules().
  price_lines = NULL,
  # What moves are worth in shoes of fractions, and what departing in cells brings in simulated shoes, for
  # find_deviations(): see blackjack_cells(), blackjack_departures().
  cells = NULL, departures = NULL,
  # The player's expected results of all bets by name, in initial stakes (NA where not asked for in `of`); NULL:
  # house_edge() tells.
  bet_means = function(game, of, call) NULL,
  # By what its cards are counted: a list of `name`, the `labels` of the kinds in the deck, their `order`, and by name
  # of bets the label of a card that is `shown` where they are made.
  counted_by = function(game) counted_by_rank(game$deck),
  # What gives of one game after the other the edge against the best player, by what he knows.
  best_edges = NULL,
  # Best play by the core: of the player that is solved, as core_players() gives it, a list of `worth`, `positions` and
  # what that is in `words`.
  solve = NULL,
  # What moves were worth: a function of the rules as the core takes them, the seat, the moves it made, the deck and the
  # address of its trial, that gives for each choice a list of the `moves` open and their `worth` by the seat's player.
  judge = NULL,
  # The moves by name, where they are no places: players are told these names, and return one.
  move_words = NULL,
  # What a person sees: lines of text for a view.
  view_words = function(rules, view) utils::capture.output(utils::str(view)),
  # The outcomes that are what each seat has of the win, or of a stake, for round_robin(), and which of them it is.
  scores = function(rules) NULL, score_of = "the win",
  # How the first cards go to the seats, for card_impact(), where the game itself deals them.
  opening = function(rules) NULL,
  # The outcome that says which seat has won, and the one that counts rounds.
  winner = NULL, rounds = NULL,
  # What came of it in a sentence or two.
  in_short = function(outcomes, weight) NULL,
  # Of a replay: what each action is in a log, how it ended, what is to be said below, and its figure: a list of
  # `data` (a data frame with `x`, `cards` and `series`) and the words for `x` and `y`.
  step_words = character(),
  # What is said of a step beside its cards, from the number that the core tells of it and the moves that were open.
  step_notes = NULL,
  end_in_words = function(trace) outcomes_in_words(attr(trace, "outcome")),
  closing_words = function(trace) NULL,
  course = function(trace) zones_by_step(trace),
  # Zones of cards that have left the game.
  gone = character(),
  # Of a game that is an R function: what game_custom() was given to play it, and the functions that do so in the place
  # of the core's: `words`, `trials`, `replay`, `walk`.
  own_play = NULL,
  # Of a game in a C++ file of one's own: the file and its code, and at which step a trial of it fails.
  file = NULL, code = NULL, failing_step = NULL,
  # The first choice of a seat that hangs on what it may not see, among so many trials: see first_leak().
  leak = NULL,
  # Why exact answers are out of reach by these rules; NULL where they may be tried.
  out_of_reach = function(rules, deck) NULL,
  # Outcomes that hang on what the exact answer does not follow, and only a simulation tells.
  simulated_only = character(),
  # What makes fewer deals, for when there are too many.
  fewer_deals = "a smaller deck",
  # Examples for the shell, by command.
  examples = list()
)

# Ranks from low to high, or the cards themselves where they have none.
counted_by_rank <- function(deck) {
  kinds <- kinds_of(deck)
  rank <- catalogue_of(deck)$data[["rank"]]
  if (is.null(rank)) return(list(name = "card", labels = kinds$cards, order = seq_along(kinds$cards)))
  list(name = "rank", labels = as.character(rank[kinds$codes]), order = order(kinds$codes))
}

# A game with its rules in the core.
game_machine <- function(game) game$kind$machine(game$spec$rules)

# Runs the core on a game, which may not end, whose best play may be out of reach, or of which too much is recorded.
until_the_end <- function(game, seed, code) {
  tryCatch(told_of_own_code(game, code), `habanera::EndlessGame` = function(cnd) {
    refuse(sprintf("%s with seed %s: %s. The players never finish it.", game$kind$title, whole_code(seed),
                   conditionMessage(cnd)), "endless", call = NULL)
  }, `habanera::OutOfReach` = refuse_unsolved, `std::length_error` = function(cnd) refuse_too_many_outcomes(game),
  `habanera::StockRanOut` = function(cnd) {
    cure <- if (is.null(game$rules$cut_after)) "Take more packs" else "Cut the shoe less deep, or take more packs"
    refuse(sprintf("%s with seed %s: %s. %s.", game$kind$title, whole_code(seed), conditionMessage(cnd), cure),
           "rules", call = NULL)
  })
}

# What the code of a game of one's own throws is an error of the user's function; what the core has to say of any game
# is said as of any.
told_of_own_code <- function(game, code) {
  if (is.null(game$kind$file)) return(code)
  tryCatch(code, `C++Error` = function(cnd) {
    if (inherits(cnd, c("habanera::EndlessGame", "habanera::OutOfReach", "std::length_error"))) stop(cnd)
    said <- sub("^trial [0-9]+ ", "", conditionMessage(cnd))
    refuse(sprintf("%s failed: %s", basename(game$kind$file), sub("[.]?[[:space:]]*$", "", said)), "function", NULL)
  })
}

# Outcomes under the names that the core has for them.
core_columns <- function(kind, names) {
  vapply(names, function(name) {
    core <- kind$columns[[name]]$core
    if (is.null(core)) name else core
  }, "", USE.NAMES = FALSE)
}

refuse_unsolved <- function(cnd) {
  refuse(sprintf("Best play is out of reach here: %s. Take fewer cards, or other players beside it.",
                 conditionMessage(cnd)), "work", call = NULL)
}

# How its words stand in the core: see core_game_words().
game_words <- function(kind, rules) core_game_words(kind$machine(rules))

category_words <- function(game, name) {
  if (name %in% game$words$seats) return(c("nobody", game$seat_names))
  numbers <- game$words$categories[[name]]
  if (is.null(numbers)) return(NULL)
  words <- character(max(numbers) + 1)
  words[numbers + 1] <- names(numbers)
  words
}

is_category <- function(game, names) names %in% c(game$words$seats, names(game$words$categories))

# What one is of a number in the core: money is counted in its smallest unit.
unit_of <- function(game, names) {
  units <- game$kind$units(game$rules)
  unlist(lapply(names, function(name) if (name %in% names(units)) units[[name]] else 1))
}

# Whether a trial is not one round but a shoe of them, as many as come.
holds_rounds <- function(game) isTRUE(game$words$holds_rounds)

zones_by_step <- function(trace) {
  game <- attr(trace, "game")
  zones <- zone_columns(game)
  list(data = data.frame(x = rep(trace$step, times = length(zones)),
                         series = rep(zone_headings(game), each = nrow(trace)),
                         cards = unlist(plain_table(trace)[zones], use.names = FALSE)),
       x = "steps", y = "cards", note = NULL)
}

# With the seat's number what is of a seat, as "pile_1".
zone_columns <- function(game) {
  zones <- game$words$zones
  ifelse(zones$seat == 0, zones$name, paste(zones$name, zones$seat, sep = "_"))
}

# The zones' names as headings: a seat's name, and where a seat has several zones which of them.
zone_headings <- function(game) {
  zones <- game$words$zones
  seats <- seat_headings(game$seat_names)[pmax(zones$seat, 1)]
  several <- length(unique(zones$name[zones$seat > 0])) > 1
  ifelse(zones$seat == 0, zones$name, if (several) paste(seats, zones$name) else seats)
}

outcomes_in_words <- function(outcome) {
  values <- vapply(outcome, function(value) if (is.numeric(value)) format_statistic(value) else as.character(value), "")
  paste(names(values), "is", values, collapse = ", ")
}

# Shares of the games by the value of an outcome, by name; NULL where it is not recorded.
outcome_shares <- function(values, weight) {
  if (is.null(values)) return(NULL)
  shares <- tapply(weight, values, sum) / sum(weight)
  rlang::set_names(as.vector(shares), names(shares))
}

# "seat 1 wins 40% and seat 2 wins 50% of the games", by the shares of those who won; NULL where nobody did.
wins_in_words <- function(shares) {
  seats <- setdiff(names(shares), "nobody")
  if (!length(seats)) return(NULL)
  paste0(join_words(sprintf("%s wins %s", seat_headings(seats), format_percent(shares[seats]))), " of the games")
}

seat_headings <- function(names) ifelse(grepl("^[0-9]+$", names), paste("seat", names), names)
