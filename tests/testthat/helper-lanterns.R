# The shipped game with hidden cards, compiled once for all tests; with other rules by name.
lanterns <- local({
  made <- NULL
  function(cards = 3, ...) {
    skip_on_cran()
    if (is.null(made)) {
      if (!nzchar(Sys.getenv("R_USER_CACHE_DIR"))) {
        Sys.setenv(R_USER_CACHE_DIR = file.path(tempdir(), "kept"))
        withr::defer(Sys.unsetenv("R_USER_CACHE_DIR"), teardown_env())
      }
      made <<- suppressMessages(game_cpp(system.file("examples", "lanterns.cpp", package = "habanera"),
                                         deck = deck_numbered(3)))
    }
    change_rules(made, deck = deck_numbered(cards), ...)
  }
})

# Lanterns by its rules alone, in plain R: all deals, all that can be done. `ante` and `bet` are coins, bets have one
# size.
lantern_courses <- function(cards, ante, bet) {
  courses <- list(c("check", "check"), c("check", "bet", "fold"), c("check", "bet", "call"), c("bet", "fold"),
                  c("bet", "call"))
  deals <- expand.grid(one = seq_len(cards), other = seq_len(cards))
  deals <- deals[deals$one != deals$other, ]
  list(deals = deals, courses = courses, net = function(deal, course) {
    higher <- if (deal$one > deal$other) 1 else -1
    last <- course[length(course)]
    if (last == "fold") return(if (length(course) == 2) ante else -ante)
    higher * (ante + if (last == "call") bet else 0)
  })
}

# What a seat sees as the game tells it.
lantern_sees <- function(card, course, before, bet) {
  made <- sub("bet", paste("bet", bet), course[seq_len(before)])
  trimws(paste0("card: ", card, "; made: ", paste(made, collapse = ", ")))
}

# What seat 1 wins on average, where `chance(seat, sees, move)` tells how likely a seat does what.
lantern_value <- function(cards, ante, bet, chance) {
  game <- lantern_courses(cards, ante, bet)
  total <- 0
  for (row in seq_len(nrow(game$deals))) {
    deal <- game$deals[row, ]
    for (course in game$courses) {
      made <- vapply(seq_along(course), function(at) {
        seat <- 2 - at %% 2
        chance(seat, lantern_sees(deal[[seat]], course, at - 1, bet), course[at])
      }, 0)
      total <- total + prod(made) * game$net(deal, course)
    }
  }
  total / nrow(game$deals)
}

# A random table for both seats, and the chance that it tells.
lantern_table <- function(cards, bet) {
  told <- expand.grid(seat = 1:2, card = seq_len(cards), late = c(FALSE, TRUE))
  rows <- do.call(rbind, lapply(seq_len(nrow(told)), function(i) {
    at <- told[i, ]
    before <- if (at$seat == 1) c("check", "bet")[seq_len(2 * at$late)] else if (at$late) "bet" else "check"
    moves <- if (at$late) c("fold", "call") else c("check", paste("bet", bet))
    share <- stats::runif(1)
    data.frame(seat = at$seat, sees = lantern_sees(at$card, before, length(before), bet), move = moves,
               chance = c(1 - share, share))
  }))
  rows$sees <- trimws(rows$sees)
  list(rows = rows, chance = function(seat, sees, move) {
    what <- sub(" .*$", "", rows$move)
    rows$chance[rows$seat == seat & rows$sees == sees & what == move]
  })
}
