# Pay tables: what is handed back for a stake, by the names of categories, the best first.

usual_pays <- c(`royal flush` = 800, `straight flush` = 50, `four of a kind` = 25, `full house` = 9, flush = 6,
                straight = 4, `three of a kind` = 3, `two pair` = 2, `pair of jacks or better` = 1)

rule_pay_table <- function() {
  allowed <- paste("numbers of 0 or more by the names of categories, or a file with them (.yaml, .json, or .csv with",
                   "`line` and `pays`)")
  new_rule("pays", usual_pays, allowed, "what is handed back for one stake, by category, the best first", beside = TRUE,
           usual = "the usual table", check = function(value, name, call) {
    if (is_file_of_pays(value)) {
      name <- basename(value)
      value <- pays_from_file(value, call)
    }
    pays <- listed_numbers(value)
    names <- names(pays)
    fits <- length(pays) > 0 && !anyNA(pays) && all(pays >= 0 & pays <= 1e6) && !is.null(names) && all(nzchar(names)) &&
      !anyDuplicated(tolower(names))
    if (!fits) refuse(sprintf("`%s` must be %s, not %s.", name, allowed, said(value)), call = call)
    names(pays) <- category_text(names)
    line <- NULL
    tryCatch(for (line in names(pays)) category_parts(line, call), habanera_error_input = function(cnd) {
      refuse(sprintf("`%s`, %s: %s", name, quoted(line), rlang::cnd_message(cnd)), call = call)
    })
    if ("high card" %in% names(pays)[-length(pays)]) {
      refuse("Every hand holds \"high card\": it must be the last line of `pays`.", call = call)
    }
    pays
  })
}

is_file_of_pays <- function(value) {
  rlang::is_string(value) && validUTF8(value) && is.null(names(value)) &&
    grepl("[.](ya?ml|json|csv)$", value, ignore.case = TRUE)
}

pays_from_file <- function(file, call) {
  check_readable(file, call)
  if (file_kind(file) == "csv") {
    table <- read_listing_file(file, call)
    refuse_columns_twice(names(table), file_name(file), call)
    missing <- setdiff(c("line", "pays"), names(table))
    if (length(missing)) {
      refuse(sprintf("%s must have the columns `line` and `pays`; it lacks `%s`.", file_name(file), missing[1]), "file",
             call)
    }
    table <- typed_columns(table, list(line = "text", pays = "number"), file_name(file), call)
    return(rlang::set_names(table[["pays"]], table[["line"]]))
  }
  found <- list_data(file, call)
  # Rules of a game, whose table may lie in a file of its own.
  if (rlang::is_string(found[["pays"]])) return(pays_from_file(beside_file(found[["pays"]], file), call))
  if (is.list(found[["pays"]])) found <- found[["pays"]]
  if (!is.list(found) || is.null(names(found))) {
    refuse(sprintf("%s must hold what each category pays, a line \"full house: 9\" for each.", file_name(file)), "file",
           call)
  }
  found
}

# Of tables that are allowed, and may be a slip.
caution_of_pays <- function(rules) {
  caution_of_order(rules$pays)
  caution_of_gaps(rules)
}

# The categories that a hand of one holds, too.
held_too <- list(`royal flush` = c("straight flush", "flush", "straight"), `straight flush` = c("flush", "straight"),
                 `five of a kind` = c("four of a kind", "three of a kind", "one pair"),
                 `four of a kind` = c("three of a kind", "one pair"),
                 `full house` = c("three of a kind", "two pair", "one pair"), `three of a kind` = "one pair",
                 `two pair` = "one pair")

# A line that pays more than one before it which its hands meet, too.
caution_of_order <- function(pays) {
  category <- categories_of_lines(names(pays))
  for (i in seq_along(pays)) {
    met <- category == category[i] | category %in% held_too[[category[i]]]
    before <- which(met & pays < pays[[i]] & seq_along(pays) < i)
    if (!length(before)) next
    warn_user(sprintf("`pays`: %s pays more than %s before it, by which such a hand is paid. Put the best first.",
                      quoted(names(pays)[i]), quoted(names(pays)[before[1]])), "pays")
    return(invisible())
  }
}

categories_of_lines <- function(lines) {
  vapply(lines, function(line) category_parts(line, NULL)$category, "", USE.NAMES = FALSE)
}

# Categories above the lowest that is paid, without a line of their own.
caution_of_gaps <- function(rules) {
  named <- unique(categories_of_lines(names(rules$pays)[rules$pays > 0]))
  order <- setdiff(names(hand_categories), c("royal flush", "high card", if (is.null(rules$wild)) "five of a kind"))
  needed <- hand_categories[order]
  order <- order[is.na(needed) | needed <= rules$cards]
  lowest <- max(0, match(named, order), na.rm = TRUE)
  missing <- setdiff(order[seq_len(lowest)], named)
  if (length(missing)) {
    warn_user(sprintf("`pays` has no line for %s: such hands are paid by a lower line, or not at all.",
                      join_words(missing)), "pays")
  }
}
