# A game as an experiment: its kind (see game-list.R) and its name, its rules (all of them, and `given`: those given by
# hand), its settings (how it is shuffled or from which piles it starts, names of seats, what is recorded), and `spec`,
# the same as the core takes it.

game_settings <- function(shuffle, piles, seat_names, record) {
  list(shuffle = shuffle, piles = piles, seat_names = seat_names, record = record)
}

# `given` are rules by name; they win over those of `rules`, a list or a file.
make_game <- function(kind, given, rules, settings, call) {
  if (is.character(rules)) rules <- rules_from_file(check_string(rules, "rules", call), kind, call)
  if (!is.null(rules) && !is.list(rules)) {
    refuse(sprintf("`rules` must be a list or a file, not %s.", said(rules)), "rules", call)
  }
  refuse_unknown_rules(kind, given, call)
  base <- unclass(rules)
  attr(base, "kind") <- NULL
  all <- if (is.null(base)) list() else base
  for (name in names(given)) all[name] <- list(given[[name]])
  new_game(kind, all, settings, call)
}

new_game <- function(kind, given, settings, call) {
  if (!is.null(settings$piles) && is.null(given$deck)) given$deck <- deck_of_piles(settings$piles, call)
  rules <- checked_rules(kind, given, call)
  # A deck that was named is read once.
  if (!is.null(given$deck)) given$deck <- rules$deck
  changed <- names(changed_rules(kind, rules))
  piles <- if (!is.null(settings$piles)) given_piles(settings$piles, rules, call)
  if (!is.null(piles)) refuse_piles(piles, changed, settings, call)
  rules <- kind$settled(rules, piles, changed, call)
  deck <- if (is.null(piles)) rules$deck else do.call(c, unname(piles))
  ranks <- ranks_of_kinds(deck, rules$rank_by, call)
  game <- list(
    game = kind$name, kind = kind, given = given, rules = rules, settings = settings, piles = piles, deck = deck,
    shuffle = checked_shuffle(settings$shuffle, piles, call),
    seat_names = checked_seat_names(settings$seat_names, rules$seats, names(piles), call),
    record = checked_record(kind, settings$record, ranks, call)
  )
  game$spec <- game_spec(kind, game, ranks)
  do.call(new_experiment, c(list(class = "habanera_game"), game))
}

checked_shuffle <- function(shuffle, piles, call) {
  if (!is.null(piles)) return(shuffle_none())
  if (is.null(shuffle)) return(shuffle_uniform())
  if (is.character(shuffle)) return(procedure(shuffle))
  check_procedure(shuffle, "shuffle", call)
}

refuse_piles <- function(piles, changed, settings, call) {
  dealt <- intersect(c("cards_each", "deal_pattern"), changed)
  if (length(dealt)) refuse(sprintf("`piles` are dealt already: no `%s`.", dealt[1]), "rules", call)
  if (!is.null(settings$shuffle)) refuse("`piles` are played as they lie: no `shuffle`.", "rules", call)
}

checked_seat_names <- function(names, seats, piles, call) {
  if (is.null(names)) names <- if (is.null(piles)) as.character(seq_len(seats)) else piles
  if (is.character(names)) check_utf8(names, "seat_names", call)
  bad <- !is.character(names) || length(names) != seats || anyNA(names) || any(!nzchar(names)) ||
    anyDuplicated(names) > 0 || "nobody" %in% names
  if (bad) {
    refuse(sprintf("`seat_names` must be %d different names, none of them \"nobody\".", seats),
           call = call)
  }
  names
}

checked_record <- function(kind, record, ranks, call) {
  if (is.null(record)) return(kind$record)
  known <- names(kind$columns)
  if (is.character(record)) check_utf8(record, "record", call)
  unknown <- if (is.character(record)) setdiff(record, known) else said(record)
  if (!is.character(record) || !length(record) || length(unknown)) {
    refuse(sprintf("`record` must name outcomes of %s (%s), not %s%s", kind$title, join_words(known),
                   if (is.character(record)) said(unknown[1]) else unknown, did_you_mean(unknown[1], known)),
           call = call)
  }
  if (anyDuplicated(record)) refuse(sprintf("`record` names `%s` twice.", record[duplicated(record)][1]), call = call)
  if (!ranks$whole) refuse_for_ranks(intersect(kind$needs_whole_ranks, record), "record", ranks, call)
  record
}

# What every kind of card counts for: its rank if all ranks are whole numbers, else its place in their order.
ranks_of_kinds <- function(deck, rank_by, call) {
  kinds <- kinds_of(deck)
  data <- catalogue_of(deck)$data
  numbers <- names(data)[vapply(data, is.numeric, TRUE)]
  if (!rank_by %in% numbers) {
    refuse(sprintf("`rank_by` must name an attribute of the deck that is a number (%s), not %s%s",
                   if (length(numbers)) join_words(numbers, "or") else "it has none", quoted(rank_by),
                   did_you_mean(rank_by, numbers)), "rules", call)
  }
  rank <- data[[rank_by]][kinds$codes]
  if (anyNA(rank)) {
    refuse(sprintf("%s has no `%s`; leave it out of the deck, or set_attributes().", kinds$cards[is.na(rank)][1],
                   rank_by), "rules", call)
  }
  whole <- all(rank == floor(rank) & rank >= 0 & rank < 2^31)
  list(by = rank_by, whole = whole, rank = if (whole) as.double(rank) else match(rank, sort(unique(rank))))
}

refuse_for_ranks <- function(names, what, ranks, call) {
  if (!length(names)) return(invisible())
  refuse(sprintf("`%s` needs ranks that are whole numbers of 0 or more; `%s` is not.", names[1], ranks$by), "rules",
         call)
}

game_spec <- function(kind, game, ranks) {
  sizes <- if (is.null(game$piles)) kind$sizes(game$rules) else lengths(game$piles)
  rules <- kind$core(game$rules, ranks)
  rules$dealing <- list(sizes = as.double(unname(sizes)),
                        alternate = is.null(game$piles) && game$rules$deal_pattern == "alternate")
  # An R function shuffles before the core deals.
  shuffle <- if (has_function(game$shuffle)) shuffle_none() else game$shuffle
  draw <- draw_spec(game$deck, sum(sizes), FALSE, FALSE, shuffle)
  list(game = kind$name, draw = draw, rules = rules, record = game$record)
}

check_game <- function(x, name = rlang::caller_arg(x), call = rlang::caller_env()) {
  if (inherits(x, "habanera_game")) return(x)
  refuse(sprintf("`%s` must be a game, such as game_war(), not %s.", name, said(x)), call = call)
}

#' @export
in_words.habanera_game <- function(experiment) game_in_words(experiment)

# `but` names rules of which nothing is said.
game_in_words <- function(experiment, but = character()) {
  kind <- experiment$kind
  changed <- changed_rules(kind, experiment$rules)
  changed <- changed[setdiff(names(changed), c("deck", but))]
  start <- if (is.null(experiment$piles)) sprintf("on %s, %s", deck_in_words(experiment$deck),
                                                  procedure_in_words(experiment$shuffle)) else {
    sprintf("from given piles of %s", join_words(format_count(lengths(experiment$piles))))
  }
  words <- if (length(changed)) paste(names(changed), vapply(changed, rule_text, ""))
  paste(c(sprintf("%s %s", kind$title, start), words), collapse = ", ")
}

#' @export
print.habanera_game <- function(x, ...) {
  cat_wrapped("<game> ", in_words(x))
  cat(sprintf("  seats: %s; recorded: %s\n", join_words(x$seat_names), join_words(x$record)))
  invisible(x)
}
