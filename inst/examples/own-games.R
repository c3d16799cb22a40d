# Games of one's own: a patience, a game of going out with a discard pile that is shuffled again, tricks with a trump,
# and one in C++. Luck, log, exact answers and checks come with each.
library(habanera)

# Clock patience: thirteen piles of four; the card turned says where the next is turned. It comes out when all are.
hours <- sprintf("hour_%d", 1:13)
clock <- game_custom(
  "clock", deck_standard(),
  function(table, rules, players) {
    table$deal("stock", hours, 4)
    at <- 13
    turned <- 0
    while (table$size(hours[at]) > 0) {
      card <- table$move(hours[at], "shown")
      turned <- turned + 1
      at <- (table$of$rank_high[card] - 1) %% 13 + 1
    }
    list(out = turned == 52, turned = turned)
  },
  outcomes = list(out = outcome_flag("all cards are turned"), turned = outcome_whole("cards turned")),
  piles = c(stock = "hidden", shown = "open", stats::setNames(rep("hidden", 13), hours))
)
# It comes out once in thirteen.
print(simulate(clock, nsim = 300, seed = 44))
print(check_game(clock, nsim = 20))

# Going out: lay a card that shares suit or rank with the last, else draw one; who has none left wins. The discards are
# shuffled for a new stock.
going_out <- game_custom(
  "going_out", deck_standard(ranks = c("7", "8", "9", "10", "J", "Q", "K", "A")),
  function(table, rules, players) {
    hands <- sprintf("hand_%d", seq_len(table$seats))
    table$deal("stock", hands, rules$cards)
    table$move("stock", "discards")
    turns <- 0
    repeat {
      for (seat in seq_len(table$seats)) {
        turns <- turns + 1
        last <- table$look("discards")
        held <- table$cards(hands[seat])
        fits <- which(table$of$suit[held] == table$of$suit[last] | table$of$rank[held] == table$of$rank[last])
        if (length(fits)) {
          chosen <- table$ask(seat, list(last = last, hand = held), fits)
          table$move(hands[seat], "discards", at = chosen)
          if (table$size(hands[seat]) == 0) return(list(winner = seat, turns = turns))
        } else {
          if (table$size("stock") == 0 && table$size("discards") > 1) {
            table$move("discards", "stock", at = seq_len(table$size("discards"))[-1])
            table$shuffle("stock")
          }
          if (table$size("stock") > 0) table$move("stock", hands[seat])
        }
        if (turns >= rules$most_turns) return(list(winner = 0, turns = turns))
      }
    }
  },
  outcomes = list(winner = outcome_seat("who has no card left"), turns = outcome_whole("turns")),
  piles = c(stock = "hidden", discards = "open", hand = "own"), rules = list(cards = 5, most_turns = 500), seats = 2
)
print(simulate(going_out, nsim = 100, seed = 44))
print(vary_rules(going_out, cards = c(3, 5), nsim = 50, seed = 44))
print(check_game(going_out, nsim = 20))

# Tricks: follow suit if you can; the highest trump, else the highest of the suit led, takes the trick. Two
# partnerships.
tricks <- game_custom(
  "tricks", deck_standard(),
  function(table, rules, players) {
    hands <- sprintf("hand_%d", 1:4)
    tricks <- table$size("stock") / 4
    table$deal("stock", hands, tricks)
    leads <- 1
    taken <- numeric(4)
    for (trick in seq_len(tricks)) {
      seats <- (leads + 0:3 - 1) %% 4 + 1
      led <- NULL
      for (seat in seats) {
        held <- table$cards(hands[seat])
        open <- seq_along(held)
        follows <- which(table$of$suit[held] == led)
        if (length(follows)) open <- follows
        chosen <- table$ask(seat, list(hand = held, trick = table$cards("trick"), trump = rules$trump), open)
        card <- table$move(hands[seat], "trick", at = chosen, beneath = TRUE)
        if (is.null(led)) led <- table$of$suit[card]
      }
      cards <- table$cards("trick")
      suit <- table$of$suit[cards]
      worth <- table$of$rank_high[cards] + 100 * (suit == rules$trump) - 100 * (suit != led & suit != rules$trump)
      leads <- seats[which.max(worth)]
      taken[leads] <- taken[leads] + 1
      table$move("trick", "taken", 4)
    }
    ours <- if (rules$partners) taken[1] + taken[3] else taken[1]
    list(ours = ours, theirs = tricks - ours)
  },
  outcomes = list(ours = outcome_whole("tricks of seat 1, and of its partner"), theirs = outcome_whole("the others")),
  piles = c(stock = "hidden", trick = "open", taken = "open", hand = "own"),
  rules = list(rule_choice("trump", c("spades", "hearts", "diamonds", "clubs"), "the suit that beats all others"),
               partners = TRUE), seats = 4,
  # What it is worth to a seat, for players who look ahead.
  worth = function(outcome, seat) if (seat %in% c(1, 3)) outcome$ours else outcome$theirs
)
print(simulate(tricks, nsim = 30, seed = 44))
# A player who lays his highest card against three who lay any.
highest <- player_with(function(view, moves) moves[which.max(view$hand[moves] %% 13)], "high cards")
print(simulate(change_rules(tricks, players = list(highest, player_random(), player_random(), player_random())),
               nsim = 30, seed = 44))
# A player who tries each move in deals that fit what he could see, some games of it (he plays each out many times).
ahead <- change_rules(going_out, cards = 3, players = list(player_lookahead(5), player_random()))
print(simulate(ahead, nsim = 4, seed = 44))
five_each <- deck_standard(ranks = c("10", "J", "Q", "K", "A"))
print(simulate(change_rules(tricks, deck = five_each, players = list(player_lookahead(3), player_random(),
                                                                     player_random(), player_random())),
               nsim = 3, seed = 44))

# Lift, in C++ (lift.cpp, beside this file): as fast as the games that are shipped, with exact answers and best play. It
# is compiled the first time.
lift <- game_cpp(system.file("examples", "lift.cpp", package = "habanera"), players = list("daring", "random"))
print(simulate(lift, nsim = 1e6, seed = 44))
print(best_play(change_rules(lift, enough = 5)))
print(round_robin(lift, c("daring", "random", "lookahead:samples=10"), nsim = 500, seed = 44))
