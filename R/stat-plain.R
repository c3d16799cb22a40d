# Values as bytes, and back to the last bit: results that a study keeps. Vectors, lists, attributes, and expressions as
# text; no function and no environment, so that reading a file can run nothing. A line tells the format and the digest
# of all that follows, which is JSON: what it is of (`about`), and the value, laid out flat, for JSON is slow with many
# small lists.

plain_format <- "habanera value 1"

plain_bytes <- function(about, value) {
  content <- text_bytes(c(to_json(about), to_json(flat_value(value))))
  c(text_bytes(paste(plain_format, cli::hash_raw_sha256(content))), content)
}

# A list of `about` and `value`, or NULL when the bytes are not all that was written.
value_from_bytes <- function(bytes) {
  kept <- checked_lines(bytes)
  if (!is.null(kept)) list(about = from_json(kept[1]), value = value_of_flat(from_json(kept[2])))
}

# What it is of, without the value.
about_from_bytes <- function(bytes) {
  kept <- checked_lines(bytes)
  if (!is.null(kept)) from_json(kept[1])
}

checked_lines <- function(bytes) {
  end <- which(utils::head(bytes, 200) == as.raw(10L))[1]
  if (is.na(end)) return(NULL)
  content <- bytes[-seq_len(end)]
  expected <- text_bytes(paste(plain_format, cli::hash_raw_sha256(content)))
  if (!identical(bytes[seq_len(end)], expected)) return(NULL)
  text <- rawToChar(content)
  Encoding(text) <- "UTF-8"
  strsplit(text, "\n", fixed = TRUE)[[1]]
}

# Whether a value can be kept so.
is_plain <- function(x) {
  tryCatch({
    flat_value(x)
    TRUE
  }, habanera_error_not_plain = function(cnd) FALSE)
}

# One letter for each node, parents before children: N for NULL, l, i, d, c for vectors, L for lists, e for expressions.
# An attribute's value is a node, too. The values of all vectors of a kind stand one after the other.
flat_value <- function(x) {
  laid <- new.env(parent = emptyenv())
  laid$count <- 0
  laid$kinds <- character()
  laid$lengths <- laid$attributes <- laid$wholes <- laid$numbers <- laid$texts <- list()
  lay_flat(x, laid)
  numbers <- writeBin(as.double(unlist(laid$numbers)), raw(), endian = "little")
  list(kinds = paste(laid$kinds, collapse = ""), lengths = I(as.integer(unlist(laid$lengths))),
       attributes = I(as.integer(unlist(laid$attributes))), wholes = I(as.integer(unlist(laid$wholes))),
       numbers = gsub("\n", "", jsonlite::base64_enc(numbers), fixed = TRUE),
       texts = I(enc2utf8(as.character(unlist(laid$texts)))))
}

lay_flat <- function(x, laid) {
  kind <- plain_kind(x)
  count <- laid$count <- laid$count + 1
  beside <- if (kind != "e") attributes(x)
  laid$kinds[count] <- kind
  laid$lengths[[count]] <- length(x)
  laid$attributes[[count]] <- length(beside)
  values <- unclass(x)
  switch(kind, l = , i = laid$wholes[[count]] <- as.integer(values), d = laid$numbers[[count]] <- as.double(values),
         c = laid$texts[[count]] <- as.character(values), e = laid$texts[[count]] <- expression_as_text(x),
         L = for (i in seq_along(values)) lay_flat(values[[i]], laid))
  for (name in names(beside)) {
    lay_flat(name, laid)
    if (name == "class") refuse_classes(beside[[name]])
    lay_flat(beside[[name]], laid)
  }
}

plain_kind <- function(x) {
  if (is.language(x)) return("e")
  kind <- c(`NULL` = "N", logical = "l", integer = "i", double = "d", character = "c", list = "L")[typeof(x)]
  if (is.na(kind)) refuse(sprintf("%s is no plain value.", sentence(said(x))), "not_plain", NULL)
  unname(kind)
}

expression_as_text <- function(x) paste(deparse(x, width.cutoff = 500L), collapse = "\n")

# What has methods of ours, or of what we stand on; any other might do things of its own when it is printed.
refuse_classes <- function(classes) {
  known <- startsWith(classes, "habanera_") | classes %in% c("cards", "vctrs_vctr", "data.frame", "factor", "ordered",
                                                             "table")
  if (!all(known)) refuse(sprintf("A value of class %s is not kept.", quoted(classes[!known][1])), "not_plain", NULL)
}

value_of_flat <- function(flat) {
  numbers <- doubles_of_bytes(jsonlite::base64_dec(flat$numbers))
  laid <- list2env(list(kinds = strsplit(flat$kinds, "")[[1]], lengths = flat$lengths, attributes = flat$attributes,
                        wholes = as.integer(flat$wholes), numbers = numbers, texts = as.character(flat$texts),
                        node = 0, whole = 0, number = 0, text = 0), parent = emptyenv())
  take_up(laid)
}

take_up <- function(laid) {
  node <- laid$node <- laid$node + 1
  kind <- laid$kinds[node]
  length <- laid$lengths[node]
  x <- switch(
    kind, N = NULL, l = as.logical(next_values("whole", length, laid)), i = next_values("whole", length, laid),
    d = next_values("number", length, laid), c = next_values("text", length, laid),
    e = str2lang(next_values("text", 1, laid)), L = {
      # A NULL in its place stays there.
      values <- vector("list", length)
      for (i in seq_len(length)) values[i] <- list(take_up(laid))
      values
    }
  )
  beside <- list()
  for (i in seq_len(laid$attributes[node])) {
    name <- take_up(laid)
    beside[[name]] <- take_up(laid)
  }
  if (!is.null(beside$class)) refuse_classes(beside$class)
  if (length(beside)) attributes(x) <- beside
  x
}

next_values <- function(kind, length, laid) {
  pool <- paste0(kind, "s")
  from <- laid[[kind]]
  laid[[kind]] <- from + length
  laid[[pool]][from + seq_len(length)]
}
