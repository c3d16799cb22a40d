# Draws three cards of each deck it is given, as the hall's tablet does: wrongly. The last card
# left is never reached, because the random number stays below one less than the cards left.
#   awk -f tablet-draw.awk
BEGIN { srand(20) }
{
  left = NF
  draw = ""
  for (i = 1; i <= 3; i++) {
    at = int(rand() * (left - 1)) + 1
    draw = draw $at (i < 3 ? " " : "")
    for (k = at; k < left; k++) $k = $(k + 1)
    left--
  }
  print draw
}
