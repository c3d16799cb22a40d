# How far a study has come.

# The runs of a study as a folder has them: what is done, what is begun, what is to do.
study_status <- function(study, folder, call = rlang::caller_env()) {
  refuse_other_title(folder, folder_title(folder, call), study$title, call)
  plan <- new_job(study, folder)$plan
  states <- lapply(seq_len(nrow(plan)), function(i) run_state(plan[i, ], study, folder))
  structure(data.frame(run = plan$name, state = vapply(states, `[[`, "", 1), detail = vapply(states, `[[`, "", 2)),
            class = table_class("habanera_study_status"))
}

run_state <- function(row, study, folder) {
  entry <- study$entries[[row$variable]]
  if (file.exists(kept_file(folder, entry_key(entry, study, cut = FALSE)))) return(c("done", ""))
  if (!row$cut) return(c("to do", ""))
  wanted <- wanted_trials(entry)
  there <- ranges_there(folder, row$key)
  there <- there[there$first >= wanted[1] & there$last <= wanted[2], , drop = FALSE]
  trials <- sum(there$last - there$first + 1)
  asked <- count_of(diff(wanted) + 1, "trial")
  if (trials >= diff(wanted) + 1) return(c("done", asked))
  going <- length(list.files(file.path(folder, "runs"), sprintf("^%s-.*[.]going$", row$key))) > 0
  if (!trials && !going) return(c("to do", asked))
  c("begun", if (trials) sprintf("%s of %s", format_count(trials), asked) else paste("some of", asked))
}

#' @export
in_words.habanera_study_status <- function(x, ...) {
  states <- table(factor(x$state, c("done", "begun", "to do")))
  sprintf("%s of %s done, %s begun, %s to do.", format_count(states[["done"]]), count_of(nrow(x), "run"),
          format_count(states[["begun"]]), format_count(states[["to do"]]))
}

#' @export
tell.habanera_study_status <- function(x, rows = 1000, ...) {
  cat_wrapped(in_words(x))
  print_head(plain_table(x), rows)
}
