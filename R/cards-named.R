# A deck as the shell and files name it: a file (or "-"), or words such as "standard packs=2 jokers=1". The
# opposite of deck_shell_name().
deck_from_words <- function(text, kind = "input", call = rlang::caller_env()) {
  if (text == "-" || file.exists(text)) return(deck_from(text))
  words <- strsplit(trimws(text), "[[:space:]]+")[[1]]
  if (identical(words[1], "standard")) return(do.call(deck_standard, deck_settings(words[-1], kind, call)))
  if (identical(words[1], "numbered") && length(words) == 2) {
    return(deck_numbered(suppressWarnings(as.numeric(words[2]))))
  }
  refuse(sprintf(paste("%s is no deck: there is no such file, and decks in words are like \"standard",
                       "packs=2 jokers=1\" or \"numbered 44\"."), quoted(text)), kind, call)
}

deck_settings <- function(words, kind, call) {
  known <- c("packs", "jokers", "ranks", "suits", "arranged")
  keys <- sub("=.*$", "", words)
  bad <- which(!grepl("=", words) | !keys %in% known)
  if (length(bad)) {
    refuse(sprintf("A standard deck has the settings %s, as in \"standard packs=2\"; not %s%s",
                   join_words(known), quoted(words[bad[1]]), did_you_mean(keys[bad[1]], known)),
           kind, call)
  }
  values <- strsplit(sub("^[^=]*=", "", words), ",")
  values <- lapply(values, function(value) {
    number <- suppressWarnings(as.numeric(value))
    if (length(value) == 1 && !is.na(number)) number else value
  })
  settings <- rlang::set_names(values, keys)
  settings$ranks <- if (!is.null(settings$ranks)) as.character(settings$ranks)
  settings
}
