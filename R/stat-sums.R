# What trials of several entries add up to, so that estimates have errors by trial: of each column the sum of its totals
# in a trial, and of every two columns the sum of the products. Whole numbers as the core has them, wider than a double:
# value = high * 2^48 + low. A list of `sum_high`, `sum_low`, and `product_high`, `product_low` row by row of the lower
# triangle; NULL where trials have one entry each.

wide_base <- 2^48

add_sums <- function(one, two) {
  if (is.null(one) || is.null(two)) return(NULL)
  added <- function(part) {
    low <- one[[paste0(part, "_low")]] + two[[paste0(part, "_low")]]
    carry <- floor(low / wide_base)
    high <- one[[paste0(part, "_high")]] + two[[paste0(part, "_high")]] + carry
    rlang::set_names(list(high, low - carry * wide_base), paste0(part, c("_high", "_low")))
  }
  c(added("sum"), added("product"))
}

# As doubles: `sum` by column, and `product` as a matrix.
trial_sums <- function(sums, columns) {
  value <- function(part) sums[[paste0(part, "_high")]] * wide_base + sums[[paste0(part, "_low")]]
  size <- length(columns)
  product <- matrix(0, size, size, dimnames = list(columns, columns))
  product[upper.tri(product, diag = TRUE)] <- value("product")
  product[lower.tri(product)] <- t(product)[lower.tri(product)]
  list(sum = rlang::set_names(value("sum"), columns), product = product)
}

# The same as the core keeps them, from the totals of each trial in a row.
plain_sums <- function(totals) {
  products <- crossprod(totals)
  parts <- list(sum = unname(colSums(totals)), product = products[upper.tri(products, diag = TRUE)])
  unlist(lapply(names(parts), function(part) {
    high <- floor(parts[[part]] / wide_base)
    rlang::set_names(list(high, parts[[part]] - high * wide_base), paste0(part, c("_high", "_low")))
  }), recursive = FALSE)
}

# The ratio of two columns' sums, each a sum of columns by weights, and its standard error by trial (Cochran 1977,
# Sampling Techniques, section 6.4): the variance of what the trials deviate from the ratio. Of several ratios, their
# `weights` are the columns of a matrix, as are those of what each is `per`, and `combine` says which sum of them is
# asked.
ratio_of_sums <- function(sums, trials, weights, per, combine = 1) {
  weights <- as.matrix(weights)
  per <- as.matrix(per)
  bases <- as.vector(crossprod(per, sums$sum))
  ratios <- as.vector(crossprod(weights, sums$sum)) / bases
  # What one trial adds to the combination, but for a constant.
  deviation <- as.vector((sweep(weights, 2, bases, "/") - sweep(per, 2, ratios / bases, "*")) %*% combine)
  variance <- as.vector(crossprod(deviation, sums$product %*% deviation)) * trials / (trials - 1)
  list(estimate = sum(ratios * combine), std.error = if (trials > 1) sqrt(max(0, variance)) else NA_real_)
}

read_sums <- function(header, experiment) {
  if (!length(header)) return(NULL)
  columns <- length(total_columns(experiment))
  sums <- lapply(header[c("sum_high", "sum_low", "product_high", "product_low")], as.double)
  stopifnot(lengths(sums) == c(columns, columns, columns * (columns + 1) / 2, columns * (columns + 1) / 2),
            !anyNA(unlist(sums)))
  sums
}

# The columns that trials add up: how many entries they have, then each number, and each value of a category.
total_columns <- function(experiment) UseMethod("total_columns")
# How many units of the core make one of each.
total_units <- function(experiment) UseMethod("total_units")
