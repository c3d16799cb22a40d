# What a second thread costs: processor time of two threads over that of one for the same trials, ours and the bare
# loop's. Run by bench.R in processes of their own, since memory lies differently in each.
library(habanera)
source("bench/jobs.R")
source("bench/measure.R")
chosen <- Filter(function(job) job$name %in% commandArgs(TRUE), jobs)
for (job in chosen) {
  bare_seconds(job, 1)
  ours_seconds(job, 2)
  cat(sprintf("%s\t%f\t%f\n", job$name, ours_seconds(job, 2) / ours_seconds(job, 1),
              bare_seconds(job, 2) / bare_seconds(job, 1)))
}
