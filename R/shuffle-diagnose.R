#' Which slip is it?
#'
#' Ranks known slips and habits by how well they explain what an audit counted: which card came at which
#' position, and the values of its statistics. Each is simulated afresh, alone and mixed with a uniform shuffle,
#' the share of the mixture being fitted.
#'
#' The measure is a composite log-likelihood: the sum over all counted tables of counts times the logarithm of
#' the chance of their cell (Varin, Reid & Firth 2011, "An overview of composite likelihood methods").
#' `explained` is the part of what separates the counts from a uniform shuffle that the candidate accounts for.
#' A candidate `fits` when no cell of any table is further from it than chance allows, by Bonferroni's bound over
#' all cells.
#'
#' @param audit An [audit()].
#' @param candidates Procedures as text, see [procedure()], with their names as words for them; `NULL`: those of
#'   [known_slips()] for the deck's size.
#' @param nsim Trials for every candidate in the first round; the best six are simulated twice as often as the
#'   audit, up to a million.
#' @param seed A whole number.
#' @return A `habanera_diagnosis`, a data frame with a row per candidate, the best first: `candidate` (words),
#'   `procedure` (text), `share` (of trials shuffled so, the others uniformly), `explained` (0 to 1), `behind` (how
#'   far its log-likelihood is behind the best) and `fits` (logical; `NA` for those of the first round only).
#' @section Errors: `habanera_error_input` for something that is no audit.
#' @examples
#' diagnose(audit(shuffle_naive_swap(skip_last = 1), deck_numbered(20), nsim = 5000, seed = 1))
#' @export
diagnose <- function(audit, candidates = NULL, nsim = 2e4, seed = 1) {
  check_given()
  if (!inherits(audit, "habanera_audit")) refuse(sprintf("`audit` must be an audit(), not %s.", said(audit)))
  check_whole(nsim, 1000, 1e8)
  check_seed(seed)
  n <- length(audit$plan$deck)
  families <- if (is.null(candidates)) slip_families(n) else check_candidates(candidates)
  if (verdict(audit) == "no_bias_seen") return(new_diagnosis(audit, NULL, NULL))
  yardstick <- new_yardstick(audit)
  weigh <- function(candidates, nsim) {
    weighed <- lapply(candidates, weigh_candidate, yardstick = yardstick, nsim = nsim, seed = seed)
    weighed[order(-vapply(weighed, `[[`, 0, "score"))]
  }
  first <- weigh(unlist(lapply(families, expand_family), recursive = FALSE), nsim)
  # Twice as many as the audit had, so that the candidates' own chance is the smaller part.
  closer <- max(nsim, min(2 * audit$trials, 1e6))
  best <- weigh(first[seq_len(min(refined_candidates, length(first)))], closer)
  best <- fit_number(best, yardstick, function(candidates) weigh(candidates, closer))
  best <- lapply(best, judge_fit, yardstick = yardstick)
  new_diagnosis(audit, c(best, first[-seq_len(refined_candidates)]), yardstick)
}

refined_candidates <- 6

# Where the best candidate has a number and does not fit, numbers between are tried, in three rounds.
fit_number <- function(best, yardstick, weigh) {
  tried <- best[[1]]$family$values
  for (round in 1:3) {
    if (candidate_fits(best[[1]], yardstick)) break
    values <- closer_values(best[[1]], tried)
    if (!length(values)) break
    tried <- c(tried, values)
    best <- c(best, weigh(lapply(values, new_candidate, family = best[[1]]$family)))
    best <- best[order(-vapply(best, `[[`, 0, "score"))]
  }
  best
}

check_candidates <- function(candidates, call = rlang::caller_env()) {
  if (!is.character(candidates) || !length(candidates) || anyNA(candidates)) {
    refuse(sprintf("`candidates` must be procedures as text, such as \"riffle x3\", not %s.", said(candidates)),
           call = call)
  }
  lapply(candidates, procedure)
  words <- if (is.null(names(candidates))) candidates else names(candidates)
  unname(Map(slip_family, words, candidates))
}

# What candidates are held against: the audit's tables and those of a uniform shuffle. Of broken shuffles,
# which cards they lost and doubled; otherwise cards by position and statistics in intervals.
new_yardstick <- function(audit) {
  plan <- audit$plan
  n <- plan$spec$cards
  laws <- if (plan$identity && n <= largest_exact_law) uniform_laws(n)
  yardstick <- list(trials = audit$trials, plan = plan, broken = !is.null(audit$broken), each = audit$made$each,
                    cuts = lapply(laws, cut_law, trials = Inf))
  yardstick$observed <- tables_of(audit$counts$all, yardstick)
  positions <- rep(plan$spec$copies / n, times = n)
  statistics <- Map(function(law, cut) rowsum(law, cut)[, 1], laws, yardstick$cuts)
  yardstick$uniform <- if (yardstick$broken) lapply(1:2, function(i) rep(c(0, 1),
                                                                         times = length(plan$spec$copies))) else {
    c(list(position = positions), statistics, if (length(laws)) list(parity = even_and_odd(laws$cycles)))
  }
  yardstick
}

