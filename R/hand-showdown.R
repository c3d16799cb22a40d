#' Showdowns
#'
#' Hands against each other, with what is known of them and of a shared board: how often does each seat win, and what is
#' its share of the pot? Every way to deal the unknown cards is played where that is in reach, else trials.
#'
#' @param seats A list with an entry for each of 2 to 10 seats, by name if it has names: cards, or their text, with some
#'   or all of the seat's own cards; `NULL` or `""` where nothing is known; or several hands that a seat may have:
#'   texts, or weights named by the hands, as `c("AS AD" = 2, "KS KD" = 1)`. A text may also tell a class of hands, such
#'   as `"pair of Q or better"`: see [hand_classes].
#' @param board The cards of the board that lie open, or their text.
#' @param deck,rules The deck, and [hand_rules()].
#' @param own_cards "any", or exactly how many of a seat's own cards count.
#' @param board_size,size How many cards board and seats have in the end; `size = NULL`: as many as the seat
#'   of which most is known, else 2.
#' @param nsim `NULL`: exactly where there are up to 1e9 boards, else a million trials; or a number of trials.
#' @param seed,threads,progress As in [simulate()][simulate.habanera_experiment]. Interrupting keeps the trials played
#'   by then, with a warning, where each seat has one hand.
#' @return A `habanera_showdown`, a data frame with a row for each seat: `seat`, `hand` (text), `win`, `tie`, `lose`
#'   (boards or trials, by their weights), `equity` (the seat's mean share of the pot), `std.error` (0 where exact).
#'   `attr(x, "streets")` has the equity by seat when fewer cards of the board lay open, where that can be had exactly.
#' @section Errors: `habanera_error_input` for a board too long and for more seats than there are cards;
#'   `habanera_error_conservation` for cards held twice.
#' @examples
#' showdown(list("AS KS", "QH QD"))
#' showdown(list(north = "AS KS", south = c("QH QD" = 1, "7C 2D" = 3)), board = "QC 9S 2S")
#' @export
showdown <- function(seats, board = NULL, deck = deck_standard(), rules = hand_rules(), own_cards = "any",
                     board_size = 5, size = NULL, nsim = NULL, seed = NULL, threads = NULL,
                     progress = NULL) {
  check_given()
  call <- rlang::current_env()
  check_deck(deck, call)
  rules <- check_hand_rules(rules, call)
  if (!is.list(seats)) seats <- as.list(seats)
  if (!length(seats) %in% 2:10) {
    refuse(sprintf("A showdown has 2 to 10 seats, not %s.", format_count(length(seats))), call = call)
  }
  laid <- showdown_table(seats, board, deck, rules, own_cards, board_size, size, call)
  if (!is.null(nsim)) check_whole(nsim, 1, 1e9)
  seed <- resolve_seed(seed, call)
  threads <- resolve_threads(threads, call)
  bar <- local_progress("Playing showdowns", progress)
  found <- play_showdown(laid, laid$board, rules, nsim, seed, threads, call)
  streets <- lapply(Filter(function(open) open < length(laid$board), c(0, 3, 4)), function(open) {
    at <- play_showdown(laid, laid$board[seq_len(open)], rules, NULL, seed, threads, call, only_exact = TRUE)
    if (!is.null(at)) data.frame(open = open, seat = at$seats$seat, equity = at$seats$equity)
  })
  now <- data.frame(open = length(laid$board), seat = found$seats$seat, equity = found$seats$equity)
  structure(found$seats,
            made = call_made(by_luck = !found$exact), class = table_class("habanera_showdown"),
            streets = do.call(rbind, c(streets, list(now))),
            board = paste(catalogue_of(deck)$data$card[laid$board], collapse = " "), exact = found$exact,
            boards = found$boards, part = found$part, seed = if (!found$exact) seed)
}

