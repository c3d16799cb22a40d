# Races of tune_rules() beside the whole grid at the same certainty, in trials.

quick_game <- game_war(rules = demo_file("quick-game.yaml"))

race_jobs <- list(
  "the quick game, by the hall's wishes" = function() {
    tune_rules(quick_game, demo_file("quick-game-wishes.yaml"), seconds_per_round = 6, seed = 1, seconds = 1e6)
  },
  "War, 34 sets that lie near each other" = function() {
    tune_rules(game_war(), list(cards_each = 6:22, collect = c("winner_first", "shuffled")), want = "rounds_p90 <= 120",
               nsim = 1.28e5, seed = 1, seconds = 1e6)
  },
  "pairs, even at two line-ups" = function() {
    tune_rules(game_pairs(), list(pairs = 4:16), want = "seat_spread < 0.1", nsim = 1e5, seed = 1, seconds = 1e6,
               line_ups = list(player_forgetful(1), player_forgetful(0.5)))
  }
)

race_row <- function(name) {
  found <- race_jobs[[name]]()
  data.frame(race = name, trials = attr(found, "trials"), whole_grid = attr(found, "whole_grid"),
             share = attr(found, "trials") / attr(found, "whole_grid"))
}
