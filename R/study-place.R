# Where something stands in the file of a study, and errors that tell it. A place is a list of the `study` and the
# `path` of keys that leads there.

# Where something stands, one key further in.
inside <- function(place, key) {
  place$path <- c(place$path, key)
  place
}

# The line of a key: each key of the path is looked for from that of the one before.
line_of <- function(place) {
  line <- 1
  for (key in place$path) {
    pattern <- sprintf("(^|[[:space:]{,\"'-])%s[\"']?[[:space:]]*:", quoted_pattern(key))
    found <- grep(pattern, place$study$lines)
    found <- found[found >= line]
    if (length(found)) line <- found[1]
  }
  line
}

quoted_pattern <- function(text) gsub("([^[:alnum:][:space:]])", "\\\\\\1", text)

refuse_at <- function(place, problem) {
  path <- if (length(place$path)) paste0(", ", paste(place$path, collapse = ": ")) else ""
  refuse(sprintf("%s, line %s%s: %s.", file_name(place$study$file), format_count(line_of(place)), path,
                 sub("[.]$", "", problem)), "study", NULL)
}

refuse_keys <- function(keys, known, whose, place) {
  unknown <- setdiff(keys, known)
  if (!length(unknown)) return(invisible())
  refuse_at(inside(place, unknown[1]), sprintf("%s is no key of %s%s There are %s", quoted(unknown[1]), whose,
                                               did_you_mean(unknown[1], known), join_words(known)))
}

# Code that names files, in the folder that the study lies in.
in_folder <- function(study, code) {
  old <- setwd(study$folder)
  on.exit(setwd(old))
  force(code)
}
