#' Blackjack
#'
#' Seats against a dealer who plays by rule, by the rules of any house: what does the house keep of every stake against
#' a player who plays like this?
#'
#' A round goes in this order:
#' 1. Each seat gets a card, the dealer one face up, each seat a second; where `hole_card` is "checked", the dealer a
#'    second face down.
#' 2. Early surrender, where there is: each seat without a natural may give up for half its stake.
#' 3. Insurance, where the dealer shows an ace: each seat may bet half its stake that the dealer has a natural, at 2
#'    to 1.
#' 4. Where `hole_card` is "checked" and the card shown can make a natural, the dealer looks. With a natural the round
#'    ends: a natural of a seat is a tie, all others lose their stake.
#' 5. The seats from left to right, each hand after the other: hit, stand, double, split, or late surrender with the
#'    first two cards. A split hand gets its second card when it is played, and its 21 is no natural.
#' 6. The dealer turns the card face down or takes the second, and draws, as far as some hand still needs it.
#'
#' Without a look a natural of the dealer's takes doubled and split stakes, too ("unchecked_all_lost"), or all is
#' settled as if the dealer had looked ("unchecked_stake_only"). A hand of `cards_that_win` cards wins at once.
#'
#' Side bets are on each seat's first two cards and the dealer's up card, in that order a hand of three cards in the
#' [question_language]: by name an expression of what is handed back for one stake, such as
#' `list(suited = "ifelse(card_at(1, suit == \"hearts\") & card_at(2, suit == \"hearts\"), 12, 0)")`, or conditions with
#' what they pay, of which the first that holds counts: `list(alike = c("largest_group(rank) == 3" = 30))`.
#'
#' @inheritParams game_war
#' @param piles Not for this game.
#' @return A game: an experiment for [simulate()], [exact()] on small packs, [house_edge()], [trials()] and [replay()].
#'   With `cut_after` a trial is a whole shoe, and every round adds a row of outcomes.
#' @section Rules:
#' `r rules_for_help("blackjack")`
#' @section Outcomes:
#' `r columns_for_help("blackjack")`
#'
#' Of several seats `net`, `staked`, `hands` and bets are those of all together, `result`, `first_hand` and
#' `player_total` of the first. Side bets are outcomes by their names. Money is the player's, in the money of `stake`,
#' and counted in whole units in the core.
#' @section Errors: `habanera_error_rules` for rules that contradict each other, a cut that leaves no cards for the
#'   round in hand, a strategy that lacks a row or splits where there are no splits; `habanera_error_input` for values
#'   out of range.
#' @seealso [strategy_table()], [customers], [house_edge()].
#' @examples
#' simulate(game_blackjack(soft_17 = "hits"), nsim = 1e4, seed = 1)
#' replay(game_blackjack(players = player_never_busts()), seed = 1)
#' @export
game_blackjack <- function(..., rules = NULL, shuffle = NULL, piles = NULL, seat_names = NULL, record = NULL) {
  call <- rlang::current_env()
  make_game(game_kind("blackjack"), rlang::list2(...), rules, game_settings(shuffle, piles, seat_names, record), call)
}

kind_of_blackjack <- function() {
  new_kind(
    "blackjack", "Blackjack", "game_blackjack", "seats against a dealer who plays by rule, nearest to 21 wins.",
    blackjack_rules(), blackjack_columns(), c("net", "staked", "result"), core_blackjack,
    can = blackjack_capabilities(), fitted = fitted_blackjack, settled = settled_blackjack, deck = blackjack_shoe,
    dealt = blackjack_dealt, afresh = function(rules) is.infinite(rules$packs), cards = blackjack_cards,
    core = blackjack_spec, likeness = blackjack_likeness, limits = blackjack_limits, counted_by = blackjack_counted_by,
    move_words = blackjack_moves(), view_words = blackjack_view_words, out_of_reach = blackjack_out_of_reach,
    in_short = blackjack_in_short, step_words = blackjack_step_words, step_notes = blackjack_step_notes,
    end_in_words = blackjack_end_in_words, fewer_deals = "a smaller pack", examples = blackjack_examples
  )
}

