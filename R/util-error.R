# Every error we raise goes through refuse(): class habanera_error, a finer class in front of it,
# and the user's call rather than ours.
# `...` are further fields of the condition.
refuse <- function(message, kind = "input", call = rlang::caller_env(), ...) {
  rlang::abort(message, class = c(paste0("habanera_error_", kind), "habanera_error"), call = call, ...)
}

# Runs code of a library or of the user, and says what we were about when it fails.
refuse_if_fails <- function(code, message, kind = "input", call = rlang::caller_env()) {
  tryCatch(code, error = function(cnd) {
    if (inherits(cnd, "habanera_error")) rlang::cnd_signal(cnd)
    refuse(c(message, x = conditionMessage(cnd)), kind, call)
  })
}

# A note to the user on standard error, which suppressMessages() silences.
inform_user <- function(message) rlang::inform(message, class = "habanera_message")

# Work that the user did not ask for in so many words gives no notes.
without_notes <- function(code) {
  withCallingHandlers(code, habanera_message = function(cnd) rlang::cnd_muffle(cnd))
}

warn_user <- function(message, kind) {
  rlang::warn(message, class = c(paste0("habanera_warning_", kind), "habanera_warning"))
}
