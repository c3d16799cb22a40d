# The rooms of the house, from the ground up: a file's room is the part of its name before the first "-", and calls
# those before it, never those after it. See docs/design.md.
sources <- testthat::test_path("..", "..")
games_there <- c("war", "pairs", "high_card", "blackjack", "baccarat", "video_poker", "narrows",
                 "betting")
rooms <- c("util", "stat", "cards", "run", "shuffle", "hand", "answer", "draw", "question", "rule", "player", "game",
           "own", games_there, "ask", "counting", "bank", "plot", "report", "study", "cli")
core_rooms <- c("chance", "stat", "cards", "run", "watcher", "shuffle", "hand", "draw", "question", "count", "game",
                "own",
                games_there, "bank")

skip_without_sources <- function() {
  skip_if_not(dir.exists(file.path(sources, "inst", "include")), "the sources, which are not in the built package")
}

files_in <- function(folder, pattern, ...) list.files(file.path(sources, folder), pattern, full.names = TRUE, ...)
room_of <- function(files) sub("[-.].*$", "", basename(files))

# The names that each file of R/ defines, and those that it takes from others: of a function what is neither argument
# nor local.
defined_in <- function(code) {
  assigned <- Filter(function(each) is.call(each) && identical(each[[1]], quote(`<-`)) && is.symbol(each[[2]]), code)
  vapply(assigned, function(each) as.character(each[[2]]), "")
}

names_taken <- function(each) {
  is_function <- is.call(each) && identical(each[[1]], quote(`<-`)) && is.call(each[[3]]) &&
    identical(each[[3]][[1]], quote(`function`))
  if (is_function) codetools::findGlobals(eval(each[[3]], baseenv())) else all.names(each, unique = TRUE)
}

# A row for each file of `folder` that takes a name of another: `from`, `to`, `name`.
arrows_between <- function(folder) {
  files <- setdiff(list.files(folder, "[.]R$", full.names = TRUE), file.path(folder, "RcppExports.R"))
  code <- lapply(files, function(file) as.list(parse(file, keep.source = FALSE)))
  defined <- lapply(code, defined_in)
  owner <- rlang::set_names(rep(basename(files), lengths(defined)), unlist(defined))
  rows <- Map(function(file, each, own) {
    taken <- setdiff(intersect(unlist(lapply(each, names_taken)), names(owner)), own)
    data.frame(from = rep(basename(file), length(taken)), to = unname(owner[taken]), name = taken)
  }, files, code, defined)
  list(arrows = do.call(rbind, unname(rows)), twice = unique(names(owner)[duplicated(names(owner))]))
}

# Files that lead back to themselves.
in_circles <- function(arrows) {
  reached <- function(start) {
    seen <- character()
    todo <- start
    while (length(todo)) {
      todo <- setdiff(arrows$to[arrows$from %in% todo], seen)
      seen <- c(seen, todo)
    }
    seen
  }
  Filter(function(file) file %in% reached(file), unique(arrows$from))
}

# What calls upwards, and, of games, what calls another.
upwards <- function(arrows, order) {
  from <- match(room_of(arrows$from), order)
  to <- match(room_of(arrows$to), order)
  of_games <- room_of(arrows$from) %in% games_there & room_of(arrows$to) %in% games_there & from != to
  found <- from < to | of_games
  sprintf("%s -> %s: %s", arrows$from[found], arrows$to[found], arrows$name[found])
}

test_that("in R/ each file calls rooms before its own, no file leads back to itself, no name is there twice", {
  skip_without_sources()
  expect_equal(setdiff(room_of(files_in("R", "[.]R$")), c(rooms, "RcppExports")), character())
  found <- arrows_between(file.path(sources, "R"))
  expect_gt(nrow(found$arrows), 1000)
  expect_equal(found$twice, character())
  expect_equal(upwards(found$arrows, rooms), character())
  expect_equal(in_circles(found$arrows), character())
})

test_that("an arrow that runs upwards, a circle and a name that is there twice are seen", {
  folder <- withr::local_tempdir()
  writeLines(c("low <- function() high()", "same <- 1"), file.path(folder, "util-low.R"))
  writeLines("high <- function() low()", file.path(folder, "cli-high.R"))
  writeLines("deal <- function(pot) other()", file.path(folder, "war-deal.R"))
  writeLines(c("other <- function(high) high", "same <- 2"), file.path(folder, "baccarat-other.R"))
  found <- arrows_between(folder)
  expect_equal(upwards(found$arrows, rooms), c("util-low.R -> cli-high.R: high",
                                               "war-deal.R -> baccarat-other.R: other"))
  expect_setequal(in_circles(found$arrows), c("util-low.R", "cli-high.R"))
  expect_equal(found$twice, "same")
})

test_that("in the core each folder includes those before its own, and the header of all has them all", {
  skip_without_sources()
  headers <- files_in("inst/include/habanera", "[.]hpp$", recursive = TRUE)
  folder_of <- function(paths) sub("^.*habanera/([a-z_]+)/.*$", "\\1", paths)
  headers <- headers[basename(dirname(headers)) != "habanera"]
  expect_equal(setdiff(folder_of(headers), core_rooms), character())
  included <- lapply(headers, function(file) {
    lines <- grep("^#include \"habanera/", readLines(file), value = TRUE)
    sub("^#include \"(.*)\"$", "\\1", lines)
  })
  from <- rep(folder_of(headers), lengths(included))
  to <- folder_of(unlist(included))
  of_games <- from %in% games_there & to %in% games_there & from != to
  wrong <- match(from, core_rooms) < match(to, core_rooms) | of_games
  expect_equal(sprintf("%s -> %s", rep(headers, lengths(included))[wrong], to[wrong]), character())
  all <- grep("^#include \"habanera/", readLines(file.path(sources, "inst/include/habanera/habanera.hpp")),
              value = TRUE)
  expect_setequal(setdiff(sub("^.*habanera/(.*)\"$", "\\1", all), c("own.hpp", "simulate.hpp")),
                  sub("^.*include/habanera/", "", headers))
})

test_that("bindings and tests bear the names of rooms", {
  skip_without_sources()
  by_rcpp <- c("RcppExports", "habanera_types")
  binding <- setdiff(sub("[.](cpp|h)$", "", basename(files_in("src", "[.](cpp|h)$"))), by_rcpp)
  of_room <- vapply(binding, function(name) any(name == rooms | startsWith(name, paste0(rooms, "_")) | name == "count"),
                    NA)
  expect_equal(binding[!of_room], character())
  tests <- sub("^test-", "", basename(files_in("tests/testthat", "^test-.*[.]R$")))
  expect_equal(setdiff(room_of(tests), c(rooms, "architecture", "help", "readme", "test")), character())
  core_tests <- sub("^test-", "", basename(files_in("tests/core", "^test-.*[.]cpp$")))
  expect_equal(setdiff(room_of(core_tests), core_rooms), character())
})

test_that("no file is longer than can be read at a sitting", {
  skip_without_sources()
  files <- c(files_in("R", "[.]R$"), files_in("tests/testthat", "[.]R$"), files_in("tests/core", "[.](cpp|hpp)$"),
             files_in("src", "[.](cpp|h)$"), files_in("inst/include", "[.]hpp$", recursive = TRUE),
             files_in("bench", "[.](R|hpp|cpp)$", recursive = TRUE), files_in("tools", "[.]R$"))
  files <- files[room_of(files) != "RcppExports"]
  expect_gt(length(files), 500)
  lines <- vapply(files, function(file) length(readLines(file)), 0)
  expect_equal(basename(files[lines > 400]), character())
})
