# Best and sound play of seats that bet, by what they see; of two by the tree of all that both see.

betting_best_answer <- function(game, seat, call) {
  best_answer_by_sight(game, seat, betting_tree(game), call)
}

betting_tree <- function(game) {
  # The core counts in chips.
  unit <- betting_unit(game$rules)
  list(best_answer = best_answer_on_boards, costs = costs_on_boards, values = values_on_boards,
       sound = sound_on_boards, unit = unit,
       in_words = function(worth) paste(format_number(worth, 4), unit_in_words(game$rules)),
       unit_words = unit_in_words(game$rules))
}

# What the core finds by `ask(known, threads)`, where `known` is how hands fare against each other where the last cards
# are turned at once: that is worked out once and kept.
asked_on_boards <- function(spec, ask) {
  key <- if (is.null(spec$holdings)) runout_key(spec)
  known <- if (!is.null(key)) kept_runout(key)
  found <- ask(known, resolve_threads(NULL))
  if (is.null(found)) return(NULL)
  if (!is.null(key) && is.null(known) && !is.null(found$runout)) keep_runout(key, found$runout)
  found$runout <- NULL
  if (!is.null(found$rows$seen)) found$rows <- rows_of_boards(found$rows)
  found
}

rows_of_boards <- function(rows) {
  data.frame(seat = rows$seat, sees = rows$seen[rows$sees], move = rows$words[rows$move], chance = rows$chance,
             reached = rows$reached, worth = rows$worth)
}

sound_on_boards <- function(spec, gap, seconds) {
  asked_on_boards(spec, function(...) core_betting_sound(spec, gap, seconds, ...))
}
best_answer_on_boards <- function(spec, seat) {
  asked_on_boards(spec, function(...) core_betting_best_answer(spec, seat, ...))
}
values_on_boards <- function(spec) asked_on_boards(spec, function(...) core_betting_values(spec, ...))$values

# As mistakes_by_sight() takes them: each row, and which move of it is best.
costs_on_boards <- function(spec, seat) {
  found <- asked_on_boards(spec, function(...) core_betting_costs(spec, seat, ...))
  if (is.null(found$rows)) return(found)
  rows <- found$rows[!is.na(found$rows$worth), ]
  row <- match(rows$sees, unique(rows$sees))
  first_best <- tapply(seq_along(row), row, function(at) at[which.max(rows$worth[at] > max(rows$worth[at]) - 1e-11)])
  list(row = row, sees = rows$sees, move = rows$move, how_often = rows$reached, worth = rows$worth,
       chance = rows$chance, best = as.double(seq_along(row) %in% first_best), value = found$value)
}

# Sound play with what each hand is by then, where that is told by hand rules of as many cards.
betting_sound <- function(game, gap, seconds, call) {
  found <- sound_by_sight(game, gap, seconds, betting_tree(game), call)
  named <- category_of_seen(game, unique(found$rows$sees))
  if (is.null(named)) return(found)
  found$rows$category <- named$category[match(found$rows$sees, unique(found$rows$sees))]
  found$categories <- named$levels
  found
}

category_of_seen <- function(game, sees) {
  strength <- game$spec$rules$strength
  seen <- game$rules$private + length(game$rules$board) + shared_in_all(game$rules)
  if (strength$by != "hands" || seen < strength$rules$size || strength$rules$size < 2) return(NULL)
  parts <- holding_parts(sees)
  hands <- strsplit(paste(parts$holding, parts$shared), " +")
  kinds <- match(unlist(hands), game$spec$rules$cards$names)
  worth <- core_hand_worth(strength$rules, as.integer(kinds), as.integer(lengths(hands)))
  list(category = strength$rules$names[worth$category + 1], levels = strength$rules$names)
}

runouts <- new.env()

# What decides how hands fare, and nothing else; of another version of the numbers the first part is another.
runout_key <- function(spec) {
  cards <- spec$cards[c("copies", "stands_for", "rank", "suit", "suits_alike")]
  turned <- vapply(spec$chips$streets, `[[`, 0, "shared")
  rlang::hash(list(1, cards, spec$own, spec$board, spec$strength, turned))
}

runout_file <- function(key) file.path(kept_folder(), paste0("runout-", key))

# The shares of one hand's wins over another, row by row; NULL where none are kept, or a file is not what was written.
kept_runout <- function(key) {
  if (!is.null(runouts[[key]])) return(runouts[[key]])
  file <- runout_file(key)
  if (!file.exists(file) || file.size(file) < 40) return(NULL)
  bytes <- read_bytes(file)
  numbers <- bytes[-(1:32)]
  if (!identical(charToRaw(rlang::hash(list(key, numbers))), bytes[1:32])) {
    inform_user("How hands fare against each other was kept, but damaged: it is worked out anew.")
    return(NULL)
  }
  wins <- doubles_of_bytes(numbers)
  runouts[[key]] <- matrix(wins, sqrt(length(wins)))
  runouts[[key]]
}

keep_runout <- function(key, wins) {
  runouts[[key]] <- wins
  numbers <- writeBin(as.double(wins), raw(), endian = "little")
  # A folder that cannot be written to costs time, and no more.
  tryCatch(write_bytes_whole(c(charToRaw(rlang::hash(list(key, numbers))), numbers), runout_file(key)),
           habanera_error = function(cnd) NULL)
}
