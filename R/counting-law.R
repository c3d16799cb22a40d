#' The law of the count
#'
#' How the running and the true count are distributed once so many cards of a shoe are dealt, exactly.
#'
#' The cards dealt are a sample without replacement: cards of each tag are added in turn, by how many of them came
#' (multivariate hypergeometric; Feller 1968, An Introduction to Probability Theory, vol. 1, section II.6).
#'
#' @param system A [counting_system()], or the name of a plain one.
#' @param game A game dealt from a shoe, or the shoe itself, as cards.
#' @param dealt How many cards are dealt.
#' @return A `habanera_count_law`, a data frame: `running_count`, `true_count`, `probability`. `tidy()`: `term`
#'   ("running_count", "true_count"), `estimate` (the mean), `sd`.
#' @section Errors: `habanera_error_input` for more cards than there are, for an endless shoe, for a rank without a tag.
#' @examples
#' true_count_distribution(game_blackjack(), "level one balanced", 156)
#' @export
true_count_distribution <- function(game, system, dealt) {
  check_given()
  call <- rlang::current_env()
  system <- check_system(system, call)
  shoe <- if (is_cards(game)) game else checked_game(game)$deck
  if (!is_cards(game) && kind_of(game)$afresh(game$rules)) refuse("An endless shoe has no count.", call = call)
  check_whole(dealt, 0, length(shoe) - 1)
  unit <- tag_parts()
  tags <- unit * tags_of_kinds(system, shoe, call)
  copies <- tapply(kinds_of(shoe)$copies, tags, sum)
  law <- sum_of_sample(as.numeric(names(copies)), as.vector(copies), dealt)
  decks <- length(shoe) / pack_size(game)
  running <- law$sum / unit + system$initial + system$initial_per_deck * decks
  rows <- data.frame(running_count = running,
                     true_count = true_counts(system, shoe, pack_size(game), running, length(shoe) - dealt, call),
                     probability = law$probability)
  structure(rows, made = call_made(), class = table_class("habanera_count_law"),
            system = system, dealt = dealt, cards = length(shoe))
}

# How many cards make a deck; a shoe given by hand is told in decks of 52.
pack_size <- function(game) if (is_cards(game)) 52 else length(game$rules$deck)

# As players have them in mind, of running counts with so many cards left.
true_counts <- function(system, shoe, pack, running, left, call) {
  spec <- core_count_system(system, shoe, pack, call)
  found <- core_true_counts(spec, round(running * spec$unit), rep_len(left, length(running)))
  if (system$rounded == "none") found$exact else found$level
}

# The law of the sum of whole tags in a sample of so many cards.
sum_of_sample <- function(tags, copies, size) {
  reach <- size * max(abs(tags))
  ways <- matrix(0, size + 1, 2 * reach + 1)
  ways[1, reach + 1] <- 1
  for (i in seq_along(tags)) {
    more <- 0 * ways
    for (taken in 0:min(copies[i], size)) {
      from <- seq_len(size + 1 - taken)
      shift <- taken * tags[i]
      columns <- seq_len(ncol(ways))
      columns <- columns[columns + shift >= 1 & columns + shift <= ncol(ways)]
      more[from + taken, columns + shift] <- more[from + taken, columns + shift] +
        stats::dbinom(taken, copies[i], 0.5) * ways[from, columns]
    }
    ways <- more
  }
  # Given how many are taken, fair tosses for each card take any of them as likely.
  weight <- ways[size + 1, ]
  kept <- which(weight > 0)
  list(sum = kept - reach - 1, probability = weight[kept] / sum(weight))
}

#' @rawNamespace S3method(generics::tidy, habanera_count_law)
tidy.habanera_count_law <- function(x, ...) {
  moments <- lapply(c("running_count", "true_count"), function(name) {
    mean <- sum(x[[name]] * x$probability)
    data.frame(term = name, estimate = mean, sd = sqrt(sum((x[[name]] - mean)^2 * x$probability)))
  })
  do.call(rbind, moments)
}

#' @export
tell.habanera_count_law <- function(x, rows = 15, ...) {
  found <- tidy(x)
  cat_wrapped(sprintf(paste("<count> %s, after %s of %s cards: the true count is %s on average, with a standard",
                            "deviation of %s; the running count varies by %s. Exact."), attr(x, "system")$name,
                      format_count(attr(x, "dealt")), format_count(attr(x, "cards")),
                      format_number(found$estimate[2], 3), format_number(found$sd[2], 4),
                      format_number(found$sd[1], 4)))
  by_true <- tapply(x$probability, x$true_count, sum)
  shown <- data.frame(`true count` = format(as.numeric(names(by_true))), share = format_percent(as.vector(by_true), 4),
                      check.names = FALSE)
  middle <- which.max(by_true)
  first <- max(1, min(middle - rows %/% 2, length(by_true) - rows + 1))
  print_head(shown[seq(first, length(by_true)), ], rows)
  invisible(x)
}
