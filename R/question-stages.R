#' Stages of a draw
#'
#' What is done with a hand after it is drawn. Stages chain with the pipe: redraws first, then exchanges, then
#' cards by turn.
#'
#' `redraw_if()` (a mulligan): a hand that meets the condition goes back, all is shuffled again, and `size` new
#' cards come, of which `put_back` go under the deck: the last drawn, or first those for which `under` holds.
#' Held cards stay. The condition is asked of every hand as it then stands, up to `times` times.
#'
#' `draw_more()`: after the hand, `times` turns bring `size` cards each. Outcomes get a column `turn`, from 0
#' (the hand) to `times`; each row is about all cards so far. `every_turn(condition)` and
#' `any_turn(condition)` look back over the turns.
#'
#' `exchange_cards()`: cards that are not kept are laid aside, all at once, and replaced from the top.
#'
#' @param x A question: [draws()] with named expressions.
#' @param condition A condition on the hand in the [question_language], or on outcome columns by name.
#' @param size Number of new cards; for `redraw_if()` `NULL` (as many as at first), or one number for each time.
#' @param times How often at most (`redraw_if()`); number of turns, or of exchanges.
#' @param put_back Number of cards that go under, or one number for each time.
#' @param under `NULL`, or a condition on a card's attributes: such cards go under first.
#' @return The question with the stage added.
#' @section Errors: `habanera_error_input` for stages in another order and for more cards than the deck has;
#'   `habanera_error_language` for a condition that cannot be understood.
#' @examples
#' built <- deck_from(demo_file("windfall.yaml"))
#' draws(built, 6, trees = count(kind == "tree")) |>
#'   redraw_if(trees < 2 | trees > 5, times = 2, put_back = 1:2) |>
#'   draw_more(times = 4) |>
#'   exact()
#' @export
redraw_if <- function(x, condition, size = NULL, times = 1, put_back = 0, under = NULL) {
  check_given()
  call <- rlang::current_env()
  condition <- rlang::enquo(condition)
  under <- rlang::enquo(under)
  check_question(x, call)
  refuse_after(x, "redraw_if()", c("exchange", "turns"), call)
  if (has_function(x$shuffle)) refuse("A shuffle that is an R function cannot be made again in a trial: no redraws.")
  check_whole(times, 1, 1000)
  if (!is.null(size) && !is.numeric(size)) refuse(sprintf("`size` must be numbers of cards, not %s.", said(size)))
  sizes <- check_each_time(if (is.null(size)) x$size else size - length(x$held), times, "size", call)
  put_back <- check_each_time(put_back, times, "put_back", call)
  if (any(put_back > sizes)) refuse("`put_back` must be at most the number of cards drawn.")
  catalogue <- catalogue_of(x$deck)
  stage <- list(
    stage = "redraw", sizes = sizes, put_back = put_back,
    condition = checked_outcome(rlang::quo_get_expr(condition), catalogue, x$columns, rlang::quo_get_env(condition),
                                call, FALSE),
    under = checked_under(under, catalogue, call)
  )
  with_stage(x, stage, call)
}

checked_under <- function(under, catalogue, call) {
  if (rlang::quo_is_null(under)) return(NULL)
  checked_attributes(rlang::quo_get_expr(under), catalogue, rlang::quo_get_env(under), call)
}

check_each_time <- function(x, times, name, call) {
  fits <- is.numeric(x) && length(x) %in% c(1, times) && all(is.finite(x) & x >= 0 & x == floor(x))
  if (fits) return(rep_len(as.double(x), times))
  refuse(sprintf("`%s` must be a whole number of 0 or more, or one for each of the %s, not %s.", name,
                 count_of(times, "time"), said(x)), call = call)
}

#' @rdname redraw_if
#' @export
draw_more <- function(x, size = 1, times) {
  check_given()
  call <- rlang::current_env()
  check_question(x, call)
  refuse_after(x, "draw_more()", "turns", call)
  x$turn_size <- check_whole(size, 0, most_cards)
  x$turns <- check_whole(times, 1, 1000)
  made_question(x, call)
}

#' @rdname redraw_if
#' @param keep What is kept: [keep_groups()], [keep_suit()], [keep_run()], [keep_where()], a list of such, of
#'   which the first that keeps a card decides; or an R function that is given the hand and returns the
#'   cards it keeps, or `TRUE` and `FALSE` for each.
#' @export
exchange_cards <- function(x, keep, times = 1) {
  check_given()
  call <- rlang::current_env()
  check_question(x, call)
  refuse_after(x, "exchange_cards()", "turns", call)
  check_whole(times, 1, 1000)
  if (is.function(keep) && length(x$stages)) {
    refuse("An R function must be the only stage before turns: give redraws and exchanges in words instead.")
  }
  if (!is.function(keep) && any(vapply(x$stages, function(stage) !is.null(stage$f), TRUE))) {
    refuse("An R function must be the only exchange.")
  }
  with_stage(x, list(stage = "exchange", times = times, ways = if (!is.function(keep)) checked_ways(keep, x, call),
                     f = if (is.function(keep)) keep, code = if (is.function(keep)) deparse(keep)), call)
}

check_question <- function(x, call) {
  if (inherits(x, "habanera_question")) return(x)
  refuse(sprintf("`x` must be a question, such as draws(deck, 5, aces = count(rank == \"A\")), not %s.", said(x)),
         call = call)
}

refuse_after <- function(x, what, later, call) {
  there <- c(vapply(x$stages, `[[`, "", "stage"), if (x$turns > 0) "turns")
  if (!any(there %in% later)) return(invisible())
  refuse(sprintf("%s comes too late: the order is redraw_if(), exchange_cards(), and once draw_more().", what),
         call = call)
}

with_stage <- function(x, stage, call) {
  x$stages <- c(x$stages, list(stage))
  made_question(x, call)
}
