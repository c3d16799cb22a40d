#' Is a game sound?
#'
#' Plays trials of a game and holds them against what any game must keep: it ends, repeats from its seed, loses and
#' makes no card, returns what it declares, shows a seat nothing that it may not see, and gives the results expected of
#' given decks.
#'
#' That nothing hidden is seen is tested by dealing anew, at every choice, the cards that the seat has not seen lie in
#' an open pile or in one of its own: what it is shown must stay the same. Where the game then comes to other choices,
#' that one says nothing and is left out. Of a game in C++ whose seats hide cards, a view must tell what its seat saw
#' and did before, or the file says that it does not (`view_forgets`): best play is found by what is seen.
#'
#' @param game A game, such as [game_custom()] makes.
#' @param nsim,seed How many trials are played, and their seed.
#' @param expecting A list of expected results: each a list of `deck` (cards as text, the top first; the others of the
#'   deck follow) and `outcome` (a list of outcomes by name); of a game with one deck, whose rounds are single.
#' @param seats_alike Whether all seats should win as often, with players who are alike: tested on the first outcome
#'   that is a seat, by chi-square, at one in a million.
#' @return A `habanera_check`, a data frame with a row per test: `test`, `passed`, `detail` (text), `trial` (one to be
#'   replayed where it failed, else `NA`). In tests of your own: `expect_true(all(check_game(game)$passed))`.
#' @section Errors: `habanera_error_input` for what is no game, and expected outcomes that it does not have.
#' @seealso [game_custom()]; in the shell `habanera check FILE`.
#' @examples
#' check_game(game_war(), nsim = 50)
#' @export
check_game <- function(game, nsim = 200, seed = 1, expecting = NULL, seats_alike = FALSE) {
  check_given()
  call <- rlang::current_env()
  checked_game(game, call = call)
  check_whole(nsim, 1, 1e6)
  check_seed(seed)
  check_flag(seats_alike)
  expected <- checked_expecting(game, expecting, call)
  played <- sound_plays(game, nsim, seed)
  rows <- list(played)
  if (played$passed) {
    rows <- c(rows, list(sound_repeats(game, nsim, seed), sound_conserves(game, min(nsim, 20), seed)),
              if (!is.null(able(game, "hides"))) list(sound_hides(game, min(nsim, 20), seed)),
              if (!is.null(able(game, "hides")$forgotten)) list(sound_recalls(game, nsim, seed)),
              if (seats_alike) list(sound_seats(game, nsim, seed)),
              lapply(seq_along(expected), function(i) sound_expected(game, expected[[i]], i, seed)))
  }
  structure(do.call(rbind, rows),
            made = call_made(), class = table_class("habanera_check"), game = game, nsim = nsim, seed = seed)
}

sound_row <- function(test, passed, detail = "", trial = NA_real_) {
  data.frame(test = test, passed = passed, detail = detail, trial = as.double(trial))
}

# That every trial ends and returns what is declared.
sound_plays <- function(game, nsim, seed) {
  for (trial in seq_len(nsim)) {
    failed <- tryCatch({
      trials(game, seed, trial)
      NULL
    }, habanera_error = function(cnd) rlang::cnd_message(cnd))
    if (!is.null(failed)) return(sound_row("every trial ends with its outcomes", FALSE, sub("\n.*", "", failed), trial))
  }
  sound_row("every trial ends with its outcomes", TRUE, count_of(nsim, "trial"))
}

sound_repeats <- function(game, nsim, seed) {
  numbers <- seq_len(nsim)
  once <- trials(game, seed, numbers)
  again <- trials(game, seed, rev(numbers))
  again <- again[order(again[["trial"]]), , drop = FALSE]
  same <- rowSums(as.matrix(format(once)) != as.matrix(format(again))) == 0
  sound_row("a trial repeats from its seed", all(same), if (all(same)) "" else
    "the same trial gave another outcome; luck must go through the table", c(once[["trial"]][!same], NA)[1])
}

sound_conserves <- function(game, nsim, seed) {
  for (trial in seq_len(nsim)) {
    trace <- replay(game, seed, trial)
    sizes <- rowSums(as.data.frame(trace)[zone_columns(game)])
    if (any(sizes != sizes[1])) {
      return(sound_row("no card is lost or made", FALSE, sprintf("at step %d", which(sizes != sizes[1])[1]), trial))
    }
  }
  sound_row("no card is lost or made", TRUE, sprintf("every step of %s", count_of(nsim, "trial")))
}

