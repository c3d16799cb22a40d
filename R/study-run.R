#' Run a study
#'
#' Answers the runs of a study one after the other and keeps each in a folder as soon as it is there, under a name made
#' from all that decides it: the functions, their arguments and what these refer to, the files, the seed, the trials,
#' and the version of the numbers. What is there already is not done again. A study that was stopped or killed goes on
#' where it was, within a long simulation, too; what is changed in its file is what is run anew; more trials of a
#' `simulate()` are added to those there. Processes that work side by side in one folder do no harm.
#'
#' Results are kept as data to the last bit; those that hold code of one's own (varied rules of a game in R, say) as the
#' table that they tell.
#'
#' A run that fails does not stop the others; an interrupt does, and what was answered by then comes back with a
#' warning.
#'
#' @section Many machines:
#' With `part = "3/16"` a process plays the third sixteenth of all trials of `simulate()`, and of the runs that cannot
#' be cut those whose turn it is, counted by sixteen; what needs results of several parts is left. The parts may share
#' one folder, or have one each, which `merge_studies()` adds up. Then the study is run once more without `part`: it
#' finds what is there, does what is left, and all results are those of a single process, to the last bit, however the
#' work was divided, in whatever order, and whatever was killed or done twice. A study with `precision` cannot be
#' divided, for where it stops depends on all trials.
#'
#' As an array of a batch system, such as Slurm:
#' ```sh
#' #!/bin/sh
#' #SBATCH --array=1-16
#' #SBATCH --requeue
#' #SBATCH --ntasks=1
#' #SBATCH --cpus-per-task=2
#' #SBATCH --time=02:00:00
#' #SBATCH --output=month-%a.log
#' cd "$SLURM_SUBMIT_DIR" || exit 1
#' exec habanera study run month.yaml --folder month-results \
#'   --part "$SLURM_ARRAY_TASK_ID/16" --threads 2 --quiet
#' ```
#' and after it `habanera study run month.yaml --folder month-results --report month.html`.
#'
#' @param study A study, or its file.
#' @param folder Where results are kept; made where there is none. `NULL`: beside the study, with its name and
#'   `-results`.
#' @param part `NULL`, or which part of how many, as in `"3/16"`.
#' @param threads,progress As in [simulate()]; the bar is that of the whole study.
#' @param folders Folders of parts of one study.
#' @return `run_study()`: the answers, a result: a line for each run; `tidy()` has all that they tell in one table, and
#'   [report()] makes the page of the study. `study_results()`: that table, of what a folder holds. `merge_studies()`:
#'   `folder`, invisibly.
#' @section Errors: `habanera_error_study` for a study that cannot be, a folder of another study, parts that are not
#'   equal where they hold the same trials, or that overlap; `habanera_error_file` where the folder cannot be written.
#'   Runs that failed are told in the answers.
#' @seealso [read_study()].
#' @examples
#' folder <- tempfile()
#' dir.create(folder)
#' file <- file.path(folder, "small.yaml")
#' writeLines(c("title: Two questions", "seed: 44", "games:", "  quick: {game: war, cards_each: 4}", "runs:",
#'              "  how long: {simulate: {object: quick, nsim: 2000}}",
#'              "  what is kept: {house_edge: {game_high_card: {}}}", "expect:",
#'              "  how long: ended_never_ends < 0.5"), file)
#' run_study(file)
#' study_results(file.path(folder, "small-results"))
#' @export
run_study <- function(study, folder = NULL, part = NULL, threads = NULL, progress = NULL) {
  check_given()
  call <- rlang::current_env()
  study <- as_study(study)
  part <- checked_share(part, study, call)
  if (!is.null(threads)) rlang::local_options(habanera.threads = check_whole(threads, 1, 1024))
  folder <- open_folder(if (is.null(folder)) usual_folder(study) else check_string(folder), study$title, call)
  job <- new_job(study, folder, part)
  runs <- job$plan
  bar <- local_progress("Answering", progress, nrow(runs), tells = TRUE)
  tryCatch(
    for (i in seq_len(nrow(runs))) {
      bar$move(i - 1, runs$name[i])
      answer_entry(runs$variable[i], job)
    },
    interrupt = function(cnd) job$interrupted <- TRUE
  )
  found <- study_answers(job)
  if (isTRUE(job$interrupted)) {
    if (!any(found$runs$state == "done")) rlang::interrupt()
    warn_user(sprintf("Interrupted: %s of %s are answered, and are kept.",
                      format_count(sum(found$runs$state == "done")), count_of(nrow(runs), "run")), "interrupted")
  }
  if (is.null(part)) found$changes <- told_changes(found, folder, call)
  found
}

# "3/16" as `k` and `n`.
checked_share <- function(part, study, call) {
  if (is.null(part)) return(NULL)
  ends <- if (rlang::is_string(part) && grepl("^[0-9]{1,6}/[0-9]{1,6}$", part)) {
    as.numeric(strsplit(part, "/", fixed = TRUE)[[1]])
  }
  if (is.null(ends) || ends[1] < 1 || ends[1] > ends[2]) {
    refuse(sprintf("`part` must be which part of how many, from \"1/16\" to \"16/16\", not %s.", said(part)),
           call = call)
  }
  for (entry in study$entries) {
    if (!is.null(as.list(entry$call)[["precision"]])) {
      refuse_at(list(study = study, path = c(entry$section, entry$name, "precision")),
                "where it stops depends on all trials, so that it cannot be played in parts; leave `precision` out")
    }
  }
  list(k = ends[1], n = ends[2])
}

