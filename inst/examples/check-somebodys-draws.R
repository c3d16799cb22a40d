# Somebody else's drawing code: recorded in a file, written in R, or a column from a spreadsheet.
library(habanera)
orchard <- deck_from(demo_file("orchard.csv"))

# What the hall's tablet wrote down; it counts cards from 0.
tablet <- draws_recorded(demo_file("tablet-draws.txt"), orchard, numbering = list(first = 0))
print(compare(tablet, exact(draws(orchard, 3))))

# A loop with the same slip, as an R function. How many draws would show a card that never comes?
tablet_loop <- function(deck) {
  drawn <- deck[0]
  for (i in 1:3) {
    at <- floor(runif(1) * (length(deck) - 1)) + 1
    drawn <- c(drawn, deck[at])
    deck <- deck[-at]
  }
  drawn
}
print(simulate(draws_with(tablet_loop, orchard), nsim = 300, seed = 1))

# A small bias needs many more draws.
print(draws_needed(orchard, 3, off_by = 0.05))

# Hands that were written down, with their number and table beside the cards: judged as hands, and asked.
dealt <- draws_recorded(demo_file("dealt-hands.csv"))
print(summary(dealt))
print(draws_recorded(demo_file("dealt-hands.csv"), pair = category() >= "one pair"))
print(draws_needed(deck_standard(), 5, tampered = 0.1, level = 0.01))

# Cards drawn one at a time, as they stand in a spreadsheet's column.
column <- c("1F", "4P", "1F", "9M", "11G", "2G")
print(as_counts(column, orchard))