blackjack_capabilities <- function() list(
  takes_bets = list(bets = blackjack_bets), drops_cards = list(without = blackjack_without),
  solves = list(edge = blackjack_solved_edge, with_player = blackjack_with_player, bet_means = blackjack_bet_means),
  # A natural is paid before anybody decides anything.
  plays_best = list(strategy = blackjack_best, expected = blackjack_expected, edge_of = blackjack_best_edges,
                    straight_in = "natural_pays"),
  advises = list(advise = blackjack_advice), tells_dealer = list(totals = blackjack_dealer_totals),
  prices_mistakes = list(mistakes = blackjack_mistakes),
  counts = list(cells = blackjack_cells, departures = blackjack_departures),
  scores = list(columns = blackjack_scores, of = "a stake"),
  deals_hands = list(opening = function(rules) list(sizes = c(rep(2, rules$seats), 1), alternate = TRUE))
)

# As many as the core has room for.
blackjack_seats <- function() core_blackjack_room()[["seats"]]
split_hands <- function() core_blackjack_room()[["hands"]]

blackjack_scores <- function(rules) if (rules$seats == 1) "net" else paste0("net_", seq_len(rules$seats))

blackjack_rules <- function() {
  c(list(
    rule_deck("the pack that is multiplied"), rule_packs(6),
    rule_attribute("points_by", "points", "what gives the values of the cards, 1 to 10; 1 may count 10 more"),
    rule_whole("bust_over", 21, 12, 31, "the highest total that is not lost; a natural is it in two cards, one an ace"),
    rule_whole("seats", 1, 1, blackjack_seats(), "how many play"),
    rule_players(blackjack_players, "who decides for the seats"),
    rule_choice("soft_17", c("stands", "hits"), "what the dealer does on a soft total that is just enough to stand on"),
    rule_whole("dealer_stands_on", 17, 2, 31, "from which total on the dealer stands", tries = 16:18),
    rule_fraction("natural_pays", 1.5, 0, 100, "what a natural pays, to one", tries = c(1, 1.2, 1.5, 2)),
    rule_choice("ties", c("push", "dealer"), "who has a tie: nobody, or the dealer"),
    rule_choice("hole_card", c("checked", "unchecked_all_lost", "unchecked_stake_only"), paste(
      "whether the dealer looks for a natural before the seats act, and what it takes where nobody looked")),
    rule_choice("double_on", c("any_two", "9_to_11", "10_11", "any_cards", "none"), "on what a seat may double"),
    rule_flag("double_after_split", TRUE, "a split hand may be doubled"),
    rule_whole("most_hands", split_hands(), 1, split_hands(), "how many hands a seat may split to; 1: no splits",
               tries = seq_len(split_hands())),
    rule_choice("split_by", c("points", "rank"), "what two cards of a pair share"),
    rule_choice("split_aces", c("one_card", "play_on"), "whether a split ace gets one card only"),
    rule_flag("resplit_aces", FALSE, "a split ace that gets another is split again"),
    rule_choice("surrender", c("none", "late", "early"),
                paste("whether a hand may be given up, after the look or before; one that is over with its first two",
                      "cards (`bust_over` below 21) may not")),
    rule_fraction("surrender_costs", 0.5, 0, 1, "what giving up costs of the stake"),
    rule_offered("insurance", "whether insurance is offered", "where the pack has an ace"),
    rule_fraction("insurance_stake", 0.5, 0.001, 100, "what insurance costs, in stakes"),
    rule_fraction("insurance_pays", 2, 0, 100, "what insurance pays, to one"),
    rule_whole("cards_that_win", NULL, 3, 20, "a hand of so many cards wins at once", "none does",
               tries = list(NULL, 5, 6, 7)),
    rule_fraction("stake", 1, 1e-6, 1e9, "the stake of a hand"),
    rule_side_bets("bets on a seat's first two cards and the dealer's up card"), rule_cut(),
    rule_whole("burn", 0, 0, 100, "cards burned before the first round")
  ), rules_session())
}

