# Studies in the shell.

study_command <- function() {
  new_command(
    "study", "Many questions in one file: answered, kept, gone on with, spread over machines, on one page.",
    "study run|check|status|results|code|merge FILE [OPTIONS]",
    c(list(
      cli_option("folder", "Where results are kept, or merged into [beside FILE, its name and -results]", "DIR"),
      cli_option("part", "Of `run`: which part of how many is to be done here, such as 3/16", "K/N"),
      threads_option()
    ), result_options()),
    c("habanera study check month.yaml", "habanera study run month.yaml --report month.html",
      "habanera study status month.yaml", "habanera study results month.yaml --out month.csv",
      "habanera study code month.yaml", "habanera study run month.yaml --part 3/16 --folder part-3",
      "habanera study merge part-1 part-2 part-3 --folder month-results"),
    run_study_command
  )
}

study_actions <- c("run", "check", "status", "results", "code", "merge")

run_study_command <- function(options, arguments) {
  command <- study_command()
  if (!length(arguments)) refuse_usage(command, sprintf("it needs one of %s, and a FILE.", join_words(study_actions)))
  action <- arguments[1]
  if (!action %in% study_actions) {
    refuse_usage(command, sprintf("it does %s; %s is none of them%s", join_words(study_actions), quoted(action),
                                  did_you_mean(action, study_actions)))
  }
  files <- arguments[-1]
  if (!length(files)) refuse_usage(command, sprintf("`study %s` needs a %s.", action,
                                                    if (action == "merge") "DIR, or several" else "FILE"))
  if (action != "merge") refuse_arguments(command, files[-1])
  if (!is.null(options$part) && action != "run") refuse_usage(command, "--part goes with `study run`.")
  switch(action, run = run_whole_study(files, options), check = check_study(files, options),
         status = show_study_status(files, options), results = show_study_results(files, options),
         code = show_study_code(files, options), merge = merge_study_folders(files, options))
}

run_whole_study <- function(file, options) {
  found <- run_study(file, options$folder, options$part, option_number(options, "threads"))
  write_found(found, options, table = as.data.frame(found))
  if (any(found$runs$state == "failed")) return(exit_status[["failed"]])
  if (any(found$expected$holds == "no")) return(exit_status[["expectation_failed"]])
  exit_status[["done"]]
}

# Reads it, and makes all that it defines.
check_study <- function(file, options) {
  study <- read_study(file)
  job <- new_job(study, tempdir())
  definitions <- Filter(function(entry) entry$section != "runs", study$entries)
  provide(names(definitions), job)
  emit_or_write(c(sprintf("%s is sound: %s.", file_name(file), what_it_holds(study)),
                  run_lines(study)), options$out)
  exit_status[["done"]]
}

folder_of_study <- function(study, options) if (is.null(options$folder)) usual_folder(study) else options$folder

show_study_status <- function(file, options) {
  study <- read_study(file)
  write_listed(study_status(study, folder_of_study(study, options), NULL), options)
  exit_status[["done"]]
}

show_study_results <- function(file, options) {
  folder <- if (dir.exists(file)) file else folder_of_study(read_study(file), options)
  write_listed(study_results(folder), options)
  exit_status[["done"]]
}

show_study_code <- function(file, options) {
  emit_or_write(study_code(file), options$out)
  exit_status[["done"]]
}

merge_study_folders <- function(folders, options) {
  if (is.null(options$folder)) refuse_usage(study_command(), "`study merge` needs --folder, where all goes.")
  merge_studies(folders, options$folder)
  emit(sprintf("%s merged into %s. What is left: habanera study run FILE --folder %s",
               count_of(length(folders), "folder"), quoted(options$folder), shell_word(options$folder)))
  exit_status[["done"]]
}
