# What a study says, as R calls: the same that study_code() writes out are made by run_study(). `place` tells where
# a value stands: the `study` with the names that it defines (`names`, by which variable each is called), and the keys
# that lead there (`path`).

call_of_entry <- function(value, section, place) {
  as_call <- called_function(value)
  if (section == "runs" && is.null(as_call)) refuse_no_call(value, place)
  if (!is.null(as_call)) return(function_call(as_call, value[[1]], inside(place, as_call)))
  if (rlang::is_string(value)) return(call_of_text(value, section, place))
  constructor <- c(draws = "draws", counts = "counting_system", games = "game")[section]
  if (is.list(value) && !is.null(names(value)) && !is.na(constructor)) {
    if (section == "games") names(value)[names(value) == "game"] <- "name"
    return(function_call(unname(constructor), value, place))
  }
  example <- switch(section, decks = "orchard.csv, or {deck_numbered: {n: 36}}", shuffles = "riffle x7",
                    players = "basic, or {player_stands_on: {total: 15}}",
                    sprintf("{game: %s}", names(game_kinds())[1]))
  refuse_at(place, sprintf("it must be told as in %s, not by %s", example, said(value)))
}

# The name of the function, where a value is {function: arguments}.
called_function <- function(value) {
  one <- is.list(value) && length(value) == 1 && !is.null(names(value))
  if (one && names(value) %in% c(study_functions(), not_in_studies)) names(value)
}

refuse_no_call <- function(value, place) {
  names <- if (is.list(value)) names(value)
  how <- "a run is {function: {argument: value}}, as in {simulate: {object: stall, nsim: 1e5}}"
  unknown <- setdiff(names, study_functions())
  if (length(names) > 1 && length(unknown) < length(names)) {
    refuse_at(place, sprintf("%s; here are several keys, %s: indent what belongs to the first under it", how,
                             join_some(names)))
  }
  if (!length(unknown)) refuse_at(place, how)
  refuse_at(inside(place, unknown[1]), sprintf("there is no function %s for a run%s %s", quoted(unknown[1]),
                                               did_you_mean(unknown[1], study_functions()), sentence(how)))
}

# Decks, shuffles, games and counts by words or files.
call_of_text <- function(text, section, place) {
  switch(section, decks = rlang::call2("deck_from", text), shuffles = rlang::call2("procedure", text),
         games = game_call(text, place), counts = rlang::call2("counting_system", text), players = text,
         refuse_at(place, sprintf("it must be told as in {deck: orchard, size: 3}, not by %s", said(text))))
}

game_call <- function(text, place) {
  # The one way in which R code comes into a study: a file of it that is named.
  if (is_game_file(text)) return(call("$", call("source", text), quote(value)))
  if (is_cpp_file(text)) return(rlang::call2("game_cpp", text))
  if (!file_kind(text) %in% c("yaml", "yml", "json")) return(rlang::call2("game", text))
  rules <- in_folder(place$study, list_data(text, NULL))
  if (!rlang::is_string(rules[["game"]])) {
    refuse_at(place, sprintf("%s does not say of which game its rules are: give it a line \"game: %s\"", quoted(text),
                             names(game_kinds())[1]))
  }
  rlang::call2("game", rules[["game"]], rules = text)
}

function_call <- function(name, arguments, place) {
  if (name %in% not_in_studies) refuse_at(place, sprintf("%s() has no place in a study", name))
  if (is.null(arguments)) arguments <- list()
  known <- argument_names(name)
  # What is no list of arguments is the first one.
  is_first <- if (is.list(arguments)) !is.null(called_function(arguments)) && !names(arguments) %in% known else
    is.null(names(arguments))
  if (is_first) arguments <- list(arguments)
  # A seed of null is none.
  arguments <- as.list(arguments)
  if ("seed" %in% names(arguments) && is.null(arguments[["seed"]])) arguments <- arguments[names(arguments) != "seed"]
  named <- rlang::names2(arguments)
  for (argument in named[nzchar(named)]) refuse_argument(argument, name, known, place)
  position <- cumsum(!nzchar(named))
  meant <- ifelse(nzchar(named), named, ifelse(name == "edge_table", "x", known[position]))
  values <- Map(function(value, argument) {
    study_argument(value, argument, name, known, inside(place, argument))
  }, arguments, meant)
  seed <- if ("seed" %in% known && !"seed" %in% named && takes_study_seed(name)) list(seed = place$study$seed)
  as.call(c(as.symbol(name), rlang::set_names(unname(values), named), seed))
}

