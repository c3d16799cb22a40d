# A game as an experiment: its kind (see game-kind.R) and its name, its rules (all of them, and `given`: those given by
# hand), its settings (how it is shuffled or from which piles it starts, names of seats, what is recorded), and `spec`,
# the same as the core takes it.

game_settings <- function(shuffle, piles, seat_names, record) {
  list(shuffle = shuffle, piles = piles, seat_names = seat_names, record = record)
}

# `given` are rules by name; they win over those of `rules`, a list or a file.
make_game <- function(kind, given, rules, settings, call) {
  if (is.character(rules)) rules <- named_rules(check_string(rules, "rules", call), kind, call)
  if (!is.null(rules) && !is.list(rules)) {
    refuse(sprintf("`rules` must be a list or a file, not %s.", said(rules)), "rules", call)
  }
  refuse_unknown_rules(kind, given, call)
  base <- unclass(rules)
  attributes(base) <- attributes(base)["names"]
  all <- if (is.null(base)) list() else base
  for (name in names(given)) all[name] <- list(given[[name]])
  made <- new_game(kind, all, settings, call)
  kind$caution(made$rules)
  made
}

# Rules by their name, or out of a file.
named_rules <- function(name, kind, call) {
  shapes <- kind$shapes()
  if (name %in% names(shapes)) return(shapes[[name]])
  if (length(shapes) && !grepl("[.][a-z]+$", name)) {
    refuse(sprintf("There are no rules %s%s Rules: %s; or a file (.yaml, .json).", quoted(name),
                   did_you_mean(name, names(shapes)), join_words(quoted(names(shapes)), "or")), "rules", call)
  }
  rules_from_file(name, kind, call)
}

new_game <- function(kind, given, settings, call) {
  if (!is.null(settings$piles) && is.null(given$deck)) given$deck <- deck_of_piles(settings$piles, call)
  rules <- checked_rules(kind, given, call)
  # What was named or typed is read once.
  given[names(given)] <- unclass(rules)[names(given)]
  changed <- names(changed_rules(kind, rules))
  if (!is.null(settings$piles)) refuse_piles(kind, changed, settings, call)
  piles <- if (!is.null(settings$piles)) given_piles(settings$piles, rules, call)
  rules <- kind$settled(rules, piles, changed, call)
  fit <- kind$fitted(rules, call)
  of <- function(part) if (is.null(fit[[part]])) kind[[part]] else fit[[part]]
  deck <- if (is.null(piles)) kind$deck(rules) else do.call(c, unname(piles))
  game <- list(
    game = kind$name, own = if (is_of_ones_own(kind)) kind, given = given, rules = rules, settings = settings,
    piles = piles, deck = deck, columns = of("columns"), usual_record = of("record"), units = fit$units,
    simulated_only = fit$simulated_only,
    shuffle = checked_shuffle(settings$shuffle, piles, call),
    seat_names = checked_seat_names(settings$seat_names, kind$seats(rules), names(piles), call),
    record = settings$record
  )
  game$record <- checked_record(game, kind$title, call)
  game$spec <- game_spec(kind, game, fit$kept, call)
  game$words <- plays_of(game)$words(game)
  do.call(new_experiment, c(list(class = "habanera_game"), game))
}

checked_shuffle <- function(shuffle, piles, call) {
  if (!is.null(piles)) return(shuffle_none())
  if (is.null(shuffle)) return(shuffle_uniform())
  if (is.character(shuffle)) return(procedure(shuffle))
  check_procedure(shuffle, "shuffle", call)
}

refuse_piles <- function(kind, changed, settings, call) {
  if (is.null(kind$can$takes_piles)) refuse(sprintf("%s does not start from given `piles`.", kind$title), "rules", call)
  dealt <- intersect(kind$can$takes_piles$dealt_by, changed)
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

checked_record <- function(game, title, call) {
  record <- game$record
  if (is.null(record)) return(game$usual_record)
  known <- names(game$columns)
  if (is.character(record)) check_utf8(record, "record", call)
  unknown <- if (is.character(record)) setdiff(record, known) else said(record)
  if (!is.character(record) || !length(record) || length(unknown)) {
    refuse(sprintf("`record` must name outcomes of %s (%s), not %s%s", title, join_words(known),
                   if (is.character(record)) said(unknown[1]) else unknown, did_you_mean(unknown[1], known)),
           call = call)
  }
  if (anyDuplicated(record)) refuse(sprintf("`record` names `%s` twice.", record[duplicated(record)][1]), call = call)
  record
}

game_spec <- function(kind, game, kept, call) {
  dealing <- kind$dealing(game$rules, game$piles)
  cards <- kind$cards(game$rules, game$deck, game$record, kept, call)
  afresh <- kind$afresh(game$rules)
  if (afresh && !is_uniform(game$shuffle)) refuse("Every card is drawn afresh here: no `shuffle`.", "rules", call)
  if (has_function(game$shuffle) && isTRUE(game$rules$shoes > 1)) {
    refuse("Several `shoes` are shuffled by the core alone: no `shuffle` that is an R function.", "rules", call)
  }
  # An R function shuffles before the core deals.
  shuffle <- if (has_function(game$shuffle)) shuffle_none() else game$shuffle
  size <- if (is.null(dealing)) kind$dealt(game$rules, game$deck) else sum(dealing$sizes)
  list(draw = draw_spec(game$deck, size, afresh, FALSE, shuffle), dealing = dealing,
       rules = kind$core(game$rules, cards, dealing), record = core_columns(game$columns, game$record))
}

checked_game <- function(x, name = rlang::caller_arg(x), call = rlang::caller_env()) {
  if (inherits(x, "habanera_game")) return(x)
  refuse(sprintf("`%s` must be a game, made by game() or a constructor of its own, not %s.", name, said(x)),
         call = call)
}

#' @export
in_words.habanera_game <- function(x, ...) game_in_words(x)

# `but` names rules of which nothing is said.
game_in_words <- function(experiment, but = character()) {
  kind <- kind_of(experiment)
  changed <- changed_rules(kind, experiment$rules)
  changed <- changed[setdiff(names(changed), c("deck", but))]
  # Where packs vary, one deck is told, and not how many cards the game happens to hold.
  deck <- if ("packs" %in% but) paste("packs of", deck_in_words(experiment$rules$deck)) else {
    deck_in_words(experiment$deck)
  }
  start <- if (is.null(experiment$piles)) sprintf("on %s, %s", deck, procedure_in_words(experiment$shuffle)) else {
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
