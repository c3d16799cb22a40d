# Interrupts where several runs make one answer. A single run that is interrupted gives back what it counted, with a
# warning; a run among others is of no use then.

in_whole_runs <- function(code) {
  withCallingHandlers(code, habanera_warning_interrupted = function(cnd) rlang::interrupt())
}

# As lapply(), but an interrupt ends it and what was done by then comes back, with a warning and, in the attribute
# `part`, "5 of 33 rules". `bar` is that of the function that asks; see local_progress().
lapply_until_interrupted <- function(x, f, noun, bar) {
  force(x)
  done <- list()
  tryCatch(for (one in x) {
    done <- c(done, list(in_whole_runs(f(one))))
    bar$move(length(done))
  }, interrupt = function(cnd) NULL)
  if (!length(done) && length(x)) rlang::interrupt()
  if (length(done) == length(x)) return(done)
  part <- sprintf("%s of %s", format_count(length(done)), count_of(length(x), noun))
  warn_user(sprintf("Interrupted: these are %s.", part), "interrupted")
  structure(done, part = part)
}
