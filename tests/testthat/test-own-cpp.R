# Compiled once for all tests.
games_in_cpp <- local({
  made <- NULL
  function() {
    skip_on_cran()
    if (is.null(made)) {
      if (!nzchar(Sys.getenv("R_USER_CACHE_DIR"))) {
        Sys.setenv(R_USER_CACHE_DIR = file.path(tempdir(), "kept"))
        withr::defer(Sys.unsetenv("R_USER_CACHE_DIR"), teardown_env())
      }
      made <<- list(lift = suppressMessages(game_cpp(system.file("examples", "lift.cpp", package = "habanera"))),
                    duel = suppressMessages(game_cpp(test_path("duel.cpp"), deck = deck_numbered(8))))
    }
    made
  }
})

ranks_apart <- function(suits = 2) {
  deck_standard(ranks = c("A", "2", "3", "J"), suits = c("hearts", "spades", "clubs")[seq_len(suits)])
}

# Lift of two seats by its rules alone, going through every course: the chance that seat 1 wins, that seat 2 does and
# that nobody does. Seat 2 tosses a coin; so does seat 1, or it does what brings it most of the win.
lift_by_hand <- function(counts, enough, best) {
  known <- new.env()
  value <- function(left, points, in_turn, seat) {
    key <- paste(c(left, points, in_turn, seat), collapse = " ")
    if (is.null(known[[key]])) known[[key]] <- found(left, points, in_turn, seat)
    known[[key]]
  }
  ended <- function(points) c(points[1] > points[2], points[2] > points[1], points[1] == points[2]) + 0
  passed <- function(left, points, in_turn, seat) {
    points[seat] <- points[seat] + in_turn
    if (any(points >= enough) || sum(left) == 0) ended(points) else drawn(left, points, 0, 3 - seat)
  }
  drawn <- function(left, points, in_turn, seat) {
    Reduce(`+`, lapply(which(left > 0), function(i) {
      after <- left
      after[i] <- after[i] - 1
      left[i] / sum(left) * if (i == 4) passed(after, points, 0, seat) else value(after, points, in_turn + i, seat)
    }))
  }
  found <- function(left, points, in_turn, seat) {
    stops <- passed(left, points, in_turn, seat)
    if (points[seat] + in_turn >= enough || sum(left) == 0) return(stops)
    goes_on <- drawn(left, points, in_turn, seat)
    share <- function(law) law[1] + law[3] / 2
    if (!best || seat == 2) (stops + goes_on) / 2 else if (share(stops) > share(goes_on)) stops else goes_on
  }
  drawn(counts, c(0, 0), 0, 1)
}

test_that("a game in C++ is worked out as a slow program does, and simulated so", {
  small <- change_rules(games_in_cpp()$lift, enough = 6, deck = ranks_apart())
  law <- exact(small)
  of <- function(law) as.vector(tapply(law$probability, factor(law$outcomes$winner, c("1", "2", "nobody")), sum))
  expect_equal(of(law), lift_by_hand(c(2, 2, 2, 2), 6, FALSE), tolerance = 1e-10)
  found <- tidy(simulate(small, 20000, seed = 2))[1:3, ]
  expect_true(all(abs(found$estimate - of(law)) < standard_errors * found$std.error))
  by_hand <- lift_by_hand(c(2, 2, 2, 2), 6, TRUE)
  expect_equal(best_play(small)$worth, by_hand[1] + by_hand[3] / 2, tolerance = 1e-10)
  solved <- change_rules(small, players = list(player_solved(), player_random()))
  expect_equal(of(exact(solved)), by_hand, tolerance = 1e-10)
  # Without a key every course goes alone, to the same law: the same game by its courses.
  expect_equal(sum(exact(change_rules(games_in_cpp()$duel, held = 1))$probability), 1, tolerance = 1e-12)
})

