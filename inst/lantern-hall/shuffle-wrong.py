# Reads a deck a line, writes it shuffled. Wrong: can you see why?
import random
import sys

for line in sys.stdin:
    deck = line.split()
    for i in range(len(deck)):
        j = random.randrange(len(deck))
        deck[i], deck[j] = deck[j], deck[i]
    print(*deck)
