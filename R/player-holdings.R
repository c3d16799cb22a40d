# Tables of chances by what a seat holds, what all see and what was done: a row for each of these, a column for each
# move. In the same words as "holding: 3; shared: 7; actions: check bet".

holds_holdings <- function(table) "holding" %in% names(table) && !"sees" %in% names(table)

move_column <- "^(fold|check|call|bet|raise|all[ .]in)( .+)?$"

# As rows of `sees`, `move` and `chance`, one for each cell that is not blank.
rows_by_move <- function(table, call) {
  refuse_columns_twice(names(table), "A table of chances", call)
  moves <- grep(move_column, names(table), value = TRUE)
  if (!length(moves) || !nrow(table)) {
    refuse(paste("A table of what is held has a row for each holding and a column for each move, such as `check`,",
                 "`bet`, `call`, `fold`, `raise 1/2 pot`, `all in`."), call = call)
  }
  text <- function(column) {
    values <- trimws(as.character(table[[column]]))
    if (length(values)) ifelse(is.na(values), "", values) else rep("", nrow(table))
  }
  parts <- lapply(c(holding = "holding", shared = "shared", actions = "actions"), text)
  bad <- which(!nzchar(parts$holding))[1]
  if (!is.na(bad)) refuse(sprintf("Row %d of the table of chances: `holding` must be told.", bad), call = call)
  sees <- seen_holding(parts$holding, if ("shared" %in% names(table)) parts$shared, parts$actions)
  cells <- lapply(moves, function(move) trimws(as.character(table[[move]])))
  rows <- do.call(rbind, lapply(seq_along(moves), function(i) {
    told <- !is.na(cells[[i]]) & nzchar(cells[[i]]) & cells[[i]] != "."
    data.frame(at = which(told), sees = sees[told], move = rep(sub("^all.in$", "all in", moves[i]), sum(told)),
               chance = cells[[i]][told])
  }))
  if ("seat" %in% names(table)) rows$seat <- table[["seat"]][rows$at]
  blank <- setdiff(seq_len(nrow(table)), rows$at)
  if (length(blank)) refuse(sprintf("Row %d of the table of chances has no chance at all.", blank[1]), call = call)
  rows[order(rows$at), setdiff(names(rows), "at"), drop = FALSE]
}

seen_holding <- function(holding, shared, actions) {
  spaced <- function(text) ifelse(nzchar(text), paste0(" ", text), "")
  paste0("holding: ", holding, if (!is.null(shared)) paste0("; shared:", spaced(shared)), "; actions:", spaced(actions))
}

# The parts of what is seen, NULL where it is told otherwise.
holding_parts <- function(sees) {
  found <- regmatches(sees, regexec("^holding: *(.*?); *(shared: *(.*?); *)?actions: *(.*)$", sees, perl = TRUE))
  if (!length(found) || any(lengths(found) == 0)) return(NULL)
  part <- function(i) trimws(vapply(found, `[[`, "", i))
  list(holding = part(2), shared = if (any(nzchar(part(3)))) part(4), actions = part(5))
}

# The rows with a column for each move, NA where it may not be made; NULL where what is seen is no holding.
rows_by_holding <- function(rows) {
  parts <- holding_parts(rows$sees)
  if (is.null(parts)) return(NULL)
  seat <- if ("seat" %in% names(rows)) rows$seat
  key <- paste(seat, rows$sees)
  first <- !duplicated(key)
  wide <- as.data.frame(c(list(seat = seat)[!is.null(seat)], Filter(Negate(is.null), parts)))[first, , drop = FALSE]
  for (move in unique(rows$move)) {
    of <- rows$move == move
    wide[[move]] <- rows$chance[of][match(key[first], key[of])]
  }
  rownames(wide) <- NULL
  wide
}

# "holding 3, after bet: call 33.3%, fold 66.7%", a line for each row; NULL where what is seen is no holding.
holding_lines <- function(rows) {
  parts <- holding_parts(rows$sees)
  if (is.null(parts)) return(NULL)
  several <- "seat" %in% names(rows) && length(unique(rows$seat)) > 1
  where <- paste0(if (several) sprintf("seat %s, ", format_count(rows$seat)), where_in_words(rows$sees))
  done <- sprintf("%s %s", rows$move, format_percent(rows$chance))
  made <- rows$chance > 0
  vapply(split(seq_along(where), factor(where, unique(where))), function(at) {
    at <- if (any(made[at])) at[made[at]] else at
    sprintf("%s: %s", where[at[1]], paste(sub(" 100%$", "", done[at]), collapse = ", "))
  }, "", USE.NAMES = FALSE)
}

# "holding 3 with 2, after bet".
where_in_words <- function(sees) {
  parts <- holding_parts(sees)
  paste0("holding ", parts$holding,
         if (!is.null(parts$shared)) ifelse(nzchar(parts$shared), paste(" with", parts$shared), ""),
         ifelse(nzchar(parts$actions), paste(", after", parts$actions), ", first to speak"))
}
