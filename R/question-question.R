# A question: a draw of which words are asked. With turning cards until a condition holds (question-until.R) it shares
# what is asked of hands (class habanera_asked). The experiment keeps what was asked (`columns`, checked
# expressions by name; `stages`; `turns` times `turn_size` cards more) and, made from it once, what the
# core is told (`pool`, `words`, `spec`).

new_question <- function(parts, size, columns, replace, shuffle, call, stages = list(), turns = 0, turn_size = 0) {
  made_question(new_experiment(
    c("habanera_question", "habanera_asked"), whole = parts$whole, deck = parts$deck, held = parts$held,
    dead = parts$dead, size = size,
    columns = columns, replace = replace, shuffle = shuffle, stages = stages, turns = turns, turn_size = turn_size
  ), call)
}

# Everything that can be wrong with a question is found here.
made_question <- function(x, call) {
  refuse_short_deck(x, call)
  x$pool <- new_pool(x$deck, x$held, x$replace, min(drawn_sizes(x)$hands), most_in_hand(x))
  x$words <- asked_words(x$columns, x$pool, c(hand_words, turn_words), call)
  for (name in names(x$columns)) check_column(name, x, call)
  x$spec <- question_spec(x, call)
  refuse_order_lost(x, call)
  x
}

checked_columns <- function(questions, catalogue, call) {
  columns <- list()
  for (i in seq_along(questions)) {
    name <- check_column_name(names(questions)[i], names(columns), call)
    columns[[name]] <- checked_outcome(rlang::quo_get_expr(questions[[i]]), catalogue, columns,
                                       rlang::quo_get_env(questions[[i]]), call)
  }
  columns
}

check_column_name <- function(name, before, call) {
  if (!nzchar(name)) {
    refuse("Give each question a name, as in draws(deck, 5, aces = count(rank == \"A\")).", call = call)
  }
  # Single trials have the columns trial, card_1, card_2, ... besides.
  if (name %in% c(reserved_columns, "trial") || grepl("^card_[0-9]+$", name)) {
    refuse(sprintf("`%s` is a name that results need for their own.", name), call = call)
  }
  if (name %in% before) refuse(sprintf("There are two questions with the name `%s`.", name), call = call)
  name
}

# Every value that the column can have is worked out once, so that nothing bad waits for simulate().
check_column <- function(name, x, call) {
  words <- without_notes(asked_words(x$columns[name], x$pool, c(hand_words, turn_words), call))
  refuse_cardless(x$columns[[name]], name, words, x$pool, call)
  turns <- if ("turn" %in% all.vars(x$columns[[name]])) x$turns + 1 else 1
  cells <- words$cells * turns
  if (cells > most_cells) refuse_cells(expression_text(x$columns[[name]]), cells, call)
  outcome_values(x$columns[[name]], words, possible_index(words, cells), call)
}

# `suit = "hearts"` gives a name to a text, and is always met.
refuse_cardless <- function(expr, name, words, pool, call) {
  if (length(words$each) || "turn" %in% all.vars(expr)) return(invisible())
  text <- expression_text(expr)
  cure <- if (name %in% names(pool$data) || is.character(expr)) {
    sprintf("to compare, write ==, as in count(%s == %s)", name, text)
  } else "ask of the cards, as in count(rank == \"A\")"
  refuse(sprintf("`%s = %s` uses no card, and its answer is always the same; %s.", name, text, cure), "language", call)
}

# The sizes that a hand can have before it grows by turns, and the most cards used up for it.
drawn_sizes <- function(x) {
  redraws <- Filter(function(stage) stage$stage == "redraw", x$stages)
  put_back <- unlist(lapply(redraws, `[[`, "put_back"))
  sizes <- unlist(lapply(redraws, `[[`, "sizes"))
  exchanges <- Filter(function(stage) stage$stage == "exchange", x$stages)
  hands <- length(x$held) + c(x$size, sizes - put_back)
  exchanged <- sum(vapply(exchanges, `[[`, 0, "times")) * max(hands)
  list(hands = hands, used = max(x$size, sizes) + exchanged + x$turns * x$turn_size)
}

most_in_hand <- function(x) max(drawn_sizes(x)$hands) + x$turns * x$turn_size

refuse_short_deck <- function(x, call) {
  used <- drawn_sizes(x)$used
  if (x$replace || used <= drawable(x)) return(invisible())
  refuse(sprintf("These draws can take %s; the deck has %s to draw.", count_of(used, "card"),
                 format_count(drawable(x))), call = call)
}

