refused <- function(lines, ...) {
  message <- tryCatch({
    read_study(study_file(lines, ...))
    "it was read"
  }, habanera_error_study = rlang::cnd_message, habanera_error_file = rlang::cnd_message)
  sub("^\"[^\"]*\"", "FILE", message)
}

# A python that has the library.
validating_python <- function() {
  has <- function(python) system(paste(python, "-c 'import jsonschema' 2>/dev/null")) == 0
  Filter(has, c("python3", "/usr/bin/python3"))[1]
}

# Whether these texts of YAML fit a schema, as a library of another language sees it.
fits_schema <- function(texts, schema) {
  studies <- vapply(texts, function(lines) {
    data <- yaml_data(paste(lines, collapse = "\n"), "study", NULL)
    as.character(jsonlite::toJSON(data, auto_unbox = TRUE, null = "null"))
  }, "")
  file <- withr::local_tempfile(lines = studies)
  script <- withr::local_tempfile(lines = c(
    "import json, jsonschema, sys", "schema = json.load(open(sys.argv[1]))",
    "jsonschema.Draft7Validator.check_schema(schema)", "valid = jsonschema.Draft7Validator(schema)",
    "for line in open(sys.argv[2]): print(valid.is_valid(json.loads(line)))"
  ))
  system2(validating_python(), c(script, schema, file), stdout = TRUE) == "True"
}

test_that("a study says what it holds, and its code gives the same answers", {
  study <- read_study(demo_file("month.yaml"))
  expect_match(capture.output(print(study))[1], "A month at Lantern Hall: 10 runs on", fixed = TRUE)
  folder <- withr::local_tempdir()
  copy_demo_data(folder)
  small <- study_file(c("decks: {orchard: orchard.csv}", "draws:",
                        "  stall: {deck: orchard, size: 3, alike: largest_group(suit), worth: total(points)}",
                        "games: {quick: quick-game.yaml}", "counts: {the twin: level-one.yaml}", "runs:",
                        "  what it gives: {exact: stall}",
                        "  what it takes: {payout: {x: what it gives, pays: {\"3\": 8, \"2\": 1}}}",
                        "  by words: {payout: {x: what it gives, pays: \"ifelse(worth >= 27, 3, 0)\"}}",
                        "  how long: {simulate: {object: quick, nsim: 500}}",
                        "  more packs: {vary_rules: {game: {game_high_card: {}}, packs: \"1:3\", of: edge}}",
                        "  held:", "    judge_count: {game: {game_blackjack: {}}, system: the twin}"),
                      folder = folder)
  found <- run_study(small, withr::local_tempdir())
  expect_identical(found$runs$state, rep("done", 6))
  space <- new.env(parent = globalenv())
  code <- study_code(small)
  withr::with_dir(folder, eval(parse(text = grep("^report|^library", code, value = TRUE, invert = TRUE)), space))
  for (run in names(found$values)) {
    again <- space$answers[[run]]
    expect_identical(as.data.frame(tidy(found$values[[run]])), as.data.frame(tidy(again)), info = run)
    # How each was made is told by the call of the study, not by run_study().
    expect_identical(how_made(found$values[[run]])$r, how_made(again)$r, info = run)
  }
})

