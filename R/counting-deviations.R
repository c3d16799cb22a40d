#' Where play should go by the count
#'
#' From which true count on each cell of a strategy should be played otherwise, what each such change gains, and the few
#' that bring nearly all.
#'
#' At each count the cards not yet seen are taken as they are on average, given that the player knows this count once a
#' share `depth` of the shoe is dealt (by the exact law of the count, see [true_count_distribution()]): a shoe of
#' fractions, in which each move of a hand of two cards is worked out exactly, with best play after it; the count is
#' that with the hand and the up card seen. A cell is changed from the smallest whole count from which on the other move
#' stays better, or below the largest below which it does. What a change gains is its advantage at each count, weighed
#' by how often the cell comes up in such a shoe, with hands of more cards and after splits, and by the law of the
#' count; bets by the count are in it. Beside it stands what shoes bring, dealt to the game's `cut_after` (where it has
#' none, to the middle between `depth` and the end): wherever the change is made, the round is played from there both
#' ways with the same cards.
#'
#' @param game A [game_blackjack()].
#' @param system A [counting_system()], or the name of a plain one.
#' @param strategy The table that is departed from.
#' @param range True counts looked at, rising.
#' @param depth The share of the shoe that is dealt.
#' @param bets A [bet_ramp()], or what it takes.
#' @param nsim,seed,threads,progress For the simulations, as in [simulate()][simulate.habanera_experiment]; shoes. With
#'   `nsim` 0 there are none.
#' @return A `habanera_found_deviations`, a data frame, those that gain most first: `hand`, `up_card`, `from`, `below`,
#'   `move` as in [deviations()], `instead_of`, `gain` (stakes in a hundred rounds), `share` (of what all gain),
#'   `main` (whether it is among the fewest that bring nine tenths), `simulated`, `std.error` (by shoe; `NA` where not
#'   simulated). It is taken by [deviations()], [player_counting()] and [write_deviations()].
#' @section Errors: `habanera_error_input` for another game, a player who is no table, and a range that does not rise.
#' @seealso [best_strategy()] for play without the count.
#' @examples
#' find_deviations(game_blackjack(packs = 2), range = -4:4, nsim = 0)
#' @export
find_deviations <- function(game, system = "level one balanced", strategy = player_basic(), range = -10:10,
                            depth = 0.5, bets = 1, nsim = 50000, seed = NULL, threads = NULL,
                            progress = NULL) {
  check_given()
  call <- rlang::current_env()
  local_progress("Finding deviations", progress)
  checked_game(game)
  capability(game, "counts", rlang::current_env())
  if (kind_of(game)$afresh(game$rules)) refuse("An endless shoe has no count.")
  system <- check_system(system, call)
  if (rlang::is_string(strategy)) strategy <- player_from_text(strategy, call)
  if (!inherits(strategy, "habanera_player") ||
      is.null(strategy$cells)) refuse("`strategy` must be a table, such as player_basic().")
  fits <- is.numeric(range) && length(range) > 1 && !anyNA(range) && all(range == round(range)) && all(diff(range) == 1)
  if (!fits) refuse(sprintf("`range` must be whole counts that rise by one, such as -10:10, not %s.", said(range)))
  check_between(depth, 0, 1)
  check_whole(nsim, 0, 1e9)
  bets <- check_ramp(bets, call)
  whole <- without_cut(change_game(game, list(players = strategy), call))
  shoes <- shoes_by_count(whole, system, round(depth * length(whole$deck)), range, call)
  threads <- resolve_threads(threads, call)
  found <- changed_cells(whole, system, strategy, shoes, threads, call)
  if (!nrow(found)) refuse("No cell of the strategy changes in this range.")
  found <- priced_changes(found, whole, strategy, shoes, bets, call)
  found <- simulated_changes(found, game, strategy, system, bets,
                             list(nsim = nsim, seed = if (nsim > 0) resolve_seed(seed, call),
                                  threads = threads, depth = depth), call)
  structure(found,
            made = call_made(), class = table_class("habanera_found_deviations", "habanera_deviations"), game = whole,
            system = system, strategy = strategy, depth = depth, nsim = nsim)
}

