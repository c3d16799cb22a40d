#' A street of betting
#'
#' What is turned for all before a street, and how it is bet on: for the rule `streets` of [game_betting()].
#'
#' A *size* is a number of chips, a share of the pot (`"1/2 pot"`, `"pot"`, `"0.75 pot"`), or `"all in"`. That of a
#' raise comes on top of the call; the pot is what it is after the call, and a share of it is rounded down to a chip. A
#' size at or above what the seat has left is its all in. The smallest bet is one chip, the smallest raise the last bet
#' or raise (before the first bet, the larger blind): a smaller size is lifted to it. Sizes that come to the same are
#' one. An all in below the last bet or raise does not reopen betting for who has spoken: these may call it or fold.
#' Nobody may bet where no other seat could call.
#'
#' @param shared How many cards are turned for all before it.
#' @param bets The sizes that the first bet of the street may have, on top of a blind, too; `NULL`: none is made.
#' @param raises The sizes of all further ones.
#' @param most_bets How many bets and raises there may be in all; blinds are none.
#' @param calls "any", or "all in": a blind may not merely be called, but by who has no more than it.
#' @param first The seat that speaks first; `NULL`: after blinds the next seat, on later streets the first after the
#'   dealer.
#' @return A `habanera_street`, a list.
#' @section Errors: `habanera_error_input` for what is no size, and for numbers out of range.
#' @seealso [game_betting()].
#' @examples
#' street(bets = c("1/2 pot", "pot", "all in"), most_bets = 3)
#' street(shared = 1, bets = 4, most_bets = 2)
#' @export
street <- function(shared = 0, bets = 1, raises = bets, most_bets = 1, calls = c("any", "all in"), first = NULL) {
  call <- rlang::current_env()
  check_whole(shared, 0, 8)
  bets <- checked_sizes(bets, "bets", call)
  raises <- checked_sizes(raises, "raises", call)
  check_whole(most_bets, 0, 20)
  calls <- check_choice(calls, c("any", "all in"))
  if (!is.null(first)) check_whole(first, 1, 6)
  if (is.null(bets) || most_bets == 0) bets <- raises <- NULL
  if (most_bets < 2) raises <- NULL
  if (calls == "all in" && is.null(bets)) {
    refuse("Where `calls` are \"all in\" a bet must be allowed: say its sizes as `bets`.", call = call)
  }
  structure(list(shared = as.double(shared), bets = bets, raises = raises,
                 most_bets = if (is.null(bets)) 0 else if (is.null(raises)) 1 else as.double(most_bets),
                 calls = calls, first = if (!is.null(first)) as.double(first)), class = "habanera_street")
}

most_sizes <- 20

# As text, each once: "2", "1/2 pot", "all in".
checked_sizes <- function(sizes, name, call) {
  if (is.null(sizes)) return(NULL)
  if (is.list(sizes)) sizes <- unlist(sizes)
  if (is.numeric(sizes)) {
    check_each_whole(sizes, 1, 1e9, name, call)
    sizes <- whole_text(sizes)
  }
  if (!is.character(sizes) || !length(sizes) || length(sizes) > most_sizes || anyNA(sizes)) {
    refuse(sprintf("`%s` must be 1 to %d sizes, such as 2, \"1/2 pot\" or \"all in\", not %s.", name, most_sizes,
                   said(sizes)), call = call)
  }
  check_utf8(sizes, name, call)
  sizes <- gsub("[[:space:]]+", " ", trimws(sizes))
  for (size in sizes) size_parts(size, name, call)
  if (anyDuplicated(sizes)) {
    refuse(sprintf("`%s` has %s twice.", name, quoted(sizes[duplicated(sizes)][1])), call = call)
  }
  sizes
}

# A size as the core takes it: `how`, chips, and a share as a fraction.
size_parts <- function(size, name = "bets", call = NULL) {
  if (size == "all in") return(list(how = "all_in", chips = 0, over = 1, under = 1, name = size))
  if (grepl("^([0-9.]+(/[0-9]+)? )?pot$", size)) {
    share <- if (size == "pot") c(1, 1) else share_of_pot(sub(" pot$", "", size))
    if (!is.null(share)) {
      return(list(how = "share_of_pot", chips = 0, over = share[1], under = share[2], name = size))
    }
  }
  chips <- written_numbers(size)
  if (!is.na(chips) && chips >= 1 && chips <= 1e9 && chips == floor(chips)) {
    return(list(how = "chips", chips = chips, over = 1, under = 1, name = size))
  }
  refuse(sprintf("`%s`: a size is a whole number of chips, \"1/2 pot\", \"pot\" or \"all in\", not %s.", name,
                 quoted(size)), call = call)
}

share_of_pot <- function(text) {
  value <- fraction_value(text)
  if (is.na(value) || value <= 0 || value > 1000) return(NULL)
  nearest_fraction(value)
}

