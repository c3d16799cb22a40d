demo_command <- function() {
  new_command(
    "demo", "Runs the Lantern Hall demo on the shipped data and writes its page.", "demo [OPTIONS]",
    list(
      cli_option("out", "Folder for the page and figures [lantern-hall]", "DIR", "lantern-hall"),
      threads_option(),
      cli_option("quiet", "No notes and no progress on standard error")
    ),
    c("habanera demo", "habanera demo --out somewhere"),
    run_demo
  )
}

run_demo <- function(options, arguments) {
  refuse_arguments(demo_command(), arguments)
  tryCatch({
    emit(lantern_hall_demo(options$out, option_number(options, "threads")))
    exit_status[["done"]]
  }, interrupt = function(cnd) {
    inform_user(sprintf("Interrupted: %s holds the questions answered by then, but no page of all.",
                        quoted(options$out)))
    exit_status[["interrupted"]]
  })
}
