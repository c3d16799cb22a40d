# An audit's object: the tests in a table, the verdict in words, and what they rest on.

new_audit <- function(counted, plan, made) {
  all <- counted$halves$all
  broken <- sum(all$n$broken)
  tests <- if (broken == 0) Filter(Negate(is.null), audit_tests(counted, plan)) else list()
  structure(
    list(tests = tests_table(tests, plan$level), tests_made = lapply(tests, without_words), counts = counted$halves,
         example = if (broken > 0) broken_example(counted, plan, made),
         broken = if (broken > 0) broken_cards(all, plan), conservation = conservation_row(all, plan),
         trials = all$trials, plan = plan[setdiff(names(plan), how_it_ran)], made = made),
    made = call_made(), class = result_class("habanera_audit")
  )
}

# What changes nothing of what was found.
how_it_ran <- c("threads", "progress")

# What can be reckoned with again: a result holds data alone.
without_words <- function(test) test[!names(test) %in% c("effect", "could_see")]

# The first arrangement that is none: its codes, "-" where a card is missing.
broken_example <- function(counted, plan, made) {
  trial <- counted$halves$all$example_trial$broken
  if (is.null(counted$rows)) {
    if (made$each == "continued") return(NULL)
    return(as.character(shuffled_cards(plan$deck, made$procedure, made$seed, trial, NULL)))
  }
  codes <- if (plan$identity) as.character(plan$deck) else kinds_of(plan$deck)$cards
  row <- counted$rows[trial, ]
  ifelse(row > 0, codes[pmax(row, 1)], "-")
}

tests_table <- function(tests, level) {
  field <- function(name, empty) vapply(tests, function(test) test[[name]], empty)
  table <- data.frame(term = field("term", ""), statistic = as.double(field("statistic", 0)),
                      df = ifelse(field("law", "") == "chi_square", field("df", 0), NA_real_),
                      p.value = as.double(field("p.value", 0)))
  table[["p.adjusted"]] <- stats::p.adjust(table[["p.value"]], "holm")
  made <- sum(!is.na(table[["p.value"]]))
  table[["effect"]] <- field("effect", "")
  table[["could_see"]] <- vapply(tests, function(test) {
    if (is.na(test$statistic)) NA_character_ else as.character(test$could_see(level / max(1, made)))
  }, "")
  table
}

conservation_row <- function(all, plan) {
  broken <- sum(all$n$broken)
  effect <- if (broken == 0) "every result holds the same cards" else {
    sprintf("%s of %s trials lost or doubled cards", format_count(broken), format_count(all$trials))
  }
  data.frame(term = "conservation", statistic = broken, df = NA_real_, p.value = NA_real_, p.adjusted = NA_real_,
             effect = effect, could_see = sprintf("a slip in one of %s trials",
                                                  format_count(max(1, floor(all$trials / -log(1 - audit_power))))))
}

# What was lost and doubled, how often, and first when.
broken_cards <- function(all, plan) {
  cards <- card_labels(plan)
  part <- function(name, words) {
    hit <- which(all$n[[name]] > 0)
    data.frame(card = cards[hit], problem = rep(words, length(hit)), trials = all$n[[name]][hit],
               example_trial = all$example_trial[[name]][hit])
  }
  listed <- rbind(part("lost", "lost"), part("doubled", "doubled"))
  listed[order(-listed$trials), , drop = FALSE]
}

#' @rdname audit
#' @param x An audit; of `verdict()` also counts of draws or positions, or their summary.
#' @export
verdict <- function(x) {
  check_given("x")
  UseMethod("verdict")
}

#' @export
verdict.default <- function(x) refuse(sprintf("`x` must be an audit(), or counts of draws, not %s.", said(x)))

#' @export
verdict.habanera_audit <- function(x) {
  if (!is.null(x$broken)) return("not_a_shuffle")
  if (any(x$tests$p.adjusted < x$plan$level, na.rm = TRUE)) "biased" else "no_bias_seen"
}

#' @rawNamespace S3method(generics::tidy, habanera_audit)
tidy.habanera_audit <- function(x, ...) {
  table <- rbind(x$conservation, x$tests)
  rownames(table) <- NULL
  table
}

#' @export
as.data.frame.habanera_audit <- function(x, row.names = NULL, optional = FALSE, ...) tidy.habanera_audit(x)

# The verdict in plain words, a sentence or a few.
verdict_lines <- function(x) {
  switch(verdict(x), not_a_shuffle = not_a_shuffle_lines(x), biased = biased_lines(x), no_bias_seen = fair_lines(x))
}

not_a_shuffle_lines <- function(x) {
  each <- function(problem) {
    rows <- x$broken[x$broken$problem == problem, ]
    if (!nrow(rows)) return(NULL)
    sprintf("%s: %s.", sentence(problem),
            join_some(sprintf("%s (%s of trials)", rows$card, format_percent(rows$trials / x$trials)), 6))
  }
  first <- x$counts$all$example_trial$broken
  c(sprintf("Not a shuffle: %s, first in trial %s. No other test was made.", x$conservation$effect,
            format_count(first)),
    each("doubled"), each("lost"),
    if (!is.null(x$example)) sprintf("Trial %s left: %s.", format_count(first), paste(x$example, collapse = " ")))
}

