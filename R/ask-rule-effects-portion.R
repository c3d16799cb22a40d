# Rule effects from a part of all combinations, spread as a Latin hypercube (McKay, Beckman & Conover 1979,
# Technometrics 21, 239-245): what each value adds to the estimate, and any two at once beyond that, by least squares.

# The places of the combinations tried, a row each, the rules as they are first; out of how many (`of`).
portion_places <- function(dimensions, portion, pairs, seed, call) {
  check_number(portion, 1e-6, 1, "portion", call)
  # A place of 0: as it is now.
  choices <- lapply(dimensions, function(dimension) c(0, setdiff(seq_along(dimension$values), dimension$now)))
  sizes <- lengths(choices)
  of <- prod(sizes)
  refuse_many(of * portion, call)
  others <- sizes - 1
  unknown <- 1 + sum(others) + if (pairs) (sum(others)^2 - sum(others^2)) / 2 else 0
  count <- ceiling(portion * of)
  # Some more than there is to be found, so that its error shows.
  if (count < unknown + 5) {
    refuse(sprintf("A `portion` of %s takes %s of %s combinations, too few to tell %s: %s.",
                   format_number(portion, 3), format_count(count), format_count(of), count_of(unknown, "number"),
                   if (unknown + 5 > of) "leave it out" else
                     sprintf("take %s or more", format_number(ceiling(1000 * (unknown + 5) / of) / 1000, 3))),
           "work", call)
  }
  if (portion == 1) return(list(places = unique(rbind(0, places_of_grid(choices))), of = of))
  if (!requireNamespace("lhs", quietly = TRUE)) {
    refuse("A `portion` needs the package lhs: install.packages(\"lhs\").", "input", call)
  }
  spread <- with_generator_kept({
    set.seed(seed %% 2^31, kind = "Mersenne-Twister", normal.kind = "Inversion", sample.kind = "Rejection")
    lhs::randomLHS(count, length(sizes))
  })
  places <- vapply(seq_along(sizes), function(at) choices[[at]][ceiling(spread[, at] * sizes[at])], numeric(count))
  list(places = unique(rbind(0, matrix(places, count))), of = of)
}

# What combinations gave, `effects` against the rules as they are at `places`, as rows of single values and of two.
effects_by_least_squares <- function(places, effects, dimensions, pairs, call) {
  single <- value_indicators(places, dimensions)
  columns <- c(single, if (pairs) pair_indicators(single))
  design <- cbind(1, do.call(cbind, lapply(columns, `[[`, "at")))
  fit <- stats::lm.fit(design, effects)
  if (fit$rank < ncol(design) || nrow(design) == ncol(design)) {
    refuse("Too few combinations were tried to tell the rules apart: take a larger `portion`.", "work", call)
  }
  freedom <- nrow(design) - ncol(design)
  spread <- chol2inv(qr.R(fit$qr)) * sum(fit$residuals^2) / freedom
  half_of <- function(contrast) stats::qt(0.975, freedom) * sqrt(sum(contrast * (spread %*% contrast)))
  rows <- lapply(seq_along(columns), function(at) {
    column <- columns[[at]]
    own <- replace(numeric(ncol(design)), 1 + at, 1)
    whole <- replace(own, 1 + c(column$parts, at), 1)
    effect <- sum(whole * fit$coefficients)
    row <- data.frame(rule = column$rule, value = column$value, effect = effect, effect.low = effect - half_of(whole),
                      effect.high = effect + half_of(whole))
    if (!pairs) return(row)
    together <- if (length(column$parts)) sum(own * fit$coefficients) else NA_real_
    cbind(row, together = together, together.low = together - half_of(own), together.high = together + half_of(own))
  })
  do.call(rbind, rows)
}

# For each value that is not as now where it is (`at`, 0 and 1), and how it reads.
value_indicators <- function(places, dimensions) {
  unlist(lapply(seq_along(dimensions), function(dimension) {
    values <- setdiff(sort(unique(places[, dimension])), 0)
    lapply(values, function(value) {
      list(at = as.double(places[, dimension] == value), dimension = dimension, parts = integer(),
           rule = dimensions[[dimension]]$name, value = rule_text(dimensions[[dimension]]$labels[[value]]))
    })
  }), recursive = FALSE)
}

pair_indicators <- function(single) {
  two <- utils::combn(length(single), 2, simplify = FALSE)
  two <- Filter(function(at) single[[at[1]]]$dimension != single[[at[2]]]$dimension, two)
  lapply(two, function(at) {
    one <- single[[at[1]]]
    other <- single[[at[2]]]
    list(at = one$at * other$at, parts = at, rule = paste(one$rule, other$rule, sep = " + "),
         value = paste(one$value, other$value, sep = " + "))
  })
}
