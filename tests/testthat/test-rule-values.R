# Rules that are more than one value, of a kind that has one of each (see helper-toy.R for its game).
rich_kind <- function() {
  kind <- turning_kind()
  kind$rules <- list(
    rule_deck("the cards turned"), rule_condition("stops", "rank >= 4", "what stops"),
    rule_whole("enough", 3, 1, 1000, "cards that are enough"),
    rule_fraction("pays", 1.5, 0, 100, "what a stop pays to one"), rule_numbers("ramp", c(1, 2), 0, 100,
                                                                                "bets in turn"),
    rule_numbers("bonus", c(low = 1, high = 2), 0, 100, "by name", named = TRUE),
    rule_table("prizes", data.frame(card = c("1", "2"), pays = c(1, 4 / 3)), list(card = "text", pays = "number"),
               "prizes")
  )
  kind$cards <- function(rules, deck, record, kept, call) as.integer(kinds_meeting(rules$stops, deck, "stops", call))
  kind
}

local_rich <- function(env = parent.frame()) {
  local_turning(env)
  kinds <- getFromNamespace("added_kinds", "habanera")
  kinds$all <- list(turning = rich_kind())
}

test_that("a rule takes its value as R, files and the shell have it, and gives it one form", {
  check <- function(rule, value) rule$check(value, rule$name, NULL)
  pays <- rule_fraction("pays", 1, 0, 10, "")
  for (value in list(1.5, "3:2", "3/2", "1.5")) expect_identical(check(pays, value), 1.5)
  ramp <- rule_numbers("ramp", 1, 0, 100, "")
  for (value in list(c(1, 2, 4), 1:3 + c(0, 0, 1), list(1, 2, 4), "1,2,4", "1, 2, 4")) {
    expect_identical(check(ramp, value), c(1, 2, 4))
  }
  expect_identical(check(ramp, "3:2"), 1.5)
  bonus <- rule_numbers("bonus", c(a = 1), 0, 100, "", named = TRUE)
  for (value in list(c(a = 1, b = 1.5), list(a = 1, b = 1.5), "a=1, b=3:2")) {
    expect_identical(check(bonus, value), c(a = 1, b = 1.5))
  }
  wild <- rule_condition("wild", NULL, "")
  for (value in list("rank == \"2\"", quote(rank == "2"), ~ rank == "2")) {
    expect_identical(check(wild, value), "rank == \"2\"")
  }
  expect_null(check(wild, NULL))
  table <- data.frame(card = c("a", "b"), pays = c(1, 1.5))
  csv <- withr::local_tempfile(fileext = ".csv", lines = c("card,pays", "a,1", "b,3:2"))
  rows <- list(list(card = "a", pays = 1), list(card = "b", pays = "3:2"))
  prizes <- rule_table("prizes", table, list(card = "text", pays = "number"), "")
  for (value in list(table, csv, rows)) expect_identical(check(prizes, value), table)
})

test_that("values that a rule cannot have are refused by name, with what is allowed", {
  refused <- function(rule, value, words) {
    expect_error(rule$check(value, rule$name, NULL), words, fixed = TRUE, class = "habanera_error_input")
  }
  pays <- rule_fraction("pays", 1, 0, 10, "")
  for (value in list("3:0", "a", 11, NA, c(1, 2), "1:2:3")) refused(pays, value,
                                                                    "`pays` must be a number or a fraction")
  ramp <- rule_numbers("ramp", 1, 0, 100, "", size = 2)
  for (value in list("1,b", c(1, 101), c(a = 1, b = 2), 1:3, list(),
                     NULL)) refused(ramp, value, "`ramp` must be 2 numbers")
  bonus <- rule_numbers("bonus", c(a = 1), 0, 9, "", named = TRUE)
  for (value in list(c(1, 2), "1,2", c(a = 1, a = 2))) refused(bonus, value, "by name")
  prizes <- rule_table("prizes", NULL, list(card = "text", pays = "number"), "")
  refused(prizes, data.frame(card = "a"), "not one without \"pays\"")
  refused(prizes, data.frame(card = "a", pays = "x"), "row 1: `pays` must be a number, not \"x\"")
  refused(prizes, 3, "a data frame or a file")
  expect_error(rule_condition("wild", NULL, "")$check("rank ==", "wild", NULL), "no whole expression")
})

