# The R code and the shell command that give a result back: a list of `r` and `shell`, either of
# which may be NULL when there is none.

code_of <- function(x) {
  from <- x$provenance
  if (!is.null(from$made_by)) return(from$made_by)
  if (!from$source %in% "simulation" && is.null(from$seed)) return(list(r = NULL, shell = NULL))
  code <- experiment_code(from$experiment)
  count <- trial_count(x)
  first <- from$trials$first[1]
  settings <- c(sprintf("nsim = %s", whole_code(count)), sprintf("seed = %s", whole_code(from$seed)),
                if (first != 1) sprintf("first_trial = %s", whole_code(first)))
  list(
    r = sprintf("x <- simulate(%s, %s)", code$r, paste(settings, collapse = ", ")),
    shell = if (!is.null(code$shell) && first == 1) {
      sprintf("%s --trials %s --seed %s", code$shell, whole_code(count), whole_code(from$seed))
    }
  )
}

experiment_code <- function(experiment) UseMethod("experiment_code")

#' @export
experiment_code.habanera_draws <- function(experiment) {
  settings <- draw_settings(experiment)
  shell <- deck_option(experiment$deck)
  list(
    r = sprintf("draws(%s)", paste(c(deck_code(experiment$deck), settings$r), collapse = ", ")),
    shell = if (!is.null(shell)) paste0("habanera draws", shell, settings$shell)
  )
}

#' @export
experiment_code.habanera_positions <- function(experiment) {
  shell <- deck_option(experiment$deck)
  shuffle <- shuffle_setting(experiment$shuffle)
  list(r = sprintf("positions(%s)", paste(c(deck_code(experiment$deck), shuffle$r), collapse = ", ")),
       shell = if (!is.null(shell)) paste0("habanera draws --positions", shell, shuffle$shell))
}

#' @export
experiment_code.habanera_draws_with <- function(experiment) {
  settings <- c(paste(experiment$code, collapse = "\n"),
                paste("deck =", deck_code(experiment$deck)),
                paste("size =", format(experiment$size)),
                if (experiment$replace) "replace = TRUE", numbering_code(experiment$numbering)$r)
  list(r = sprintf("draws_with(%s)", paste(settings, collapse = ", ")), shell = NULL)
}

#' @export
experiment_code.habanera_draws_program <- function(experiment) {
  settings <- draw_settings(experiment)
  numbering <- numbering_code(experiment$numbering)
  shell <- deck_option(experiment$deck)
  list(
    r = sprintf("draws_program(%s)",
                paste(c(as_code(experiment$command), paste("deck =", deck_code(experiment$deck)),
                        paste("size =", settings$r), numbering$r), collapse = ", ")),
    shell = if (!is.null(shell)) {
      paste0("habanera draws --program ", shQuote(experiment$command), shell, settings$shell,
             numbering$shell)
    }
  )
}

recorded_code <- function(file, deck, replace, numbering) {
  numbers <- numbering_code(numbering)
  settings <- c(as_code(file), paste("deck =", deck_code(deck)), if (replace) "replace = TRUE",
                numbers$r)
  shell <- deck_option(deck)
  list(
    r = sprintf("x <- draws_recorded(%s)", paste(settings, collapse = ", ")),
    shell = if (!is.null(shell)) {
      paste0("habanera draws --file ", shell_word(file), shell, if (replace) " --replace",
             numbers$shell)
    }
  )
}

draw_settings <- function(experiment) {
  shuffle <- shuffle_setting(experiment$shuffle)
  list(r = c(format(experiment$size), if (experiment$replace) "replace = TRUE", shuffle$r),
       shell = paste0(" --size ", format(experiment$size), if (experiment$replace) " --replace",
                      shuffle$shell))
}

# Nothing for a uniform shuffle, which is what is meant when none is named.
shuffle_setting <- function(shuffle) {
  if (is.null(shuffle) || is_uniform(shuffle)) return(list(r = NULL, shell = NULL))
  list(r = sprintf("shuffle = procedure(%s)", as_code(format(shuffle))),
       shell = paste(" --shuffle", shQuote(format(shuffle))))
}

numbering_code <- function(numbering) {
  if (is.null(numbering)) return(list(r = NULL, shell = NULL))
  only_first <- identical(names(numbering), "first")
  list(r = paste("numbering =", as_code(as.list(numbering))),
       shell = if (only_first) paste(" --first-number", format(numbering$first)))
}

# " --deck NAME", nothing for the standard deck, NULL for a deck that the shell cannot name.
deck_option <- function(deck) {
  if (is_sampling(deck)) return(sampling_option(deck))
  name <- deck_shell_name(deck)
  if (is.null(name)) return(NULL)
  if (name == "standard") "" else paste(" --deck", shell_word(name))
}

# Weights and copies kind by kind have no words in the shell.
sampling_option <- function(x) {
  from <- deck_option(x$from)
  if (is.null(from) || is_weighted(x) || length(unique(x$max_copies)) > 1) return(NULL)
  paste0(from, " --sampled-anew ", whole_code(x$size),
         if (x$max_copies[1] < x$size) paste(" --max-copies", whole_code(x$max_copies[1])))
}

shell_word <- function(x) if (grepl("^[A-Za-z0-9_./-]+$", x)) x else shQuote(x)
