# Random decks and questions, and a slow answer to them in plain R that shares nothing with the package.

random_catalogue <- function(kinds, copies) {
  data.frame(card = paste0("c", seq_len(kinds)), suit = sample(c("fig", "gage", "plum"), kinds, TRUE),
             rank = sample(1:5, kinds, TRUE), worth = sample(c(-1, 0, 0.5, 2, 3), kinds, TRUE),
             copies = sample(copies, kinds, TRUE))
}

random_condition <- function() {
  sample(c("suit == \"fig\"", "rank >= 3", "worth > 0 | suit == \"plum\"", "rank %in% c(1, 4)",
           "!(suit == \"gage\" & rank < 4)"), 1)
}

random_word <- function(word, size) {
  switch(word, count = sprintf("count(%s)", random_condition()),
         total = sample(c("total(worth)", "total(rank * 2 - 1)"), 1),
         distinct = sprintf("distinct(%s)", sample(c("suit", "rank"), 1)),
         largest_group = sprintf("largest_group(%s)", sample(c("suit", "rank", "worth"), 1)),
         card_at = sprintf("card_at(%d, %s)", sample(size, 1), random_condition()))
}

question_of <- function(deck, size, columns, ...) {
  do.call(draws, c(list(deck, size), rlang::parse_exprs(unlist(columns)), list(...)))
}

# What the words mean, said in plain R of a data frame of the cards in the order drawn.
plain_words <- function(hand) {
  env <- list2env(as.list(hand), parent = baseenv())
  in_hand <- function(expr) eval(expr, env)
  list2env(list(
    count = function(x) sum(in_hand(substitute(x))), total = function(x) sum(in_hand(substitute(x))),
    distinct = function(x) length(unique(in_hand(substitute(x)))),
    largest_group = function(x) max(0, table(in_hand(substitute(x)))),
    card_at = function(i, x) in_hand(substitute(x))[i]
  ), parent = baseenv())
}

# All ordered draws of a small deck, with and without replacement, looked at one by one.
slow_answer <- function(cards, size, columns, replace) {
  n <- nrow(cards)
  draws <- as.matrix(do.call(expand.grid, rep(list(seq_len(n)), size)))
  if (!replace) draws <- draws[apply(draws, 1, anyDuplicated) == 0, , drop = FALSE]
  rows <- apply(draws, 1, function(drawn) {
    words <- plain_words(cards[drawn, , drop = FALSE])
    paste(vapply(columns, function(column) format(as.numeric(eval(str2lang(column), words)), digits = 10), ""),
          collapse = " ")
  })
  table(rows) / length(rows)
}

answer_as_table <- function(distribution) {
  data <- as.data.frame(distribution)
  rows <- do.call(paste, lapply(data[setdiff(names(data), "probability")], function(x) {
    vapply(as.numeric(x), format, "", digits = 10)
  }))
  tapply(data$probability, rows, sum)
}

expect_same_law <- function(one, two, info = NULL) {
  expect_setequal(names(one), names(two))
  expect_equal(as.vector(one[sort(names(one))]), as.vector(two[sort(names(one))]), tolerance = 1e-12, info = info)
}

random_hand_condition <- function() {
  word <- random_word(sample(c("count", "total", "distinct", "largest_group"), 1), 2)
  str2lang(sprintf("%s %s %d", word, sample(c(">=", "<", "=="), 1), sample(0:3, 1)))
}

# A small question with redraws, exchanges and turns as they come.
random_staged_question <- function(deck) {
  size <- sample(2, 1)
  columns <- list(most = random_word(sample(c("count", "total", "distinct", "largest_group"), 1), size),
                  always = sprintf("every_turn(%s)", deparse1(random_hand_condition())))
  question <- question_of(deck, size, columns)
  if (runif(1) < 0.6) {
    sizes <- sample(2, sample(2, 1), TRUE)
    question <- eval(bquote(redraw_if(
      question, .(random_hand_condition()), size = .(sizes), times = .(length(sizes)),
      put_back = .(pmin(sizes, sample(0:1, length(sizes), TRUE))), under = .(str2lang(random_condition()))
    )))
  }
  if (runif(1) < 0.6) {
    ways <- list(keep_groups("suit"), keep_groups(), keep_suit(sample(2, 1)), keep_run(sample(2, 1), "rank"))
    question <- exchange_cards(question, ways[sample(4, 2)])
  }
  if (runif(1) < 0.6) draw_more(question, size = sample(0:1, 1), times = sample(2, 1)) else question
}
