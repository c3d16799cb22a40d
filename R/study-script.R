# The script that does what a study does.

#' @rdname read_study
#' @export
study_code <- function(study) {
  check_given()
  study <- as_study(study)
  runs <- Filter(function(entry) entry$section == "runs", study$entries)
  named <- vapply(runs, function(entry) sprintf("`%s` = %s", gsub("`", "'", entry$name), entry$variable), "")
  c(sprintf("# %s: what `habanera study run %s` does.", study$title, basename(study$file)), "library(habanera)", "",
    code_of_entries(study, names(study$entries)), "",
    paste0(c("answers <- list(", rep(strrep(" ", 16), length(named) - 1)), named,
           c(rep(",", length(named) - 1), ")")),
    sprintf("report(answers, \"report.html\", title = %s)", as_code(study$title)))
}

# The code of these entries and of all that they need, what is needed first.
code_of_entries <- function(study, variables) {
  order <- character()
  follow <- function(variable) {
    if (variable %in% order) return(invisible())
    for (needed in study$entries[[variable]]$needs) follow(needed)
    order <<- c(order, variable)
  }
  for (variable in variables) follow(variable)
  unlist(lapply(study$entries[order], function(entry) {
    lines <- deparse(entry$call, width.cutoff = 100L)
    c(paste(entry$variable, "<-", lines[1]), lines[-1])
  }), use.names = FALSE)
}
