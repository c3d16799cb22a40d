# Writes NAMESPACE, the Rcpp glue and man/ from the comments in R/ and src/. Help pages hold what the code says of
# itself (rules, outcomes), so the package is installed in between, and asked in a session of its own.
if (identical(commandArgs(TRUE), "pages")) {
  suppressPackageStartupMessages(roxygen2::roxygenise(roclets = "rd", load_code = roxygen2::load_installed))
} else {
  if (!file.exists("NAMESPACE")) file.create("NAMESPACE")
  Rcpp::compileAttributes(".")
  suppressPackageStartupMessages(roxygen2::roxygenise(roclets = "namespace", load_code = "source"))
  stopifnot(system("make install") == 0, system("Rscript tools/document.R pages") == 0)
}
