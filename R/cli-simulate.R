# `--precision` is about the outcome column named here.
simulate_for_shell <- function(experiment, options, precise) {
  precision <- option_number(options, "precision")
  simulate(experiment, option_number(options, "trials"), option_number(options, "seed"),
           threads = option_number(options, "threads"),
           precision = if (!is.null(precision)) rlang::set_names(precision, precise),
           checkpoint = options$checkpoint, anew = options$anew, progress = isatty(stderr()) && !options$quiet)
}