rule_packs <- function(default) {
  allowed <- "a whole number from 1 to 8, or Inf: every card is drawn afresh"
  new_rule("packs", default, allowed, "packs in the shoe", function(value, name, call) {
    if (identical(value, "Inf") || identical(value, ".inf") || identical(value, Inf)) return(Inf)
    fits <- is.numeric(value) && length(value) == 1 && value %in% 1:8
    if (!fits) refuse(sprintf("`packs` must be %s, not %s.", allowed, said(value)), call = call)
    as.double(value)
  }, tries = c(1, 2, 4, 6, 8, Inf))
}

# TRUE, FALSE or NULL, which is as the cards have it.
rule_offered <- function(name, meaning, without) {
  new_rule(name, NULL, sprintf("TRUE, FALSE or NULL: %s", without), meaning, function(value, name, call) {
    if (is.null(value)) NULL else check_flag(value, name, call)
  }, tries = c(TRUE, FALSE))
}

blackjack_columns <- function() {
  money <- function(meaning) list(meaning = meaning, told_of = "that were played", is_money = TRUE)
  number <- function(meaning) list(meaning = meaning, told_of = "that were played")
  by_seat <- function(name, column) {
    rlang::set_names(lapply(seq_len(blackjack_seats()), function(seat) {
      column$meaning <- sprintf(column$meaning, seat)
      column
    }), paste0(name, "_", seq_len(blackjack_seats())))
  }
  c(list(net = money("what the round brings the player, insurance with it"),
         staked = money("what was staked, doubles, splits and insurance with it"),
         result = list(meaning = "natural, win, push, loss or surrender, by the sign of net"),
         first_hand = list(meaning = "the first two cards: a total, soft, or a pair"),
         up_card = list(meaning = "the value of the dealer's up card"),
         player_total = list(meaning = "the total of the first hand"),
         dealer_total = list(meaning = "the dealer's total, where the second card was drawn or turned"),
         hands = number("hands played"), cards_used = number("cards dealt"),
         insurance_net = money("what insurance brings the player")),
    by_seat("net", money("what the round brings seat %d")), by_seat("staked", money("what seat %d staked")),
    by_seat("result", list(meaning = "the result of seat %d")),
    by_seat("decisions", number("choices that seat %d made")),
    by_seat("forced", number("of the choices of seat %d, those with one move only")))
}

# The outcomes of the seats there are and of the side bets, and what these pay, which is worked out once.
fitted_blackjack <- function(rules, call) {
  columns <- blackjack_columns()
  seat <- as.numeric(sub("^.*_([0-9]+)$|.*", "\\1", names(columns)))
  of_seat <- !is.na(seat)
  single <- c("net", "staked", "result")
  keep <- !of_seat | (seat <= rules$seats & (rules$seats > 1 | !sub("_[0-9]+$", "", names(columns)) %in% single))
  columns <- columns[keep]
  bets <- names(rules$side_bets)
  taken <- intersect(bets, names(blackjack_columns()))
  if (length(taken)) refuse(sprintf("`side_bets`: `%s` is an outcome already.", taken[1]), "rules", call)
  columns <- c(columns, side_bet_columns(bets))
  record <- if (rules$seats == 1) single else {
    paste0(rep(c("net", "staked", "result"), each = rules$seats), "_", seq_len(rules$seats))
  }
  values <- side_bet_values(rules, blackjack_shoe(rules), call)
  unit <- blackjack_unit(rules, values, call)
  seat <- counting_seats(rules$players, rules$seats)
  counted_fit(list(columns = columns, record = record, units = blackjack_units(rules, unit),
                   kept = list(bets = values, unit = unit)),
              rules, rules$seats, paste0(c("net", "staked"), if (rules$seats > 1) paste0("_", seat)))
}

blackjack_cards <- function(rules, deck, record, kept, call) {
  c(blackjack_traits(rules, deck, call), kept,
    list(bettor = core_bettor(rules, rules$seats, deck, length(rules$deck), call)))
}

blackjack_shoe <- function(rules) rep(rules$deck, if (is.finite(rules$packs)) rules$packs else 1)