# After an exchange or with cards put under, "the third card drawn" would mean nothing.
refuse_order_lost <- function(x, call) {
  redraws <- Filter(function(stage) stage$stage == "redraw", x$spec$stages)
  put_back <- any(unlist(lapply(redraws, `[[`, "put_back")) > 0)
  before <- unlist(lapply(redraws, function(stage) stage$condition$words$places), recursive = FALSE)
  turned <- lapply(x$spec$turn_words, `[[`, "condition")
  after <- unlist(lapply(c(list(x$spec), turned), function(part) part$words$places), recursive = FALSE)
  exchanged <- length(redraws) < length(x$stages)
  if (!(put_back && length(c(before, after))) && !(exchanged && length(after))) return(invisible())
  refuse("card_at() has no meaning when cards are exchanged or put back one by one.", "language", call)
}

# Turns may still be added to a question; so this is asked when it is to be answered.
refuse_far_places <- function(x, call) {
  drawn <- x$pool$most - length(x$pool$held)
  asked <- unlist(lapply(words_in(x$spec), function(words) vapply(words$places, `[[`, 0, "position"))) + 1
  far <- asked[asked > drawn]
  if (!length(far)) return(invisible())
  refuse(sprintf("card_at(%s, ...) asks for more cards than are drawn; at most %s drawn.", format_count(far[1]),
                 if (drawn == 1) "1 is" else paste(format_count(drawn), "are")), "language", call)
}

# What the core is told.
question_spec <- function(x, call) {
  turned <- Filter(function(word) word$kind %in% turn_words, x$words$each)
  list(
    until = FALSE, draw = question_draw(x, drawn_sizes(x)$used), held = match(codes_of(x$held), x$pool$kinds$codes),
    size = x$size, turns = x$turns, turn_size = x$turn_size, cells = x$words$cells,
    words = core_words(x$words, x$pool),
    stages = lapply(x$stages, core_stage, x$pool, call),
    turn_words = lapply(unname(turned), function(word) {
      list(condition = new_condition(word$condition, x$pool, x$turns, call)$core, every = word$kind == "every_turn",
           step = word$step)
    })
  )
}

question_draw <- function(x, used) {
  sampled <- is_sampling(x$whole)
  places <- if (sampled) rep(1L, x$whole$size) else match(codes_of(x$deck), x$pool$kinds$codes)
  c(list(places = places, size = used, replace = x$replace,
         steps = if (has_function(x$shuffle)) list() else core_steps(x$shuffle)),
    if (sampled) list(sampled = core_sampling(x$whole)))
}

key_outcomes <- function(x, key) UseMethod("key_outcomes")

#' @export
key_outcomes.habanera_question <- function(x, key) {
  columns <- lapply(x$columns, outcome_values, x$words, key, call = NULL)
  if (x$turns > 0) columns <- c(list(turn = key %/% x$words$cells), columns)
  as.data.frame(columns, stringsAsFactors = FALSE, optional = TRUE)
}

#' @export
in_words.habanera_question <- function(x, ...) {
  asked <- vapply(x$columns, expression_text, "")
  sprintf("%s; %s", hand_in_words(x), paste(names(asked), "=", asked, collapse = ", "))
}

hand_in_words <- function(x) {
  known <- function(cards, what) {
    if (length(cards)) sprintf(", with %s %s", paste(format(cards), collapse = ", "), what)
  }
  paste0(
    sprintf("a hand of %s from %s", count_of(x$size + length(x$held), "card"), deck_in_words(x$whole)),
    known(x$held, "held"), known(x$dead, "dead"), ", ", draw_manner(x),
    paste(vapply(x$stages, function(stage) paste0(", ", stage_in_words(stage)), ""), collapse = ""),
    if (x$turns > 0) sprintf(", then %s more by turn, %s", count_of(x$turn_size, "card"), count_of(x$turns, "time"))
  )
}

#' @export
as_plain.habanera_question <- function(experiment) {
  list(kind = "question", deck = plain_deck(experiment$whole), held = as.character(experiment$held),
       dead = as.character(experiment$dead), size = experiment$size,
       columns = lapply(experiment$columns, expression_text), replace = experiment$replace,
       shuffle = procedure_text(experiment$shuffle), stages = lapply(experiment$stages, plain_stage),
       turns = experiment$turns, turn_size = experiment$turn_size)
}

#' @export
from_plain.question <- function(plain, game) {
  deck <- deck_from_plain(plain$deck)
  whole <- parted_deck(deck)
  catalogue <- catalogue_of(whole$deck)
  cards <- function(codes) if (length(codes)) as_cards(as.character(unlist(codes)), like = whole$deck)
  columns <- list()
  for (name in names(plain$columns)) {
    asked <- parse_expression(plain$columns[[name]], name, NULL)
    columns[[name]] <- checked_outcome(asked, catalogue, columns, NULL, NULL)
  }
  new_question(parted_deck(deck, cards(plain$held), cards(plain$dead)), as.double(plain$size), columns,
               plain$replace, procedure_from_plain(plain$shuffle), NULL,
               lapply(plain$stages, stage_from_plain, catalogue), as.double(plain$turns), as.double(plain$turn_size))
}
