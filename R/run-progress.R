# Progress of what takes long: a bar on standard error, which cli shows after two seconds. Only one is shown: work that
# is a part of other work moves the other's. The core lets it turn between two parts of its work.

# A bar for the function that calls, until it ends. `move(done)` says how far it is, and of a bar that `tells` more than
# that what, in words; `alone`: whether it is no part of other work.
local_progress <- function(what, progress = NULL, total = NA, tells = FALSE, frame = rlang::caller_env()) {
  wanted <- wants_progress(progress, frame)
  alone <- is.null(shown_bar())
  if (!wanted || !alone) {
    rlang::local_options(habanera.progress = wanted, .frame = frame)
    return(list(move = function(done, words) invisible(), alone = alone, wanted = wanted))
  }
  # Where nobody knows how much there is to do, how long it has been at it.
  format <- if (is.na(total)) paste0("{cli::pb_spin} ", what, " {cli::pb_status}({cli::pb_elapsed})") else if (tells) {
    paste0(what, " {cli::pb_bar} {cli::pb_status}| {cli::pb_elapsed}")
  }
  bar <- cli::cli_progress_bar(what, total = total, format = format, .envir = frame)
  rlang::local_options(habanera.progress = TRUE, habanera.bar = bar, .frame = frame)
  move <- function(done, words = NULL) cli::cli_progress_update(set = done, status = words, id = bar)
  list(move = move, alone = TRUE, wanted = TRUE)
}

# As asked for; else as the option says, or where somebody sits.
wants_progress <- function(progress, call) {
  if (!is.null(progress)) return(check_flag(progress, "progress", call))
  isTRUE(getOption("habanera.progress", interactive()))
}

shown_bar <- function() getOption("habanera.bar")

# Called by the core, a few times a second while it works.
show_that_it_goes_on <- function() {
  if (!is.null(shown_bar())) cli::cli_progress_update(inc = 0, id = shown_bar())
}

# How far sound play is from what was wanted, while it is looked for.
show_gap <- function(gap, wanted) {
  if (is.null(shown_bar())) return(invisible())
  cli::cli_progress_update(inc = 0, status = sprintf("the gap is %s, wanted %s ", format_number(gap, 3),
                                                     format_number(wanted, 3)), id = shown_bar())
}
