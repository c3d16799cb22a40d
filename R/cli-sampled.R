# Decks picked by chance from a catalogue, in the shell. In R the same is written deck_sampled().

sampled_options <- function() {
  list(cli_option("sampled", "Pick a deck of so many cards from it, by their copies", "N"),
       cli_option("weights", "With --sampled: by this attribute instead", "NAME"),
       cli_option("max-copies", "With --sampled: at most so many of a kind", "N"))
}

sampled_anew_option <- function() {
  cli_option("sampled-anew", "With --ask: as --sampled, but another deck in each trial", "N")
}

# `deck`, or one picked from it as the options say.
sampled_for_shell <- function(deck, options, command) {
  anew <- !is.null(options[["sampled_anew"]])
  if (is.null(options$sampled) && !anew) {
    refuse_lonely(options, command, list(weights = "sampled", max_copies = "sampled"))
    return(deck)
  }
  if (anew && !is.null(options$sampled)) refuse_usage(command, "--sampled and --sampled-anew exclude each other.")
  most <- option_number(options, "max-copies")
  size <- option_number(options, if (anew) "sampled-anew" else "sampled")
  seed <- if (!anew) resolve_seed(option_number(options, "seed"))
  if (!anew && is.null(options$seed)) inform_user(sprintf("Deck picked with seed %s.", whole_code(seed)))
  deck_sampled(deck, size, options$weights, if (is.null(most)) Inf else most, seed, anew)
}