test_that("it is replayed, checked, varied and met as any game", {
  lift <- change_rules(games_in_cpp()$lift, players = list("daring", "random"))
  trace <- replay(lift, seed = 1)
  expect_equal(attr(trace, "outcome")$turned, sum(trace$action == "stock to row"))
  expect_true(all(rowSums(as.data.frame(trace)[c("stock", "row")]) == 52))
  expect_setequal(unique(trace$action), c("deal", "stock to row", "chooses stop", "chooses go on", "ends"))
  expect_equal(trials(lift, 1, 1)$turned, attr(trace, "outcome")$turned)
  # Seat 1 stops at 15, a knave ends the turn of seat 2, and 15 more are enough: so it cannot be seat 2 that wins.
  expect_equal(check_game(change_rules(lift, players = "daring"), expecting = list(
    list(deck = "8S 7S JS 9S 6S", outcome = list(winner = "1", turned = 5)),
    list(deck = "8S 7S JS 9S 6S", outcome = list(winner = "2"))
  ))$passed, c(TRUE, TRUE, TRUE, TRUE, TRUE, FALSE))
  met <- round_robin(lift, c("daring", "random"), nsim = 3000, seed = 1)
  scores <- tidy(met)
  expect_equal(sum(scores$estimate[scores$part == "player"]), 1, tolerance = 1e-12)
  counts <- simulate(lift, 3000, seed = 1)
  expect_equal(sum(counts$n), 3000)
  other <- simulate(change_rules(lift, players = list("random", "daring")), 3000, seed = 1)
  share <- function(counts, seat) {
    sum(counts$n * ((counts$outcomes$winner == seat) + (counts$outcomes$winner == "nobody") / 2)) / 3000
  }
  expect_equal(scores$estimate[scores$term == "daring"], (share(counts, "1") + share(other, "2")) / 2,
               tolerance = 1e-12)
  expect_output(print(vary_rules(lift, enough = c(10, 30), nsim = 200, seed = 1)), "enough = 10")
  expect_match(experiment_code(lift)$r, "players = list\\(\"daring\", player_random\\(\\)\\)")
})

test_that("players in R are shown what shown() gives, and answer with a move", {
  views <- list()
  player <- player_with(function(view, moves) {
    views[[length(views) + 1]] <<- c(view, list(moves = moves))
    if (view$in_turn < 15) "go on" else "stop"
  }, "the same")
  lift <- change_rules(games_in_cpp()$lift, players = list(player, "random"))
  ours <- trials(lift, 5, 1:50)
  expect_equal(ours, trials(change_rules(lift, players = list("daring", "random")), 5, 1:50))
  expect_true(all(vapply(views, function(view) view$seat == 1 && identical(view$moves, c("stop", "go on")), NA)))
  expect_equal(lengths(views[[1]])[["points"]], 4)
  expect_error(trials(change_rules(lift, players = player_with(function(view, moves) "fly")), 1, 1), "stop and go on",
               class = "habanera_error_function")
})

test_that("what is compiled to be played alone plays as all of the game does, whoever sits there", {
  lift <- games_in_cpp()$lift
  stops_late <- player_by_rules("stop if in_turn >= 9", "go on")
  by_turn <- player_with(function(view, moves) moves[1 + (view$in_turn < 12)])
  seats <- list(list("daring", "random"), list(by_turn, "random"),
                list(stops_late, player_mixture(list(player_random(), stops_late), c(1, 3))),
                list("daring", player_lookahead(3)))
  for (players in seats) {
    game <- change_rules(lift, players = players)
    found <- trials(game, 5, 1:8)
    for (trial in 1:8) {
      replayed <- attr(replay(game, seed = 5, trial = trial), "outcome")
      expect_equal(as.character(replayed$winner), as.character(found$winner[trial]))
      expect_equal(replayed$turned, found$turned[trial])
    }
  }
})

test_that("a person sits at it, and is shown what shown() gives", {
  lift <- change_rules(games_in_cpp()$lift, enough = 12)
  file <- system.file("examples", "lift.cpp", package = "habanera")
  ran <- typed(rep("2", 60), "play", file, "--set", "enough=12", "--seed", "3", "--person", "1")
  expect_equal(ran$status, 0)
  expect_match(ran$err, "points: 0, 0, 0, 0", all = FALSE)
  expect_match(ran$err, "1 stop, 2 go on", all = FALSE)
  goes_on <- change_rules(lift, players = list(player_with(function(view, moves) "go on"), player_random()))
  expect_match(ran$out, sprintf("turned is %d", trials(goes_on, 3, 1)$turned), all = FALSE)
  expect_error(sit_in(lift, file = "moves.json"), "are not kept", class = "habanera_error_input")
  sat <- list(game = lift, moves = 1, seat = 1, seed = 3, trial = 1)
  expect_error(judge_moves(sat), "does not judge moves", class = "habanera_error_input")
})

