lines_file <- function(lines, env = parent.frame()) {
  withr::local_tempfile(lines = lines, fileext = ".txt", .local_envir = env)
}

test_that("recorded draws are read as codes and as numbers, however they are parted", {
  file <- lines_file(c("# two cards a draw", "AS KD", "", "kd,10H", "10h;AS", "AS\tKD"))
  x <- draws_recorded(file)
  expect_equal(provenance(x)$trials$last, 4)
  table <- as.data.frame(x)
  expect_equal(table$n[table$card %in% c("10H", "AS", "KD")], c(3, 2, 3))  # AS, 10H, KD in suit order
  expect_equal(table$example_trial[table$card == "10H"], 2)
  from_zero <- draws_recorded(lines_file(c("0 51", "12 13")), numbering = list(first = 0))
  expect_equal(from_zero$outcomes$card[from_zero$n == 1], c("2S", "AS", "2H", "AC"))
  # Numbered by rank, clubs first, ace first, from 1: 1 is the ace of clubs, 52 the king of hearts.
  by_rank <- draws_recorded(lines_file(c("1 52")),
                            numbering = list(by = "rank", suits = c("clubs", "diamonds", "spades", "hearts"),
                                             ranks = c("A", 2:10, "J", "Q", "K")))
  expect_setequal(by_rank$outcomes$card[by_rank$n == 1], c("AC", "KH"))
  listed <- draws_recorded(lines_file("2 1"), numbering = list(cards = "KD AS"))
  expect_equal(sum(listed$n), 2)
  spaced <- draws_recorded(lines_file(c("late frost, plum", "plum, plum")), replace = TRUE,
                           deck = deck_from(data.frame(card = c("late frost", "plum"))))
  expect_equal(spaced$n, c(1, 3))
  expect_equal(draws_recorded(lines_file(c("late frost", "plum")),
                              deck = deck_from(data.frame(card = c("late frost", "plum"))))$n, c(1, 1))
})

test_that("a file of simulated draws gives the very counts of the simulation", {
  for (deck in list(deck_standard(), deck_standard(packs = 2))) {
    drawn <- trials(draws(deck, 7), seed = 2, trials = 1:300)
    x <- draws_recorded(lines_file(do.call(paste, drawn[-1])), deck)
    y <- simulate(draws(deck, 7), nsim = 300, seed = 2)
    expect_equal(as.data.frame(x), as.data.frame(y))
    expect_equal(tidy(x), tidy(y))
  }
})

test_that("draws are read as they come, and one line says how", {
  wanted <- as.data.frame(suppressMessages(draws_recorded(lines_file(c("AS KD", "10H 2C")))))
  read <- function(said, ...) {
    expect_message(x <- draws_recorded(lines_file(c(...))), said, fixed = TRUE)
    expect_equal(as.data.frame(x)[c("card", "n")], wanted[c("card", "n")])
  }
  read("as rank then suit; header skipped.", "first,second", "\"AS\",\"KD\"", "\"TH\",\"2C\"")
  read("as rank then suit.", "A\u2660 | K\u2666", "X\u2665 | 2\u2663")
  read("as suit then rank.", "SA DK", "HX C2")
  read("as rank then suit.", "[AS, KD]", "{10H, 2C}")
  read("as rank then suit.", "Ace of Spades, king of diamonds", "ten of hearts, 2 of clubs")
  read("as rank then suit.", "ASKD", "10H2C")
  read("what stands before a colon passed over", "Draw 1: AS KD", "Draw 2: 10H 2C # redealt")
  read("notes at the end of 1 line passed over", "AS KD", "10H 2C (again, sorry)")
  read("each as often as `freq` says", "card,card,freq", "AS,KD,1", "10H,2C,1")
  read("as rank then suit.", "AS\tKD\r", "10H\t2C\r")
  counted <- suppressMessages(draws_recorded(lines_file(c("a,b,count", "AS,KD,3", "2C,3C,2"))))
  expect_equal(sum(counted$n), 10)
  frame <- data.frame(id = 1:2, one = c("AS", "10H"), two = c("KD", "2C"), note = c("x", "yes"))
  expect_message(x <- draws_recorded(frame), "columns \"id\" and \"note\" passed over")
  expect_equal(as.data.frame(x)[c("card", "n")], wanted[c("card", "n")])
  for (first in 0:1) {
    expect_message(x <- draws_recorded(lines_file(as.character(c(0, 51) + first))), sprintf("numbers from %d", first))
    expect_equal(as.character(x$outcomes$card[x$n > 0]), c("2S", "AC"))
  }
  expect_equal(as_counts(data.frame(Card = c("AS", "KD"), Freq = 3:4), as_cards("AS KD"))$n, c(3, 4))
})

test_that("catalogues of other people's making are read", {
  write <- function(extension, ...) withr::local_tempfile(fileext = extension, lines = c(...),
                                                          .local_envir = parent.frame())
  wanted <- c("plum", "plum", "quince")
  for (file in c(write(".csv", "Card;count", "plum;2", "quince;1"), write(".csv", "name\tQuantity", "plum\t2",
                                                                          "quince\t1"),
                 write(".csv", "cost,Name,freq", "3,plum,2", "4,quince,1"))) {
    expect_equal(as.character(deck_from(file)), wanted)
  }
  expect_equal(as.character(deck_from(write(".txt", "plum", "late frost"))), c("plum", "late frost"))
  expect_equal(sum(card_attributes(deck_numbered(6))$rank), 21)
})

