orders <- t(vapply(1:60, function(trial) {
  as.integer(as.character(shuffle(deck_numbered(8), shuffle_riffle(2), seed = 3, trial = trial)))
}, integer(8)))
codes <- matrix(as.character(deck_standard())[1:8][orders], nrow = 60)
eight <- deck_standard()[1:8]

written <- function(lines, extension = ".txt") {
  file <- tempfile(fileext = extension)
  writeLines(lines, file)
  file
}

statistics_of <- function(x, drop = "repeats") {
  table <- tidy(x)
  table$statistic[!table$term %in% drop]
}

test_that("rows in any form are the same audit as the trials they came from", {
  ours <- statistics_of(audit(shuffle_riffle(2), eight, nsim = 60, seed = 3))
  as_lines <- function(rows, sep) apply(rows, 1, paste, collapse = sep)
  files <- list(
    codes = list(written(as_lines(codes, " "))),
    csv = list(written(c(paste(sprintf("place%d", 1:8), collapse = ","), as_lines(codes, ",")), ".csv")),
    headless = list(written(as_lines(codes, ";"), ".csv")),
    commented = list(written(c("# logged by hand", "", as_lines(codes, "\t"), ""))),
    from_one = list(written(as_lines(orders, " "))),
    from_zero = list(written(as_lines(orders - 1, ",")), numbering = list(first = 0))
  )
  for (name in names(files)) {
    logged <- do.call(shuffle_recorded, c(files[[name]], list(deck = eight)))
    expect_equal(statistics_of(audit(logged)), ours, info = name)
  }
  expect_output(print(shuffle_recorded(files$codes[[1]], deck = eight)), "60 arrangements")
})

test_that("Parquet is read", {
  skip_if_not_installed("nanoparquet")
  file <- tempfile(fileext = ".parquet")
  nanoparquet::write_parquet(as.data.frame(codes), file)
  expect_equal(statistics_of(audit(shuffle_recorded(file, deck = eight))),
               statistics_of(audit(shuffle_riffle(2), eight, nsim = 60, seed = 3)))
})

test_that("all rows count unless fewer are asked for, and more than there are is an error", {
  logged <- shuffle_recorded(written(apply(codes, 1, paste, collapse = " ")), deck = eight)
  expect_equal(statistics_of(audit(logged, nsim = 20)),
               statistics_of(audit(shuffle_riffle(2), eight, nsim = 20, seed = 3)))
  expect_refusals(list(
    list(quote(audit(logged, nsim = 61)), "input", "at most the 60 arrangements"),
    list(quote(audit(logged, seed = 1)), "input", "no `seed` governs it"),
    list(quote(audit(logged, each = "continued")), "input", "Only a procedure")
  ))
})

test_that("the deck may be given with the file or with the audit, and be missing until then", {
  file <- written(apply(codes, 1, paste, collapse = " "))
  wanted <- statistics_of(audit(shuffle_recorded(file, eight)))
  expect_equal(statistics_of(audit(shuffle_recorded(file), deck = eight)), wanted)
  other <- written(c("plum fig", "fig plum", "plum fig"))
  waiting <- shuffle_recorded(other)
  expect_output(print(waiting), "needs its deck")
  expect_output(print(audit(waiting, deck = deck_from(data.frame(card = c("plum", "fig"))))), "3 trials")
  expect_error(audit(waiting), "unknown card", class = "habanera_error_notation")
})

test_that("arrangements are read as they come", {
  d <- as_cards("AS KD 10H 2C")
  wanted <- shuffle_recorded(written(c("AS KD 10H 2C", "AS 2C KD 10H")), d)$rows
  for (lines in list(c("a,b,c,d", "SA,DK,H10,C2", "SA,C2,DK,H10"), c("ASKD10H2C", "AS2CKDTH"),
                     c("Deal 1: [Ace of Spades | King of Diamonds | ten of hearts | 2 of clubs] good deal",
                       "Deal 2: AS 2C KD XH"),
                     c("0 1 2 3", "0 3 1 2"), c("1;2;3;4", "1;4;2;3"))) {
    expect_message(read <- shuffle_recorded(written(lines), d), "Read 2 arrangements of 4 cards as")
    expect_equal(read$rows, wanted, info = lines[1])
  }
})

