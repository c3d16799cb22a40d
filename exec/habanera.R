library <- c(Sys.getenv("HABANERA_LIBRARY"), .libPaths())
habanera <- loadNamespace("habanera", lib.loc = library[nzchar(library)])
quit(save = "no", status = habanera$run_command(commandArgs(TRUE)))
