# What is said of games of War: in short, step by step, at the end, and in a figure.

# The outcome in a sentence or two: who wins, how long it takes, whether it ends.
war_in_short <- function(outcomes, weight, game) {
  won <- wins_in_words(outcome_shares(outcomes[["winner"]], weight))
  ended <- outcome_shares(outcomes[["ended"]], weight)
  stuck <- if ("never_ends" %in% names(ended)) sprintf("%s never end", format_percent(ended[["never_ends"]]))
  rounds <- outcomes[["rounds"]]
  length <- if (any(!is.na(rounds))) {
    at <- format_count(column_quantiles(rounds, weight, c(0.5, 0.9), FALSE)$estimate)
    if (at[1] == at[2]) sprintf("most take %s rounds", at[1]) else
      sprintf("half of those that end take up to %s rounds, nine in ten up to %s", at[1], at[2])
  }
  told <- c(paste(c(won, stuck), collapse = "; "), length)
  paste0(sentence(told[nzchar(told)]), ".", collapse = " ")
}

war_step_words <- c(
  deal = "dealt", turns = "turns", lays = "lays face down", ties = "a tie", takes = "takes the pot:",
  takes_back = "each takes its own back", discards = "the pot leaves the game", leaves = "the pot waits",
  scores = "scores a point", is_short = "is short of cards", is_out = "is out", begins_inner = "a game within the game",
  ends_inner = "back to the game", wins = "wins", draws = "nobody wins"
)

war_end_in_words <- function(trace) {
  outcome <- attr(trace, "outcome")
  rounds <- max(trace$round[trace$depth == 0])
  winner <- if (outcome$winner == "nobody") "nobody wins" else paste(seat_headings(outcome$winner), "wins")
  loop <- war_loop(trace)
  again <- if (!is.null(loop)) {
    sprintf(": the position after round %s came again after round %s, a loop of %s", format_count(loop$first),
            format_count(loop$first + loop$length), count_of(loop$length, "round"))
  }
  paste0(sprintf("%s after %s (%s)", winner, count_of(rounds, "round"), outcome$ended), again)
}

# Of a game that goes round for ever: after which round its position came first, and how many rounds bring it back.
# Positions are compared with that after the last round of 512, 1,024, ...: so many rounds lie between, and the loop
# began as early as its rounds go on alike.
war_loop <- function(trace) {
  if (!identical(attr(trace, "outcome")$ended, "never_ends")) return(NULL)
  # The last step is that it ends.
  steps <- utils::head(plain_table(trace), -1)
  last <- max(steps$round[steps$depth == 0])
  # Of a game within the game that goes round, or games whose rounds hold such, nothing is told.
  if (last <= first_watched || any(steps$depth > 0)) return(NULL)
  length <- last - 2^floor(log2(last - 1))
  texts <- tapply(paste(steps$seat, steps$action, cards_by_rank(steps$cards, attr(trace, "game"))),
                  factor(steps$round, seq_len(last)), paste, collapse = "|")
  alike <- utils::head(texts, -length) == utils::tail(texts, -length)
  list(first = max(c(0, which(!alike))), length = length)
}

first_watched <- 512

# Cards of one rank are alike.
cards_by_rank <- function(texts, game) {
  data <- catalogue_of(game$deck)$data
  vapply(strsplit(texts, " ", fixed = TRUE), function(cards) {
    paste(data[[game$rules$rank_by]][match(cards, data[["card"]])], collapse = " ")
  }, "")
}

# How the weighted pile adds up, where it was recorded.
war_closing_words <- function(trace) {
  game <- attr(trace, "game")
  outcome <- attr(trace, "outcome")
  if (!"weighted_pile" %in% game$record || outcome$winner == "nobody") return(NULL)
  pile <- rev(unclass(piles_at(trace, step = nrow(trace)))[[outcome$winner]])
  rank <- catalogue_of(game$deck)$data[[game$rules$rank_by]][codes_of(pile)]
  sprintf("Weighted pile, from the bottom: %s = %s.",
          paste(sprintf("%s x %d", format_count(rank), seq_along(rank)), collapse = " + "),
          format_count(outcome$weighted_pile))
}

# The sizes of the piles after each round.
war_course <- function(trace) {
  game <- attr(trace, "game")
  outer <- plain_table(trace)
  outer <- outer[outer$depth == 0, , drop = FALSE]
  ends <- outer[!duplicated(outer$round, fromLast = TRUE), , drop = FALSE]
  seats <- seq_along(game$seat_names)
  list(data = data.frame(x = rep(ends$round, times = length(seats)), series = rep(seat_headings(game$seat_names),
                                                                                 each = nrow(ends)),
                         cards = unlist(ends[sprintf("pile_%d", seats)], use.names = FALSE)),
       x = "rounds played", y = "cards in the pile", loop = war_loop(trace), note = "Sizes between rounds.")
}

war_examples <- list(
  games = c("habanera games war --format json"),
  play = c("habanera play war --trials 1e6 --seed 1",
           "habanera play war --set face_down=1 --set cards_each=13 --expect 'rounds_p90 < 400'",
           "habanera play war --deck orchard.csv --set rank_by=rank --set collect=seat_order --shuffle \"riffle x3\"",
           "habanera play war --deck \"numbered 8\" --exact"),
  replay = c("habanera replay war --seed 1 --trial 3 --steps 20",
             "habanera replay war --set collect=seat_order --seed 1 --where 'ended == \"never_ends\"' --steps 20",
             "habanera replay war --seed 1 --longest rounds --format json"),
  vary = c("habanera vary war --over face_down=0:3 --over cards_each=6,13,26 --want 'rounds_p90 * 6 <= 900'",
           "habanera vary war --over collect=winner_first,seat_order --seconds-per-round 6 --figure vary.png"),
  tune = "habanera tune war --rules quick-game.yaml --wishes quick-game-wishes.yaml --seconds-per-round 6 --seed 1",
  compare = c("habanera compare war --other face_down=1 --seed 1",
              "habanera compare war --rules quick-game.yaml --other collect=winner_first --report compare.html"),
  impact = c("habanera impact war --by rank --seed 1",
             "habanera impact war --deck orchard.csv --set rank_by=rank --outcome rounds")
)
