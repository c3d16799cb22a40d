# Which mixture of the players of a round robin no other of them beats.

equilibrium_of_meeting <- function(met, call) {
  experiment <- met$provenance$experiment
  if (ncol(experiment$line_ups) != 2) {
    refuse(sprintf("A mixture that nobody beats is found of round robins at games of two seats, not %s.",
                   format_count(ncol(experiment$line_ups))), "rules", call)
  }
  if (!requireNamespace("lpSolve", quietly = TRUE)) {
    refuse("This needs the package lpSolve: install.packages(\"lpSolve\").", "input", call)
  }
  names <- names(experiment$players)
  leads <- meeting_leads(met)
  shares <- unbeaten_shares(leads$mean)
  drawn <- drawn_leads(leads, met)
  redrawn <- if (!is.null(drawn)) vapply(drawn, unbeaten_shares, numeric(length(names)))
  ends <- function(prob) if (is.null(drawn)) NA_real_ else apply(redrawn, 1, stats::quantile, prob, names = FALSE)
  rows <- data.frame(player = names, share = shares, conf.low = ends(0.025), conf.high = ends(0.975),
                     lead = as.vector(leads$mean %*% shares))
  structure(rows, made = call_made(), class = table_class("habanera_unbeaten"), beaten = beaten_by_all(met, names),
            deals = trial_count(met), game = experiment$game)
}

# The mean lead of each player over each other, seats exchanged, and the covariance of the means; NULL where deals are
# too few to tell it.
meeting_leads <- function(met) {
  experiment <- met$provenance$experiment
  columns <- total_columns(experiment)
  sums <- trial_sums(met[["sums"]], columns)
  deals <- trial_count(met)
  at <- score_places(experiment)
  players <- length(experiment$players)
  pairs <- utils::combn(players, 2)
  weights <- matrix(0, ncol(pairs), length(columns))
  for (i in seq_len(ncol(pairs))) {
    both <- which(rowSums(matrix(experiment$line_ups %in% pairs[, i], ncol = 2)) == 2)
    for (line_up in both) {
      sign <- ifelse(experiment$line_ups[line_up, ] == pairs[1, i], 1, -1)
      weights[i, at[line_up, ]] <- sign / length(both)
    }
  }
  weights <- weights / unit_of(experiment$game, experiment$game$record[1])
  means <- as.vector(weights %*% sums$sum) / deals
  spread <- if (deals >= fewest_clusters) {
    weights %*% (sums$product - tcrossprod(sums$sum) / deals) %*% t(weights) / deals / (deals - 1)
  }
  list(mean = lead_matrix(means, players), means = means, spread = spread, players = players)
}

lead_matrix <- function(means, players) {
  leads <- matrix(0, players, players)
  # As combn() has pairs: of the first player with all others, then of the second.
  leads[lower.tri(leads)] <- -means
  leads - t(leads)
}

# How often each is to be played so that no other gains: the largest least lead over any of them (von Neumann 1928; as a
# linear program Dantzig 1951). It is 0, since who plays the same mixture has as much.
unbeaten_shares <- function(leads) {
  size <- nrow(leads)
  # Above 0 all of it, so that the value has no sign.
  lift <- 1 - min(leads)
  found <- lpSolve::lp("min", rep(1, size), t(leads + lift), rep(">=", size), rep(1, size))
  stopifnot(found$status == 0)
  shares <- found$solution / sum(found$solution)
  ifelse(shares < 1e-12, 0, shares)
}

redraws <- 1000

# The leads drawn again from what the deals tell of them, by the run's own seed.
drawn_leads <- function(leads, met) {
  if (is.null(leads$spread) || anyNA(leads$spread)) return(NULL)
  parts <- eigen(leads$spread, symmetric = TRUE)
  root <- parts$vectors %*% diag(sqrt(pmax(0, parts$values)), length(parts$values))
  normals <- with_trial_generator(met$provenance$seed, 1, 0, matrix(stats::rnorm(length(leads$means) * redraws),
                                                                    ncol = redraws))
  lapply(seq_len(redraws), function(i) lead_matrix(leads$means + as.vector(root %*% normals[, i]), leads$players))
}

# Players who surely have less than each of the others.
beaten_by_all <- function(met, names) {
  pairs <- as.data.frame(met)
  surely <- !is.na(pairs$lead.high) & pairs$lead.high < 0
  names[vapply(names, function(name) all(surely[pairs$player == name]), NA)]
}

#' @rawNamespace S3method(generics::tidy, habanera_unbeaten)
tidy.habanera_unbeaten <- function(x, ...) {
  data.frame(term = x$player, estimate = x$share, conf.low = x[["conf.low"]], conf.high = x[["conf.high"]])
}

#' @export
tell.habanera_unbeaten <- function(x, ...) {
  played <- x[x$share > 0, , drop = FALSE]
  played <- played[order(-played$share), , drop = FALSE]
  sure <- ifelse(is.na(played[["conf.low"]]), "", {
    sprintf(" (95%%: %s to %s)", format_percent(played[["conf.low"]]), format_percent(played[["conf.high"]]))
  })
  cat_wrapped("<equilibrium> By these deals ", if (nrow(played) == 1) {
    sprintf("%s is beaten by none of the others: its share is 100%%%s.", played$player, sure)
  } else {
    sprintf("no other of them beats this mixture: %s.",
            join_words(sprintf("%s %s%s", played$player, format_percent(played$share), sure)))
  })
  beaten <- attr(x, "beaten")
  if (length(beaten)) {
    cat_wrapped(sprintf("%s surely %s to each of the others.", join_words(beaten), if (length(beaten) == 1) "loses" else
      "lose"))
  }
  cat_wrapped(sprintf("%s; %s, played in both seats%s.", game_in_words(attr(x, "game"), "players"),
                      count_of(attr(x, "deals"), "deal"),
                      if (anyNA(x[["conf.low"]])) ": too few to say how sure it is" else {
                        sprintf("; intervals are of %s", count_of(redraws, "redrawing"))
                      }))
  print_head(data.frame(player = x$player, share = format_percent(x$share),
                        `lead over the mixture` = sprintf("%+.4f", ifelse(abs(x$lead) < 5e-5, 0, x$lead)),
                        check.names = FALSE), 30)
  invisible(x)
}
