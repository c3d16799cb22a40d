# The queue, a game of the hall's own: when should a guest stop, and what does a milder rule give away?

queue_question <- function(folder, threads) {
  queue <- game_from_file(file.path(folder, "queue.R"), NULL)
  found <- vary_rules(recording(queue, "takes"), stops_at = c(15, 20, 25, 30, 35), repeats = 1:2, nsim = 2000,
                      seed = demo_seed)
  sentence <- queue_sentence(found, check_game(queue, nsim = 50, seed = demo_seed))
  list(
    title = "A game of the hall's own for the queue: when should a guest stop, and what may it give away?",
    sentence = sentence, surprise = FALSE, figure = bare_figure(found, outcome = "takes"),
    alt = paste("What a guest takes on average, by where he stops and by the rule.", sentence),
    caption = "What a guest takes on average (with 95% intervals), by the sum at which he stops.",
    reports = c("The game, an R function" = "queue.R"),
    command = paste("habanera vary queue.R --over stops_at=15,20,25,30,35 --over repeats=1,2 --record takes",
                    "--trials 2000 --seed", demo_seed, "--outcome takes --figure queue.svg")
  )
}

queue_sentence <- function(found, check) {
  rows <- as.data.frame(found)
  rows <- rows[rows$term == "takes", ]
  best <- function(repeats) {
    rows <- rows[rows$repeats == repeats, ]
    rows[which.max(rows$estimate), ]
  }
  sprintf(paste("Guests do best to stop at %s: they take %s on average; where it takes two repeats to lose, at %s, and",
                "%s. The game %s its check."),
          format_count(best(1)$stops_at), format_statistic(best(1)$estimate), format_count(best(2)$stops_at),
          format_statistic(best(2)$estimate), if (all(check$passed)) "passes" else "fails")
}
