# A procedure is a list of steps; a step has a name, parameters, how often it is made, and the seconds
# that one takes.

new_procedure <- function(steps) structure(list(steps = steps), class = "habanera_procedure")

# A procedure of one step, checked.
one_step <- function(name, times = 1, seconds = NULL, ..., call = rlang::caller_env()) {
  kind <- step_kinds[[name]]
  given <- list(...)
  parameters <- Map(function(parameter, name) parameter$check(given[[name]], name, call),
                    kind$parameters, names(kind$parameters))
  check_whole(times, 0, 1e6, "times", call)
  if (!is.null(seconds)) check_seconds(seconds, call)
  new_procedure(list(list(name = name, times = as.double(times), parameters = parameters,
                          seconds = if (is.null(seconds)) kind$seconds else as.double(seconds))))
}

check_seconds <- function(seconds, call) {
  if (is.numeric(seconds) && length(seconds) == 1 && is.finite(seconds) && seconds >= 0) return(seconds)
  refuse(sprintf("`seconds` must be a number of 0 or more, not %s.", said(seconds)), call = call)
}

check_procedure <- function(x, name = rlang::caller_arg(x), call = rlang::caller_env()) {
  if (inherits(x, "habanera_procedure")) return(x)
  refuse(sprintf("`%s` must be a shuffling procedure, such as shuffle_uniform(), not %s.", name,
                 said(x)), call = call)
}

#' @export
c.habanera_procedure <- function(...) {
  parts <- list(...)
  lapply(parts, check_procedure, name = "...", call = rlang::current_env())
  new_procedure(do.call(c, lapply(parts, `[[`, "steps")))
}

#' @export
rep.habanera_procedure <- function(x, times = 1, ...) {
  check_whole(times, 0, 1e6)
  if (length(x$steps) == 1) {
    x$steps[[1]]$times <- x$steps[[1]]$times * times
    return(x)
  }
  new_procedure(rep(x$steps, times))
}

# For the core: every step with its numbers, repeated as often as it is made.
core_steps <- function(procedure, repeated = TRUE) {
  steps <- lapply(procedure$steps, function(step) {
    codes <- Map(function(parameter, value) parameter$code(value), step_kinds[[step$name]]$parameters,
                 step$parameters)
    list(name = step$name, values = as.double(unlist(codes)))
  })
  if (repeated) rep(steps, step_times(procedure)) else steps
}

step_times <- function(procedure) vapply(procedure$steps, `[[`, 0, "times")

is_uniform <- function(procedure) {
  identical(vapply(procedure$steps, `[[`, "", "name"), "uniform") && step_times(procedure) > 0
}

#' @export
format.habanera_procedure <- function(x, ...) {
  if (!length(x$steps)) return("none")
  paste(vapply(x$steps, step_text, ""), collapse = ", ")
}

# "riffle x4 clump=0.1": the name, how often, and what is not as usual.
step_text <- function(step) {
  kind <- step_kinds[[step$name]]
  unusual <- Filter(function(name) !identical(step$parameters[[name]], kind$parameters[[name]]$default),
                    names(kind$parameters))
  settings <- vapply(unusual, function(name) paste0(name, "=", format(step$parameters[[name]], digits = 15)), "")
  paste(c(step$name, if (step$times != 1) sprintf("x%s", format(step$times)), settings,
          if (step$seconds != kind$seconds) paste0("seconds=", format(step$seconds, digits = 15))),
        collapse = " ")
}

procedure_in_words <- function(x) {
  words <- vapply(x$steps, function(step) {
    kind <- step_kinds[[step$name]]
    if (step$times == 1) kind$one else paste(format_count(step$times), kind$many)
  }, "")
  if (length(words)) join_words(words) else "no shuffle"
}

seconds_by_hand <- function(x) sum(vapply(x$steps, function(step) step$times * step$seconds, 0))

#' @export
print.habanera_procedure <- function(x, ...) {
  cat("<procedure> ", format(x), "\n", sep = "")
  seconds <- seconds_by_hand(x)
  cat(sentence(procedure_in_words(x)), if (seconds > 0) sprintf(": about %s s by hand", format(seconds)),
      ".\n", sep = "")
  for (step in unique(lapply(x$steps, `[[`, "name"))) {
    cat(sprintf("  %s: %s\n", step, step_kinds[[step]]$does))
  }
  invisible(x)
}
