#' How many repeats are enough?
#'
#' For each number of repeats of each procedure: how far the deck is from uniform, and how many cards a deck a
#' sharp player would gain by guessing.
#'
#' The total variation distance is exact where a closed form is known ([exact_distance()]) or the deck has at
#' most 6 cards and can be walked; otherwise it is a proven lower bound. On one half of the trials the values of
#' a statistic are found that come oftener than in a uniform shuffle; on the other half the lower limit of
#' Clopper & Pearson (1934) for the chance of that event, less its uniform chance, is such a bound, since no
#' event's chance can differ by more than the distance. Limits hold together with 95% confidence over all
#' statistics and numbers of repeats of a procedure (Bonferroni); 0 when negative. Statistics: those of
#' [audit()], and which card comes first and last, and where the first and the last card go.
#'
#' A number of repeats passes when the distance (or its bound) is below `distance` and the upper end of the 95%
#' interval for the guesser's gain is below `gain`. A bound that passes shows that nothing was seen, not that
#' nothing is there.
#'
#' @param procedures A procedure, or several: a list of procedures or texts for [procedure()], whose names, if
#'   any, are used in tables and figures.
#' @param times Numbers of repeats.
#' @param deck Cards, up to 4,096.
#' @param nsim Trials for each number of repeats.
#' @param seed A whole number, or `NULL`.
#' @param distance,gain The threshold: total variation (0 to 1), and cards gained per deck.
#' @param threads,progress As in [simulate()][simulate.habanera_experiment].
#' @return A `habanera_mixing`, a data frame with a row per procedure and number of repeats: `procedure` (text),
#'   `times`, `seconds` (by hand), `distance`, `exact` (whether it is exact, or a lower bound), `statistic` (that
#'   gave the bound; `NA` for an exact one and where no bound above 0 was found), `gain`, `gain_low`, `gain_high`
#'   (cards per deck, 95%) and `passes`. `autoplot(by = "seconds")` draws it against time.
#' @examples
#' mixing(list("riffle", "overhand"), times = c(0, 1, 4, 7), nsim = 1e4, seed = 1)
#' @export
mixing <- function(procedures, times = 0:12, deck = deck_standard(), nsim = 1e5, seed = NULL, threads = NULL,
                   distance = 0.1, gain = 0.1, progress = NULL) {
  check_given()
  procedures <- check_procedures(procedures)
  check_repeats(times)
  check_whole(nsim, 100, 1e10)
  check_between(distance, 0, 1)
  check_between(gain, 0, 1e6)
  seed <- resolve_seed(seed)
  plan <- audit_plan(deck, 0.05, alike = character(), call = rlang::current_env())
  if (length(deck) < 2) refuse(sprintf("A deck of %s has one arrangement only.", count_of(length(deck), "card")))
  plan$spec$top <- 0
  run <- list(plan = plan, nsim = nsim, seed = seed, threads = resolve_threads(threads, rlang::current_env()),
              level = 0.05 / max(1, sum(times > 0)))
  jobs <- expand.grid(times = times, name = names(procedures), stringsAsFactors = FALSE)
  bar <- local_progress("Shuffling", progress, nrow(jobs))
  rows <- lapply_until_interrupted(seq_len(nrow(jobs)), function(i) {
    mixing_row(procedures[[jobs$name[i]]], jobs$name[i], jobs$times[i], run)
  }, "row", bar)
  table <- do.call(rbind, rows)
  table[["passes"]] <- table[["distance"]] < distance & table[["gain_high"]] < gain
  structure(table,
            made = call_made(), class = table_class("habanera_mixing"),
            deck = deck_in_words(deck), deck_code = deck_code(deck),
            nsim = nsim, seed = seed, part = attr(rows, "part"),
            threshold = c(distance = unname(distance), gain = unname(gain)), texts = vapply(procedures, format, ""))
}

