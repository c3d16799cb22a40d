# A campaign of malformed input: by the ten thousand through the R functions and the command, then kills with resume,
# then disks that are full. It prints what leaked: errors that are not ours, warnings, and status that lies.
#
#   make fuzz                  20,000 cases, seed 1
#   CASES=1000 SEED=7 make fuzz
#   SWEEP=1 make fuzz          every argument of every exported function, in turn with what often leaks
library(habanera)
options(warnPartialMatchDollar = TRUE, warnPartialMatchAttr = TRUE, warnPartialMatchArgs = TRUE)

cases <- as.integer(Sys.getenv("CASES", "20000"))
set.seed(as.integer(Sys.getenv("SEED", "1")))
folder <- tempfile("fuzz-")
dir.create(folder)
leaks <- list()
# Told at once, so that a campaign that is cut short has told what it found; on standard error, as output is caught.
leak <- function(where, what, input) {
  found <- c(where, what, substr(encodeString(input), 1, 160))
  if (!list(found) %in% leaks) cat(sprintf("  %s | %s | %s\n", found[1], found[2], found[3]), file = stderr())
  leaks[[length(leaks) + 1]] <<- found
}

one <- function(...) {
  from <- c(...)
  from[[sample.int(length(from), 1)]]
}

# Text that is nearly right: one or a few letters lost, doubled, changed or put in.
strange <- c("", " ", ",", ";", "\t", "\n", "\"", "'", "\\", "(", ")", "[", "]", "{", "}", "%", "$", "&", "*", "!", "=",
             "#", ":", "-", "--", "0", "9", "1e9", "1e999", "NA", "NaN", "Inf", "NULL", "TRUE", "-1", "0x10", "010",
             "\u2660", "\u00e9", "\U1F0A1", "\ufeff", "\xff", "\xe9", "a", "Z", "AS", "10H", "..", "/", "~", "<", ">",
             "|", "`")
mangle <- function(text) {
  for (i in seq_len(one(1, 1, 1, 2, 3, 6))) {
    n <- nchar(text, "bytes")
    at <- if (n > 0) sample.int(n, 1) else 0
    bytes <- charToRaw(text)
    before <- bytes[seq_len(max(0, at - 1))]
    after <- if (at < n) bytes[(at + 1):n] else raw()
    text <- rawToChar(c(before, switch(sample.int(4, 1), raw(), bytes[c(at, at)], charToRaw(one(strange)),
                                       c(bytes[at], charToRaw(one(strange)))), after))
    Encoding(text) <- "unknown"
  }
  text
}

good <- list(
  cards = c("AS KD 10H", "2C,3C,4C", "JOKER AS", "\u2660A"),
  procedure = c("wash, riffle x4, strip packets=6, riffle clump=0.1, cut", "overhand packet=4 x3", "faro side=in",
                "piles n=4"),
  question = c("two_up = count(rank == \"A\") >= 2", "n = distinct(suit), big = largest_group(rank) > n",
               "w = total(points) / 5", "a = ifelse(count(suit %in% c(\"hearts\")) > 1, 1, 0)",
               "c = card_at(2, rank == \"K\")"),
  deck = c("standard packs=2 jokers=1", "numbered 40", "standard ranks=7,8,9", "orchard.csv"),
  rules = c("face_down=1", "tie=split, cards_each=6", "collect=shuffled", "max_rounds=50,at_limit=most_cards"),
  pays = c("\"2\" = 5, \"3\" = 50", "ifelse(a >= 2, 5, 0)"),
  over = c("face_down=0:3", "tie=war,split"), range = c("0:10", "3"), number = c("5", "1e3", "0.5"),
  grid = c("4x13"), condition = c("rounds > 100", "ended == \"never_ends\"", "a >= 1"))
