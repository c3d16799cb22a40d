# How a game is played: by the core, or in R throughout. Whoever runs games asks this record, and knows no other way:
#   in_r     whether all of it is R, on one thread, one trial after the other
#   words    function(game): as core_game_words()
#   trials   function(game, seed, trials): `rows` of the recorded outcomes, and how many `each` trial has
#   replay   function(game, deck, seed, trial, kept): as core_replay_game()
#   walk     function(game, most, call): `rows` and `probability` of every course
#   outcome  function(game, kinds, names, seed): the outcomes on a deck that lies so, the players' luck that of trial 1

core_plays <- function() list(
  in_r = FALSE, words = function(game) core_game_words(game_machine(game)),
  trials = function(game, seed, trials) trials_in_core(game, seed, trials),
  replay = function(game, deck, seed, trial, kept) replay_in_core(game, deck, seed, trial, kept),
  walk = function(game, most, call) walk_in_core(game, most, call),
  outcome = function(game, kinds, names, seed) outcome_in_core(game, kinds, names, seed)
)

plays_of <- function(game) {
  own <- kind_of(game)$plays
  if (is.null(own)) core_plays() else own
}
