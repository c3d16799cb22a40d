# A table of the house in a file: a game by its rules, prizes of a draw, or what was played.

read_house_table <- function(file, call) {
  check_readable(file, call)
  if (file_kind(file) %in% c("csv", "parquet")) return(read_result(file))
  if (!file_kind(file) %in% c("yaml", "yml", "json")) {
    refuse(sprintf("%s must end in .yaml, .yml, .json, .csv or .parquet.", file_name(file)), "file", call)
  }
  found <- list_data(file, call)
  if (!is.list(found) || is.null(names(found))) {
    refuse(sprintf("%s must hold rules with `game`, or prizes of a draw, a line \"name: value\" for each.",
                   file_name(file)), "file", call)
  }
  if (rlang::is_string(found[["game"]])) return(game(found[["game"]], rules = file))
  if (is.list(found) && !is.null(found[["habanera"]])) return(read_result(file))
  prizes_from_plain(found, file, call)
}

# `deck`, `size`, `ask` (questions, as the shell types them), `pays` (by the values of the last) and `stake`.
prizes_from_plain <- function(found, file, call) {
  known <- c("deck", "size", "ask", "pays", "stake")
  unknown <- setdiff(names(found), known)
  missing <- setdiff(c("deck", "size", "ask", "pays"), names(found))
  if (!is.list(found) || length(unknown) || length(missing)) {
    slip <- if (length(unknown)) sprintf(", not `%s`.", unknown[1]) else sprintf("; it lacks `%s`.", missing[1])
    refuse(sprintf("%s must hold rules with `game`, or prizes of a draw (%s)%s", file_name(file), join_words(known),
                   slip), "file", call)
  }
  if (!rlang::is_string(found$deck)) {
    refuse(sprintf("%s: `deck` must be a deck in words or a file, not %s.", file_name(file), said(found$deck)), "file",
           call)
  }
  asked <- lapply(parse_expressions(check_string(found$ask, "ask", call), "ask", call), typed_question)
  question <- draws(deck_from(beside_file(found$deck, file)), found$size, !!!asked)
  payout(exact(question), listed_numbers(found$pays), if (is.null(found$stake)) 1 else found$stake)
}
