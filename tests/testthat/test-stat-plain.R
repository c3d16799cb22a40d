test_that("values come back to the last bit, whatever they are", {
  odd <- list(numbers = c(0.1, -0, 1 / 3, NA, NaN, Inf, -Inf, 2^53, .Machine$double.xmin), none = NULL, empty = list(),
              words = c("a", NA, "", "fünf ♠", "a\nb", "\"q\""), yes = c(TRUE, NA, FALSE), whole = c(1L, NA, -5L),
              named = c(a = 1, b = 2), nested = list(list(1, "x"), c(TRUE)), asked = quote(count(rank > "5") / 2),
              table = data.frame(x = 1:3, y = factor(c("u", "v", "u")), z = c("a", "b", NA)),
              matrix = matrix(1:6, 2, dimnames = list(NULL, c("a", "b", "c"))), cards = deck_standard()[c(1, 52)],
              nothing = list(NULL, 1), no_names = character(), zero = integer())
  back <- value_from_bytes(plain_bytes(list(of = "odd"), odd))
  expect_identical(back$value, odd)
  expect_identical(back$about, list(of = "odd"))
  expect_identical(1 / back$value$numbers[2], -Inf)
  # NA and NaN are not the same, and both are kept.
  expect_identical(is.nan(back$value$numbers), is.nan(odd$numbers))
})

test_that("every kind of result is kept so and comes back the same, page and all", {
  table <- game_blackjack(packs = 1)
  hands <- exact(draws(deck_numbered(9), 3, high = count(rank > 5)))
  for (x in list(simulate(game_war(), 200, seed = 1), hands, audit(shuffle_riffle(), nsim = 300, seed = 1),
                 payout(hands, ifelse(high == 3, 5, 0)), payout(hands, c("3" = 5)), price_for(hands, c("3" = 5), 0.1),
                 house_edge(table), best_strategy(table), rule_effects(game_high_card()), replay(game_war(), 1, 1),
                 mixing("riffle", times = 1:2, nsim = 500, seed = 1), showdown(list("AS KS", "QH QD")),
                 category_odds(size = 2), edge_table(game_high_card(), game_baccarat()))) {
    expect_true(is_plain(x), info = class(x)[1])
    again <- value_from_bytes(plain_bytes(list(), x))$value
    expect_identical(again, x, info = class(x)[1])
    expect_identical(capture.output(print(again)), capture.output(print(x)))
  }
})

test_that("what could run code is not kept, and is not read", {
  for (x in list(mean, list(1, mean), new.env(), structure(1, class = "roman"),
                 list(a = structure(list(), f = mean)))) {
    expect_false(is_plain(x))
  }
  expect_error(plain_bytes(list(), mean), class = "habanera_error_not_plain")
  flat <- flat_value(structure(list(1), class = "habanera_table"))
  flat$texts <- sub("habanera_table", "data.table", flat$texts)
  expect_error(value_of_flat(flat), class = "habanera_error_not_plain")
  # An expression is read, and not run.
  file <- withr::local_tempfile()
  call <- bquote(file.create(.(file)))
  expect_identical(value_from_bytes(plain_bytes(list(), call))$value, call)
  expect_false(file.exists(file))
})

test_that("any bit flipped, cut or longer is noticed", {
  bytes <- plain_bytes(list(a = 1), list(1, "b"))
  set.seed(1)
  for (at in sample(length(bytes), 60)) {
    broken <- bytes
    broken[at] <- xor(broken[at], as.raw(2^sample(0:7, 1)))
    expect_null(value_from_bytes(broken))
  }
  for (broken in list(raw(), bytes[1:5], utils::head(bytes, -3), c(bytes, as.raw(32)))) {
    expect_null(value_from_bytes(broken))
  }
})