biased_lines <- function(x) {
  same <- always_same(x)
  if (!is.null(same)) return(same)
  found <- x$tests[which(x$tests$p.adjusted < x$plan$level), , drop = FALSE]
  clearest <- found[order(found$p.value, -abs(found$statistic)), ][1, ]
  c(sprintf("Biased: %d of %d tests %s so at the %s level.", nrow(found), sum(!is.na(x$tests$p.value)),
            if (nrow(found) == 1) "says" else "say", format_percent(x$plan$level)),
    sprintf("The clearest is %s (p %s): %s.", clearest$term, format_p_value(clearest$p.value), clearest$effect),
    if (clearest$term != x$tests$term[1] && x$tests$term[1] %in% found$term) {
      sprintf("The worst place: %s.", x$tests$effect[1])
    })
}

# A procedure that did nothing, or always the same.
always_same <- function(x) {
  all <- x$counts$all
  n <- x$plan$spec$cards
  if (x$plan$identity && n > 1 && all$n$stayed_put[n + 1] == x$trials) {
    return("Biased: it did nothing. Every trial left the deck as it was.")
  }
  if (sum(all$n$position == x$trials) < n) return(NULL)
  sprintf("Biased: it always does the same. All %s trials left the same arrangement.", format_count(x$trials))
}

fair_lines <- function(x) {
  tests <- sum(!is.na(x$tests$p.value))
  if (tests == 0) return("No bias seen: a deck like this has one arrangement only, so there is nothing to test.")
  sprintf("No bias seen in %d tests at the %s level; the smallest adjusted p is %s (%s).", tests,
          format_percent(x$plan$level), format_number(min(x$tests$p.adjusted, na.rm = TRUE), 2),
          x$tests$term[which.min(x$tests$p.value)])
}

#' @export
tell.habanera_audit <- function(x, ...) {
  cat(audit_header(x), "\n", sep = "")
  cat_wrapped(verdict_lines(x))
  writeLines(c("", aligned_lines(printed_tests(tidy.habanera_audit(x)), indent = 2)))
  unable <- tests_left_out(x)
  if (length(unable)) {
    cat("\n")
    cat_wrapped(unable)
  }
  invisible(x)
}

audit_header <- function(x) {
  how <- c(sprintf("%s trials", format_count(x$trials)),
           if (!is.null(x$made$seed)) sprintf("seed %s", whole_code(x$made$seed)),
           if (x$made$each == "continued") sprintf("going on in chains of %s", format_count(chain_trials)))
  sprintf("<audit> %s on %s; %s", x$made$words, deck_in_words(x$plan$deck), paste(how, collapse = ", "))
}

printed_tests <- function(table) {
  data.frame(test = table[["term"]], statistic = format_statistic(table[["statistic"]]),
             `p, adjusted` = short_p(table[["p.adjusted"]]),
             effect = table[["effect"]], check.names = FALSE)
}

short_p <- function(p) {
  ifelse(is.na(p), "", ifelse(p < 1e-15, "< 1e-15", ifelse(p > 0.995, "1", format_number(p, 2))))
}

# Tests that need what is not known here.
tests_left_out <- function(x) {
  if (x$plan$identity || !is.null(x$broken)) return(NULL)
  paste("Copies of a card cannot be told apart here, so that the tests of order (what stayed put, neighbours,",
        "rising sequences, inversions, cycles, distance, parity, top cards, successive results, the guesser)",
        "were left out. Give numbers of places to have them.")
}

#' @export
summary.habanera_audit <- function(object, places = 10, ...) {
  check_whole(places, 1)
  broken <- !is.null(object$broken)
  structure(
    list(audit = object, worst = if (!broken) worst_places(object$counts$all, object$plan, places),
         staying = if (!broken && object$plan$identity) staying_chances(object)),
    made = call_made(), class = result_class("habanera_audit_summary")
  )
}

# The chance that the card at each place stays, with its interval.
staying_chances <- function(x) {
  n <- x$plan$spec$cards
  count <- x$counts$all$n$position[(seq_len(n) - 1) * n + seq_len(n)]
  interval <- wilson_interval(count, x$trials)
  data.frame(position = seq_len(n), share = count / x$trials, low = interval$low, high = interval$high,
             expected = rep(1 / n, n))
}

#' @rawNamespace S3method(generics::tidy, habanera_audit_summary)
tidy.habanera_audit_summary <- function(x, ...) tidy.habanera_audit(x$audit)

#' @export
tell.habanera_audit_summary <- function(x, ...) {
  audit <- x$audit
  cat(audit_header(audit), "\n", sep = "")
  cat_wrapped(verdict_lines(audit))
  if (!is.null(x$worst)) {
    cat("\nThe places furthest from fair:\n")
    print_rows(data.frame(card = x$worst$card, position = x$worst$position, count = format_count(x$worst$count),
                          expected = format_fixed(x$worst$expected, 1), z = sprintf("%+.1f", x$worst$z)))
  }
  if (!is.null(x$staying)) {
    far <- utils::head(x$staying[order(-abs(x$staying$share - x$staying$expected)), ], 5)
    cat("\nThe chance to stay at one's place, where it is furthest from ", format_percent(far$expected[1]), ":\n",
        sep = "")
    cat(sprintf("  position %d: %s (95%%: %s to %s)\n", far$position, format_percent(far$share),
                format_percent(far$low),
                format_percent(far$high)), sep = "")
  }
  cat("\nWhat each test would have found with 95% power:\n")
  table <- tidy.habanera_audit(audit)
  table <- table[!is.na(table[["could_see"]]), ]
  cat(sprintf("  %s: %s\n", formatC(table[["term"]], width = -max(nchar(table[["term"]]))), table[["could_see"]]),
      sep = "")
  invisible(x)
}
