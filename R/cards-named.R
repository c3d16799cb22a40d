# Decks as R, the shell and files name them: a catalogue, a file (or "-"), or words such as "standard packs=2 jokers=1".
# The opposite of deck_shell_name().

#' @rdname deck_standard
#' @param catalogue A data frame with a column `card` (text, each once), optionally `copies` (whole
#'   numbers, default 1) and any attributes; or a vector of cards, each as often as it stands there; or the path of a
#'   CSV, JSON or YAML file that holds one; or of any other text file, read as a plain list of lines `3 name` (`#`
#'   starts a comment); or a deck in words, such as `"standard packs=2 jokers=1"` or `"numbered 44"`.
#' @export
deck_from <- function(catalogue) {
  check_given()
  call <- rlang::current_env()
  if (is_deck_words(catalogue)) return(deck_by_words(catalogue, call))
  if (is.character(catalogue) && length(catalogue) > 1) return(deck_of_names(catalogue, call))
  listed <- read_listing(catalogue, call)
  new_cards(rep(seq_along(listed$copies), times = listed$copies), listed$catalogue)
}

# Cards as typed, in their order, a card as often as it stands there: standard ones, or names of one's own.
deck_of_names <- function(names, call) {
  names <- trimws(names)
  bad <- which(is.na(names) | !nzchar(names))
  if (length(bad)) refuse(sprintf("`catalogue` has no name at position %s.", format_count(bad[1])), "catalogue", call)
  codes <- coded_pieces(names, standard_catalogue)$codes
  if (!anyNA(codes)) return(new_cards(codes))
  kinds <- unique(names)
  code <- sprintf("deck_from(%s)", as_code(names))
  listed <- new_listing(data.frame(card = kinds), "The vector", "cards of your own", code, call)
  new_cards(match(names, kinds), listed$catalogue)
}

# Text that is no file, and is not meant as the name of one.
is_deck_words <- function(x) {
  rlang::is_string(x) && x != "-" && !names_a_file(x) && (grepl("^[[:space:]]*(standard|numbered)\\b", x) ||
                                                         !grepl("[./]", x))
}

deck_by_words <- function(text, call) {
  words <- strsplit(trimws(text), "[[:space:]]+")[[1]]
  if (identical(words[1], "standard")) return(do.call(deck_standard, deck_settings(words[-1], call)))
  if (identical(words[1], "numbered") && length(words) == 2) {
    return(deck_numbered(written_numbers(words[2])))
  }
  refuse(sprintf(paste("%s is no deck: there is no such file, and decks in words are like \"standard",
                       "packs=2 jokers=1\" or \"numbered 44\"."), quoted(shortened(text))), call = call)
}

deck_settings <- function(words, call) {
  known <- c("packs", "jokers", "ranks", "suits", "arranged")
  keys <- sub("=.*$", "", words)
  bad <- which(!grepl("=", words) | !keys %in% known)
  if (length(bad)) {
    refuse(sprintf("A standard deck has the settings %s, as in \"standard packs=2\"; not %s%s",
                   join_words(known), quoted(words[bad[1]]), did_you_mean(keys[bad[1]], known)),
           call = call)
  }
  values <- strsplit(sub("^[^=]*=", "", words), ",")
  values <- lapply(values, function(value) {
    number <- written_numbers(value)
    if (length(value) == 1 && !is.na(number)) number else value
  })
  settings <- rlang::set_names(values, keys)
  settings$ranks <- if (!is.null(settings$ranks)) as.character(settings$ranks)
  settings
}
