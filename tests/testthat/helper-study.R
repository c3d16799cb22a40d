# A study in a file of its own, in a folder of its own; `lines` follow its title and seed.
study_file <- function(lines, title = "A trial", seed = 44, folder = tempfile("study-")) {
  dir.create(folder, showWarnings = FALSE)
  file <- file.path(folder, "small.yaml")
  writeLines(c(sprintf("title: %s", title), sprintf("seed: %s", seed), lines), file)
  file
}

# What decides a folder's results: the files and their bytes, without who made them when.
folder_bytes <- function(folder) {
  files <- c(sort(list.files(file.path(folder, "runs"), full.names = TRUE)), file.path(folder, "answers"))
  rlang::set_names(lapply(files, function(file) readBin(file, "raw", file.size(file))), basename(files))
}

# Four kinds of tallies that can be cut, two runs that cannot, and one that needs two others.
mixed_study <- c(
  "decks: {nine: numbered 9}",
  "draws:", "  hands: {deck: nine, size: 3, high: \"count(rank > 5)\"}",
  "games:", "  quick: {game: war, cards_each: 4}", "  long: {game: war, cards_each: 6, record: [winner, rounds]}",
  "runs:",
  "  asked: {simulate: {object: hands, nsim: 4000}}",
  "  drawn: {simulate: {object: {draws: {deck: nine, size: 2}}, nsim: 3001}}",
  "  played: {simulate: {object: quick, nsim: 5000}}",
  "  rounds: {simulate: {object: long, nsim: 2500, first_trial: 101}}",
  "  law: {exact: hands}",
  "  shuffled: {audit: {procedure: riffle x2, deck: nine, nsim: 500}}",
  "  beside: {compare: {x: asked, y: law}}"
)
