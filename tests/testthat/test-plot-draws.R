test_that("the figure of draws shows each card's count on its bands", {
  x <- simulate(draws(deck_standard(), 5), nsim = 20000, seed = 1)
  figure <- autoplot(x)
  expect_s3_class(figure, "ggplot")
  points <- ggplot2::layer_data(figure, 4)
  expect_equal(sort(points$y), sort(x$n))
  expect_equal(length(unique(points$PANEL)), 4)
  light <- ggplot2::layer_data(figure, 1)
  sd <- sqrt(20000 * 5 / 52 * 47 / 52)
  expect_equal(unique(light$ymax - light$ymin), 2 * qnorm(1 - 0.025 / 52) * sd)
  dark <- ggplot2::layer_data(figure, 2)
  expect_equal(unique(dark$ymax - dark$ymin), 2 * qnorm(0.975) * sd)
  expect_match(figure$labels$subtitle, "No bias seen")
})

test_that("a card outside the bands is marked by name", {
  tablet <- draws_recorded(demo_file("tablet-draws.txt"), deck_from(demo_file("orchard.csv")),
                           numbering = list(first = 0))
  figure <- autoplot(compare(tablet, exact(draws(deck_from(demo_file("orchard.csv")), 3))))
  expect_equal(ggplot2::layer_data(figure, 5)$label, "11P")
})

test_that("decks of every shape can be drawn", {
  decks <- list(deck_numbered(1), deck_numbered(3), deck_numbered(200), deck_standard(jokers = 2),
                deck_from(demo_file("windfall.yaml")), as_cards("AS KS"))
  for (deck in decks) {
    expect_silent(ggplot2::ggplot_build(autoplot(simulate(draws(deck, 1), nsim = 100, seed = 1))))
    expect_silent(ggplot2::ggplot_build(autoplot(simulate(positions(deck), nsim = 100, seed = 1))))
  }
  cells <- ggplot2::layer_data(autoplot(simulate(positions(deck_numbered(3)), nsim = 100, seed = 1)), 1)
  expect_equal(nrow(cells), 9)
})