# At each true count: its `chance` once so many cards are dealt, and how many of each kind are then `left` on average, a
# column each. A card is left with the chance that the others alone make up the count.
shoes_by_count <- function(game, system, dealt, range, call) {
  shoe <- game$deck
  copies <- kinds_of(shoe)$copies
  tags <- tags_of_kinds(system, shoe, call)
  step <- tag_step(tags)
  start <- system$initial + system$initial_per_deck * length(shoe) / pack_size(game)
  by_count <- function(copies) {
    groups <- tapply(copies, round(tags / step), sum)
    law <- sum_of_sample(as.numeric(names(groups)), as.vector(groups), dealt)
    counts <- floor(true_counts(system, shoe, pack_size(game), start + step * law$sum, length(shoe) - dealt, call))
    shares <- tapply(law$probability, factor(counts, range), sum)
    ifelse(is.na(shares), 0, as.vector(shares))
  }
  chance <- by_count(copies)
  others <- lapply(unique(tags), function(tag) {
    one <- match(tag, tags)
    by_count(replace(copies, one, copies[one] - 1))
  })
  kept <- (length(shoe) - dealt) / length(shoe)
  left <- vapply(seq_along(tags), function(kind) {
    kept * copies[kind] * others[[match(tags[kind], unique(tags))]] / chance
  }, numeric(length(range)))
  list(counts = range[chance > 1e-12], chance = chance[chance > 1e-12],
       left = t(left)[, chance > 1e-12, drop = FALSE])
}

# What all tags are whole multiples of.
tag_step <- function(tags) {
  quarters <- abs(round(4 * tags[tags != 0]))
  if (length(quarters)) Reduce(function(a, b) greatest_divisor(c(a, b)), quarters) / 4 else 1
}

# Cells of which another move is better at some counts: first looked for at a few counts, then settled count by count.
changed_cells <- function(game, system, strategy, shoes, threads, call) {
  worked <- able(game, "counts")$cells(game, call)
  entries <- worked$move(strategy)
  few <- unique(round(seq(1, length(shoes$counts), length.out = min(5, length(shoes$counts)))))
  tables <- lapply(few, function(i) worked$expected(shoes$left[, i]))
  rows <- over_cores(which(!is.na(entries)), threads, function(row) {
    cell <- worked$cells[row, ]
    values <- lapply(tables, function(table) {
      at <- table[["hand"]] == cell$hand & table[["up_card"]] == cell$up_card
      rlang::set_names(table[["expected"]][at], table[["move"]][at])
    })
    played <- entry_move(entries[row], names(values[[1]]))
    if (is.na(played)) return(NULL)
    settle <- function(better, above) {
      settled_change(worked, row, played, better, shoes, few, advantages(values, better, played), above)
    }
    best <- vapply(values[c(1, length(values))], function(worth) names(which.max(worth)), "")
    changes <- list(if (best[2] != played) settle(best[2], TRUE), if (best[1] != played) settle(best[1], FALSE))
    changes <- apart(do.call(rbind, changes))
    if (is.null(changes)) return(NULL)
    data.frame(hand = cell$hand, up_card = cell$up_card, changes, instead_of = entries[row])
  })
  rows <- do.call(rbind, rows)
  if (is.null(rows)) return(data.frame())
  rows$move <- unlist(Map(entry_for, rows$better, rows$instead_of))
  rows[rows$move != rows$instead_of, ]
}

# Where what is played is best at no count, the change that holds from some count on goes before that which holds below.
apart <- function(changes) {
  if (is.null(changes) || nrow(changes) < 2) return(changes)
  from <- changes$from[1]
  below <- changes$below[2]
  if (is.na(from) || changes$better[1] == changes$better[2] && (is.na(below) || from < below)) {
    changes$from[1] <- NA
    return(changes[1, ])
  }
  changes$below[2] <- min(from, below, na.rm = TRUE)
  changes
}

advantages <- function(values, better, played) vapply(values, function(worth) worth[[better]] - worth[[played]], 0)

# The move that an entry stands for, of those that are open.
entry_move <- function(entry, open) {
  moves <- entry_moves[strsplit(entry, "/", fixed = TRUE)[[1]]]
  unname(moves[moves %in% open][1])
}

# As an entry; doubling or giving up, what is else done where that is not allowed stays.
entry_for <- function(move, instead_of) {
  letter <- names(entry_moves)[match(move, entry_moves)]
  other <- sub("^./", "", instead_of)
  if (letter == "D" && !other %in% c("H", "S")) other <- "H"
  if (letter %in% c("D", "R")) paste0(letter, "/", other) else letter
}

# The smallest count from which on (or the largest below which) the move stays better: where the few counts let it be
# expected, and from there count by count.
settled_change <- function(worked, row, played, better, shoes, few, gained, above) {
  counts <- shoes$counts
  is_better <- function(at) {
    worth <- worked$worth(row, shoes$left[, at], c(better, played))
    worth[[better]] > worth[[played]]
  }
  inward <- if (above) -1 else 1
  at <- expected_change(few, gained, above)
  while (!is_better(at)) {
    at <- at - inward
    if (at < 1 || at > length(counts)) return(NULL)
  }
  while (at + inward >= 1 && at + inward <= length(counts) && is_better(at + inward)) at <- at + inward
  data.frame(from = if (above && at > 1) counts[at] else NA_real_,
             below = if (!above && at < length(counts)) counts[at] + 1 else NA_real_, better = better)
}

