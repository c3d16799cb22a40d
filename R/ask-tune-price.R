# Where no rules meet an edge that is wished for, what a pay among those that were changed would have to be.

# In words, of the candidate that comes nearest; NULL where there is no such pay, or where edges were not worked out.
price_in_words <- function(tuning, nearest) {
  edge <- wished_edge(tuning$wishes)
  if (is.null(edge) || length(tuning$played) || length(tuning$line_ups) > 1) return(NULL)
  for (dimension in tuning$dimensions) {
    price <- tuning$subject$price(tuning$candidates[[nearest]], dimension$name, edge$middle)
    if (is.null(price)) next
    printed <- nearest_printable(price$pay)
    kept <- price$edge_of(printed)
    meets <- kept >= edge$low && kept <= edge$high
    return(sprintf("With its other rules %s %s would keep %s; the nearest that is printed is %s, which keeps %s%s.",
                   dimension$said, number_in_words(price$pay), format_percent(edge$middle, 3), fraction_text(printed),
                   signed_percent(kept), if (meets) " and meets the wish" else ""))
  }
  NULL
}

# Between which values the edge is wished to lie, and the middle; NULL where it is not bounded on both sides.
wished_edge <- function(wishes) {
  ends <- wished_ends(wishes)
  of <- ends[ends$name == "edge", , drop = FALSE]
  if (is.null(of) || !nrow(of)) return(NULL)
  ends <- c(max(of$low), min(of$high))
  known <- ends[is.finite(ends)]
  if (length(known)) list(low = ends[1], high = ends[2], middle = mean(known))
}

# A fraction with a denominator of up to 10 that lies nearest.
nearest_printable <- function(pay) {
  tried <- round(pay * 1:10) / 1:10
  tried[which.min(abs(tried - pay))]
}

fraction_text <- function(value) {
  denominator <- which(abs(value * 1:10 - round(value * 1:10)) < 1e-9)[1]
  if (denominator == 1) number_in_words(value) else sprintf("%s/%d", number_in_words(value * denominator), denominator)
}

# A pay of a game that brings the house this edge: its value, and the edge by others. NULL: there is none.
priced_rule <- function(game, name, edge, call) {
  by_lines <- able(game, "pays_by_lines")
  if (is.null(by_lines) && !grepl("pays$", name)) return(NULL)
  paid <- if (is.null(by_lines)) price_lines_of_rules(game, bets_of(game)$term[1], call) else by_lines$lines(game, call)
  if (!name %in% names(paid$now)) return(NULL)
  edge_of <- function(pay) paid$edge_of(replace(paid$now, name, pay))
  pay <- solved_pay(function(pay) edge_of(pay) - edge, paid$now[[name]])
  if (!is.na(pay)) list(pay = pay, edge_of = edge_of)
}
