# Players by rules in words at games other than betting (test-betting.R has theirs).

test_that("players by rules sit at twenty-one and at games of one's own, as by the same rules told otherwise", {
  told <- simulate(game_blackjack(players = player_by_rules("hit if total < 15", "stand")), 3000, seed = 2)
  known <- simulate(game_blackjack(players = player_stands_on(15)), 3000, seed = 2)
  expect_equal(as.data.frame(told), as.data.frame(known))
  lamps <- lanterns(3)
  by_lines <- player_by_rules("bet if card == 3", "bet if card == 1 & made == \"check\" with chance 1/3",
                              "call if card == 3", "call if card == 2 with chance 1/3", "check", "fold")
  sees <- function(card, made) sprintf("card: %d; made:%s", card, made)
  rows <- do.call(rbind, lapply(1:3, function(card) {
    bets <- function(chance) c(1 - chance, chance)
    calls <- c(0, 1 / 3, 1)[card]
    data.frame(sees = rep(sees(card, c("", " check", " bet 1", " check, bet 1")), each = 2),
               move = rep(c("check", "bet 1", "fold", "call"), 2)[c(1, 2, 1, 2, 3, 4, 3, 4)],
               chance = c(bets(c(0, 0, 1)[card]), bets(c(1 / 3, 0, 1)[card]), 1 - calls, calls, 1 - calls, calls))
  }))
  by_table <- player_by_table(rows)
  law <- function(player) as.data.frame(exact(change_rules(lamps, players = player)))
  expect_equal(law(by_lines), law(by_table), tolerance = 1e-12)
  lost <- mistakes(lamps, by_lines, against = "random")
  expect_equal(sum(lost$loss), best_play(change_rules(lamps, players = list(by_lines, "random")), 1)$gain,
               tolerance = 1e-9)
  turning <- game_custom("turning", deck_numbered(6), function(table, rules, players) {
    repeat {
      table$move("stock", "shown")
      moves <- if (table$size("stock") == 0) "stop" else c("go on", "stop")
      if (table$ask(1, list(turned = table$size("shown")), moves) == "stop") break
    }
    list(turned = table$size("shown"))
  }, outcomes = list(turned = outcome_whole("cards turned")), piles = c(stock = "hidden", shown = "open"))
  lines <- player_by_rules("stop once turned >= 4", "stop if turned == 2 with chance 1/4", "go on", "else stop")
  sits <- change_rules(turning, players = lines)
  law <- as.data.frame(exact(sits))
  expect_equal(law$probability[match(c(2, 4), law$turned)], c(1 / 4, 3 / 4))
})
