# The options of a command, parsed by optparse after misspelt words were caught.

# `options` is a list of cli_option(), made only when asked for, since optparse takes a while to load;
# `run(options, arguments)` does the work and returns a status.
new_command <- function(name, summary, use, options, examples, run) {
  # Options and examples are made when they are asked for.
  list(name = name, summary = summary, use = use, options = function() options, examples = function() examples,
       run = run)
}

# A flag when `value` is NULL, otherwise an option that takes one.
cli_option <- function(name, help, value = NULL, default = NULL) {
  flag <- paste0("--", name)
  if (is.null(value)) {
    return(optparse::make_option(flag, action = "store_true", default = FALSE, help = help))
  }
  optparse::make_option(flag, type = "character", default = default, metavar = value, help = help)
}

common_options <- function() {
  list(
    cli_option("format", "How the result is written: text, json or csv [text, or as --out ends]",
               "FORMAT"),
    cli_option("out", "Write the result to this file instead of standard output", "FILE"),
    cli_option("quiet", "No notes and no progress on standard error")
  )
}

# Of commands with a result, which is a page, too.
result_options <- function() {
  c(list(cli_option("report", "Also write a page: the answer, its figure, tables and settings", "FILE")),
    common_options())
}

run_options <- function() {
  c(list(
    cli_option("trials", "Number of trials, such as 1e6 [100000]", "N", "100000"),
    cli_option("seed", "A whole number; the same seed gives the same result [a new one]", "S"), threads_option()
  ), checkpoint_options())
}

checkpoint_options <- function() {
  list(
    cli_option("checkpoint", "Keep what is known in this file, and go on from it", "FILE"),
    cli_option("anew", "With --checkpoint: begin anew and write over the file")
  )
}

threads_option <- function() cli_option("threads", "Number of threads [all cores]", "T")
seed_option <- function() cli_option("seed", "A whole number [a new one]", "S")
figure_option <- function() cli_option("figure", "Also write the figure (.png, .svg or .pdf)", "FILE")

# Of commands that play many times and draw what they find.
study_options <- function(trials, usual) {
  list(cli_option("trials", sprintf("%s [%s]", trials, usual), "N", usual), seed_option(), threads_option(),
       figure_option())
}

# Of cards written elsewhere.
first_number_option <- function() {
  cli_option("first-number", "The number of the first card, where cards are numbers [0 or 1, as they show]", "N")
}
notation_option <- function() {
  cli_option("notation", "rank_first (AS 10H) or suit_first (SA H10) [whichever fits]", "WORD")
}
columns_option <- function() {
  cli_option("columns", "Which columns hold the cards, as 2-6 or names [those that do]", "COLUMNS")
}
# "2-6", "1,3,5", or names.
option_columns <- function(options) {
  if (is.null(options$columns)) return(NULL)
  parts <- trimws(strsplit(options$columns, ",", fixed = TRUE)[[1]])
  if (!all(grepl("^[0-9]+(-[0-9]+)?$", parts))) return(parts)
  unlist(lapply(strsplit(parts, "-", fixed = TRUE), function(ends) {
    ends <- as.numeric(ends)
    if (max(ends) > 1e5) refuse(sprintf("`--columns` %s is more columns than there can be.", options$columns), "usage",
                                NULL)
    seq(ends[1], ends[length(ends)])
  }))
}
each_trial_option <- function() {
  cli_option("each-trial", "With --program: start it anew for each trial, where it writes one line and stops")
}
option_notation <- function(options) option_word(options, "notation", notations)

option_parser <- function(command) {
  optparse::OptionParser(usage = paste("habanera", command$use), option_list = command$options(),
                         add_help_option = FALSE)
}

option_names <- function(command) vapply(command$options(), function(option) option@long_flag, "")

parse_words <- function(command, words) {
  words <- join_repeated(command, join_values(command, words))
  refuse_unknown_options(command, words)
  parsed <- tryCatch(
    optparse::parse_args(option_parser(command), args = words,
                         positional_arguments = TRUE, convert_hyphens_to_underscores = TRUE),
    error = function(cnd) refuse_usage(command, sub("^Error in.*: ", "", conditionMessage(cnd)))
  )
  # Every option by its whole name, also those not given: `options$out` must not find `outcome`.
  names <- gsub("-", "_", sub("^--", "", option_names(command)))
  options <- lapply(names, function(name) parsed$options[[name]])
  repeated <- grepl(between_repeats, options, fixed = TRUE)
  options[repeated] <- strsplit(as.character(options[repeated]), between_repeats, fixed = TRUE)
  list(options = rlang::set_names(options, names), arguments = parsed$args)
}

# "--size 5" as "--size=5", so that a value may begin with a dash.
join_values <- function(command, words) {
  takes_value <- vapply(command$options(), function(option) option@action != "store_true", TRUE)
  at <- which(words %in% option_names(command)[takes_value])
  if (!length(at)) return(words)
  at <- Reduce(function(kept, i) if (length(kept) && i == max(kept) + 1) kept else c(kept, i), at)
  if (max(at) == length(words)) refuse_usage(command, sprintf("%s needs a value.", words[length(words)]))
  words[at] <- paste0(words[at], "=", words[at + 1])
  words[-(at + 1)]
}