tables_of <- function(all, yardstick) {
  if (yardstick$broken) {
    return(lapply(all$n[c("lost", "doubled")], function(counts) as.vector(rbind(counts, all$trials - counts))))
  }
  statistics <- Map(function(counts, cut) rowsum(counts, cut)[, 1], all$n[names(yardstick$cuts)], yardstick$cuts)
  c(list(position = all$n$position), statistics, if (length(statistics)) list(parity = even_and_odd(all$n$cycles)))
}

even_and_odd <- function(cycles) as.vector(rowsum(cycles, seq_along(cycles) %% 2)[, 1])

# A candidate with its simulated tables, its best share beside a uniform shuffle, and its score.
weigh_candidate <- function(candidate, yardstick, nsim, seed) {
  simulated <- simulated_counts(procedure(candidate$text), yardstick, nsim, seed)
  candidate[c("trials", "share", "score", "alone")] <- list(nsim, 1, -Inf, -Inf)
  if ((sum(simulated$n$broken) > 0) != yardstick$broken) return(candidate)
  candidate$tables <- tables_of(simulated, yardstick)
  score <- function(share) composite_score(share, candidate$tables, yardstick, nsim)
  candidate$score <- candidate$alone <- score(1)
  if (yardstick$broken) return(candidate)
  mixed <- stats::optimize(score, c(0, 1), maximum = TRUE)
  # A mixture has a parameter more, which must earn its place (Schwarz 1978).
  if (mixed$objective > candidate$score + log(yardstick$trials)) {
    candidate[c("share", "score")] <- list(mixed$maximum, mixed$objective)
  }
  candidate
}

# The chances are themselves estimated from so many trials, and the logarithm of an estimate falls short on
# average by half its relative variance, which is added back where the estimate rests on 10 or more.
composite_score <- function(share, tables, yardstick, nsim) {
  sum(mapply(function(observed, simulated, uniform) {
    own <- (simulated + 0.5 * uniform) / (nsim + 0.5)
    chance <- share * own + (1 - share) * uniform
    seen <- observed > 0
    shortfall <- ifelse(simulated >= 10, share^2 * own * (1 - own) / (2 * nsim * chance^2), 0)
    sum((observed * (log(chance) + shortfall))[seen])
  }, yardstick$observed, tables, yardstick$uniform))
}

# The counts of a candidate, of all cards by place or added up by kind as the audit's are.
simulated_counts <- function(candidate, yardstick, nsim, seed) {
  plan <- yardstick$plan
  spec <- battery_spec(deck_numbered(plan$spec$cards), TRUE, character(), NULL)
  spec$top <- 0
  chain <- if (yardstick$each == "continued") chain_trials else 1
  counted <- core_audit_procedure(core_steps(candidate), spec, seed, chain, 1, nsim, resolve_threads(NULL))
  all <- battery_parts(core_audit_parts(spec), counted$n, counted$example_trial, nsim)
  if (!plan$identity) {
    kinds <- kinds_of(plan$deck)$places
    for (part in c("position", "lost", "doubled")) {
      all$n[[part]] <- as.vector(rowsum(matrix(all$n[[part]], nrow = length(kinds)), kinds))
    }
  }
  all
}

# Where a candidate fits alone, it need not be mixed.
judge_fit <- function(one, yardstick) {
  alone <- utils::modifyList(one, list(share = 1, score = one$alone))
  if (one$share < 1 && candidate_fits(alone, yardstick)) one <- alone
  one$fits <- candidate_fits(one, yardstick)
  one
}

# Whether no cell is further off than chance allows. A candidate alone: given both counts together, ours are
# binomial. A mixture: both counts vary, and are compared by a normal law where 10 or more are expected.
candidate_fits <- function(one, yardstick) {
  if (is.null(one$tables)) return(FALSE)
  ours <- yardstick$trials
  p <- unlist(Map(function(o, s, u) {
    if (one$share == 1) {
      share <- ours / (ours + one$trials)
      return(pmin(1, 2 * pmin(stats::pbinom(o, o + s, share), stats::pbinom(o - 1, o + s, share, lower.tail = FALSE))))
    }
    q <- one$share * s / one$trials + (1 - one$share) * u
    spread <- ours * q * (1 - q) + ours^2 * one$share^2 * s / one$trials^2
    ifelse(ours * q >= 10, 2 * stats::pnorm(-abs(o - ours * q) / sqrt(spread)), NA)
  }, yardstick$observed, one$tables, yardstick$uniform))
  min(p, 1, na.rm = TRUE) * length(p) >= yardstick$plan$level
}

