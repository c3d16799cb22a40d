five <- draws(deck_standard(), 5)
war <- game_war(record = c("winner", "rounds"))
question <- draws(deck_standard(), 5, pairs = count(rank == "A"), turns = count(suit == "hearts"))

test_that("every kind of tally goes on from its checkpoint to the same counts", {
  for (x in list(five, positions(deck_numbered(6)), war, question, draw_until(deck_standard(), count(rank == "A") >= 1),
                 game_war(deck = deck_numbered(8), collect = "seat_order"))) {
    file <- withr::local_tempfile()
    simulate(x, nsim = 1500, seed = 4, checkpoint = file)
    resumed <- simulate(x, nsim = 4000, seed = 4, checkpoint = file)
    expect_identical(as.data.frame(resumed), as.data.frame(simulate(x, nsim = 4000, seed = 4)),
                     info = in_words_of(x)[1])
  }
})

test_that("a checkpoint with any bit flipped, cut or longer is refused and begun anew on request", {
  for (x in list(war, five)) {
    file <- withr::local_tempfile()
    simulate(x, nsim = 1000, seed = 1, checkpoint = file)
    whole <- readBin(file, "raw", 1e6)
    set.seed(1)
    for (i in 1:100) {
      broken <- whole
      at <- sample(length(whole), 1)
      broken[at] <- xor(broken[at], as.raw(2^sample(0:7, 1)))
      writeBin(broken, file)
      expect_error(simulate(x, nsim = 2000, seed = 1, checkpoint = file), class = "habanera_error_checkpoint",
                   info = at)
    }
    for (broken in list(whole[1:10], raw(), c(whole, as.raw(0)), utils::head(whole, -8))) {
      writeBin(broken, file)
      expect_error(simulate(x, nsim = 2000, seed = 1, checkpoint = file), "anew", class = "habanera_error_checkpoint")
    }
    again <- simulate(x, nsim = 2000, seed = 1, checkpoint = file, anew = TRUE)
    expect_identical(as.data.frame(simulate(x, nsim = 2000, seed = 1, checkpoint = file)), as.data.frame(again))
  }
  expect_error(simulate(five, nsim = 10, anew = TRUE), "goes with `checkpoint`", class = "habanera_error_input")
})

test_that("no code is run by reading a checkpoint, and one that does not add up is refused", {
  file <- withr::local_tempfile()
  # R's own format loads a package, with all the code that this runs, as soon as it is read.
  saveRDS(list(format = "habanera checkpoint 1", state = asNamespace("stats4")), file)
  unloadNamespace("stats4")
  expect_error(simulate(five, nsim = 10, seed = 1, checkpoint = file), "of another version",
               class = "habanera_error_checkpoint")
  expect_false(isNamespaceLoaded("stats4"))
  readRDS(file)
  expect_true(isNamespaceLoaded("stats4"))
  run <- list(checkpoint = file, experiment = five, first = 1)
  tally <- list(n = rep(10, 52), example_trial = rep(1, 52))
  writeBin(habanera:::checkpoint_bytes(run, list(
    seed = 1, done = 100, ranges = data.frame(first = 1, last = 100), tally = tally
  )), file)
  expect_error(simulate(five, nsim = 200, seed = 1, checkpoint = file), "does not add up to its 100 trials",
               class = "habanera_error_checkpoint")
})

test_that("threads that cannot be started, and workers that die, cost no trial", {
  whole <- run_shell("habanera draws --trials 20000 --seed 1 --format csv | tail -n +2")
  few <- run_shell(paste("ulimit -s 500000; ulimit -v 3000000; HABANERA_THREADS=64",
                         "habanera draws --trials 20000 --seed 1 --format csv | tail -n +2"))
  expect_equal(few$status, 0)
  expect_length(few$out, 52)
  expect_equal(few$out, whole$out)
  skip_if_not_installed("future")
  withr::defer(future::plan("sequential"))
  future::plan("multisession", workers = 2)
  plain <- simulate(five, nsim = 5000, seed = 1)
  workers <- vapply(lapply(1:2, function(i) future::future({
    Sys.sleep(0.3)
    Sys.getpid()
  })), future::value, 1L)
  tools::pskill(workers, 9)
  Sys.sleep(0.2)
  for (i in 1:2) {
    # Newer versions of future start a worker anew; older ones leave it to us, who say so.
    after <- suppressMessages(simulate(five, nsim = 5000, seed = 1))
    expect_identical(as.data.frame(after), as.data.frame(plain))
  }
})

test_that("an interrupt ends every command within seconds with status 130, and what was counted is kept", {
  # Interrupted when it is seen to work: it has had its share of the processor, or runs a program. What it takes from
  # then on is processor time, too, so that a busy machine changes nothing; who merely waits is killed after a minute.
  interrupted <- function(words) {
    seconds <- withr::local_tempfile()
    ran <- run_shell(paste(
      "set -m; ticks() { cut -d' ' -f14 /proc/$1/stat; };", words, "& pid=$!;",
      "while kill -0 $pid && [ $(ticks $pid) -lt 130 ] && ! pgrep -xf 'sleep 101' >/dev/null; do sleep 0.05; done;",
      "{ sleep 60; kill -KILL -- -$pid; } >/dev/null 2>&1 & dog=$!;",
      "before=$(ticks $pid); kill -INT -- -$pid; wait $pid; status=$?; kill -KILL -- -$dog;",
      "times | awk -v before=$before 'NR == 2 {split($1, t, /[ms]/); print t[1] * 60 + t[2] - before / 100}' >",
      seconds,
      "; exit $status"
    ))
    list(status = ran$status, late = as.numeric(readLines(seconds)), out = paste(ran$out, collapse = "\n"))
  }
  cases <- list(
    c("draws --trials 1e12 --seed 1", "trials, seed 1"), c("play war --trials 1e11 --seed 1", "rounds"),
    c("vary war --over face_down=0:30 --trials 2e4 --seed 1", "face_down"),
      c("mixing riffle --trials 2e7 --times 0:40 --seed 1", ""),
    c("payout --size 3 --ask 'a = count(suit == \"hearts\")' --pays 'a' --trials 1e11 --seed 1", "pays"),
    c("replay war --seed 1 --longest rounds --trials 1e11", "step"),
    c("exact 'riffle x200' --deck-size 8", ""),
    c("audit riffle --trials 1e10 --seed 1", "trials"),
    c("draws --deck \"standard packs=6\" --size 60 --ask 'a = largest_group(rank), b = largest_group(suit)' --exact",
      ""), c("audit --program 'sleep 101'", "")
  )
  for (case in cases) {
    ran <- interrupted(paste("habanera", case[1]))
    expect_equal(ran$status, 130, info = case[1])
    expect_lt(ran$late, 3)
    expect_match(ran$out, case[2], info = case[1])
  }
})

test_that("a program that says more than it was asked is stopped", {
  x <- draws_program("yes 2", deck_numbered(3), size = 1)
  expect_error(simulate(x, nsim = 100), "lines or more for 100 decks", class = "habanera_error_program")
  endless <- draws_program("tr '\\n' ' ' </dev/zero", deck_numbered(3), size = 1, time_limit = 20)
  took <- system.time(expect_error(simulate(endless, nsim = 10), class = "habanera_error_program"))
  # Stopped for what it says, well before its time is up.
  expect_lt(took[["elapsed"]], 18)
  failing <- draws_program("cat; exit 7", deck_numbered(3), size = 3)
  expect_error(simulate(failing, nsim = 10), "ended with status 7", class = "habanera_error_program")
})