texts <- list(
  csv = c("card,copies,points\nplum,2,3\nquince,1,4\n", "seat,card\nbaker,AS\nferryman,KD\n", "AS,KD,QC\n2S,3S,4S\n"),
  json = c("[{\"card\": \"plum\", \"copies\": 2}]", "{\"game\": \"war\", \"face_down\": 1}"),
  yaml = c("- card: plum\n  copies: 2\n", "game: war\nface_down: 1\n", "baker: [AS, KD]\nferryman: [2C, 3C]\n"),
  txt = c("3 plum\n2 quince\n", "baker:\nAS KD\nferryman:\n2C 3C\n", "AS KD\n2S 3S\n"))
# What a call was given, so that a leak can be told with it.
given <- character()
noted <- function(text) {
  given <<- c(given, text)
  text
}
fuzzed <- function(kind) {
  noted(if (runif(1) < 0.15) one(good[[one(names(good))]]) else mangle(one(good[[kind]])))
}
fuzzed_file <- function(kinds = names(texts)) {
  kind <- one(kinds)
  file <- file.path(folder, sprintf("f%d.%s", sample.int(50, 1), kind))
  writeBin(charToRaw(noted(mangle(one(texts[[kind]])))), file)
  file
}
results <- local({
  x <- simulate(draws(deck_numbered(5), 2, a = count(rank_high > 2)), nsim = 50, seed = 1)
  y <- simulate(game_war(deck = deck_numbered(8), collect = "seat_order"), nsim = 50, seed = 1)
  files <- file.path(folder, c("a.csv", "a.json", "b.csv", "b.json"))
  for (i in 1:4) write_result(list(x, x, y, y)[[i]], files[i])
  lapply(files, function(file) list(name = basename(file), bytes = readBin(file, "raw", 1e6)))
})
fuzzed_result <- function() {
  kept <- one(results)
  file <- file.path(folder, paste0("r-", kept$name))
  writeBin(charToRaw(noted(mangle(rawToChar(kept$bytes)))), file)
  file
}

source(file.path("tools", "fuzz-examples.R"))
# What is written by names that come out wrong lands there.
setwd(folder)

deck <- deck_standard()
orchard <- deck_from(demo_file("orchard.csv"))
calls <- list(
  example = spoilt_example,
  shipped_file = spoilt_file,
  as_cards = function() as_cards(fuzzed("cards")),
  as_cards_like = function() as_cards(fuzzed("cards"), like = orchard),
  suit_first = function() as_cards(fuzzed("cards"), notation = "suit_first"),
  procedure = function() procedure(fuzzed("procedure")),
  deck_file = function() deck_from(fuzzed_file()),
  rules_file = function() game_war(rules = fuzzed_file(c("yaml", "json"))),
  piles_file = function() game_war(piles = fuzzed_file()),
  draws_file = function() draws_recorded(fuzzed_file(c("csv", "txt")), deck),
  shuffles_file = function() audit(shuffle_recorded(fuzzed_file(c("csv", "txt")), deck = deck_numbered(4))),
  result_file = function() read_result(fuzzed_result()),
  war = function() {
    rule <- one("face_down", "tie", "seats", "rank_by", "deck", "max_rounds", "inner_game", "record", "shuffle",
                "seat_names")
    values <- list(NULL, NA, -1, 1.5, "x", 1:3, list(), Inf, mean, fuzzed("number"), fuzzed("deck"), deck, TRUE)
    do.call(game_war, rlang::set_names(values[sample.int(length(values), 1)], rule))
  },
  simulate = function() {
    setting <- one("nsim", "seed", "first_trial", "threads", "precision", "checkpoint", "anew")
    values <- list(NULL, NA, -1, 1.5, "x", 1:3, c(card = 0.1), Inf, mean)
    do.call(simulate, c(list(draws(deck_numbered(5), 2)), rlang::set_names(values[sample.int(length(values), 1)],
                                                                           setting),
                        if (setting != "nsim") list(nsim = 10)))
  })
