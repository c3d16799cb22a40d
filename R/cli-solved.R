# What is worked out of a game against the house: its edges, best play, advice, mistakes, what rules are worth.

dead_option <- function() cli_option("dead", "Cards that are gone from the shoe, such as \"5S 5H\"", "CARDS")

edge_command <- function() {
  new_command(
    "edge", "What the house keeps of each bet of a game, exactly where that is in reach.", "edge GAME [OPTIONS]",
    c(game_options(), list(dead_option(),
                           cli_option("by", "Divide the edge by first_hand, up_card or move, separated by commas",
                                      "WORDS"),
                           cli_option("expect", "Such as 'edge < 0.008': exit with status 1 if it does not hold",
                                      "CONDITION"),
                           cli_option("trials", "Games, where it must be simulated [1000000]", "N", "1000000"),
                           seed_option(), threads_option()), result_options()),
    game_examples("edge"),
    function(options, arguments) {
      game <- shell_game(options, arguments, edge_command())
      expectation <- read_expectation(options$expect, c("edge", names(game$rules$side_bets)))
      found <- house_edge(game, dead = options$dead, nsim = option_number(options, "trials"),
                          seed = option_number(options, "seed"), threads = option_number(options, "threads"))
      parts <- if (!is.null(options$by)) as.data.frame(found, by = typed_words(options$by))
      write_found(if (is.null(parts)) found else divided_edge(found, parts), options,
                  table = if (is.null(parts)) tidy(found) else parts)
      expected_status(expectation, edge_terms(found))
    }
  )
}

# The main bet under the name that expectations have for it.
edge_terms <- function(found) {
  rows <- tidy(found)
  rows$term[1] <- "edge"
  rows
}

divided_edge <- function(found, parts) structure(list(found = found, parts = parts), class = "habanera_divided_edge")

#' @export
print.habanera_divided_edge <- function(x, ...) {
  print(x$found)
  shares <- c("probability", "edge", "share")
  x$parts[shares] <- lapply(x$parts[shares], function(each) vapply(each, signed_percent, ""))
  print_head(x$parts, 40)
  invisible(x)
}

price_command <- function() {
  new_command(
    "price", "What lines of a game's pay table must pay for the house to keep a share.", "price GAME [OPTIONS]",
    c(game_options(), list(
      cli_option("edge", "The share of a stake that the house is to keep [0.05]", "EDGE", "0.05"),
      cli_option("lines", "The lines to be solved for, separated by commas [the first]", "LINES"),
      cli_option("bet", "The bet that is meant, as habanera edge names it [the main bet]", "BET")
    ), result_options()), game_examples("price"),
    function(options, arguments) {
      game <- shell_game(options, arguments, price_command())
      write_found(price_for(game, option_number(options, "edge"), typed_words(options$lines), bet = options$bet),
                  options)
    }
  )
}

strategy_command <- function() {
  new_command(
    "strategy", "The best way to play a game against the house, as a table.", "strategy GAME [OPTIONS]",
    c(game_options(), list(
      cli_option("knows", "What the player looks at: total, two_cards or all_cards [total]", "WORD", "total"),
      dead_option(), cli_option("expected", "Every move with what it is worth, instead of the table", NULL, FALSE),
      figure_option()
    ), result_options()),
    game_examples("strategy"),
    function(options, arguments) {
      game <- shell_game(options, arguments, strategy_command())
      best <- best_strategy(game, options$knows, options$dead)
      # Not every best play is a table of moves.
      rows <- options$expected || is.null(best$cells)
      write_found(best, options, table = if (rows) as.data.frame(best) else strategy_grid(best))
    }
  )
}

mistakes_command <- function() {
  new_command(
    "mistakes", "What a player's mistakes cost, the dearest first.", "mistakes GAME --player PLAYER [OPTIONS]",
    c(game_options(), list(
      dead_option(), cli_option("seat", "Of several seats the player's [1]", "N", "1"),
      cli_option("against", "Where seats hide cards: who plays in the other seats, separated by commas", "PLAYERS")
    ), result_options()), game_examples("mistakes"),
    function(options, arguments) {
      game <- shell_game(options, arguments, mistakes_command())
      found <- mistakes(game, dead = options$dead, seat = option_number(options, "seat"),
                        against = typed_players(options$against))
      write_found(found, options)
    }
  )
}

advise_command <- function() {
  new_command(
    "advise", "What each move of a hand in play is worth.", "advise GAME CARDS [--up CARD] [OPTIONS]",
    c(game_options(), list(
      cli_option("up", "The card that a dealer shows, where there is one", "CARD"), dead_option(),
      cli_option("hands", "How many hands the seat has; above 1 this is one of a split [1]", "N", "1"),
      cli_option("shared", "Where seats hide cards: the cards that all see by then, beside a board", "CARDS"),
      cli_option("actions", "And the moves so far, such as \"check bet\"", "MOVES"),
      cli_option("against", "And who sits in the other seats, separated by commas [whoever plays soundly]", "PLAYERS"),
      cli_option("working", "Also what each move ends in, beside the dealer's totals", NULL, FALSE)
    ), result_options()),
    game_examples("advise"),
    function(options, arguments) {
      command <- advise_command()
      if (length(arguments) < 2) refuse_usage(command, "it needs a game and the cards of a hand, such as \"10S 6H\".")
      game <- shell_game(options, arguments[1], command)
      write_found(advise(game, paste(arguments[-1], collapse = " "), options$up, options$dead, options$working,
                         option_number(options, "hands"), options$shared, options$actions,
                         typed_players(options$against)), options)
    }
  )
}

rule_effects_command <- function() {
  new_command(
    "rule-effects", "What each rule of a game is worth to the house, each changed alone.",
    "rule-effects GAME [OPTIONS]",
    c(game_options(), list(
      cli_option("over", "What is tried: RULE=0:3, RULE=ONE;OTHER; may be given again", "RULE=VALUES"),
      cli_option("pairs", "Change any two rules at once, too: which go together?"),
      cli_option("portion", "Try such a part of all combinations, in the place of single changes", "P"),
      cli_option("of", "edge, exactly, or a mean or a chance by name, which is played [edge]", "NAME", "edge"),
      cli_option("knows", "What the player looks at: total, two_cards or all_cards [total]", "WORD", "total")
    ), study_options("Games by each change, where it is played", "100000"), result_options()),
    game_examples("rule_effects"),
    function(options, arguments) {
      command <- rule_effects_command()
      game <- shell_game(options, arguments, command)
      over <- typed_over(options$over, game, command)
      write_found(rule_effects(game, if (length(over)) over, options$pairs, options$of, options$knows,
                               portion = option_number(options, "portion"), nsim = option_number(options, "trials"),
                               seed = option_number(options, "seed"), threads = option_number(options, "threads")),
                  options)
    }
  )
}

dealer_command <- function() {
  new_command(
    "dealer", "What the dealer of a game ends on, by the card he shows.", "dealer GAME [OPTIONS]",
    c(game_options(), list(dead_option()), result_options()), game_examples("dealer"),
    function(options, arguments) {
      write_found(dealer_totals(shell_game(options, arguments, dealer_command()), options$dead), options)
    }
  )
}
