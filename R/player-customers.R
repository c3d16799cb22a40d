#' Players at a table against the house
#'
#' Who plays [game_blackjack()], besides [strategy_table()].
#'
#' `player_basic()` plays a sound table for common rules (several packs, the dealer stands on all 17, doubling after a
#' split). `player_as_dealer()` plays as the dealer does. `player_never_busts()` stands on a hard total that a card
#' could bust, and plays soft ones as the dealer. `player_stands_on()` hits below a total. `player_regular()` is one of
#' the regulars of Lantern Hall, with the mistakes that people make: the baker stands on every 12 and never splits; the
#' ferryman doubles every 9 to 11, and splits every pair; the elder twin plays a sound table but fears sixteen, and
#' stands; the younger twin plays as the dealer, but splits aces and eights.
#'
#' `player_errs()` plays as another, but now and then makes any other move that is open; `player_insures()` plays as
#' another and takes insurance; `player_mixture()` is a seat in which customers come and go: for each trial one of them
#' sits down. [player_random()], [player_person()] and [player_with()] sit at this table, too: the function is told as
#' `view` a list of `seat`, `hand` (which of the hands on the table), `total`, `soft`, `pair`, `first` (the value of its
#' first card), `cards`, `up_card` (1 an ace), `hands` (of the seat), `totals` (of all hands) and `cards_gone`, and as
#' `moves` names: "hit", "stand", "double", "split", "surrender", "insure", "decline".
#'
#' @param total The lowest total to stand on.
#' @param name Of `player_regular()`: "baker", "ferryman", "elder twin" or "younger twin".
#' @param player A player.
#' @param how_often The chance at each decision of making another move.
#' @param when TRUE: always.
#' @param players Players, a list.
#' @param weights How often each sits down, one number for each, above 0.
#' @return A `habanera_player`.
#' @section Errors: `habanera_error_input` for settings out of range.
#' @seealso [strategy_table()], [game_blackjack()].
#' @examples
#' house_edge(game_blackjack(players = player_never_busts()), nsim = 1e5, seed = 1)
#' player_mixture(list(player_basic(), player_errs(player_basic(), 0.1)), c(1, 3))
#' @name customers
NULL

# A table built in: `cells` are the entries for the up cards 2 to 10 and A, a letter each.
basic_cells <- paste0(
  "h5=HHHHHHHHHH/h6=HHHHHHHHHH/h7=HHHHHHHHHH/h8=HHHHHHHHHH/h9=HDDDDHHHHH/h10=DDDDDDDDHH/h11=DDDDDDDDDH/",
  "h12=HHSSSHHHHH/h13=SSSSSHHHHH/h14=SSSSSHHHHH/h15=SSSSSHHHRH/h16=SSSSSHHRRR/h17=SSSSSSSSSS/h18=SSSSSSSSSS/",
  "h19=SSSSSSSSSS/h20=SSSSSSSSSS/h21=SSSSSSSSSS/s13=HHHDDHHHHH/s14=HHHDDHHHHH/s15=HHDDDHHHHH/s16=HHDDDHHHHH/",
  "s17=HDDDDHHHHH/s18=SddddSSHHH/s19=SSSSSSSSSS/s20=SSSSSSSSSS/s21=SSSSSSSSSS/p2=PPPPPPHHHH/p3=PPPPPPHHHH/",
  "p4=HHHPPHHHHH/p5=----------/p6=PPPPPHHHHH/p7=PPPPPPHHHH/p8=PPPPPPPPPP/p9=PPPPPSPPSS/p10=----------/pA=PPPPPPPPPP"
)

#' @rdname customers
#' @export
player_basic <- function() built_in_strategy("basic", cells_from_text(basic_cells, NULL))

# Known by its name, so that it stands in files by that, and gives way to rules that have no splits.
built_in_strategy <- function(kind, cells, settings = list()) {
  player <- new_strategy(cells, kind)
  player$name <- kind
  player$settings <- settings
  player$built_in <- TRUE
  player
}

