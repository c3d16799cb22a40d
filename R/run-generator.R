# R's own generator for trials that call a user's R function: set from the trial's address at the
# trial's start, put back afterwards.

generator_kind <- 10407L

with_trial_generator <- function(seed, trial, lane, code) {
  with_generator_kept({
    set_generator(generator_seeds(seed, trial, lane))
    code
  })
}

with_generator_kept <- function(code) {
  global <- globalenv()
  old <- if (exists(".Random.seed", global, inherits = FALSE)) get(".Random.seed", global)
  on.exit(restore_generator(old))
  force(code)
}

set_generator <- function(seeds) assign(".Random.seed", seeds, envir = globalenv())

restore_generator <- function(old) {
  if (is.null(old)) return(rm(list = ".Random.seed", envir = globalenv()))
  assign(".Random.seed", old, envir = globalenv())
}

# What the generator is set to for trials, a column for each; of one trial a vector.
generator_seeds <- function(seed, trials, lane) drop(core_generator_seeds(seed, trials, lane, generator_kind))
