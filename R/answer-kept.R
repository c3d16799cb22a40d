# An experiment that holds code of one's own, known from a file: files bring back what was counted and the words of it,
# never code. Given again, it is held to what the file says of it.

new_kept <- function(plain) {
  new_experiment("habanera_kept", plain = plain[names(plain) != "words"], words = plain$words)
}

# `given` where it is that of which the file tells, `plain`; NULL: what is known without it.
experiment_as_kept <- function(plain, given) {
  if (is.null(given)) return(new_kept(plain))
  if (!inherits(given, "habanera_experiment")) {
    refuse(sprintf("`game` must be the game that was counted, not %s.", said(given)))
  }
  now <- from_json(to_json(as_plain(given)))
  then <- from_json(to_json(plain[names(plain) != "words"]))
  parts <- union(names(now), names(then))
  other <- parts[!vapply(parts, function(part) identical(now[[part]], then[[part]]), NA)]
  if (length(other)) {
    refuse(sprintf("`game` is not the one that was counted: its %s differ%s.", join_words(sprintf("`%s`", other)),
                   if (length(other) == 1) "s" else ""), "file", NULL)
  }
  given
}

#' @export
in_words.habanera_kept <- function(x, ...) x$words

#' @export
as_plain.habanera_kept <- function(experiment) experiment$plain

#' @export
result_kind.habanera_kept <- function(experiment) c("kept", "outcomes")

#' @export
adds_up.habanera_kept <- function(experiment, n, trials) TRUE

#' @export
experiment_code.habanera_kept <- function(experiment) list(r = NULL, shell = NULL)

#' @export
check_simulation.habanera_kept <- function(experiment, settings, call) refuse_kept(call)

#' @export
precision_terms.habanera_kept <- function(experiment) refuse_kept(NULL)

refuse_kept <- function(call) {
  refuse(paste("This was read from a file without the code that it is of: give it, as in read_result(file,",
               "game = ...), or make it again."), "file", call)
}
