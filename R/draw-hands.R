# Recorded hands, judged as hands: not only how often each card came, but what came together.

# The hands behind counts: `kinds`, a row for each; `in_order`, whether all are written in one order; NULL where only
# counts are known, or a hand is one card.
recorded_hands <- function(kinds, deck) {
  if (ncol(kinds) < 2) return(NULL)
  list(kinds = kinds, in_order = written_in_order(kinds, deck))
}

# By the deck, or by rank, up or down: what so many hands do not by chance.
written_in_order <- function(kinds, deck) {
  size <- ncol(kinds)
  if (nrow(kinds) * lfactorial(size) < log(1000)) return(FALSE)
  # Most show in a few rows that they are not.
  if (nrow(kinds) > 1000 && !written_in_order(utils::head(kinds, 1000), deck)) return(FALSE)
  data <- catalogue_of(deck)$data[kinds_of(deck)$codes, , drop = FALSE]
  keys <- c(list(seq_len(nrow(data))), data[intersect(c("rank_high", "rank"), names(data))])
  keys <- Filter(function(key) is.numeric(key) && !anyNA(key), keys)
  any(vapply(keys, function(key) {
    value <- matrix(key[kinds], nrow(kinds))
    step <- value[, -1, drop = FALSE] - value[, -size, drop = FALSE]
    all(step >= 0) || all(step <= 0)
  }, NA))
}

# A row for each test that there can be: `term`, `statistic`, `df` (NA where simulated), `p.value`, `p.adjusted` (Holm
# 1979, Scand. J. Statist. 6, 65-70, over all), and `off`, what is furthest from what is expected, in words.
judged_hands <- function(plan) {
  tests <- c(list(card_test(plan)), hand_tests(plan), list(place_test(plan), repeat_test(plan)))
  found <- do.call(rbind, Filter(Negate(is.null), tests))
  found$p.adjusted <- stats::p.adjust(found$p.value, "holm")
  rownames(found) <- NULL
  found[c("term", "statistic", "df", "p.value", "p.adjusted", "off")]
}

# What all tests need: the hands that can be dealt (`fair`), those in which a card is there too often (`doubled`), and
# the kinds with their copies and attributes.
hand_plan <- function(x) {
  experiment <- x$provenance$experiment
  kinds <- kinds_of(experiment$deck)
  held <- x$hands$kinds
  doubled <- doubled_rows(held, kinds$copies)
  fair <- if (experiment$replace) held else held[!doubled, , drop = FALSE]
  list(counts = x, experiment = experiment, kinds = kinds, size = ncol(held), held = held, fair = fair,
       doubled = doubled, in_order = x$hands$in_order,
       data = catalogue_of(experiment$deck)$data[kinds$codes, , drop = FALSE])
}

# Rows that hold a kind more often than there are copies of it.
doubled_rows <- function(kinds, copies) {
  size <- ncol(kinds)
  if (all(copies == 1)) {
    twice <- rep(FALSE, nrow(kinds))
    for (one in seq_len(size - 1)) for (other in (one + 1):size) twice <- twice | kinds[, one] == kinds[, other]
    return(twice)
  }
  runs <- rle(sort((rep(seq_len(nrow(kinds)), size) - 1) * length(copies) + as.vector(kinds)))
  kind <- (runs$values - 1) %% length(copies) + 1
  over <- (runs$values[runs$lengths > copies[kind]] - 1) %/% length(copies) + 1
  seq_len(nrow(kinds)) %in% over
}

test_row <- function(term, statistic, df, p, off) {
  data.frame(term = term, statistic = statistic, df = as.double(df), p.value = p, off = off)
}

# Single cards, as for any draws.
card_test <- function(plan) {
  x <- plan$counts
  cells <- fit_table(list(outcomes = x$outcomes, n = x$n, law = fair_law(plan$experiment, plan$kinds$copies)),
                     trial_count(x))
  law <- fair_law(plan$experiment, plan$kinds$copies)
  test <- scaled_chi_square(x$n, cells$expected, law$factor, law$df, trial_count(x))
  if (is.na(test$statistic)) return(NULL)
  worst <- cells[which.max(abs(cells$z)), ]
  test_row("single cards", test$statistic, test$df, if (test$too_few) 1 else test$p.value,
           off_in_words(worst$card, worst$count, worst$expected))
}

off_in_words <- function(what, count, expected) {
  sprintf("%s comes %s, %s expected", what, count_of(count, "time"),
          if (expected >= 100) format_count(round(expected)) else format_number(expected, 3))
}

