#' Do bets follow the count?
#'
#' Whether recorded bets rise with the count of the cards seen before them, with an interval, a test and what the test
#' could have seen.
#'
#' The rise is the slope of bets on true counts before the round, \eqn{\sum (b - \bar b)(c - \bar c) / \sum (c - \bar
#' c)^2}{sum((b - mean b)(c - mean c)) / sum((c - mean c)^2)}. Bets of a shoe hang together, and so do counts, so that
#' its error is by shoe: how the slope moves as one shoe after the other is left out (the jackknife: Miller 1974,
#' Biometrika 61, 1-15), with a t distribution of a degree of freedom for each shoe but two. Bets that rise after wins,
#' or with the hour, do not rise with the count but by chance.
#'
#' @param file A CSV file with a row per round, or such a data frame: `shoe` (which one), `bet` (in any money), `cards`
#'   (all that were seen in the round, as codes), in the order played.
#' @param system A [counting_system()], or the name of a plain one.
#' @param game A game dealt from such a shoe.
#' @param rise The rise that should be seen, as a share of the mean bet for each count.
#' @return A `habanera_bets_follow`. `tidy()`: `term` "rise" (money for each count), `estimate`, `std.error`,
#'   `conf.low`, `conf.high` (95%), `statistic`, `p.value` (of no rise, against one), `power` (the chance to see the
#'   rise asked for, at 5%), `shoes_needed` (for a power of 90%). `as.data.frame()`: `shoe`, `bet`, `true_count`.
#' @section Errors: `habanera_error_file` for a missing column, `habanera_error_input` for a bet that is no number,
#'   cards that the shoe does not have, and fewer than five shoes.
#' @examples
#' bets_follow(game_blackjack(), demo_file("bets-at-the-window.csv"), "level one balanced")
#' @export
bets_follow <- function(game, file, system = "level one balanced", rise = 0.2) {
  check_given()
  call <- rlang::current_env()
  system <- check_system(system, call)
  checked_game(game)
  check_between(rise, 0, 10)
  if (kind_of(game)$afresh(game$rules)) refuse("An endless shoe has no count.")
  rounds <- counted_rounds(read_bets(file, call), system, game, call)
  shoes <- unique(rounds$shoe)
  if (length(shoes) < 5) {
    refuse(sprintf("There %s %s; five or more are needed to tell luck from a rise.",
                   if (length(shoes) == 1) "is" else "are", count_of(length(shoes), "shoe")))
  }
  if (all(rounds$true_count == rounds$true_count[1])) refuse("The count never moves; nothing can follow it.")
  structure(list(rounds = rounds, system = system, game = game, rise = rise, shoes = length(shoes),
                 found = rise_of(rounds$bet, rounds$true_count, rounds$shoe, rise * mean(rounds$bet))),
            made = call_made(), class = result_class("habanera_bets_follow"))
}

# The slope of bets on counts with its error by shoe, and the power to see a rise of so much (NA where none was asked).
rise_of <- function(bets, counts, shoes, asked = NA) {
  shoe <- match(shoes, unique(shoes))
  sums <- rowsum(cbind(1, counts, bets, counts * bets, counts^2), shoe)
  slope_of <- function(sums) {
    unname((sums[, 4] - sums[, 2] * sums[, 3] / sums[, 1]) / (sums[, 5] - sums[, 2]^2 / sums[, 1]))
  }
  slope <- slope_of(t(colSums(sums)))
  without <- slope_of(sweep(-sums, 2, colSums(sums), "+"))
  size <- nrow(sums)
  freedom <- size - 2
  error <- sqrt((size - 1) / size * sum((without - mean(without))^2))
  # Bets that never differ do not rise, whatever the count.
  if (!is.finite(error) || error < 1e-12 * max(abs(bets))) error <- 0
  statistic <- if (error > 0) slope / error else 0
  half <- stats::qt(0.975, freedom) * error
  needed <- size * ((stats::qnorm(0.95) + stats::qnorm(0.9)) * error / asked)^2
  data.frame(term = "rise", estimate = slope, std.error = error, statistic = statistic,
             p.value = stats::pt(statistic, freedom, lower.tail = FALSE), conf.low = slope - half,
             conf.high = slope + half, power = power_of_rise(asked / error, freedom),
             shoes_needed = if (error > 0) max(5, ceiling(needed)) else 5)
}

power_of_rise <- function(in_errors, freedom) {
  if (!is.finite(in_errors)) return(NA_real_)
  # Beyond this R's noncentral t loses its digits, and nothing is left to chance.
  if (in_errors > 30) return(1)
  stats::pt(stats::qt(0.95, freedom), freedom, ncp = in_errors, lower.tail = FALSE)
}