# What a run of a study knows: values by variable, what became of each run, and where things are kept.
new_job <- function(study, folder, part = NULL) {
  job <- new.env(parent = emptyenv())
  job$study <- study
  job$folder <- folder
  job$part <- part
  job$space <- new.env(parent = study_space())
  job$answers <- list()
  entries <- Filter(function(entry) entry$section == "runs", study$entries)
  cut <- vapply(entries, is_cut, NA)
  turn <- cumsum(!cut)
  job$plan <- data.frame(name = vapply(entries, `[[`, "", "name"), variable = names(entries), cut = unname(cut),
                         ours = if (is.null(part)) TRUE else unname(cut | turn %% part$n == part$k %% part$n),
                         key = vapply(entries, entry_key, "", study), row.names = NULL)
  job
}

# Where the calls of a study find their functions, and nothing besides.
study_space <- function() {
  functions <- lapply(rlang::set_names(study_functions()), study_function)
  list2env(c(functions, list(c = base::c, list = base::list, `:` = base::`:`, `-` = base::`-`)),
           parent = emptyenv())
}

# Answers a run, unless that was done; what it failed with is kept in its place.
answer_entry <- function(variable, job) {
  known <- job$answers[[variable]]
  if (!is.null(known)) return(known)
  at <- match(variable, job$plan$variable)
  answer <- if (!job$plan$ours[at]) list(state = "left") else {
    tryCatch(made_answer(job$study$entries[[variable]], job$plan[at, ], job), error = function(cnd) {
      if (is_full(cnd, job)) rlang::cnd_signal(cnd)
      list(state = "failed", problem = rlang::cnd_message(cnd))
    })
  }
  job$answers[[variable]] <- answer
  answer
}

# Where nothing can be written any more, going on would lose what is made.
is_full <- function(cnd, job) {
  inherits(cnd, "habanera_error_file") && grepl(job$folder, rlang::cnd_message(cnd), fixed = TRUE)
}

made_answer <- function(entry, row, job) {
  if (row$cut) {
    experiment <- argument_of_run(entry, job)
    if (inherits(experiment, "habanera_experiment") && !plays_at_once(experiment)) {
      value <- counts_of_entry(entry, row$key, experiment, job)
      return(if (is.null(value)) list(state = "part") else list(state = "done", value = value))
    }
    # It was no game or draw that could be cut, after all.
    row$key <- entry_key(entry, job$study, cut = FALSE)
  }
  kept <- stored_value(job$folder, row$key)
  if (!is.null(kept)) return(list(state = "done", value = kept$value))
  needs_runs <- entry$needs[entry$needs %in% job$plan$variable]
  if (!is.null(job$part) && length(needs_runs)) return(list(state = "left"))
  begun <- now()
  value <- value_of_entry(entry, job)
  if (!inherits(value, c("habanera_result", "habanera_strategy"))) {
    refuse(sprintf("It gives %s, which is no result.", said(value)), "study", NULL)
  }
  keep_answer(entry, row$key, value, now() - begun, job)
  list(state = "done", value = value)
}

# What holds code of one's own is kept as the table that it tells.
as_kept_table <- function(value) {
  made <- how_made(value)
  kept_table(result_columns(value), list(result = class(value)[1], words = in_words(value),
                                         made_by = made[c("r", "shell")], seed = made$seed))
}

keep_answer <- function(entry, key, value, seconds, job) {
  about <- list(run = entry$name, code = expression_as_text(inlined(entry$call, job$study)))
  tryCatch(keep_value(job$folder, key, value, about), habanera_error_not_plain = function(cnd) {
    keep_value(job$folder, key, as_kept_table(value), about)
  })
  note_in_manifest(job$folder, kept_file(job$folder, key), entry$name, seconds)
}

# The object of simulate().
argument_of_run <- function(entry, job) {
  settings <- as.list(entry$call)[-1]
  object <- if ("object" %in% names(settings)) settings$object else settings[[1]]
  provide(entry$needs, job)
  in_folder(job$study, eval(object, job$space))
}

value_of_entry <- function(entry, job) {
  provide(entry$needs, job)
  # What draws a seed of its own, for it takes none, draws the same one each time.
  with_trial_generator(job$study$seed, 1, 0, in_folder(job$study, made_for_study(entry$call, job$space)))
}

# How it was made is told from here on, not from run_study().
made_for_study <- function(code, space) {
  rlang::local_options(habanera.words = NULL, habanera.made_within = sys.nframe())
  if (!is.call(code)) return(code)
  # A file of a game of one's own.
  if (identical(code[[1]], as.name("$"))) return(game_from_file(code[[2]][[2]], NULL))
  in_whole_runs(eval(code, space))
}

# Makes what an entry refers to, and has it at hand by its variable.
provide <- function(variables, job) {
  for (variable in setdiff(variables, ls(job$space))) {
    entry <- job$study$entries[[variable]]
    value <- if (entry$section == "runs") value_of_run(entry, job) else checked_definition(entry, job)
    assign(variable, value, job$space)
  }
}

value_of_run <- function(entry, job) {
  answer <- answer_entry(entry$variable, job)
  if (answer$state == "done") return(answer$value)
  refuse(sprintf("It refers to %s, which has no answer.", quoted(entry$name)), "study", NULL)
}

checked_definition <- function(entry, job) {
  place <- list(study = job$study, path = c(entry$section, entry$name))
  value <- tryCatch(value_of_entry(entry, job), habanera_error_study = rlang::cnd_signal,
                    habanera_error = function(cnd) refuse_at(place, rlang::cnd_message(cnd)))
  thing <- section_things[[entry$section]]
  if (inherits(value, thing$classes)) return(value)
  refuse_at(place, sprintf("it is %s, not %s", said(value), thing$noun))
}