check_procedures <- function(procedures, call = rlang::caller_env()) {
  if (inherits(procedures, "habanera_procedure")) procedures <- list(procedures)
  if (is.character(procedures)) procedures <- as.list(procedures)
  if (!is.list(procedures) || !length(procedures)) {
    refuse(sprintf("`procedures` must be a procedure or a list of them, not %s.", said(procedures)), call = call)
  }
  made <- lapply(procedures, function(one) {
    if (is.character(one)) one <- procedure(one)
    check_procedure(one, "procedures", call)
    if (has_function(one)) refuse("Repeats of an R function cannot be followed here; audit() it.", call = call)
    one
  })
  texts <- vapply(made, format, "")
  given <- if (is.null(names(made))) texts else ifelse(nzchar(names(made)), names(made), texts)
  if (anyDuplicated(given)) {
    refuse(sprintf("`procedures` has %s twice.", quoted(given[duplicated(given)][1])), call = call)
  }
  rlang::set_names(made, given)
}

check_repeats <- function(times, call = rlang::caller_env()) {
  fits <- is.numeric(times) && length(times) %in% 1:1e4 && all(is.finite(times)) &&
    all(times >= 0 & times <= 1e4 & times == floor(times))
  if (!fits) refuse(sprintf("`times` must be numbers of repeats, such as 0:12, not %s.", said(times)), call = call)
}

mixing_row <- function(procedure, name, k, run) {
  n <- run$plan$spec$cards
  repeated <- if (k == 0) shuffle_none() else rep(procedure, k)
  halves <- count_procedure(repeated, run$plan$spec, run$nsim, 1, run$seed, run$threads, FALSE)
  refuse_broken(halves, procedure)
  exactly <- known_distance(procedure, repeated, k, n)
  bound <- if (is.null(exactly)) distance_bound(halves, n, run$level)
  gain <- guesser_interval(halves$guessed, n)
  data.frame(procedure = name, times = as.double(k), seconds = k * seconds_by_hand(procedure),
             distance = if (is.null(exactly)) bound$distance else exactly, exact = !is.null(exactly),
             statistic = if (is.null(exactly)) bound$statistic else NA_character_,
             gain = gain[2], gain_low = gain[1], gain_high = gain[3], row.names = NULL)
}

refuse_broken <- function(halves, procedure) {
  if (sum(halves$all$n$broken) == 0) return(invisible())
  refuse(sprintf("%s loses or doubles cards; audit() tells more.", quoted(format(procedure))), call = NULL)
}

# NULL where the distance is not known exactly.
known_distance <- function(procedure, repeated, k, n) {
  if (k == 0) return(start_distance(n))
  known <- if (n <= 1000) tryCatch(exact_distance(procedure, n, k)$total_variation,
                                   habanera_error_work = function(cnd) NULL)
  if (!is.null(known) || n > 6) return(known)
  tryCatch(summary(exact(repeated, deck_numbered(n)))$terms$total_variation, habanera_error_work = function(cnd) NULL)
}

# The largest of the bounds that all statistics give.
distance_bound <- function(halves, n, level) {
  laws <- counted_laws(n)
  one <- counts_by_law(halves$taught$n, n, names(laws))
  two <- counts_by_law(halves$guessed$n, n, names(laws))
  bounds <- mapply(function(first, second, law) {
    often <- first / halves$taught$trials > law
    hits <- sum(second[often])
    trials <- halves$guessed$trials
    low <- if (hits == 0) 0 else stats::qbeta(level / length(laws), hits, trials - hits + 1)
    low - sum(law[often])
  }, one, two, laws)
  best <- which.max(bounds)
  if (bounds[best] <= 0) return(list(distance = 0, statistic = NA_character_))
  list(distance = bounds[[best]], statistic = names(laws)[best])
}

