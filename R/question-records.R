# Questions that are asked of recorded hands.

#' @export
ask_records.habanera_counts_draws <- function(x, question, call) {
  if (is.null(x$hands)) {
    refuse("The hands themselves are needed for a question; of these only counts are kept.", call = call)
  }
  asked <- if (inherits(question, "habanera_question")) fitting_question(question, x, call) else {
    question_of_records(x, question, call)
  }
  tell_doubled(x)
  from <- x$provenance
  keys <- unlist(lapply(split(seq_len(nrow(x$hands$kinds)), (seq_len(nrow(x$hands$kinds)) - 1) %/% hands_at_once),
                        function(rows) unlist(core_play_on(asked$spec, x$hands$kinds[rows, , drop = FALSE])$keys)),
                 use.names = FALSE)
  key <- sort(unique(keys))
  place <- match(keys, key)
  tally <- list(key = key, n = as.double(tabulate(place, length(key))), example_trial = match(key, keys))
  found <- counted_outcomes(asked, tally)
  new_counts(result_kind(asked), found$outcomes, found$n, found$example_trial, NULL,
             new_provenance(asked, entries_per_trial(asked), trials = from$trials, source = from$source))
}

hands_at_once <- 1e5

tell_doubled <- function(x) {
  experiment <- x$provenance$experiment
  if (experiment$replace) return(invisible())
  doubled <- sum(doubled_rows(x$hands$kinds, kinds_of(experiment$deck)$copies))
  if (!doubled) return(invisible())
  inform_user(sprintf("%s a card more often than the pack has it; what is asked counts %s as %s.",
                      if (doubled == 1) "1 hand holds" else sprintf("%s hands hold", format_count(doubled)),
                      if (doubled == 1) "it" else "them", if (doubled == 1) "it stands" else "they stand"))
}

question_of_records <- function(x, questions, call) {
  experiment <- x$provenance$experiment
  parts <- parted_deck(experiment$deck, call = call)
  new_question(parts, experiment$size, checked_columns(questions, catalogue_of(parts$deck), call), experiment$replace,
               shuffle_uniform(), call)
}

# The question of an exact answer, where it is of such hands.
fitting_question <- function(question, x, call) {
  experiment <- x$provenance$experiment
  fits <- identical(sort(as.character(question$whole)), sort(as.character(experiment$deck))) &&
    question$size + length(question$held) == experiment$size && !length(question$stages) && question$turns == 0
  if (fits) return(question)
  refuse(sprintf("The records are of %s; the distribution is of %s.", in_words(experiment), in_words(question)),
         call = call)
}
