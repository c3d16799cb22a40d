# Hands in the shell.

hand_rule_options <- function() {
  list(cli_option("rules", "A file of rules for hands (.yaml, .json)", "FILE"),
       cli_option("count", "How many cards of a hand count [5, or as many as there are]", "N"),
       cli_option("categories", "Categories, the best first, separated by commas [the usual ones]", "NAMES"),
       cli_option("wild", "Which cards are wild, such as 'rank == \"2\"'", "CONDITION"))
}

shell_hand_rules <- function(options, usual_size) {
  if (!is.null(options$rules)) return(check_hand_rules(options$rules, NULL))
  size <- option_number(options, "count")
  categories <- typed_words(options$categories)
  wild <- options$wild
  hand_rules(if (is.null(size)) usual_size else size, categories, wild)
}

hands_command <- function() {
  new_command(
    "hands", "Tells what hands are worth, one a line of a file: category and place.", "hands FILE [OPTIONS]",
    c(list(cli_option("deck", "As in habanera draws [standard, or ranks alone]", "DECK"), columns_option()),
      hand_rule_options(), result_options()),
    c("habanera hands prize-hands.txt", "habanera hands stakes.csv --columns 2-6",
      "habanera hands prize-hands.txt --wild 'rank == \"2\"' --format csv"),
    function(options, arguments) {
      if (!length(arguments)) refuse_usage(hands_command(), "it needs a file with a hand on each line.")
      refuse_arguments(hands_command(), arguments[-1])
      deck <- if (!is.null(options$deck)) deck_from(options$deck)
      hands <- hands_of_file(arguments, deck, option_columns(options), NULL)
      write_found(rank_hands(hands, shell_hand_rules(options, 5), deck = deck), options)
    }
  )
}

category_odds_command <- function() {
  new_command(
    "category-odds", "Counts all hands of a deck by category, exactly.", "category-odds [OPTIONS]",
    c(list(cli_option("deck", "As in habanera draws [standard]", "DECK", "standard"),
           cli_option("size", "Cards in a hand [5]", "N", "5")), hand_rule_options(), list(threads_option()),
      result_options()),
    c("habanera category-odds", "habanera category-odds --size 7",
      "habanera category-odds --deck 'standard jokers=1' --wild 'rank == \"joker\"'"),
    function(options, arguments) {
      refuse_arguments(category_odds_command(), arguments)
      size <- option_number(options, "size")
      write_found(category_odds(deck_from(options$deck), size, shell_hand_rules(options, min(size, 5)),
                                option_number(options, "threads")), options)
    }
  )
}

showdown_command <- function() {
  new_command(
    "showdown", "Hands against each other: how often does each win, what is its share of the pot?",
    "showdown HAND HAND ... [OPTIONS]",
    c(list(cli_option("board", "Cards of the board that lie open", "CARDS"),
           cli_option("deck", "As in habanera draws [standard]", "DECK", "standard"),
           cli_option("own-cards", "Exactly how many of a seat's own cards count [any]", "N"),
           cli_option("board-size", "Cards of the board in the end [5]", "N", "5"),
           cli_option("hand-size", "Cards of each seat [as many as the longest hand, or 2]", "N"),
           cli_option("trials", "Simulate so many instead of every board", "N"), seed_option(), threads_option(),
           figure_option()), hand_rule_options(), result_options()),
    c("habanera showdown 'AS KS' 'QH QD'", "habanera showdown 'AS KS' '?' --board 'QC 9S 2S'",
      "habanera showdown 'AS KS QH JD' '9C 9D 8C 7D' --own-cards 2 --trials 1e5 --seed 1",
      "habanera showdown 'AS KS' 'QH QD | JH JD | 10H 10D'"),
    run_showdown
  )
}

# A hand as typed: "?" is unknown, and a "|" stands between the hands that a seat may have.
typed_seat <- function(text) {
  if (trimws(text) == "?") return(NULL)
  trimws(strsplit(text, "|", fixed = TRUE)[[1]])
}

run_showdown <- function(options, arguments) {
  if (length(arguments) < 2) refuse_usage(showdown_command(), "it needs two hands or more, such as 'AS KS' 'QH QD'.")
  own <- option_number(options, "own-cards")
  found <- showdown(lapply(arguments, typed_seat), options$board, deck_from(options$deck), shell_hand_rules(options, 5),
                    if (is.null(own)) "any" else own, option_number(options, "board-size"),
                    option_number(options, "hand-size"), option_number(options, "trials"),
                    option_number(options, "seed"), option_number(options, "threads"))
  write_found(found, options)
}
