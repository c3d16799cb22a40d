# How far an exact answer is out of reach, and what is near.

# The hands that stages begin with are counted before any is followed.
refuse_too_many_hands <- function(x, most, call) {
  hands <- number_of_hands(question_classes(x), x$size, x$replace)
  if (is.null(x$size) || hands <= most) return(invisible())
  kinds <- length(question_classes(x)$kind)
  refuse_as_out_of_reach(x, sprintf("%s of %s would be followed card by card, and %s can be; %s are told apart",
                                    count_of(hands, "different hand"), count_of(x$size, "card"), format_count(most),
                                    count_of(kinds, "kind of card", "kinds of card")), call)
}

# So many hands of `size` cards may be drawn from classes of cards: the coefficient of z^size in the product of the
# classes' 1 + z + ... + z^n.
number_of_hands <- function(classes, size, replace) {
  if (is.null(size)) return(0)
  ways <- c(1, numeric(size))
  for (n in if (replace) rep(Inf, length(classes$deck)) else classes$deck) {
    sums <- cumsum(ways)
    # Of a class there are n at most: what lies further back falls out of the sum.
    out <- if (n < size) c(numeric(n + 1), sums[seq_len(size - n)]) else 0
    ways <- sums - out
  }
  ways[size + 1]
}

refuse_as_out_of_reach <- function(x, why, call) {
  first <- if (length(x$stages)) {
    "The first hand alone, without what is done to it, may be in reach; or ask something coarser."
  }
  refuse(c(sprintf("The exact answer is out of reach: %s.", why),
           i = c(first, "Ask something coarser, with fewer kinds of card to tell apart.")[1],
           i = sprintf("simulate(x, nsim = 1e6) tells a chance within %s points.", format_number(simulated_within, 1))),
         "work", call)
}

# Half the widest 95% interval of a share of a million trials, in points.
simulated_within <- 100 * stats::qnorm(0.975) * sqrt(0.25 / 1e6)
