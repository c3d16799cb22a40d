# What the player has of a round that he goes on in with gaps up to `widest`, in plain R, from the rules alone.
narrows_by_hand <- function(widest, pair_pays, given_up) {
  rank <- rep(1:13, 4)
  own <- utils::combn(52, 2)
  gaps <- abs(rank[own[1, ]] - rank[own[2, ]])
  mean(vapply(seq_along(gaps), function(i) {
    if (gaps[i] > widest) return(-given_up)
    left <- rank[-own[, i]]
    copies <- tabulate(left, 13)
    ways <- outer(copies, copies) - diag(copies)
    wins <- sum(ways[abs(outer(1:13, 1:13, "-")) > gaps[i]]) / sum(ways)
    wins * (1 + if (gaps[i] == 0) pair_pays else 1) - 2 * (1 - wins)
  }, 0))
}

test_that("the narrows are worth what every hand of them brings, and the best threshold is found", {
  means <- vapply(0:12, narrows_by_hand, 0, pair_pays = 1.5, given_up = 1)
  edges <- best_strategy(game_narrows())
  expect_equal(edges$estimate, -means, tolerance = 1e-12)
  expect_equal(rules(game_narrows())$goes_on_to, which.max(means) - 1)
  other <- house_edge(game_narrows(goes_on_to = 4, pair_pays = 2, given_up = 0.5))
  expect_equal(tidy(other)$estimate, -narrows_by_hand(4, 2, 0.5), tolerance = 1e-12)
  found <- tidy(house_edge(simulate(game_narrows(), 1e5, seed = 9)))
  expect_lt(abs(found$estimate + max(means)), standard_errors * found$std.error)
})

test_that("a round of the narrows is told, and refused where there is none", {
  trace <- replay(game_narrows(goes_on_to = 12), seed = 2)
  expect_output(print(trace), "goes on")
  expect_output(print(replay(game_narrows(goes_on_to = 0), seed = 2)), "gives up")
  expect_refusals(list(list(quote(game_narrows(deck = deck_standard()[1:3])), "rules", "needs four cards"),
                       list(quote(game_narrows(given_up = 2)), "input", "from 0 to 1"),
                       list(quote(game_narrows(goes_on_to = -1)), "input", "`goes_on_to`")))
})
