# Which rules of the twenty-one table keep about a hundredth, with as few changes as may be?

tuning_question <- function(folder, threads) {
  wishes <- file.path(folder, "table-wishes.yaml")
  table <- game("blackjack", rules = file.path(folder, "table.yaml"))
  found <- tune_rules(table, wishes, threads = threads)
  write_lines_whole(csv_table_lines(as.data.frame(found)), file.path(folder, "table-tuned.csv"))
  sentence <- tuning_sentence(found)
  list(
    title = "The twenty-one table is to keep about a hundredth. Which two rules at most must change?",
    sentence = sentence, surprise = FALSE, figure = bare_figure(found),
    alt = paste("The edge by what was changed, between the two that are wished for.", sentence),
    caption = "The house's edge by what was changed, the nearest to the wish above.",
    reports = c("All combinations" = "table-tuned.csv"),
    command = paste("habanera tune blackjack --rules table.yaml --wishes", basename(wishes), "--figure tuned.svg")
  )
}

tuning_sentence <- function(found) {
  met <- which(found$meets == "yes")
  said <- paste("Of %s by at most two new rules %s keep from 0.8%% to 1.2%%, exactly; nearest to the present rules is",
                "%s, which keeps %s.")
  sprintf(said, count_of(nrow(found), "table"), format_count(length(met)), tuned_row_in_words(found, met[1]),
          format_percent(found$edge[met[1]], 3))
}
