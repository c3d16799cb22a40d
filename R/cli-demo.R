demo_command <- function() {
  new_command(
    "demo", "Runs the Lantern Hall demo on the shipped data and writes its page.", "demo [OPTIONS]",
    list(
      cli_option("out", "Folder for the page and figures [lantern-hall]", "DIR", "lantern-hall"),
      cli_option("files", "Write the data alone into this folder, and run nothing", "DIR"),
      threads_option(),
      cli_option("quiet", "No notes and no progress on standard error")
    ),
    c("habanera demo", "habanera demo --out somewhere", "habanera demo --files data"),
    run_demo
  )
}

run_demo <- function(options, arguments) {
  refuse_arguments(demo_command(), arguments)
  if (!is.null(options$files)) {
    emit(copy_demo_data(options$files))
    return(exit_status[["done"]])
  }
  tryCatch({
    emit(lantern_hall_demo(options$out, option_number(options, "threads")))
    exit_status[["done"]]
  }, interrupt = function(cnd) {
    inform_user(sprintf("Interrupted: %s holds the questions answered by then, but no page of all.",
                        quoted(options$out)))
    exit_status[["interrupted"]]
  })
}
