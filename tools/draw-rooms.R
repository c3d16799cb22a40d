# The rooms of the house as a drawing, docs/rooms.svg: those of the core on the left, those of R/ on the right, each
# floor standing on those below it. The order is that of tests/testthat/test-architecture.R.
#
#   Rscript tools/draw-rooms.R

order <- new.env()
for (line in as.list(parse("tests/testthat/test-architecture.R"))[1:4]) {
  if (grepl("^(games_there|rooms|core_rooms) <-", deparse(line)[1])) eval(line, order)
}

# Floors from the ground up, by name the rooms that stand side by side.
r_floors <- list(c("util", "stat"), c("cards", "run", "shuffle"), c("hand", "answer"), c("draw", "question"),
                 c("rule", "player"), c("game", "own"), order$games_there, c("ask", "counting", "bank"),
                 c("plot", "report"), c("study", "cli"))
core_floors <- list(c("chance", "stat"), c("cards", "run"), c("watcher", "shuffle"), c("hand"), c("draw", "question"),
                    c("count"), c("game", "own"), order$games_there, c("bank"))
stopifnot(identical(unlist(r_floors), order$rooms), identical(unlist(core_floors), order$core_rooms))

holds <- c(util = "checks, errors, files", stat = "counts, intervals, tests", cards = "decks, notation",
           run = "the one driver", shuffle = "procedures, audit", hand = "rules, categories",
           answer = "reading results",
           draw = "draws, positions", question = "questions, payouts", rule = "what a rule may be",
           player = "players, strategies", game = "kinds, run, exact", own = "games of one's own",
           ask = "what is asked of any game", counting = "card counting", bank = "bankrolls, nights",
           plot = "figures", report = "pages", study = "the demo", cli = "the command",
           chance = "where choices come from",
           watcher = "who looks on", count = "a running count")
holds_in_core <- c(cards = "piles", run = "threads, tallies", shuffle = "procedures, their law", stat = "exact sums",
                   hand = "evaluator, showdowns", draw = "draws, how they are kept", question = "laws of questions",
                   game = "the protocol, its drivers", own = "what one's own game needs", bank = "walks of a bankroll")

floor_height <- 58

box <- function(x, y, width, name, colour, holds) {
  is_game <- name %in% order$games_there
  text <- sprintf("<text x=\"%.1f\" y=\"%.1f\" class=\"%s\">%s</text>", x + width / 2,
                  y + c(if (is_game) 27 else 20, 36), c(if (is_game) "game" else "name", "holds"),
                  c(name, if (is_game) "" else holds[[name]]))
  c(sprintf("<rect x=\"%.1f\" y=\"%.1f\" width=\"%.1f\" height=\"46\" rx=\"5\" fill=\"%s\"/>", x, y, width, colour),
    text[c(TRUE, !is_game)])
}

floors <- function(all, left, width, ground, colour, games_colour, holds) {
  unlist(lapply(seq_along(all), function(i) {
    rooms <- all[[i]]
    each <- (width - 8 * (length(rooms) - 1)) / length(rooms)
    at <- left + (seq_along(rooms) - 1) * (each + 8)
    shade <- if (identical(rooms, order$games_there)) games_colour else colour
    unlist(Map(function(x, name) box(x, ground - i * floor_height, each, name, shade, holds), at, rooms))
  }))
}

ground <- 60 + length(r_floors) * floor_height
label <- function(x, text) sprintf("<text x=\"%d\" y=\"36\" class=\"title\">%s</text>", x, text)
lines <- c(
  sprintf("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 1280 %d\" role=\"img\" aria-label=\"%s\">",
          ground + 66, "The rooms of the core and of R, floor upon floor"),
  "<style>text{font-family:Helvetica,Arial,sans-serif;text-anchor:middle;fill:#1d2733}.name{font-size:13.5px;",
  "font-weight:bold}.game{font-size:11px;font-weight:bold}.holds{font-size:11.5px;",
  "fill:#4a5868}.title{font-size:16px;font-weight:bold}</style>",
  sprintf("<rect width=\"1280\" height=\"%d\" fill=\"#ffffff\"/>", ground + 66),
  label(310, "The core: C++17, headers only"), label(960, "R/: a file's room is its name before the first -"),
  floors(core_floors, 30, 570, ground, "#dbe8f4", "#f6e3c8", utils::modifyList(as.list(holds), as.list(holds_in_core))),
  floors(r_floors, 680, 570, ground, "#dcefe0", "#f6e3c8", holds),
  sprintf("<text x=\"640\" y=\"%d\" class=\"holds\">src/: bindings, by the same names; no rule of any game</text>",
          ground + 18),
  sprintf("<text x=\"640\" y=\"%d\" class=\"holds\">%s</text>", ground + 40,
          "A room calls those on its floor's left and below, never above; no game calls another (orange)."),
  "</svg>"
)
writeLines(lines, "docs/rooms.svg")
