deck_command <- function() {
  new_command(
    "deck", "Shows a deck: in order, shuffled, dealt out, or with its attributes.",
    "deck [DECK] [OPTIONS]",
    c(list(
      cli_option("shuffle", "Shuffle it first"),
      cli_option("seed", "Seed of the shuffle and of --sampled [a new one]", "S"),
      cli_option("trial", "Trial of the shuffle [1]", "K", "1"),
      cli_option("deal", "Deal this many hands", "HANDS"),
      cli_option("size", "Cards for each hand [all]", "N"),
      cli_option("pattern", "Deal in turn or in blocks: alternate or block", "WORD", "alternate"),
      cli_option("grid", "Lay it out as on a table, such as 4x13", "RxC"),
      cli_option("attributes", "List every card with its attributes")
    ), sampled_options(), common_options()),
    c("habanera deck", "habanera deck \"standard packs=2 jokers=1\" --shuffle --seed 1",
      "habanera deck orchard.csv --attributes",
      "habanera deck --shuffle --seed 1 --deal 4 --size 5 --format csv"),
    run_deck
  )
}

run_deck <- function(options, arguments) {
  deck <- deck_from(if (length(arguments)) paste(arguments, collapse = " ") else "standard")
  deck <- sampled_for_shell(deck, options, deck_command())
  if (options$shuffle) deck <- shuffle_for_shell(deck, options)
  hands <- option_number(options, "deal")
  shown <- if (is.null(hands)) deck else {
    deal(deck, hands, option_number(options, "size"),
         option_word(options, "pattern", c("alternate", "block")))
  }
  emit_deck(shown, options)
  exit_status[["done"]]
}

shuffle_for_shell <- function(deck, options) {
  seed <- resolve_seed(option_number(options, "seed"))
  inform_user(sprintf("Shuffled with seed %s, trial %s.", whole_code(seed), options$trial))
  shuffle(deck, seed = seed, trial = option_number(options, "trial"))
}

emit_deck <- function(shown, options) {
  format <- result_format(options)
  if (format == "text" && !options$attributes) {
    return(emit_or_write(printed_lines(shown, options$out, grid = option_grid(options$grid)), options$out))
  }
  table <- if (is_cards(shown)) card_attributes(shown) else dealt_table(shown)
  if (format != "text") return(emit_table(table, options))
  emit_or_write(lines_printed(function() print_rows(table)), options$out)
}

dealt_table <- function(hands) {
  cards <- do.call(c, unname(unclass(hands)))
  cbind(hand = rep(names(hands), lengths(hands)), card_attributes(cards))
}
