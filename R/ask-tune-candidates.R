# The candidates of tune_rules(): what may be changed is a list of dimensions, a candidate a place on each of them.

# A dimension: what it is called, its `values`, how they read, which of them is as it is `now` (NA: none), what is
# `said` before a value in a sentence, and `change(value)`: what one of them changes, a list by name.
new_dimension <- function(name, values, labels, now, change = function(value) rlang::set_names(list(value), name),
                          said = name) {
  list(name = name, values = values, labels = labels, now = now, said = said, change = change)
}

# What `over` names of a game: rules, players, numbers of copies of cards, lines of a pay table.
game_dimensions <- function(game, over, call) {
  names <- checked_over(over, call)
  known <- rule_names(kind_of(game))
  unlist(Map(function(name, values) {
    if (name == "copies" && "deck" %in% known) return(copies_dimensions(game$rules$deck, values, call))
    if (name %in% known) return(list(rule_dimension(game, name, values, call)))
    line <- line_dimension(game, name, values, call)
    if (is.null(line)) refuse_unknown_dimension(game, name, call)
    list(line)
  }, names, over, USE.NAMES = FALSE), recursive = FALSE)
}

# The names of what may be changed, each once.
checked_over <- function(over, call) {
  names <- rlang::names2(over)
  if (is.list(over) && length(over) && all(nzchar(names)) && !anyDuplicated(names)) return(names)
  refuse(sprintf("`over` must be a list of rules by name with values to try, as in list(rule = 0:3), not %s.",
                 said(over)), call = call)
}

refuse_unknown_dimension <- function(game, name, call) {
  lines <- able(game, "pays_by_lines")
  known <- c(rule_names(kind_of(game)), "copies", if (!is.null(lines)) names(lines$lines(game, call)$now))
  refuse(sprintf("%s has no rule `%s`%s What can be tuned is %s.", kind_of(game)$title, name,
                 did_you_mean(name, known), join_words(known)), "rules", call)
}

# Values as a list, none of them twice.
tried_values <- function(values, name, call) {
  if (!is.atomic(values) && !is.list(values)) {
    refuse(sprintf("`%s` must be a vector or a list of values to try, not %s.", name, said(values)), call = call)
  }
  values <- as.list(values)
  if (!length(values)) refuse(sprintf("`%s` has no values to try.", name), "rules", call)
  values
}

rule_dimension <- function(game, name, values, call) {
  rule <- Find(function(rule) rule$name == name, kind_of(game)$rules)
  values <- tried_values(values, name, call)
  checked <- lapply(values, rule$check, name, call)
  labels <- vapply(checked, rule_text, "")
  if (anyDuplicated(labels)) {
    refuse(sprintf("`%s` has %s twice among the values to try; give values that read differently, once each.", name,
                   labels[duplicated(labels)][1]), "rules", call)
  }
  now <- which(vapply(checked, identical, NA, game$rules[[name]]))
  new_dimension(name, values, if (all(is_plain_value(checked))) unlist(checked) else labels, now[1])
}

is_plain_value <- function(values) {
  vapply(values, function(value) length(value) == 1 && is.atomic(value) && !is_cards(value), NA)
}

line_dimension <- function(game, name, values, call) {
  lines <- able(game, "pays_by_lines")
  if (is.null(lines)) return(NULL)
  pays <- lines$lines(game, call)$now
  if (!name %in% names(pays)) return(NULL)
  values <- unlist(tried_values(values, name, call))
  if (!is.numeric(values) || anyNA(values) || any(values < 0) || anyDuplicated(values)) {
    refuse(sprintf("`%s` must be what this line may pay, numbers of 0 or more, once each, not %s.", name, said(values)),
           "rules", call)
  }
  new_dimension(name, as.list(values), values, match(pays[[name]], values),
                function(value) list(pays = rlang::set_names(list(value), name)), paste(name, "pays"))
}

# Numbers of copies by a condition on cards: 'rank == "A"' = 0:4.
copies_dimensions <- function(deck, conditions, call) {
  names <- rlang::names2(conditions)
  if (!length(conditions) || any(!nzchar(names))) {
    refuse("`copies` must be numbers of copies by conditions on cards, such as list('rank == \"A\"' = 0:4).",
           call = call)
  }
  data <- catalogue_of(deck)$data
  Map(function(name, copies) {
    found <- cards_that(name, data, call)
    copies <- unlist(tried_values(copies, name, call))
    if (!is.numeric(copies) || any(is.na(copies) | copies < 0 | copies > most_cards | copies != floor(copies))) {
      refuse(sprintf("The copies of %s must be whole numbers from 0 to %s, not %s.", quoted(name),
                     format_count(most_cards), said(copies)), "rules", call)
    }
    held <- unique(card_counts(deck, found))
    label <- sprintf("copies: %s", name)
    new_dimension(label, as.list(copies), copies, if (length(held) == 1) match(held, copies) else NA,
                  function(value) list(copies = rlang::set_names(list(list(cards = found, copies = value)), label)))
  }, names, conditions, USE.NAMES = FALSE)
}

cards_that <- function(condition, data, call) {
  expr <- checked_on_names(parse_expression(condition, "copies", call), names(data), NULL, "what cards have is", call)
  holds <- interpret(expr, list(values = as.list(data), rows = nrow(data)), call)
  if (!is.logical(holds) || !any(rep_len(holds, nrow(data)) %in% TRUE)) {
    refuse(sprintf("No card of the deck's catalogue meets %s.", quoted(condition)), call = call)
  }
  which(rep_len(holds, nrow(data)) %in% TRUE)
}

