needed_command <- function() {
  new_command(
    "needed", "How many draws it takes to see that a card comes up too often.", "needed [OPTIONS]",
    c(list(
      cli_option("deck", "As in habanera draws [standard]", "DECK", "standard"),
      cli_option("size", "Cards in a draw [5]", "K", "5"),
      cli_option("replace", "Put each card back before the next"),
      cli_option("card", "The card [the first]", "CARD"),
      cli_option("off-by", "How much too often, as a share: 0.1 is a tenth more [0.1]", "SHARE"),
      cli_option("tampered", "Instead: the share of hands that are made to hold a pair", "SHARE"),
      cli_option("level", "Chance of calling fair draws biased [0.05]", "P", "0.05"),
      cli_option("power", "Chance of finding it [0.95]", "P", "0.95")
    ), common_options()),
    c("habanera needed --off-by 0.05", "habanera needed --deck orchard.csv --size 3 --card 11P",
      "habanera needed --size 5 --tampered 0.06 --level 0.01"),
    run_needed
  )
}

run_needed <- function(options, arguments) {
  refuse_arguments(needed_command(), arguments)
  tampered <- option_number(options, "tampered")
  off_by <- option_number(options, "off-by")
  if (is.null(off_by) && is.null(tampered)) off_by <- 0.1
  found <- draws_needed(deck_from(options$deck), option_number(options, "size"), off_by, options$card, options$replace,
                        option_number(options, "level"), option_number(options, "power"), tampered)
  if (result_format(options) == "text") {
    emit_or_write(aligned_lines(data.frame(test = found$test, draws = format_count(found$trials))), options$out)
  } else {
    emit_table(found, options)
  }
  exit_status[["done"]]
}
