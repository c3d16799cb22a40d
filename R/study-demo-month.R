# All that is asked each month, as one file: what it answers, and that asked again nothing is done twice.

month_question <- function(folder, threads) {
  file <- file.path(folder, "month.yaml")
  found <- run_study(file, file.path(folder, "month-results"), threads = threads, progress = FALSE)
  report(found, file.path(folder, "month.html"))
  sentence <- month_sentence(found)
  list(
    title = "What is asked before every card night, in one file: what does it say this month?",
    sentence = sentence, surprise = any(found$expected$holds == "no"),
    figure = bare_figure(found$values[["decks at the table"]]),
    alt = paste("What the table keeps by the number of packs, one of the answers.", sentence),
    caption = "One of its answers: what the twenty-one table keeps, by the number of packs.",
    reports = c("All answers" = "month.html"),
    command = "habanera study run month.yaml --report month.html"
  )
}

month_sentence <- function(found) {
  missed <- found$expected[found$expected$holds == "no", , drop = FALSE]
  told <- sprintf("of %s it was expected that %s, and %s", missed$run, missed$condition, missed$found)
  paste(c(sprintf("%s of %s answered.", format_count(sum(found$runs$state == "done")),
                  count_of(nrow(found$runs), "question")),
          if (nrow(missed)) sprintf("Not as it should be: %s.", join_words(told))), collapse = " ")
}
