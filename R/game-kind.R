# A kind of game: what every game has, and as `can` what only some have (game-capability.R). Whatever runs, reads,
# compares, varies, replays, draws or reports games asks their kind, and knows no game by name.

# `name`, `title`, `constructor`, `summary` are text, `rules` a list of rules (rule-rule.R), `columns` a list by name of
# what is to be said of each outcome of the core (`meaning`; of a number `told_of`, the games that have one; of a
# category `legend`, what its words mean; `lacks_end` where a game without an end has no value; `without_end`, the words
# that mean that it has none by given rules), `record` the outcomes counted by default. `machine(core)` makes the game
# in the core from what `core()` gave. `...` are further parts, in the place of those that most games need not have.
new_kind <- function(name, title, constructor, summary, rules, columns, record, machine, can = list(), ...) {
  further <- rlang::list2(...)
  kind <- usual_kind()
  stopifnot(names(further) %in% names(kind))
  kind[names(further)] <- further
  c(list(name = name, title = title, constructor = constructor, summary = summary, rules = rules, columns = columns,
         record = record, machine = machine, can = checked_capabilities(can)), kind)
}

game_seats <- function(game) kind_of(game)$seats(game$rules)

usual_kind <- function() list(
  # How many seats there are.
  seats = function(rules) if (is.null(rules$seats)) 1 else rules$seats,
  # What these rules make of the outcomes, as data: a list of `columns` and `record` in the place of the kind's, `units`
  # (of numbers that the core counts in a smaller unit, how many of these make one, by name), `simulated_only` (outcomes
  # that hang on what the exact answer does not follow), `kept` (what cards() is handed of it).
  fitted = function(rules, call) list(),
  # Refuses rules that do not go together; `changed` names those that are not as by default.
  contradictions = function(rules, changed, call) invisible(),
  # Warns of rules that are allowed, and may be a slip.
  caution = function(rules) invisible(),
  # The rules once given piles are known (NULL: a deal).
  settled = function(rules, piles, changed, call) rules,
  # The cards played with.
  deck = function(rules) rules$deck,
  # How the deck is dealt to the seats: a list of `sizes` and `alternate`; NULL: it is not.
  dealing = function(rules, piles) NULL,
  # How many cards from the top can come into play where no seat is dealt any.
  dealt = function(rules, deck) length(deck),
  # Whether every card is drawn afresh from the whole deck.
  afresh = function(rules) FALSE,
  # What the cards are to the game (`record` names what is recorded, `kept` is fitted()'s), and the rules as the core
  # takes them.
  cards = function(rules, deck, record, kept, call) NULL,
  core = function(rules, cards, dealing) unclass(rules),
  # A number for each kind in the deck, the same for cards alike to the game.
  likeness = function(game) seq_along(kinds_of(game$deck)$codes),
  # The least and the most that numbers can come to, by their names, where the rules bound them.
  limits = function(rules) list(),
  # By what its cards are counted: a list of `name`, the `labels` of the kinds in the deck, their `order`, and by name
  # of bets the label of a card that is `shown` where they are made.
  counted_by = function(game) counted_by_rank(game$deck),
  # The moves by name, where they are no places: players are told these names, and return one.
  move_words = NULL,
  # Rules that go by a name of their own, a list of them by it.
  shapes = function() list(),
  # Outcomes that are told by numbers of which there are too many to list: functions of these by name, which give text.
  told_by_code = function(game) list(),
  # What a person sees: lines of text for a view.
  view_words = function(rules, view) utils::capture.output(utils::str(view)),
  # The outcome that says which seat has won, and the one that counts rounds.
  winner = NULL, rounds = NULL,
  # What came of it in a sentence or two.
  in_short = function(outcomes, weight, game) NULL,
  # Of a replay: what each action is in a log, how it ended, what is to be said below, and its figure: a list of
  # `data` (a data frame with `x`, `cards` and `series`) and the words for `x` and `y`.
  step_words = character(),
  # What is said of a step beside its cards, from the numbers that the core tells of it (`value`, the moves that were
  # `open`, where seats bet `owed` and `pot`); and columns of a replay that are made of them.
  step_notes = NULL, step_columns = NULL,
  end_in_words = function(trace) outcomes_in_words(attr(trace, "outcome")),
  closing_words = function(trace) NULL,
  course = function(trace) zones_by_step(trace),
  # Whether a log tells how many cards lie in each zone.
  logs_zones = TRUE,
  # Zones of cards that have left the game.
  gone = character(),
  # Why exact answers are out of reach by these rules; NULL where they may be tried.
  out_of_reach = function(rules, deck) NULL,
  # What makes fewer deals, for when there are too many.
  fewer_deals = "a smaller deck",
  # The same as `machine(core)` where it can be walked and looked at step by step, and what that gave can not.
  whole_machine = NULL,
  # How it is played, where that is not by the core: see game-plays.R. The user's own code, as text by name; and the R
  # code that makes it, with these settings.
  plays = NULL, code = NULL, made_by = function(kind, settings) sprintf("%s(%s)", kind$constructor, settings),
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

# A game with its rules in the core, to be played, or, `whole`, to be walked and looked at, too.
game_machine <- function(game, whole = FALSE) {
  kind <- kind_of(game)
  make <- if (whole && !is.null(kind$whole_machine)) kind$whole_machine else kind$machine
  make(game$spec$rules)
}

# Runs the core on a game, which may not end, whose best play may be out of reach, or of which too much is recorded.
until_the_end <- function(game, seed, code) {
  tryCatch(told_of_own_code(game, code), `habanera::EndlessGame` = function(cnd) {
    refuse(sprintf("%s with seed %s: %s. The players never finish it.", kind_of(game)$title, whole_code(seed),
                   conditionMessage(cnd)), "endless", call = NULL)
  }, `habanera::OutOfReach` = refuse_unsolved, `std::length_error` = function(cnd) refuse_too_many_outcomes(game),
  `habanera::StockRanOut` = function(cnd) {
    cure <- if (is.null(game$rules$cut_after)) "Take more packs" else "Cut the shoe less deep, or take more packs"
    refuse(sprintf("%s with seed %s: %s. %s.", kind_of(game)$title, whole_code(seed), conditionMessage(cnd), cure),
           "rules", call = NULL)
  })
}

# What the code of a game of one's own throws is an error of the user's function; what the core has to say of any game
# is said as of any. A player who does not know what to do is of no game.
told_of_own_code <- function(game, code) {
  file <- able(game, "compiled")$file
  tryCatch(code, `C++Error` = function(cnd) {
    said <- sub("^trial [0-9]+ ", "", conditionMessage(cnd))
    if (inherits(cnd, c("habanera::NoSuchRow", "habanera::NoAnswer"))) {
      refuse(sprintf("%s.", sentence(said)), "function", NULL)
    }
    if (is.null(file) || inherits(cnd, c("habanera::EndlessGame", "habanera::OutOfReach", "std::length_error"))) {
      stop(cnd)
    }
    refuse(sprintf("%s failed: %s", basename(file), sub("[.]?[[:space:]]*$", "", said)), "function", NULL)
  })
}

# Outcomes under the names that the core has for them.
core_columns <- function(columns, names) {
  vapply(names, function(name) {
    core <- columns[[name]]$core
    if (is.null(core)) name else core
  }, "", USE.NAMES = FALSE)
}

refuse_unsolved <- function(cnd) {
  refuse(sprintf("Best play is out of reach here: %s. Take fewer cards, or other players beside it.",
                 conditionMessage(cnd)), "work", call = NULL)
}

category_words <- function(game, name) {
  if (name %in% game$words$seats) return(c("nobody", game$seat_names))
  numbers <- game$words$categories[[name]]
  if (is.null(numbers)) return(NULL)
  words <- character(max(numbers) + 1)
  words[numbers + 1] <- names(numbers)
  words
}

is_category <- function(game, names) {
  names %in% c(game$words$seats, names(game$words$categories), names(kind_of(game)$told_by_code(game)))
}

# Numbers of a category as text, NULL where it is none.
category_texts <- function(game, name, numbers) {
  decode <- kind_of(game)$told_by_code(game)[[name]]
  if (!is.null(decode)) {
    known <- unique(numbers)
    return(decode(known)[match(numbers, known)])
  }
  category_words(game, name)[numbers + 1]
}

# What one is of a number in the core: money is counted in its smallest unit.
unit_of <- function(game, names) {
  unlist(lapply(names, function(name) if (name %in% names(game$units)) game$units[[name]] else 1))
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
