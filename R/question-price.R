#' The price that meets an edge
#'
#' Of prizes, solves for the stake at which the house keeps the share `edge` of it, or, with `stake` given, for the
#' factor that all pays must be multiplied by: stake = mean pay / (1 - edge). With `lines`, of prizes and of games, it
#' solves for what these lines must pay.
#'
#' Where a game is played best, it is played best for each pay anew: with `edge = 0` and the top line of
#' [game_video_poker()] this is the size from which a growing jackpot favours the player.
#'
#' @param x Counts or a distribution, as in [payout()]; or a game for money.
#' @param pays As in [payout()].
#' @param edge The share of the stake that the house keeps on average, below 1.
#' @param stake `NULL` to solve for the stake, or the stake for which to scale the pays.
#' @param lines The lines of the pay table to be solved for: names of `pays`; of a game the lines of its pay table, or
#'   rules that are pays, such as "tie_pays". Of two or three the last is solved for and the others are tried at whole
#'   numbers near what they are. More keep their proportions, as far as whole numbers can: all are multiplied by the
#'   factor that meets the edge, and the last is solved for beside the whole numbers below and above what comes out. So
#'   name last what may move most.
#' @param whole `TRUE`: only whole numbers, the nearest listed first; `FALSE`: for a single line the pay itself, too. Of
#'   a game `NULL`: whole where the pay is whole now.
#' @param bet Of a game: the bet whose edge is meant, as `term` in `tidy(house_edge(x))`; `NULL`: the main bet.
#' @param ... For methods.
#' @return Without `lines` a list of class `habanera_price`: `stake`, `factor` (1 when the stake is solved for), `pays`
#'   (the line, what it pays now, what it would pay) and `std.error` of what was solved for (0 when exact). With `lines`
#'   a `habanera_line_prices`, a data frame: a column for each line (what it pays), `edge`, `off` (from the edge
#'   wanted), the nearest first.
#' @section Errors: as [payout()]; `habanera_error_input` also when nothing is ever paid, for lines that there are not,
#'   and where no pay up to a million meets the edge; `habanera_error_work` for a game whose edge is simulated.
#' @examples
#' x <- exact(draws(deck_from(demo_file("orchard.csv")), 3, alike = largest_group(suit)))
#' price_for(x, c("3" = 10, "2" = 1), edge = 0.15)
#' price_for(x, c("3" = 10, "2" = 1), edge = 0.15, stake = 2)
#' price_for(x, c("3" = 10, "2" = 1), edge = 0.15, lines = "3", stake = 1)
#' price_for(game_baccarat(), edge = 0.05, lines = "tie_pays", bet = "tie")
#' @export
price_for <- function(x, ...) {
  check_given("x")
  UseMethod("price_for")
}

#' @rdname price_for
#' @export
price_for.default <- function(x, pays, edge = 0.15, stake = NULL, lines = NULL, whole = FALSE, ...) {
  check_given()
  call <- rlang::current_env()
  check_no_more(call, ...)
  check_payable(x, call)
  check_between(edge, -1e6, 1)
  if (!is.null(stake)) check_between(stake, 0, 1e15)
  given <- given_pays(rlang::enquo(pays), x, call)
  if (is.null(lines)) return(new_price(new_payout(x, given, 1, call), edge, stake, call))
  now <- tryCatch(rlang::eval_tidy(rlang::enquo(pays)), error = function(cnd) NULL)
  if (!is.numeric(now) || is.null(names(now))) {
    refuse("`lines` are solved for where `pays` are named by the values of an outcome.", call = call)
  }
  stake <- if (is.null(stake)) 1 else stake
  weight <- if (is.null(x$n)) x$probability else x$n
  edge_of <- function(pays) {
    1 - pay_moments(paid_for(pays_by_value(pays, x, call), x$outcomes), weight)$mean / stake
  }
  line_prices(now, edge_of, check_lines(lines, names(now), call), edge, whole, in_words(x$provenance$experiment), call)
}

new_price <- function(payout, edge, stake, call) {
  mean <- payout$moments$mean
  if (mean <= 0) refuse("Nothing is ever paid here; no price has an edge below 1.", call = call)
  error <- payout$error$mean
  factor <- if (is.null(stake)) 1 else (1 - edge) * stake / mean
  solved <- if (is.null(stake)) mean / (1 - edge) else factor
  lines <- payout$lines[payout$lines$pays > 0, , drop = FALSE]
  structure(
    list(stake = if (is.null(stake)) solved else stake, factor = factor, edge = edge,
         pays = data.frame(line = lines$line, pays = lines$pays, would_pay = lines$pays * factor, row.names = NULL),
         std.error = solved * error / mean, words = payout$words, question = payout$question),
    made = call_made(), class = result_class("habanera_price")
  )
}

#' @rawNamespace S3method(generics::tidy, habanera_price)
tidy.habanera_price <- function(x, ...) {
  data.frame(term = c("stake", "factor"), estimate = c(x$stake, x$factor),
             std.error = if (x$factor == 1) c(x$std.error, 0) else c(0, x$std.error))
}

#' @export
as.data.frame.habanera_price <- function(x, row.names = NULL, optional = FALSE, ...) x$pays

#' @export
tell.habanera_price <- function(x, ...) {
  cat_wrapped("<price> ", x$question, "; ", x$words)
  cat(price_sentence(x), "\n", sep = "")
  shown <- data.frame(line = x$pays$line, pays = vapply(x$pays$pays, format_money, ""))
  if (x$factor != 1) shown$`would pay` <- vapply(x$pays$would_pay, format_money, "")
  print_rows(shown)
  invisible(x)
}

