# The code that gives a question back.

#' @export
experiment_code.habanera_question <- function(experiment) {
  asked <- vapply(experiment$columns, expression_text, "")
  shell <- if (!length(experiment$stages) && experiment$turns == 0) deck_option(experiment$whole)
  shuffle <- shuffle_setting(experiment$shuffle)
  settings <- c(
    deck_code(experiment$whole), whole_code(experiment$size + length(experiment$held)), paste(names(asked), "=", asked),
    if (experiment$replace) "replace = TRUE", shuffle$r, cards_setting("held", experiment$held),
    cards_setting("dead", experiment$dead)
  )
  list(
    r = paste(c(sprintf("draws(%s)", paste(settings, collapse = ", ")), stages_code(experiment)), collapse = " |>\n  "),
    shell = if (!is.null(shell)) {
      paste0("habanera draws", shell, " --size ", whole_code(experiment$size + length(experiment$held)), " --ask ",
             shQuote(paste(names(asked), "=", asked, collapse = ", ")), if (experiment$replace) " --replace",
             shuffle$shell, cards_option("held", experiment$held), cards_option("dead", experiment$dead))
    }
  )
}

cards_setting <- function(name, cards) {
  if (length(cards)) sprintf("%s = %s", name, as_code(paste(as.character(cards), collapse = ", ")))
}

cards_option <- function(name, cards) {
  if (length(cards)) sprintf(" --%s %s", name, shell_word(paste(as.character(cards), collapse = ", ")))
}

stages_code <- function(x) {
  c(vapply(x$stages, stage_code, ""),
    if (x$turns > 0) sprintf("draw_more(size = %s, times = %s)", whole_code(x$turn_size), whole_code(x$turns)))
}

stage_code <- function(stage) {
  if (stage$stage == "exchange") {
    ways <- vapply(stage$ways, format, "")
    keep <- if (!is.null(stage$code)) paste(stage$code, collapse = "\n") else if (length(ways) == 1) ways else {
      sprintf("list(%s)", paste(ways, collapse = ", "))
    }
    times <- if (stage$times > 1) sprintf(", times = %s", whole_code(stage$times)) else ""
    return(sprintf("exchange_cards(%s%s)", keep, times))
  }
  settings <- c(expression_text(stage$condition), sprintf("size = %s", as_code(stage$sizes)),
                sprintf("times = %d", length(stage$sizes)), sprintf("put_back = %s", as_code(stage$put_back)),
                if (!is.null(stage$under)) sprintf("under = %s", expression_text(stage$under)))
  sprintf("redraw_if(%s)", paste(settings, collapse = ", "))
}

#' @export
experiment_code.habanera_until <- function(experiment) {
  shell <- deck_option(experiment$deck)
  shuffle <- shuffle_setting(experiment$shuffle)
  limited <- experiment$most < length(experiment$deck)
  condition <- expression_text(experiment$condition)
  list(
    r = sprintf("draw_until(%s)", paste(c(deck_code(experiment$deck), condition, if (limited) {
      sprintf("by_at_most = %s", whole_code(experiment$most))
    }, shuffle$r), collapse = ", ")),
    shell = if (!is.null(shell)) {
      paste0("habanera until ", shQuote(condition), shell,
             if (limited) paste(" --by-at-most", whole_code(experiment$most)), shuffle$shell)
    }
  )
}
