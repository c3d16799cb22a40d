# What the lines of a game must pay: price_for() of games.

#' @rdname price_for
#' @export
price_for.habanera_game <- function(x, edge = 0.05, lines = NULL, whole = NULL, bet = NULL, ...) {
  call <- rlang::current_env()
  check_no_more(call, ...)
  bets <- capability(x, "takes_bets", call)$bets(x$rules)
  check_between(edge, -1e6, 1)
  bet <- if (is.null(bet)) bets$term[1] else check_choice(bet, bets$term)
  by_lines <- able(x, "pays_by_lines")
  paid <- if (is.null(by_lines)) price_lines_of_rules(x, bet, call) else by_lines$lines(x, call)
  lines <- if (is.null(lines)) names(paid$now)[1] else check_lines(lines, names(paid$now), call)
  # A pay that is a ratio stays one.
  if (is.null(whole)) whole <- all(paid$now[lines] %% 1 == 0)
  line_prices(paid$now, paid$edge_of, lines, edge, whole, in_words(x), call)
}

# Rules that are numbers called `..._pays`, or what a game has of them: what they are `now`, and the edge of a bet by
# others.
price_lines_of_rules <- function(game, bet, call) {
  names <- grep("pays$", rule_names(kind_of(game)), value = TRUE)
  now <- unlist(Filter(function(value) is.numeric(value) && length(value) == 1, unclass(game$rules)[names]))
  if (!length(now)) refuse(sprintf("%s has no rule that is a pay.", kind_of(game)$title), call = call)
  main <- bets_of(game)$term[1]
  edge_of_main <- if (bet == main && is.null(game$given$players)) edge_finder(game, "total", call)
  list(now = now, edge_of = function(pays) {
    changed <- pays[pays != now]
    other <- if (length(changed)) change_game(without_cut(game), as.list(changed), call) else without_cut(game)
    if (!is.null(edge_of_main)) return(edge_of_main(other))
    found <- house_edge(other, nsim = 1)$bets
    row <- found[found$term == bet, ]
    if (row$how != "exact") refuse("The edge of this bet is simulated: no price can be solved for.", "work", call)
    row$estimate
  })
}