# What is laid on the table, as codes: of each seat the hands it may have with their weights.
showdown_table <- function(seats, board, deck, rules, own_cards, board_size, size, call) {
  names <- rlang::names2(seats)
  names <- ifelse(nzchar(names), names, as.character(seq_along(seats)))
  if (anyDuplicated(names)) {
    refuse(sprintf("Two seats are called %s.", quoted(names[duplicated(names)][1])), call = call)
  }
  read <- hand_reader(deck, rules, if (is.null(size)) 2 else size, "seats", call)
  hands <- lapply(lapply(unname(seats), seat_hands, read, call), with_codes_as_text, catalogue_of(deck))
  if (is.null(size)) size <- max(2, unlist(lapply(hands, function(seat) lengths(seat$hands))))
  check_whole(size, 1, 8, call = call)
  check_whole(board_size, 0, 8, call = call)
  board <- if (is.null(board)) integer() else codes_of(named_cards(board, deck, "board", call))
  if (length(board) > board_size) {
    refuse(sprintf("The board has %s; it ends with %s.", count_of(length(board), "card"), format_count(board_size)),
           call = call)
  }
  if (size + board_size > 9) {
    refuse(sprintf("A seat's %s and the board's %s are more than 9 cards.", format_count(size),
                   format_count(board_size)), call = call)
  }
  if (length(seats) * size + board_size > length(deck)) {
    refuse(sprintf("%s with %s each and a board of %s need more than the deck's %s.", count_of(length(seats), "seat"),
                   format_count(size), format_count(board_size), count_of(length(deck), "card")), call = call)
  }
  long <- which(vapply(hands, function(seat) any(lengths(seat$hands) > size), NA))
  if (length(long)) {
    refuse(sprintf("Seat %s has more than %s.", names[long[1]], count_of(size, "card")), call = call)
  }
  own <- if (identical(own_cards, "any")) 0 else check_whole(own_cards, 1, size, call = call)
  list(names = names, hands = hands, board = board, deck = deck, size = size, board_size = board_size,
       own = own)
}

# One hand is told by its codes, however it was written.
with_codes_as_text <- function(seat, catalogue) {
  if (length(seat$hands) == 1 && length(seat$hands[[1]])) {
    seat$text <- paste(catalogue$data$card[seat$hands[[1]]], collapse = " ")
  }
  seat
}

# The hands that a seat may have, with their weights; `read` gives those that a text stands for.
seat_hands <- function(seat, read, call) {
  if (is.null(seat) || (is.character(seat) && length(seat) == 1 && !nzchar(trimws(seat)))) {
    return(list(hands = list(integer()), weights = 1, text = "unknown"))
  }
  if (is.character(seat) && !length(seat)) {
    refuse("A seat has no hand at all; say \"\" where nothing is known of it.", call = call)
  }
  weighted <- is.numeric(seat) && !is_cards(seat) && !is.null(names(seat))
  if (weighted && !all(is.finite(seat) & seat > 0)) {
    refuse(sprintf("A seat's hands have weights above 0, not %s.", said(unname(seat))), call = call)
  }
  if (!weighted && !is.character(seat)) {
    return(list(hands = read(seat), weights = 1, text = paste(seat, collapse = " ")))
  }
  told <- if (weighted) names(seat) else seat
  hands <- lapply(told, read)
  weights <- rep(if (weighted) as.double(seat) else rep(1, length(seat)), times = lengths(hands))
  hands <- unlist(hands, recursive = FALSE)
  text <- if (length(told) == 1 && !weighted) told else sprintf("one of %s", count_of(length(hands), "hand"))
  list(hands = hands, weights = weights, text = text)
}

most_showdown_boards <- 1e9
most_showdown_deals <- 1e5

# NULL where only an exact answer is wanted, and out of reach.
play_showdown <- function(laid, board, rules, nsim, seed, threads, call, only_exact = FALSE) {
  deals <- showdown_deals(laid, board, call)
  bound <- bound_hand_rules(rules, catalogue_of(laid$deck), codes_of(laid$deck), call)
  refuse_rankless(bound, list(codes = codes_of(laid$deck), catalogue = catalogue_of(laid$deck)), call)
  boards <- sum(vapply(deals$specs, boards_to_deal, 0))
  exact <- is.null(nsim) && boards <= most_showdown_boards
  if (only_exact && (!exact || boards > most_showdown_boards / 10)) return(NULL)
  if (!exact && is.null(nsim)) nsim <- 1e6
  share <- deals$weights / sum(deals$weights)
  trials <- if (exact) numeric() else pmax(1, round(nsim * share))
  singles <- !any(bound$wild[codes_of(laid$deck)]) && anyDuplicated(codes_of(laid$deck)) == 0
  reader <- core_strength_reader(core_hand_rules(bound), laid$size + laid$board_size, singles)
  play <- function(specs, trials, first) core_showdowns(reader, specs, trials, seed, first, threads)
  played <- if (length(trials) == 1) list(showdown_in_laps(deals$specs, trials, play)) else play(deals$specs, trials, 1)
  list(seats = showdown_rows(laid, played, if (exact) deals$weights else share, exact), exact = exact,
       boards = sum(vapply(played, `[[`, 0, "boards")), part = attr(played[[1]], "part"))
}