test_that("rich rules print, change, go to files and back, and give back their code", {
  local_rich()
  toy <- game("turning", deck = deck_numbered(6), pays = "4:3", ramp = c(1, 3, 9), bonus = c(low = 1, mid = 0.5),
              stops = "rank == 2", prizes = data.frame(card = "5", pays = 2.5))
  shown <- capture.output(print(rules(toy)))
  expect_match(shown, "pays +4:3 +1.5", all = FALSE)
  expect_match(shown, "ramp +1, 3, 9 +1, 2", all = FALSE)
  expect_match(shown, "bonus +low = 1, mid = 0.5", all = FALSE)
  expect_match(shown, "1 row of card and pays", all = FALSE)
  for (ending in c(".yaml", ".json")) {
    file <- withr::local_tempfile(fileext = ending)
    write_rules(toy, file)
    expect_identical(rules(game("turning", rules = file)), rules(toy), info = ending)
  }
  expect_match(readLines(write_rules(toy, withr::local_tempfile(fileext = ".yaml"))), "^enough: 3$", all = FALSE)
  result <- withr::local_tempfile(fileext = ".json")
  write_result(simulate(toy, 100, seed = 1), result)
  expect_identical(rules(read_result(result)$provenance$experiment), rules(toy))
  again <- eval(parse(text = sub("^game\\(", "game(\"turning\", ", experiment_code(toy)$r)))
  expect_identical(rules(again), rules(toy))
  expect_null(experiment_code(toy)$shell)
  expect_error(game("turning", deck = deck_numbered(3), stops = "rank == 9"), "holds for no card of the deck",
               class = "habanera_error_rules")
  compared <- compare(toy, change_rules(toy, ramp = "1,2"), nsim = 50, seed = 1)
  expect_output(print(compared), "ramp 1, 3, 9", fixed = TRUE)
})

test_that("rich rules are set and varied in the shell", {
  local_rich()
  deck <- c("--deck", "numbered 6")
  set <- c("--set", "ramp=1,3,9", "--set", "bonus=low=1,mid=2, pays=4:3", "--set", "stops=rank == 2")
  page <- paste(run_words("play", "turning", deck, "--exact", set)$out, collapse = " ")
  expect_match(gsub(" +", " ", page), "stops rank == 2, pays 4:3, ramp 1, 3, 9, bonus low = 1, mid = 2", fixed = TRUE)
  shell <- experiment_code(game("turning", deck = deck_numbered(6), ramp = c(1, 3, 9), pays = 4 / 3))$shell
  words <- scan(text = sub("^habanera ", "", shell), what = "", quiet = TRUE)
  expect_equal(run_words(words)$err, character())
  expect_match(run_words(words)$out, "pays 4:3, ramp 1, 3, 9", all = FALSE)
  table <- utils::read.csv(text = run_words("vary", "turning", deck, "--over", "ramp=1,2;1,3,9", "--over", "pays=1,3:2",
                                            "--trials", "50", "--seed", "1", "--format", "csv")$out)
  expect_equal(unique(table$ramp), c("1, 2", "1, 3, 9"))
  expect_equal(unique(table$pays), c(1, 1.5))
  varied <- vary_rules(game("turning", deck = deck_numbered(6)), ramp = list(c(1, 2), c(1, 3, 9)), nsim = 50, seed = 1)
  page <- withr::local_tempfile(fileext = ".html")
  report(varied, page)
  expect_match(paste(readLines(page), collapse = " "), "ramp = list(c(1, 2), c(1, 3, 9))", fixed = TRUE)
})
