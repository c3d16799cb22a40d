#' Pairs
#'
#' Cards lie face down in pairs, a turn shows two of them, and who finds a pair takes it: a game of memory. How long
#' does it take, what is a good memory worth, and is it better to sit first?
#'
#' A *turn* is two cards, collecting turns included. What is turned is seen by all seats. The cards are laid out in the
#' order of the shuffled deck; `shuffle = "none"` leaves them in the order of the deck, two of a pair side by side.
#'
#' @inheritParams game_war
#' @param piles Not for this game.
#' @return A game: an experiment for [simulate()], [exact()], [trials()] and [replay()].
#' @section Rules:
#' `r rules_for_help("pairs")`
#' @section Outcomes:
#' `r columns_for_help("pairs")`
#' @section Errors: `habanera_error_rules` for rules that contradict each other, for a deck whose cards do not come in
#'   twos, and for more pairs than it has; `habanera_error_input` for values out of range.
#' @seealso [players].
#' @examples
#' evening <- game_pairs(players = list(player_full_memory(), player_careful()))
#' simulate(evening, nsim = 1000, seed = 1)
#' exact(game_pairs(pairs = 3, seats = 1))
#' @export
game_pairs <- function(..., rules = NULL, shuffle = NULL, piles = NULL, seat_names = NULL, record = NULL) {
  call <- rlang::current_env()
  make_game(game_kind("pairs"), rlang::list2(...), rules, game_settings(shuffle, piles, seat_names, record), call)
}

kind_of_pairs <- function() {
  new_kind(
    "pairs", "Pairs", "game_pairs", "pairs lie face down, two cards are turned a turn; who remembers most wins.",
    pairs_rules(), pairs_columns(), c("winner", "turns"), core_pairs,
    can = list(searches = list(solve = function(game, seat, call) solved_in_seat(game, seat, call, solve_pairs)),
               judges = list(judge = core_judge_pairs),
               scores = list(columns = function(rules) sprintf("score_%d", seq_len(rules$seats)), of = "the win")),
    fitted = function(rules, call) list(units = pairs_units(rules)), settled = settled_pairs, deck = pairs_deck,
    cards = function(rules, deck, record, kept, call) pair_classes(deck[!duplicated(deck)], rules$match_by),
    core = pairs_spec, likeness = function(game) game$spec$rules$mates, winner = "winner", rounds = "turns",
    limits = pairs_limits, view_words = pairs_view_words,
    in_short = pairs_in_short, step_words = pairs_step_words, end_in_words = pairs_end_in_words, course = pairs_course,
    fewer_deals = "fewer `pairs`", examples = pairs_examples
  )
}

pairs_limits <- function(rules) {
  shares <- rlang::rep_named(sprintf("score_%d", 1:6), list(c(0, 1)))
  c(shares, rlang::rep_named(sprintf("pairs_%d", 1:6), list(c(0, length(pairs_deck(rules)) / 2))))
}

# Twos of numbered cards.
paired_deck <- function(pairs) {
  catalogue <- new_catalogue(data.frame(card = as.character(seq_len(pairs))), "numbered pairs")
  new_cards(rep(seq_len(pairs), each = 2), catalogue)
}

pairs_rules <- function() {
  list(
    rule_deck("the cards that lie in pairs", paired_deck(26), "26 pairs of numbered cards"),
    rule_whole("pairs", 15, 1, 26, "how many pairs are laid out, the first in the deck"),
    rule_whole("seats", 2, 1, 6, "how many play"),
    rule_players(c("full_memory", "careful", "forgetful", "random", "lookahead", "solved", "person"),
                 "who decides for the seats"),
    rule_numbers("grid", NULL, 1, 52, "rows and columns of the table, which hold all cards", size = 2,
                 without = "as it comes"),
    rule_flag("again", TRUE, "who finds a pair turns again"),
    rule_attribute("match_by", "card", "what two cards must share to be a pair", number = FALSE)
  )
}

