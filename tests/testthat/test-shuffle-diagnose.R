test_that("known slips are told apart", {
  cases <- c(naive_swap = "naive_swap", "naive_swap skip_last=1" = "naive_swap skip_last=1", one_cycle = "one_cycle",
             "modulo bits=6" = "modulo bits=6", coin_sort = "coin_sort", "riffle x3" = "riffle x3",
               "overhand x4" = "overhand x4",
             "transpositions x12" = "transpositions x12", overwrite = "overwrite",
             "overwrite partner=any" = "overwrite partner=any", none = "none")
  for (text in names(cases)) {
    found <- diagnose(audit(procedure(text), deck_numbered(20), nsim = 2e4, seed = 9), nsim = 5000)
    expect_equal(found$procedure[1], cases[[text]], info = text)
    expect_true(found$fits[1], info = text)
    expect_equal(found$share[1], 1, info = text)
  }
})

test_that("a mixture's share is fitted", {
  careless <- shuffle_with(function(cards) if (runif(1) < 0.4) cards else sample(cards))
  found <- diagnose(audit(careless, deck_numbered(12), nsim = 2000, seed = 2), nsim = 5000)
  expect_equal(found$procedure[1], "none")
  expect_lte(abs(found$share[1] - 0.4), standard_errors * sqrt(0.24 / 2000))
  expect_output(print(found), "nothing: the deck is played as it lies in .*% of trials, else uniform")
})

test_that("what is none of the known slips is said so, and a fair shuffle has nothing to diagnose", {
  stuck <- shuffle_with(function(cards) c(sample(cards[1:8]), cards[9:12]))
  found <- diagnose(audit(stuck, deck_numbered(12), nsim = 2000, seed = 2), nsim = 5000)
  expect_output(print(found), "None of the known slips")
  expect_false(any(found$fits, na.rm = TRUE))
  one_lost <- shuffle_with(function(cards) sample(cards)[c(1, 1, 3:12)])
  found <- diagnose(audit(one_lost, deck_numbered(12), nsim = 300, seed = 2), nsim = 1000)
  shown <- capture.output(print(found))
  expect_match(shown[2], "None of the known slips", fixed = TRUE)
  fair <- diagnose(audit(shuffle_uniform(), nsim = 5000, seed = 3, level = rare))
  expect_equal(nrow(fair), 0)
  expect_output(print(fair), "nothing to diagnose")
})

test_that("kinds are diagnosed too, and candidates can be given", {
  deck <- as_cards("AS AS AS AS KD KD KD KD")
  rows <- vapply(1:3000, function(trial) paste(as.character(shuffle(deck, shuffle_riffle(), seed = 1, trial = trial)),
                                               collapse = " "), "")
  file <- tempfile()
  writeLines(rows, file)
  found <- diagnose(audit(shuffle_recorded(file, deck = deck)), c(one = "riffle", two = "riffle x2", cut = "cut"))
  expect_equal(found$candidate[1], "one")
  expect_equal(nrow(found), 3)
  expect_true(all(vapply(known_slips(44), function(text) inherits(procedure(text), "habanera_procedure"), TRUE)))
  expect_refusals(list(
    list(quote(diagnose(1)), "input", "must be an audit()"),
    list(quote(diagnose(audit(shuffle_faro(), nsim = 50), 3)), "input", "`candidates` must be procedures as text"),
    list(quote(diagnose(audit(shuffle_faro(), nsim = 50), "rifle")), "notation", "There is no step \"rifle\"")
  ))
})