# `shoe`, `bet` and `cards` with where each row stands.
read_bets <- function(file, call) {
  if (is.data.frame(file)) {
    refuse_columns_twice(names(file), "`file`", call)
    missing <- setdiff(c("shoe", "bet", "cards"), names(file))
    if (length(missing)) refuse(sprintf("`file` has no column `%s`.", missing[1]), call = call)
    file$line <- seq_len(nrow(file))
    bet <- numbers_of_column(file, "bet", function(row) sprintf("Row %s of `file`", format_count(row)), "input", call,
                             0)
    return(data.frame(shoe = as.character(file$shoe), bet = bet, cards = as.character(file$cards),
                      place = paste("row", file$line)))
  }
  table <- read_csv_columns(file, c("shoe", "bet", "cards"), call)
  data.frame(shoe = table[["shoe"]], bet = numbers_of_file(table, "bet", file, call, 0), cards = table[["cards"]],
             place = sprintf("%s, line %s", file_name(file), format_count(table[["line"]])))
}

# With the true count before each round.
counted_rounds <- function(rounds, system, game, call) {
  cards <- strsplit(gsub("[,;[:space:]]+", " ", trimws(rounds$cards)), " ", fixed = TRUE)
  size <- lengths(cards)
  codes <- named_codes(unlist(cards), rep(rounds$place, size), game$deck, call)
  tags <- tags_of_kinds(system, game$deck, call)[match(codes, kinds_of(game$deck)$codes)]
  row <- factor(rep(seq_len(nrow(rounds)), size), seq_len(nrow(rounds)))
  of_round <- as.vector(tapply(tags, row, sum, default = 0))
  shoe <- match(rounds$shoe, unique(rounds$shoe))
  refuse_overdrawn(codes, shoe[row], rounds$place[row], game$deck, call)
  before <- function(x) stats::ave(x, shoe, FUN = function(each) cumsum(each) - each)
  start <- system$initial + system$initial_per_deck * length(game$deck) / pack_size(game)
  true <- true_counts(system, game$deck, pack_size(game), start + before(of_round), length(game$deck) - before(size),
                      call)
  data.frame(shoe = rounds$shoe, bet = rounds$bet, true_count = true)
}

named_codes <- function(words, places, deck, call) {
  refuse_unnamed <- function(cnd) {
    bad <- which(!words %in% kinds_of(deck)$cards)
    refuse(sprintf("%s: %s is no card of the shoe.", places[bad[1]], quoted(words[bad[1]])), call = call)
  }
  codes <- tryCatch(codes_of(as_cards(words, deck)), habanera_error_notation = refuse_unnamed)
  # Two cards without a space between them are none.
  if (length(codes) == length(words)) codes else refuse_unnamed(NULL)
}

# No shoe has shown more of a card than it holds.
refuse_overdrawn <- function(codes, shoe, places, deck, call) {
  kinds <- kinds_of(deck)
  seen <- stats::ave(rep(1, length(codes)), codes, shoe, FUN = cumsum)
  over <- which(seen > kinds$copies[match(codes, kinds$codes)])
  if (length(over)) {
    card <- kinds$cards[match(codes[over[1]], kinds$codes)]
    refuse(sprintf("%s: that is the %s %s of its shoe, which holds %s.", places[over[1]],
                   ordinal(seen[over[1]]), card, format_count(kinds$copies[match(codes[over[1]], kinds$codes)])),
           "conservation", call)
  }
}

ordinal <- function(n) {
  ending <- if (n %% 100 %in% 11:13) "th" else c("th", "st", "nd", "rd", rep("th", 6))[n %% 10 + 1]
  paste0(n, ending)
}

#' @rawNamespace S3method(generics::tidy, habanera_bets_follow)
tidy.habanera_bets_follow <- function(x, ...) in_tidy_order(x$found)

#' @export
as.data.frame.habanera_bets_follow <- function(x, ...) x$rounds

#' @export
tell.habanera_bets_follow <- function(x, ...) {
  found <- x$found
  cat_wrapped("<bets> ", follow_sentence(found))
  cat_wrapped(sprintf("%s in %s, the mean bet %s; counted %s, %s.", count_of(nrow(x$rounds), "round"),
                      count_of(x$shoes, "shoe"), format_number(mean(x$rounds$bet), 4), x$system$name,
                      true_in_words(x$system)))
  if (!is.na(found$power)) {
    cat_wrapped(sprintf(paste("Bets that rise by %s of the mean bet at each count would be seen in %s of such records;",
                              "in 90%% with %s."), format_percent(x$rise, 2), format_percent(found$power, 3),
                        count_of(found$shoes_needed, "shoe")))
  }
  invisible(x)
}

follow_sentence <- function(found) {
  verdict <- if (found$p.value < 0.01) "The bets follow the count" else if (found$p.value < 0.05) {
    "The bets seem to follow the count"
  } else "Nothing shows that the bets follow the count"
  sprintf("%s: they %s by %s at each count (95%%: %s to %s; p = %s).", verdict,
          if (found$estimate >= 0) "rise" else "fall", format_number(abs(found$estimate), 3),
          format_number(found$conf.low, 3), format_number(found$conf.high, 3), format_number(found$p.value, 2))
}
