# The R code and the shell command that give a result back: a list of `r` and `shell`, either of
# which may be NULL when there is none.

code_of <- function(x) {
  from <- x$provenance
  if (!is.null(from$made_by)) return(from$made_by)
  if (!from$source %in% "simulation" && is.null(from$seed)) return(list(r = NULL, shell = NULL))
  code <- experiment_code(from$experiment)
  if (is.null(code$r)) return(code)
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

#' @export
value_code.habanera_experiment <- function(x) experiment_code(x)$r
