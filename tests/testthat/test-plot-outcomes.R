orchard <- deck_from(demo_file("orchard.csv"))
built <- deck_from(demo_file("windfall.yaml"))

test_that("bars are the shares, with their intervals and the exact values", {
  question <- draws(orchard, 3, alike = largest_group(suit))
  counts <- simulate(question, nsim = 2000, seed = 1)
  figure <- autoplot(counts)
  expect_equal(ggplot2::layer_data(figure, 1)$y, counts$n / 2000)
  expect_equal(ggplot2::layer_data(figure, 3)$y, exact(question)$probability)
  expect_match(figure$labels$subtitle, "They agree")
  expect_equal(ggplot2::layer_data(autoplot(exact(question)), 1)$y, exact(question)$probability)
  expect_error(autoplot(counts, column = "alkie"), "did you mean \"alike\"?", class = "habanera_error_input")
})

test_that("turns are drawn as a course", {
  question <- draw_more(draws(built, 6, trees = count(kind == "tree"), none = trees == 0), times = 3)
  figure <- autoplot(simulate(question, nsim = 500, seed = 1), column = "trees")
  expect_equal(ggplot2::layer_data(figure, 3)$y, tidy(exact(question))$estimate[c(1, 3, 5, 7)])
  expect_equal(ggplot2::layer_data(figure, 3)$y, 15 / 48 * 6:9)
})

test_that("copies, convergence and pay lines show their numbers", {
  opening <- draws(built, 6, playable = count(kind == "fruit" & cost <= 2) >= 1)
  curve <- copies_curve(opening, "plum", c(2, 4))
  expect_equal(ggplot2::layer_data(autoplot(curve), 1)$y, curve$estimate)
  grid <- copies_curve(opening, c("plum", "wasp"), c(2, 4))
  expect_equal(nrow(ggplot2::layer_data(autoplot(grid), 1)), 4)
  course <- convergence(simulate(opening, nsim = 500, seed = 1))
  expect_equal(ggplot2::layer_data(autoplot(course), 3)$y, course$estimate)
  paid <- payout(exact(opening), c("TRUE" = 2))
  expect_equal(ggplot2::layer_data(autoplot(paid), 1)$x, as.data.frame(paid)$contribution[2])
})

test_that("questions of every shape can be drawn and reported", {
  cases <- list(
    draws(orchard, 5, worth = total(points), text = ifelse(worth > 20, "rich", "poor"), always = count(rank > 0) == 5),
    draws(orchard, 0, nothing = total(points)), draw_until(orchard, distinct(suit) == 4),
    draw_more(draws(orchard, 1, text = ifelse(count(suit == "fig") > 0, "fig", "none")), times = 2)
  )
  for (case in cases) {
    for (x in list(simulate(case, nsim = 100, seed = 1), exact(case))) {
      expect_silent(ggplot2::ggplot_build(autoplot(x)))
      file <- withr::local_tempfile(fileext = ".html")
      report(x, file)
      expect_match(paste(readLines(file), collapse = "\n"), "Do it again")
    }
  }
})