test_that("who looks ahead deals hidden hands anew, and foresees nothing", {
  duel <- games_in_cpp()$duel
  guess <- change_rules(duel, guess = TRUE, held = 1, deck = deck_numbered(4),
                        players = list(player_lookahead(100), player_random()))
  found <- tidy(simulate(guess, 2000, seed = 3))
  row <- found[found$term == "winner=1", ]
  # Of the three other cards two are of the other half. With 100 deals the wrong half looks likelier in less than one
  # in a thousand (binomial, 50 or fewer of 100 at 2/3: 0.0004).
  expect_lt(abs(row$estimate - 2 / 3), standard_errors * row$std.error + 0.001)
  ahead <- change_rules(duel, held = 3, players = list(player_random(), player_lookahead(30)))
  found <- tidy(simulate(ahead, 1000, seed = 3))
  fair <- tidy(simulate(change_rules(ahead, players = player_random()), 1000, seed = 3))
  gain <- found$estimate[found$term == "winner=2"] - fair$estimate[fair$term == "winner=2"]
  expect_gt(gain, standard_errors * found$std.error[found$term == "winner=2"])
  expect_error(change_rules(duel, players = player_solved()), "sees all", class = "habanera_error_rules")
})

test_that("a check finds what is shown though it is hidden, and a player who looks", {
  duel <- change_rules(games_in_cpp()$duel, held = 3)
  failed <- function(game) {
    found <- check_game(game, nsim = 30)
    found$test[!found$passed]
  }
  expect_equal(failed(duel), character())
  expect_equal(failed(change_rules(duel, players = "lowest")), character())
  expect_equal(failed(change_rules(duel, slip = "shows")), "no seat is shown what is hidden")
  expect_equal(failed(change_rules(duel, players = "cheat")), "no seat is shown what is hidden")
})

test_that("what goes wrong in it is told with trial and step", {
  duel <- games_in_cpp()$duel
  slip <- function(slip, ...) change_rules(duel, slip = slip, ...)
  told <- tryCatch(simulate(slip("throws"), 1000, seed = 1), error = function(cnd) cnd)
  expect_s3_class(told, "habanera_error_function")
  expect_match(conditionMessage(told), "a one comes second (step 2)", fixed = TRUE)
  trial <- as.numeric(sub("^.*, trial ([0-9]+);.*$", "\\1", paste(conditionMessage(told), collapse = " ")))
  # It is the first in which a one comes second.
  second <- vapply(seq_len(trial), function(trial) replay(duel, 1, trial)$cards[3], "")
  expect_equal(which(second == "1"), trial)
  expect_error(trials(slip("throws"), 1, 1:trial), sprintf("trial %d", trial), class = "habanera_error_function")
  expect_error(replay(slip("throws"), 1, trial), "step 2", class = "habanera_error_function")
  expect_error(simulate(slip("outcome"), 10, seed = 1), "\"winner\" is 3, not 0 to 2",
               class = "habanera_error_function")
  expect_error(simulate(slip("pile"), 10, seed = 1), "no pile 9", class = "habanera_error_function")
  expect_error(simulate(slip("seat"), 10, seed = 1), "no seat 9, counted from 0", class = "habanera_error_function")
  expect_error(simulate(slip("look"), 10, seed = 1), "and nothing else", class = "habanera_error_function")
  expect_error(simulate(slip("move", players = "lowest"), 10, seed = 1), "the move 63, which it may not",
               class = "habanera_error_function")
  expect_error(exact(slip("move", players = "lowest", held = 1, deck = deck_numbered(3))), "which it may not",
               class = "habanera_error_function")
  expect_error(simulate(slip("no_end"), 2, seed = 1), "200,?000 steps", class = "habanera_error_endless")
})

test_that("a file that is no game is refused with the line that matters", {
  games_in_cpp()
  file <- withr::local_tempfile(fileext = ".cpp", lines = "int main() { return 0; }")
  expect_error(game_cpp(file), "class `Game`", class = "habanera_error_function")
  expect_error(game_cpp("nowhere.cpp"), class = "habanera_error_file")
  expect_error(game_cpp("game.R"), ".cpp file", class = "habanera_error_input")
  code <- readLines(test_path("duel.cpp"))
  at <- grep("++now.tricks[static", code, fixed = TRUE)
  writeLines(sub("now.tricks[static", "now.trick[static", code, fixed = TRUE), file)
  told <- tryCatch(suppressMessages(game_cpp(file)), error = function(cnd) cnd)
  expect_s3_class(told, "habanera_error_function")
  expect_match(conditionMessage(told), sprintf("Line %d: .*trick", at))
  expect_lt(nchar(conditionMessage(told)), 400)
})