new_diagnosis <- function(audit, ranked, yardstick) {
  score <- vapply(ranked, `[[`, 0, "score")
  table <- data.frame(
    candidate = vapply(ranked, `[[`, "", "words"), procedure = vapply(ranked, `[[`, "", "text"),
    share = vapply(ranked, `[[`, 0, "share"), explained = explained_part(score, yardstick),
    behind = if (length(score)) max(score) - score else numeric(),
    fits = vapply(ranked, function(one) if (is.null(one$fits)) NA else one$fits, NA)
  )
  table <- table[order(table[["behind"]]), , drop = FALSE]
  rownames(table) <- NULL
  structure(table, made = call_made(), class = table_class("habanera_diagnosis"), audit = audit)
}

# Where a score lies between that of a uniform shuffle (0) and the best that chances could have (1).
explained_part <- function(score, yardstick) {
  if (!length(score)) return(numeric())
  score_of <- function(chances) sum(mapply(function(o, q) sum(o[o > 0] * log(q[o > 0])), yardstick$observed, chances))
  cells_over <- sum(lengths(yardstick$observed) - 1) / 2  # what the best chances gain by following chance
  perfect <- score_of(lapply(yardstick$observed, `/`, yardstick$trials)) - cells_over
  fair <- score_of(lapply(yardstick$uniform, pmax, 0.5 / yardstick$trials))
  pmax(0, pmin(1, 1 - (perfect - score) / (perfect - fair)))
}

#' @export
in_words.habanera_diagnosis <- function(x, ...) {
  paste0(attr(x, "audit")$made$words, ": ", paste(diagnosis_sentence(x), collapse = " "))
}

#' @export
tell.habanera_diagnosis <- function(x, rows = 5, ...) {
  audit <- attr(x, "audit")
  cat(sprintf("<diagnosis> of %s on %s; %s trials\n", audit$made$words, deck_in_words(audit$plan$deck),
              format_count(audit$trials)))
  cat_wrapped(diagnosis_sentence(x))
  if (!nrow(x) || !is.finite(x$behind[1])) return(invisible(x))
  shown <- utils::head(x, rows)
  text <- data.frame(behaves_like = candidate_words(shown), explains = format_percent(shown$explained),
                     behind = ifelse(is.finite(shown$behind), format_statistic(round(shown$behind, 1)), "far"),
                     fits = ifelse(is.na(shown$fits), "", ifelse(shown$fits, "yes", "no")))
  names(text)[1] <- "behaves like"
  writeLines(c("", aligned_lines(text, indent = 2)))
  invisible(x)
}

candidate_words <- function(rows) {
  ifelse(rows$share < 0.9995, sprintf("%s in %s of trials, else uniform", rows$candidate, format_percent(rows$share)),
         rows$candidate)
}

# Where no candidate could have given the counts at all.
lost_otherwise <- function(audit) {
  sprintf("None of the known slips %s.", if (is.null(audit$broken)) "could give these counts" else
    "loses and doubles cards as these do")
}

diagnosis_sentence <- function(x) {
  if (!nrow(x)) return("No bias was seen, so there is nothing to diagnose.")
  best <- x[1, ]
  if (!is.finite(best$behind)) return(lost_otherwise(attr(x, "audit")))
  if (!isTRUE(best$fits)) {
    return(sprintf("None of the known slips. The nearest, %s, %s, but does not fit.", candidate_words(best),
                   sprintf("explains %s of what separates it from a uniform shuffle", format_percent(best$explained))))
  }
  fitting <- candidate_words(x[which(x$fits), , drop = FALSE])
  ahead <- if (nrow(x) < 2 || !is.finite(x$behind[2])) "" else {
    sprintf(", ahead of the next (%s) by %s in log-likelihood", candidate_words(x[2, ]),
            format_statistic(round(x$behind[2], 1)))
  }
  also <- if (length(fitting) > 1) sprintf(" %s fit%s as well.", sentence(join_words(fitting[-1])),
                                           if (length(fitting) == 2) "s" else "")
  sprintf("Behaves like: %s (%s)%s.%s", candidate_words(best), best$procedure, ahead, if (is.null(also)) "" else also)
}
