# What trials of several entries add up to, so that estimates have errors by trial. A list of numbers:
# - of each column the `sum` of its totals in a trial, and of every two columns the sum of their `product`, row by row
# of
#   the lower triangle; whole numbers as the core has them, wider than a double: value = high * 2^48 + low;
# - in how many trials each column is `held` (is not nothing);
# - classes of columns that belong together (`class_first`, `class_size`; the first is of all): where no more than
#   `most_kept` trials hold the first column of a class, its columns in each of them, by `kept_class` and `kept_trial`
#   in `kept_value`, so that an estimate can be had without each;
# - of some, by groups of trials, `group_trials`, `group_sum` and `group_square` (see stat-grouped.R).
# NULL where trials have one entry each.

wide_base <- 2^48
most_kept <- 64

wide_parts <- c("sum", "product", "group_sum", "group_square")

add_sums <- function(one, two) {
  if (is.null(one) || is.null(two)) return(NULL)
  wide <- lapply(intersect(wide_parts, sub("_high$", "", names(one))), function(part) {
    low <- one[[paste0(part, "_low")]] + two[[paste0(part, "_low")]]
    carry <- floor(low / wide_base)
    high <- one[[paste0(part, "_high")]] + two[[paste0(part, "_high")]] + carry
    rlang::set_names(list(high, low - carry * wide_base), paste0(part, c("_high", "_low")))
  })
  found <- unlist(wide, recursive = FALSE)
  for (part in intersect(c("held", "group_trials"), names(one))) found[[part]] <- one[[part]] + two[[part]]
  in_order_of_sums(c(found, one[c("class_first", "class_size")], kept_of_both(one, two, found$held)))
}

order_of_sums <- c("sum_high", "sum_low", "product_high", "product_low", "held", "class_first", "class_size",
                   "kept_class", "kept_trial", "kept_value", "group_trials", "group_sum_high", "group_sum_low",
                   "group_square_high", "group_square_low")

in_order_of_sums <- function(sums) sums[intersect(order_of_sums, names(sums))]

kept_of_both <- function(one, two, held) {
  classes <- c(one$kept_class, two$kept_class)
  trials <- c(one$kept_trial, two$kept_trial)
  values <- split(c(one$kept_value, two$kept_value), rep(seq_along(classes), one$class_size[classes]))
  still <- which(held[one$class_first[classes]] <= most_kept)
  order <- still[order(classes[still], trials[still])]
  list(kept_class = classes[order], kept_trial = trials[order],
       kept_value = as.double(unlist(values[order], use.names = FALSE)))
}

wide_value <- function(sums, part) sums[[paste0(part, "_high")]] * wide_base + sums[[paste0(part, "_low")]]

# As doubles: `sum` and `held` by column, `product` as a matrix, and of each class of columns its `trials` by `columns`,
# NULL where they were not kept.
trial_sums <- function(sums, columns) {
  size <- length(columns)
  product <- matrix(0, size, size, dimnames = list(columns, columns))
  product[upper.tri(product, diag = TRUE)] <- wide_value(sums, "product")
  product[lower.tri(product)] <- t(product)[lower.tri(product)]
  list(sum = rlang::set_names(wide_value(sums, "sum"), columns), product = product,
       held = rlang::set_names(sums$held, columns), classes = classes_of_sums(sums))
}

classes_of_sums <- function(sums) {
  row_class <- rep(sums$kept_class, sums$class_size[sums$kept_class])
  lapply(seq_along(sums$class_first), function(i) {
    first <- sums$class_first[i]
    columns <- first - 1 + seq_len(sums$class_size[i])
    kept <- if (sums$held[first] <= most_kept) {
      matrix(sums$kept_value[row_class == i], ncol = length(columns), byrow = TRUE)
    }
    list(columns = columns, trials = sums$kept_trial[sums$kept_class == i], values = kept)
  })
}

# The same as the core keeps them, from the totals of each trial in a row and the `classes` of columns, a list of
# `first` and `size`.
plain_sums <- function(totals, trials, classes) {
  products <- crossprod(totals)
  held <- unname(colSums(totals != 0))
  of_class <- lapply(seq_along(classes$first), function(i) {
    rows <- which(totals[, classes$first[i]] != 0)
    rows <- if (length(rows) <= most_kept) rows[order(trials[rows])] else integer()
    columns <- classes$first[i] - 1 + seq_len(classes$size[i])
    list(class = rep(i, length(rows)), trial = trials[rows], value = as.vector(t(totals[rows, columns, drop = FALSE])))
  })
  all <- function(what) as.double(unlist(lapply(of_class, `[[`, what)))
  c(wide_numbers("sum", unname(colSums(totals))), wide_numbers("product", products[upper.tri(products, diag = TRUE)]),
    list(held = held, class_first = as.double(classes$first), class_size = as.double(classes$size),
         kept_class = all("class"), kept_trial = all("trial"), kept_value = all("value")))
}

