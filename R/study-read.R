#' Studies
#'
#' A study is a YAML file of many questions that belong together: decks, shuffles, draws, games, players and counts by
#' name, runs that ask something of them, what is expected, and how the page that answers them reads. [run_study()]
#' works it out, keeps what is done, and goes on where it was stopped.
#'
#' @section The file:
#' ```yaml
#' title: A small month
#' seed: 44
#' decks:
#'   orchard: orchard.csv
#' draws:
#'   stall: {deck: orchard, size: 3, alike: largest_group(suit)}
#' games:
#'   quick: quick-game.yaml
#' runs:
#'   stall exactly:
#'     exact: stall
#'   how long:
#'     simulate: {object: quick, nsim: 1e5}
#' expect:
#'   how long: minutes_p90 < 30
#' report:
#'   - words: What came **of it**.
#'   - run: how long
#'     title: How long does the quick game take?
#' ```
#'
#' - `title`, `seed`: what the study is called, and the seed of every run that takes one and names none.
#' - `decks`: a file, or words as [deck_from()] takes them. `shuffles`: words as [procedure()] takes them. `draws`: the
#'   arguments of [draws()], questions as text. `games`: a file of rules with a line `game:`, the name of a game, rules
#'   by name with `game:` among them, or a file of a game of one's own (`.R`, `.cpp`). `players`: words or a file, as
#'   games take them. `counts`: a file or words, or the arguments of [counting_system()]. Any of them may be a call,
#'   `{function: {argument: value}}`, as a run is.
#' - `runs`: a name, and under it one function of this package that gives a result, with its arguments by name, or its
#'   first argument alone. An argument that takes a deck, a game and so on takes a name that the study defines; a run
#'   may be named where a result is wanted (`compare: {x: one run, y: another}`).
#' - `expect`: by the name of a run a condition, or several, on what its `tidy()` tells: on terms, which holds surely,
#'   surely not, or is open, as in [tune_rules()]; or on columns, which must hold in every row.
#' - `report`: what the page shows and in which order: `run`, with a `title` where one is wanted, and `words`, in
#'   Markdown. Without it: all runs as they stand.
#'
#' Files are looked for in the folder of the study. A study runs no R code but that of a file of a game that it names.
#' References and tags of YAML are not read. A JSON Schema for editors is at
#' `system.file("study", "schema.json", package = "habanera")`.
#'
#' @param file A study, `.yaml` or `.json`.
#' @param study A study, or its file.
#' @return `read_study()`: a study, which prints what is in it. `study_code()`: the lines of an R script that does the
#'   same, to be run in the folder of the study.
#' @section Errors: `habanera_error_study` for what cannot be: the error names the line, the key, and what may stand
#'   there; `habanera_error_file` for what is no YAML.
#' @seealso [run_study()], and `habanera study --help`.
#' @examples
#' month <- read_study(demo_file("month.yaml"))
#' month
#' head(study_code(month), 12)
#' @export
read_study <- function(file) {
  check_given()
  call <- rlang::current_env()
  check_string(file)
  if (!file_kind(file) %in% c("yaml", "yml", "json")) {
    refuse(sprintf("Studies are read from .yaml, .yml and .json, not from %s.", file_name(file)), "file")
  }
  data <- list_data(file, call)
  study <- list(file = file, folder = normalizePath(dirname(file)), lines = read_text_lines(file, call))
  place <- list(study = study, path = character())
  if (!is.list(data) || is.null(names(data))) {
    refuse_at(place, sprintf("a study holds %s by name", join_words(study_keys)))
  }
  refuse_keys(names(data), study_keys, "a study", place)
  study$title <- checked_title(data[["title"]], inside(place, "title"))
  study$seed <- checked_study_seed(data[["seed"]], inside(place, "seed"))
  study$names <- defined_names(data, place)
  study$entries <- study_entries(data, study)
  refuse_circles(study)
  study$expect <- checked_expectations(data[["expect"]], study)
  study$report <- checked_layout(data[["report"]], study)
  structure(study, class = "habanera_study")
}

checked_title <- function(title, place) {
  if (rlang::is_string(title) && nzchar(trimws(title))) return(title)
  refuse_at(place, "a study has a title, a line \"title: A month at the hall\"")
}

