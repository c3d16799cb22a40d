# A deck in words, as code that makes it, and as plain data for files.

deck_in_words <- function(deck) {
  if (is_sampling(deck)) return(sampling_in_words(deck))
  code <- deck_code(deck)
  title <- catalogue_of(deck)$title
  if (identical(code, "deck_standard()")) return("a standard deck of 52")
  if (title == "standard") return(sprintf("a deck of %s", count_of(length(deck), "standard card")))
  sprintf("a deck of %s (%s)", count_of(length(deck), "card"), title)
}

# R code that gives the deck back.
deck_code <- function(deck) {
  if (is_sampling(deck)) return(sampling_code(deck))
  catalogue <- catalogue_of(deck)
  codes <- codes_of(deck)
  if (catalogue$id == standard_catalogue$id) return(standard_code(deck))
  recipe <- catalogue$recipe
  if (!is.null(recipe) && identical(codes, rep(seq_along(recipe$copies), times = recipe$copies))) {
    return(recipe$code)
  }
  columns <- vapply(catalogue$data, as_code, "")
  sprintf("deck_from(data.frame(%s))[%s]", paste(names(columns), "=", columns, collapse = ", "),
          as_code(codes))
}

sampling_in_words <- function(x) {
  sprintf("a deck of %s sampled anew from %s (%s)", count_of(x$size, "card"),
          count_of(length(sampled_codes(x)), "kind"), catalogue_of(x$from)$title)
}

sampling_code <- function(x) {
  limited <- any(x$max_copies < x$size)
  settings <- c(deck_code(x$from), whole_code(x$size), if (is_weighted(x)) sprintf("weights = %s", as_code(x$weights)),
                if (limited) sprintf("max_copies = %s", as_code(unique_or_all(x$max_copies))), "anew = TRUE")
  sprintf("deck_sampled(%s)", paste(settings, collapse = ", "))
}

unique_or_all <- function(x) if (length(unique(x)) == 1) x[1] else x

standard_code <- function(deck) {
  jokers <- sum(as.character(deck) == "JOKER")
  packs <- (length(deck) - jokers) / 52
  if (packs >= 1 && packs == floor(packs) && jokers %% packs == 0) {
    for (arranged in c("suit", "rank")) {
      made <- deck_standard(packs, jokers / packs, arranged = arranged)
      if (identical(codes_of(made), codes_of(deck))) {
        return(standard_call(packs, jokers / packs, arranged))
      }
    }
  }
  sprintf("as_cards(%s)", as_code(paste(as.character(deck), collapse = " ")))
}

standard_call <- function(packs, jokers, arranged) {
  settings <- c(if (packs > 1) sprintf("packs = %d", packs),
                if (jokers > 0) sprintf("jokers = %d", jokers),
                if (arranged != "suit") sprintf("arranged = %s", quoted(arranged)))
  sprintf("deck_standard(%s)", paste(settings, collapse = ", "))
}

sampling_from_plain <- function(plain) {
  deck <- deck_from_plain(plain[names(plain) != "sampled"])
  numbers <- lapply(plain$sampled, as.double)
  new_sampling(listing_of_deck(deck), numbers$size, numbers$weights, numbers$max_copies, NULL)
}

# As the shell names the deck after --deck, or NULL when it has no name there.
deck_shell_name <- function(deck) {
  if (is_sampling(deck)) return(NULL)
  code <- deck_code(deck)
  if (grepl("^deck_standard\\(", code)) {
    settings <- gsub(" = ", "=", gsub("[\",]", "", sub("^deck_standard\\((.*)\\)$", "\\1", code)))
    return(trimws(paste("standard", settings)))
  }
  if (grepl("^deck_numbered\\(", code)) return(paste("numbered", length(deck)))
  if (grepl("^deck_from\\(\"[^\"]*\"\\)$", code)) return(sub("^deck_from\\(\"(.*)\"\\)$", "\\1", code))
  NULL
}

plain_deck <- function(deck) {
  if (is_sampling(deck)) {
    return(c(plain_deck(deck$from), sampled = list(unclass(deck)[c("size", "weights", "max_copies")])))
  }
  catalogue <- catalogue_of(deck)
  standard <- catalogue$id == standard_catalogue$id
  list(title = catalogue$title, cards = as.character(deck),
       catalogue = if (!standard) as.list(catalogue$data),
       types = if (!standard) as.list(vapply(catalogue$data, typeof, "")), recipe = catalogue$recipe)
}

deck_from_plain <- function(plain) {
  if (!is.null(plain$sampled)) return(sampling_from_plain(plain))
  if (is.null(plain$catalogue)) return(as_cards(as.character(plain$cards)))
  columns <- Map(typed_column, plain$catalogue, plain$types)
  data <- as.data.frame(columns, stringsAsFactors = FALSE, optional = TRUE)
  glyphs <- standard_catalogue$glyphs[match(data$card, standard_catalogue$data$card)]
  recipe <- plain$recipe
  if (!is.null(recipe)) recipe$copies <- as.double(recipe$copies)
  catalogue <- new_catalogue(data, plain$title, if (nrow(data) && !anyNA(glyphs)) glyphs, recipe)
  new_cards(match(as.character(plain$cards), data$card), catalogue)
}

#' @export
value_code.cards <- function(x) deck_code(x)
