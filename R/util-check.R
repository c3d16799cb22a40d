# One-line checks of arguments. Each returns its value, so that a checked argument can be assigned.

check_whole <- function(x, from = 0, to = 2^53 - 1, name = rlang::caller_arg(x),
                        call = rlang::caller_env()) {
  whole <- is.numeric(x) && length(x) == 1 && is.finite(x) && x == floor(x)
  if (whole && x >= from && x <= to) return(as.double(x))
  refuse(sprintf("`%s` must be a whole number %s, not %s.", name, range_words(from, to), said(x)),
         call = call)
}

# Several, at least one.
check_each_whole <- function(x, from, to, name, call) {
  for (one in if (is.numeric(x) && length(x)) x else list(x)) check_whole(one, from, to, name, call)
}

check_number <- function(x, from, to, name, call) {
  if (is.numeric(x) && length(x) == 1 && isTRUE(x >= from && x <= to)) return(as.double(x))
  refuse(sprintf("`%s` must be a number %s, not %s.", name, range_words(from, to), said(x)), call = call)
}

# A number strictly between two others: a level, a power.
check_between <- function(x, above, below, name = rlang::caller_arg(x),
                          call = rlang::caller_env()) {
  if (is.numeric(x) && length(x) == 1 && is.finite(x) && x > above && x < below) return(as.double(x))
  refuse(sprintf("`%s` must be a number above %s and below %s, not %s.", name, format(above),
                 format(below), said(x)), call = call)
}

# That the function that calls was given all it cannot do without (`of`: that much of it).
check_given <- function(of = NULL, frame = rlang::caller_env(), of_function = rlang::caller_fn()) {
  needed <- names(Filter(rlang::is_missing, formals(of_function)))
  needed <- if (is.null(of)) setdiff(needed, "...") else of
  for (name in needed) {
    if (eval(call("missing", as.name(name)), frame)) refuse(sprintf("`%s` is missing.", name), call = frame)
  }
}

# That nothing was given beyond what a method takes.
check_no_more <- function(call, ...) {
  more <- rlang::exprs(...)
  if (!length(more)) return(invisible())
  name <- rlang::names2(more)[1]
  told <- if (nzchar(name)) sprintf("`%s`", name) else quoted(shortened(rlang::as_label(more[[1]])))
  refuse(sprintf("There is an argument too many: %s.", told), call = call)
}

# The chance of an error; what is smaller than one in a million millions is beyond the laws that are used.
check_level <- function(x, name = rlang::caller_arg(x), call = rlang::caller_env()) {
  if (is.numeric(x) && length(x) == 1 && isTRUE(x >= 1e-12 && x < 1)) return(as.double(x))
  refuse(sprintf("`%s` must be a number of 1e-12 or more and below 1, not %s.", name, said(x)), call = call)
}

check_flag <- function(x, name = rlang::caller_arg(x), call = rlang::caller_env()) {
  if (is.logical(x) && length(x) == 1 && !is.na(x)) return(x)
  refuse(sprintf("`%s` must be TRUE or FALSE, not %s.", name, said(x)), call = call)
}

check_string <- function(x, name = rlang::caller_arg(x), call = rlang::caller_env()) {
  if (is.character(x) && length(x) == 1 && !is.na(x)) check_utf8(x, name, call)
  if (is.character(x) && length(x) == 1 && !is.na(x) && nzchar(x)) return(x)
  refuse(sprintf("`%s` must be one piece of text, not %s.", name, said(x)), call = call)
}

# Text that every letter of can be read; by its place where there are several.
check_utf8 <- function(x, name = rlang::caller_arg(x), call = rlang::caller_env()) {
  bad <- which(!validUTF8(x) & Encoding(x) != "latin1")
  if (!length(bad)) return(invisible(x))
  where <- if (length(x) > 1) sprintf(" at position %s", format_count(bad[1])) else ""
  refuse(sprintf("`%s` is not UTF-8 text%s: it has bytes that are not.", name, where), "notation", call)
}

# The chosen word; a default that lists all the choices means the first.
check_choice <- function(x, choices, name = rlang::caller_arg(x), call = rlang::caller_env()) {
  if (identical(x, choices)) return(choices[1])
  if (is.character(x) && length(x) == 1 && x %in% choices) return(x)
  refuse(sprintf("`%s` must be %s, not %s%s", name, join_words(quoted(choices), "or"), said(x),
                 did_you_mean(x, choices)), call = call)
}

check_function <- function(x, name = rlang::caller_arg(x), call = rlang::caller_env()) {
  if (is.function(x)) return(x)
  refuse(sprintf("`%s` must be a function, not %s.", name, said(x)), call = call)
}

check_seed <- function(seed, call = rlang::caller_env()) {
  check_whole(seed, 0, 2^53 - 1, "seed", call)
}

# A seed as given, or one taken from R's own generator, so that set.seed() governs.
resolve_seed <- function(seed, call = rlang::caller_env()) {
  if (is.null(seed)) return(floor(stats::runif(1) * 2^31))
  check_seed(seed, call)
}

range_words <- function(from, to) {
  largest <- 2^53 - 1
  if (to >= largest && from == 0) return("of 0 or more, below 2^53")
  if (to >= largest) return(sprintf("of %s or more, below 2^53", format_count(from)))
  sprintf("from %s to %s", format_count(from), format_count(to))
}
