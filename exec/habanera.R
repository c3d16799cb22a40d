library <- c(Sys.getenv("HABANERA_LIBRARY"), .libPaths())
habanera <- loadNamespace("habanera", lib.loc = library[nzchar(library)])
# As wide as COLUMNS says, or the terminal is.
columns <- suppressWarnings(as.integer(Sys.getenv("COLUMNS")))
if (is.na(columns) && isatty(stdout())) columns <- cli::console_width()
if (!is.na(columns) && columns >= 40 && columns <= 1000) options(width = columns)
quit(save = "no", status = habanera$run_command(commandArgs(TRUE)))
