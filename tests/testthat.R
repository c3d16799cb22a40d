library(testthat)
library(habanera)

test_check("habanera")
