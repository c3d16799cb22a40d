# The examples of the help are run, page by page, as a reader would.
test_that("every example of the help runs", {
  pages <- tools::Rd_db("habanera")
  expect_gt(length(pages), 40)
  for (name in names(pages)) {
    code <- withr::local_tempfile(fileext = ".R")
    tools::Rd2ex(pages[[name]], code, commentDontrun = TRUE)
    if (!file.exists(code)) next
    failure <- tryCatch({
      suppressMessages(capture.output(source(code, local = new.env(), echo = FALSE, print.eval = TRUE)))
      NULL
    }, error = conditionMessage)
    expect_null(failure, label = name)
  }
})
