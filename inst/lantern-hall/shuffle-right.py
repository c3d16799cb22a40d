# Reads a deck a line, writes it shuffled. Right: every place takes one of the cards not yet placed.
import random
import sys

for line in sys.stdin:
    deck = line.split()
    for i in range(len(deck) - 1):
        j = random.randrange(i, len(deck))
        deck[i], deck[j] = deck[j], deck[i]
    print(*deck)
