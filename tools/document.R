# Writes NAMESPACE, man/ and the Rcpp glue from the comments in R/ and src/.
if (!file.exists("NAMESPACE")) file.create("NAMESPACE")
Rcpp::compileAttributes(".")
suppressPackageStartupMessages(roxygen2::roxygenise(load_code = roxygen2::load_source))
