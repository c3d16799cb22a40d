# The hands table of Lantern Hall: what forty hands are worth, by the usual rules and with wild cards.
library(habanera)

hands <- readLines(demo_file("prize-hands.txt"))[-1]
print(rank_hands(hands), rows = 5)
cat("Tokens by place:", sum(hand_place(hands)), "\n")

deuces <- hand_rules(wild = rank == "2")
print(compare(hand_rules(), deuces, hands), rows = 5)

# How often each category comes.
print(category_odds())
print(category_odds(deck_from(demo_file("orchard.csv")), 3, hand_rules(size = 3, rank_by = "rank")))

# What do the hands of a question make, and what is worth keeping?
print(exact(draws(deck_standard(), 5, good = category() >= "two pair")))
print(best_exchange("AS KS 9S 4S 9D", category() >= "three of a kind"), rows = 3)

# Two hands on every board.
print(showdown(list("AS KS", "QH QD"), board = "QC 9S 2S"))
