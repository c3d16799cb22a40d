# The classes that exact answers work with.

# Cards that nothing in the question tells apart: the first kind of each class, and how many cards of it lie
# in the deck and are held.
question_classes <- function(x) {
  class <- like_kinds(question_traits(x))
  in_deck <- x$pool$in_deck
  list(kind = which(!duplicated(class)), deck = as.double(rowsum(in_deck, class)),
       held = as.double(rowsum(x$pool$kinds$copies - in_deck, class)), of_kind = class)
}

# Kinds that agree in all traits (a list of vectors with an entry for each) get one number.
like_kinds <- function(traits) {
  as.integer(vctrs::vec_group_id(vctrs::new_data_frame(rlang::set_names(traits, paste0("trait_", seq_along(traits))))))
}

question_traits <- function(x) {
  words <- words_in(x$spec)
  ways <- lapply(x$spec$stages, function(stage) lapply(stage$ways, `[[`, "value"))
  within <- function(part, what) lapply(words, function(one) lapply(one[[part]], `[[`, what))
  traits <- c(lapply(words, `[[`, "added"), lapply(x$spec$stages, `[[`, "under_first"),
              unlist(c(ways, within("groups", "group"), within("places", "holds")), recursive = FALSE),
              category_traits(unlist(lapply(words, `[[`, "categories"), recursive = FALSE)),
              if (has_keep_function(x)) list(seq_len(nrow(x$pool$data))))
  traits <- Filter(length, traits)
  c(traits, run_blocks(x, traits))
}

# Of cards of one value, keep_run() keeps the first in the catalogue. So cards of a value may only share a
# class when no other class comes between them.
run_blocks <- function(x, traits) {
  runs <- Filter(function(way) way$what == 3L, unlist(lapply(x$spec$stages, `[[`, "ways"), recursive = FALSE))
  if (!length(runs)) return(NULL)
  lapply(runs, function(way) {
    like <- like_kinds(traits)
    place <- order(way$value, seq_along(like))
    changes <- c(TRUE, diff(like[place]) != 0)
    block <- integer(length(like))
    block[place] <- cumsum(changes)
    block
  })
}

words_in <- function(spec) {
  conditions <- c(list(spec$condition), lapply(c(spec$stages, spec$turn_words), `[[`, "condition"))
  Filter(Negate(is.null), c(list(spec$words), lapply(conditions, `[[`, "words")))
}
