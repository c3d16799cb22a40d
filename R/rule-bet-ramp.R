#' Bets by the count
#'
#' How many stakes are laid at which count.
#'
#' @param bets Bets by count, whole stakes named by whole counts one after the other, as `c("0" = 1, "1" = 2, "2" = 4)`:
#'   a count below the first bets as the first, above the last as the last. Also one number for all counts, text
#'   `"0=1 1=2 2=4"`, a CSV file or a data frame with the columns `true_count` and `bet`.
#' @param limits The least and the most that the house takes, in stakes; bets beyond are laid at the limit.
#' @return A `habanera_bet_ramp`; `as.data.frame()`: `true_count`, `bet`.
#' @section Errors: `habanera_error_input` for counts with a hole between them, bets that are not whole stakes, and
#'   limits that cross.
#' @seealso [player_counting()], [bet_sizes()].
#' @examples
#' bet_ramp(c("0" = 1, "1" = 2, "2" = 4, "3" = 8))
#' @export
bet_ramp <- function(bets, limits = c(1, Inf)) {
  check_given()
  call <- rlang::current_env()
  if (inherits(bets, "habanera_bet_ramp")) bets <- bets$bets
  if (is.data.frame(bets) && all(c("true_count", "bet") %in% names(bets))) {
    bets <- rlang::set_names(bets[["bet"]], bets[["true_count"]])
  }
  if (rlang::is_string(bets)) bets <- ramp_from_text(bets, call)
  if (is.list(bets)) bets <- unlist(bets)
  if (is.numeric(bets) && length(bets) == 1 && is.null(names(bets))) bets <- c("0" = bets)
  check_limits(limits, call)
  whole <- is.numeric(bets) && length(bets) && all(is.finite(bets) & bets >= 1 & bets <= 1e6 & bets == round(bets))
  counts <- written_numbers(names(bets))
  if (!whole || length(counts) != length(bets) || anyNA(counts) || any(counts != round(counts))) {
    refuse(sprintf("`bets` must be whole stakes by whole counts, such as c(\"0\" = 1, \"1\" = 2), not %s.", said(bets)))
  }
  bets <- bets[order(counts)]
  counts <- sort(counts)
  if (anyDuplicated(counts)) refuse(sprintf("`bets` has the count %s twice.", counts[duplicated(counts)][1]))
  hole <- which(diff(counts) > 1)
  if (length(hole)) {
    refuse(sprintf("`bets` has a hole: %s follows %s. Say what is bet at %s.", counts[hole[1] + 1], counts[hole[1]],
                   counts[hole[1]] + 1))
  }
  names(bets) <- counts
  structure(list(bets = pmin(pmax(bets, limits[1]), limits[2])), class = "habanera_bet_ramp")
}

check_limits <- function(limits, call) {
  fits <- is.numeric(limits) && length(limits) == 2 && !anyNA(limits) && all(limits >= 1) &&
    all(is.infinite(limits) | limits == round(limits))
  if (!fits) {
    refuse(sprintf("`limits` must be the least and the most of a bet, whole, not %s.", said(limits)), call = call)
  }
  if (limits[1] > limits[2]) {
    refuse(sprintf("`limits` cross: the least is %s and the most %s.", format_count(limits[1]),
                   format_count(limits[2])), call = call)
  }
}

ramp_from_text <- function(text, call) {
  if (grepl("[.]csv$", text, ignore.case = TRUE)) return(ramp_from_file(text, call))
  parts <- strsplit(trimws(text), "[[:space:],]+")[[1]]
  number <- written_numbers(parts)
  if (length(parts) == 1 && !is.na(number)) return(number)
  values <- written_numbers(sub("^.*=", "", parts))
  if (!all(grepl("=", parts, fixed = TRUE)) || anyNA(values)) {
    refuse(sprintf("Bets as text are such as \"0=1 1=2 2=4\", or a CSV file, not %s.", quoted(text)), call = call)
  }
  rlang::set_names(values, sub("=.*$", "", parts))
}

ramp_from_file <- function(file, call) {
  table <- read_csv_columns(file, c("true_count", "bet"), call)
  rlang::set_names(numbers_of_file(table, "bet", file, call), numbers_of_file(table, "true_count", file, call))
}

check_ramp <- function(x, call) {
  if (inherits(x, "habanera_bet_ramp")) return(x)
  tryCatch(bet_ramp(x), habanera_error_input = function(cnd) refuse(rlang::cnd_message(cnd), call = call))
}

#' @export
format.habanera_bet_ramp <- function(x, ...) {
  if (length(x$bets) == 1 && names(x$bets) == "0") return(whole_code_of(x$bets))
  paste(sprintf("%s=%s", names(x$bets), vapply(x$bets, whole_code_of, "")), collapse = " ")
}

#' @export
as.character.habanera_bet_ramp <- function(x, ...) format(x)

#' @export
as.data.frame.habanera_bet_ramp <- function(x, ...) {
  data.frame(true_count = as.numeric(names(x$bets)), bet = unname(x$bets))
}

#' @export
print.habanera_bet_ramp <- function(x, ...) {
  cat_wrapped("<bets> ", ramp_in_words(x), ".")
  if (length(x$bets) > 1) print_rows(as.data.frame(x))
  invisible(x)
}

ramp_in_words <- function(x) {
  range <- range(x$bets)
  if (range[1] == range[2]) return(sprintf("%s at every count", count_of(range[1], "stake")))
  sprintf("from %s to %s stakes by the count", format_count(range[1]), format_count(range[2]))
}

# What is bet at these counts.
bets_at <- function(ramp, counts) {
  known <- as.numeric(names(ramp$bets))
  unname(ramp$bets[pmin(pmax(counts, known[1]), known[length(known)]) - known[1] + 1])
}
