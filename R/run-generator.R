# R's own generator for trials that call a user's R function: set from the trial's address at the
# trial's start, put back afterwards.

# The moduli of L'Ecuyer's (1999) combined multiple recursive generator, "MRG32k3a"; R takes three
# seeds below the first and three below the second.
generator_moduli <- rep(c(4294967087, 4294944443), each = 3)
generator_kind <- 10407L

with_trial_generator <- function(seed, trial, lane, code) {
  global <- globalenv()
  old <- if (exists(".Random.seed", global, inherits = FALSE)) get(".Random.seed", global)
  on.exit(restore_generator(old))
  assign(".Random.seed", c(generator_kind, trial_generator_seed(seed, trial, lane)), envir = global)
  force(code)
}

restore_generator <- function(old) {
  if (is.null(old)) return(rm(list = ".Random.seed", envir = globalenv()))
  assign(".Random.seed", old, envir = globalenv())
}

trial_generator_seed <- function(seed, trial, lane) {
  halves <- as.vector(t(core_address_words(seed, trial, lane, 3L)))
  value <- 1 + halves %% (generator_moduli - 1)
  value <- ifelse(value == 2^31, value + 1, value)  # its bits would be R's NA
  as.integer(ifelse(value > 2^31, value - 2^32, value))
}
