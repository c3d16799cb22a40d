# Lines of cards as people write and copy them: with a head, quotes, brackets, labels and notes, codes without spaces
# between, names in full. Taken apart as far as there is one reading, which is then told.

# What divides and surrounds cards in a line, unless names of the catalogue have it.
marks_around <- c("[", "]", "{", "}", "(", ")", "\"", "|")

# A list with the pieces of each line.
line_pieces <- function(lines, catalogue) {
  names <- catalogue$data$card
  for (mark in marks_around) {
    if (!any(grepl(mark, names, fixed = TRUE))) lines <- gsub(mark, if (mark == "|") "," else " ", lines, fixed = TRUE)
  }
  lines <- gsub("(^|[[:space:],;])'([^',;]*)'", "\\1\\2", lines)
  if (!is.null(catalogue$glyphs)) lines <- gsub("[[:space:]]+of[[:space:]]+", "_of_", lines, ignore.case = TRUE)
  lines <- trimws(lines)
  spaced <- !grepl("[,;\t]", lines)
  pieces <- vector("list", length(lines))
  pieces[spaced] <- strsplit(lines[spaced], "[[:space:]]+")
  pieces[!spaced] <- lapply(strsplit(lines[!spaced], "[,;\t]"), function(parts) split_parts(parts, catalogue))
  if (any(grepl(" ", names, fixed = TRUE))) {
    whole <- spaced & !is.na(find_codes(lines, catalogue))
    pieces[whole] <- as.list(lines[whole])
  }
  pieces
}

# Between commas there is one card, or several in codes without spaces in them.
split_parts <- function(parts, catalogue) {
  parts <- trimws(parts)
  parts <- parts[nzchar(parts)]
  if (!any(grepl("[[:space:]]", parts))) return(parts)
  is_code <- !is.na(find_codes(parts, catalogue))
  unlist(ifelse(is_code, as.list(parts), strsplit(parts, "[[:space:]]+")))
}

# Lines without what stands before a colon, where that is no card and no beginning of one: "Deal 12: AS KD". A time of
# day in a column of its own is none.
without_labels <- function(lines, catalogue) {
  before_colon <- function(text) tolower(trimws(sub(":.*$", "", text)))
  label <- before_colon(lines)
  names <- catalogue$data$card
  begun <- before_colon(names[grepl(":", names, fixed = TRUE)])
  has_label <- grepl("^[^,;\t]*:", lines) & is.na(find_codes(label, catalogue)) & !label %in% begun
  lines[has_label] <- sub("^[^:]*:", "", lines[has_label])
  lines
}

# Pieces as codes (rows of the catalogue, NA where unknown) and how they were understood, `notation` being NULL where
# it is to be found. One way must fit all.
coded_pieces <- function(pieces, catalogue, notation = NULL) {
  rank_first <- find_codes(pieces, catalogue)
  if (is.null(catalogue$glyphs) || identical(notation, "rank_first")) return(list(codes = rank_first, way = "codes"))
  suit_first <- find_codes(turned_code(pieces), catalogue)
  turned <- identical(notation, "suit_first") || (anyNA(rank_first) && sum(is.na(suit_first)) < sum(is.na(rank_first)))
  way <- if (turned) "suit then rank" else "rank then suit"
  codes <- if (turned) ifelse(is.na(suit_first) & toupper(pieces) == "JOKER", rank_first, suit_first) else rank_first
  list(codes = codes, way = way)
}

turned_code <- function(pieces) sub("^([SHDC])(10|[2-9JQKA])$", "\\2\\1",
                                    plain_code(sub("^(.*)([TXtx])$", "\\110", pieces)))

# Standard codes written without spaces, such as ASKD10H, one by one; other pieces as they are.
parted_codes <- function(pieces, catalogue) {
  if (is.null(catalogue$glyphs)) return(pieces)
  unknown <- which(is.na(find_codes(pieces, catalogue)))
  if (!length(unknown)) return(pieces)
  plain <- plain_code(pieces[unknown])
  for (one in c("(10|[2-9TXJQKA])[SHDC]", "[SHDC](10|[2-9TXJQKA])")) {
    fits <- grepl(sprintf("^(%s){2,}$", one), plain)
    pieces[unknown[fits]] <- vapply(regmatches(plain[fits], gregexpr(one, plain[fits])), paste, "", collapse = " ")
    unknown <- unknown[!fits]
    plain <- plain[!fits]
  }
  unlist(strsplit(pieces, " ", fixed = TRUE))
}