#' @export
format.habanera_street <- function(x, ...) {
  turned <- if (x$shared > 0) sprintf("%s turned", count_of(x$shared, "card"))
  bets <- if (is.null(x$bets)) "no betting" else {
    paste0(sprintf("bets of %s", join_words(x$bets, "or")),
           if (x$most_bets > 1 && !identical(x$raises, x$bets)) sprintf(", raises of %s", join_words(x$raises, "or")),
           if (x$most_bets > 1) sprintf(", at most %s in all", format_count(x$most_bets)) else ", one in all",
           if (x$calls == "all in") ", a blind is not merely called",
           if (!is.null(x$first)) sprintf(", seat %s speaks first", format_count(x$first)))
  }
  paste(c(turned, bets), collapse = ", ")
}

#' @export
print.habanera_street <- function(x, ...) {
  cat_wrapped("<street> ", format(x))
  invisible(x)
}

# Several in their order, as a rule: a list of them, settings as files have them, or text as the shell types it:
# "bets=2, most_bets=2; shared=1, bets=1/2 pot|all in".
rule_streets <- function(meaning) {
  allowed <- "a list of street(), or text such as \"bets=1; shared=1, bets=2|pot, most_bets=2\""
  default <- list(street(bets = c("1/2 pot", "pot"), most_bets = 2))
  new_rule("streets", default, allowed, meaning, usual = "list(street(bets = c(\"1/2 pot\", \"pot\"), most_bets = 2))",
           check = function(value, name, call) {
    if (inherits(value, "habanera_street")) value <- list(value)
    if (rlang::is_string(value)) value <- typed_streets(value, call)
    if (!is.list(value) || !length(value) || length(value) > 8) {
      refuse(sprintf("`%s` must be %s, not %s.", name, allowed, said(value)), call = call)
    }
    # A file with one street alone is a mapping.
    if (!is.null(names(value)) && !inherits(value, "habanera_streets")) value <- list(value)
    structure(lapply(unname(unclass(value)), function(each) {
      if (inherits(each, "habanera_street")) each else street_of_settings(each, name, allowed, call)
    }), class = "habanera_streets")
  })
}

typed_streets <- function(text, call) {
  lapply(strsplit(text, ";", fixed = TRUE)[[1]], function(part) {
    settings <- as.list(typed_list(part))
    lapply(settings, function(value) {
      values <- trimws(strsplit(value, "|", fixed = TRUE)[[1]])
      numbers <- written_numbers(values)
      if (identical(values, "NULL")) NULL else if (anyNA(numbers)) values else numbers
    })
  })
}

street_of_settings <- function(settings, name, allowed, call) {
  if (!is.list(settings) || is.null(names(settings))) {
    refuse(sprintf("`%s` must be %s, not %s.", name, allowed, said(settings)), call = call)
  }
  known <- names(formals(street))
  unknown <- setdiff(names(settings), known)
  if (length(unknown)) {
    refuse(sprintf("`%s`: a street has no %s%s It has %s.", name, quoted(unknown[1]), did_you_mean(unknown[1], known),
                   join_words(known)), call = call)
  }
  refuse_if_fails(do.call(street, settings), sprintf("`%s`: a street cannot be so.", name), "input", call)
}

#' @export
rule_text.habanera_streets <- function(value) paste(vapply(value, format, ""), collapse = "; ")

# Settings that are not as by default, by name.
set_of_street <- function(x) {
  set <- unclass(x)
  if (identical(set$raises, set$bets) || set$most_bets < 2) set$raises <- NULL
  usual <- unclass(street())
  kept <- names(set)[!mapply(identical, set, usual[names(set)])]
  out <- set[kept]
  if (is.null(x$bets)) out <- c(out[setdiff(names(out), c("bets", "most_bets"))], list(bets = NULL))
  # Sizes that are numbers read as numbers.
  for (sizes in intersect(c("bets", "raises"), names(out))) {
    numbers <- if (!is.null(out[[sizes]])) written_numbers(out[[sizes]])
    if (length(numbers) && !anyNA(numbers)) out[[sizes]] <- numbers
  }
  out
}

#' @export
plain_rule.habanera_streets <- function(value) lapply(value, function(each) {
  set <- set_of_street(each)
  if (length(set)) set else list(shared = 0)
})

#' @export
typed_rule.habanera_streets <- function(value) {
  paste(vapply(value, function(each) {
    set <- set_of_street(each)
    if (!length(set)) return("shared=0")
    paste(names(set), vapply(set, function(x) if (is.null(x)) "NULL" else paste(x, collapse = "|"), ""), sep = "=",
          collapse = ", ")
  }, ""), collapse = "; ")
}

#' @export
rule_code.habanera_streets <- function(value) {
  code <- vapply(value, function(each) {
    set <- set_of_street(each)
    sprintf("street(%s)", paste(names(set), vapply(set, rule_code, ""), sep = " = ", collapse = ", "))
  }, "")
  sprintf("list(%s)", paste(code, collapse = ", "))
}
