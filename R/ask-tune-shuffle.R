# What tune_rules() tunes of a shuffle: which procedure, how often, on how many cards, so that it mixes. See mixing().

#' @export
tuning_subject.habanera_procedure <- function(x, run, call) {
  check_procedures(x, call)
  now <- new_mixed(x, 1, 52)
  list(
    x = now, words = function(changed) if ("procedure" %in% changed) "Shuffles by hand" else sentence(format(x)),
    names = mixed_names, rules = c("procedure", "times", "cards"), rules_of = function(candidate) unclass(candidate),
    dimensions = function(over) mixed_dimensions(now, over, call),
    change = function(changes) do.call(new_mixed, replaced_by_name(unclass(now), changes)),
    present = function(name) if (name == "procedure") format(x) else now[[name]],
    line_ups = function(line_ups, over) refuse_line_ups(line_ups, call),
    known = function(tuning, names) known_of_mixed(tuning, names), price = function(...) NULL,
    parts_of = function(name) 1, is_share = function(name) name == "distance",
    check_played = function(names) invisible(), allowed_unended = function(wishes) 0,
    to_play = function(candidate, players, names) candidate, bounds = mixed_bounds
  )
}

# Those of mixing().
mixed_names <- c("distance", "gain", "seconds")

# A procedure done so many times on so many cards.
new_mixed <- function(procedure, times, cards) {
  structure(list(procedure = procedure, times = times, cards = cards), class = "habanera_mixed")
}

#' @export
as_plain.habanera_mixed <- function(experiment) {
  list(kind = "mixed", procedure = format(experiment$procedure), times = experiment$times, cards = experiment$cards)
}

mixed_dimensions <- function(now, over, call) {
  names <- checked_over(over, call)
  Map(function(name, values) {
    if (!name %in% c("procedure", "times", "cards")) {
      refuse(sprintf("`over` may name procedure, times and cards here; %s is none of them%s", quoted(name),
                     did_you_mean(name, c("procedure", "times", "cards"))), "rules", call)
    }
    if (name == "procedure") {
      if (inherits(values, "habanera_procedure")) values <- list(values)
      tried <- check_procedures(values, call)
      same <- vapply(tried, function(one) identical(format(one), format(now$procedure)), NA)
      return(new_dimension(name, unname(tried), names(tried), which(same)[1], said = ""))
    }
    values <- unlist(tried_values(values, name, call))
    ends <- if (name == "times") c(0, 1e4) else c(2, most_audited_cards)
    fits <- is.numeric(values) && !anyNA(values) && all(values >= ends[1] & values <= ends[2]) &&
      all(values == floor(values)) && !anyDuplicated(values)
    if (!fits) {
      refuse(sprintf("`%s` must be whole numbers from %s to %s to try, once each, not %s.", name, format_count(ends[1]),
                     format_count(ends[2]), said(values)), "rules", call)
    }
    new_dimension(name, as.list(values), values, match(now[[name]], values))
  }, names, over, USE.NAMES = FALSE)
}

repeated_mixed <- function(mixed) if (mixed$times == 0) shuffle_none() else rep(mixed$procedure, mixed$times)

distance_of_mixed <- function(mixed) {
  known_distance(mixed$procedure, repeated_mixed(mixed), mixed$times, mixed$cards)
}

# How long it takes, and distances where all have a closed form.
known_of_mixed <- function(tuning, names) {
  own <- unique(sub("^now\\((.*)\\)$", "\\1", names))
  all <- c(list(tuning$subject$x), tuning$candidates)
  found <- list()
  if ("seconds" %in% own) found$seconds <- vapply(all, function(one) one$times * seconds_by_hand(one$procedure), 0)
  if ("distance" %in% own) {
    distances <- lapply(all, distance_of_mixed)
    if (!any(vapply(distances, is.null, NA))) found$distance <- unlist(distances)
  }
  present <- lapply(found, function(values) rep(values[1], length(values) - 1))
  known <- c(lapply(found, `[`, -1), rlang::set_names(present, now_name(names(present))))
  known[intersect(names, names(known))]
}

# Trials from `first` on, half of which teach the guesser.
count_mixed <- function(mixed, first, trials, run) {
  spec <- audit_plan(deck_numbered(mixed$cards), 0.05, alike = character(), call = NULL)$spec
  spec$top <- 0
  shuffle <- repeated_mixed(mixed)
  halves <- count_in_halves(spec, trials, 1, function(spec, from, count) {
    counts <- simulate(new_battery(shuffle, spec, 1), count, run$seed, first_trial = first - 1 + from,
                       threads = run$threads, progress = FALSE)
    battery_parts(counts$provenance$experiment$parts, counts$n, counts$example_trial, count)
  })
  refuse_broken(halves, mixed$procedure)
  halves
}

#' @export
played_on.habanera_mixed <- function(game, tally, done, look, run, begun) {
  refuse_late(run, begun)
  in_whole_runs(count_mixed(game, 1, look, run))
}

#' @export
played_afresh.habanera_mixed <- function(game, trials, run) in_whole_runs(count_mixed(game, run$nsim + 1, trials, run))

# A distance that is not known exactly has a lower bound alone.
mixed_bounds <- function(names, mixed, halves, done, error, allowed) {
  lapply(rlang::set_names(names), function(name) {
    if (name == "gain") {
      gain <- guesser_interval(halves$guessed, mixed$cards, error)
      return(new_bounds(gain[2], gain[1], gain[3], sure = FALSE))
    }
    distance <- distance_of_mixed(mixed)
    if (!is.null(distance)) return(new_bounds(distance, distance, distance))
    low <- distance_bound(halves, mixed$cards, error)$distance
    new_bounds(low, low, Inf)
  })
}
