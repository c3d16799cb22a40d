# One name, one meaning, one place: the arguments of exported functions, held to the table of docs/design.md.

arguments_of_exports <- function() {
  names <- getNamespaceExports("habanera")
  functions <- Filter(is.function, rlang::set_names(lapply(names, get, asNamespace("habanera")), names))
  # Those of other packages' generics have other names.
  functions <- functions[setdiff(names(functions), c("simulate", "autoplot", "tidy", "glance"))]
  lapply(functions, function(f) setdiff(names(formals(f)), "..."))
}

names_of_design <- function(file) {
  rows <- grep("^\\| `", readLines(file), value = TRUE)
  first <- sub("^\\| ([^|]*) \\|.*$", "\\1", rows)
  unlist(regmatches(first, gregexpr("(?<=`)[a-z_]+(?=`)", first, perl = TRUE)))
}

# Arguments of methods alone.
methods <- c("object", "sizes", "attributes", "edge")

test_that("every argument stands once in the table of names, and every name in it is one", {
  design <- testthat::test_path("..", "..", "docs", "design.md")
  skip_if_not(file.exists(design), "the sources, which are not in the built package")
  told <- names_of_design(design)
  expect_equal(told[duplicated(told)], character())
  expect_setequal(setdiff(told, methods), unique(unlist(arguments_of_exports())))
})

test_that("a game or a result comes first, and a run is told by nsim, seed and threads in this order", {
  arguments <- arguments_of_exports()
  first <- vapply(arguments, function(names) if (length(names)) names[1] else "", "")
  for (name in names(arguments)) {
    leading <- intersect(c("x", "game"), arguments[[name]])
    # What is read is the file, of whatever game.
    if (length(leading) && name != "read_result") expect_equal(first[[name]], leading[1], info = name)
    run <- match(c("nsim", "seed", "threads"), arguments[[name]])
    run <- run[!is.na(run)]
    if (length(run) > 1 && "nsim" %in% arguments[[name]]) expect_equal(diff(run), rep(1, length(run) - 1), info = name)
    expect_false(any(c("deck_size", "hand_size") %in% arguments[[name]]), info = name)
  }
})

test_that("a level is a chance of error", {
  for (name in names(Filter(function(names) "level" %in% names, arguments_of_exports()))) {
    expect_lt(eval(formals(get(name, asNamespace("habanera")))$level), 0.2)
  }
})
