# What the results of a hand that is bet on are told in, and other things that rules say without more.

# What the results are told in, in chips.
betting_unit <- function(rules) {
  if (from_the_middle(rules)) return(1)
  if (length(rules$blinds)) return(max(rules$blinds))
  max(rules$ante, 1)
}
from_the_middle <- function(rules) rules$pot > 0 || length(rules$board) > 0

unit_in_words <- function(rules) {
  if (from_the_middle(rules) || (!length(rules$blinds) && rules$ante == 0)) return("chips")
  if (length(rules$blinds)) "larger blinds" else "antes"
}

# One of what results are told in.
stake_in_words <- function(rules) {
  c(chips = "a chip", antes = "an ante", `larger blinds` = "a larger blind")[[unit_in_words(rules)]]
}

# Two seats of which one wins what the other loses.
is_zero_sum <- function(rules) rules$seats == 2 && rules$pot == 0

# Cards that come to be turned.
shared_in_all <- function(rules) sum(vapply(rules$streets, `[[`, 0, "shared"))
