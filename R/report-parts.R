# What a page says of a result: its print, as paragraphs and tables, and its figure. Kinds of results that say it in
# another way have a method of their own, in the files beside this one.

page_parts <- function(x) UseMethod("page_parts")

#' @export
page_parts.habanera_result <- function(x) parts_told(x)

#' @export
page_parts.habanera_strategy <- function(x) {
  answer <- if (inherits(x, "habanera_result")) in_words(x) else sprintf("%s, as a table.", sentence(x$label))
  grid <- strategy_grid(x)
  new_parts(
    answer = answer, figures = list(report_figure(bare_figure(x), paste("The moves as a grid:", answer))),
    sections = list(`The moves` = report_table(grid, "H hit, S stand, D double, P split, R surrender.")),
    settings = found_settings(x), code = found_code(x)
  )
}

parts_told <- function(x) {
  blocks <- told_blocks(x)
  is_table <- vapply(blocks, is.data.frame, NA)
  before <- unlist(blocks[cumsum(is_table) == 0])
  # What was looked at is no sentence; the answer is.
  about <- if (length(before) && !grepl("[.!?]$", before[1])) before[1]
  answer <- c(setdiff(before, about), if (length(before) == length(about)) in_words(x))
  # Many lines below one another are a list, not an answer.
  lead <- utils::head(answer, most_in_answer)
  rest <- c(as.list(answer[-seq_along(lead)]), blocks[cumsum(is_table) > 0])
  if (!any(is_table)) rest <- c(rest, list(readable_table(x)))
  new_parts(
    answer = lead, about = if (!is.null(about)) paste0(sentence(sub(":$", "", about)), "."),
    figures = if (has_figure(x)) list(report_figure(bare_figure(x), paste("A figure of this:", in_words(x)))),
    sections = list(`The numbers` = lapply(Filter(length, rest), block_tag)),
    settings = found_settings(x), code = found_code(x)
  )
}

# What a result prints, as paragraphs (texts) and tables (data frames), for pages. Its own print makes them, so that a
# page and the console cannot say different things.
told_blocks <- function(x) {
  tables <- gathering$tables
  on.exit(gathering$tables <- tables)
  gathering$tables <- list()
  rlang::local_options(width = 9999L, cli.num_colors = 1L)
  lines <- lines_printed(function() tell(x))
  lines <- lines[nzchar(trimws(lines))]
  lapply(lines, function(line) {
    line <- trimws(line)
    if (!startsWith(line, table_mark)) return(sub("^<[^>]+> ", "", line))
    gathering$tables[[as.integer(substring(line, nchar(table_mark) + 1))]]
  })
}

most_in_answer <- 4

block_tag <- function(block) {
  if (is.data.frame(block)) report_table(block) else htmltools::tags$p(block)
}

# What tidy() gives, in words: of results that print no table of their own.
readable_table <- function(x) {
  table <- if (is.data.frame(x)) plain_table(x) else generics::tidy(x)
  table[] <- lapply(table, function(column) {
    ifelse(is.na(column), "", if (is.numeric(column)) format_statistic(column) else as.character(column))
  })
  told <- c(term = "what", std.error = "standard error", conf.low = "95% from", conf.high = "95% to",
            p.value = "p-value")
  known <- names(table) %in% names(told)
  names(table)[known] <- told[names(table)[known]]
  names(table) <- gsub("[._]", " ", names(table))
  if (nrow(table)) table
}

found_settings <- function(x) {
  made <- how_made(x)
  game <- attr(x, "game")
  list(Game = if (inherits(game, "habanera_game")) sentence(in_words(game)),
       Seed = if (!is.null(made$seed)) whole_code(made$seed),
       Version = sprintf("habanera %s, %s", package_version_text(), R.version.string))
}

found_code <- function(x) how_made(x)[c("r", "shell")]

# The question that a result answers, as the heading of its page.
page_question <- function(x) {
  known <- intersect(class(x), names(page_questions))
  if (length(known)) page_questions[[known[1]]] else "What was found?"
}

