# Speed as ratios: each job through simulate(), with all that comes with it, beside plain R and beside a bare C++ loop
# that plays the same deals (bench/bare.cpp), in one process, round by round; then what a second thread costs, cost and
# memory by trials, and jobs that are done once.
#
#   make bench            all jobs, 3 rounds: seven to eight minutes
#   ROUNDS=9 make bench
#   JOBS=own make bench   the jobs with this in their names, and no others
library(habanera)
source("bench/jobs.R")
source("bench/measure.R")
options(habanera.progress = FALSE)

rounds <- as.integer(Sys.getenv("ROUNDS", "3"))
only <- Sys.getenv("JOBS")
chosen <- Filter(function(job) grepl(only, job$name), jobs)

for (job in chosen) check_tallies(job)
cat(sprintf("All counts of %d jobs are those of the bare loops, deal for deal.\n\n", length(chosen)))

# Nanoseconds of processor time per trial of one round.
one_round <- function(job) {
  c(plain = if (job$plain_trials > 0) processor_seconds(job$plain(job$plain_trials)) / job$plain_trials else NA,
    bare = bare_seconds(job, 1) / job$bare_trials, ours = ours_seconds(job, 1) / job$trials) * 1e9
}
measure <- function(job) {
  times <- as.data.frame(t(replicate(rounds, one_round(job))))
  data.frame(job = job$name, `ns a trial` = format(round(median(times$ours)), big.mark = ",", scientific = FALSE),
             `ns, bare` = format(round(median(times$bare)), big.mark = ",", scientific = FALSE),
             `times the bare loop` = format(round(median(times$ours / times$bare), 2)),
             `times faster than plain R` = if (job$plain_trials > 0) {
               format(signif(median(times$plain / times$ours), 2), big.mark = ",")
             } else "",
             check.names = FALSE)
}
cat(sprintf("Medians of %d rounds, one thread.\n\n", rounds))
markdown(do.call(rbind, lapply(chosen, measure)))

# Ten processes, each with all jobs that threads share out. Games in R are played by one thread.
threaded <- Filter(function(job) job$trials >= 1e4 && !grepl("in R", job$name), chosen)
if (length(threaded)) {
  names <- vapply(threaded, `[[`, "", "name")
  processes <- lapply(seq_len(10), function(i) {
    lines <- system2("Rscript", c("bench/threads.R", shQuote(names)), stdout = TRUE)
    utils::read.delim(text = lines, header = FALSE, col.names = c("job", "ours", "bare"))
  })
  all <- do.call(rbind, processes)
  rows <- lapply(names, function(name) {
    mine <- all[all$job == name, ]
    data.frame(`processor time, two threads over one, ten processes` = name,
               median = sprintf("%.2f", median(mine$ours)), largest = sprintf("%.2f", max(mine$ours)),
               `median, bare` = sprintf("%.2f", median(mine$bare)), check.names = FALSE)
  })
  cat("\n")
  markdown(do.call(rbind, rows))
}

if (nzchar(only)) quit()
memory <- function() as.numeric(gsub("[^0-9]", "", grep("VmHWM", readLines("/proc/self/status"), value = TRUE))) / 1024
cost_of <- function(trials) {
  seconds <- processor_seconds(simulate(draws(deck_standard(), 5), nsim = trials, seed = 1, threads = 1))
  data.frame(`draw 5 of 52, trials` = format(trials, big.mark = ",", scientific = FALSE),
             `ns a trial, one thread` = sprintf("%.1f", 1e9 * seconds / trials),
             `most memory so far, MB` = sprintf("%.0f", memory()), check.names = FALSE)
}
cat("\n")
markdown(do.call(rbind, lapply(10^(5:9), cost_of)))
source("bench/once.R")
# What is done in a moment is done three times.
seconds_of <- function(job) {
  first <- processor_seconds(job())
  if (first > 1) first else median(c(first, processor_seconds(job()), processor_seconds(job())))
}
cat("\n")
markdown(data.frame(`job, once` = names(single_jobs),
                    `seconds of processor time` = sprintf("%.3f", vapply(single_jobs, seconds_of, 0)),
                    check.names = FALSE))
source("bench/sound.R")
source("bench/races.R")
cat("\n")
races <- do.call(rbind, lapply(names(race_jobs), race_row))
markdown(data.frame(`tune_rules()` = races$race, `trials played` = format(races$trials, big.mark = ","),
                    `of the whole grid's` = format(races$whole_grid, big.mark = ","),
                    share = sprintf("1/%.1f", 1 / races$share), check.names = FALSE))
cat("\n")
source("bench/studies.R")