#' @rdname customers
#' @export
player_as_dealer <- function() new_player("as_dealer")

#' @rdname customers
#' @export
player_never_busts <- function() new_player("never_busts")

#' @rdname customers
#' @export
player_stands_on <- function(total = 17) new_player("stands_on", total = as.double(check_whole(total, 2, 40)))

#' @rdname customers
#' @export
player_regular <- function(name = c("baker", "ferryman", "elder twin", "younger twin")) {
  name <- check_choice(name, c("baker", "ferryman", "elder twin", "younger twin"))
  cells <- cells_from_text(basic_cells, NULL)
  hard <- function(totals) paste("hard", totals)
  pairs <- startsWith(rownames(cells), "pair")
  if (name == "baker") {
    cells[hard(12:16), ] <- "S"
    cells <- cells[!pairs, ]
  }
  if (name == "ferryman") {
    cells[hard(9:11), ] <- "D/H"
    cells[pairs, ] <- "P"
  }
  if (name == "elder twin") cells[hard(16), ] <- "S"
  if (name == "younger twin") {
    cells[hard(5:21), ] <- rep(ifelse(5:21 < 17, "H", "S"), times = 10)
    cells[paste("soft", 13:21), ] <- rep(ifelse(13:21 < 17, "H", "S"), times = 10)
    cells <- cells[!pairs | rownames(cells) %in% c("pair A", "pair 8"), ]
  }
  player <- built_in_strategy("regular", cells, list(name = name))
  player$label <- paste("the", name)
  player
}

#' @rdname customers
#' @export
player_errs <- function(player, how_often = 0.05) {
  check_given()
  fits <- is.numeric(how_often) && length(how_often) == 1 && isTRUE(how_often >= 0 && how_often <= 1)
  if (!fits) refuse(sprintf("`how_often` must be a number from 0 to 1, not %s.", said(how_often)))
  new_player("errs", player = customer(player, "player"), how_often = as.double(how_often))
}

#' @rdname customers
#' @export
player_insures <- function(player = player_basic(), when = TRUE) {
  if (!isTRUE(when) && !identical(when, "TRUE")) refuse(sprintf("`when` must be TRUE, not %s.", said(when)))
  new_player("insures", player = customer(player, "player"))
}

#' @rdname customers
#' @export
player_mixture <- function(players, weights = 1) {
  check_given()
  call <- rlang::current_env()
  if (is.character(weights)) check_utf8(weights, call = call)
  if (rlang::is_string(weights)) weights <- written_numbers(strsplit(weights, "+", fixed = TRUE)[[1]])
  if (inherits(players, "habanera_player") || length(players) < 2) {
    refuse("`players` must be two players or more, as a list.", call = call)
  }
  players <- lapply(players, customer, "players", call)
  fits <- is.numeric(weights) && length(weights) && all(is.finite(weights) & weights > 0)
  if (!fits) {
    refuse(sprintf("`weights` must be numbers above 0, one for each player, not %s.", said(weights)), call = call)
  }
  weights <- rep_len(weights, length(players))
  new_player("mixture", players = new_players(players), weights = paste(format(weights, digits = 15, trim = TRUE),
                                                                       collapse = "+"))
}

# One who can sit at the table alone.
customer <- function(player, name, call = rlang::caller_env()) {
  known <- inherits(player, "habanera_player") && is.null(player$f) &&
    player$name %in% seated_by_rule
  if (known) return(player)
  refuse(sprintf("`%s` must be a player by rule (%s), not %s.", name, join_words(seated_by_rule, "or"),
                 if (inherits(player, "habanera_player")) quoted(format(player)) else said(player)), call = call)
}

blackjack_players <- c("basic", "strategy", "as_dealer", "never_busts", "stands_on", "regular", "errs", "insures",
                       "mixture", "random", "by_rules", "counting", "person")

# Those who can be a part of another.
seated_by_rule <- c(setdiff(blackjack_players, c("counting", "person")), "table", "calls_all")
