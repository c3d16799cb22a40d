# Every table of the hall side by side: which keeps most of a stake, which earns most in an hour, and what could go
# wrong?

hall_tables <- c(stall = 90, table = 70, `banker-table` = 60, machine = 400)

edges_question <- function(folder, threads) {
  files <- file.path(folder, paste0(names(hall_tables), ".yaml"))
  tables <- rlang::set_names(as.list(files), sub("-", " ", names(hall_tables)))
  found <- edge_table(!!!tables, rounds_per_hour = hall_tables)
  write_lines_whole(csv_table_lines(as.data.frame(found)), file.path(folder, "edges.csv"))
  lost <- mistakes(game("video_poker", rules = file.path(folder, "machine.yaml")),
                   keep_rules(file.path(folder, "kept-by-the-baker.txt")))
  sentence <- edges_sentence(found, lost)
  list(
    title = "All tables of the hall: what does each keep, and how wild is it?", sentence = sentence, surprise = FALSE,
    figure = bare_figure(found), alt = paste("Edge against the standard deviation of a round.", sentence),
    caption = "What each bet keeps of a stake, against how wild a round is.",
    reports = c("The table of edges" = "edges.csv"),
    command = paste("habanera edges", paste(basename(files), collapse = " "), "--rounds-per-hour",
                    paste(hall_tables, collapse = ","), "--figure edges.svg")
  )
}

edges_sentence <- function(found, lost) {
  named <- function(i) {
    if (found$bet[i] %in% c("main", "play")) paste("the", found$table[i]) else {
      sprintf("the bet %s of the %s", found$bet[i], found$table[i])
    }
  }
  said <- paste("Of a stake most is kept on %s (%s), least on %s (%s); in an hour %s earns most, %s stakes. At the",
                "machine the baker leaves %s stakes in a hundred rounds more than he need.")
  sprintf(said, named(which.max(found$edge)), format_percent(max(found$edge)), named(which.min(found$edge)),
          format_percent(min(found$edge)), named(which.max(found$per_hour)), format_number(max(found$per_hour), 2),
          format_number(100 * sum(lost$loss), 2))
}
