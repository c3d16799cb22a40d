# The law of fair draws: what to expect of each kind, exactly.

# For kinds (or groups of kinds) with these copies: the expected number per trial and its variance
# per cell, and the factor and degrees of freedom of the overall chi-square.
fair_law <- function(experiment, copies) UseMethod("fair_law")

# Without replacement the numbers of each kind in a draw of k of n follow the multivariate
# hypergeometric law (Johnson, Kotz & Balakrishnan 1997, "Discrete multivariate distributions",
# ch. 39): covariance k (n - k)/(n - 1) (diag(p) - p p'), which is that of a multinomial times
# (n - k)/(n - 1). So (n - 1)/(n - k) times Pearson's sum has the chi-square law on kinds - 1.
#' @export
fair_law.habanera_draws <- function(experiment, copies) {
  n <- sum(copies)
  k <- experiment$size
  share <- if (n > 0) copies / n else copies
  spread <- if (experiment$replace) 1 else if (n > 1) (n - k) / (n - 1) else 0
  list(expected = k * share, variance = k * share * (1 - share) * spread,
       factor = if (spread > 0) 1 / spread else NA_real_, df = length(copies) - 1)
}

# Card by position, with both margins fixed: each trial is a random permutation matrix, whose cells
# have covariance (diag(p) - p p') by card times n/(n - 1) (I - J/n) by position.
#' @export
fair_law.habanera_positions <- function(experiment, copies) {
  n <- sum(copies)
  share <- rep(if (n > 0) copies / n else copies, times = n)
  list(expected = share, variance = share * (1 - share),
       factor = if (n > 1) (n - 1) / n else NA_real_, df = (length(copies) - 1) * (n - 1))
}

#' @rdname exact
#' @param method `"walk"` walks every path of the simulation's own code; otherwise `"formula"` for draws and
#'   positions, `"classes"` for questions.
#' @export
exact.habanera_draws <- function(x, method = c("formula", "walk"), ...) {
  exact_draws(x, check_choice(method, c("formula", "walk")), rlang::current_env())
}

#' @rdname exact
#' @export
exact.habanera_positions <- function(x, method = c("formula", "walk"), ...) {
  exact_draws(x, check_choice(method, c("formula", "walk")), rlang::current_env())
}

exact_draws <- function(x, method, call) {
  # The formulas are those of a uniform shuffle; any other has to be walked.
  if (!is_uniform(x$shuffle) && !isTRUE(x$replace)) method <- "walk"
  probability <- if (method == "formula") fair_law(x, kinds_of(x$deck)$copies)$expected else {
    walked_law(x, call)
  }
  new_distribution(result_kind(x), outcome_space(x), probability,
                   new_provenance(x, entries_per_trial(x), source = method))
}

walked_law <- function(x, call) {
  size <- entries_per_trial(x)
  replace <- isTRUE(x$replace)
  n <- length(x$deck)
  if (!replace && has_function(x$shuffle)) refuse("An R function cannot be walked.", "work", call)
  paths <- if (replace) n^size else if (is_uniform(x$shuffle)) exp(lgamma(n + 1) - lgamma(n - size + 1)) else {
    prod(core_step_paths(core_steps(x$shuffle), n))
  }
  if (paths > most_paths) {
    refuse(sprintf("There are about %s paths to walk; at most %s are.", format_number(paths, 2),
                   format_count(most_paths)), "work", call)
  }
  walked <- core_walk_draws(draw_spec(x$deck, size, replace, FALSE, x$shuffle), most_paths)
  if (inherits(x, "habanera_positions")) as.vector(walked) else rowSums(walked)
}

# log10 of the chance that a kind with m copies never comes in so many draws.
log10_never <- function(experiment, copies, trials) {
  n <- sum(copies)
  k <- experiment$size
  log_missed <- if (experiment$replace) k * log1p(-copies / n) else {
    lchoose(n - copies, k) - lchoose(n, k)
  }
  trials * log_missed / log(10)
}
