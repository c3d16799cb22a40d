# A stall at the hands table: five cards, one exchange, paid by category. What does the hall keep?

utils::globalVariables("category")

hands_stall_pays <- c("two pair" = 2, "three of a kind" = 4, straight = 8, flush = 12, "full house" = 15,
                      "four of a kind" = 40, "straight flush" = 100)

hands_stall_question <- function(folder, threads) {
  stall <- exchange_cards(draws(deck_standard(), 5, kind = category()), keep_groups())
  counts <- simulate(stall, nsim = 5e5, seed = demo_seed, threads = threads)
  paid <- new_payout(counts, pays_by_value(hands_stall_pays, counts, NULL), 1, NULL)
  write_demo_report(counts, file.path(folder, "hands-stall.html"), "What do five cards make after one exchange?")
  pays <- paste(sprintf("\"%s\" = %s", names(hands_stall_pays), hands_stall_pays), collapse = ", ")
  list(
    title = "At the hands table five cards are dealt, exchanged once, and paid by category. What does the hall keep?",
    sentence = hands_stall_sentence(paid), surprise = FALSE, figure = bare_figure(paid),
    alt = paste("Bars of what each category hands back, as a share of the stake.", payout_sentences(paid)[1]),
    caption = "What each category hands back of a stake of one token, to guests who keep pairs and better.",
    reports = c("The hands behind it" = "hands-stall.html"),
    command = paste("habanera payout --size 5 --ask 'kind = category()' --keep groups --trials 5e5 --seed",
                    demo_seed, "--pays", shQuote(pays), "--figure hands-stall.svg")
  )
}

hands_stall_sentence <- function(paid) {
  found <- tidy(paid)
  found <- found[match(c("house_edge", "hit_frequency"), found$term), ]
  sprintf("The hands table keeps %s of every stake (95%%: %s to %s) if guests keep their pairs; %s of plays win.",
          format_percent(found$estimate[1]), format_percent(found$conf.low[1]), format_percent(found$conf.high[1]),
          format_percent(found$estimate[2]))
}