command <- function() {
  if (runif(1) < 0.7) return(spoilt_words())
  maybe <- function(...) if (runif(1) < 0.5) c(...)
  words <- switch(sample.int(11, 1),
    c("draws", "--size", fuzzed("number"), "--ask", fuzzed("question"), maybe("--deck", fuzzed("deck")), "--trials",
      "20"),
    c("draws", "--deck", fuzzed("deck"), "--trials", fuzzed("number")),
    c("until", fuzzed("condition"), "--trials", "20"),
    c("payout", "--ask", fuzzed("question"), "--pays", fuzzed("pays"), "--trials", "20"),
    c("play", "war", "--set", fuzzed("rules"), "--trials", "5", maybe("--given", fuzzed("condition"))),
    c("vary", "war", "--over", fuzzed("over"), "--trials", "5"),
    c("replay", "war", "--seed", fuzzed("number"), maybe("--where", fuzzed("condition")), "--trials", "5"),
    c("shuffle", fuzzed("procedure"), "--seed", fuzzed("number"), maybe("--deck", fuzzed("deck"))),
    c("period", fuzzed("procedure"), "--deck-size", fuzzed("range")),
    c("audit", fuzzed("procedure"), "--trials", "50", maybe("--grid", fuzzed("grid")), maybe("--sizes", "0:3")),
    c("deck", fuzzed("deck")))
  if (runif(1) < 0.2) words[sample.int(length(words), 1)] <- mangle(one(words))
  c(words, if (runif(1) < 0.2) "--quiet")
}

said <- function() paste(given, collapse = " | ")

# What belongs to R and not to us. What follows a cross is what a user's own expression failed with.
ours <- function(cnd) inherits(cnd, "habanera_error")
base_words <- paste(c("subscript", "argument is", "missing value where", "non-numeric", "object '", "cannot coerce",
                      "invalid", "partial match", "replacement has", "undefined columns", "unused argument",
                      "NAs introduced", "In addition", "internal error", "atomic vectors", "differing number of rows",
                      "could not find", "multibyte", "must be of length", "non-conformable", "zero length",
                      "zero-length", "not interpretable", "infinite or missing", "end points", "dimensions", "vapply"),
                    collapse = "|")
try_call <- function(name) {
  force(name)
  given <<- character()
  outcome <- tryCatch(withCallingHandlers({
    setTimeLimit(elapsed = 10, transient = TRUE)
    suppressMessages(calls[[name]]())
    NULL
  }, warning = function(cnd) {
    # A function that was given for a user's may warn by itself.
    is_users <- startsWith(deparse(conditionCall(cnd))[1], "mean.default")
    if (!inherits(cnd, "habanera_warning") && !is_users) leak(name, paste("warning:", conditionMessage(cnd)), said())
    invokeRestart("muffleWarning")
  }), error = function(cnd) {
    words <- sub("\u2716.*", "", conditionMessage(cnd))
    if (grepl("reached elapsed time limit", words)) return(NULL)
    if (!ours(cnd) || (grepl(base_words, words) && !grepl("Cannot write", words))) words
  })
  setTimeLimit()
  if (!is.null(outcome)) leak(name, outcome, said())
}
try_command <- function() {
  words <- command()
  out <- file(file.path(folder, "out"), "w")
  err <- file(file.path(folder, "err"), "w")
  sink(out)
  sink(err, type = "message")
  began <- proc.time()[["elapsed"]]
  status <- tryCatch({
    setTimeLimit(elapsed = 20, transient = TRUE)
    habanera:::run_command(words)
  }, error = function(cnd) paste("escaped:", conditionMessage(cnd)), finally = {
    sink(type = "message")
    sink()
    close(out)
    close(err)
  })
  setTimeLimit()
  said <- paste(readLines(file.path(folder, "err"), warn = FALSE), collapse = " ")
  shown <- length(readLines(file.path(folder, "out"), warn = FALSE))
  typed <- paste(words, collapse = " ")
  # Our own time limit ends a command as an interrupt does.
  if (status == 130 && proc.time()[["elapsed"]] - began >= 20) return(invisible())
  if (!status %in% c(0, 1, 2, 3)) leak("command", as.character(status), typed)
  if (status %in% 2:3 && shown) leak("command", "an error, and output besides", typed)
  plain <- iconv(said, "UTF-8", "UTF-8", sub = "?")
  if (status %in% 2:3 && !grepl("habanera: ", plain, fixed = TRUE)) leak("command", "an error without words", typed)
  if (grepl(base_words, gsub("\"[^\"]*\"|`[^`]*`", "", sub("\u2716.*", "", plain)))) leak("command", plain, typed)
}