# The trials of one deal, lap by lap, so that what was played is there when it is interrupted.
showdown_in_laps <- function(spec, trials, play) {
  all <- NULL
  tryCatch(each_lap(trials, function(done, count) {
    more <- play(spec, count, done + 1)[[1]]
    all <<- if (is.null(all)) more else Map(`+`, all, more)
  }), interrupt = function(cnd) NULL)
  if (is.null(all)) rlang::interrupt()
  if (all$boards == trials) return(all)
  warn_interrupted(all$boards, trials)
  structure(all, part = sprintf("%s of %s", format_count(all$boards), count_of(trials, "trial")))
}

# Every combination of the hands that seats may have, without those that hold a card more often than the deck.
showdown_deals <- function(laid, board, call) {
  sizes <- vapply(laid$hands, function(seat) length(seat$hands), 0)
  if (prod(sizes) > most_showdown_deals) {
    refuse(sprintf("The hands that seats may have make %s combinations; at most %s are played.",
                   format_count(prod(sizes)), format_count(most_showdown_deals)), "work", call)
  }
  places <- as.matrix(expand.grid(lapply(sizes, seq_len)))
  kinds <- nrow(catalogue_of(laid$deck)$data)
  copies <- tabulate(codes_of(laid$deck), kinds)
  deals <- lapply(seq_len(nrow(places)), function(i) {
    hands <- Map(function(seat, place) seat$hands[[place]], laid$hands, places[i, ])
    known <- c(unlist(hands), board)
    if (any(tabulate(known, kinds) > copies)) return(NULL)
    list(seats = unname(hands), unknown = laid$size - lengths(hands), board = board,
         board_unknown = laid$board_size - length(board), rest = codes_of(without_codes(laid$deck, known)),
         own_cards = laid$own)
  })
  possible <- !vapply(deals, is.null, NA)
  if (!any(possible)) refuse("Seats and board hold a card more often than the deck.", "conservation", call)
  weights <- apply(places, 1, function(at) prod(mapply(function(seat, place) seat$weights[place], laid$hands, at)))
  list(specs = deals[possible], weights = weights[possible])
}

boards_to_deal <- function(spec) {
  left <- length(spec$rest) - c(0, cumsum(spec$unknown))
  prod(choose(utils::head(left, -1), spec$unknown)) * choose(utils::tail(left, 1), spec$board_unknown)
}

showdown_rows <- function(laid, played, weights, exact) {
  boards <- vapply(played, `[[`, 0, "boards")
  summed <- function(part, weight) Reduce(`+`, Map(function(one, w) one[[part]] * w, played, weight))
  # A deal counts as it weighs, however many boards it has; where all have as many, each board counts as it weighs.
  weight <- weights / boards * if (exact) max(boards) else sum(boards)
  all <- sum(boards * weight)
  equity <- summed("share", weight) / 2520 / all
  errors <- if (exact) 0 else {
    variance <- Reduce(`+`, Map(function(one, w) {
      mean <- one$share / one$boards
      w^2 * (one$squares / one$boards - mean^2) / one$boards
    }, played, weights))
    sqrt(pmax(0, variance)) / 2520
  }
  data.frame(seat = laid$names, hand = vapply(laid$hands, `[[`, "", "text"), win = summed("win", weight),
             tie = summed("tie", weight), lose = summed("lose", weight), equity = equity, std.error = errors)
}

played_in_words <- function(x) {
  if (is.null(attr(x, "part"))) count_of(attr(x, "boards"), "trial") else paste("interrupted,", attr(x, "part"))
}

# A seat by its number, or by the name that it was given.
seat_in_words <- function(seat) if (grepl("^[0-9]+$", seat)) paste("Seat", seat) else sentence(seat)

#' @export
tell.habanera_showdown <- function(x, ...) {
  board <- attr(x, "board")
  cat_wrapped(sprintf("<showdown> board: %s; %s", if (nzchar(board)) board else "none yet",
                      if (attr(x, "exact")) sprintf("all %s boards", format_count(attr(x, "boards"))) else
                        sprintf("%s, seed %s", played_in_words(x), whole_code(attr(x, "seed")))))
  best <- which.max(x$equity)
  error <- if (attr(x, "exact")) ", exactly" else {
    half <- stats::qnorm(0.975) * x$std.error[best]
    sprintf(" (95%%: %s to %s)", format_percent(x$equity[best] - half, 4), format_percent(x$equity[best] + half, 4))
  }
  cat_wrapped(sprintf("%s (%s) has most of the pot: %s%s.", seat_in_words(x$seat[best]), x$hand[best],
                      format_percent(x$equity[best], 4), error))
  all <- x$win + x$tie + x$lose
  shown <- data.frame(seat = x$seat, hand = x$hand, equity = format_percent(x$equity, 4),
                      wins = format_percent(x$win / all, 4), ties = format_percent(x$tie / all, 4),
                      loses = format_percent(x$lose / all, 4))
  print_rows(shown)
  invisible(x)
}
