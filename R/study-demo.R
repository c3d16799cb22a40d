# The Lantern Hall demo: asks the hall's questions of the shipped data, answers each in a sentence
# with a figure, and writes one page that holds them all.

# Writes the demo into a folder and returns a few lines that say what was found and where it is.
lantern_hall_demo <- function(folder, threads = NULL, call = rlang::caller_env()) {
  make_folder(folder, call)
  # The data lie beside the page, so that the commands on it work there as they stand.
  file.copy(vapply(demo_data, demo_file, ""), folder, overwrite = TRUE)
  questions <- list(tablet_question, records_question, volunteers_question, routine_question, stall_question,
                    hands_stall_question, windfall_question, quick_game_question, pairs_table_question,
                    twenty_one_question, counting_question, reserve_question, edges_question, tuning_question,
                    queue_question, month_question,
                    if (can_compile()) lanterns_question, harvest_question)
  questions <- Filter(Negate(is.null), questions)
  bar <- local_progress("Answering questions", total = length(questions))
  answers <- lapply(seq_along(questions), function(i) {
    bar$move(i - 1)
    in_whole_runs(questions[[i]](folder, threads))
  })
  page <- file.path(folder, "index.html")
  write_lines_whole(demo_page(answers), page)
  c("Lantern Hall, card night:", unlist(lapply(answers, demo_lines)), "",
    sprintf("The page with all questions: %s", page),
    sprintf("Its reports and figures:     %s",
            paste(setdiff(list.files(folder), c("index.html", "lanterns.cpp", demo_data)), collapse = ", ")))
}

# The question, and the answer below it.
demo_lines <- function(answer) {
  width <- min(getOption("width"), 100)
  c("", strwrap(answer$title, width), strwrap(answer$sentence, width, indent = 2, exdent = 2))
}

# A game in C++ needs the tools that packages are compiled with.
can_compile <- function() all(nzchar(Sys.which(c("make", "g++"))))

# Does the tablet draw as it should? Its recorded draws beside our own of the same deck.
tablet_question <- function(folder, threads) {
  orchard <- deck_from(file.path(folder, "orchard.csv"))
  ours <- simulate(draws(orchard, 3), nsim = 4000, seed = demo_seed, threads = threads)
  tablet <- draws_recorded(file.path(folder, "tablet-draws.txt"), orchard, numbering = list(first = 0))
  verdict <- compare(tablet, exact(draws(orchard, 3)))
  write_demo_report(tablet, file.path(folder, "tablet.html"), "Does the tablet draw every card as often as it should?")
  write_demo_report(ours, file.path(folder, "fair.html"), "The same draws, made by a fair shuffle")
  write_result(tablet, file.path(folder, "tablet.csv"))
  write_demo_figure(tablet, file.path(folder, "tablet.svg"))
  write_demo_figure(ours, file.path(folder, "fair.svg"))
  summary <- summary(tablet)
  list(
    title = "The prize stall draws three cards with the tablet. Does every card come?",
    sentence = tablet_sentence(verdict, summary(ours)), surprise = is_surprising(summary$test),
    figure = bare_figure(tablet), alt = draw_figure_alt(tablet, summary), caption = draw_figure_caption(tablet),
    reports = c("The whole report" = "tablet.html", "The same with a fair shuffle" = "fair.html"),
    command = paste("habanera draws --deck orchard.csv --file tablet-draws.txt --first-number 0 --expect fair",
                    "--figure tablet-again.svg")
  )
}

# Do the volunteers shuffle well? Their logged shuffles, judged and diagnosed.
volunteers_question <- function(folder, threads) {
  orchard <- deck_from(file.path(folder, "orchard.csv"))
  found <- audit(shuffle_recorded(file.path(folder, "volunteer-shuffles.csv"), deck = orchard))
  biased <- verdict(found) != "no_bias_seen"
  slip <- diagnose(found)
  write_demo_report(found, file.path(folder, "volunteers.html"), "Do the volunteers shuffle well?")
  write_demo_figure(found, file.path(folder, "volunteers.svg"))
  list(
    title = "The volunteers logged 600 shuffles. Do they shuffle well?",
    sentence = paste(if (biased) "They do not." else "It seems so.", diagnosis_sentence(slip)), surprise = biased,
    figure = bare_figure(found), alt = paste("Heat map of which card came where.", verdict_lines(found)[1]),
    caption = "How far each count is from fair, in standard deviations.",
    reports = c("The whole report" = "volunteers.html"),
    command = paste("habanera audit --deck orchard.csv --file volunteer-shuffles.csv --diagnose",
                    "--figure volunteers-again.svg")
  )
}

