# One deck audited: what is to be counted, the counting, and the audit that comes of it.

audit_procedure <- function(procedure, deck, nsim, seed, each, level, threads, ..., call = rlang::caller_env()) {
  identity <- !has_function(procedure) || !anyDuplicated(codes_of(check_deck(deck)))
  plan <- audit_plan(deck, level, ..., identity = identity, call = call)
  plan$threads <- resolve_threads(threads, call)
  counted <- if (has_function(procedure)) {
    count_function(procedure, plan, nsim, seed, each)
  } else {
    halves <- count_procedure(procedure, plan$spec, nsim, if (each == "continued") chain_trials else 1, seed,
                              threads, plan$progress)
    list(halves = halves)
  }
  new_audit(counted, plan, list(words = words_of(procedure), procedure = procedure,
                                seed = seed, each = each, asked = nsim))
}

# What is to be counted, checked. `...`: `alike`, `grid` and `progress` of audit().
audit_plan <- function(deck, level, ..., identity = TRUE, call) {
  check_deck(deck, call = call)
  check_level(level, call = call)
  if (length(deck) > most_audited_cards) {
    refuse(sprintf("At most %s cards can be audited, not %s.", format_count(most_audited_cards),
                   format_count(length(deck))), "work", call)
  }
  settings <- audit_settings(..., call = call)
  alike <- check_alike(settings$alike, deck, call)
  if (!is.null(settings$grid)) {
    check_grid(settings$grid, length(deck), call)
    if (!length(alike)) refuse("`grid` asks whether like cards lie side by side: no cards of this deck are alike.",
                               call = call)
  }
  list(deck = deck, level = level, alike = alike, grid = settings$grid, identity = identity,
       progress = settings$progress, spec = battery_spec(deck, identity, alike, settings$grid))
}

audit_settings <- function(..., call) {
  settings <- list(...)
  known <- c("alike", "grid", "progress")
  if (length(settings) && !all(nzchar(rlang::names2(settings)))) {
    refuse("audit() takes these settings by name: alike, grid, progress.", call = call)
  }
  unknown <- setdiff(names(settings), known)
  if (length(unknown)) {
    refuse(sprintf("audit() has no setting `%s`%s", unknown[1], did_you_mean(unknown[1], known)), call = call)
  }
  settings
}

most_audited_cards <- 4096

check_alike <- function(alike, deck, call = rlang::caller_env()) {
  data <- catalogue_of(deck)$data
  if (is.null(alike)) {
    # Where all cards differ in it, or none does, it tells nothing.
    told <- intersect(c("suit", "rank"), names(data))
    held <- data[codes_of(deck), told, drop = FALSE]
    return(told[vapply(held, function(values) {
      anyDuplicated(values[!is.na(values)]) > 0 && length(unique(values)) > 1
    }, TRUE)])
  }
  unknown <- setdiff(alike, names(data))
  if (!is.character(alike) || length(unknown)) {
    refuse(sprintf("`alike` must be attributes of the deck (%s), not %s%s", join_words(names(data)),
                   said(unknown[1]), did_you_mean(unknown[1], names(data))), call = call)
  }
  alike
}

audit_rows <- function(source, rows, level, threads, ..., call = rlang::caller_env()) {
  plan <- audit_plan(source$deck, level, ..., identity = source$identity, call = call)
  counted <- list(halves = count_rows(rows, plan$spec, resolve_threads(threads, call)),
                  repeated = core_repeated_rows(rows), rows = rows)
  new_audit(counted, plan, list(words = source$source, shuffles = source, each = "fresh", asked = nrow(rows)))
}

words_of <- function(procedure) {
  if (has_function(procedure)) procedure_in_words(procedure) else quoted(format(procedure))
}

# Trials that call an R function are made in R, and counted as arrangements made elsewhere.
count_function <- function(procedure, plan, nsim, seed, each) {
  rows <- function_rows(procedure, plan$deck, nsim, seed, each)
  list(halves = count_rows(rows, plan$spec, plan$threads), repeated = core_repeated_rows(rows), rows = rows)
}

function_rows <- function(procedure, deck, nsim, seed, each) {
  known <- if (anyDuplicated(codes_of(deck))) kinds_of(deck)$codes else codes_of(deck)
  rows <- matrix(0L, nsim, length(deck))
  done <- 0
  lies <- deck
  bar <- local_progress("Shuffling", total = nsim)
  tryCatch(
    while (done < nsim) {
      if (each == "fresh" || done %% chain_trials == 0) lies <- deck
      lies <- shuffled_cards(lies, procedure, seed, done + 1, NULL, conserve = FALSE)
      if (length(lies) > length(deck)) refuse_longer(lies, deck, done + 1)
      rows[done + 1, seq_along(lies)] <- match(codes_of(lies), known)
      done <- done + 1
      if (done %% 50 == 0) bar$move(done)
    },
    interrupt = function(cnd) {
      if (done == 0) rlang::interrupt()
      warn_interrupted(done, nsim)
    }
  )
  rows[is.na(rows)] <- 0L
  rows[seq_len(done), , drop = FALSE]
}

refuse_longer <- function(lies, deck, trial) {
  refuse(sprintf("Your shuffle returned %s for %s in trial %s.", count_of(length(lies), "card"),
                 format_count(length(deck)), format_count(trial)), "function", call = NULL)
}
