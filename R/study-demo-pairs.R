# Four regulars meet at the pairs table. Who is best, and what is it worth to sit first?

hall_regulars <- function() {
  list(baker = player_full_memory(), ferryman = player_forgetful(0.7, 12), `elder twin` = player_careful(),
       `younger twin` = player_forgetful(1, 6))
}

pairs_table_question <- function(folder, threads) {
  met <- round_robin(game_pairs(grid = c(6, 5)), hall_regulars(), nsim = 4000, seed = demo_seed, threads = threads)
  write_demo_report(met, file.path(folder, "pairs-table.html"), "Who plays best at the pairs table?")
  sentence <- pairs_table_sentence(met)
  list(
    title = "Four regulars play pairs, six rows of five. Who is best?", sentence = sentence, surprise = FALSE,
    figure = bare_figure(met), alt = paste("A matrix of who beats whom.", sentence),
    caption = "What the player of a row has of the win against that of a column, on the same deals.",
    reports = c("Who beats whom" = "pairs-table.html"),
    code = c("regulars <- list(baker = player_full_memory(), ferryman = player_forgetful(0.7, 12),",
             "                 `elder twin` = player_careful(), `younger twin` = player_forgetful(1, 6))",
             sprintf("autoplot(round_robin(game_pairs(grid = c(6, 5)), regulars, nsim = 4000, seed = %d))", demo_seed))
  )
}

pairs_table_sentence <- function(met) {
  found <- tidy(met)
  players <- found[found$part == "player", ]
  best <- players[order(-players$estimate), ][1:2, ]
  beside <- as.data.frame(met)
  row <- beside[beside$player == best$term[1] & beside$against == best$term[2], ]
  first <- found[found$term == "seat 1", ]
  seat <- if (first$conf.low > 0.5 || first$conf.high < 0.5) "who sits first has" else {
    "where one sits makes no difference that is seen: the first seat has"
  }
  sprintf("The %s is best, with %s of the win against the %s (95%%: %s to %s); %s %s.", best$term[1],
          format_percent(row$score), best$term[2], format_percent(row$conf.low), format_percent(row$conf.high), seat,
          format_percent(first$estimate))
}