# From the far end inwards along straight lines, the place where what is gained comes to nothing.
expected_change <- function(few, gained, above) {
  if (!above) {
    few <- rev(few)
    gained <- rev(gained)
  }
  last <- length(few)
  while (last > 1 && gained[last - 1] > 0) last <- last - 1
  if (last == 1 || gained[last] <= 0) return(few[last])
  step <- (few[last] - few[last - 1]) * gained[last] / (gained[last] - gained[last - 1])
  if (above) ceiling(few[last] - step) else floor(few[last] - step)
}

# What each change gains in a hundred rounds: its advantage in shoes of each count in which it is played, bets in it.
priced_changes <- function(found, game, strategy, shoes, bets, call) {
  worked <- able(game, "counts")$cells(game, call)
  sure <- is.na(found$from) & is.na(found$below)
  found$from[sure] <- min(shoes$counts)
  plan <- new_deviations(found, paste("row", seq_len(nrow(found))), call)
  gain <- numeric(nrow(found))
  for (i in seq_along(shoes$counts)) {
    departed <- deviating(strategy, plan, shoes$counts[i])
    lost <- worked$lost(shoes$left[, i], strategy, departed)
    holds <- (is.na(found$from) | found$from <= shoes$counts[i]) & (is.na(found$below) | shoes$counts[i] < found$below)
    at <- match(paste(found$hand, found$up_card), paste(lost$hand, lost$up_card))
    here <- ifelse(holds & !is.na(at), lost$loss[at], 0)
    gain <- gain + 100 * shoes$chance[i] * bets_at(bets, shoes$counts[i]) * here
  }
  found$gain <- gain
  found <- found[order(-gain), c(deviation_columns, "instead_of", "gain")]
  gained <- pmax(found$gain, 0)
  found$share <- gained / sum(gained)
  found$main <- cumsum(found$share) - found$share < 0.9
  rownames(found) <- NULL
  found
}

# On shoes that are dealt without changes: wherever one would have been made, the round is played from there both ways.
simulated_changes <- function(found, game, strategy, system, bets, run, call) {
  found$simulated <- found$std.error <- rep(NA_real_, nrow(found))
  if (run$nsim == 0) return(found)
  if (!is_uniform(game$shuffle)) refuse("Changes are simulated on shoes shuffled uniformly: no `shuffle`.", call = call)
  player <- player_counting(strategy, system, bets, deviations = new_deviations(found, rownames(found), call))
  if (is.null(game$rules$cut_after)) game <- change_game(game, list(cut_after = (1 + run$depth) / 2), call)
  game <- change_game(game, list(players = player, seats = 1), call)
  sums <- able(game, "counts")$departures(game, found, run, call)
  columns <- c("entries", paste(found$hand, found$up_card, seq_len(nrow(found))))
  sums <- trial_sums(sums, columns)
  for (i in seq_len(nrow(found))) {
    ratio <- ratio_of_sums(sums, run$nsim, (columns == columns[i + 1]) * 100 / unit_of(game, "net"),
                           columns == "entries")
    found$simulated[i] <- ratio$estimate
    # What made a difference in few shoes says too little of its error.
    if (sums$held[i + 1] >= enough_differing) found$std.error[i] <- ratio$std.error
  }
  found
}

#' @export
tell.habanera_found_deviations <- function(x, rows = 15, ...) {
  main <- sum(x$main)
  cat_wrapped(sprintf(paste(
    "<deviations> %s of %s bring %s of what play by the count gains, %s stakes in 100 rounds in all (at %s of the shoe",
    "dealt)."), sentence(count_of(main, "change")), format_count(nrow(x)), format_percent(sum(x$share[x$main]), 3),
    format_number(sum(pmax(x$gain, 0)), 3), format_percent(attr(x, "depth"), 2)))
  cat_wrapped(sprintf("%s; counted %s, departing from %s.", in_words(attr(x, "game")), attr(x, "system")$name,
                      format(attr(x, "strategy"))))
  count <- function(values, word) ifelse(is.na(values), "", sprintf("%s %+d", word, as.integer(values)))
  shown <- data.frame(hand = x$hand, up = x$up_card,
                      at = trimws(paste(count(x$from, "from"), count(x$below, "below"))), play = x$move,
                      not = x$instead_of, `gain in 100` = sprintf("%.4f", x$gain), share = format_percent(x$share, 2),
                      check.names = FALSE)
  if (any(!is.na(x$simulated))) {
    half <- ifelse(is.na(x$std.error), "", sprintf(" +/- %.4f", stats::qnorm(0.975) * x$std.error))
    shown$simulated <- ifelse(is.na(x$simulated), "", sprintf("%+.4f%s", x$simulated, half))
  }
  print_head(shown, rows)
  invisible(x)
}
