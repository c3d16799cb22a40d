# Hands that were written down at two tables: were they dealt fairly?

records_question <- function(folder, threads) {
  file <- file.path(folder, "dealt-hands.csv")
  dealt <- read_csv_text(read_text_lines(file), file)
  judged <- lapply(split(dealt, dealt[["table"]]), function(rows) {
    without_notes(draws_recorded(rows, columns = sprintf("card_%d", 1:5)))
  })
  write_demo_report(judged$back, file.path(folder, "dealt-hands.html"),
                    "Were the hands of the back table dealt fairly?")
  found <- lapply(judged, summary)
  list(
    title = "Hands were written down at two tables all winter. Were they dealt fairly?",
    sentence = records_sentence(found), surprise = verdict(found$back) == "biased", figure = bare_figure(judged$back),
    alt = paste("How often each category of hands came at the back table.", hands_verdict(found$back)),
    caption = "How often each category came at the back table, beside fair hands: no single card tells of it.",
    reports = c("The hands of the back table" = "dealt-hands.html"),
    command = c("grep -v front dealt-hands.csv > back-hands.csv",
                "habanera draws --file back-hands.csv --columns 3-7 --expect fair --figure back-hands.svg")
  )
}

records_sentence <- function(found) {
  told <- function(name) {
    tests <- found[[name]]$hands$tests
    off <- tests[tests$p.adjusted < verdict_level, ]
    if (!nrow(off)) return(sprintf("at the %s table nothing is seen by %s", name, count_of(nrow(tests), "test")))
    first <- off[which.min(off$p.value), ]
    sprintf("at the %s table they were not: %s, p %s; %s", name, first$term, format_p_value(first$p.value), first$off)
  }
  sentence(sprintf("%s. %s.", told("back"), sentence(told("front"))))
}