test_that("a program that writes one deck and stops is run once a trial", {
  d <- as_cards("AS KD 10H 2C")
  cut <- "sed 's/^\\([^ ]*\\) \\(.*\\)$/\\2 \\1/' | head -1"
  found <- audit(shuffle_program(cut, d, each_trial = TRUE), nsim = 30)
  expect_equal(verdict(found), "biased")
  expect_error(audit(shuffle_program(cut, d), nsim = 30), "--each-trial", class = "habanera_error_program")
})

test_that("a row that lost or doubled a card makes it no shuffle; rubbish names the line", {
  lines <- apply(codes, 1, paste, collapse = " ")
  short <- shuffle_recorded(written(c(lines, sub(" [^ ]*$", "", lines[1]))), deck = eight)
  expect_equal(verdict(audit(short)), "not_a_shuffle")
  expect_output(print(audit(short)), sprintf("Lost: %s", codes[1, 8]))
  expect_output(print(audit(short)), "first in trial 61")
  expect_output(print(audit(short)), sprintf("Trial 61 left: .*%s -\\.", codes[1, 7]))
  double <- shuffle_recorded(written(c(lines[1:4], paste(codes[1, c(1:7, 1)], collapse = " "))), deck = eight)
  expect_output(print(audit(double)), sprintf("Doubled: %s", codes[1, 1]))
  expect_refusals(list(
    list(quote(shuffle_recorded(written(c(lines[1:3], paste(lines[4], "2S"))), deck = eight)), "file",
         "line 4 has 9 cards; the deck has 8"),
    list(quote(shuffle_recorded(written(c("# one", lines[1:3], sub("2S", "2X", lines[4]))), deck = eight)),
         "notation", "line 5: unknown card \"2X\""),
    list(quote(shuffle_recorded(written("0 1 2 3 4 5 6 8"), deck = eight)), "notation",
         "line 1: \"0\" is no number of a card"),
    list(quote(shuffle_recorded(written("KD 1 2 3 4 5 6 7"), deck = eight)), "notation", "unknown card \"1\""),
    list(quote(shuffle_recorded(written("# nothing"), deck = eight)), "file", "has no arrangements"),
    list(quote(shuffle_recorded("no-such.csv")), "file", "There is no file")
  ))
})

test_that("a deck that repeats cards: numbers know places, codes know kinds", {
  deck <- as_cards("AS AS KD KD 2C 2C 3H 3H")
  places <- audit(shuffle_recorded(written(apply(orders, 1, paste, collapse = " ")), deck = deck))
  terms <- c("inversions", "cycles", "successive", "guesser")
  of <- function(x) tidy(x)$statistic[match(terms, tidy(x)$term)]
  expect_equal(of(places), of(audit(shuffle_riffle(2), deck_numbered(8), nsim = 60, seed = 3)))
  kinds <- audit(shuffle_recorded(written(apply(orders, 1, function(row) paste(as.character(deck)[row],
                                                                               collapse = " "))), deck = deck))
  expect_equal(tidy(kinds)$term, c("conservation", "position_by_kind", "alike_suit", "alike_rank", "repeats"))
})

test_that("the volunteers' logged shuffles show their habit", {
  orchard <- deck_from(demo_file("orchard.csv"))
  found <- audit(shuffle_recorded(demo_file("volunteer-shuffles.csv"), deck = orchard))
  expect_equal(verdict(found), "biased")
  slip <- diagnose(found)
  expect_equal(slip$procedure[1], "cut")
  expect_true(slip$fits[1])
  # One in three; the cuts among 600 are binomial.
  expect_lte(abs(slip$share[1] - 1 / 3), standard_errors * sqrt(2 / 9 / 600))
})

