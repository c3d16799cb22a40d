# Lanterns, played while the urn warms up: what is sound play with a hidden card, and what does a habit cost?

lanterns_question <- function(folder, threads) {
  file.copy(system.file("examples", "lanterns.cpp", package = "habanera"), folder, overwrite = TRUE)
  lanterns <- game_cpp(file.path(folder, "lanterns.cpp"), deck = deck_numbered(3))
  sound <- equilibrium(lanterns)
  ferryman <- player_by_table(file.path(folder, "ferryman.csv"))
  answer <- best_play(lanterns, 1, against = ferryman)
  write_demo_report(sound, file.path(folder, "sound.html"), "Lanterns: what is sound play?")
  write_demo_report(answer, file.path(folder, "ferryman.html"), "Lanterns: what is the answer to the ferryman?")
  write_result(sound, file.path(folder, "sound.csv"))
  sentence <- lanterns_sentence(sound, answer)
  list(
    title = "At lanterns two hide their cards and may bet. What is sound play, what does the ferryman's habit cost?",
    sentence = sentence, surprise = FALSE, figure = bare_figure(sound),
    alt = paste("How likely each move is in sound play, by what is seen.", sentence),
    caption = "Sound play: how likely each seat makes each move, by its card and what was done.",
    reports = c("Sound play" = "sound.html", "The answer to the ferryman" = "ferryman.html"),
    command = "habanera equilibrium lanterns.cpp --deck 'numbered 3' --figure sound.svg"
  )
}

lanterns_sentence <- function(sound, answer) {
  value <- tidy(sound)[1, ]
  sprintf(paste("Sound play brings seat 1 %s of a coin a game, surely between %s and %s. Against the ferryman, who",
                "never bluffs and calls too much, the best answer brings it %s."), format_number(value$estimate, 3),
          format_number(value$conf.low, 3), format_number(value$conf.high, 3), format_number(answer$worth, 3))
}
