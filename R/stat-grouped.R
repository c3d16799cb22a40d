# What trials add up to in 32 groups, by their numbers modulo 32: in each how many trials there are, of every column the
# sum, and of each of several families of sets of columns the sum of the squares of what its sets come to. From these,
# estimates made of squares are taken without each group in turn.

trial_groups <- 32

# Fewer trials leave too few in each group.
fewest_grouped_trials <- 10 * trial_groups

# As the core adds up, from the totals of each trial in a row.
plain_grouped <- function(totals, trials, families) {
  group <- factor(trials %% trial_groups, levels = seq_len(trial_groups) - 1)
  by_group <- function(values) {
    found <- matrix(0, trial_groups, ncol(values))
    added <- rowsum(values, as.integer(group))
    found[as.integer(rownames(added)), ] <- added
    as.vector(t(found))
  }
  squares <- vapply(families, function(family) {
    Reduce(`+`, lapply(family, function(set) rowSums(totals[, set, drop = FALSE])^2))
  }, numeric(nrow(totals)))
  c(list(group_trials = as.double(table(group))), wide_numbers("group_sum", by_group(totals)),
    wide_numbers("group_square", by_group(matrix(squares, nrow = nrow(totals)))))
}

# Of all groups, and of all but each: lists of `trials`, `sum` by column and `square` by family.
grouped_sums <- function(sums) {
  by_group <- function(part) matrix(wide_value(sums, part), nrow = trial_groups, byrow = TRUE)
  sum <- by_group("group_sum")
  square <- by_group("group_square")
  of <- function(groups) {
    list(trials = sum(sums$group_trials[groups]), sum = colSums(sum[groups, , drop = FALSE]),
         square = colSums(square[groups, , drop = FALSE]))
  }
  list(all = of(seq_len(trial_groups)), without = lapply(which(sums$group_trials > 0), function(group) of(-group)))
}

# An estimate, a vector, of what groups add up to, with its standard errors as one group after the other is left out
# (see jackknife_error()); NA where trials are few.
grouped_estimate <- function(sums, estimate) {
  grouped <- grouped_sums(sums)
  whole <- estimate(grouped$all)
  groups <- length(grouped$without)
  if (grouped$all$trials < fewest_grouped_trials || groups < trial_groups) {
    return(list(estimate = whole, std.error = whole * NA, freedom = groups - 1))
  }
  each <- vapply(grouped$without, estimate, whole)
  list(estimate = whole, std.error = sqrt((groups - 1) / groups * rowSums((each - rowMeans(each))^2)),
       freedom = groups - 1)
}
