# Questions of draws in the shell. What is typed is parsed and checked, never run.

question_options <- function() {
  c(sampled_options(), list(
    sampled_anew_option(),
    cli_option("ask", "Questions by name, such as 'two_up = count(rank == \"A\") >= 2'; separated by commas",
               "QUESTIONS"),
    cli_option("held", "Cards already in the hand, which --size counts, such as \"AS KD\"", "CARDS"),
    cli_option("dead", "Cards known to be out of play", "CARDS"),
    cli_option("redraw-if", "With --ask: a hand for which this holds goes back, and as many cards come anew",
               "CONDITION"),
    cli_option("redraws", "At most so many times [1]", "N"),
    cli_option("put-back", "After each redraw so many cards go under the deck [0]", "N"),
    cli_option("keep", paste("With --ask: exchange the other cards once; what is kept: groups, suit, run,",
                             "or a condition such as 'points >= 5'"), "WHAT"),
    cli_option("exchanges", "So many times [1]", "N"),
    cli_option("turns", "With --ask: after the hand, so many turns", "N"),
    cli_option("turn-size", "Cards that come each turn [1]", "N")
  ))
}

# In R the same is written redraw_if(), exchange_cards() and draw_more(), in this order.
with_stages_asked <- function(question, options, command) {
  refuse_lonely(options, command, list(redraws = "redraw_if", put_back = "redraw_if", exchanges = "keep",
                                       turn_size = "turns"))
  number <- function(name, usual) if (is.null(options[[name]])) usual else option_number(options, gsub("_", "-", name))
  if (!is.null(options$redraw_if)) {
    condition <- typed_question(parse_expression(options$redraw_if, "--redraw-if", NULL))
    question <- redraw_if(question, !!condition, times = number("redraws", 1), put_back = number("put_back", 0))
  }
  if (!is.null(options$keep)) question <- exchange_cards(question, shell_keep(options$keep), number("exchanges", 1))
  if (!is.null(options$turns)) question <- draw_more(question, number("turn_size", 1), number("turns", 1))
  question
}

shell_keep <- function(text) {
  ways <- list(groups = keep_groups, suit = keep_suit, run = keep_run)
  if (text %in% names(ways)) return(ways[[text]]())
  keep_where(!!typed_question(parse_expression(text, "--keep", NULL)))
}

exact_option <- function() cli_option("exact", "Work the answer out instead of simulating it")

named_questions <- function(options, command) {
  asked <- parse_expressions(paste(options$ask, collapse = ", "), "--ask", NULL)
  names <- names(asked)
  if (is.null(names) || any(!nzchar(names))) {
    refuse_usage(command, "every question in --ask needs a name, as in --ask 'aces = count(rank == \"A\")'.")
  }
  asked
}

# In R the same is written draws(deck, size, ...).
shell_question <- function(options, command) {
  asked <- named_questions(options, command)
  deck <- sampled_for_shell(deck_from(options$deck), options, command)
  size <- option_number(options, "size")
  question <- draws(deck, if (is.null(size)) 5 else size, !!!lapply(asked, typed_question), replace = options$replace,
                    shuffle = procedure(options$shuffle), held = options$held, dead = options$dead)
  with_stages_asked(question, options, command)
}

run_question <- function(options, command) {
  refuse_beside_ask(options, command)
  question <- shell_question(options, command)
  expectation <- read_expectation(options$expect, names(question$columns))
  write_answer(question, options, command, read_given(options$given, names(question$columns)), expectation)
}

refuse_beside_ask <- function(options, command) {
  others <- c("program", "group", "first_number")
  given <- c(others[!vapply(options[others], is.null, TRUE)], if (options$positions) "positions")
  if (length(given)) {
    refuse_usage(command, sprintf("--ask and --%s exclude each other.", gsub("_", "-", given[1])))
  }
}

