# What makes a hand better than another, as a rule of a game: rules for hands, or an R function.

rule_strength <- function(meaning) {
  allowed <- "hand_rules(), or a function of a seat's own cards and those that all see, which gives a number"
  new_rule("strength", hand_rules(), allowed, meaning, usual = "hand_rules()", beside = TRUE,
           check = function(value, name, call) {
    if (is.function(value) || inherits(value, "habanera_hand_rules")) return(value)
    if (rlang::is_string(value)) return(check_hand_rules(value, call))
    # As files hold them.
    known <- names(formals(hand_rules))
    if (is.list(value) && all(rlang::names2(value) %in% known)) return(do.call(hand_rules, lapply(value, unlist)))
    refuse(sprintf("`%s` must be %s, not %s.", name, allowed, said(value)), call = call)
  })
}

#' @export
rule_text.habanera_hand_rules <- function(value) {
  usual <- hand_rules(size = value$size)
  paste(c(sprintf("the best %s of a hand count", count_of(value$size, "card")),
          if (!identical(value$categories, usual$categories)) join_words(value$categories),
          if (!is.null(value$wild)) sprintf("wild: %s", value$wild),
          if (value$ace != "both") sprintf("the ace is %s", value$ace)), collapse = "; ")
}

#' @export
typed_rule.habanera_hand_rules <- function(value) NULL

#' @export
plain_rule.habanera_hand_rules <- function(value) {
  set <- changed_hand_rules(value)
  if (length(set)) set else list(size = 5)
}

#' @export
rule_code.habanera_hand_rules <- function(value) {
  set <- changed_hand_rules(value)
  sprintf("hand_rules(%s)", paste(names(set), vapply(set, rule_code, ""), sep = " = ", collapse = ", "))
}

#' @export
rule_text.function <- function(value) "by an R function"

#' @export
typed_rule.function <- function(value) NULL

# A function stands in a file as its code, which tells runs apart but is not read again.
#' @export
plain_rule.function <- function(value) paste(deparse(value), collapse = "\n")

#' @export
rule_code.function <- function(value) paste(deparse(value), collapse = "\n")
