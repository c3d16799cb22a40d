# Wishes as files: what tune_rules() is asked, by the names of its arguments, with `copies` beside `over`.

wish_keys <- c("over", "copies", "want", "least", "most", "changes", "line_ups")

# The arguments of tune_rules() out of a file.
wishes_from_file <- function(file, call) {
  wished <- list_data(check_string(file, "file", call), call)
  unknown <- if (is.null(names(wished))) file_name(file) else setdiff(names(wished), wish_keys)
  if (length(unknown)) {
    refuse(sprintf("%s may hold %s; %s is none of them%s", file_name(file), join_words(wish_keys), quoted(unknown[1]),
                   did_you_mean(unknown[1], wish_keys)), "file", call)
  }
  over <- lapply(wished$over, listed_values)
  if (!is.null(wished$copies)) over$copies <- lapply(wished$copies, listed_values)
  wished$copies <- NULL
  wished$over <- if (length(over)) over
  wished$want <- unlist(wished$want)
  if (!is.null(wished$line_ups)) wished$line_ups <- as.list(wished$line_ups)
  wished
}

# "6:22" stands for the numbers from 6 to 22.
listed_values <- function(values) {
  if (!rlang::is_string(values) || !grepl("^[0-9]{1,9}:[0-9]{1,9}$", values)) return(values)
  ends <- as.numeric(strsplit(values, ":", fixed = TRUE)[[1]])
  if (ends[1] < ends[2] && diff(ends) < most_candidates) seq(ends[1], ends[2]) else values
}

# What is given beside a file wins over it.
with_wishes_from_file <- function(wished, call) {
  from <- wishes_from_file(wished$over, call)
  if (is.null(from$over)) refuse(sprintf("%s holds no `over`.", file_name(wished$over)), "file", call)
  wished$over <- NULL
  if (!is.null(from$changes)) from$changes <- check_whole(from$changes, 0, name = "changes", call = call)
  replaced_by_name(from, Filter(Negate(is.null), wished))
}

# Whole values are replaced: a list that is given is not mixed with the one that was there.
replaced_by_name <- function(values, by) {
  values <- as.list(values)
  values[names(by)] <- by
  values
}