test_that("a start in C++ is written, and its test passes", {
  games_in_cpp()
  folder <- withr::local_tempdir()
  write_game_template("mine", folder, cpp = TRUE)
  expect_setequal(list.files(folder), c("mine.cpp", "test-mine.R"))
  expect_match(readLines(file.path(folder, "mine.cpp")), "name = \"mine\"", all = FALSE, fixed = TRUE)
  expect_error(write_game_template("mine", folder, cpp = TRUE), "already", class = "habanera_error_file")
  # Of this name it is the example, which is compiled already.
  write_game_template("lift", folder, cpp = TRUE)
  withr::local_dir(folder)
  found <- as.data.frame(suppressMessages(test_file("test-lift.R", reporter = "silent")))
  expect_equal(sum(found$failed), 0)
  expect_gte(sum(found$nb), 2)
  ran <- run_words("play", "lift.cpp", "--set", "players=daring,random", "--trials", "2000", "--seed", "1")
  expect_equal(ran$status, 0)
  expect_match(paste(ran$out, collapse = "\n"), "winner=1: 7[0-9]")
})

test_that("a library that was damaged, changed or half written is not loaded", {
  folder <- withr::local_tempdir()
  dir.create(file.path(folder, "sub"))
  known <- withr::local_tempfile()
  library <- file.path(folder, "sub", "game.so")
  write <- function() {
    writeLines("int x;", file.path(folder, "game.cpp"))
    writeBin(as.raw(1:9), library)
    writeLines(c(folder, compiled_digest(folder)), known)
  }
  expect_null(sound_folder(known))
  write()
  expect_identical(sound_folder(known), folder)
  writeBin(as.raw(1:8), library)
  expect_null(sound_folder(known))
  write()
  writeLines("int y;", file.path(folder, "game.cpp"))
  expect_null(sound_folder(known))
  write()
  unlink(library)
  expect_null(sound_folder(known))
  writeLines(folder, known)
  expect_null(sound_folder(known))
})

test_that("a player that wants to peek does not compile, and a view that forgets is told", {
  games_in_cpp()
  code <- readLines(system.file("examples", "lanterns.cpp", package = "habanera"))
  compiled <- function(pattern, by) {
    file <- withr::local_tempfile(fileext = ".cpp", lines = sub(pattern, by, code, fixed = TRUE))
    expect_false(identical(readLines(file), code))
    suppressMessages(game_cpp(file))
  }
  # The position itself as a view; a player that asks for one, and one that looks for a way there.
  expect_error(compiled("  View view(const Position& now, std::size_t seat) const {",
                        paste0("  Position view(const Position& now, std::size_t) const { return now; }\n",
                               "  View other(const Position& now, std::size_t seat) const {")),
               "needs `View view", class = "habanera_error_function")
  expect_error(compiled("std::size_t choose(std::size_t, const View& seen, Moves",
                        "std::size_t choose(std::size_t, const Position& seen, Moves"),
               "does not compile", class = "habanera_error_function")
  expect_error(compiled("const bool high = seen.card == highest_;",
                        "const bool high = seen.position_->own.card[1] == highest_;"),
               "position_", class = "habanera_error_function")
  # A file from before there were views does not show nothing in silence.
  expect_error(compiled("  explicit Game(const Setting& given)",
                        paste0("  Shown shown(const Position&, std::size_t) const { return {}; }\n",
                               "  explicit Game(const Setting& given)")),
               "what a seat is shown is its View", class = "habanera_error_function")
})

test_that("a check finds a view that does not tell what was done before", {
  duel <- change_rules(games_in_cpp()$duel, held = 3)
  # Duel says itself that it forgets, so that it is not asked; lanterns is asked, and tells all.
  tests <- function(game) as.data.frame(check_game(game, nsim = 30))$test
  expect_false("a view tells what its seat saw and did before" %in% tests(duel))
  expect_true("a view tells what its seat saw and did before" %in% tests(lanterns()))
  sees <- list(list(sees = "1: card: 1", before = ""), list(sees = "1: card: 1", before = "1: card: 2 > 0\n"))
  hiding <- function(rules, deck, seed, trial) sees[[trial]]
  expect_equal(cpp_forgotten(lanterns(), hiding, 2, 1), list(trial = 2L, sees = "1: card: 1"))
  expect_equal(cpp_forgotten(lanterns(), function(...) sees[[1]], 2, 1), list(views = 1L))
  # In a game that hides cards best play is refused where the view forgets.
  expect_error(best_play(duel), "tells less than what it saw", class = "habanera_error_rules")
})