most_candidates <- 20000

# All candidates as places on the dimensions, a row each, those nearest to what is now first. With `changes` at most so
# many dimensions are other than now.
candidate_places <- function(dimensions, changes, call) {
  if (is.null(changes)) {
    refuse_many(prod(vapply(dimensions, function(dimension) length(dimension$values), 0)), call)
    places <- as.matrix(expand.grid(lapply(dimensions, function(dimension) seq_along(dimension$values))))
  } else {
    places <- places_near(dimensions, changes, call)
  }
  dimnames(places) <- NULL
  places[order(changes_of(places, dimensions)), , drop = FALSE]
}

# A place of 0: as it is now.
places_near <- function(dimensions, changes, call) {
  others <- lapply(dimensions, function(dimension) setdiff(seq_along(dimension$values), dimension$now))
  changes <- min(changes, length(dimensions))
  sets <- unlist(lapply(seq_len(changes), function(size) utils::combn(length(dimensions), size, simplify = FALSE)),
                 recursive = FALSE)
  refuse_many(1 + sum(vapply(sets, function(set) prod(lengths(others[set])), 0)), call)
  changed <- lapply(sets, function(set) {
    places <- matrix(0, prod(lengths(others[set])), length(dimensions))
    places[, set] <- as.matrix(expand.grid(others[set]))
    places
  })
  do.call(rbind, c(list(matrix(0, 1, length(dimensions))), changed))
}

refuse_many <- function(count, call) {
  if (count <= most_candidates) return(invisible())
  refuse(sprintf("There are %s combinations of rules; at most %s are tried. Take fewer values, or `changes` = 2.",
                 format_count(count), format_count(most_candidates)), "work", call)
}

# In how many dimensions each candidate is other than now, and in which.
changes_of <- function(places, dimensions) rowSums(differs_from_now(places, dimensions))

differs_from_now <- function(places, dimensions) {
  now <- rep(vapply(dimensions, function(dimension) as.double(dimension$now), 0), each = nrow(places))
  matrix(places != 0 & (is.na(now) | places != now), nrow(places))
}

# The rules that a candidate changes, by name.
changes_at <- function(places, dimensions) {
  changes <- list()
  for (at in which(places != 0)) {
    change <- dimensions[[at]]$change(dimensions[[at]]$values[[places[at]]])
    name <- names(change)
    changes[name] <- list(if (name %in% c("pays", "copies")) c(changes[[name]], change[[1]]) else change[[1]])
  }
  changes
}

# A game by changed rules, lines of its pay table and copies of cards among them.
changed_game <- function(game, changes, call) {
  if (!is.null(changes$copies)) {
    changes$deck <- Reduce(function(deck, each) with_copies(deck, each), changes$copies, game$rules$deck)
    changes$copies <- NULL
  }
  if (is.list(changes$pays)) {
    changes$pays <- utils::modifyList(as.list(game$rules$pays), changes$pays)
    if (is.numeric(game$rules$pays)) changes$pays <- unlist(changes$pays)
  }
  if (!length(changes)) game else change_game(game, changes, call)
}

with_copies <- function(deck, each) {
  codes <- codes_of(deck)
  new_cards(c(codes[!codes %in% each$cards], rep(each$cards, times = each$copies)), catalogue_of(deck))
}

# A column for each dimension, as read. What is now reads as it does there.
candidate_table <- function(places, dimensions, subject) {
  columns <- lapply(seq_along(dimensions), function(at) {
    dimension <- dimensions[[at]]
    present <- places[, at] == 0
    labels <- dimension$labels[replace(places[, at], present, NA_real_)]
    if (any(present)) labels[present] <- now_label(dimension, subject)
    labels
  })
  as.data.frame(rlang::set_names(columns, vapply(dimensions, `[[`, "", "name")), optional = TRUE)
}

now_label <- function(dimension, subject) {
  if (!is.na(dimension$now)) return(dimension$labels[[dimension$now]])
  value <- subject$present(dimension$name)
  plain <- is.numeric(dimension$labels) && is.numeric(value) && length(value) == 1
  if (plain) value else if (is.null(value)) NA else rule_text(value)
}

# The candidates that there can be; those that contradict themselves, in words.
possible_candidates <- function(subject, dimensions, places, call) {
  in_words <- function(row) rules_in_words(as.list(candidate_table(places[row, , drop = FALSE], dimensions, subject)))
  candidates <- lapply(seq_len(nrow(places)), function(row) {
    change <- without_cautions(subject$change)
    tryCatch(change(changes_at(places[row, ], dimensions)), habanera_error_rules = function(cnd) {
      sprintf("%s: %s", in_words(row), rlang::cnd_message(cnd))
    }, habanera_error = function(cnd) {
      refuse(c(sprintf("With %s:", in_words(row)), x = rlang::cnd_message(cnd)), "rules", call)
    })
  })
  possible <- !vapply(candidates, is.character, NA)
  if (!any(possible)) refuse(c("No combination is possible.", x = candidates[[1]]), "rules", call)
  list(candidates = candidates[possible], places = places[possible, , drop = FALSE], possible = possible,
       passed_over = unlist(candidates[!possible]))
}

# What a rule may be a slip in is not told of each candidate.
without_cautions <- function(f) {
  function(...) withCallingHandlers(f(...), warning = function(cnd) {
    if (any(startsWith(class(cnd), "habanera_warning"))) rlang::cnd_muffle(cnd)
  })
}
