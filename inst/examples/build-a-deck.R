# Building Windfall: openings, redraws, turns, and how many copies of a card.
library(habanera)

windfall <- deck_from(demo_file("windfall.yaml"))

# Seven cards; a hand with too few or too many grounds goes back once.
opening <- draws(windfall, 7, grounds = count(kind == "ground"), keepable = grounds >= 2 & grounds <= 4)
print(exact(opening))
print(exact(redraw_if(opening, !keepable)))

# A ground for every turn, up to four of them, and no flood of them at the end.
game <- draws(windfall, 7, grounds = count(kind == "ground"),
              smooth = every_turn(grounds >= min(turn, 4)) & grounds <= 5) |>
  redraw_if(grounds < 2 | grounds > 4) |>
  draw_more(times = 5)
print(summary(exact(game)))

# How many orchard gates, in the place of quinces? And what it looks like when it is played.
print(copies_curve(game, "orchard gate", 10:18, instead_of = "quince"))
trials <- as.numeric(Sys.getenv("TRIALS", "20000"))
print(summary(simulate(game, nsim = trials, seed = 1)))
print(convergence(simulate(game, nsim = trials, seed = 1), "smooth"))