price_sentence <- function(x) {
  error <- if (isTRUE(x$std.error > 0)) sprintf(", with a standard error of %s", format_number(x$std.error, 2)) else ""
  keeps <- sprintf("the house keeps %s of every stake", format_percent(x$edge, 4))
  if (x$factor == 1) return(sprintf("At a stake of %s%s, %s.", format_money(x$stake), error, keeps))
  sprintf("At a stake of %s with all pays times %s%s, %s.", format_money(x$stake), format_number(x$factor, 5), error,
          keeps)
}

check_lines <- function(lines, known, call) {
  if (!is.character(lines) || !length(lines) || anyDuplicated(lines) || !all(lines %in% known)) {
    refuse(sprintf("`lines` must name lines, each once (%s), not %s%s", join_words(known), said(lines),
                   if (is.character(lines)) did_you_mean(setdiff(lines, known)[1], known) else "."), call = call)
  }
  lines
}

most_pay <- 1e6

# What lines must pay: `now` are all pays by name, `edge_of` gives the edge of other pays.
line_prices <- function(now, edge_of, lines, edge, whole, words, call) {
  check_flag(whole)
  others <- if (length(lines) > 3) pays_in_proportion(now, edge_of, lines, edge) else beside_pays(now, lines)
  rows <- priced_beside(others, now, edge_of, lines, edge, whole)
  if (is.null(rows)) {
    refuse(sprintf("No pay of %s up to %s has an edge of %s.", quoted(lines[length(lines)]), format_count(most_pay),
                   format_percent(edge, 4)), call = call)
  }
  rows$off <- rows$edge - edge
  rows <- utils::head(rows[order(abs(rows$off)), , drop = FALSE], 12)
  structure(rows, row.names = seq_len(nrow(rows)),
            made = call_made(), class = table_class("habanera_line_prices"), wanted = edge,
            lines = lines, now = now[lines], edge_now = edge_of(now), words = words)
}

# The last line solved for, the others at what a row says; NULL: there is no such pay.
priced_beside <- function(others, now, edge_of, lines, edge, whole) {
  last <- lines[length(lines)]
  with_pay <- function(pays, pay) edge_of(replace(pays, last, pay))
  rows <- lapply(seq_len(nrow(others)), function(row) {
    pays <- replace(now, names(others), unlist(others[row, ]))
    solved <- solved_pay(function(pay) with_pay(pays, pay) - edge, pays[[last]])
    if (is.na(solved)) return(NULL)
    near <- unique(pmax(0, if (length(lines) > 1) floor(solved) + 0:1 else floor(solved) + -2:3))
    if (!whole && length(lines) == 1) near <- c(solved, setdiff(near, solved))
    tried <- data.frame(lapply(pays[lines], rep, length(near)), check.names = FALSE)
    tried[[last]] <- near
    tried$edge <- vapply(near, function(pay) with_pay(pays, pay), 0)
    tried
  })
  do.call(rbind, rows)
}

# Whole pays near what the lines before the last pay now, a row for each combination.
beside_pays <- function(now, lines) {
  others <- lines[-length(lines)]
  if (!length(others)) return(data.frame(none = 0)[, character(), drop = FALSE])
  near <- lapply(rlang::set_names(others), function(line) {
    unique(pmax(0, round(now[[line]]) + if (length(others) == 1) -4:4 else -2:2))
  })
  expand.grid(near)
}

# The lines before the last times the factor that meets the edge: of the first four the whole numbers below and above,
# of the others the nearest.
pays_in_proportion <- function(now, edge_of, lines, edge) {
  factor <- solved_pay(function(factor) edge_of(replace(now, lines, factor * now[lines])) - edge, 1)
  scaled <- now[lines[-length(lines)]] * if (is.na(factor)) 1 else factor
  expand.grid(Map(function(pay, at) unique(if (at <= 4) c(floor(pay), ceiling(pay)) else round(pay)), scaled,
                  seq_along(scaled)))
}

# The pay, to a thousandth, at which a function that falls is nothing; NA: none.
solved_pay <- function(over, now) {
  over_whole <- function(pay) over(round(pay, 3))
  high <- max(1, 2 * now)
  while (over_whole(high) > 0 && high < most_pay) high <- min(most_pay, 4 * high)
  ends <- c(over_whole(0), over_whole(high))
  if (ends[1] < 0 || ends[2] > 0) return(NA_real_)
  if (ends[1] == ends[2]) return(round(now, 3))
  round(stats::uniroot(over_whole, c(0, high), f.lower = ends[1], f.upper = ends[2], tol = 1e-4)$root, 3)
}

#' @export
tell.habanera_line_prices <- function(x, ...) {
  lines <- attr(x, "lines")
  pays <- function(values) join_words(sprintf("%s for %s", vapply(values, format_money, ""), lines))
  percent <- function(share) sprintf("%.3f%%", 100 * share)
  cat_wrapped(sprintf("<prices> The house keeps %s with %s; now it keeps %s with %s.", percent(x$edge[1]),
                      pays(unlist(x[1, lines])), percent(attr(x, "edge_now")), pays(attr(x, "now"))))
  cat_wrapped(attr(x, "words"), ".")
  shown <- data.frame(lapply(rlang::set_names(lines), function(line) vapply(x[[line]], format_money, "")),
                      edge = percent(x$edge), off = sprintf("%+.3f%%", 100 * x$off), check.names = FALSE)
  print_rows(shown)
  invisible(x)
}
