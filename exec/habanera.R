library <- c(Sys.getenv("HABANERA_LIBRARY"), .libPaths())
habanera <- loadNamespace("habanera", lib.loc = library[nzchar(library)])
# As wide as the terminal says it is.
columns <- suppressWarnings(as.integer(Sys.getenv("COLUMNS")))
if (!is.na(columns) && columns >= 40 && columns <= 1000) options(width = columns)
quit(save = "no", status = habanera$run_command(commandArgs(TRUE)))
