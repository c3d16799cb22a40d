# Given piles: one for each seat, the top card first.

# From a list of cards or texts, a trace's piles or a file: a list of cards, named where the source has names.
given_piles <- function(piles, rules, call) {
  if (inherits(piles, "habanera_piles")) refuse_cards_between(piles, call)
  if (is_one_text(piles)) piles <- piles_from_file(piles, call)
  source <- if (is.null(attr(piles, "file"))) "`piles`" else file_name(attr(piles, "file"))
  if (!is.list(piles) && !is.character(piles)) {
    refuse(sprintf("`piles` must be a list of cards, one pile for each seat, or a file, not %s.", said(piles)),
           "rules", call)
  }
  catalogue <- catalogue_of(rules$deck)
  read <- Map(function(pile, i) {
    if (is_cards(pile)) return(if (length(pile)) as_cards(pile, like = rules$deck) else rules$deck[0])
    pieces <- pile_pieces(pile, catalogue)
    codes <- coded_pieces(pieces, catalogue)$codes
    if (anyNA(codes)) refuse_pile_card(piles, i, pieces[is.na(codes)][1], source, catalogue, call)
    new_cards(codes, catalogue)
  }, unname(as.list(unclass(piles))), seq_along(piles))
  names(read) <- names(piles)
  refuse_foreign_cards(read, rules$deck, source, call)
  read
}

is_one_text <- function(x) is.character(x) && length(x) == 1 && is.null(names(x))

pile_pieces <- function(pile, catalogue) {
  pieces <- unlist(line_pieces(as.character(unlist(pile)), catalogue))
  parted_codes(if (is.null(pieces)) character() else pieces, catalogue)
}

refuse_pile_card <- function(piles, i, piece, source, catalogue, call) {
  lines <- attr(piles, "lines")
  where <- if (!is.null(lines)) sprintf("line %d",
                                        lines[[i]][match(TRUE, grepl(piece, piles[[i]], fixed = TRUE))]) else {
    sprintf("pile %s", if (is.null(names(piles))) i else quoted(names(piles)[i]))
  }
  refuse(sprintf("%s: %s: unknown card %s. %s%s", source, where, quoted(piece), code_rule(catalogue),
                 code_hint(piece, catalogue)), "notation", call)
}

# The deck that piles are of, where none is given: cards tell their own, numbers a numbered deck; otherwise it is the
# standard one.
deck_of_piles <- function(piles, call) {
  if (is_one_text(piles)) piles <- piles_from_file(piles, call)
  piles <- as.list(unclass(piles))
  if (all(vapply(piles, is_cards, TRUE)) && length(piles)) {
    all <- do.call(c, unname(piles))
    if (catalogue_of(all)$id != standard_catalogue$id) return(all)
  }
  pieces <- pile_pieces(lapply(piles, as.character), standard_catalogue)
  number <- written_numbers(pieces)
  if (length(pieces) && !anyNA(number) && all(number >= 1 & number == floor(number) & number <= most_cards)) {
    # A number that lies there several times is there so often.
    return(rep(deck_numbered(max(number)), times = pmax(1, tabulate(number, max(number)))))
  }
  deck_standard(jokers = sum(toupper(pieces) %in% "JOKER"))
}

refuse_cards_between <- function(piles, call) {
  zones <- attributes(piles)[attr(piles, "zones")]
  held <- names(zones)[lengths(zones) > 0]
  if (!length(held)) return(invisible())
  refuse(sprintf(paste("At step %s %s in the %s; go on from the beginning of a round, as in",
                       "piles_at(trace, round = %s)."), format_count(attr(piles, "step")),
                 if (length(zones[[held[1]]]) == 1) "a card lies" else "cards lie", held[1],
                 format_count(attr(piles, "round"))), "rules", call)
}

refuse_foreign_cards <- function(piles, deck, source, call) {
  all <- do.call(c, unname(piles))
  if (!length(all)) refuse("`piles` hold no cards.", "rules", call)
  kinds <- kinds_of(deck)
  held <- table(factor(as.character(all), levels = unique(as.character(all))))
  has <- kinds$copies[match(names(held), kinds$cards)]
  has[is.na(has)] <- 0
  over <- which(held > has)
  if (!length(over)) return(invisible())
  card <- names(held)[over[1]]
  refuse(sprintf("%s: card %s is there %s; the deck has it %s.", source, quoted(card), times_in_words(held[[over[1]]]),
                 times_in_words(has[over[1]])), "conservation", call)
}

