# Every argument goes through one of these checks: what passes comes back, what does not is named with what it is.
odd <- list(NULL, NA, NA_real_, NaN, Inf, character(), numeric(), "", "x", 1.5, -1, 1:3, list(1), mean, TRUE, "\xff",
            as.Date("2026-01-01"), factor("a"), matrix(1, 1, 1), 2^53)
refused_by <- function(check, ...) {
  vapply(odd, function(value) {
    cnd <- tryCatch({
      check(value, ...)
      NULL
    }, error = identity)
    if (is.null(cnd)) return(FALSE)
    expect_s3_class(cnd, "habanera_error")
    expect_match(conditionMessage(cnd), "`value`")
    TRUE
  }, NA)
}

test_that("whole numbers, flags, texts, numbers between and functions pass, and nothing else does", {
  passing <- function(check, ...) which(!refused_by(check, ...))
  expect_equal(passing(habanera:::check_whole, -5, 5), c(11, 19))
  expect_equal(passing(habanera:::check_flag), 15)
  expect_equal(passing(habanera:::check_string), 9)
  expect_equal(passing(habanera:::check_between, 1, 2), 10)
  expect_equal(passing(habanera:::check_function), 14)
  expect_equal(passing(habanera:::check_choice, c("x", "y")), 9)
  expect_identical(habanera:::check_whole(3L), 3)
  expect_identical(habanera:::check_choice(c("x", "y"), c("x", "y")), "x")
})

test_that("an error says what was given and what would be right", {
  expect_refusals(list(
    list(quote(simulate(draws(deck_standard(), 5), nsim = 0)), "input",
         "`nsim` must be a whole number from 1 to 1,000,000,000,000, not 0."),
    list(quote(simulate(draws(deck_standard(), 5), nsim = 10, seed = -1)), "input",
         "`seed` must be a whole number of 0 or more, below 2^53, not -1."),
    list(quote(simulate(draws(deck_standard(), 5), nsim = 1:3)), "input", "not 3 values (integer)."),
    list(quote(draws(deck_standard(), 5, replace = "yes")), "input", "`replace` must be TRUE or FALSE, not \"yes\"."),
    list(quote(shuffle_with(5)), "input", "must be a function, not 5."),
    list(quote(audit(shuffle_riffle(), nsim = 10, each = "frish")), "input",
         "`each` must be \"fresh\" or \"continued\", not \"frish\"; did you mean \"fresh\"?"),
    list(quote(audit(shuffle_riffle(), nsim = 10, level = 1)), "input",
         "`level` must be a number of 1e-12 or more and below 1")
  ))
})

test_that("lists, counts and fractions are put in words", {
  expect_equal(habanera:::join_words(c("a", "b", "c"), "or"), "a, b or c")
  expect_equal(habanera:::join_words("a"), "a")
  expect_equal(habanera:::join_some(letters[1:8], 3), "a, b, c and 5 more")
  expect_equal(habanera:::count_of(1, "die", "dice"), "1 die")
  expect_equal(habanera:::count_of(1234, "card"), "1,234 cards")
  expect_equal(habanera:::format_seconds(c(0.25)), "0.25 s")
  expect_equal(habanera:::format_seconds(300), "5.0 min")
  expect_equal(habanera:::fraction_in_words(4 / 27), "0.1481 = 4/27")
  expect_equal(habanera:::nearest_fraction(choose(4, 2) * choose(48, 3) / choose(52, 5)), c(2162, 54145))
  # Half a million chance numbers are near no fraction; these three are none either.
  for (x in c(pi, sqrt(2), exp(-1))) expect_null(habanera:::nearest_fraction(x))
  expect_equal(habanera:::whole_code(c(3e6)), "3e6")
  expect_equal(habanera:::whole_code(123456), "123456")
  code <- c(plum = 1, `late frost` = 2.5)
  expect_identical(eval(parse(text = habanera:::as_code(code))), code)
})