test_that("bad records are refused with their line", {
  codes <- lines_file(c("AS KD", "AS 1D"))
  uneven <- lines_file(c("AS KD", "AS"))
  bytes <- withr::local_tempfile()
  writeBin(as.raw(c(0x41, 0x53, 0x0a, 0xe9, 0x0a)), bytes)
  orchard <- deck_from(demo_file("orchard.csv"))
  expect_refusals(list(
    list(quote(draws_recorded(codes)), "notation", "line 2: unknown card \"1D\". Codes are rank then suit"),
    list(quote(draws_recorded(uneven)), "file", "line 2 has 1 card, not 2"),
    list(quote(draws_recorded(lines_file(c("", "# x")))), "file", "has no draws"),
    list(quote(draws_recorded(bytes)), "file", "is not UTF-8 text: line 2"),
    list(quote(draws_recorded("nowhere")), "file", "There is no file"),
    list(quote(draws_recorded(codes, size = 3)), "file", "line 1 has 2 cards, not 3"),
    list(quote(draws_recorded(lines_file("KH"), deck = as_cards("AS"))), "conservation", "not in the deck"),
    list(quote(draws_recorded(demo_file("dirty-draws.txt"), orchard, numbering = list(first = 0))),
         "notation", "line 3: \"44\" is no number of a card"),
    list(quote(draws_recorded(codes, numbering = list(start = 0))), "input", "`numbering` must be a list"),
    list(quote(draws_recorded(lines_file("2 1"))), "notation", "fit cards counted from 0 and cards counted from 1"),
    list(quote(draws_recorded(lines_file("0 52"))), "notation", "cards are 1 to 52")
  ))
})

test_that("large files as machines write them are read as line by line", {
  code <- as.character(deck_standard())
  hands <- withr::with_seed(3, t(replicate(40, sample(52, 3))))
  cards <- matrix(code[hands], ncol = 3)
  turned <- sub("^(.*)(.)$", "\\2\\1", cards)
  rows <- function(cells, sep = ",") apply(cells, 1, paste, collapse = sep)
  files <- list(
    rows(cards), rows(cards, " "), rows(turned, ";"), rows(hands - 1), c("a,b,c", rows(cards)),
    c("hand,table,one,two,three", paste(1:40, "front", rows(cards), sep = ",")), c(rows(cards), "", "KD,QC,2S"),
    c(rows(cards), "AS,KD"), c("# written at night", rows(cards)), c(rows(cards), "AS,KD,2X"), rows(hands + 1),
    paste("Deal:", rows(cards)), paste0(1:40, ",20:13:05,", rows(cards)), c(rows(cards), "AS,KD,SQ"),
    c(rows(cards), "\"AS\",KD,QC")
  )
  deck <- deck_standard()
  read <- function(lines, from) {
    file <- withr::local_tempfile(lines = lines, fileext = ".txt")
    tryCatch(recorded_kinds(file, deck, NULL, NULL, NULL, NULL, NULL, from), error = function(cnd) {
      gsub(basename(file), "FILE", conditionMessage(cnd), fixed = TRUE)
    })
  }
  named <- c("kinds", "words", "remarks", "is_file")
  for (lines in files) {
    one <- read(lines, 1)
    other <- read(lines, Inf)
    if (is.list(one)) {
      one <- lapply(one[named], unname)
      other <- lapply(other[named], unname)
      one$words <- sort(one$words)
      other$words <- sort(other$words)
    } else expect_match(one, "line 4[12]")
    expect_identical(one, other, info = lines[1])
  }
  file <- withr::local_tempfile(lines = rows(cards), fileext = ".txt")
  expect_equal(nrow(read_regular(file, deck, NULL, NULL, NULL)$cells), 40)
  two <- recorded_kinds(file, deck, NULL, NULL, NULL, 2:3, NULL, 1)
  expect_match(two$remarks, "column 1 passed over", all = FALSE)
  expect_equal(unname(two$kinds), matrix(match(cards[, 2:3], kinds_of(deck)$cards), ncol = 2))
})

test_that("tables and columns of cards become counts", {
  deck <- as_cards("AS KD QC")
  wanted <- c(2, 1, 0)
  column <- c("AS", "KD", "AS")
  n_by_card <- function(x) x$n[match(c("AS", "KD", "QC"), x$outcomes$card)]
  for (table in list(column, factor(column), as_cards("AS KD AS"), table(column), c(AS = 2, KD = 1),
                     data.frame(card = c("AS", "KD"), n = c(2, 1)))) {
    expect_equal(n_by_card(as_counts(table, deck)), wanted)
  }
  numbers <- as_counts(table(c(0, 1, 0)), deck, numbering = list(first = 0))
  expect_equal(n_by_card(numbers), wanted)
  expect_refusals(list(
    list(quote(as_counts(c(AS = 1.5), deck)), "input", "Row 1: a count must be a whole number"),
    list(quote(as_counts(data.frame(card = "AS"), deck)), "input", "the columns `card` and `n`"),
    list(quote(as_counts(c(AS = 3), deck, size = 2)), "input", "no whole number of draws"),
    list(quote(as_counts(list(1), deck)), "input", "`table` must be"),
    list(quote(as_counts(column, deck, size = 2)), "input", "size = 1"),
    list(quote(as_counts(c("AS", "ZZ"), deck)), "notation", "Row 2: unknown card \"ZZ\"")
  ))
})
