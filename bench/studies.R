# What a study adds to the calls that it makes, what parts cost, and how fast a thousand of them are added up.

study_lines <- function(runs) c("title: Bench", "seed: 1", "games: {quick: {game: war}}", "runs:", runs)
in_new_folder <- function(lines) {
  folder <- tempfile("study-")
  dir.create(folder)
  file <- file.path(folder, "bench.yaml")
  writeLines(lines, file)
  file
}
elapsed <- function(code) system.time(code)[["elapsed"]]

# Twenty runs that are done in no time, beside the same calls.
small_runs <- sprintf("  run %d: {simulate: {object: {draws: {deck: numbered %d, size: 2}}, nsim: 100}}", 1:20, 11:30)
small_calls <- function() for (n in 11:30) simulate(draws(deck_numbered(n), 2), nsim = 100, seed = 1)
study_entry <- vapply(1:3, function(i) {
  file <- in_new_folder(study_lines(small_runs))
  with_study <- elapsed(run_study(file))
  again <- elapsed(run_study(file))
  c(entry = (with_study - elapsed(small_calls())) / 20, again = again / 20)
}, numeric(2))

# One run of some seconds, beside the same call; and its four parts, two processes at a time.
one_run <- "  long: {simulate: {object: quick, nsim: 2000000}}"
study_long <- vapply(1:3, function(i) {
  call <- elapsed(simulate(game_war(), nsim = 2e6, seed = 1))
  file <- in_new_folder(study_lines(one_run))
  whole <- elapsed(run_study(file))
  parted <- in_new_folder(study_lines(one_run))
  command <- sprintf("habanera study run %s --part $k/4 --threads 1 --quiet >/dev/null", shQuote(parted))
  halves <- elapsed({
    system(sprintf("for at in 1 3; do for k in $at $((at + 1)); do %s & done; wait; done", command))
    run_study(parted)
  })
  c(call = call, whole = whole, parts = halves)
}, numeric(3))

# A thousand parts, whose merging is all that is timed.
thousand <- in_new_folder(study_lines("  all: {simulate: {object: quick, nsim: 100000}}"))
thousand_folder <- tempfile("parts-")
for (k in 1:1000) run_study(thousand, thousand_folder, part = sprintf("%d/1000", k))
study_merge <- elapsed(merge_studies(thousand_folder, tempfile("merged-")))

markdown(data.frame(
  study = c("what it adds to an entry, ms", "an entry that is kept already, ms", "what it adds to a long call",
            "four parts on two processes over one call", "merging 1,000 parts, s"),
  measured = c(sprintf("%.0f", 1000 * stats::median(study_entry["entry", ])),
               sprintf("%.0f", 1000 * stats::median(study_entry["again", ])),
               sprintf("%.1f%%", 100 * (stats::median(study_long["whole", ] / study_long["call", ]) - 1)),
               sprintf("%.2f", stats::median(study_long["parts", ] / study_long["call", ])),
               sprintf("%.1f", study_merge)), check.names = FALSE
))