pairs_columns <- function() {
  by_seat <- function(name, meaning) {
    rlang::set_names(lapply(1:6, function(seat) list(meaning = sprintf(meaning, seat), told_of = "that were played")),
                     sprintf("%s_%d", name, 1:6))
  }
  c(list(winner = list(meaning = "the seat with most pairs, or nobody where several have"),
         turns = list(meaning = "turns, of two cards each", told_of = "that were played"),
         turns_again = list(meaning = "turns that a seat had since it had found a pair", told_of = "that were played")),
    by_seat("pairs", "pairs won by seat %d"),
    lapply(by_seat("score", "what seat %d has of the win: 1, or a share of it"), c, list(is_money = TRUE)),
    by_seat("decisions", "choices that seat %d made"),
    by_seat("forced", "of the choices of seat %d, those with one move only"))
}

# The rules that must fit the deck and each other.
settled_pairs <- function(rules, piles, changed, call) {
  refuse_other_number(rules$players, rules$seats, call)
  refuse_unsolvable(seated_players(rules$players, rules$seats), call)
  if (!is.null(rules$grid) && prod(rules$grid) != 2 * rules$pairs) {
    fitting <- if (prod(rules$grid) %% 2 == 0) sprintf("; say `pairs = %d`", prod(rules$grid) / 2) else ""
    refuse(sprintf("A grid of %s holds %s, not the %s of %s%s.", paste(rules$grid, collapse = " by "),
                   count_of(prod(rules$grid), "card"), format_count(2 * rules$pairs), count_of(rules$pairs, "pair"),
                   fitting), "rules", call)
  }
  known <- names(catalogue_of(rules$deck)$data)
  if (!rules$match_by %in% known) {
    refuse(sprintf("`match_by` must name an attribute of the deck (%s), not %s%s", join_words(known, "or"),
                   quoted(rules$match_by), did_you_mean(rules$match_by, known)), "rules", call)
  }
  classes <- pair_classes(rules$deck, rules$match_by)
  alone <- which(tabulate(classes) %% 2 == 1)
  if (length(alone)) {
    refuse(sprintf("The deck's cards must come in twos by `%s`; %s does not.", rules$match_by,
                   quoted(card_attributes(rules$deck)[[rules$match_by]][match(alone[1], classes)])), "rules", call)
  }
  if (length(classes) < 2 * rules$pairs) {
    refuse(sprintf("The deck has %s, not %s.", count_of(length(classes) / 2, "pair"), format_count(rules$pairs)),
           "rules", call)
  }
  rules
}

pair_classes <- function(deck, match_by) {
  values <- as.character(card_attributes(deck)[[match_by]])
  match(values, unique(values))
}

# The first pairs of the deck, two of each side by side.
pairs_deck <- function(rules) {
  classes <- pair_classes(rules$deck, rules$match_by)
  two <- paste(classes, (stats::ave(classes, classes, FUN = seq_along) - 1) %/% 2)
  place <- match(two, unique(two))
  rules$deck[order(place)[seq_len(2 * rules$pairs)]]
}

pairs_spec <- function(rules, classes, dealing) {
  table <- list(mates = as.integer(classes), copies = kinds_of(pairs_deck(rules))$copies, pairs = rules$pairs,
                seats = rules$seats, again = rules$again)
  c(table, list(players = core_players(seated_players(rules$players, rules$seats), table, function(view) {
    pairs_view_words(rules, view)
  })))
}

# What a person in a seat is shown: the table with a key for each card that lies there, and what is turned or was turned
# last; to remember the rest is the game.
pairs_view_words <- function(rules, view) {
  keys <- move_keys(seq_along(view$seen))
  faces <- unique(as.character(card_attributes(rules$deck)[[rules$match_by]]))[view$seen]
  columns <- if (is.null(rules$grid)) ceiling(sqrt(length(keys))) else rules$grid[2]
  width <- max(nchar(faces), 1, na.rm = TRUE) + 2
  cells <- ifelse(!view$lies, "", ifelse(seq_along(keys) %in% view$first, paste0("[", faces, "]"), keys))
  rows <- split(formatC(cells, width = width), ceiling(seq_along(cells) / columns))
  # What each other seat may have turned and left lying since.
  shown <- order(-view$when * view$lies)[seq_len(2 * max(1, rules$seats - 1))]
  last <- shown[view$when[shown] > 0 & view$lies[shown]]
  turned <- paste(sprintf("%s at %s", faces[last], keys[last]), collapse = ", ")
  told <- if (length(last)) sprintf("Last turned: %s.", turned)
  c("", sprintf("Seat %d; pairs won: %s.", view$seat, paste(view$pairs[seq_len(rules$seats)], collapse = ", ")), told,
    vapply(rows, paste, "", collapse = ""))
}

