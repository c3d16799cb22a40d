# first_pair: cards are turned until two of a rank have come.
#
#   habanera play first_pair.R --trials 1000 --seed 1
#   habanera replay first_pair.R --seed 1
#   habanera check first_pair.R
library(habanera)

game_custom(
  "first_pair",
  deck_standard(),
  # Plays one game: cards move among the piles by the verbs of `table`, and are numbers; table$of has their attributes.
  function(table, rules, players) {
    ranks <- character()
    repeat {
      card <- table$move("stock", "shown")
      rank <- table$of$rank[card]
      if (sum(ranks == rank) + 1 == rules$wanted) break
      ranks <- c(ranks, rank)
      # A seat is asked with what it may see, and what it may do; its player is another argument of game_custom().
      if (table$ask(1, list(ranks = ranks), c("go on", "stop")) == "stop" && rules$may_stop) {
        return(list(turned = table$size("shown"), found = FALSE))
      }
    }
    # All outcomes, by name.
    list(turned = table$size("shown"), found = TRUE)
  },
  outcomes = list(turned = outcome_whole("cards turned"), found = outcome_flag("so many of a rank have come")),
  # Who sees the cards of a pile: "hidden", "open", or "own" (a pile for each seat, as hand_1).
  piles = c(stock = "hidden", shown = "open"),
  # Rules by their defaults, or by rule_whole() and its kin.
  rules = list(rule_whole("wanted", 2, 2, 4, "how many of a rank are looked for"), may_stop = FALSE)
)
