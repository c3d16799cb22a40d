# `--precision` is about the outcome column named here.
simulate_for_shell <- function(experiment, options, precise) {
  precision <- option_number(options, "precision")
  tryCatch(
    simulate(experiment, option_number(options, "trials"), option_number(options, "seed"),
             threads = option_number(options, "threads"),
             precision = if (!is.null(precision)) rlang::set_names(precision, precise),
             checkpoint = options$checkpoint, anew = options$anew),
    # What was counted is shown all the same.
    habanera_error_file = function(cnd) {
      if (is.null(cnd$counts)) rlang::cnd_signal(cnd)
      warn_user(paste("habanera:", cnd$message), "unwritten")
      cnd$counts
    }
  )
}