# What hands are, of those that can be dealt: by its law where they are many, else beside hands that were simulated.
hand_tests <- function(plan) {
  hands <- nrow(plan$fair)
  if (hands < fewest_hands || plan$experiment$replace) return(list())
  traits <- hand_traits(plan)
  simulated <- NULL
  beside <- function(statistic_of, observed) {
    if (is.null(simulated)) simulated <<- simulated_hands(plan)
    simulated_p_value(observed / hands, statistic_of(simulated$kinds, simulated$block) / simulated$hands)
  }
  c(list(pair_test(plan, beside)), lapply(names(traits), function(name) {
    (if (is.null(traits[[name]]$values)) trait_test else trait_mean_test)(name, traits[[name]], plan, beside)
  }))
}

fewest_hands <- 10

# Pairs of cards that lie in one hand: counts of pairs with the single-card part taken off, squared. Of distinct cards
# these lie in the space of the Johnson scheme on which a hand of s of n has the eigenvalue C(n - 4, s - 2) / C(n, s),
# of n (n - 3) / 2 dimensions (Delsarte 1973, An algebraic approach to the association schemes of coding theory, section
# 4.2), so that over it and the number of hands their sum has the chi-square law where no pair is rare.
pair_test <- function(plan, beside) {
  n <- length(plan$kinds$copies)
  size <- plan$size
  hands <- nrow(plan$fair)
  distinct <- all(plan$kinds$copies == 1)
  cards <- length(plan$experiment$deck)
  if (n < 4 || cards < size + 2) return(NULL)
  found <- pair_squares(plan$fair, rep(1L, hands), 1, n)
  eigenvalue <- choose(cards - 4, size - 2) / choose(cards, size)
  df <- n * (n - 3) / 2
  often <- size * (size - 1) / (cards * (cards - 1)) * hands
  statistic <- found$statistic / (hands * eigenvalue)
  exact <- distinct && often >= 5
  p <- if (exact) stats::pchisq(statistic, df, lower.tail = FALSE) else {
    beside(function(kinds, block) pair_squares(kinds, block, max(block), n)$statistic / eigenvalue, statistic * hands)
  }
  names <- plan$kinds$cards[c(found$one, found$other)]
  test_row("pairs of cards", statistic, if (exact) df else NA, p,
           sprintf("%s with %s", names[1], off_in_words(names[2], found$count, found$expected)))
}

# By block: the sum of squares; of a single block also the pair that is furthest off.
pair_squares <- function(kinds, block, blocks, n) {
  size <- ncol(kinds)
  pairs <- n * n
  count <- numeric(blocks * pairs)
  for (one in seq_len(size - 1)) for (other in (one + 1):size) {
    count <- count + tabulate((block - 1) * pairs + (kinds[, one] - 1) * n + kinds[, other], blocks * pairs)
  }
  count <- array(count, c(n, n, blocks))  # [other, one, block]
  upper <- which(row(diag(n)) > col(diag(n)))
  statistic <- numeric(blocks)
  for (b in seq_len(blocks)) {
    both <- matrix(count[, , b], n)
    both <- both + t(both)
    diag(both) <- 0
    # The part that single cards explain, and the mean, taken off.
    of_card <- rowSums(both)
    total <- sum(of_card) / 2
    effect <- (of_card - 2 * total / n) / (n - 2)
    rest <- both - outer(effect, effect, "+") - 2 * total / (n * (n - 1))
    statistic[b] <- sum(rest[upper]^2)
  }
  found <- list(statistic = statistic)
  if (blocks > 1) return(found)
  at <- upper[which.max(abs(rest[upper]))]
  c(found, list(one = col(both)[at], other = row(both)[at], count = both[at], expected = both[at] - rest[at]))
}

# What a hand is otherwise, each with its law: a list of `law` (chances by name) and `of`, which gives for hands the
# places of theirs in it.
hand_traits <- function(plan) {
  deck <- plan$experiment$deck
  size <- plan$size
  category <- category_trait(plan)
  attributes <- intersect(c("rank", "suit"), names(plan$data))
  attributes <- Filter(function(name) {
    values <- as.character(plan$data[[name]])
    !anyNA(values) && length(unique(values)) %in% 2:100 && length(unique(values)) < length(values)
  }, attributes)
  different <- lapply(rlang::set_names(attributes, sprintf("different %ss", attributes)), different_trait, plan = plan)
  c(if (!is.null(category)) list(categories = category),
    lapply(rlang::set_names(attributes, sprintf("%ss", attributes)), group_trait, plan = plan),
    Filter(Negate(is.null), different))
}

