test_that("parts in folders of their own, or in one, in any order, come to the bytes of one process", {
  file <- study_file(mixed_study)
  alone <- withr::local_tempdir()
  whole <- run_study(file, alone)
  expect_identical(whole$runs$state, rep("done", 7))
  apart <- withr::local_tempdir()
  for (k in c(3, 1, 4, 2, 3)) {
    part <- run_study(file, file.path(apart, k), part = sprintf("%d/4", k))
    expect_identical(part$runs$state[1:4], rep("part", 4))
    expect_identical(part$runs$state[7], "left")
  }
  merge_studies(file.path(apart, c(2, 4, 1, 3, 2)), file.path(apart, "all"))
  expect_identical(study_status(read_study(file), file.path(apart, "all"))$state, c(rep("done", 6), "to do"))
  merged <- run_study(file, file.path(apart, "all"))
  expect_identical(merged$values, whole$values)
  expect_identical(folder_bytes(file.path(apart, "all")), folder_bytes(alone))
  # Merged again, with what is there already, nothing changes; a part that comes late is added.
  before <- folder_bytes(file.path(apart, "all"))
  merge_studies(file.path(apart, 1:4), file.path(apart, "all"))
  expect_identical(folder_bytes(file.path(apart, "all")), before)
  merge_studies(file.path(apart, c(1, 2, 4)), file.path(apart, "late"))
  merge_studies(file.path(apart, 1:4), file.path(apart, "late"))
  run_study(file, file.path(apart, "late"))
  expect_identical(folder_bytes(file.path(apart, "late")), folder_bytes(alone))
  together <- withr::local_tempdir()
  for (k in c(5, 2, 1, 3, 4)) run_study(file, together, part = sprintf("%d/5", k))
  run_study(file, together)
  expect_identical(folder_bytes(together), folder_bytes(alone))
  # More parts than trials or chains.
  many <- withr::local_tempdir()
  tiny <- study_file("runs: {a: {simulate: {object: {draws: {deck: numbered 9, size: 2}}, nsim: 3}}}")
  for (k in 1:5) run_study(tiny, many, part = sprintf("%d/5", k))
  expect_identical(run_study(tiny, many)$values$a, simulate(draws(deck_numbered(9), 2), 3, seed = 44))
})

test_that("trials that hang together are not cut apart", {
  expect_identical(share_of_trials(c(1, 100), list(k = 1, n = 3), 8), c(1, 32))
  expect_identical(share_of_trials(c(1, 100), list(k = 3, n = 3), 8), c(65, 100))
  for (n in c(1, 2, 7, 16, 40)) {
    shares <- lapply(seq_len(n), function(k) share_of_trials(c(11, 110), list(k = k, n = n), 4))
    shares <- Filter(Negate(is.null), shares)
    expect_identical(unlist(lapply(shares, function(share) as.integer(seq(share[1], share[2])))), 11:110)
    expect_true(all(vapply(shares, function(share) (share[1] - 11) %% 4 == 0, NA)))
  }
})

test_that("what cannot be parts of one study is refused, and what is damaged is left out", {
  file <- study_file(mixed_study)
  folder <- withr::local_tempdir()
  one <- file.path(folder, "1")
  run_study(file, one, part = "1/2")
  run_study(file, file.path(folder, "third"), part = "1/3")
  other <- run_study(study_file(mixed_study, title = "Another"), file.path(folder, "other"))
  expect_refusals(list(
    list(quote(run_study(file, one, part = "3/2")), "input", "from \"1/16\" to \"16/16\", not \"3/2\""),
    list(quote(run_study(file, one, part = 2)), "input", "which part of how many"),
    list(quote(merge_studies(c(one, file.path(folder, "third")), file.path(folder, "all"))), "study",
         "hold some of the same trials and are not equal"),
    list(quote(merge_studies(c(one, file.path(folder, "other")), file.path(folder, "all2"))), "study",
         "is of another study, \"Another\""),
    list(quote(merge_studies(tempfile(), file.path(folder, "all"))), "study", "is no folder of a study"),
    list(quote(merge_studies(character(), one)), "input", "must be folders"),
    list(quote(run_study(study_file("runs: {a: {simulate: {object: {game: war}, nsim: 1e5, precision: {rounds: 1}}}}"),
                         part = "1/2")), "study", "where it stops depends on all trials")
  ))
  two <- file.path(folder, "2")
  run_study(file, two, part = "2/2")
  trials <- list.files(file.path(two, "runs"), "trials$", full.names = TRUE)[1]
  writeBin(utils::head(readBin(trials, "raw", 1e6), -4), trials)
  expect_message(merge_studies(c(one, two), file.path(folder, "all3")), "is damaged.*left out",
                 class = "habanera_message")
  expect_true(file.exists(trials))
  found <- run_study(file, file.path(folder, "all3"))
  expect_identical(found$values, other$values)
})

test_that("sixteen processes killed at random, and gone on with, leave the bytes of an undisturbed run", {
  skip_on_os("windows")
  file <- study_file(gsub("nsim: ([2-5])", "nsim: \\1000", sub("nsim: 500}", "nsim: 900}", mixed_study)))
  alone <- withr::local_tempdir()
  run_study(file, alone)
  folder <- withr::local_tempdir()
  # In one folder, each killed after a time of its own and begun again, until it is done; then what is left.
  script <- sprintf(paste(
    "part() { n=0; while [ $n -lt 40 ]; do n=$((n + 1)); ",
    "after=$(awk -v k=$1 -v n=$n 'BEGIN { srand(k * 100 + n); print 0.8 + n * 0.5 * rand() }');",
    "timeout -s KILL $after habanera study run %s --folder %s --part $1/16 --threads 1 --quiet >/dev/null 2>&1",
    "&& return 0;",
    "done; return 1; };",
    "for at in 0 4 8 12; do for k in $((at+1)) $((at+2)) $((at+3)) $((at+4)); do part $k & done; wait; done"
  ), shQuote(file), shQuote(folder))
  ran <- run_shell(script)
  expect_equal(ran$status, 0)
  run_study(file, folder)
  expect_identical(folder_bytes(folder), folder_bytes(alone))
})
