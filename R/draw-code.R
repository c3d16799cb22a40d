# The code that gives draws back.

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

recorded_code <- function(file, deck, size, replace, numbering, notation, columns) {
  numbers <- numbering_code(numbering)
  settings <- c(as_code(file), paste("deck =", deck_code(deck)), if (!is.null(size)) paste("size =", as_code(size)),
                if (replace) "replace = TRUE", numbers$r,
                if (!is.null(notation)) paste("notation =", as_code(notation)),
                if (!is.null(columns)) paste("columns =", as_code(columns)))
  shell <- deck_option(deck)
  list(
    r = sprintf("x <- draws_recorded(%s)", paste(settings, collapse = ", ")),
    shell = if (!is.null(shell)) {
      paste0("habanera draws --file ", shell_word(file), shell, if (replace) " --replace",
             if (!is.null(size)) paste0(" --size ", whole_code(size)), numbers$shell,
             if (!is.null(notation)) paste0(" --notation ", notation),
             if (!is.null(columns)) paste0(" --columns ", shell_word(paste(columns, collapse = ","))))
    }
  )
}

draw_settings <- function(experiment) {
  shuffle <- shuffle_setting(experiment$shuffle)
  list(r = c(format(experiment$size), if (experiment$replace) "replace = TRUE", shuffle$r),
       shell = paste0(" --size ", format(experiment$size), if (experiment$replace) " --replace",
                      shuffle$shell))
}
