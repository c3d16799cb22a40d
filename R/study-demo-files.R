# The data of the demo, which users may have alone: each file and what is in it.

demo_data_words <- c(
  orchard.csv = "the hall's deck: 44 cards of four suits, with points, season and cost",
  windfall.yaml = "a built deck of 48 cards for a season in the orchard, with copies and costs",
  `tablet-draws.txt` = "draws of three cards by the stall's tablet, cards numbered from 0",
  `volunteer-shuffles.csv` = "where each card lay after shuffles by the volunteers, one a line",
  `shuffle-right.py` = "a program that shuffles as it should", `shuffle-wrong.py` = "one that does not",
  `shuffle-right.pl` = "the first in another language", `tablet-shuffle.pl` = "how the tablet shuffles, wrongly",
  `quick-game.yaml` = "the rules of the children's quick game", `stuck-game.txt` = "a game of it that would not end",
  `prize-hands.txt` = "hands that guests held at the stall", `bakers-table.csv` = "how the baker plays at twenty-one",
  `level-one.yaml` = "what the younger twin counts", `twins-bets.csv` = "what the elder twin bets at which count",
  `bets-at-the-window.csv` = "bets and cards of rounds, shoe by shoe, at the window",
  `bets-by-the-door.csv` = "the same by the door", `takings-front.csv` = "what the front table took, night by night",
  `takings-back.csv` = "what the back table took", `stall.yaml` = "the rules of the prize stall",
  `table.yaml` = "the rules of the twenty-one table", `banker-table.yaml` = "the rules of the banker's table",
  `third-cards.csv` = "when the banker's table draws a third card",
  `machine.yaml` = "the rules of the machine in the corner", `machine-pays.csv` = "what it pays",
  `kept-by-the-baker.txt` = "what the baker keeps at it", queue.R = "a game of one's own, in R",
  `dealt-hands.csv` = "hands dealt at the front and the back table",
  ferryman.csv = "how the ferryman plays, by what he sees",
  harvest.yaml = "the rules of the harvest game, in which seats bet",
  `ferryman-bets.txt` = "how the ferryman bets at it", `table-wishes.yaml` = "what the hall wishes for its table",
  `quick-game-wishes.yaml` = "what it wishes for the quick game",
  `month.yaml` = "a study: what the hall asks each month, in one file"
)

demo_data <- names(demo_data_words)

#' The demo data
#'
#' Files of Lantern Hall, a made-up community hall: `orchard.csv`, its own 44-card deck;
#' `windfall.yaml`, a 48-card deck with copies and costs; `stall.txt`, a plain list;
#' `tablet-draws.txt`, 4,000 draws of three cards as the hall's score-keeping tablet made them (cards
#' numbered from 0 in the order of the orchard deck); `tablet-draw.awk`, a small program that draws as
#' the tablet does; `volunteer-shuffles.csv`, 600 shuffles of the orchard deck by volunteers, logged card by
#' card, with a habit in them; small programs that shuffle, `shuffle-right.py` and `shuffle-right.pl` rightly,
#' `shuffle-wrong.py` and `tablet-shuffle.pl` (as the tablet does) wrongly; `quick-game.yaml`, the rules of the
#' children's quick game as it is played, and `stuck-game.txt`, the piles of such a game that would not end;
#' `prize-hands.txt`, the hands that forty guests held at the hands table; `dealt-hands.csv`, 3,000 hands as they were
#' written down at two tables, at one of which they were not dealt fairly; `bakers-table.csv`, how the baker plays at
#' the twenty-one table, `level-one.yaml`, what one of the twins counts there, and `twins-bets.csv`, what he bets at
#' which count; `bets-at-the-window.csv` and `bets-by-the-door.csv`, what two guests bet there on an afternoon, with the
#' cards seen; `takings-front.csv` and `takings-back.csv`, what two such tables took in forty nights; `stall.yaml`,
#' `table.yaml`, `banker-table.yaml` (with `third-cards.csv`) and `machine.yaml` (with `machine-pays.csv`), the tables
#' of the hall as [edge_table()] reads them, and `kept-by-the-baker.txt`, what the baker keeps at the machine;
#' `queue.R`, a game of the hall's own; `ferryman.csv`, how the ferryman plays at lanterns, `harvest.yaml`, the rules of
#' a betting game on the orchard deck, and `ferryman-bets.txt`, how he bets there; `month.yaml`, a study that asks much
#' of this each month; and a file with a fault of each kind,
#' `dirty-*`.
#'
#' @param file Name of a file; `NULL` lists them all.
#' @return The path of the file, or the names of all.
#' @section Errors: `habanera_error_input` for a name that is none of them.
#' @examples
#' demo_file()
#' deck_from(demo_file("orchard.csv"))
#' @export
demo_file <- function(file = NULL) {
  folder <- system.file("lantern-hall", package = "habanera")
  if (is.null(file)) return(list.files(folder))
  check_choice(file, list.files(folder))
  file.path(folder, file)
}

# Copies the data into a folder, and says what each file is. What lies there already is left as it is.
copy_demo_data <- function(folder, call = rlang::caller_env()) {
  make_folder(folder, call, "files")
  there <- file.exists(file.path(folder, demo_data))
  copied <- file.copy(vapply(demo_data[!there], demo_file, ""), folder)
  if (!all(copied)) refuse(sprintf("Cannot write into the folder %s.", quoted(folder)), "file", call)
  c(sprintf("The data of the demo lie in %s; commands with them work there:", quoted(folder)),
    sprintf("  %s  %s", format(demo_data), demo_data_words),
    if (any(there)) sprintf("%s lay there already, and %s left as it was.", count_of(sum(there), "file"),
                            if (sum(there) == 1) "is" else "each is"))
}

make_folder <- function(folder, call, name = "out") {
  check_path(folder, call, name)
  if (!dir.exists(folder) && !suppressWarnings(dir.create(folder, recursive = TRUE))) {
    refuse(sprintf("Cannot make the folder %s.", quoted(folder)), "file", call)
  }
}
