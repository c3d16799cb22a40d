# Building Windfall: openings, redraws, turns, and how many copies of a card.
library(habanera)

windfall <- deck_from(demo_file("windfall.yaml"))

# Six cards; a hand with too few or too many trees goes back once.
opening <- draws(windfall, 6, trees = count(kind == "tree"), keepable = trees >= 2 & trees <= 4)
print(exact(opening))
print(exact(redraw_if(opening, !keepable)))

# A tree for every turn, up to four of them, and no flood of them at the end.
game <- draws(windfall, 6, trees = count(kind == "tree"),
              smooth = every_turn(trees >= min(turn, 4)) & trees <= 7) |>
  redraw_if(trees < 2 | trees > 4) |>
  draw_more(2, times = 4)
print(summary(exact(game)))

# How many apple trees, in the place of quinces? And what it looks like when it is played.
print(copies_curve(game, "apple tree", 6:12, instead_of = "quince"))
trials <- as.numeric(Sys.getenv("TRIALS", "20000"))
print(summary(simulate(game, nsim = trials, seed = 1)))
print(convergence(simulate(game, nsim = trials, seed = 1), "smooth"))
