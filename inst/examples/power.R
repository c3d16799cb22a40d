# Which biases does an audit find, after how many trials? For each biased procedure the share of audits that
# call it biased at the 1% level, over several seeds, and what diagnose() says of it.
#
#   SEEDS=10 TRIALS=10000,100000,1000000 FILE=power.csv Rscript power.R        as it stands: some minutes
#   SEEDS=3 TRIALS=10000 PROCEDURES="riffle x7;wash, riffle" Rscript power.R   quick: some seconds
library(habanera)

seeds <- seq_len(as.numeric(Sys.getenv("SEEDS", "10")))
sizes <- as.numeric(strsplit(Sys.getenv("TRIALS", "10000,100000,1000000"), ",")[[1]])
usual <- c(
  "none", "naive_swap", "naive_swap skip_last=1", "one_cycle", "transpositions x52", "transpositions x208",
  "random_keys values=256", "random_keys values=65536", "coin_sort", "coin_sort method=merge", "modulo",
  "modulo bits=16", "small_seed bits=8", "small_seed bits=16", "overwrite", "riffle x3", "riffle x7", "riffle x10",
  "riffle x7 clump=0.6", "faro", "overhand x8", "strip x8", "piles, riffle", "top_to_random x52", "top_to_random x260",
  "cut", "wash x3", "shelf", "shelf x2", "wash, riffle x4, cut", "uniform"
)
chosen <- Sys.getenv("PROCEDURES")
procedures <- if (nzchar(chosen)) strsplit(chosen, ";")[[1]] else usual

share_found <- function(text, trials) {
  message(sprintf("%s, %.0f trials", text, trials))
  mean(vapply(seeds, function(seed) verdict(audit(procedure(text), nsim = trials, seed = seed)) != "no_bias_seen",
              TRUE))
}

said <- function(text) {
  found <- diagnose(audit(procedure(text), nsim = max(sizes[sizes <= 1e5], min(sizes)), seed = 1))
  if (!nrow(found)) return("no bias seen")
  if (!isTRUE(found$fits[1])) return("none of the known slips")
  if (found$share[1] == 1) found$candidate[1] else sprintf("%s, %.0f%%", found$candidate[1], 100 * found$share[1])
}

table <- data.frame(procedure = procedures)
for (trials in sizes) {
  table[[sprintf("found in %s trials", format(trials, big.mark = ",", scientific = FALSE))]] <-
    sprintf("%.0f%%", 100 * vapply(procedures, share_found, 0, trials = trials))
}
table[["diagnosis"]] <- vapply(procedures, said, "")
print(table, row.names = FALSE)
file <- Sys.getenv("FILE")
if (nzchar(file)) write.csv(table, file, row.names = FALSE)
