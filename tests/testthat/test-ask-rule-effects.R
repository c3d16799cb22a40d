# What rules are worth alone and two at once, beside the edges and the comparisons that they are differences of.

test_that("two rules at once are the combinations of both, and what they do together is what is left over", {
  found <- rule_effects(game_high_card(), list(ties = c("half_back", "push"), packs = c(2, 6)), pairs = TRUE)
  grid <- vary_rules(game_high_card(), ties = c("bank", "half_back", "push"), packs = c(1, 2, 6), of = "edge")
  edge <- function(ties, packs) grid$estimate[grid$ties == ties & grid$packs == packs]
  expect_equal(nrow(found), 1 + 4 + 4)
  at <- found$rule == "ties + packs" & found$value == "push + 6"
  expect_equal(found$edge[at], edge("push", 6))
  expect_equal(found$together[at], edge("push", 6) - edge("push", 1) - edge("bank", 6) + edge("bank", 1))
  expect_true(all(is.na(found$together[!grepl("+", found$rule, fixed = TRUE)])))
  expect_output(print(found), "Of two at once ties push and packs 6 go together most: -1.513%")
  # What is as it is already is not tried, and what contradicts is passed over.
  expect_equal(rule_effects(game_high_card(), list(ties = c("bank", "push")))$value, c("as it is", "push"))
  deep <- rule_effects(game_blackjack(packs = 2), list(dealer_stands_on = c(17, 18), bust_over = 31))
  expect_equal(nrow(deep) + length(attr(deep, "passed_over")), 3)
})

test_that("effects that are played are those of compare(), with their intervals", {
  game <- game_war(cards_each = 5)
  found <- rule_effects(game, list(face_down = 0:1, collect = "shuffled"), pairs = TRUE, of = "rounds", nsim = 3000,
                        seed = 4)
  by <- function(...) {
    rows <- tidy(compare(game, change_rules(game, ...), nsim = 3000, seed = 4))
    rows[rows$term == "rounds", ]
  }
  one <- by(face_down = 0)
  expect_equal(unlist(found[2, c("estimate", "effect", "effect.low", "effect.high")], use.names = FALSE),
               c(one$y, one$estimate, one$conf.low, one$conf.high))
  both <- by(face_down = 0, collect = "shuffled")
  other <- by(collect = "shuffled")
  at <- found$value == "0 + shuffled"
  expect_equal(found$together[at], both$estimate - one$estimate - other$estimate)
  halves <- vapply(list(one, other, both), function(row) (row$conf.high - row$conf.low) / 2, 0)
  expect_equal(found$together.high[at] - found$together[at], sum(halves))
  expect_output(print(found), "3,000 games each, seed 4, on the same\\s+deals")
  expect_s3_class(autoplot(found), "ggplot")
  chance <- rule_effects(game, list(face_down = 0), of = "winner_1", nsim = 500, seed = 1)
  expect_equal(chance$effect[1], 0)
  expect_output(print(chance), "points")
  expect_error(rule_effects(game, list(face_down = 0)), "not played for money", class = "habanera_error_input")
  expect_error(rule_effects(game, list(face_down = 0), of = "rounds_p90"), "a mean or a chance")
  expect_error(rule_effects(game, list(face_dwn = 0), of = "rounds"), "did you mean", class = "habanera_error_rules")
  expect_error(rule_effects(game, list(face_down = 3), of = "rounds"), "no rules to try")
})

test_that("the shell tries rules by name, two at once", {
  ran <- run_words("rule-effects", "high_card", "--over", "ties=half_back,push", "--over", "packs=6", "--pairs")
  expect_equal(ran$status, 0)
  expect_match(paste(ran$out, collapse = " "), "go together most")
  ran <- run_words("rule-effects", "war", "--set", "cards_each=5", "--over", "face_down=0:1", "--of", "rounds",
                   "--trials", "500", "--seed", "1", "--format", "csv")
  expect_match(ran$out[1], "rule,value,estimate,effect,effect.low,effect.high")
})

test_that("from a part of all combinations effects are those of least squares", {
  skip_if_not_installed("lhs")
  game <- game_high_card()
  over <- list(ties = c("bank", "half_back", "push"), packs = c(1, 2, 4, 6), pays = c(1, 0.95))
  found <- rule_effects(game, over, pairs = TRUE, portion = 1, seed = 3)
  dimensions <- tuning_subject(game, list(), NULL)$dimensions(over)
  chosen <- portion_places(dimensions, 1, TRUE, 3, NULL)$places
  # What is now is a place of 0, and nothing else is.
  now <- vapply(dimensions, `[[`, 0L, "now")
  expect_false(any(chosen == rep(now, each = nrow(chosen))))
  at <- chosen + (chosen == 0) * rep(now, each = nrow(chosen))
  rows <- data.frame(ties = over$ties[at[, 1]], packs = over$packs[at[, 2]], pays = over$pays[at[, 3]])
  grid <- vary_rules(game, ties = over$ties, packs = over$packs, pays = over$pays, of = "edge")
  rows$edge <- grid$estimate[match(do.call(paste, rows), do.call(paste, as.data.frame(grid)[1:3]))]
  as_now <- function(values, which) stats::relevel(factor(values), as.character(which))
  data <- data.frame(edge = rows$edge, ties = as_now(rows$ties, game$rules$ties),
                     packs = as_now(rows$packs, game$rules$packs), pays = as_now(rows$pays, game$rules$pays))
  values_of <- function(found, rule, value, columns) {
    unlist(found[found$rule == rule & found$value == value, columns], use.names = FALSE)
  }
  fit <- stats::lm(edge ~ ties + packs + pays, data)
  of_lm <- function(name) unname(c(stats::coef(fit)[name], stats::confint(fit)[name, ]))
  single <- rule_effects(game, over, portion = 1, seed = 3)
  expect_equal(values_of(single, "ties", "push", c("effect", "effect.low", "effect.high")), of_lm("tiespush"))
  expect_equal(values_of(single, "packs", "6", c("effect", "effect.low", "effect.high")), of_lm("packs6"))
  both <- stats::coef(stats::lm(edge ~ (ties + packs + pays)^2, data))
  expect_equal(values_of(found, "ties + packs", "push + 6", "together"), both[["tiespush:packs6"]])
  expect_equal(values_of(found, "ties + packs", "push + 6", "effect"),
               both[["tiespush"]] + both[["packs6"]] + both[["tiespush:packs6"]])
  expect_output(print(found), "of 24 combinations, by least squares")
  expect_s3_class(autoplot(found), "ggplot")
  # The generator of the session is left as it was.
  set.seed(1)
  before <- .Random.seed
  alone <- rule_effects(game, over, portion = 0.8, seed = 3)
  expect_identical(.Random.seed, before)
  expect_identical(as.data.frame(rule_effects(game, over, portion = 0.8, seed = 3)), as.data.frame(alone))
  expect_error(rule_effects(game, over, portion = 0.1, seed = 3), "take 0.500 or more", class = "habanera_error_work")
  expect_error(rule_effects(game, over, portion = 1.5), "`portion` must be", class = "habanera_error_input")
})
