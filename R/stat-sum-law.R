# Laws of whole units: their moments, and the law of a sum.

# The mean, the chance to be above nothing, the standard deviation.
pay_moments <- function(values, weight) {
  share <- weight / sum(weight)
  mean <- sum(share * values)
  list(mean = mean, hit = sum(share[values > 0]), sd = sqrt(max(0, sum(share * (values - mean)^2))))
}

# The law of the sum of so many rounds, in stakes: of a window of 13 standard deviations around its mean, whose
# transform to the power of the rounds is that of the sum.
sum_law <- function(law, unit, rounds, call) {
  net <- round(law$net * unit)
  moments <- pay_moments(net, law$probability)
  reach <- min(13 * moments$sd * sqrt(rounds) + diff(range(net)), diff(range(net)) * rounds) + 2
  size <- 2^ceiling(log2(2 * reach + 1))
  if (size > 2^24) refuse("The law of so many rounds is too wide; round what is paid to a larger coin.", "work", call)
  middle <- round(moments$mean * rounds)
  start <- numeric(size)
  places <- net %% size + 1
  for (i in seq_along(net)) start[places[i]] <- start[places[i]] + law$probability[i]
  chances <- pmax(0, Re(stats::fft(stats::fft(start)^rounds, inverse = TRUE)) / size)
  # Each place stands for the sum nearest to the middle that leaves this remainder.
  sums <- middle + ((seq_len(size) - 1 - middle + size / 2) %% size) - size / 2
  order <- order(sums)
  kept <- chances[order] > 1e-16
  list(sum = sums[order][kept] / unit, probability = chances[order][kept] / sum(chances[order][kept]))
}
