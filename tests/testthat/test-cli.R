test_that("help and version answer, and help knows every command", {
  for (words in c("habanera", "habanera --help", "habanera help")) {
    help <- run_shell(words)
    expect_equal(help$status, 0)
    expect_match(help$out[1], "a laboratory for card games")
  }
  expect_equal(help$out, run_words("--help")$out)
  for (command in habanera:::commands()) {
    expect_true(any(grepl(paste0("  ", command$name, " +", command$summary), help$out)), info = command$name)
    own <- run_words(command$name, "--help")
    expect_equal(own$status, 0)
    expect_match(own$out[1], paste("Use: habanera", command$name))
  }
  expect_match(run_words("--version")$out, "^habanera [0-9.]+$")
})

test_that("misspelt words name the nearest, with status 2 and nothing on standard output", {
  cases <- list(
    list("darws", "There is no command \"darws\"; did you mean \"draws\"?"),
    list(c("draws", "--seeed", "1"), "there is no option --seeed; did you mean \"--seed\"?"),
    list(c("draws", "-n", "5"), "there is no option -n; options begin with two dashes"),
    list(c("draws", "--size", "abc"), "`--size` must be a number, not \"abc\""),
    list(c("draws", "--size", "60"), "`--size` must be a whole number from 0 to 52, not 60"),
    list(c("draws", "--size", "-1"), "not -1"),
    list(c("draws", "--format", "xml"), "`--format` must be text, json or csv"),
    list(c("draws", "--expect", "fiar"), "did you mean \"fair\"?"),
    list(c("draws", "extra"), "\"extra\" is one word too many"),
    list(c("draws", "--positions", "--size", "5"), "no --size"),
    list(c("draws", "--file", "x", "--program", "y"), "--file and --program exclude each other"),
    list(c("draws", "--deck", "nothing"), "\"nothing\" is no deck"),
    list(c("deck", "standard", "pack=2"), "did you mean \"packs\"?"),
    list(c("deck", "--grid", "4"), "rows x columns"),
    list(c("draws", "--trials", "5", "--seed"), "--seed needs a value. Try habanera draws --help")
  )
  expect_bad_usage(cases)
})

test_that("what cannot be done has status 3 and leaves no file", {
  folder <- withr::local_tempdir()
  for (words in list(c("deck", demo_file("dirty-deck.csv")),
                     c("draws", "--trials", "10", "--out", file.path(folder, "no", "x.csv")),
                     c("draws", "--trials", "10", "--report", file.path(folder, "no", "x.html")),
                     c("draws", "--program", "exit 4"))) {
    ran <- run_words(words)
    expect_equal(ran$status, 3, info = paste(words, collapse = " "))
    expect_length(ran$out, 0)
    expect_match(ran$err[1], "^habanera: ")
  }
  expect_length(list.files(folder, all.files = TRUE, no.. = TRUE), 0)
})

test_that("draws writes the same counts as R, in every format", {
  x <- simulate(draws(deck_standard(packs = 2), 4), nsim = 3000, seed = 5)
  words <- c("draws", "--deck", "standard packs=2", "--size", "4", "--trials", "3e3", "--seed", "5")
  expect_match(run_words(words)$out[2], "No bias seen")
  for (format in c("csv", "json")) {
    file <- withr::local_tempfile(fileext = paste0(".", format))
    ran <- run_words(words, "--format", format)
    if (format == "json") {
      writeLines(ran$out, file)
      expect_equal(as.data.frame(read_result(file)), as.data.frame(x))
    } else {
      expect_equal(utils::read.csv(text = ran$out)$n, x$n)
    }
    expect_equal(run_words(words, "--out", file)$status, 0)  # the extension says the format
    expect_equal(as.data.frame(read_result(file)), as.data.frame(x))
  }
  grouped <- run_words(words, "--group", "suit")$out
  expect_length(grep("spades|hearts|diamonds|clubs|total", grouped), 5)
  expect_match(run_words("draws", "--positions", "--trials", "100", "--seed", "1")$out[1], "where each card")
})

test_that("draws made elsewhere are judged, and an expectation that fails has status 1", {
  words <- c("draws", "--deck", demo_file("orchard.csv"), "--file", demo_file("tablet-draws.txt"),
             "--first-number", "0")
  expect_equal(run_words(words)$status, 0)
  failed <- run_words(words, "--expect", "fair")
  expect_equal(failed$status, 1)
  expect_match(failed$out[2], "^Biased, by 3 of 8 tests at level 0.01")
  expect_match(failed$out, "Never came: 11P", all = FALSE)
  expect_match(failed$err[2], "a bias is seen")
  fair <- run_words("draws", "--trials", "2000", "--seed", "1", "--expect", "fair")
  expect_equal(fair$status, 0)
  program <- run_words("draws", "--deck", demo_file("orchard.csv"), "--trials", "500", "--program",
                       paste("awk -f", shQuote(demo_file("tablet-draw.awk"))))
  expect_match(program$out, "Never came: 11P", all = FALSE)
})