checked_study_seed <- function(seed, place) {
  fits <- is.numeric(seed) && length(seed) == 1 && is.finite(seed) && seed == floor(seed) && seed >= 0 && seed < 2^53
  if (fits) return(as.double(seed))
  refuse_at(place, sprintf("a study has a seed, a whole number of 0 or more as in \"seed: 44\", not %s", said(seed)))
}

# What is defined: `name`, `section` and the `variable` that it is in R.
defined_names <- function(data, place) {
  found <- lapply(c(study_sections, "runs"), function(section) {
    entries <- data[[section]]
    if (is.null(entries)) return(NULL)
    if (!is.list(entries) || is.null(names(entries))) {
      refuse_at(inside(place, section), sprintf("it must hold %s by name", section))
    }
    data.frame(name = names(entries), section = section)
  })
  names <- do.call(rbind, found)
  if (is.null(names) || !"runs" %in% names$section) {
    refuse_at(place, "a study has runs: under \"runs:\" a name, and under it what is asked, as in \"exact: stall\"")
  }
  twice <- names[duplicated(names$name), , drop = FALSE]
  if (nrow(twice)) {
    refuse_at(inside(inside(place, twice$section[1]), twice$name[1]),
              sprintf("%s is defined twice; give one of them another name", quoted(twice$name[1])))
  }
  bad <- names$name[!nzchar(trimws(names$name)) | nchar(names$name) > 200 | grepl("[[:cntrl:]]", names$name)]
  if (length(bad)) refuse_at(place, sprintf("%s is no name: it must have 1 to 200 characters", quoted(bad[1])))
  names$variable <- make.unique(make.names(gsub("[^[:alnum:]]+", "_", names$name)), sep = "_")
  names
}

study_entries <- function(data, study) {
  entries <- Map(function(name, section, variable) {
    place <- list(study = study, path = c(section, name))
    call <- call_of_entry(data[[section]][[name]], section, place)
    list(name = name, section = section, variable = variable, call = call, line = line_of(place),
         needs = intersect(all.vars(call), study$names$variable))
  }, study$names$name, study$names$section, study$names$variable)
  rlang::set_names(unname(entries), study$names$variable)
}

# What leads back to itself cannot be made.
refuse_circles <- function(study) {
  sound <- character()
  follow <- function(variable, from) {
    if (variable %in% sound) return(invisible())
    if (variable %in% from) {
      circle <- c(from[match(variable, from):length(from)], variable)
      names <- vapply(study$entries[circle], `[[`, "", "name")
      entry <- study$entries[[variable]]
      refuse_at(list(study = study, path = c(entry$section, entry$name)),
                sprintf("it leads back to itself: %s", paste(quoted(names), collapse = " needs ")))
    }
    if (length(from) > most_in_chain) {
      refuse_at(list(study = study, path = character()),
                sprintf("more than %d entries need one another", most_in_chain))
    }
    for (needed in study$entries[[variable]]$needs) follow(needed, c(from, variable))
    sound <<- c(sound, variable)
  }
  for (variable in names(study$entries)) follow(variable, character())
}

most_in_chain <- 100

as_study <- function(study) {
  if (inherits(study, "habanera_study")) return(study)
  if (rlang::is_string(study)) return(read_study(study))
  refuse(sprintf("`study` must be a study, or its file, not %s.", said(study)), call = NULL)
}

#' @export
print.habanera_study <- function(x, ...) {
  cat_wrapped(sprintf("<study> %s: %s.", x$title, what_it_holds(x)))
  writeLines(run_lines(x))
  invisible(x)
}

run_lines <- function(study) {
  runs <- Filter(function(entry) entry$section == "runs", study$entries)
  told <- vapply(runs, function(entry) sprintf("%s: %s", entry$name, expression_text(entry$call)), "")
  strwrap(told, getOption("width"), indent = 2, exdent = 4)
}

# "12 runs on 1 deck and 3 games".
what_it_holds <- function(study) {
  sections <- table(factor(study$names$section, c("runs", study_sections)))
  sections <- sections[sections > 0]
  told <- sprintf("%d %s", sections, ifelse(sections == 1, sub("s$", "", names(sections)), names(sections)))
  if (length(told) == 1) told else paste(told[1], "on", join_words(told[-1]))
}