times_in_words <- function(n) if (n == 1) "once" else if (n == 0) "not at all" else paste(format_count(n), "times")

# A list of texts by name; `lines` tells where each stands. Piles may also be typed, as in "AS KD | 2S 3H".
piles_from_file <- function(file, call) {
  check_utf8(file, "piles", call)
  typed <- grepl("|", file, fixed = TRUE) && !names_a_file(file)
  lines <- if (typed) strsplit(file, "|", fixed = TRUE)[[1]] else read_text_lines(file, call)
  kind <- if (typed) "txt" else file_kind(file)
  read <- switch(kind, csv = piles_from_csv, yaml = , yml = piles_from_yaml, piles_from_blocks)
  entries <- refuse_if_fails(read(lines, file, call), sprintf("Cannot read %s as piles.", file_name(file)), "file",
                             call)
  seats <- factor(entries$seat, levels = unique(entries$seat))
  structure(split(entries$card, seats), file = file,
            lines = if (!anyNA(entries$line)) split(entries$line, seats))
}

# A line for each pile, or "name:" before the cards of each, which may then take several lines.
piles_from_blocks <- function(lines, file, call) {
  text <- trimws(sub("#.*$", "", lines))
  is_head <- grepl(":", text, fixed = TRUE)
  used <- which(nzchar(text) & !grepl(":$", text))
  if (!any(is_head)) return(data.frame(seat = seq_along(used), card = text[used], line = used))
  block <- cumsum(is_head)
  early <- used[block[used] == 0]
  if (length(early)) {
    refuse(sprintf("%s: line %d holds cards before any \"name:\".", file_name(file), early[1]), "file", call)
  }
  names <- trimws(sub(":.*$", "", text[is_head]))
  refuse_doubled_heads(names, which(is_head), file, call)
  data.frame(seat = names[block[used]], card = trimws(sub("^.*:", "", text[used])), line = used)
}

refuse_doubled_heads <- function(names, lines, file, call) {
  again <- which(duplicated(names))
  if (!length(again)) return(invisible())
  refuse(sprintf("%s: line %d names %s a second time.", file_name(file), lines[again[1]], quoted(names[again[1]])),
         "file", call)
}

piles_from_csv <- function(lines, file, call) {
  at <- which(!grepl("^#", lines) & nzchar(trimws(lines)))
  data <- listing_from_csv(lines, file, call)
  if (!all(c("seat", "card") %in% names(data))) {
    refuse(sprintf("%s needs the columns `seat` and `card`, a row for each card, the top one first.", file_name(file)),
           "file", call)
  }
  data.frame(seat = as.character(data$seat), card = as.character(data$card), line = at[-1][seq_len(nrow(data))])
}

piles_from_yaml <- function(lines, file, call) {
  data <- yaml_data(paste(lines, collapse = "\n"), file, call)
  if (!is.list(data) || is.null(names(data))) {
    refuse(sprintf("%s must hold a list of cards for each name.", file_name(file)), "file", call)
  }
  cards <- lapply(data, function(pile) as.character(unlist(pile)))
  data.frame(seat = rep(names(cards), times = lengths(cards)), card = as.character(unlist(cards)), line = NA_integer_)
}

#' @export
print.habanera_piles <- function(x, ...) {
  cat(sprintf("<piles> round %s, step %s\n", format_count(attr(x, "round")), format_count(attr(x, "step"))))
  zones <- c(lapply(unclass(x), identity), Filter(length, attributes(x)[attr(x, "zones")]))
  width <- max(nchar(names(zones)))
  for (name in names(zones)) {
    cards <- zones[[name]]
    text <- paste(paint_suits(format(cards), cards), collapse = " ")
    cat(sprintf("  %s (%s): %s\n", formatC(name, width = -width), count_of(length(cards), "card"), text))
  }
  invisible(x)
}
