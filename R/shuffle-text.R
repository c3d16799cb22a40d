#' Procedures as text
#'
#' Reads a procedure from text: steps separated by commas, each a name, how often it is made (`x4`) and
#' parameters (`clump=0.1`). `format()` of a procedure gives such a text back.
#'
#' @param text One text, such as `"wash, riffle x4, strip packets=6, cut"`.
#' @return A procedure.
#' @section Errors: `habanera_error_notation`, pointing at the word and offering the nearest.
#' @examples
#' procedure("wash, riffle x4, strip packets=6, riffle clump=0.1, cut")
#' @export
procedure <- function(text) {
  check_given()
  call <- rlang::current_env()
  check_string(text)
  parts <- trimws(strsplit(text, ",", fixed = TRUE)[[1]])
  if (any(!nzchar(parts)) || grepl(",\\s*$", text)) {
    refuse(sprintf("There is an empty step in %s.", quoted(text)), "notation")
  }
  do.call(c, lapply(parts, read_step, call = call))
}

read_step <- function(part, call) {
  words <- strsplit(part, "[[:space:]]+")[[1]]
  name <- words[1]
  kind <- step_kinds[[name]]
  if (name == "with") {
    refuse("An R function cannot be read from text; use shuffle_with(f).", "notation", call)
  }
  if (is.null(kind)) {
    refuse(sprintf("There is no step %s in %s%s", quoted(name), quoted(part),
                   did_you_mean(name, names(step_kinds))), "notation", call)
  }
  is_times <- grepl("^x[0-9]+$", words[-1])
  settings <- words[-1][!is_times]
  times <- as.numeric(sub("x", "", words[-1][is_times]))
  if (length(times) > 1) refuse(sprintf("%s says twice how often.", quoted(part)), "notation", call)
  values <- read_settings(settings, kind, part, call)
  do.call(one_step, c(list(name, times = if (length(times)) times else 1, call = call), values))
}

read_settings <- function(settings, kind, part, call) {
  keys <- sub("=.*$", "", settings)
  known <- c(names(kind$parameters), "seconds")
  bad <- which(!grepl("=.", settings) | !keys %in% known)
  if (length(bad)) {
    refuse(sprintf("%s in %s is no setting of this step (%s)%s", quoted(settings[bad[1]]), quoted(part),
                   join_words(c("x4", paste0(known, "=")), "or"), did_you_mean(keys[bad[1]], known)),
           "notation", call)
  }
  values <- lapply(sub("^[^=]*=", "", settings), function(text) {
    number <- written_numbers(text)
    if (is.na(number)) text else number
  })
  defaults <- lapply(kind$parameters, `[[`, "default")
  utils::modifyList(defaults, rlang::set_names(values, keys), keep.null = TRUE)
}

# Of draws made elsewhere the procedure is not known: NULL.
procedure_text <- function(x) if (is.null(x)) NULL else format(x)

procedure_from_plain <- function(plain) if (is.null(plain)) NULL else procedure(plain)