wide_numbers <- function(part, values) {
  high <- floor(values / wide_base)
  rlang::set_names(list(high, values - high * wide_base), paste0(part, c("_high", "_low")))
}

# The ratio of two columns' sums, each a sum of columns by weights, and its standard error over the `clusters`: the
# trials that hold anything of what it is per. Of several ratios, their `weights` are the columns of a matrix, as are
# those of what each is `per`, and `combine` says which sum of them is asked. `freedom` is NA where there are too few
# clusters for an interval.
ratio_of_sums <- function(sums, trials, weights, per, combine = 1) {
  weights <- as.matrix(weights)
  per <- as.matrix(per)
  bases <- as.vector(crossprod(per, sums$sum))
  ratios <- as.vector(crossprod(weights, sums$sum)) / bases
  kept <- kept_totals(sums, rowSums(weights != 0 | per != 0) > 0)
  spread <- if (is.null(kept)) {
    clusters <- min(trials, max(sums$held[rowSums(per != 0) > 0]))
    # What one trial adds to the combination, but for a constant.
    deviation <- as.vector((sweep(weights, 2, bases, "/") - sweep(per, 2, ratios / bases, "*")) %*% combine)
    linear_error(as.vector(crossprod(deviation, sums$product %*% deviation)), clusters)
  } else {
    jackknife_error(kept$values %*% weights[kept$columns, , drop = FALSE],
                    kept$values %*% per[kept$columns, , drop = FALSE], combine)
  }
  estimate <- sum(ratios * combine)
  # What is one ratio in all of them says nothing of its error.
  if (isTRUE(spread$error <= 1e-12 * max(1, abs(ratios * combine)))) spread$error <- 0
  list(estimate = estimate, std.error = spread$error, clusters = spread$clusters,
       freedom = if (spread$clusters >= fewest_clusters) spread$clusters - 1 else NA_real_)
}

# Fewer than these tell too little of how far they scatter.
fewest_clusters <- 6

# Of many clusters (Cochran 1977, Sampling Techniques, section 6.4): the sum of squares of their deviations.
linear_error <- function(squares, clusters) {
  list(error = if (clusters > 1) sqrt(max(0, squares) * clusters / (clusters - 1)) else NA_real_, clusters = clusters)
}

# Of few, a row each of `tops` over `bases`: how the combination of their ratios moves as one after the other is left
# out (the delete-one jackknife: Quenouille 1956, Biometrika 43, 353-360; Miller 1974, Biometrika 61, 1-15).
jackknife_error <- function(tops, bases, combine) {
  holding <- rowSums(bases != 0) > 0
  tops <- tops[holding, , drop = FALSE]
  bases <- bases[holding, , drop = FALSE]
  clusters <- nrow(tops)
  if (clusters < 2) return(list(error = NA_real_, clusters = clusters))
  rest <- function(of) sweep(-of, 2, colSums(of), "+")
  without <- as.vector((rest(tops) / rest(bases)) %*% rep_len(combine, ncol(tops)))
  list(error = sqrt((clusters - 1) / clusters * sum((without - mean(without))^2)), clusters = clusters)
}

# The totals, trial by trial, of columns that were kept: of the class of all, or of those that hold the columns.
kept_totals <- function(sums, used) {
  used <- which(used)
  if (!length(sums$classes)) return(NULL)
  all <- sums$classes[[1]]
  if (!is.null(all$values)) return(list(columns = used, values = all$values[, used, drop = FALSE]))
  holding <- Filter(function(class) any(class$columns %in% used), sums$classes[-1])
  held <- unlist(lapply(holding, `[[`, "columns"))
  if (!all(used %in% held) || any(vapply(holding, function(class) is.null(class$values), NA))) return(NULL)
  trials <- sort(unique(unlist(lapply(holding, `[[`, "trials"))))
  values <- lapply(holding, function(class) {
    laid <- matrix(0, length(trials), length(class$columns))
    laid[match(class$trials, trials), ] <- class$values
    laid
  })
  list(columns = used, values = do.call(cbind, values)[, match(used, held), drop = FALSE])
}

read_sums <- function(header, experiment) {
  if (!length(header)) return(NULL)
  columns <- length(total_columns(experiment))
  sums <- in_order_of_sums(lapply(header, as.double))
  pairs <- columns * (columns + 1) / 2
  stopifnot(lengths(sums[1:5]) == c(columns, columns, pairs, pairs, columns), !anyNA(unlist(sums)),
            all(sums$kept_class %in% seq_along(sums$class_first)), length(sums$kept_trial) == length(sums$kept_class),
            length(sums$kept_value) == sum(sums$class_size[sums$kept_class]))
  sums
}

# The columns that trials add up: how many entries they have, then each number, and each value of a category.
total_columns <- function(experiment) UseMethod("total_columns")
# How many units of the core make one of each.
total_units <- function(experiment) UseMethod("total_units")
