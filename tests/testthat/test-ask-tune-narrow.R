test_that("of more combinations than are tried all that lie near what may do are", {
  numbers <- function(name, count, now = NA) new_dimension(name, as.list(seq_len(count)), seq_len(count), now)
  dimensions <- list(numbers("one", 400, 7), numbers("two", 300), new_dimension("word", list("a", "b"), c("a", "b"), 1))
  # What does is a disc of one word; how often each was raced, and with what.
  does <- function(places) (places[, 1] - 250)^2 + (places[, 2] - 90)^2 <= 30^2 & places[, 3] == 2
  raced <- list()
  race <- function(places, of, may_do = does(places)) {
    raced <<- c(raced, list(places))
    expect_equal(of, 240000)
    list(places = places, may_do = may_do, missed = matrix(!may_do), bad = 0 - may_do, trials = nrow(places))
  }
  tried <- places_to_try(dimensions, NULL, race, NULL)
  all <- as.matrix(expand.grid(seq_len(400), seq_len(300), 1:2))
  expect_equal(sum(does(tried$places)), sum(does(all)))
  expect_false(anyDuplicated(tried$places) > 0)
  expect_lt(nrow(tried$places), 20000)
  expect_equal(tried[c("of", "trials")], list(of = 240000, trials = sum(vapply(raced, nrow, 0L))))
  expect_lte(nrow(raced[[1]]), 500)
  # What is now, and both ends, are among the coarse.
  expect_true(all(c(1, 7, 400) %in% raced[[1]][, 1]))
  expect_error(places_to_try(dimensions, NULL, function(places, of) race(places, of, rep(TRUE, nrow(places))), NULL),
               "Of 240,000 combinations .* may meet the wishes", class = "habanera_error_work")
  words <- lapply(1:4, function(i) new_dimension(letters[i], as.list(letters[1:20]), letters[1:20], 1))
  expect_error(places_to_try(words, NULL, race, NULL), "160,000 combinations", class = "habanera_error_work")
})

test_that("a wish thinner than the coarse steps is found", {
  numbers <- function(name, count) new_dimension(name, as.list(seq_len(count)), seq_len(count), NA)
  dimensions <- list(numbers("one", 30000), numbers("two", 3))
  # Between two that miss it on both sides, or at the least miss.
  at <- c(12345, 777, 29999)
  meets <- function(places) places[, 1] == at[places[, 2]]
  band <- function(places, of) {
    off <- places[, 1] - at[places[, 2]]
    list(places = places, may_do = off == 0, missed = cbind(off < 0, off > 0), bad = numeric(nrow(places)), trials = 0)
  }
  valley <- function(places, of) {
    off <- places[, 1] - at[places[, 2]]
    list(places = places, may_do = off == 0, missed = cbind(off != 0), bad = abs(off), trials = 0)
  }
  for (race in list(band, valley)) {
    found <- places_to_try(dimensions, NULL, race, NULL)
    expect_equal(sum(meets(found$places)), 3)
    expect_lt(nrow(found$places), 200)
  }
})

test_that("a long sequence of pays is narrowed to those that do, exactly", {
  law <- exact(draws(deck_from(demo_file("orchard.csv")), 3, alike = largest_group(suit)))
  chance <- tapply(law$probability, law$outcomes[["alike"]], sum)
  found <- tune_rules(payout(law, c("3" = 8, "2" = 1)), list("3" = seq(0, 6, by = 0.0001)),
                      want = c("edge > 0.4", "edge < 0.405"))
  all <- seq(0, 6, by = 0.0001)
  edge <- 1 - chance[["2"]] - all * chance[["3"]]
  expect_equal(found[["3"]][found$meets == "yes"][order(found[["3"]][found$meets == "yes"])],
               all[edge > 0.4 & edge < 0.405])
  expect_output(print(found), "Of 60,001 combinations [0-9,]+ were tried")
})

test_that("what is solved at two pays of a natural alone is what each would give", {
  game <- game_blackjack(packs = 1)
  over <- list(natural_pays = c(0, 1, 1.2, 3), surrender = c("none", "early"),
               hole_card = c("checked", "unchecked_all_lost"), insurance = c(TRUE, FALSE))
  tuned <- tune_rules(game, over, want = "edge > 0")
  each <- do.call(vary_rules, c(list(game), over, of = "edge"))
  key <- function(rows) do.call(paste, as.data.frame(rows)[names(over)])
  expect_equal(tuned$edge, each$estimate[match(key(tuned), key(each))], tolerance = 1e-13)
  lines <- straight_lines(lapply(c(1.2, 0.5, 1.5), function(pays) change_rules(game, natural_pays = pays)))
  expect_equal(lines, list(list(rows = 1:3, ends = 2:3, share = c(0.7, 0, 1))))
})
