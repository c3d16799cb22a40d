# Expressions as users type them, right and wrong, through the one interpreter they all go through.
value_of <- function(text, ...) {
  expr <- habanera:::parse_expression(text, "x", NULL)
  habanera:::interpret(habanera:::checked_on_names(expr, c("a", "b"), NULL, "names are", NULL),
                       list(values = list(...), rows = 3), NULL)
}

test_that("values are those of R", {
  a <- c(1, 2, 3)
  b <- c(0, 2, 5)
  same <- c("a + b * 2", "(a - b)^2", "-a", "a %% 2", "a %/% 2", "a >= b", "!(a == b) & b > 0", "a < 2 | b == 5",
            "abs(a - b)", "sqrt(a)", "round(a / 3)", "floor(a / 2)", "ceiling(a / 2)", "ifelse(b == 0, a, a / b)",
            "a %in% c(1, 3)", "a %in% 2:9", "xor(a > 1, b > 1)", "is.na(a)")
  for (text in same) expect_equal(value_of(text, a = a, b = b), eval(parse(text = text)), info = text)
  expect_equal(value_of("min(a, b)", a = a, b = b), c(0, 2, 3))
  expect_equal(value_of("max(a, b, 2)", a = a, b = b), c(2, 2, 5))
  # Guarded by ifelse(), a division is not worked out where it must not be.
  expect_equal(value_of("ifelse(b == 0, 0, 6 / b)", a = a, b = b), c(0, 3, 1.2))
})

test_that("what is wrong is said, whatever it is", {
  wrong <- c("a +", "a b", "(", ")", "", ",", "a = ", "system('x')", "`a`(1)", "function(x) x", "a[1]", "a$b", "a@b",
             "a::b", "x <- 1", "if (a) 1", "for (i in a) 1", "{a}", "\\(x) x", "~a", "?a", "NA", "NULL", "Inf/0",
             "a / 0", "c(1, 2)", "a == c(1, 2)", "1:1e9", "a %in% 1:1e9", "min(a)", "round(a, 2, 3)", "ifelse(a, 1)",
             "abs()",
             "a && ", "'x' + 1", "\"x\" < 2", "TRUE + 'b'", "!a", "a & b", "unknown", "eval(a)", "quote(a)", "T", "pi",
             paste(rep("(", 70), collapse = ""), paste0(strrep("(", 70), "a", strrep(")", 70)),
             paste(rep("a", 200), collapse = " + "), "\xff", "a # b", "a; b")
  for (text in wrong) {
    cnd <- tryCatch({
      value_of(text, a = c(1, 0), b = c(2, 3))
      "none"
    }, error = identity)
    fits <- text %in% c("a # b")
    if (!fits) expect_s3_class(cnd, "habanera_error")
  }
})

test_that("no expression reaches R", {
  marked <- withr::local_tempfile()
  for (code in c("file.create('%s')", "a = system('touch %s')", "a = (function() file.create('%s'))()",
                 "a = count(file.create('%s'))", "a = count({file.create('%s'); TRUE})",
                 "a = do.call('file.create', '%s')")) {
    ran <- run_words("draws", "--size", "2", "--ask", sprintf(code, marked))
    expect_equal(ran$status, 2, info = code)
  }
  expect_false(file.exists(marked))
})

test_that("questions may have names that are near to ours, and not ours", {
  deck <- deck_numbered(4)
  x <- draws(deck, 2, turns = count(rank_high > 2), pairs = count(rank_high == 1), n_2 = turns * 2, prob = pairs > 0)
  counts <- simulate(x, nsim = 500, seed = 1)
  expect_true(compare(counts, exact(x))$agree)
  for (extension in c(".csv", ".json")) {
    file <- withr::local_tempfile(fileext = extension)
    expect_identical(as.data.frame(read_result(write_result(counts, file))), as.data.frame(counts))
  }
  until <- draw_until(deck_standard(), count(rank == "A") >= 1)
  expect_true(compare(simulate(until, nsim = 5000, seed = 1), exact(until))$agree)
  expect_refusals(list(
    list(quote(draws(deck, 2, trial = count(rank_high > 2))), "input", "`trial` is a name that results need"),
    list(quote(draws(deck, 2, card_1 = count(rank_high > 2))), "input", "`card_1` is a name that results need"),
    list(quote(draws(deck, 2, turn = count(rank_high > 2))), "input", "`turn` is a name that results need")
  ))
  folder <- withr::local_tempdir()
  withr::local_dir(folder)
  varied <- run_words("vary", "war", "--over", "face_down=0:1", "--trials", "50", "--seed", "1", "--outcome",
                      "rounds_p50")
  expect_gt(length(varied$out), 2)
  expect_length(list.files(folder), 0)
})
