# The number of threads: as given, by option, by environment, or all the machine has.
resolve_threads <- function(threads, call = rlang::caller_env()) {
  if (!is.null(threads)) return(check_whole(threads, 1, 1024, "threads", call))
  chosen <- getOption("habanera.threads")
  if (!is.null(chosen)) {
    return(check_whole(chosen, 1, 1024, "option habanera.threads", call))
  }
  text <- Sys.getenv("HABANERA_THREADS")
  if (!nzchar(text)) return(core_machine_threads())
  number <- suppressWarnings(as.numeric(text))
  check_whole(if (is.na(number)) text else number, 1, 1024, "HABANERA_THREADS", call)
}