solve_pairs <- function(player) {
  found <- core_solve_pairs(player)
  words <- if (player$game$seats == 1) sprintf("%s turns on average", format_number(-found$worth, 6)) else {
    sprintf("%s of the win", format_percent(found$worth, 5))
  }
  c(found, list(words = words))
}

# Scores are counted in sixtieths, which up to six can share.
pairs_units <- function(rules) as.list(rlang::set_names(rep(60, 6), sprintf("score_%d", 1:6)))

pairs_in_short <- function(outcomes, weight, game) {
  shares <- outcome_shares(outcomes[["winner"]], weight)
  tied <- if ("nobody" %in% names(shares)) sprintf("%s are tied", format_percent(shares[["nobody"]]))
  turns <- if (!is.null(outcomes[["turns"]])) {
    at <- format_count(column_quantiles(outcomes[["turns"]], weight, c(0.5, 0.9), FALSE)$estimate)
    sprintf("half take up to %s turns, nine in ten up to %s", at[1], at[2])
  }
  told <- c(paste(c(wins_in_words(shares), tied), collapse = "; "), turns)
  paste0(sentence(told[nzchar(told)]), ".", collapse = " ")
}

pairs_step_words <- c(deal = "laid out", turns_first = "turns", turns_second = "turns", wins_pair = "has a pair",
                      wins = "wins", ties = "nobody wins")

pairs_end_in_words <- function(trace) {
  outcome <- attr(trace, "outcome")
  won <- unlist(outcome[sprintf("pairs_%d", seq_along(attr(trace, "game")$seat_names))])
  winner <- if (outcome$winner == "nobody") "nobody wins" else paste(seat_headings(outcome$winner), "wins")
  sprintf("%s after %s (pairs: %s)", winner, count_of(outcome$turns, "turn"), join_words(format_count(won)))
}

# The pairs of each seat after each turn.
pairs_course <- function(trace) {
  game <- attr(trace, "game")
  table <- plain_table(trace)
  ends <- table[!duplicated(table[["round"]], fromLast = TRUE), , drop = FALSE]
  seats <- seq_along(game$seat_names)
  list(data = data.frame(x = rep(ends[["round"]], times = length(seats)),
                         series = rep(seat_headings(game$seat_names), each = nrow(ends)),
                         cards = unlist(ends[sprintf("won_%d", seats)], use.names = FALSE) / 2),
       x = "turns", y = "pairs won", note = NULL)
}

pairs_examples <- list(
  play = c("habanera play pairs --set pairs=15 --set players=full_memory,careful --trials 1e5 --seed 1",
           "habanera play pairs --set seats=1 --set pairs=3 --record turns --exact",
           "habanera play pairs --set pairs=6 --set players=forgetful --person 1 --moves evening.json --seed 1"),
  replay = "habanera replay pairs --set pairs=6 --set players=full_memory,forgetful:recall=0.7 --seed 1",
  vary = "habanera vary pairs --over pairs=6,10,15 --over 'players=full_memory;careful;forgetful:recall=0.7'",
  tune = paste("habanera tune pairs --over pairs=4:10 --want 'seat_spread <= 0.1'",
               "--line-ups 'full_memory; forgetful:recall=0.7'"),
  compare = "habanera compare pairs --other players=careful,full_memory --seed 1",
  round_robin = "habanera round-robin pairs --players full_memory,careful,forgetful:recall=0.7 --seed 1",
  best = c("habanera best pairs --set seats=1 --set pairs=10",
           "habanera best pairs --set players=full_memory,careful --seat 2")
)
