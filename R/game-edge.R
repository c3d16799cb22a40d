# What a game for money brings, worked out.

# The same game with other outcomes recorded.
recording <- function(game, columns) {
  settings <- game$settings
  settings$record <- columns
  new_game(kind_of(game), game$given, settings, NULL)
}

# The house's edge of the main bet.
exact_edge <- function(game, call) 0 - solved_edge(game, call)$bets$mean[1]

# The same from every course of the game, of a bet of one stake whose result is this outcome.
edge_by_walk <- function(game, column) {
  law <- exact(recording(game, column))
  0 - pay_moments(law$outcomes[[column]], law$probability)$mean
}

edge_in_words <- function(edge) {
  sprintf("the %s keeps %s of an initial stake", if (edge >= 0) "house" else "player", format_percent(abs(edge), 4))
}

# What rounding leaves of nothing has no sign of its own.
percent_points <- function(x) sprintf("%+.3f%%", 100 * ifelse(abs(x) < 1e-12, 0, x))
plain_percent <- function(x) sprintf("%.3f%%", 100 * x)
