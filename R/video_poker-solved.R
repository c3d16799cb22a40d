# Pay-table poker worked out: best play, advice, mistakes.

# Best play, as best_strategy() gives it.
best_keep <- function(game, call) {
  game <- change_game(game, list(players = player_solved()), call)
  law <- exact(recording(game, c("category", "net")))
  lines <- data.frame(line = law$outcomes[["category"]], pays = law$outcomes[["net"]] + 1,
                      probability = law$probability)
  lines <- lines[order(-lines$pays, lines$probability), ]
  lines$contribution <- lines$pays * lines$probability
  rownames(lines) <- NULL
  structure(list(game = game, lines = lines, moments = pay_moments(lines$pays, lines$probability)),
            made = call_made(), class = result_class("habanera_best_keep"))
}

#' @export
as.data.frame.habanera_best_keep <- function(x, row.names = NULL, optional = FALSE, ...) x$lines

#' @rawNamespace S3method(generics::tidy, habanera_best_keep)
tidy.habanera_best_keep <- function(x, ...) {
  data.frame(term = pay_terms, estimate = pay_estimates(x$moments, 1))
}

#' @export
tell.habanera_best_keep <- function(x, ...) {
  edge <- 1 - x$moments$mean
  cat_wrapped(sprintf("<best play> It returns %s: %s. %s.", format_percent(x$moments$mean, 6), edge_in_words(edge),
                      game_in_words(x$game, "players")))
  cat_wrapped(sprintf("Something is paid in %s of the rounds, and a round varies by %s stakes (standard deviation).",
                      format_percent(x$moments$hit, 4), format_number(x$moments$sd, 4)))
  print_rows(data.frame(line = x$lines$line, pays = vapply(x$lines$pays, format_money, ""),
                        chance = format_percent(x$lines$probability, 4), `1 in` = one_in_odds(x$lines$probability),
                        brings = format_percent(x$lines$contribution, 4), check.names = FALSE))
  invisible(x)
}

# What each line pays, and the edge by other pays, which best play makes the most of.
video_poker_price_lines <- function(game, call) {
  player <- game$rules$players[[1]]
  spec <- game$spec$rules
  deck <- if (player$name == "solved") core_keep_deck(spec)
  names <- kind_of(game)$cards(game$rules, game$deck, NULL, NULL, call)$bound$names
  list(now = game$rules$pays, edge_of = function(pays) {
    if (is.null(deck)) return(edge_by_walk(change_game(game, list(pays = pays), call), "net"))
    units <- pays[names] * price_units
    1 - core_keep_mean(deck, ifelse(is.na(units), 0, round(units))) / price_units
  })
}

# The edges of games that differ in their pays alone and are best played, all at once; NULL for others.
video_poker_edges <- function(games, threads) {
  others <- setdiff(names(games[[1]]$spec$rules), c("pays", "stake", "lines"))
  alike <- vapply(games, function(game) {
    game$rules$players[[1]]$name == "solved" && identical(game$spec$rules[others], games[[1]]$spec$rules[others])
  }, NA)
  if (!all(alike)) return(NULL)
  pays <- vapply(games, function(game) game$spec$rules$pays / game$spec$rules$stake,
                 numeric(length(games[[1]]$spec$rules$pays)))
  parts <- split(seq_along(games), rep_len(seq_len(threads), length(games)))
  means <- over_cores(parts, if (length(games) > 500) threads else 1, function(part) {
    core_keep_means(games[[1]]$spec$rules, t(pays[, part, drop = FALSE]))
  })
  1 - unsplit(means, rep_len(seq_len(threads), length(games)))
}

# Pays are solved for to a thousandth.
price_units <- 1000

# The hand's kinds, which must be one hand of the deck.
dealt_hand <- function(game, cards, call) {
  held <- named_cards(cards, game$deck, "cards", call)
  size <- game$rules$cards
  if (length(held) != size) {
    refuse(sprintf("`cards` must be the %s of a hand, not %s.", count_of(size, "card"), count_of(length(held), "card")),
           call = call)
  }
  parted_deck(game$deck, held, NULL, call)
  held
}

video_poker_advice <- function(game, cards, up_card, hands, working, call) {
  if (!is.null(up_card)) refuse("Nobody shows a card here: no `up_card`.", call = call)
  if (working || hands != 1) refuse("`working` and `hands` are of blackjack.", call = call)
  held <- dealt_hand(game, cards, call)
  worth <- core_keep_ways(game$spec$rules, match(codes_of(held), kinds_of(game$deck)$codes))
  kept <- vapply(seq_along(worth) - 1, kept_text, "", as.character(held))
  list(move = kept, expected = worth / game$spec$rules$stake - 1, held = held, up_card = NULL)
}

# The cards that the bits of a number keep.
kept_text <- function(kept, cards) {
  at <- kept %/% 2^(seq_along(cards) - 1) %% 2 == 1
  if (any(at)) paste("keep", paste(cards[at], collapse = " ")) else "keep nothing"
}

video_poker_mistakes <- function(game, call) {
  player <- game$rules$players[[1]]
  cards <- kind_of(game)$cards(game$rules, game$deck, NULL, NULL, call)
  lines <- unique(c(if (player$name == "keep") keep_lines(player), describing_lines(game, cards$bound$ranks)))
  found <- core_keep_mistakes(game$spec$rules, cards$keep(lines))
  stake <- game$spec$rules$stake
  labels <- c(lines, "nothing", "one card", paste(number_words[2:5], "cards"))
  hands <- lapply(found$hands, function(hand) kinds_of(game$deck)$cards[hand])
  text <- function(kept) as.character(mapply(kept_text, kept, hands))
  rows <- data.frame(played = labels[found$played], best = labels[found$best],
                     hand = vapply(hands, paste, "", collapse = " "), kept = text(found$kept),
                     should = text(found$should), cost = found$loss / found$how_often / stake,
                     how_often = found$how_often, loss = found$loss / stake)
  best_edge <- edge_by_walk(change_game(game, list(players = player_solved()), call), "net")
  list(rows = rows, edge = best_edge + sum(rows$loss), best_edge = best_edge, best = "best play")
}

# Lines that describe what of a hand is kept, from the most telling to the least.
describing_lines <- function(game, ranks) {
  size <- game$rules$cards
  paid <- names(game$rules$pays)[game$rules$pays > 0]
  whole <- intersect(c("royal flush", "straight flush", "flush", "straight"),
                     vapply(paid, function(line) category_parts(line, NULL)$category, ""))
  towards <- function(cards, kinds) if (cards >= 1) sprintf("%s to a %s", number_words[cards], intersect(kinds, whole))
  c(setdiff(paid, "high card"),
    towards(size - 1, c("royal flush", "straight flush", "flush")),
    if ("straight" %in% whole && size > 2) sprintf("%s to an %s straight", number_words[size - 1], c("open", "inside")),
    if (size > 2) c(towards(size - 2, c("royal flush", "straight flush", "flush")), "any pair"),
    sprintf("%s of %s or better", c("three cards", "two suited cards", "two cards", "one card"),
            ranks[max(1, length(ranks) - 3)]))
}
