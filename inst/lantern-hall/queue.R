# The queue, a game for guests who wait at the stall: cards are turned one by one, and the guest may stop after each and
# take the sum of their ranks. Ranks that come again take all of it away.
library(habanera)

game_custom(
  "queue", deck_from(demo_file("orchard.csv")),
  function(table, rules, players) {
    ranks <- numeric()
    again <- 0
    while (table$size("stock") > 0 && sum(ranks) < rules$stops_at) {
      rank <- table$of$rank[table$move("stock", "shown")]
      again <- again + rank %in% ranks
      if (again == rules$repeats) return(list(takes = 0, turned = table$size("shown"), lost = TRUE))
      ranks <- c(ranks, rank)
    }
    list(takes = sum(ranks), turned = table$size("shown"), lost = FALSE)
  },
  outcomes = list(takes = outcome_whole("what the guest takes"), turned = outcome_whole("cards turned"),
                  lost = outcome_flag("all is taken away")),
  piles = c(stock = "hidden", shown = "open"),
  rules = list(rule_whole("stops_at", 20, 1, 500, "the sum at which the guest stops"),
               rule_whole("repeats", 1, 1, 4, "how many ranks that come again take all away"))
)