# Laws under a uniform shuffle of what bounds are taken from.
counted_laws <- function(n) {
  places <- rlang::set_names(rep(list(rep(1 / n, n)), 4), c("first_card", "last_card", "place_of_first",
                                                            "place_of_last"))
  if (n > largest_exact_law) return(places)
  laws <- uniform_laws(n)
  c(laws, list(parity = even_and_odd(laws$cycles)), places)
}

counts_by_law <- function(counts, n, names) {
  places <- matrix(counts$position, nrow = n)
  all <- c(counts[names(statistic_words)],
           list(parity = even_and_odd(counts$cycles), first_card = places[, 1], last_card = places[, n],
                place_of_first = places[1, ], place_of_last = places[n, ]))
  all[names]
}

# The gain with its interval, by the trials' own spread.
guesser_interval <- function(guessed, n, error = 0.05) {
  right <- guessed$n$right_guesses
  value <- seq_along(right) - 1
  mean <- sum(right * value) / guessed$trials
  spread <- sqrt(sum(right * (value - mean)^2) / (guessed$trials - 1) / guessed$trials)
  mean - sum(1 / seq_len(n)) + stats::qnorm(1 - error / 2) * spread * c(-1, 0, 1)
}

# The first number of repeats that passes, for each procedure; NA where none does.
first_passing <- function(x) {
  rows <- lapply(split(x, factor(x$procedure, unique(x$procedure))), function(one) {
    passing <- one[one$passes, , drop = FALSE]
    best <- which.min(passing$times)
    data.frame(procedure = one$procedure[1], times = if (length(best)) passing$times[best] else NA_real_,
               seconds = if (length(best)) passing$seconds[best] else NA_real_)
  })
  do.call(rbind, unname(rows))
}

passing_lines <- function(x) {
  first <- first_passing(x)
  vapply(seq_len(nrow(first)), function(i) {
    k <- first$times[i]
    if (is.na(k)) return(sprintf("%s: does not pass in %s", first$procedure[i], count_of(max(x$times), "repeat")))
    by_hand <- if (first$seconds[i] > 0) sprintf(" (%s s by hand)", format_count(first$seconds[i])) else ""
    sprintf("%s: first passes after %s%s", first$procedure[i], count_of(k, "repeat"), by_hand)
  }, "")
}

#' @rawNamespace S3method(generics::tidy, habanera_mixing)
tidy.habanera_mixing <- function(x, ...) plain_table(x)

#' @export
in_words.habanera_mixing <- function(x, ...) paste(passing_lines(x), collapse = "; ")

#' @export
tell.habanera_mixing <- function(x, rows = 40, ...) {
  threshold <- attr(x, "threshold")
  cat(sprintf("<mixing> on %s; %s trials each, seed %s%s\n", attr(x, "deck"), format_count(attr(x, "nsim")),
              whole_code(attr(x, "seed")), part_in_words(x)))
  cat(sprintf("Passing: distance below %s, guesser's gain below %s cards a deck.\n", format(threshold[["distance"]]),
              format(threshold[["gain"]])))
  writeLines(paste0("  ", passing_lines(x)))
  writeLines(c("", aligned_lines(mixing_table(utils::head(x, rows)), indent = 2)))
  if (nrow(x) > rows) cat(sprintf("# ... with %s more\n", format_count(nrow(x) - rows)))
  invisible(x)
}

# Figures rounded for reading.
mixing_table <- function(x) {
  cards <- function(gain) format_fixed(ifelse(abs(gain) < 5e-4, 0, gain), 3)
  data.frame(procedure = x$procedure, repeats = format_count(x$times), seconds = format_count(x$seconds),
             distance = paste0(ifelse(x$exact, "", paste0(at_least_sign(), " ")), format_fixed(x$distance, 4)),
             by = ifelse(x$exact, "exact", ifelse(is.na(x$statistic), "nothing seen", x$statistic)),
             gained = sprintf("%s (%s to %s)", cards(x$gain), cards(x$gain_low), cards(x$gain_high)),
             passes = ifelse(x$passes, "yes", ""))
}