# Routines that volunteers can manage in about a minute.
minute_routines <- c("riffle x7", "overhand x12", "piles, riffle", "wash x3", "wash, riffle x4, cut")

routine_question <- function(folder, threads) {
  orchard <- deck_from(file.path(folder, "orchard.csv"))
  found <- mixing(as.list(minute_routines), times = 1, deck = orchard, nsim = 1e5, seed = demo_seed, threads = threads)
  write_demo_report(found, file.path(folder, "routine.html"), "Which routine for a minute?")
  list(
    title = "Which routine should they learn instead, in at most a minute?",
    sentence = routine_sentence(found), surprise = FALSE,
    figure = bare_figure(found, by = "seconds"),
    alt = paste(c("Distance and guesser's gain of the routines against seconds.", passing_lines(found)),
                collapse = " "),
    caption = "Each routine once. Below both dashed lines is good.", reports = c("The whole report" = "routine.html"),
    command = paste("habanera mixing", paste(shQuote(minute_routines), collapse = " "),
                    "--deck orchard.csv --times 1 --by seconds --trials 1e5 --seed", demo_seed,
                    "--figure routine-again.svg")
  )
}

routine_sentence <- function(found) {
  good <- found[found$passes, ]
  if (!nrow(good)) return("None of the routines tried is good enough.")
  best <- good[which.min(good$seconds), ]
  each <- sprintf("%s (%s)", found$procedure, format_fixed(found$gain, 2))
  others <- c(
    if (nrow(good) > 1) sprintf("Slower ones pass, too: %s.",
                                join_words(each[found$passes & found$procedure != best$procedure])),
    if (!all(found$passes)) sprintf("Not so, with their gains: %s.", join_words(each[!found$passes]))
  )
  paste(c(sprintf("%s, %s s by hand: a guesser gains %s cards a deck.", sentence(best$procedure),
                  format_count(best$seconds), format_fixed(best$gain, 2)), others), collapse = " ")
}

# What the questions below are made of, which R's own checks take for variables and functions.
utils::globalVariables(c("count", "every_turn", "trees", "kind", "largest_group", "points", "suit", "total", "turn"))

# Three cards of one fruit win 8 tokens, 27 points or more win 3: what must a play cost?
stall_pays <- quote(ifelse(alike == 3, 8, ifelse(worth >= 27, 3, 0)))

stall_question <- function(folder, threads) {
  orchard <- deck_from(file.path(folder, "orchard.csv"))
  stall <- draws(orchard, 3, alike = largest_group(suit), worth = total(points))
  law <- exact(stall)
  counts <- simulate(stall, nsim = 1e5, seed = demo_seed, threads = threads)
  paid <- new_payout(law, pays_by_expression(stall_pays, law, NULL, NULL), 1, NULL)
  price <- new_price(paid, 0.15, NULL, NULL)
  write_demo_report(counts, file.path(folder, "stall.html"), "What do three cards of the orchard deck hold?")
  write_demo_figure(paid, file.path(folder, "stall.svg"))
  list(
    title = "Three of one fruit win 8 tokens, 27 points win 3. What must a play cost?",
    sentence = stall_sentence(paid, price), surprise = FALSE, figure = bare_figure(paid),
    alt = paste("Bars of what each prize hands back, as a share of the stake.", payout_sentences(paid)[1]),
    caption = "What each prize hands back of a stake of one token, exactly.",
    reports = c("The hands behind it, simulated and exact" = "stall.html"),
    command = paste("habanera payout --deck orchard.csv --size 3 --exact --edge 0.15 --ask",
                    shQuote("alike = largest_group(suit), worth = total(points)"), "--pays",
                    shQuote(expression_text(stall_pays)), "--figure stall-again.svg")
  )
}

stall_sentence <- function(paid, price) {
  found <- rlang::set_names(tidy(paid)$estimate, tidy(paid)$term)
  sprintf(paste("At one token the stall hands back %s of it and somebody wins in %s of plays. To keep 15%%, a play",
                "must cost %s."),
          format_percent(found[["return_to_player"]]), format_percent(found[["hit_frequency"]]),
          format_money(price$stake))
}

