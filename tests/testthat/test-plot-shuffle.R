# Where the top card lies after one riffle, path by path: every row of coins, a 0 taking from the upper packet, which
# holds as many cards as there are 0s. With no 0 at all the lower packet is the whole deck.
place_of_top <- function(cards) {
  coins <- expand.grid(rep(list(0:1), cards))
  place <- apply(coins, 1, function(row) if (all(row == 1)) 1 else match(0, row))
  as.vector(table(factor(place, levels = seq_len(cards)))) / nrow(coins)
}

test_that("arrangements are drawn with their chances beside a uniform shuffle's", {
  law <- exact(shuffle_naive_swap(), deck_numbered(3))
  figure <- autoplot(law)
  expect_equal(sort(ggplot2::layer_data(figure, 1)$y), sort(law$probability))
  expect_equal(ggplot2::layer_data(figure, 2)$yintercept, 1 / 6)
  # By hand: 27 paths; 4/27 for three of six arrangements, 5/27 for the others, so half of 6 x |1/54| off.
  expect_equal(sum(abs(law$probability - 1 / 6)) / 2, 1 / 18)
  expect_match(figure$labels$subtitle, "total variation 0.0556 from uniform", fixed = TRUE)
})

test_that("strips show where every card lies, ribbons how likely it is, a path where it goes", {
  strips <- ggplot2::layer_data(autoplot(follow(shuffle_faro(), times = 2, deck = 6)), 1)
  expect_equal(nrow(strips), 18)
  # 1 2 3 | 4 5 6 interleaved is 1 4 2 5 3 6: the second place has the fourth card's colour.
  colours <- function(times) strips$fill[strips$y == -times][order(strips$x[strips$y == -times])]
  expect_equal(colours(1), colours(0)[c(1, 4, 2, 5, 3, 6)])
  expect_equal(colours(2), colours(1)[c(1, 4, 2, 5, 3, 6)])
  ribbons <- follow(shuffle_riffle(), position = 1, times = 2, deck = 4)
  drawn <- ggplot2::layer_data(autoplot(ribbons), 1)
  expect_equal(as.vector(tapply(drawn$y, drawn$PANEL, sum)), rep(1, 3))
  once <- ribbons$probability[ribbons$times == 1]
  expect_equal(once, place_of_top(4))
  path <- autoplot(follow(shuffle_faro(), position = 2, times = 4, deck = 6))
  expect_equal(-ggplot2::layer_data(path, 2)$y, c(2, 3, 5, 4, 2))
})

test_that("periods are drawn over sizes", {
  periods <- restore_period(shuffle_faro(), c(6, 8, 44))
  expect_equal(ggplot2::layer_data(autoplot(periods), 2)$y, c(4, 3, 14))
})
