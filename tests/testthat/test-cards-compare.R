test_that("a card check names what is missing, doubled and foreign, and when nothing is", {
  found <- check_cards("AS AS KD 9H", against = as_cards("AS KD QC"))
  expect_equal(found$card, c("AS", "QC", "9H"))
  expect_equal(found$problem, c("doubled", "missing", "foreign"))
  expect_equal(found$expected, c(1, 1, 0))
  expect_equal(found$found, c(2, 0, 1))
  expect_equal(nrow(check_cards(rev(deck_standard()), deck_standard())), 0)
  expect_equal(check_cards("zebra", as_cards("AS"))$problem, c("missing", "foreign"))
  local_reproducible_output(unicode = FALSE)
  expect_snapshot({
    check_cards("AS AS KD 9H", against = as_cards("AS KD QC"))
    check_cards(rev(deck_standard()), deck_standard())
  })
})

test_that("two orders are compared place by place", {
  before <- deck_numbered(5)
  after <- before[c(1, 4, 5, 3, 2)]
  marks <- compare(before, after)
  expect_equal(marks$in_place, c(TRUE, FALSE, FALSE, FALSE, FALSE))
  expect_equal(marks$together, c(FALSE, TRUE, FALSE, FALSE, FALSE))  # 4 then 5, as before
  local_reproducible_output(unicode = FALSE)
  expect_snapshot(compare(before, after))
  expect_equal(nrow(compare(before[0], before[0])), 0)
  expect_refusals(list(
    list(quote(compare(before, before[c(1, 1:4)])), "conservation", "no rearrangement"),
    list(quote(compare(1:3, 1:3)), "input", "two orders")
  ))
})

# All arrangements of the cards, by recursion: an independent description.
arrangements <- function(x) {
  if (length(x) <= 1) return(list(x))
  do.call(c, lapply(seq_along(x), function(i) lapply(arrangements(x[-i]), function(rest) c(x[i], rest))))
}

test_that("what a fair shuffle would leave is right, by counting all arrangements", {
  for (cards in c("AS KS QS JS", "AS AS KS QS", "AS AS AS KS", "AS KS AS KS QS")) {
    before <- as_cards(cards)
    marks <- lapply(arrangements(seq_along(before)), function(order) compare(before, before[order]))
    expected <- attr(marks[[1]], "expected")
    expect_equal(expected[["in_place"]], mean(vapply(marks, function(m) sum(m$in_place), 0)))
    expect_equal(expected[["together"]], mean(vapply(marks, function(m) sum(m$together), 0)))
  }
})