until_command <- function() {
  new_command(
    "until", "Turns cards until a condition holds: how many does it take?",
    "until CONDITION [OPTIONS]",
    c(list(
      cli_option("deck", "As in habanera draws [standard]", "DECK", "standard"),
      cli_option("by-at-most", "Stop after so many cards", "N"),
      cli_option("shuffle", "How it is shuffled [uniform]", "PROCEDURE", "uniform"),
      exact_option(),
      cli_option("given", "Look only at trials for which this holds, such as 'turned > 3'", "CONDITION"),
      cli_option("expect", "Such as 'turned < 10': exit with status 1 if it does not hold", "CONDITION"),
      cli_option("precision", "Stop once the 95% half-width of the mean is this small", "W"),
      figure_option()
    ), run_options(), result_options()),
    c("habanera until 'count(rank == \"A\") >= 1' --exact",
      "habanera until 'distinct(suit) == 4' --deck orchard.csv --by-at-most 10 --trials 1e6 --seed 1"),
    run_until
  )
}

run_until <- function(options, arguments) {
  command <- until_command()
  if (length(arguments) != 1) refuse_usage(command, "it needs one condition, such as 'count(rank == \"A\") >= 1'.")
  condition <- typed_question(parse_expression(arguments, "CONDITION", NULL))
  question <- draw_until(deck_from(options$deck), !!condition, option_number(options, "by-at-most"),
                         procedure(options$shuffle))
  columns <- estimate_names(question)
  write_answer(question, options, command, read_given(options$given, columns),
               read_expectation(options$expect, columns))
}

payout_command <- function() {
  new_command(
    "payout", "Prices a draw: return to the player, house edge, hit frequency, and what each line pays.",
    "payout --ask QUESTIONS --pays PAYS [OPTIONS]",
    c(list(
      cli_option("deck", "As in habanera draws [standard]", "DECK", "standard"),
      cli_option("size", "Cards in the hand [5]", "K", "5"),
      cli_option("pays", "An expression of the questions, or values and pays such as '\"2\" = 5, \"3\" = 50'", "PAYS"),
      cli_option("stake", "What a play costs [1]", "STAKE", "1"),
      cli_option("edge", "Also solve for the stake at which the house keeps this share", "EDGE"),
      cli_option("lines", "Solve for what these lines of --pays must pay instead, separated by commas", "LINES"),
      cli_option("shuffle", "How it is shuffled [uniform]", "PROCEDURE", "uniform"),
      cli_option("replace", "Put each card back before the next"), exact_option(),
      cli_option("expect", "Such as 'house_edge > 0.1': exit with status 1 if it does not hold", "CONDITION"),
      figure_option()
    ), question_options(), run_options(), result_options()),
    c("habanera payout --deck orchard.csv --size 3 --ask 'alike = largest_group(suit)' --pays '\"3\" = 10' --exact",
      "habanera payout --ask 'aces = count(rank == \"A\")' --pays 'ifelse(aces >= 2, 5 * aces, 0)' --edge 0.15",
      paste("habanera payout --deck orchard.csv --size 3 --ask 'alike = largest_group(suit)'",
            "--pays '\"3\" = 10, \"2\" = 1' --edge 0.15 --lines 3 --exact")),
    run_payout
  )
}

run_payout <- function(options, arguments) {
  command <- payout_command()
  refuse_arguments(command, arguments)
  if (is.null(options$ask) || is.null(options$pays)) refuse_usage(command, "it needs --ask and --pays.")
  question <- shell_question(options, command)
  typed <- parse_expressions(options$pays, "--pays", NULL)
  expectation <- read_expectation(options$expect, pay_terms)
  stake <- option_number(options, "stake")
  edge <- option_number(options, "edge")
  answer <- shell_answer(question, options, command)
  found <- payout(answer, !!typed_pays(typed), stake)
  if (!is.null(options$lines)) {
    if (is.null(edge)) refuse_usage(command, "--lines needs --edge, the share that the house is to keep.")
    return(write_found(price_for(answer, !!typed_pays(typed), edge, stake, typed_words(options$lines)), options))
  }
  price <- if (!is.null(edge)) price_for(answer, !!typed_pays(typed), edge)
  write_pictures(found, options)
  if (result_format(options) == "text") {
    lines <- c(printed_lines(found, options$out), if (!is.null(price)) price_sentence(price))
    emit_or_write(lines, options$out)
  } else {
    emit_table(as.data.frame(found), options, found)
  }
  expected_status(expectation, tidy(found))
}

# Values and pays, each pay a number; or one expression of the outcome columns.
typed_pays <- function(typed) {
  if (is.null(names(typed))) return(typed_question(typed[[1]]))
  rlang::set_names(unlist(lapply(typed, constant_value, NULL, NULL)), names(typed))
}
