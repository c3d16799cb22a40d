# The twenty-one table: six packs, the dealer stands on 17. What does the hall keep of those who come, which of their
# mistakes pay for the roof, and what would another rule change?

twenty_one_guests <- c(`plays well` = "basic", baker = "regular:name=baker", ferryman = "regular:name=ferryman",
                       `elder twin` = "regular:name=elder twin", `younger twin` = "regular:name=younger twin")

twenty_one_question <- function(folder, threads) {
  table <- game_blackjack(record = "net")
  best <- best_strategy(table)
  write_strategy(best, file.path(folder, "best-play.csv"))
  kept <- vary_rules(table, players = unname(twenty_one_guests), nsim = 1e5, seed = demo_seed, threads = threads)
  write_demo_report(kept, file.path(folder, "twenty-one.html"), "What does the twenty-one table keep of each guest?")
  sentence <- twenty_one_sentence(table, tidy(best)$estimate[1])
  list(
    title = "The twenty-one table: what does the hall keep of the regulars?", sentence = sentence, surprise = FALSE,
    figure = bare_figure(best), alt = paste("The grid of the best way to play.", sentence),
    caption = "The best way to play by totals, to be pinned to the wall beside the table.",
    reports = c("All guests on the same rounds" = "twenty-one.html"),
    command = "habanera strategy blackjack --figure best-play.svg"
  )
}

twenty_one_sentence <- function(table, best_edge) {
  edges <- vapply(twenty_one_guests, function(player) tidy(house_edge(table, player, nsim = 1000))$estimate[1], 0)
  worst <- which.max(edges)
  dearest <- mistakes(table, twenty_one_guests[[worst]])[1, ]
  sprintf(paste("Of who plays as well as can be by totals it keeps %s of an initial stake, of the %s %s, whose dearest",
                "mistake is to %s %s against an up card of %s: it brings the roof %s stakes in a hundred rounds."),
          format_percent(best_edge), names(twenty_one_guests)[worst], format_percent(edges[[worst]]), dearest$played,
          sub("^pair (.*)$", "a pair of \\1s", dearest$hand), sub("^A$", "ace", dearest$up_card),
          format_number(100 * dearest$loss, 2))
}
