# A stage of a question, as it is kept: a list of `stage` ("redraw" or "exchange") and its settings, with all
# expressions checked.

core_stage <- function(stage, pool, call) {
  if (stage$stage == "exchange") {
    return(list(stage = "exchange", times = stage$times, ways = lapply(stage$ways, core_way, pool, call)))
  }
  under <- if (is.null(stage$under)) rep(0, nrow(pool$data)) else condition_values(stage$under, pool, "under", call)
  list(stage = "redraw", condition = new_condition(stage$condition, pool, 0, call)$core, sizes = stage$sizes,
       put_back = stage$put_back, under_first = under)
}

stage_in_words <- function(stage) {
  if (stage$stage == "exchange") {
    kept <- if (is.null(stage$f)) join_words(vapply(stage$ways, format, ""), "or else") else "an R function"
    times <- if (stage$times > 1) sprintf(" %s times", format_count(stage$times)) else ""
    return(sprintf("exchanged%s by %s", times, kept))
  }
  times <- if (length(stage$sizes) > 1) sprintf(" up to %s", count_of(length(stage$sizes), "time")) else ""
  under <- if (any(stage$put_back > 0)) sprintf(" with %s put under", paste(stage$put_back, collapse = ", then "))
  paste0("redrawn", times, " if ", expression_text(stage$condition), under)
}

plain_stage <- function(stage) {
  text <- function(expr) if (!is.null(expr)) expression_text(expr)
  if (stage$stage == "exchange") {
    return(list(stage = "exchange", times = stage$times, ways = lapply(stage$ways, plain_way), code = stage$code))
  }
  list(stage = "redraw", sizes = stage$sizes, put_back = stage$put_back, condition = text(stage$condition),
       under = text(stage$under))
}

stage_from_plain <- function(plain, catalogue) {
  if (plain$stage == "exchange") {
    # Read from a file, the function is only text: it is never run.
    return(list(stage = "exchange", times = as.double(plain$times),
                ways = lapply(plain$ways, way_from_plain, catalogue), f = NULL, code = plain$code))
  }
  condition <- parse_expression(plain$condition, "condition", NULL)
  under <- if (!is.null(plain$under)) parse_expression(plain$under, "under", NULL)
  list(stage = "redraw", sizes = as.double(plain$sizes), put_back = as.double(plain$put_back),
       condition = checked_outcome(condition, catalogue, list(), NULL, NULL),
       under = if (!is.null(under)) checked_attributes(under, catalogue, NULL, NULL))
}

has_keep_function <- function(x) any(vapply(x$stages, function(stage) !is.null(stage$code), TRUE))
