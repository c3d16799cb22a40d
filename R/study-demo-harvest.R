# Harvest, a betting game on the orchard deck: what does the ferryman's way of betting cost, and how is it answered?

harvest_question <- function(folder, threads) {
  harvest <- game_betting(rules = file.path(folder, "harvest.yaml"))
  ferryman <- player_by_rules(file.path(folder, "ferryman-bets.txt"))
  sound <- player_by_table(equilibrium(harvest, gap = 1e-3), "sound")
  answer <- best_play(harvest, 1, against = ferryman)
  dear <- mistakes(harvest, ferryman, seat = 2, against = sound)
  met <- round_robin(harvest, list(ferryman = ferryman, sound = sound, caller = player_calls_all()), nsim = 20000,
                     seed = 38, threads = threads)
  write_demo_report(met, file.path(folder, "harvest.html"), "Harvest: who beats whom?")
  write_result(dear, file.path(folder, "ferryman-mistakes.csv"))
  sentence <- harvest_sentence(answer, dear)
  list(
    title = "At harvest the ferryman bets by seven lines of his own. What does that cost him?",
    sentence = sentence, surprise = FALSE, figure = bare_figure(met),
    alt = paste("What each way of betting wins of each other.", sentence),
    caption = "What the player of a row wins of that of a column, in antes a hand, with seats exchanged.",
    reports = c("Who beats whom" = "harvest.html"),
    code = c("harvest <- game_betting(rules = \"harvest.yaml\")",
             "sound <- player_by_table(equilibrium(harvest, gap = 1e-3), \"sound\")",
             "ferryman <- player_by_rules(\"ferryman-bets.txt\")",
             "guests <- list(ferryman = ferryman, sound = sound, caller = player_calls_all())",
             "autoplot(round_robin(harvest, guests, nsim = 20000, seed = 38))")
  )
}

harvest_sentence <- function(answer, dear) {
  sprintf(paste("The best answer to the ferryman wins %s antes a hand of him from the first seat. Against sound",
                "play his lines cost him %s antes a hand; the dearest is what he does with %s after %s."),
          format_number(answer$worth, 3), format_number(sum(dear$loss), 3),
          paste(c(dear$holding[1], if (nzchar(dear$shared[1])) c("and", dear$shared[1])), collapse = " "),
          if (nzchar(dear$actions[1])) dear$actions[1] else "the deal")
}