# Windfall is to open smoothly: a tree for every turn up to four, and not a flood of them.
windfall_question <- function(folder, threads) {
  windfall <- deck_from(file.path(folder, "windfall.yaml"))
  game <- draws(windfall, 6, trees = count(kind == "tree"),
                smooth = every_turn(trees >= min(turn, 4)) & trees <= 7)
  game <- draw_more(redraw_if(game, trees < 2 | trees > 4), 2, times = 4)
  curve <- copies_curve(game, "apple tree", 6:12, instead_of = "quince")
  write_demo_report(exact(game), file.path(folder, "windfall.html"), "How does Windfall open?")
  write_demo_figure(curve, file.path(folder, "windfall.svg"))
  figure <- bare_figure(curve, column = "smooth")
  list(
    title = "Windfall opens smoothly with a tree for every turn, and no flood of them. How many apple trees?",
    sentence = windfall_sentence(curve), surprise = FALSE, figure = figure,
    alt = paste("Chance of a smooth opening against copies of the apple tree.", windfall_sentence(curve)),
    caption = "Chance of a smooth opening, four turns of two cards after one redraw. Marked: the deck as it is.",
    reports = c("Turn by turn" = "windfall.html"),
    code = c("game <- draws(deck_from(\"windfall.yaml\"), 6, trees = count(kind == \"tree\"),",
             "              smooth = every_turn(trees >= min(turn, 4)) & trees <= 7)",
             "game <- draw_more(redraw_if(game, trees < 2 | trees > 4), 2, times = 4)",
             "curve <- copies_curve(game, \"apple tree\", 6:12, instead_of = \"quince\")",
             "autoplot(curve, column = \"smooth\")")
  )
}

windfall_sentence <- function(curve) {
  last <- curve[curve$term == "smooth" & curve$turn == max(curve$turn), ]
  now <- last[last$copies == attr(curve, "deck_now"), ]
  best <- last[which.max(last$estimate), ]
  # At the end of what was tried more might be better still.
  said <- if (best$copies == max(last$copies)) {
    "Of those tried %s are best, in the place of quinces: %s; the chance still rises there."
  } else {
    "Best are %s, in the place of quinces: %s."
  }
  paste(sprintf("Now, with %s apple trees, %s of openings run smoothly.", format_count(now$copies),
                format_percent(now$estimate)),
        sprintf(said, format_count(best$copies), format_percent(best$estimate)))
}

tablet_sentence <- function(verdict, ours) {
  never <- verdict$unseen$card
  sprintf("%s %s A fair shuffle of the same deck, as often, shows %s (%s).",
          if (isTRUE(verdict$agree)) "The tablet's draws look fair." else "The tablet does not draw fairly.",
          if (length(never)) unseen_in_words(verdict$unseen) else
            sprintf("%s.", sentence(chi_square_in_words(verdict$test))),
          if (is_surprising(ours$test)) "a bias too" else "no bias", chi_square_in_words(ours$test))
}

demo_page <- function(answers) {
  tags <- htmltools::tags
  ids <- sprintf("question-%d", seq_along(answers))
  entries <- Map(function(id, answer) list(id = id, title = answer$title, answer = answer$sentence), ids, answers)
  report_page(
    "Lantern Hall: a card night in numbers",
    tags$h1("Lantern Hall: a card night in numbers"),
    tags$p(class = "question", "The hall holds a card night each month for its roof fund. Its analyst asks; each",
           "answer has its figure and what draws it again."),
    contents_list(unname(entries)), unname(Map(demo_answer, ids, answers))
  )
}

demo_answer <- function(id, answer) {
  tags <- htmltools::tags
  links <- Map(function(words, file) tags$span(paste0(words, ": "), tags$a(href = file, file, .noWS = "outside"),
                                               "."), names(answer$reports), answer$reports)
  htmltools::tagList(
    tags$div(class = "lead", tags$h2(id = id, answer$title), answer_box(answer$sentence, answer$surprise),
             report_figure(answer$figure, answer$alt, answer$caption)),
    tags$p(unname(links)),
    tags$details(
      tags$summary("Draw this figure"),
      if (is.null(answer$command)) report_code("In R, in this folder", c("library(habanera)", answer$code)) else {
        report_code("In the shell, in this folder", answer$command)
      }
    )
  )
}