sound_hides <- function(game, nsim, seed) {
  found <- able(game, "hides")$leak(game, nsim, seed)
  test <- "no seat is shown what is hidden"
  if (is.null(found$trial)) {
    return(sound_row(test, TRUE, sprintf("%s of %s", count_of(found$asked, "choice"), count_of(nsim, "trial"))))
  }
  sound_row(test, FALSE, sprintf("at choice %d of seat %s", found$choice, found$seat), found$trial)
}

sound_recalls <- function(game, nsim, seed) {
  found <- able(game, "hides")$forgotten(game, nsim, seed)
  test <- "a view tells what its seat saw and did before"
  if (is.null(found$trial)) return(sound_row(test, TRUE, count_of(found$views, "view")))
  sound_row(test, FALSE, sprintf("not where seat %s; say so by view_forgets = true", found$sees), found$trial)
}

sound_seats <- function(game, nsim, seed) {
  column <- game$words$seats[1]
  if (is.na(column)) refuse("`seats_alike` needs an outcome that is a seat.", call = NULL)
  won <- trials(recording(game, column), seed, seq_len(nsim))[[column]]
  n <- table(factor(won, game$seat_names))
  p <- if (sum(n) > 0) stats::pchisq(sum((n - mean(n))^2 / mean(n)), length(n) - 1, lower.tail = FALSE) else 1
  sound_row("seats win as often", p > 1e-6, sprintf("%s of %s", join_words(format_count(as.vector(n))),
                                                    count_of(nsim, "trial")))
}

checked_expecting <- function(game, expecting, call) {
  if (is.null(expecting)) return(list())
  if (!is.list(expecting)) refuse(sprintf("`expecting` must be a list, not %s.", said(expecting)), call = call)
  if (!is.null(expecting$deck)) expecting <- list(expecting)
  if (holds_rounds(game) || length(able(game, "in_r")$decks) > 1) {
    refuse("`expecting` is of games with one deck and of single rounds.", call = call)
  }
  for (each in expecting) {
    fits <- is.list(each) && all(c("deck", "outcome") %in% names(each)) && is.list(each$outcome)
    if (!fits) refuse("Each of `expecting` must be a list of `deck` and `outcome`, a list by name.", call = call)
    unknown <- setdiff(names(each$outcome), names(game$columns))
    if (length(unknown)) {
      refuse(sprintf("`expecting` names the outcome `%s`%s", unknown[1],
                     did_you_mean(unknown[1], names(game$columns))), call = call)
    }
  }
  lapply(expecting, function(each) {
    top <- named_cards(each$deck, game$deck, "deck", call)
    list(deck = c(top, without_codes(game$deck, codes_of(top))), outcome = each$outcome)
  })
}

sound_expected <- function(game, expected, number, seed) {
  test <- sprintf("expected result %d", number)
  kinds <- match(codes_of(expected$deck), kinds_of(game$deck)$codes)
  found <- tryCatch(plays_of(game)$outcome(game, kinds, names(expected$outcome), seed),
                    habanera_error = function(cnd) rlang::cnd_message(cnd))
  if (is.character(found)) return(sound_row(test, FALSE, sub("\n.*", "", found)))
  for (name in names(expected$outcome)) {
    wanted <- expected$outcome[[name]]
    if (is.logical(wanted)) wanted <- if (wanted) "yes" else "no"
    if (!isTRUE(all.equal(as.character(wanted), as.character(found[[name]])))) {
      return(sound_row(test, FALSE, sprintf("`%s` is %s, not %s", name, said(found[[name]]), said(wanted))))
    }
  }
  sound_row(test, TRUE)
}

#' @export
tell.habanera_check <- function(x, ...) {
  game <- attr(x, "game")
  if (is.null(game)) return(NextMethod())
  failed <- sum(!x$passed)
  cat_wrapped(sprintf("<check> %s: %s.", kind_of(game)$title, if (failed) {
    sprintf("%s of %s failed", format_count(failed), count_of(nrow(x), "test"))
  } else sprintf("all %s passed", count_of(nrow(x), "test"))))
  cat_wrapped(in_words(game), "; seed ", whole_code(attr(x, "seed")), ".")
  for (i in seq_len(nrow(x))) {
    again <- if (!is.na(x$trial[i])) sprintf(" - replay(game, %s, %s)", whole_code(attr(x, "seed")),
                                             format_count(x$trial[i]))
    cat_wrapped(sprintf("%s %s%s%s", if (x$passed[i]) "passed" else "FAILED", x$test[i],
                        if (nzchar(x$detail[i])) paste0(": ", x$detail[i]) else "", if (is.null(again)) "" else again))
  }
  invisible(x)
}