# A deck that is sampled once is part of what is asked, and so has the study's seed, too.
takes_study_seed <- function(name) !name %in% c("replay", "trials", "diagnose", "follow", "shuffle")

refuse_argument <- function(argument, name, known, place) {
  if (argument %in% minded_by_the_study) {
    refuse_at(inside(place, argument), sprintf("`%s` is minded by the study itself; leave it out", argument))
  }
  if (argument %in% known || name %in% takes_any_name) return(invisible())
  refuse_at(inside(place, argument), sprintf("%s() has no argument %s%s It takes %s", name, quoted(argument),
                                             did_you_mean(argument, known),
                                             join_words(setdiff(known, minded_by_the_study))))
}

study_argument <- function(value, argument, name, known, place) {
  expressions <- expression_arguments[[name]]
  is_expression <- argument %in% expressions || ("..." %in% expressions && !argument %in% known)
  if (is_expression && rlang::is_string(value)) return(question_code(value, place))
  if (name == "edge_table" && !argument %in% known) argument <- "x"
  value_as_code(value, argument, place)
}

# Read, and held to the words of questions before R sees it.
question_code <- function(text, place) {
  expr <- tryCatch(parse_expression(text, "question", NULL), habanera_error = function(cnd) {
    refuse_at(place, sub("[.]$", "", rlang::cnd_message(cnd)))
  })
  other <- setdiff(called_names(expr), c(names(language_functions), hand_words, turn_words))
  if (length(other)) {
    near <- did_you_mean_function(other[1], c(names(language_functions), hand_words))
    refuse_at(place, sprintf("%s cannot be used in a question%s", quoted(other[1]), near))
  }
  expr
}

called_names <- function(expr) {
  if (!is.call(expr)) return(NULL)
  unique(c(expression_text(expr[[1]]), unlist(lapply(as.list(expr)[-1], called_names))))
}

value_as_code <- function(value, argument, place) {
  if (is.null(value)) return(NULL)
  name <- called_function(value)
  if (!is.null(name)) return(function_call(name, value[[1]], inside(place, name)))
  if (rlang::is_string(value)) return(text_code(value, argument, place))
  if (is.integer(value)) value <- as.double(value)
  if (!is.list(value)) return(if (length(value) == 1) value else many_as_code(as.list(value), argument, place))
  many_as_code(value, argument, place)
}

many_as_code <- function(values, argument, place) {
  names <- rlang::names2(values)
  parts <- Map(function(value, name) {
    value_as_code(value, argument, if (nzchar(name)) inside(place, name) else place)
  }, values, names)
  alike <- vapply(parts, function(part) is.atomic(part) && length(part) == 1, NA)
  numbers <- all(vapply(parts, is.numeric, NA))
  same <- length(unique(vapply(parts, typeof, ""))) == 1
  gathered <- if (length(parts) && all(alike) && (numbers || (same && !any(nzchar(names))))) "c" else "list"
  as.call(c(as.symbol(gathered), if (any(nzchar(names))) rlang::set_names(unname(parts), names) else unname(parts)))
}

# A text: a name of the study's, a number that YAML does not know, numbers from one to another, or as it stands.
text_code <- function(text, argument, place) {
  sections <- naming_arguments[[argument]]
  if (!is.null(sections)) {
    variable <- variable_of(text, sections, place)
    if (!is.null(variable)) return(as.symbol(variable))
    if (argument %in% only_naming) refuse_unknown_name(text, place)
    if (argument == "deck") return(call("deck_from", text))
    return(text)
  }
  if (grepl("^[0-9]+([.][0-9]+)?[eE][+-]?[0-9]+$", text)) return(as.numeric(text))
  if (grepl("^[0-9]{1,9}:[0-9]{1,9}$", text)) {
    ends <- as.numeric(strsplit(text, ":", fixed = TRUE)[[1]])
    return(call(":", ends[1], ends[2]))
  }
  text
}

variable_of <- function(text, sections, place) {
  known <- place$study$names
  if (!identical(sections, "any")) known <- known[known$section %in% c(sections, "runs"), , drop = FALSE]
  at <- match(text, known$name)
  if (!is.na(at)) known$variable[at]
}

refuse_unknown_name <- function(text, place) {
  known <- place$study$names$name
  refuse_at(place, sprintf("it refers to %s, which the study does not define%s It defines %s", quoted(text),
                           did_you_mean(text, known), if (length(known)) join_some(known, 12) else "nothing"))
}
