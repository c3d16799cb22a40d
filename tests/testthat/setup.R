# A name that is found by its beginning is a slip; tools/run-tests.R counts warnings as failures.
withr::local_options(warnPartialMatchDollar = TRUE, warnPartialMatchAttr = TRUE, warnPartialMatchArgs = TRUE,
                     .local_envir = testthat::teardown_env())