# Of decks with ranks and suits, against the exact odds.
category_trait <- function(plan) {
  ranked <- !is.null(plan$data$suit) && !anyNA(plan$data$suit) && !is.null(plan$data$rank) && plan$size <= 9
  if (!ranked) return(NULL)
  odds <- tryCatch(category_odds(plan$experiment$deck, plan$size), habanera_error = function(cnd) NULL)
  if (is.null(odds)) return(NULL)
  rules <- attr(odds, "rules")
  catalogue <- catalogue_of(plan$experiment$deck)
  bound <- core_hand_rules(bound_hand_rules(rules, catalogue, plan$kinds$codes, NULL))
  list(law = rlang::set_names(odds$probability, odds$category), of = function(kinds) {
    codes <- plan$kinds$codes[as.vector(t(kinds))]
    category <- core_hand_worth(bound, codes, rep(as.integer(plan$size), nrow(kinds)))$category
    length(bound$names) - category
  })
}

# How many different ranks, or suits, a hand holds.
different_trait <- function(name, plan) {
  groups <- match(plan$data[[name]], unique(plan$data[[name]]))
  law <- different_law(as.vector(rowsum(plan$kinds$copies, groups)), plan$size)
  if (sum(law > 0) < 2) return(NULL)
  list(law = law, values = seq_along(law), of = function(kinds) {
    group <- matrix(groups[kinds], nrow(kinds))
    different <- rep(1, nrow(kinds))
    for (at in seq_len(ncol(kinds))[-1]) {
      before <- rep(FALSE, nrow(kinds))
      for (other in seq_len(at - 1)) before <- before | group[, at] == group[, other]
      different <- different + !before
    }
    different
  })
}

# The chances of 1, 2, ... different groups in so many cards: ways by group, one after the other.
different_law <- function(copies, size) {
  ways <- matrix(0, size + 1, size + 1)  # cards so far, groups so far
  ways[1, 1] <- 1
  for (copy in copies) {
    before <- ways
    for (taken in seq_len(min(copy, size))) {
      from <- seq_len(size + 1 - taken)
      ways[from + taken, -1] <- ways[from + taken, -1] + choose(copy, taken) * before[from, -(size + 1)]
    }
  }
  ways[size + 1, -1] / choose(sum(copies), size)
}

# How often each rank, or suit, comes: of all cards of a hand.
group_trait <- function(name, plan) {
  values <- as.character(plan$data[[name]])
  names <- unique(values)
  groups <- match(values, names)
  copies <- as.vector(rowsum(plan$kinds$copies, groups))
  list(law = rlang::set_names(copies / sum(copies), names), each = plan$size,
       factor = (sum(copies) - 1) / (sum(copies) - plan$size), of = function(kinds) groups[kinds])
}

trait_test <- function(name, trait, plan, beside) {
  hands <- nrow(plan$fair)
  each <- if (is.null(trait$each)) 1 else trait$each
  factor <- if (is.null(trait$factor)) 1 else trait$factor
  cells <- length(trait$law)
  n <- as.double(tabulate(trait$of(plan$fair), cells))
  expected <- hands * each * trait$law
  far <- abs(n - expected) / sqrt(pmax(expected * (1 - trait$law), 1e-9))
  if (any(expected >= 5)) far[expected < 5] <- 0
  off <- which.max(far)
  words <- off_in_words(names(trait$law)[off], n[off], expected[off])
  possible <- trait$law > 0
  # Cells of few hands are put together where there are many, and judged beside simulated hands where there are not.
  if (hands >= 200 && sum(expected >= 5) > 1) {
    test <- pooled_chi_square(n[possible], expected[possible])
    return(test_row(name, test$statistic * factor, test$df, if (is.infinite(test$statistic)) 0 else
      stats::pchisq(test$statistic * factor, test$df, lower.tail = FALSE), words))
  }
  squares <- function(n, hands) sum((n[possible] - hands * each * trait$law[possible])^2 / trait$law[possible])
  p <- beside(function(kinds, block) {
    blocks <- max(block)
    found <- matrix(tabulate(rep(block, each) * cells + trait$of(kinds) - cells, cells * blocks), cells)
    apply(found, 2, squares, nrow(kinds) / blocks)
  }, squares(n, hands))
  test_row(name, squares(n, hands) / hands / each * factor, NA, p, words)
}

