# What a rule of a game may be. A rule is a list of `name`, `default`, `allowed` (in words), `meaning`, `check` (a
# function of value, name and call that returns the value) and `beside` (whether a text in a file of rules may name a
# file that lies beside it), and the values that rule_effects() `tries`, a list. `usual` tells help pages of a default
# that code would not.

new_rule <- function(name, default, allowed, meaning, check, beside = FALSE, usual = rule_code(default),
                     tries = list()) {
  list(name = name, default = default, allowed = allowed, meaning = meaning, check = check, beside = beside,
       usual = usual, tries = as.list(tries), checked_default = checked_once(check, default, name))
}

# A default as it comes out of the check, which is asked for with every game made.
checked_once <- function(check, default, name) {
  value <- NULL
  function() {
    if (is.null(value)) value <<- check(default, name, NULL)
    value
  }
}

check_rule_words <- function(name, meaning, without, call) {
  check_string(name, "name", call)
  if (!rlang::is_string(meaning)) check_string(meaning, "meaning", call)
  if (!is.null(without)) check_string(without, "without", call)
}

#' Rules of a game of one's own
#'
#' What a rule may be: its default, which values are allowed, and what it means. For `rules` of [game_custom()].
#'
#' @param name Its name, in small letters.
#' @param default The value where none is given.
#' @param choices Texts, the first is the default.
#' @param from,to The smallest and the largest value.
#' @param meaning What it is, in a few words.
#' @param without What no value (NULL) means; `NULL`: there must be one.
#' @param tries Values that are tried where each rule is changed alone.
#' @return A rule, a list.
#' @examples
#' list(rule_whole("cards", 5, 1, 10, "cards dealt to each seat"),
#'      rule_flag("partners", FALSE, "two and two together"),
#'      rule_choice("trump", c("spades", "none"), "the suit that beats all others"))
#' @name own_rules
NULL

#' @rdname own_rules
#' @export
rule_choice <- function(name, choices, meaning) {
  check_given()
  call <- rlang::current_env()
  check_rule_words(name, meaning, NULL, call)
  if (!is.character(choices) || !length(choices) || anyNA(choices)) {
    refuse(sprintf("`choices` must be texts, the first of which is the default, not %s.", said(choices)), call = call)
  }
  new_rule(name, choices[1], paste("one of", join_words(choices, "or")), meaning, function(value, name, call) {
    check_choice(value, choices, name, call)
  }, tries = choices)
}

#' @rdname own_rules
#' @export
rule_whole <- function(name, default, from, to, meaning, without = NULL, tries = list()) {
  check_given()
  call <- rlang::current_env()
  check_rule_words(name, meaning, without, call)
  check_whole(from, -2^53, name = "from", call = call)
  if (!identical(to, Inf)) check_whole(to, from, name = "to", call = call)
  allowed <- paste0("a whole number ", range_words(from, to), if (!is.null(without)) paste(", or NULL:", without))
  new_rule(name, default, allowed, meaning, function(value, name, call) {
    if (is.null(value) && !is.null(without)) return(NULL)
    check_whole(value, from, to, name, call)
  }, tries = tries)
}

#' @rdname own_rules
#' @export
rule_flag <- function(name, default, meaning) {
  check_given()
  check_rule_words(name, meaning, NULL, rlang::current_env())
  new_rule(name, default, "TRUE or FALSE", meaning, function(value, name, call) {
    # As YAML has it.
    check_flag(if (identical(value, "yes")) TRUE else if (identical(value, "no")) FALSE else value, name, call)
  }, tries = c(TRUE, FALSE))
}

rule_attribute <- function(name, default, meaning, number = TRUE) {
  new_rule(name, default, paste0("an attribute of the cards", if (number) " that is a number"), meaning,
           function(value, name, call) {
    check_string(value, name, call)
  })
}

rule_word <- function(name, default, meaning) {
  new_rule(name, default, "a text", meaning, function(value, name, call) check_string(value, name, call))
}

rule_deck <- function(meaning, default = deck_standard(), usual = "deck_standard()") {
  new_rule("deck", default, "cards", meaning, beside = TRUE, usual = usual, check = function(value, name, call) {
    if (is.character(value)) value <- deck_from(check_string(value, name, call))
    check_deck(value, call)
  })
}

# Their values by default, in words, by name.
default_texts <- function(kind) {
  rlang::set_names(vapply(kind$rules, function(rule) rule_text(rule$checked_default()), ""), rule_names(kind))
}

rule_names <- function(kind) vapply(kind$rules, `[[`, "", "name")

# Values as given, with the defaults of those that are not, each checked.
checked_rules <- function(kind, given, call) {
  known <- rule_names(kind)
  refuse_unknown_rules(kind, given, call)
  rules <- lapply(kind$rules, function(rule) {
    value <- if (rule$name %in% names(given)) given[[rule$name]] else rule$default
    rule$check(value, rule$name, call)
  })
  rules <- rlang::set_names(rules, known)
  kind$contradictions(rules, names(changed_rules(kind, rules)), call)
  rules
}

refuse_unknown_rules <- function(kind, given, call) {
  names <- rlang::names2(given)
  if (any(!nzchar(names))) {
    refuse(sprintf("Rules are given by name, as in %s(%s = %s).", kind$constructor, kind$rules[[2]]$name,
                   as_code(kind$rules[[2]]$default)), "rules", call)
  }
  if (anyDuplicated(names)) {
    refuse(sprintf("The rule `%s` is given twice.", names[duplicated(names)][1]), "rules", call)
  }
  unknown <- setdiff(names, rule_names(kind))
  if (!length(unknown)) return(invisible())
  refuse(sprintf("%s has no rule `%s`%s Its rules are %s.", kind$title, unknown[1],
                 did_you_mean(unknown[1], rule_names(kind)), join_words(rule_names(kind))), "rules", call)
}

# The rules that differ from their defaults.
changed_rules <- function(kind, rules) {
  differs <- vapply(kind$rules, function(rule) !identical(rules[[rule$name]], rule$checked_default()), TRUE)
  rules[rule_names(kind)[differs]]
}
