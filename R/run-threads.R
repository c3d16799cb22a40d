# The number of threads: as given, by option, by environment, or all the machine has.
resolve_threads <- function(threads, call = rlang::caller_env()) {
  if (!is.null(threads)) return(check_whole(threads, 1, 1024, "threads", call))
  chosen <- getOption("habanera.threads")
  if (!is.null(chosen)) {
    return(check_whole(chosen, 1, 1024, "option habanera.threads", call))
  }
  text <- Sys.getenv("HABANERA_THREADS")
  if (!nzchar(text)) return(core_machine_threads())
  number <- written_numbers(text)
  check_whole(if (is.na(number)) text else number, 1, 1024, "HABANERA_THREADS", call)
}

# What f gives for each of x, worked out by processes side by side where the system can fork; of work that R itself
# divides.
over_cores <- function(x, threads, f) {
  if (threads < 2 || .Platform$OS.type != "unix") return(lapply(x, f))
  found <- parallel::mclapply(x, f, mc.cores = threads)
  failed <- Filter(function(one) inherits(one, "try-error"), found)
  if (length(failed)) stop(attr(failed[[1]], "condition"))
  found
}
