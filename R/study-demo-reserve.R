# Twelve nights of stall, table and pairs evening: how large a reserve does the hall need, and was it luck at the back
# table?

reserve_question <- function(folder, threads) {
  evenings <- hall_evenings(folder, threads)
  table <- evenings$table
  reserves <- vapply(evenings, function(of) tidy(of)$estimate[tidy(of)$term == "reserve_p99"], 0)
  write_lines_whole(csv_table_lines(data.frame(evening = names(reserves), reserve = reserves)),
                    file.path(folder, "reserves.csv"))
  back <- takings(game_blackjack(), file.path(folder, "takings-back.csv"), player_basic())
  sentence <- sprintf("Reserves that survive the lowest point in 99%% of seasons: %s. And the back table? %s.",
                      join_words(sprintf("%s stakes for the %s", format_number(reserves, 3), names(reserves))),
                      sub(":.*$", "", takings_sentence(back)))
  list(
    title = "Twelve nights: how large a reserve?", sentence = sentence, surprise = back$found$p.value[3] < 0.01,
    figure = bare_figure(table), alt = paste("What a season at the table brings.", sentence),
    caption = "What twelve nights at the twenty-one table bring, in stakes.",
    reports = c("The reserves" = "reserves.csv"),
    command = paste("habanera sessions blackjack --set seats=3 --player basic --rounds 600",
                    "--figure season.svg")
  )
}

# The stall has 150 draws a night; the table 600 rounds of three seats that play well; at the pairs evening the elder
# twin plays thirty guests who forget nothing, for a stake.
hall_evenings <- function(folder, threads) {
  orchard <- deck_from(file.path(folder, "orchard.csv"))
  stall <- payout(exact(draws(orchard, 3, alike = largest_group(suit))), c("3" = 8, "2" = 1))
  pairs <- simulate(game_pairs(grid = c(6, 5), players = list(player_full_memory(), player_careful()),
                               record = "winner"), nsim = 2e4, seed = demo_seed, threads = threads)
  won <- outcome_shares(pairs$outcomes[["winner"]], pairs$n)
  share <- function(name) if (name %in% names(won)) won[[name]] else 0
  guest <- money_distribution(c(-1, 0, 1), c(share("2"), share("nobody"), share("1")))
  list(stall = sessions(stall, 150), table = sessions(game_blackjack(seats = 3, players = player_basic()), 600),
       `pairs evening` = sessions(guest, 30))
}
