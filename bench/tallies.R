# The bare loops (bench/bare.cpp), and what the package counts, laid out as they lay it out: the deals are the same, so
# every count must be.
dyn.load("build/bare.so")

bare_counts <- function(job, trials, threads = 1) {
  size <- .C("bare_size", job, size = 0L)$size
  .C("bare_count", job, as.double(trials), as.integer(threads), counts = numeric(size))$counts
}

# `n` at the places (from 1) in a table of so many.
laid_out <- function(places, n, size) {
  counts <- numeric(size)
  sums <- rowsum(n, places)
  counts[as.integer(rownames(sums))] <- sums
  counts
}
as_they_stand <- function(x) as.data.frame(x)$n
at_positions <- function(x) {
  # Ours card by card, theirs place by place.
  counts <- as.data.frame(x)
  counts$n[order(counts$position, match(counts$card, unique(counts$card)))]
}
by_number <- function(column, size) function(x) {
  counts <- as.data.frame(x)
  laid_out(counts[[column]] + 1, counts$n, size)
}
by_name <- function(column, names) function(x) {
  counts <- as.data.frame(x)
  laid_out(match(counts[[column]], names), counts$n, length(names))
}
# Games that never end have no rounds here, and are broken off there.
war_rounds <- function(x) {
  counts <- as.data.frame(x)
  counts$rounds[is.na(counts$rounds)] <- 5000
  laid_out(counts$rounds + 1, counts$n, 5001)
}
lift_table <- function(x) {
  counts <- as.data.frame(x)
  laid_out(match(counts$winner, c(1, 2), nomatch = 0) * 53 + counts$turned + 1, counts$n, 3 * 53)
}
by_net <- function(x) {
  counts <- as.data.frame(x)
  laid_out(counts$net_1 + 3, counts$n, 5)
}
two_conditions <- function(x) {
  counts <- as.data.frame(x)
  laid_out(2 * counts$two_up + counts$three + 1, counts$n, 4)
}
# Net results and stakes in halves, up to 20 of them; 0 lost, 1 tied, 2 won, 3 won by a natural.
in_halves <- function(net, staked, result) ((2 * net + 20) * 20 + 2 * staked) * 4 + result
round_results <- function(x) {
  counts <- as.data.frame(x)
  result <- match(counts$result, c("loss", "push", "win", "natural")) - 1
  laid_out(in_halves(counts$net, counts$staked, result) + 1, counts$n, 41 * 20 * 4)
}
# Of a seat that counts ours are not told apart by how they came: theirs are added up over that.
counted_results <- function(x) {
  counts <- as.data.frame(x)
  place <- (counts$true_count + 60) * 41 * 20 + in_halves(counts$net_per_bet, counts$staked / counts$bet, 0) / 4
  laid_out(place + 1, counts$n, 121 * 41 * 20)
}
without_result <- function(counts) colSums(matrix(counts, 4))
audited <- function(x) {
  tables <- c("position", "stayed_put", "still_together", "rising_sequences", "inversions", "cycles", "total_distance",
              "top_cards", "right_guesses")
  c(unlist(x$counts$all$n[tables], use.names = FALSE), x$counts$taught$n$follows)
}
# What the bare audit keeps for itself comes last.
of_audit <- function(counts) utils::head(counts, 52 * 52 + 3 * 53 + 1327 + 53 + 1353 + 52^3 + 53 + 52 * 52)
# What a pay table pays back under best play, in millionths.
paid_back <- function(x) floor(1e6 * sum(x$lines$contribution))
