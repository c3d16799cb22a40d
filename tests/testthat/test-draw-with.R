test_that("an R function's draws are governed by the trial's address alone", {
  mine <- draws_with(function(deck) sample(deck, 3), size = 3)
  x <- simulate(mine, nsim = 60, seed = 8)
  expect_identical(simulate(mine, nsim = 60, seed = 8)$n, x$n)
  y <- simulate(mine, nsim = 40, seed = 8, first_trial = 21)
  z <- simulate(mine, nsim = 20, seed = 8)
  expect_equal(as.data.frame(c(y, z)), as.data.frame(x))
  shown <- trials(mine, seed = 8, trials = 1:60)
  expect_equal(sum(shown[-1] == "AS"), x$n[x$outcomes$card == "AS"])
})

test_that("its trials are independent of each other: a fair function is found fair", {
  p <- vapply(1:60, function(seed) {
    summary(simulate(draws_with(function() sample(6, 2), deck = deck_numbered(6)), nsim = 100,
                     seed = seed))$test$p.value
  }, 0)
  expect_gt(suppressWarnings(ks.test(p, "punif"))$p.value, rare)
})

test_that("it may return cards, codes or numbers, and be given nothing", {
  deck <- as_cards("AS KD QC")
  for (f in list(function(deck) deck[2:1], function() "KD AS", function() c("KD", "AS"),
                 function(deck) c(2, 1))) {
    x <- simulate(draws_with(f, deck), nsim = 3, seed = 1)
    expect_equal(x$n[match(c("AS", "KD", "QC"), x$outcomes$card)], c(3, 3, 0))
  }
  zero <- simulate(draws_with(function() 0, deck, numbering = list(first = 0)), nsim = 2, seed = 1)
  expect_equal(zero$n[zero$outcomes$card == "AS"], 2)
})

test_that("a function that fails is named with its trial", {
  deck <- deck_standard()
  sometimes <- function(deck) if (runif(1) < 0.5) stop("no cards today") else deck[1]
  expect_refusals(list(
    list(quote(simulate(draws_with(sometimes, size = 1), nsim = 50, seed = 1)), "function",
         "Your function failed in trial"),
    list(quote(draws_with(function() stop("oh"))), "function", "Your function failed in trial 0"),
    list(quote(draws_with(function() NULL)), "function", "must return cards, codes or numbers"),
    list(quote(simulate(draws_with(function() "AS", size = 2), nsim = 2, seed = 1)), "function",
         "drew 1 card, not 2, in trial 1 of seed 1"),
    list(quote(simulate(draws_with(function() "AS AS"), nsim = 2, seed = 1)), "conservation",
         "Trial 1 has \"AS\" 2 times"),
    list(quote(simulate(draws_with(function() "1S"), nsim = 2, seed = 1)), "notation", "Trial 1: unknown card"),
    list(quote(draws_with(5)), "input", "`f` must be a function"),
    list(quote(exact(draws_with(function() "AS"))), "work", "no exact answer")
  ))
})

test_that("a program in any language is judged, started once", {
  orchard <- deck_from(demo_file("orchard.csv"))
  command <- paste("awk -f", shQuote(demo_file("tablet-draw.awk")))
  tablet <- draws_program(command, orchard)
  x <- simulate(tablet, nsim = 1500)
  expect_equal(summary(x)$unseen$card, "11P")
  expect_equal(sum(x$n), 4500)
  starts <- withr::local_tempfile()
  once <- sprintf("echo >> %s; cut -d' ' -f1-2", shQuote(starts))
  fixed <- simulate(draws_program(once, as_cards("AS KD QC"), size = 2), nsim = 100)
  expect_length(readLines(starts), 1)
  expect_equal(fixed$n[match(c("AS", "KD", "QC"), fixed$outcomes$card)], c(100, 100, 0))
  expect_match(capture.output(print(fixed))[2], "from the program")
})

test_that("a program that fails, hangs or prints rubbish is refused with what it said", {
  deck <- as_cards("AS KD QC")
  run <- function(command, ...) simulate(draws_program(command, deck, size = 1, ...), nsim = 5)
  expect_refusals(list(
    list(quote(run("echo oh dear >&2; exit 3")), "program", "ended with status 3"),
    list(quote(run("echo oh dear >&2; exit 3")), "program", "It said: oh dear"),
    list(quote(run("sleep 20", time_limit = 1)), "program", "took longer than 1 second"),
    list(quote(run("echo AS")), "program", "wrote 1 line for 5 decks"),
    list(quote(run("sed 's/.*/XX/'")), "notation", "line 1: unknown card \"XX\""),
    list(quote(draws_program("echo AS AS", deck)), "conservation", "\"AS\" 2 times"),
    list(quote(draws_program("no-such-command-here", deck)), "program", "ended with status 127"),
    list(quote(draws_program("", deck)), "input", "`command`"),
    list(quote(trials(draws_program("cut -d' ' -f1", deck), 1, 1)), "input", "no addresses"),
    list(quote(simulate(draws_program("cut -d' ' -f1", deck), nsim = 5, checkpoint = tempfile())),
         "input", "started once")
  ))
})