# The value of each kind in a deck.
card_values <- function(deck, points_by, call) {
  data <- catalogue_of(deck)$data
  if (!points_by %in% names(data)) {
    refuse(sprintf("`points_by` must name an attribute of the pack (%s), not %s%s", join_words(names(data), "or"),
                   quoted(points_by), did_you_mean(points_by, names(data))), "rules", call)
  }
  kinds <- kinds_of(deck)
  values <- data[[points_by]][kinds$codes]
  bad <- which(!values %in% 1:10)
  if (length(bad)) {
    refuse(sprintf("`points_by`: cards count 1 to 10, and %s has %s; leave such cards out of the pack.",
                   quoted(kinds$cards[bad[1]]), said(values[bad[1]])), "rules", call)
  }
  as.integer(values)
}

settled_blackjack <- function(rules, piles, changed, call) {
  refuse_other_number(rules$players, rules$seats, call)
  refuse_counter(rules, rules$seats, is.infinite(rules$packs), call)
  values <- card_values(rules$deck, rules$points_by, call)
  if (rules$split_by == "rank" && is.null(catalogue_of(rules$deck)$data$rank)) {
    refuse("`split_by`: the pack has no attribute `rank`.", "rules", call)
  }
  refuse_contrary(rules, values, changed, call)
  refuse_session(rules, call)
  settled_shoe(rules, call)
}

refuse_contrary <- function(rules, values, changed, call) {
  contrary <- list(
    "`resplit_aces` needs splits: `most_hands` of 3 or more." = rules$resplit_aces && rules$most_hands < 3,
    "Nothing is split with `most_hands` 1: no `split_aces`, `split_by` or `double_after_split`." =
      rules$most_hands == 1 && any(c("split_aces", "split_by", "double_after_split") %in% changed),
    "Late surrender comes after the look: `hole_card` must be \"checked\"; or take `surrender` \"early\"." =
      rules$surrender == "late" && rules$hole_card != "checked",
    "Insurance is offered on an ace, and the pack has none: `insurance` must be FALSE or NULL." =
      isTRUE(rules$insurance) && !1 %in% values,
    "The dealer must stand on a total that is not bust: `dealer_stands_on` up to `bust_over`." =
      rules$dealer_stands_on > rules$bust_over,
    "An endless shoe has no cut and no burned cards: no `cut_after` or `burn` with `packs` Inf." =
      is.infinite(rules$packs) && (!is.null(rules$cut_after) || rules$burn > 0)
  )
  for (words in names(contrary)) if (contrary[[words]]) refuse(words, "rules", call)
}

# The cut as a number of cards, which leaves as many as the seats and the dealer may well need.
settled_shoe <- function(rules, call) {
  if (is.infinite(rules$packs)) return(rules)
  cards <- length(rules$deck) * rules$packs
  round <- 2 * (rules$seats + 1)
  cut <- settled_cut(rules$cut_after, rules$burn, cards, round, call)
  if (!is.null(cut) && cut + 2 * round > cards) {
    refuse(sprintf("`cut_after` leaves %s; %s and the dealer may need %s. Cut after %s at most, or take more packs.",
                   count_of(cards - cut, "card"), count_of(rules$seats, "seat"), format_count(2 * round),
                   count_of(max(0, cards - 2 * round), "card")), "rules", call)
  }
  rules["cut_after"] <- list(cut)
  rules
}

# How many cards from the top can come into play: a hand's cards but its last are not over, so that the smallest cards
# of the shoe tell how many there can be.
blackjack_dealt <- function(rules, deck) {
  hands <- rules$seats * rules$most_hands + 1
  values <- card_values(deck, rules$points_by, NULL)[match(codes_of(deck), kinds_of(deck)$codes)]
  if (is.infinite(rules$packs)) return(hands * (1 + rules$bust_over %/% min(values)))
  if (rules$shoes > 1) return(length(deck))
  round <- hands + sum(cumsum(sort(values)) <= hands * rules$bust_over)
  min(length(deck), round + max(rules$burn, if (is.null(rules$cut_after)) 0 else rules$cut_after - 1))
}

