# What the answers were before they changed. Kept by run; a generation is all that changed until every run was answered
# again, however often the study was stopped on the way.

kept_answers <- function(folder) {
  kept <- intact(file.path(folder, "answers"), function(bytes) value_from_bytes(bytes))
  if (is.null(kept)) list(generation = 0, whole = TRUE, runs = list()) else kept$value
}

# Brings what is kept up to date, and tells what changed in this generation.
told_changes <- function(found, folder, call) {
  kept <- kept_answers(folder)
  known <- rlang::set_names(kept$runs, vapply(kept$runs, `[[`, "", "run"))
  done <- found$runs[found$runs$state == "done", , drop = FALSE]
  is_new <- vapply(seq_len(nrow(done)), function(i) !identical(known[[done$run[i]]]$key, done_key(done, i, found)), NA)
  generation <- kept$generation + (any(is_new) && kept$whole)
  runs <- lapply(seq_len(nrow(done)), function(i) {
    before <- known[[done$run[i]]]
    if (!is_new[i]) return(before)
    now <- list(run = done$run[i], key = done_key(done, i, found), words = done$words[i],
                table = answer_table(found$values[[done$run[i]]]), generation = generation)
    now$before <- before[c("words", "table")]
    now
  })
  waiting <- known[setdiff(intersect(names(known), found$runs$run), done$run)]
  now <- list(generation = generation, whole = all(found$runs$state == "done"), runs = c(runs, unname(waiting)))
  if (!identical(now, kept)) {
    write_bytes_whole(plain_bytes(list(title = found$study$title), now), file.path(folder, "answers"), call)
  }
  changed <- Filter(function(run) run$generation == generation && !is.null(run$before), runs)
  do.call(rbind, lapply(changed, function(run) data.frame(run = run$run, change = change_in_words(run))))
}

# The trials are not in the key of a run that may be cut, and are part of its answer.
done_key <- function(done, i, found) {
  value <- found$values[[done$run[i]]]
  paste(c(done$key[i], if (inherits(value, "habanera_counts")) whole_text(trial_count(value))), collapse = " ")
}

# "edge is 2.1%, was 2.6%", of what a reader would look at: the terms that are in both.
change_in_words <- function(run) {
  now <- changed_terms(run$table)
  before <- changed_terms(run$before$table)
  both <- intersect(names(now), names(before))
  moved <- both[!mapply(function(one, two) isTRUE(all.equal(one, two, tolerance = 1e-12)), now[both], before[both])]
  if (!length(moved)) {
    if (identical(run$words, run$before$words)) return("asked in another way, with the same answer")
    return(sprintf("%s Before: %s", sub("[.]?$", ".", run$words), run$before$words))
  }
  told <- utils::head(moved, most_changes_told)
  said <- sprintf("%s is %s, was %s", told, told_value(now[told], told), told_value(before[told], told))
  more <- length(moved) - length(told)
  paste(c(said, if (more) sprintf("and %s more", format_count(more))), collapse = "; ")
}

most_changes_told <- 4

# Estimates by what tells their rows apart.
changed_terms <- function(table) {
  if (is.null(table)) return(numeric())
  values <- rlang::set_names(table[["estimate"]], trimws(paste(table[["what"]], table[["term"]])))
  values[!is.na(values) & !duplicated(names(values))]
}

told_value <- function(values, terms) {
  share <- grepl("edge|return|share|chance|ruin", terms) & abs(values) <= 1
  unname(ifelse(share, vapply(values, format_percent, "", 4), vapply(values, format_statistic, "")))
}

changed_answers_in_words <- function(changes) sprintf("Changed: %s: %s.", changes$run, sub("[.]$", "", changes$change))
