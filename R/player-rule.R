# Players as the value of a rule: see rule-words.R.

#' @export
rule_text.habanera_players <- function(value) paste(player_labels(value), collapse = ", ")

#' @export
typed_rule.habanera_players <- function(value) paste(player_texts(value), collapse = ",")

function_player_code <- function(player) {
  sprintf("player_with(%s, %s)", paste(deparse(player$f), collapse = "\n"), as_code(player$label))
}

# As files hold them. A function stands there as its code, which tells runs apart but is not read again.
#' @export
plain_rule.habanera_players <- function(value) {
  vapply(value, function(player) if (is.null(player$f)) player_text(player) else function_player_code(player), "")
}

#' @export
rule_code.habanera_players <- function(value) {
  code <- vapply(value, function(player) {
    if (!is.null(player$f)) return(function_player_code(player))
    if (player$name == "strategy") return(strategy_code(player))
    if (player$name == "table") {
      return(sprintf("player_by_table(%s, %s)", rule_code(player$rows), as_code(player$label)))
    }
    if (player$name == "by_rules") {
      lines <- vapply(player$lines, function(line) as_code(line$text), "")
      return(sprintf("player_by_rules(%s, name = %s)", paste(lines, collapse = ", "), as_code(player$label)))
    }
    if (!player$name %in% names(player_makers())) return(as_code(player$name))
    values <- vapply(player$settings, function(value) {
      if (inherits(value, "habanera_players")) return(rule_code(value))
      if (inherits(value, "habanera_player")) return(rule_code(new_players(list(value))))
      as_code(if (is.object(value)) format(value) else value)
    }, "")
    settings <- sprintf("%s = %s", names(values), values)
    sprintf("player_%s(%s)", player$name, paste(settings, collapse = ", "))
  }, "")
  if (length(code) == 1) code else sprintf("list(%s)", paste(code, collapse = ", "))
}

#' @export
value_code.habanera_player <- function(x) rule_code(new_players(list(x)))