# Options that may be given several times, which makes a vector of their values; any other is one too many. The parser
# takes an option once: between the values stands what nobody types.
between_repeats <- "\x1f"
repeated_options <- c("--ask", "--set", "--over", "--other", "--want", "--copies")

join_repeated <- function(command, words) {
  names <- ifelse(startsWith(words, "--"), sub("=.*$", "", words), "")
  again <- names[nzchar(names) & duplicated(names)]
  strange <- setdiff(again, repeated_options)
  if (length(strange)) refuse_usage(command, sprintf("%s is given twice.", strange[1]))
  gone <- integer()
  for (option in unique(again)) {
    at <- which(names == option)
    words[at[1]] <- paste0(option, "=", paste(sub("^[^=]*=", "", words[at]), collapse = between_repeats))
    gone <- c(gone, at[-1])
  }
  if (length(gone)) words[-gone] else words
}

refuse_unknown_options <- function(command, words) {
  known <- c(option_names(command), "--help")
  given <- sub("=.*$", "", words[startsWith(words, "--")])
  unknown <- setdiff(given, known)
  if (length(unknown)) {
    refuse_usage(command, sprintf("there is no option %s%s", unknown[1], did_you_mean(unknown[1], known)))
  }
  short <- grep("^-[^-]", words, value = TRUE)
  if (length(short)) {
    refuse_usage(command, sprintf("there is no option %s; options begin with two dashes.", short[1]))
  }
}

refuse_usage <- function(command, what) {
  refuse(sprintf("%s: %s Try habanera %s --help.", command$name, sub("([^.?])$", "\\1.", what),
                 command$name), "usage", call = NULL)
}

command_help <- function(command) {
  options <- command$options()
  width <- max(vapply(options, function(option) nchar(option_words(option)), 0L))
  c(
    paste("Use: habanera", command$use), "", strwrap(command$summary, 78), "",
    if (grepl("^[a-z-]+ GAME\\b", command$use)) c(game_in_help, ""), "Options:",
    vapply(options, function(option) {
      sprintf("  %s  %s", formatC(option_words(option), width = -width), option@help)
    }, ""), "", "Examples:", paste0("  ", command$examples())
  )
}

game_in_help <- c("GAME is a name (see habanera games) or a file of your own: R code that ends with a",
                  "game (.R), or a class in C++ (.cpp).")

option_words <- function(option) {
  value <- if (option@action == "store_true") NULL else option@metavar
  paste(c(option@long_flag, value), collapse = " ")
}

# An option that says how, without the one that says what.
refuse_lonely <- function(options, command, needs) {
  for (name in names(needs)) {
    if (!is.null(options[[name]]) && is.null(options[[needs[[name]]]])) {
      refuse_usage(command, sprintf("--%s goes with --%s.", gsub("_", "-", name), gsub("_", "-", needs[[name]])))
    }
  }
}

# Values of options, checked; NULL stays NULL.

# Words separated by commas.
typed_words <- function(text) if (!is.null(text)) trimws(strsplit(text, ",", fixed = TRUE)[[1]])

option_number <- function(options, name) {
  text <- options[[gsub("-", "_", name)]]
  if (is.null(text)) return(NULL)
  number <- written_numbers(gsub(",", "", text))
  if (is.na(number)) {
    refuse(sprintf("`--%s` must be a number, not %s.", name, quoted(text)), "usage", call = NULL)
  }
  number
}

option_grid <- function(text) {
  if (is.null(text)) return(NULL)
  sides <- written_numbers(strsplit(text, "x", fixed = TRUE)[[1]])
  if (length(sides) != 2 || anyNA(sides)) {
    refuse(sprintf("`--grid` must be rows x columns, such as 4x13, not %s.", quoted(text)), "usage",
           call = NULL)
  }
  sides
}

most_in_range <- 1e4

# A number, or all whole numbers of a range such as 2:60.
option_range <- function(text, name, example) {
  ends <- written_numbers(strsplit(text, ":", fixed = TRUE)[[1]])
  if (!all(is.finite(ends)) || !length(ends) %in% 1:2) {
    refuse(sprintf("`--%s` must be a number or a range such as %s, not %s.", name, example, quoted(text)), "usage",
           call = NULL)
  }
  if (abs(ends[length(ends)] - ends[1]) > most_in_range) {
    refuse(sprintf("`--%s` holds at most %s numbers, not %s.", name, format_count(most_in_range), quoted(text)),
           "usage", call = NULL)
  }
  seq(ends[1], ends[length(ends)])
}

option_word <- function(options, name, choices) {
  text <- options[[name]]
  if (is.null(text) || text %in% choices) return(text)
  refuse(sprintf("`--%s` must be %s, not %s%s", name, join_words(choices, "or"), quoted(text),
                 did_you_mean(text, choices)), "usage", call = NULL)
}

refuse_arguments <- function(command, arguments) {
  if (length(arguments)) {
    refuse_usage(command, sprintf("%s is one word too many.", quoted(arguments[1])))
  }
}