page_questions <- c(
  habanera_counts_draws = "Does each card come up as often as it should?",
  habanera_counts_positions = "Does each card come up as often as it should?",
  habanera_counts_game = "How does the game go?", habanera_distribution_game = "How does the game go?",
  habanera_counts_outcomes = "What comes off the top?", habanera_distribution_outcomes = "What comes off the top?",
  habanera_counts_kept = "What came of it?", habanera_counts_pairs = "What do the other rules change?",
  habanera_counts_meeting = "Who beats whom?", habanera_counts_retry_cost = "What does a retry loop cost?",
  habanera_comparison = "Does each card come up as often as it should?",
  habanera_advice = "What is each move of this hand worth?", habanera_answer_summary = "What comes off the top?",
  habanera_arrangement_summary = "How are the arrangements spread?",
  habanera_audit = "Is this shuffle fair?", habanera_audit_sizes = "How small a deck shows the bias?",
  habanera_audit_summary = "Is this shuffle fair?", habanera_bankroll = "How long does the money last?",
  habanera_best_keep = "What does the machine return to the best player?",
  habanera_best_play = "What is the best answer worth?", habanera_best_strategy = "What is the best way to play?",
  habanera_bet_sizes = "What is to be bet at which count?", habanera_bets_follow = "Do the bets follow the count?",
  habanera_by_true_count = "What does the count tell?", habanera_card_check = "Is the deck complete?",
  habanera_check = "Is the game sound?", habanera_convergence = "Has it settled?",
  habanera_copies = "How many copies?", habanera_count_judged = "How well does the count tell what is left?",
  habanera_count_law = "How often does the count stand where?",
  habanera_counter_gain = "What does counting gain, by how deep the shoe is dealt?",
  habanera_counters = "What does each counter gain?", habanera_dealer_totals = "What does the dealer end on?",
  habanera_deck_summary = "What is in the deck?", habanera_designed_tags = "Which tags count best?",
  habanera_deviations = "When does the count change a move?", habanera_diagnosis = "What is wrong with the shuffle?",
  habanera_draw_summary = "Does each card come up as often as it should?",
  habanera_edge = "What does the house keep?", habanera_edge_table = "What does each table keep, and how wild is it?",
  habanera_equilibrium = "What is sound play?", habanera_exchanges = "Which cards are best kept?",
  habanera_followed = "Where does the card go?", habanera_game_summary = "How does the game go?",
  habanera_game_trace = "How did this game go?", habanera_games = "Which games are there?",
  habanera_growth = "How fast does a bankroll grow?", habanera_hand = "What is the hand worth?",
  habanera_impact = "What is a card worth?", habanera_judged = "What was each move worth?",
  habanera_kept_table = "What was kept?", habanera_line_prices = "What must each line pay?",
  habanera_mistakes = "What do the mistakes cost?", habanera_mixing = "How many are enough?",
  habanera_money = "What does a round bring?", habanera_moved = "Which hands change their place?",
  habanera_moves = "What is done, and how often?", habanera_odds = "How often does each hand come?",
  habanera_order_comparison = "What moved?", habanera_payout = "What does it pay?",
  habanera_periods = "After how many repeats is the deck back?", habanera_price = "What must it cost, or pay?",
  habanera_procedure_comparison = "Which shuffle is fairer?", habanera_ranked = "Which hand is best?",
  habanera_removal = "What is a card worth that is gone?",
  habanera_rounds_to_show = "How many rounds until an edge shows?", habanera_rule_effects = "What is each rule worth?",
  habanera_sessions = "What does a season bring, and what reserve does it need?",
  habanera_showdown = "Which hand wins how often?", habanera_sitting = "How does the sitting stand?",
  habanera_steps = "What are shuffles made of?", habanera_strategy = "How is it played?",
  habanera_study_answers = "What does the study say?", habanera_study_status = "How far has the study come?",
  habanera_study_table = "What does the study say?",
  habanera_strategy_difference = "Where do two ways of playing differ?",
  habanera_takings = "Was it luck?", habanera_third_card = "When is a third card drawn?",
  habanera_trace = "How did the cards move?", habanera_trials = "How did these trials go?",
  habanera_trials_needed = "How many draws show a bias?", habanera_tuned = "Which rules meet the wishes?",
  habanera_unbeaten = "Who is beaten by nobody?", habanera_varied = "Which rules?",
  habanera_varied_edges = "What does the house keep, by its rules?",
  habanera_varied_values = "What is a seat worth, by the rules?", habanera_working = "How is this worked out?"
)
