# Outcomes as results hold them, out of the whole numbers of the core.

recorded_rows <- function(columns, names) as.data.frame(rlang::set_names(columns, names), optional = TRUE)

# Whole numbers of the core as text and numbers, money in stakes.
game_outcomes <- function(game, rows) {
  for (name in names(rows)) {
    rows[[name]] <- if (is_category(game, name)) category_texts(game, name, rows[[name]]) else
      rows[[name]] / unit_of(game, name)
  }
  rows
}
