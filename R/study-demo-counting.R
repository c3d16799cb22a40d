# The twenty-one table and the elder twin, who counts: does the hall keep its share?

counting_question <- function(folder, threads) {
  twin <- player_counting(player_basic(), file.path(folder, "level-one.yaml"), file.path(folder, "twins-bets.csv"))
  gain <- counter_gain(game_blackjack(), twin, cut_after = c(0.5, 0.6, 0.7, 0.8), nsim = 40000, seed = demo_seed,
                       threads = threads)
  door <- bets_follow(game_blackjack(), file.path(folder, "bets-by-the-door.csv"), file.path(folder, "level-one.yaml"))
  write_lines_whole(csv_table_lines(plain_table(gain)), file.path(folder, "counter-gain.csv"))
  sentence <- paste(counting_sentence(gain), sprintf("And the guest by the door? %s.",
                                                     sub(":.*$", "", follow_sentence(door$found))))
  list(
    title = "The twenty-one table: does it keep its share even if somebody counts?", sentence = sentence,
    surprise = door$found$p.value < 0.01, figure = bare_figure(gain),
    alt = paste("What the twin gains by how deep the shoe is dealt.", sentence),
    caption = "What the twin gains in a hundred rounds, by how deep the shoe is dealt, with 95% bands.",
    reports = c("The figures by cut" = "counter-gain.csv"),
    code = c("twin <- player_counting(player_basic(), \"level-one.yaml\", \"twins-bets.csv\")",
             "autoplot(counter_gain(game_blackjack(), twin, cut_after = c(0.5, 0.6, 0.7, 0.8), nsim = 40000,",
             sprintf("                      seed = %d))", demo_seed))
  )
}

counting_sentence <- function(gain) {
  at <- function(cut) gain[gain$cut_after == cut, ]
  said <- function(row) {
    verb <- if (row$verdict == "open") "may gain or lose," else row$verdict
    sprintf("%s %s stakes in a hundred rounds (95%%: %s to %s) when %s of the shoe is dealt", verb,
            format_number(abs(row$gain), 2), format_number(row$conf.low, 2), format_number(row$conf.high, 2),
            format_percent(row$cut_after, 2))
  }
  sprintf("The elder twin, who counts and bets up to eight stakes, %s, and %s.", said(at(0.8)), said(at(0.5)))
}
