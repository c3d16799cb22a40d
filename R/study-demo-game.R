# The children's quick game never stops. Why, and which rules end it within a quarter of an hour?

utils::globalVariables("ended")  # the outcome, in replay(where = )

seconds_in_round <- 6
quick_game_minutes <- 15

quick_game_question <- function(folder, threads) {
  as_played <- game_war(rules = file.path(folder, "quick-game.yaml"), seat_names = c("left", "right"))
  counts <- simulate(as_played, nsim = 2e4, seed = demo_seed, threads = threads)
  varied <- vary_rules(change_rules(as_played, collect = "winner_first"), cards_each = c(6, 11, 16, 22),
                       face_down = 0:3, nsim = 5000, seed = demo_seed, threads = threads)
  write_demo_report(counts, file.path(folder, "quick-game.html"), "The children's quick game, as it is played")
  write_demo_figure(replay(counts, where = ended == "never_ends"), file.path(folder, "stuck-game.svg"))
  figure <- bare_figure(varied, seconds_per_round = seconds_in_round, within = quick_game_minutes)
  sentence <- quick_game_sentence(counts, varied)
  list(
    title = "The children's quick game never stops. Why, and which rules end it in time?",
    sentence = sentence, surprise = TRUE, figure = figure,
    alt = paste("Minutes within which nine games in ten end, against the cards dealt to each.", sentence),
    caption = sprintf(paste("Minutes within which nine games in ten end, the winner's card going under first, at %d",
                            "seconds a round."), seconds_in_round),
    reports = c("The game as it is played" = "quick-game.html", "One that would not end" = "stuck-game.svg"),
    command = paste("habanera vary war --rules quick-game.yaml --set collect=winner_first --over",
                    "cards_each=6,11,16,22 --over face_down=0:3 --trials 5000 --seed", demo_seed,
                    "--seconds-per-round", seconds_in_round, "--within", quick_game_minutes, "--figure in-time.svg")
  )
}

quick_game_sentence <- function(counts, varied) {
  stuck <- tidy(counts)
  stuck <- stuck$estimate[stuck$term == "ended=never_ends"]
  # The longest that is surely in time, of rules by which all games ended.
  long <- varied[varied$term == "rounds_p90" & varied$share_ended == 1, ]
  minutes <- function(rounds) rounds * seconds_in_round / 60
  in_time <- long[minutes(long$conf.high) <= quick_game_minutes, ]
  best <- in_time[which.max(in_time$estimate), ]
  games <- trial_count(attr(varied, "counts")[[1]])
  sprintf(paste("Gathered from the left, the pot comes back in the same order, and %s of games never end. With the",
                "winner's card first, %s cards each and %s face down all of %s games ended, nine in ten within %s",
                "minutes (95%%: %s to %s)."),
          format_percent(stuck), format_count(best$cards_each), format_count(best$face_down), format_count(games),
          format_number(minutes(best$estimate)), format_number(minutes(best$conf.low)),
          format_number(minutes(best$conf.high)))
}