# A number of each hand, by its mean.
trait_mean_test <- function(name, trait, plan, beside) {
  hands <- nrow(plan$fair)
  mean <- sum(trait$law * trait$values)
  spread <- sqrt(sum(trait$law * trait$values^2) - mean^2)
  number <- trait$of(plan$fair)
  squared <- function(numbers) ((mean(numbers) - mean) / spread)^2
  statistic <- hands * squared(number)
  p <- if (hands >= 200) stats::pchisq(statistic, 1, lower.tail = FALSE) else {
    beside(function(kinds, block) as.vector(tapply(trait$of(kinds), block, squared)) * nrow(kinds) / max(block),
           statistic)
  }
  test_row(name, statistic, if (hands >= 200) 1 else NA, p,
           sprintf("a hand holds %s on average, %s expected", format_number(mean(number), 4), format_number(mean, 4)))
}

# Fair hands in blocks of as many as there are, or as many as tell the law of a statistic: by trials of seed 1.
simulated_hands <- function(plan) {
  hands <- min(nrow(plan$fair), 2000)
  blocks <- max(199, min(1999, floor(3e5 / hands)))
  spec <- draw_spec(plan$experiment$deck, plan$size, FALSE, FALSE, shuffle_uniform())
  list(kinds = core_trial_draws(spec, 1, as.double(seq_len(blocks * hands))), hands = hands,
       block = rep(seq_len(blocks), each = hands))
}

# The share of simulated statistics that are as large; beyond them, by a gamma law of the same mean and variance.
simulated_p_value <- function(observed, simulated) {
  above <- sum(simulated >= observed * (1 - 1e-12))
  share <- (1 + above) / (1 + length(simulated))
  if (above > 9 || stats::var(simulated) == 0) return(share)
  rate <- mean(simulated) / stats::var(simulated)
  min(share, max(stats::pgamma(observed, mean(simulated) * rate, rate, lower.tail = FALSE), 1e-15))
}

# Which card lies where in a hand, of hands that are not written in order: in how many of each card's hands it is first,
# second ... The deviations of a hand from its mean have the eigenvalue 1 / (n - 1) on (n - 1) (s - 1) dimensions.
place_test <- function(plan) {
  n <- length(plan$kinds$copies)
  hands <- nrow(plan$fair)
  if (plan$in_order || any(plan$kinds$copies > 1) || hands < 5 * n || plan$experiment$replace) return(NULL)
  count <- matrix(tabulate((rep(seq_len(plan$size), each = hands) - 1) * n + as.vector(plan$fair), n * plan$size), n)
  off <- count - rowMeans(count)
  df <- (n - 1) * (plan$size - 1)
  statistic <- sum(off^2) * (n - 1) / hands
  at <- which.max(abs(off))
  test_row("place in the hand", statistic, df, stats::pchisq(statistic, df, lower.tail = FALSE),
           sprintf("at place %d %s", col(count)[at], off_in_words(plan$kinds$cards[row(count)[at]], count[at],
                                                                 (count - off)[at])))
}

# How many hands hold a card more often than the pack has it: none without replacement, and with it about as many as its
# law says.
repeat_test <- function(plan) {
  came <- sum(plan$doubled)
  hands <- nrow(plan$held)
  if (!plan$experiment$replace && came == 0) return(NULL)
  chance <- if (plan$experiment$replace) chance_of_repeat(plan$kinds$copies, plan$size) else 0
  p <- if (chance == 0) 0 else stats::binom.test(came, hands, chance)$p.value
  test_row("repeats within a hand", came, NA, p,
           sprintf("%s hold%s a card more often than the pack has it, %s expected", count_of(came, "hand"),
                   if (came == 1) "s" else "", if (chance == 0) "none" else format_number(hands * chance, 3)))
}

# With replacement: that some kind comes more often than there are copies of it; by how many ways there are that none
# does, kind by kind.
chance_of_repeat <- function(copies, size) {
  share <- copies / sum(copies)
  ways <- c(1, numeric(size))
  for (kind in seq_along(copies)) {
    times <- 0:min(copies[kind], size)
    add <- share[kind]^times / factorial(times)
    ways <- vapply(0:size, function(cards) {
      of <- times[times <= cards]
      sum(add[of + 1] * ways[cards - of + 1])
    }, 0)
  }
  1 - factorial(size) * ways[size + 1]
}
