test_that("procedures are written and read as text, joined and repeated", {
  text <- "wash, riffle x4, strip packets=6, riffle clump=0.1, cut"
  expect_equal(format(procedure(text)), text)
  by_hand <- c(shuffle_wash(), rep(shuffle_riffle(), 4), shuffle_strip(packets = 6), shuffle_riffle(clump = 0.1),
               shuffle_cut())
  expect_identical(by_hand, procedure(text))
  for (name in setdiff(names(habanera:::step_kinds), "with")) {
    expect_equal(format(procedure(name)), name)
    made <- get(paste0("shuffle_", name), asNamespace("habanera"))()
    expect_identical(made, procedure(name), info = name)
  }
  slow <- shuffle_riffle(2, seconds = 12)
  expect_equal(format(slow), "riffle x2 seconds=12")
  expect_identical(procedure(format(slow)), slow)
  expect_equal(format(rep(procedure("riffle, cut"), 2)), "riffle, cut, riffle, cut")
  expect_output(print(procedure("riffle x2, cut")), "2 riffles and a cut: about 19 s by hand")
})

test_that("text that does not parse points at the word", {
  expect_refusals(list(
    list(quote(procedure("wash, rifle x4")), "notation",
         "There is no step \"rifle\" in \"rifle x4\"; did you mean \"riffle\"?"),
    list(quote(procedure("riffle clmp=0.1")), "notation", "did you mean \"clump\"?"),
    list(quote(procedure("riffle 4")), "notation", "\"4\" in \"riffle 4\" is no setting"),
    list(quote(procedure("riffle x2 x3")), "notation", "says twice"),
    list(quote(procedure("riffle,,cut")), "notation", "empty step"),
    list(quote(procedure("riffle, ")), "notation", "empty step"),
    list(quote(procedure("with")), "notation", "shuffle_with(f)"),
    list(quote(procedure("riffle clump=2")), "input", "`clump` must be a number from 0 to 1, not 2"),
    list(quote(procedure("faro side=up")), "input", "`side` must be \"out\" or \"in\""),
    list(quote(procedure("piles piles=0")), "input", "`piles` must be a whole number from 1"),
    list(quote(procedure(5)), "input", "`text` must be one piece of text"),
    list(quote(shuffle_riffle(times = -1)), "input", "`times`"),
    list(quote(shuffle_overhand(packet = 0.5)), "input", "`packet` must be a number from 1"),
    list(quote(shuffle_cut(seconds = -2)), "input", "`seconds`"),
    list(quote(c(shuffle_cut(), 5)), "input", "must be a shuffling procedure")
  ))
})
