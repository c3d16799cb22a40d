# How a result was made: the call that the user wrote and the seed that was drawn for it, so that a page and a file can
# say how to have it again.

# The outermost of our own public functions that is at work, as `r` code and `shell` words (either may be NULL), and
# its `seed`, unless that decided nothing (`by_luck` is FALSE). NULL where none of them is at work.
call_made <- function(by_luck = TRUE) {
  public <- c(getNamespaceExports(topenv()), "simulate", "summary")
  # A study is at work on what it holds, and no part of how that is made.
  within <- getOption("habanera.made_within", 0)
  for (frame in within + seq_len(sys.nframe() - within)) {
    name <- own_function_name(frame)
    if (is.null(name)) next
    if (name %in% public) return(made_in_frame(name, frame, by_luck))
    # By another name, as lapply() calls what it is given: no code is told, rather than that of what it calls in turn.
    if (is_public_function(sys.function(frame))) return(made_by_shell(if (by_luck) seed_in_frames(frame)))
  }
  NULL
}

is_public_function <- function(f) {
  any(vapply(getNamespaceExports(topenv()), function(name) identical(f, get0(name, topenv())), NA))
}

made_by_shell <- function(seed) {
  words <- getOption("habanera.words")
  list(r = NULL, shell = if (!is.null(words)) shell_words_made(words, seed), seed = seed)
}

# How a result was made: as it says itself, or, of counts, by where they come from.
how_made <- function(x) {
  made <- attr(x, "made")
  if (is.null(made)) made_by_shell(if (is.list(x)) x[["provenance"]][["seed"]]) else made
}

# The function of a frame, where it is one of this package's; a method goes by the name of its generic.
own_function_name <- function(frame) {
  called <- sys.call(frame)[[1]]
  if (rlang::is_call(called, c("::", ":::"))) called <- called[[3]]
  own <- identical(topenv(environment(sys.function(frame))), topenv())
  if (own && is.symbol(called)) sub("[.](habanera_.*|default|data[.]frame)$", "", as.character(called))
}

# What changes how long it takes, and not what comes out.
not_told_of_calls <- c("threads", "workers", "progress", "checkpoint", "anew")

made_in_frame <- function(name, frame, by_luck) {
  parent <- sys.frame(sys.parents()[frame])
  arguments <- as.list(sys.call(frame))[-1]
  arguments <- arguments[!rlang::names2(arguments) %in% not_told_of_calls]
  written <- lapply(arguments, argument_code, parent)
  texts <- vapply(written, `[[`, "", "text")
  named <- nzchar(rlang::names2(arguments))
  texts[named] <- sprintf("%s = %s", vapply(names(arguments)[named], as_name_code, ""), texts[named])
  made <- made_by_shell(if (by_luck) seed_in_frames(frame))
  if (!is.null(made$seed) && !"seed" %in% names(arguments)) texts <- c(texts, paste("seed =", whole_code(made$seed)))
  code <- sprintf("x <- %s(%s)", name, paste(texts, collapse = ", "))
  # What our own command wrote means nothing to a reader, unless its values can be written out.
  known <- if (is.null(made$shell)) "can_be_said" else "is_known"
  if (!anyNA(texts) && nchar(code) <= 2000 && all(vapply(written, `[[`, NA, known))) made$r <- code
  made
}

# An argument as it was written; in the place of a variable what it holds, where that can be written. A value that
# stands in the call itself, as do.call() puts it there, can be said only if it can be written.
argument_code <- function(expression, env) {
  if (is.call(expression)) {
    text <- paste(trimws(deparse(expression, width.cutoff = 500L, nlines = 50)), collapse = " ")
    return(list(text = text, can_be_said = TRUE, is_known = FALSE))
  }
  name <- if (is.symbol(expression)) as.character(expression)
  value <- if (is.null(name)) expression else if (!name %in% c("", "...")) {
    tryCatch(get0(name, env), error = function(cnd) NULL)
  }
  code <- if (!is.null(value)) tryCatch(value_code(value), error = function(cnd) NULL)
  if (is.null(name) && is.null(expression)) code <- "NULL"
  list(text = c(code, name, "")[1], can_be_said = !is.null(c(code, name)), is_known = !is.null(code))
}

# The code of a value; NULL where none is short.
value_code <- function(x) UseMethod("value_code")

#' @export
value_code.default <- function(x) if (is.atomic(x) && !is.object(x) && length(x) <= 20) as_code(x)

#' @export
value_code.list <- function(x) {
  parts <- lapply(x, value_code)
  if (!length(x) || any(vapply(parts, is.null, NA))) return(NULL)
  named <- nzchar(rlang::names2(x))
  texts <- unlist(parts)
  texts[named] <- sprintf("%s = %s", vapply(names(x)[named], as_name_code, ""), texts[named])
  sprintf("list(%s)", paste(texts, collapse = ", "))
}

as_name_code <- function(name) if (make.names(name) == name) name else sprintf("`%s`", name)

# The seed that a call was given or drew, from it inwards.
seed_in_frames <- function(from) {
  for (frame in from:sys.nframe()) {
    env <- sys.frame(frame)
    for (found in list(tryCatch(get0("seed", env, inherits = FALSE), error = function(cnd) NULL),
                       tryCatch(get0("run", env, mode = "list", inherits = FALSE)[["seed"]],
                                error = function(cnd) NULL))) {
      if (is.numeric(found) && length(found) == 1 && is.finite(found)) return(found)
    }
  }
  NULL
}

# The words of the command without those that say where its result goes.
shell_words_made <- function(words, seed) {
  outputs <- c("--report", "--out", "--figure", "--format")
  at <- which(words %in% outputs)
  kept <- words[setdiff(seq_along(words), c(at, at + 1, grep("^--(report|out|figure|format)=|^--quiet$", words)))]
  if (!is.null(seed) && !any(grepl("^--seed(=|$)", kept))) kept <- c(kept, "--seed", whole_code(seed))
  paste(c("habanera", vapply(kept, shell_word, "")), collapse = " ")
}
