# Rules out of a file, as a list; `game` in it must fit.
rules_from_file <- function(file, kind, call) {
  if (!file_kind(file) %in% c("yaml", "yml", "json")) {
    refuse(sprintf("Rules are read from .yaml, .yml and .json, not from %s.", file_name(file)), "file", call)
  }
  found <- list_data(file, call)
  if (!is.list(found) || is.null(names(found))) {
    refuse(sprintf("%s must hold rules by name, a line \"rule: value\" for each.", file_name(file)), "file", call)
  }
  if (!is.null(found[["game"]]) && !identical(found[["game"]], kind$name)) {
    refuse(sprintf("%s holds rules of %s, not of %s.", file_name(file), said(found[["game"]]), quoted(kind$name)),
           "file", call)
  }
  found[["game"]] <- NULL
  if (is.list(found[["deck"]])) found[["deck"]] <- deck_from_plain(found[["deck"]])
  for (rule in Filter(function(rule) rule$beside && rlang::is_string(found[[rule$name]]), kind$rules)) {
    found[[rule$name]] <- beside_file(found[[rule$name]], file)
  }
  found
}

# A file that lies beside the rules is meant from there.
beside_file <- function(name, file) {
  beside <- file.path(dirname(file), name)
  if (!file.exists(name) && length(name) == 1 && file.exists(beside)) beside else name
}