test_that("programs in two languages, right and wrong, are judged", {
  orchard <- deck_from(demo_file("orchard.csv"))
  programs <- list(c("perl", "shuffle-right.pl", "no_bias_seen"), c("perl", "tablet-shuffle.pl", "biased"),
                   c("python3", "shuffle-right.py", "no_bias_seen"), c("python3", "shuffle-wrong.py", "biased"))
  for (program in programs) {
    if (!nzchar(Sys.which(program[1]))) next
    made <- shuffle_program(paste(program[1], shQuote(demo_file(program[2]))), deck = orchard)
    expect_equal(verdict(audit(made, nsim = 4000, level = rare)), program[3], info = program[2])
  }
})

test_that("a program that loses cards is no shuffle; copies are sent as places", {
  expect_equal(verdict(audit(shuffle_program("sed 's/AS/2S/'"), nsim = 20)), "not_a_shuffle")
  expect_output(print(audit(shuffle_program("sed 's/ AS//'"), nsim = 20)), "Lost: AS")
  found <- audit(shuffle_program("cat", deck = as_cards("AS AS KD")), nsim = 20)
  expect_output(print(found), "it did nothing")
  expect_true("inversions" %in% tidy(found)$term)
})

test_that("a program that dies, hangs or prints rubbish gives an error, and what it wrote is kept", {
  failing <- function(command, ...) tryCatch(audit(shuffle_program(command, ...), nsim = 50), error = identity)
  died <- failing("head -20; echo out of paper >&2; exit 3")
  expect_s3_class(died, "habanera_error_program")
  expect_match(conditionMessage(died), "ended with status 3")
  expect_match(conditionMessage(died), "It said: out of paper")
  expect_s3_class(died$audit, "habanera_audit")
  # The last line may have been cut off, and is left out.
  expect_output(print(died$audit), "19 trials")
  expect_match(conditionMessage(failing("sleep 3", time_limit = 1)), "took longer than 1 second")
  expect_match(conditionMessage(failing("true")), "wrote 0 lines for 50 decks")
  expect_null(failing("true")$audit)
  expect_match(conditionMessage(failing("sed 's/AS/XX/'")), "line 1: unknown card \"XX\"")
  expect_match(conditionMessage(failing("cat; echo AS")), "wrote 51 lines for 50 decks")
  expect_refusals(list(
    list(quote(shuffle_program("")), "input", "`command` must be one piece of text"),
    list(quote(audit(shuffle_program("cat"), nsim = 5, level = 3)), "input", "`level` must be")
  ))
})

test_that("a matrix has an arrangement in each row, not on its side, and a part of a deck is told from a draw", {
  codes <- as.character(deck_standard())
  rows <- withr::with_seed(1, t(replicate(30, sample(codes))))
  expect_identical(suppressMessages(shuffle_recorded(rows))$rows,
                   suppressMessages(shuffle_recorded(as.data.frame(rows)))$rows)
  drawn <- suppressMessages(draws_recorded(rows[, 1:3]))
  expect_equal(drawn, suppressMessages(draws_recorded(as.data.frame(rows[, 1:3]))))
  expect_equal(trials_of(drawn), 30)
  part <- withr::with_seed(2, t(replicate(30, sample(codes[1:20]))))
  expect_refusals(list(
    list(quote(shuffle_recorded(t(rows))), "input", "deck of 52 cards down each of its 30 columns; give t(file)"),
    list(quote(shuffle_recorded(part, deck = deck_standard())), "file", "All rows have the same 20 cards")
  ))
  expect_equal(nrow(suppressMessages(shuffle_recorded(part, deck = deck_standard()[1:20]))$rows), 30)
  top <- withr::with_seed(3, t(replicate(30, sample(codes, 20))))
  refused <- rlang::catch_cnd(shuffle_recorded(top, deck = deck_standard()))
  expect_match(conditionMessage(refused), "draws_recorded\\(\\) reads them")
  expect_no_match(conditionMessage(refused), "All rows")
})
