# A shell in which no file can grow beyond 512 bytes: as on a full disk, the last write fails.
cramped <- function(words) run_shell(sprintf("trap '' XFSZ; ulimit -f 1; %s", words))

test_that("what cannot be written whole is an error, and the old file stays", {
  folder <- withr::local_tempdir()
  at <- function(name) file.path(folder, name)
  old <- c(csv = "old", json = "old", png = "old", pdf = "old", svg = "old", html = "old")
  for (kind in names(old)) writeLines(old[[kind]], at(paste0("x.", kind)))
  run <- "habanera draws --positions --trials 500 --seed 1"
  for (words in c("--out %s/x.csv", "--out %s/x.json", "--figure %s/x.png", "--figure %s/x.pdf", "--figure %s/x.svg",
                  "--report %s/x.html")) {
    ran <- cramped(paste(run, sprintf(words, folder), ">/dev/null"))
    expect_equal(ran$status, 3, info = words)
    expect_match(paste(ran$err, collapse = " "), "Cannot write", info = words)
  }
  for (kind in names(old)) expect_equal(readLines(at(paste0("x.", kind))), "old", info = kind)
  expect_length(list.files(folder, all.files = TRUE, pattern = "^[.]habanera"), 0)
})

test_that("a checkpoint that cannot be written leaves the old one, and what was counted is shown", {
  folder <- withr::local_tempdir()
  run <- sprintf("habanera draws --positions --seed 1 --checkpoint %s/kept", folder)
  expect_equal(run_shell(paste(run, "--trials 1000 >/dev/null"))$status, 0)
  kept <- tools::md5sum(file.path(folder, "kept"))
  ran <- cramped(paste(run, "--trials 2000"))
  expect_equal(ran$status, 3)
  expect_match(paste(ran$out, collapse = " "), "2,000 trials")
  expect_match(paste(ran$err, collapse = " "), "Cannot write")
  expect_equal(tools::md5sum(file.path(folder, "kept")), kept)
  nowhere <- tryCatch(habanera:::keep_state(
    list(checkpoint = "/dev/full", experiment = draws(deck_standard(), 5), first = 1),
    list(seed = 1, done = 10, seconds = 0, tally = list(n = rep(1, 52), example_trial = rep(1, 52)))
  ), habanera_error_file = identity)
  expect_equal(sum(nowhere$counts$n), 52)
})

test_that("a full standard output is an error, and a reader that has gone is none", {
  expect_equal(run_shell("habanera deck >/dev/full")$status, 3)
  expect_equal(run_shell("habanera --help >/dev/full")$status, 3)
  expect_equal(run_shell("habanera deck --out /dev/full")$status, 3)
  expect_true(file.exists("/dev/full"))
  gone <- run_shell("set -o pipefail; habanera draws --positions --format csv --trials 1000 --seed 1 | head -1")
  expect_length(gone$out, 1)
  expect_length(gone$err, 0)
})

test_that("links are followed, odd names are kept, and what killed runs left is cleaned up", {
  folder <- withr::local_tempdir()
  x <- exact(draws(deck_numbered(3), 1))
  real <- file.path(folder, "real one 'with' \"quotes\".csv")
  write_result(x, real)
  link <- file.path(folder, "link.csv")
  file.symlink(real, link)
  write_result(exact(draws(deck_numbered(4), 1)), link)
  expect_equal(nrow(read_result(real)$outcomes), 4)
  expect_equal(Sys.readlink(link), real)
  dead <- system2("sh", c("-c", shQuote("echo $$")), stdout = TRUE)
  left <- file.path(folder, paste0(habanera:::partial_mark(), trimws(dead), "-abc"))
  ours <- file.path(folder, paste0(habanera:::partial_mark(), Sys.getpid(), "-abc"))
  file.create(left, ours)
  write_result(x, real)
  expect_false(file.exists(left))
  expect_true(file.exists(ours))
})

test_that("pictures that are cut short are told from whole ones", {
  plot <- ggplot2::ggplot(data.frame(x = 1), ggplot2::aes(x, x)) + ggplot2::geom_point()
  for (kind in c("png", "pdf", "svg")) {
    file <- withr::local_tempfile(fileext = paste0(".", kind))
    habanera:::write_plot_file(plot, file, 3, 3)
    bytes <- habanera:::read_bytes(file)
    expect_true(habanera:::is_whole_picture(bytes, kind))
    for (lost in c(8, 20, length(bytes) %/% 2, length(bytes) - 3)) {
      expect_false(habanera:::is_whole_picture(utils::head(bytes, -lost), kind), info = paste(kind, lost))
    }
    hole <- length(bytes) %/% 2
    if (kind != "svg") expect_false(habanera:::is_whole_picture(bytes[-(hole + 0:9)], kind))
  }
})

test_that("text in CSV comes back letter for letter", {
  odd <- c("a \"quoted\" name", "'", "\u2660 spade", "\"\"")
  deck <- deck_from(data.frame(card = odd, copies = seq_along(odd)))
  file <- withr::local_tempfile(fileext = ".csv")
  write_result(exact(draws(deck, 1)), file)
  expect_equal(read_result(file)$outcomes$card, odd)
  listing <- withr::local_tempfile(fileext = ".csv", lines = c("card,copies", "\"a \"\"b\"\"\",2"))
  expect_equal(as.character(deck_from(listing)), rep("a \"b\"", 2))
})

test_that("YAML and JSON that would fill the memory are refused, and plain words stay words", {
  write <- function(extension, ...) withr::local_tempfile(fileext = extension, lines = c(...),
                                                          .local_envir = parent.frame())
  bomb <- write(".yaml", "a: &a [x, x]", "b: &b [*a, *a]", "c: [*b, *b]")
  deep <- write(".json", strrep("[", 1e5))
  octal <- write(".yaml", "game: war", "cards_each: 010")
  expect_refusals(list(
    list(quote(deck_from(bomb)), "file", "references (& and *) are not read"),
    list(quote(game_war(rules = bomb)), "file", "references"),
    list(quote(game_war(piles = bomb)), "file", "references"),
    list(quote(deck_from(deep)), "file", "nested more than 50 deep"),
    list(quote(game_war(rules = octal)), "input", "not \"010\"")
  ))
  words <- write(".yaml", "- card: N", "  note: 'a *b'", "- card: yes", "  note: \"&c\"")
  expect_equal(as.character(deck_from(words)), c("N", "yes"))
})

test_that("a table goes to CSV as it is, whatever its texts hold", {
  table <- data.frame(said = c("6.5% of 3", "%s %n %d", "a, \"b\"", "caf\u00e9", NA), n = c(1, NA, 1e-300, 0.5, 3))
  expect_equal(utils::read.csv(text = csv_table_lines(table), na.strings = ""), table)
})