if (nzchar(Sys.getenv("SWEEP"))) {
  cases <- 0
  for (swept in swept_examples()) {
    calls$swept <- swept
    try_call("swept")
  }
}

# Half are examples gone wrong, a tenth files of the hall's.
for (i in seq_len(cases)) {
  kind <- i %% 10
  what <- if (kind < 5) "example" else if (kind == 5) "shipped_file" else one(names(calls))
  if (kind > 7) try_command() else try_call(what)
}
cat(sprintf("%d malformed inputs.\n", cases))

# Kills with resume: whenever it is killed, the same command goes on and ends with the same counts.
launcher <- system.file("exec", "habanera", package = "habanera")
shell <- function(text) system2("sh", c("-c", shQuote(text)), stdout = FALSE, stderr = FALSE)
kept <- file.path(folder, "kept")
run <- sprintf("%s play war --trials 8e6 --seed 1 --threads 1 --checkpoint %s --format csv --out %s", launcher, kept,
               file.path(folder, "kept.csv"))
whole <- as.data.frame(simulate(game_war(), nsim = 8e6, seed = 1))
for (i in seq_len(as.integer(Sys.getenv("KILLS", "6")))) {
  shell(sprintf("timeout -s KILL %.1f %s", runif(1, 5.5, 9), run))
}
if (shell(run) != 0) leak("kill", "the run did not end", run)
if (!isTRUE(all.equal(as.data.frame(read_result(file.path(folder, "kept.csv"))), whole))) {
  leak("kill", "other counts", run)
}
if (length(list.files(folder, "^[.]habanera", all.files = TRUE))) leak("kill", "left-over files", run)
cat("Kills with resume.\n")

# Full disks: a file system of 64 kB, where we may make one.
small <- file.path(folder, "small")
dir.create(small)
if (shell(sprintf("mount -t tmpfs -o size=64k tmpfs %s", small)) == 0) {
  old <- simulate(draws(deck, 5), nsim = 100, seed = 1)
  for (name in c("x.csv", "x.json", "x.png", "x.pdf", "x.svg", "x.html")) {
    for (room in c(0, 2000, 20000)) {
      file <- file.path(small, name)
      write_result(old, file.path(small, "old.csv"))
      before <- tools::md5sum(file.path(small, "old.csv"))
      file.copy(file.path(small, "old.csv"), file, overwrite = TRUE)
      shell(sprintf("head -c %d /dev/zero >%s/filler", 64000 - room - 8000, small))
      option <- if (grepl("csv|json", name)) "--out" else if (grepl("html", name)) "--report" else "--figure"
      status <- shell(sprintf("%s draws --positions --trials 500 --seed 1 %s %s", launcher, option, file))
      is_old <- identical(unname(tools::md5sum(file)), unname(before))
      if (status == 3 && !is_old) leak("full disk", "the old file is lost", name)
      if (status == 0 && is_old) leak("full disk", "status 0 and nothing written", name)
      unlink(file.path(small, "filler"))
      unlink(file)
    }
  }
  shell(sprintf("umount %s", small))
  cat("Full disks.\n")
} else cat("No file system could be made: full disks are passed over.\n")

unlink(folder, recursive = TRUE)
found <- length(unique(leaks))
cat(sprintf("%d leaked.\n", found))
quit(status = if (found) 1 else 0)