blackjack_traits <- function(rules, deck, call) {
  values <- card_values(deck, rules$points_by, call)
  kinds <- kinds_of(deck)
  by <- if (rules$split_by == "points") values else catalogue_of(deck)$data$rank[kinds$codes]
  list(values = values, pairs_with = match(by, unique(by)),
       count = if (is.finite(rules$packs)) length(deck) else blackjack_dealt(rules, deck),
       players = lapply(seated_players(rules$players, rules$seats), core_customer, rules, sort(unique(values)), call))
}

blackjack_likeness <- function(game) {
  spec <- game$spec$rules
  like_kinds(c(list(spec$points, spec$pairs_with, spec$side_class), spec$bettor$system[c("tags", "bet_tags")]))
}

# The unit that makes halves and all pays whole.
blackjack_unit <- function(rules, bets, call) {
  paid <- c(rules[c("natural_pays", "surrender_costs", "insurance_stake", "insurance_pays")])
  refuse_unpayable(c(paid, lapply(bets$handed, unique)), call)
  whole_unit(unique(c(rules$natural_pays, rules$surrender_costs, insurance_of(rules), unlist(bets$handed))))
}

# What insurance costs and brings, in stakes.
insurance_of <- function(rules) rules$insurance_stake * c(stake = 1, wins = rules$insurance_pays)

blackjack_units <- function(rules, unit) {
  seats <- seq_len(blackjack_seats())
  money <- c("net", "staked", "insurance_net", paste0("net_", seats), paste0("staked_", seats), names(rules$side_bets))
  as.list(rlang::set_names(rep(unit / rules$stake, length(money)), money))
}

# All hands doubled and lost, and insurance with them; or all won. None where somebody bets by the count.
blackjack_limits <- function(rules) {
  if (length(counting_seats(rules$players, rules$seats))) return(list())
  insurance <- insurance_of(rules)
  best <- max(2 * rules$most_hands + insurance[["wins"]], rules$natural_pays)
  seat <- rules$stake * c(-2 * rules$most_hands - insurance[["stake"]], best)
  c(list(net = rules$seats * seat), rlang::rep_named(paste0("net_", seq_len(blackjack_seats())), list(seat)))
}

blackjack_spec <- function(rules, cards, dealing) {
  unit <- cards$unit
  insurance <- if (is.null(rules$insurance)) 1 %in% cards$values else rules$insurance
  list(points = cards$values, pairs_with = as.integer(cards$pairs_with), side_class = as.integer(cards$bets$class),
       side_classes = cards$bets$classes,
       side_bets = lapply(unname(cards$bets$handed), function(back) (back - 1) * unit),
       cards = cards$count, cut_after = if (is.null(rules$cut_after)) 0 else rules$cut_after, burn = rules$burn,
       seats = rules$seats, bust_over = rules$bust_over, dealer_stands_on = rules$dealer_stands_on,
       hits_soft = rules$soft_17 == "hits", ties_to_dealer = rules$ties == "dealer", hole_card = rules$hole_card,
       double_on = rules$double_on, double_after_split = rules$double_after_split, most_hands = rules$most_hands,
       split_aces_one_card = rules$split_aces == "one_card", resplit_aces = rules$resplit_aces,
       surrender = rules$surrender, insurance = insurance,
       cards_that_win = if (is.null(rules$cards_that_win)) 0 else rules$cards_that_win, stake_units = unit,
       natural_units = round(rules$natural_pays * unit), surrender_units = round(rules$surrender_costs * unit),
       insurance_units = round(insurance_of(rules)[["stake"]] * unit),
       insured_units = round(insurance_of(rules)[["wins"]] * unit), players = cards$players,
       told_by_cards = any(vapply(cards$players, looks_at_cards, NA)), bettor = cards$bettor,
       shoes = rules$shoes)
}

blackjack_bets <- function(rules) {
  side <- names(rules$side_bets)
  data.frame(term = c("main", side), column = c("net", side), stake = rules$seats * rules$stake,
             staked = c("staked", rep(NA_character_, length(side))))
}

blackjack_out_of_reach <- function(rules, deck) {
  if (is.infinite(rules$packs)) return("An endless shoe is not walked; simulate().")
  if (rules$shoes > 1) return(session_not_walked)
  if (length(deck) > 60) return("A shoe of more than 60 cards is not walked; take a smaller pack, or simulate().")
}