test_that("a report and a figure are written beside the counts", {
  folder <- withr::local_tempdir()
  ran <- run_words("draws", "--trials", "500", "--seed", "1", "--report", file.path(folder, "a.html"),
                   "--figure", file.path(folder, "a.png"))
  expect_equal(ran$status, 0)
  expect_setequal(list.files(folder, all.files = TRUE, no.. = TRUE), c("a.html", "a.png"))
  expect_equal(readBin(file.path(folder, "a.png"), "raw", 4), as.raw(c(0x89, 0x50, 0x4e, 0x47)))
  expect_equal(run_words("draws", "--trials", "5", "--figure", "x.gif")$status, 2)
})

test_that("a deck is shown, shuffled, dealt and listed", {
  expect_equal(run_words("deck")$out[1], "<cards> 52 cards, standard")
  shuffled <- run_words("deck", "numbered 10", "--shuffle", "--seed", "1", "--format", "csv")
  expect_equal(utils::read.csv(text = shuffled$out)$card,
               as.numeric(as.character(shuffle(deck_numbered(10), seed = 1))))
  expect_match(shuffled$err, "Shuffled with seed 1, trial 1.")
  expect_length(run_words("deck", "--shuffle", "--quiet")$err, 0)
  dealt <- run_words("deck", "standard", "packs=1", "--deal", "2", "--size", "3", "--format", "json")
  table <- jsonlite::fromJSON(paste(dealt$out, collapse = ""))[["table"]]
  expect_equal(as.vector(table(table$hand)), c(3, 3, 46))
  expect_equal(run_words("deck", demo_file("stall.txt"), "--attributes")$out[2], " paper windmill")
  expect_match(run_words("deck", "--grid", "4x13")$out[5], "^2.  3.  4. ")
})

test_that("the shell reads standard input, and a closed pipe ends quietly", {
  piped <- run_shell(sprintf("habanera deck - < %s", shQuote(demo_file("stall.txt"))))
  expect_match(piped$out[1], "40 cards, standard input")
  recorded <- run_shell(sprintf("habanera draws --deck %s --file - --first-number 0 <%s",
                                shQuote(demo_file("orchard.csv")), shQuote(demo_file("tablet-draws.txt"))))
  expect_match(recorded$out, "Never came: 11P", all = FALSE)
  closed <- run_shell(paste("{ habanera draws --deck 'numbered 300' --positions --trials 10 --format csv --quiet;",
                            "echo $? >&2; } | head -1"))
  expect_length(closed$out, 1)
  expect_equal(closed$err, "0")
})

test_that("an interrupt in the shell prints what was counted, with status 130", {
  ran <- run_shell("timeout --preserve-status -s INT 8 habanera draws --trials 1e12 --seed 1")
  expect_equal(ran$status, 130)
  expect_match(ran$out[1], "trials, seed 1")
  expect_match(paste(ran$err, collapse = " "), "Interrupted: these are the counts of")
})

test_that("the command is linked where it is asked for", {
  folder <- withr::local_tempdir()
  link <- suppressMessages(install_command(folder))
  expect_match(system2(link, "--version", stdout = TRUE), "^habanera")
  expect_equal(suppressMessages(install_command(folder)), link)
  unlink(link)
  writeLines("mine", link)
  expect_error(install_command(folder), "is no link of ours", class = "habanera_error_file")
  expect_error(install_command("/proc/none"), class = "habanera_error_file")
})

test_that("too few draws are no proof that they are fair", {
  file <- withr::local_tempfile(lines = c("AS KH", "3D 10C"), fileext = ".txt")
  ran <- run_words("draws", "--file", file, "--expect", "fair")
  expect_equal(ran$status, 3)
  expect_match(ran$err, "too few draws to tell", all = FALSE)
  expect_equal(verdict(draws_recorded(file)), "too_few")
})

test_that("in a locale of ASCII alone glyphs are read, and what is printed has none", {
  folder <- withr::local_tempdir()
  command <- suppressMessages(install_command(folder))
  writeLines("A\u2660 K\u2665 Q\u2666", file.path(folder, "hands.txt"), useBytes = TRUE)
  in_ascii <- function(...) {
    processx::run(command, c(...), wd = folder, env = c("current", LC_ALL = "C"), encoding = "UTF-8")$stdout
  }
  said <- c(in_ascii("vary", "war", "--over", "face_down=1,2", "--trials", "500", "--seed", "1"),
            in_ascii("showdown", "A\u2660 K\u2660", "Q\u2665 Q\u2666"), in_ascii("hands", "hands.txt"),
            in_ascii("mixing", "riffle", "--times", "1:3", "--trials", "500", "--seed", "1"))
  for (words in said) expect_no_match(words, "[^ -~\n]|<U\\+")
  expect_match(said[1], "51% \\+-4.4")
  expect_match(said[2], "Seat 2 \\(QH QD\\)")
  expect_match(said[3], "AS KH QD")
})
