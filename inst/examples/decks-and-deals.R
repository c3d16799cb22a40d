# Making decks, looking at them, shuffling and dealing, and making sure that nothing is lost.
library(habanera)

print(deck_standard())
windfall <- deck_from(demo_file("windfall.yaml"))
print(table(card_attributes(windfall)$kind))

# An honours count is an attribute of the cards.
deck <- set_attributes(deck_standard(), points = c(A = 4, K = 3, Q = 2, J = 1, other = 0))
dealt <- deal(shuffle(deck, seed = 7), c("north", "east", "south", "west"))
print(dealt)
for (seat in c("north", "east", "south", "west")) {
  cat(seat, sum(card_attributes(dealt[[seat]])$points), "\n")
}
print(check_cards(do.call(c, unname(unclass(dealt))), against = deck))

# What did the shuffle leave as it was?
print(compare(deck[1:16], shuffle(deck[1:16], seed = 3)))
