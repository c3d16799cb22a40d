# The twenty-one table: six packs, the dealer stands on 17. What does the hall keep of those who come?

twenty_one_guests <- c(`plays well` = "basic", baker = "regular:name=baker", ferryman = "regular:name=ferryman",
                       `elder twin` = "regular:name=elder twin", `younger twin` = "regular:name=younger twin")

twenty_one_question <- function(folder, threads) {
  write_strategy(player_basic(), file.path(folder, "sound-play.csv"))
  table <- game_blackjack(record = "net")
  kept <- vary_rules(table, players = unname(twenty_one_guests), nsim = 5e5, seed = demo_seed, threads = threads)
  report(kept, file.path(folder, "twenty-one.html"), "What does the twenty-one table keep of each guest?")
  sentence <- twenty_one_sentence(kept)
  list(
    title = "The twenty-one table: what does the hall keep of the regulars?", sentence = sentence, surprise = FALSE,
    figure = bare_figure(player_basic()), alt = paste("The grid of a sound way to play.", sentence),
    caption = "A sound way to play, to be pinned to the wall beside the table.",
    reports = c("All guests on the same rounds" = "twenty-one.html"),
    command = paste("habanera play blackjack --player sound-play.csv --trials 1e6 --seed", demo_seed)
  )
}

twenty_one_sentence <- function(kept) {
  rows <- kept[kept$term == "net", ]
  edge <- -rows$estimate
  half <- stats::qnorm(0.975) * rows$std.error
  worst <- which.max(edge)
  sprintf(paste("Of every stake of the %s it keeps %s (95%%: %s to %s), the most; of who plays by the sound table %s",
                "(%s to %s)."), names(twenty_one_guests)[worst], format_percent(edge[worst]),
          format_percent(edge[worst] - half[worst]), format_percent(edge[worst] + half[worst]), format_percent(edge[1]),
          format_percent(edge[1] - half[1]), format_percent(edge[1] + half[1]))
}
