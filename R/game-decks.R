# The decks that trials are dealt from.

# The kinds of the deck as trials deal it, from the top: a column for each; of one trial a vector.
game_decks <- function(game, seed, trials) {
  if (!has_function(game$shuffle)) return(core_game_decks(game$spec, seed, trials))
  codes <- kinds_of(game$deck)$codes
  vapply(trials, function(trial) {
    match(codes_of(shuffled_cards(game$deck, game$shuffle, seed, trial, NULL)), codes)
  }, integer(length(game$deck)))
}

game_deck <- function(game, seed, trial) as.vector(game_decks(game, seed, trial))
