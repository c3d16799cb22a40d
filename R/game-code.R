# The code that gives a game back.

#' @export
experiment_code.habanera_game <- function(experiment) {
  kind <- kind_of(experiment)
  rules <- changed_rules(kind, experiment$rules)
  deck <- rules$deck
  rules$deck <- NULL
  if (!is.null(experiment$piles)) rules[kind$can$takes_piles$told] <- NULL
  file <- kind$can$compiled$file
  settings <- paste(c(if (!is.null(file)) as_code(file), game_r_settings(experiment, rules, deck)), collapse = ", ")
  list(r = kind$made_by(kind, settings), shell = game_shell(experiment, kind, rules))
}

game_r_settings <- function(game, rules, deck) {
  c(if (!is.null(deck)) paste("deck =", deck_code(deck)),
    sprintf("%s = %s", names(rules), vapply(rules, rule_code, "")),
    if (is.null(game$piles)) shuffle_setting(game$shuffle)$r else piles_code(game$piles),
    if (!is.null(game$settings$seat_names)) paste("seat_names =", as_code(game$seat_names)),
    if (!identical(game$record, game$usual_record)) paste("record =", as_code(game$record)))
}

piles_code <- function(piles) {
  cards <- vapply(piles, function(pile) as_code(paste(as.character(pile), collapse = ", ")), "")
  if (!is.null(names(piles))) cards <- sprintf("`%s` = %s", names(piles), cards)
  sprintf("piles = list(%s)", paste(cards, collapse = ", "))
}

# NULL when the shell cannot say it.
game_shell <- function(game, kind, rules) {
  deck <- deck_option(game$rules$deck)
  if (is.null(deck) || !is.null(game$piles) || has_r_function(game)) return(NULL)
  typed <- lapply(rules, typed_rule)
  if (any(vapply(typed, is.null, TRUE))) return(NULL)
  set <- sprintf(" --set %s=%s", names(rules), vapply(typed, shell_word, ""))
  named <- if (is.null(kind$can$compiled$file)) kind$name else shell_word(kind$can$compiled$file)
  paste0("habanera play ", named, paste(set, collapse = ""), deck, shuffle_setting(game$shuffle)$shell,
         if (!is.null(game$settings$seat_names)) {
           paste(" --seat-names", shell_word(paste(game$seat_names, collapse = ",")))
         },
         if (!identical(game$record, game$usual_record)) paste0(" --record ", paste(game$record, collapse = ",")))
}
