# The contract of results (R/util-result.R), held to by every class that an example of the help gives.

# Whatever the examples of all pages give, one of each class.
held_results <- function() {
  found <- list()
  keep <- function(value) {
    if (is.object(value) && any(grepl("^habanera_", class(value)))) found[[class(value)[1]]] <<- value
  }
  pages <- tools::Rd_db("habanera")
  # Where the sources are loaded and not installed.
  if (!length(pages)) pages <- tools::Rd_db(dir = testthat::test_path("..", ".."))
  withr::local_dir(withr::local_tempdir())
  withr::local_pdf(NULL)
  for (page in pages) {
    lines <- utils::capture.output(tools::Rd2ex(page, commentDontrun = TRUE))
    where <- new.env(parent = globalenv())
    for (expr in as.list(parse(text = grep("^###", lines, value = TRUE, invert = TRUE)))) {
      # That examples run is told elsewhere.
      utils::capture.output(tryCatch(suppressMessages(suppressWarnings(keep(eval(expr, where)))),
                                     error = function(cnd) NULL))
    }
    for (name in ls(where)) keep(get(name, where))
  }
  found
}

# What is no result, but a thing of which results are made: it prints, and that is all that is asked of it.
values <- c("habanera_bet_plan", "habanera_bet_ramp", "habanera_count_system", "habanera_deal", "habanera_draws",
            "habanera_draws_program", "habanera_draws_with", "habanera_game", "habanera_hand_rules", "habanera_keep",
            "habanera_outcome", "habanera_piles", "habanera_player", "habanera_positions", "habanera_procedure",
            "habanera_question", "habanera_rules", "habanera_sampling", "habanera_shuffles_program",
            "habanera_shuffles_recorded", "habanera_strategy", "habanera_study", "habanera_until",
            "habanera_chance_table", "habanera_line_player", "habanera_street")

# Results that are a few numbers or a text, or rows whose words say more than a line through them: no figure.
without_figure <- sprintf("habanera_%s", c(
  "advice", "advice_by_sight", "answer_summary", "arrangement_summary", "audit_sizes", "audit_summary", "best_keep",
  "best_play", "bet_sizes", "card_check", "check", "count_judged", "count_law", "counters", "counts_retry_cost",
  "deck_summary", "study_answers", "study_status", "study_table", "designed_tags", "deviations", "diagnosis",
  "distribution_draws", "draw_summary", "edge",
  "exchanges", "found_deviations", "game_summary", "growth", "hand", "judged", "kept_table", "line_prices",
  "mistakes", "mistakes_by_sight", "money", "moved", "moves", "odds", "order_comparison", "price",
  "procedure_comparison", "ranked", "rounds_to_show", "sitting", "strategy_difference", "third_card", "trace",
  "trials", "trials_needed", "unbeaten", "working", "dealer_totals", "games", "steps"
))

# What no example gives, or what stands in for it there.
other_results <- function() {
  played <- simulate(game_war(cards_each = 3), 200, seed = 1)
  sat <- play_sitting(list(game = game_pairs(pairs = 1, seats = 1), seed = 1, trial = 1, seat = 1, moves = c(1, 2),
                           over = FALSE, file = NULL))
  file <- withr::local_tempfile(fileext = ".csv")
  write_result(category_odds(size = 2), file)
  list(habanera_game_summary = summary(played), habanera_audit_summary = summary(audit(shuffle_riffle(), nsim = 500,
                                                                                       seed = 1)),
       habanera_sitting = sat, habanera_judged = judge_moves(sat, player_lookahead(2)),
       habanera_kept_table = read_result(file),
       habanera_study_status = study_status(read_study(demo_file("month.yaml")), tempdir(), NULL),
       habanera_dealer_totals = dealer_totals(game_blackjack()), habanera_games = games(),
       habanera_steps = shuffle_steps())
}

# Of the columns that tell an estimate, those that do not stand together in the order that all results have.
misplaced_columns <- function(names) {
  wanted <- intersect(c("term", "estimate", "std.error", "conf.low", "conf.high"), names)
  at <- match(wanted, names)
  wanted[c(FALSE, diff(at) != 1)]
}

test_that("every result prints by format(), is told in words, and is a table, a figure, a page and a file", {
  results <- utils::modifyList(held_results(), other_results())
  # Every class that says itself on the terminal is among them, or is what such stand on.
  told <- sub("^tell[.]", "", ls(asNamespace("habanera"), pattern = "^tell[.]"))
  expect_equal(setdiff(told, unlist(lapply(results, class))), character())
  is_value <- names(results) %in% values
  for (name in names(results)[is_value]) expect_gt(length(capture.output(print(results[[name]]))), 0)
  undrawn <- character()
  for (name in names(results)[!is_value]) {
    x <- results[[name]]
    expect_true(inherits(x, "habanera_result"), info = name)
    if (!inherits(x, "habanera_result")) next
    # What is text, too, has that as its format.
    if (!inherits(x, c("habanera_strategy", "habanera_deviations"))) {
      expect_equal(capture.output(print(x)), format(x), info = name)
    }
    words <- in_words(x)
    expect_true(rlang::is_string(words) && nchar(words) > 10 && nchar(words) < 2000, info = name)
    table <- tidy(x)
    expect_true(is.data.frame(table) && nrow(table) > 0 && length(table) > 0, info = name)
    expect_equal(misplaced_columns(names(table)), character(), info = name)
    expect_true(is.data.frame(as.data.frame(x)), info = name)
    expect_false(any(grepl("Length +Class +Mode", capture.output(print(summary(x))))), info = name)
    if (has_figure(x)) expect_s3_class(autoplot(x), "ggplot") else undrawn <- c(undrawn, name)
    page <- withr::local_tempfile(fileext = ".html")
    report(x, page)
    expect_match(paste(readLines(page, warn = FALSE), collapse = " "), "<h1>", info = name)
    file <- withr::local_tempfile(fileext = ".json")
    write_result(x, file)
    again <- suppressWarnings(read_result(file))
    kept <- if (is.data.frame(x) || is_result(x)) as.data.frame(x) else kept_rows(x)
    expect_equal(nrow(as.data.frame(again)), nrow(kept), info = name)
    if (is_result(x)) expect_equal(nrow(glance(x)), 1)
  }
  expect_setequal(undrawn, without_figure)
})
