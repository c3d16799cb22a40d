#' The language of questions
#'
#' What may stand in the questions of [draws()], in the conditions of [redraw_if()], [draw_until()],
#' [keep_where()], `every_turn()`, and in `--ask` of the command line. It is read by an interpreter of this package
#' with a fixed list of functions: nothing that is typed is run by R.
#'
#' Words about the hand:
#' - `count(condition)`: how many of its cards satisfy a condition on their attributes;
#' - `total(attribute)`: the sum of an attribute, or of arithmetic on attributes, of at most 6 decimals;
#' - `distinct(attribute)`: how many different values of it there are;
#' - `largest_group(attribute)`: the size of the largest group of cards that share a value;
#' - `card_at(i, condition)`: whether the card drawn as number `i` satisfies a condition;
#' - `category()`: of which category the hand is by [hand_rules()], such as "flush"; by other rules,
#'   `category(rules)` or, as in the shell, by what is other: `category(size = 3, wild = rank == "2")`. It is
#'   compared by its order, too: `category() >= "two pair"` is two pair or better;
#' - `every_turn(condition)`, `any_turn(condition)`: whether a condition on the hand held at every turn so far, or
#'   at any ([draw_more()]); `turn` is the number of the turn.
#'
#' On these: `+ - * / ^ %% %/%`, `== != < <= > >=`, `& | !`, `xor()`, `abs()`, `sqrt()`, `floor()`, `ceiling()`,
#' `round()`, `min()` and `max()` of two or more values of one hand, `ifelse()`, and earlier questions by name. On
#' attributes also `%in%`, `c()`, `:` and `is.na()`. A condition that is `NA` for a card of the deck is an error: a
#' joker has no suit, so write `suit %in% "spades"`, or `ifelse(is.na(suit), "none", suit)`.
#'
#' Other names stand for plain vectors of the caller, copied when the question is made; in the shell there are
#' none. A division by zero is refused when it can come up; `ifelse()` guards it.
#'
#' @examples
#' wanted <- c("A", "K")
#' x <- draws(deck_standard(), 5, high = count(rank %in% wanted), share = high / 5,
#'            better = high >= 2 | share == 1)
#' exact(x)
#' exact(draws(deck_standard(), 5, good = category() >= "two pair"))
#' @name question_language
NULL
