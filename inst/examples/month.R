# Many questions in one file: answered, kept, changed, divided among processes, and told on one page.
library(habanera)

folder <- tempfile("hall-")
dir.create(folder)
file.copy(vapply(demo_file(), demo_file, ""), folder)
file <- file.path(folder, "small.yaml")
writeLines(c("title: A small month", "seed: 44",
             "decks: {orchard: orchard.csv}",
             "draws:", "  stall: {deck: orchard, size: 3, alike: largest_group(suit)}",
             "games: {quick: quick-game.yaml, our table: table.yaml}",
             "runs:", "  what it gives: {exact: stall}",
             "  what it pays: {payout: {x: what it gives, pays: {\"3\": 8, \"2\": 1}}}",
             "  how long: {simulate: {object: quick, nsim: 4000}}",
             "  what is kept: {house_edge: our table}",
             "expect:", "  what it pays: house_edge > 0"), file)
print(read_study(file))
print(run_study(file))

# What is changed is what is run: more games are added to those there, and another rule is another answer.
lines <- sub("nsim: 4000", "nsim: 6000", sub("our table: table.yaml", "our table: {game: blackjack, packs: 1}",
                                             readLines(file)))
writeLines(lines, file)
found <- run_study(file)
print(found)
print(head(study_results(file.path(folder, "small-results"))))
report(found, file.path(folder, "small.html"))

# In parts, as many machines would do it: each has a folder, and all are added up.
for (part in c("2/3", "1/3", "3/3")) run_study(file, file.path(folder, gsub("/", "-of-", part)), part = part)
merge_studies(file.path(folder, c("1-of-3", "2-of-3", "3-of-3")), file.path(folder, "all"))
again <- run_study(file, file.path(folder, "all"))
stopifnot(identical(again$values, found$values))
writeLines(study_code(file))