test_that("what is wrong is told by line, key and what may stand there", {
  runs <- c("runs:", "  a: {house_edge: {game_high_card: {}}}")
  expect_match(refused(c("rusn:", "  a: 1")),
               "FILE, line 3, rusn: \"rusn\" is no key of a study; did you mean \"runs\"?", fixed = TRUE)
  expect_match(refused(runs, seed = "x"), "line 2, seed: a study has a seed, a whole number", fixed = TRUE)
  expect_match(refused(runs, seed = "-1"), "whole number of 0 or more", fixed = TRUE)
  expect_match(refused(runs, title = "[1, 2]"), "line 1, title: a study has a title", fixed = TRUE)
  expect_match(refused("decks: {a: numbered 9}"), "a study has runs", fixed = TRUE)
  expect_match(refused(c("runs:", "  a:", "    simulat: {object: b}")),
               "line 5, runs: a: simulat: there is no function \"simulat\" for a run; did you mean \"simulate\"?",
               fixed = TRUE)
  expect_match(refused(c("runs:", "  a:", "    simulate:", "      object: quick", "      nsmi: 5",
                         "games: {quick: war}")),
               "line 7, runs: a: simulate: nsmi: simulate() has no argument \"nsmi\"; did you mean \"nsim\"?",
               fixed = TRUE)
  expect_match(refused(c("games: {quick: war}", "runs:", "  a: {simulate: quik}")),
               "it refers to \"quik\", which the study does not define; did you mean \"quick\"?", fixed = TRUE)
  expect_match(refused(c("runs:", "  a: {simulate: {object: {game: war}, threads: 2}}")), "minded by the study itself",
               fixed = TRUE)
  expect_match(refused(c("runs:", "  a:", "    simulate: {object: b}", "    seed: 3")),
               "here are several keys, simulate and seed: indent what belongs to the first under it", fixed = TRUE)
  expect_match(refused(c("runs:", "  a: {exact: b}", "  b: {summary: a}")),
               "it leads back to itself: \"a\" needs \"b\" needs \"a\"", fixed = TRUE)
  expect_match(refused(c("decks: {a: numbered 9}", runs)), "\"a\" is defined twice", fixed = TRUE)
  expect_match(refused(c(runs, "expect: {b: edge > 0}")), "there is no run \"b\"", fixed = TRUE)
  expect_match(refused(c(runs, "expect: {a: 5}")), "a condition is a text", fixed = TRUE)
  expect_match(refused(c(runs, "report: [{run: c}]")), "there is no run \"c\"; did you mean \"a\"?", fixed = TRUE)
  expect_match(refused(c(runs, "report: [{wrods: x}]")), "did you mean \"words\"?", fixed = TRUE)
  expect_match(refused(c(runs, "report: [{words: \"<script>alert(1)</script>\"}]")), "HTML is not taken", fixed = TRUE)
  expect_match(refused(c(runs, "report: [{words: \"![x](y.png)\"}]")), "pictures are not taken", fixed = TRUE)
  expect_match(refused(c("games: {quick: stall.yaml}", runs)), "There is no file \"stall.yaml\"", fixed = TRUE)
  expect_match(refused(c("decks: {b: 5}", runs)), "it must be told as in orchard.csv", fixed = TRUE)
  expect_match(refused("runs: {a: &x {exact: b}, c: *x}"), "references (& and *) are not read", fixed = TRUE)
  expect_match(refused(paste0("runs: ", strrep("[", 60), strrep("]", 60))), "nested more than 50 deep", fixed = TRUE)
  expect_match(refused("runs: [a"), "is no YAML", fixed = TRUE)
  expect_error(read_study("month.txt"), "read from .yaml", class = "habanera_error_file")
  expect_error(read_study("nowhere.yaml"), "There is no file", class = "habanera_error_file")
})

test_that("no code of R is reachable from a study", {
  file <- withr::local_tempfile()
  touch <- sprintf("file.create('%s')", file)
  for (lines in list(
    c("draws:", sprintf("  d: {deck: numbered 9, size: 2, s: \"%s\"}", touch), "runs: {a: {exact: d}}"),
    c("draws: {d: {deck: numbered 9, size: 2, s: total(rank)}}", "runs:",
      sprintf("  a: {payout: {x: {exact: d}, pays: \"%s\"}}", touch)),
    c("runs:", sprintf("  a: {draws_program: {command: \"touch %s\"}}", file)),
    c("runs:", sprintf("  a: {write_result: {x: 1, file: %s}}", file)),
    c("runs:", sprintf("  a: {file.create: %s}", file)), c("runs:", sprintf("  a: {\"file.create\": {x: %s}}", file)),
    c("runs: {a: {house_edge: {game_high_card: {}}}}", "expect:", sprintf("  a: \"%s\"", touch)),
    c("runs:", sprintf("  a: {sit_in: {game: {game: war}, file: %s}}", file))
  )) {
    message <- tryCatch({
      run_study(study_file(lines))
      "it was run"
    }, habanera_error_study = function(cnd) "refused")
    expect_identical(message, "refused", info = paste(lines, collapse = " "))
    expect_false(file.exists(file))
  }
  # A text that is R code is a text.
  touching <- study_file(c("runs:", sprintf("  a: {counting_system: {tags: \"%s\"}}", touch),
                           sprintf("  b: {game: {name: \"!!expr %s\"}}", touch)))
  expect_identical(run_study(touching)$runs$state, c("failed", "failed"))
  expect_false(file.exists(file))
})

test_that("the schema that ships is that of the functions, and takes what is read and refuses what is not", {
  shipped <- system.file("study", "schema.json", package = "habanera")
  expect_identical(paste(readLines(shipped), collapse = "\n"), schema_lines())
  skip_if(is.na(validating_python()), "no validator of schemas")
  head <- c("title: A", "seed: 1")
  good <- list(readLines(demo_file("month.yaml")), c(head, mixed_study))
  bad <- list(c(head, "rusn: {}"), c("title: A", "runs: {a: {exact: b}}"), c(head, "runs: {a: {simulat: b}}"),
              c(head, "runs: {a: {simulate: {object: b, nsmi: 5}}}"), c(head, "runs: {a: {exact: b, seed: 4}}"),
              c(head, "runs: {a: 5}"), c(head, "decks: {a: 5}", "runs: {a: {exact: b}}"),
              c(head, "runs: {a: {exact: b}}", "report: [{wrods: x}]"))
  expect_identical(fits_schema(c(good, bad), shipped), rep(c(TRUE, FALSE), c(length(good), length(bad))))
  for (lines in bad) expect_match(refused(lines[-(1:2)]), "FILE, line", info = paste(lines, collapse = " "))
})
