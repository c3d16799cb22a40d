#' What is kept of a hand, as an ordered list
#'
#' A player of [game_video_poker()] who goes down a list: the first line that the hand meets says which cards are kept.
#'
#' A line is one of these, or a condition:
#' - a category of [hand_rules()], such as `"full house"`, `"two pair"`, `"pair of jacks or better"`, `"four of A"`: the
#'   cards that make it; `"high pair"` is a pair of jacks or better, `"any pair"` one of any rank;
#' - `"four to a flush"`, `"three to a royal flush"`: so many cards that become it with the right draw; `"four to an
#'   open straight"` where two ranks or more complete it, `"four to an inside straight"` where one does;
#' - `"two suited cards of J or better"`, `"one card of J or better"`: so many of these ranks;
#' - `"nothing"`: all cards are replaced, as where no line is met;
#' - a condition on the cards kept in the [question_language], in which `kept` is how many they are: `"kept == 3 &
#'   largest_group(suit) == 3 & count(rank_high >= 11) == 2"`.
#'
#' Of several ways to meet a line the one with the highest ranks is taken, wild cards counting highest; of those the one
#' that comes first in the hand.
#'
#' @param ... Lines as text, or conditions as `quote()` gives them; or one text in which ; divides them; or a file
#'   (.txt) with a line for each, those that begin with # left out.
#' @return A `habanera_player`.
#' @section Errors: `habanera_error_input` for a line that cannot be understood, with the nearest that can;
#'   `habanera_error_language` for a condition that cannot.
#' @seealso [mistakes()] for what such a list costs, [best_strategy()].
#' @examples
#' careful <- keep_rules("full house", "three of a kind", "two pair", "four to a flush", "any pair",
#'                       "two suited cards of J or better", "one card of J or better")
#' house_edge(game_video_poker(deck = deck_standard(ranks = c("9", "10", "J", "Q", "K", "A"))),
#'            careful)
#' @export
keep_rules <- function(...) {
  call <- rlang::current_env()
  lines <- as.character(unlist(lapply(list(...), function(line) {
    if (is.character(line)) check_utf8(line, "a line of keep_rules()", call)
    if (is.language(line)) return(expression_text(line))
    if (is.character(line)) return(line)
    refuse(sprintf("A line of keep_rules() must be text or a quoted condition, not %s.", said(line)), call = call)
  })))
  if (length(lines) == 1 && grepl("[.]txt$", lines)) {
    lines <- trimws(read_text_lines(lines, call))
    lines <- lines[!grepl("^#", lines)]
  }
  lines <- trimws(as.character(unlist(strsplit(lines, ";", fixed = TRUE))))
  lines <- lines[nzchar(lines)]
  if (!length(lines)) refuse("keep_rules() needs a line, such as \"four to a flush\".")
  for (line in lines) read_keep_line(line, 5, call)
  player <- new_player("keep", rules = paste(lines, collapse = "; "))
  player$label <- sprintf("keeps by %s", count_of(length(lines), "line"))
  player
}

keep_lines <- function(player) strsplit(player$settings$rules, "; ", fixed = TRUE)[[1]]

number_words <- c("one", "two", "three", "four", "five")

# A line as a list of `what` and `cards` (see KeepRule in the core), with `category`, `from` or `condition`. A hand has
# `size` cards.
read_keep_line <- function(line, size, call) {
  alias <- c(`high pair` = "pair of jacks or better", `any pair` = "one pair")
  text <- trimws(if (line %in% names(alias)) alias[[line]] else line)
  if (grepl("[(=<>]", text)) {
    return(list(what = "condition", cards = 0, condition = parse_expression(text, "a line of keep_rules()", call)))
  }
  text <- tolower(text)
  if (text == "nothing") return(list(what = "high", cards = 0, from = NULL))
  number <- function(word) match(word, number_words, written_numbers(word))
  high <- regmatches(text, regexec("^([^ ]+) (suited )?cards? of ([^ ]+) or better$", text))[[1]]
  if (length(high) && number(high[2]) %in% 1:5) {
    return(list(what = if (nzchar(high[3])) "high_suited" else "high", cards = number(high[2]),
                from = named_rank(high[4])))
  }
  towards <- regmatches(text, regexec("^([^ ]+) to an? (open |inside )?(.+)$", text))[[1]]
  if (length(towards) && number(towards[2]) %in% 1:5) {
    kind <- trimws(towards[3])
    cards <- number(towards[2])
    if (nzchar(kind) && cards != size - 1) {
      refuse(sprintf("%s: open and inside are told of %s cards.", quoted(line), number_words[size - 1]), call = call)
    }
    category_parts(towards[4], call)
    return(list(what = if (nzchar(kind)) kind else "towards", cards = cards, category = towards[4]))
  }
  parts <- tryCatch(category_parts(text, call), habanera_error_input = function(cnd) refuse_keep_line(line, call))
  needed <- hand_categories[[parts$category]]
  list(what = "made", cards = if (is.na(needed)) size else max(needed, parts$wild), category = text)
}

refuse_keep_line <- function(line, call) {
  known <- c(names(hand_categories), "four to a flush", "four to an open straight", "one card of J or better",
             "nothing", "high pair", "any pair")
  refuse(sprintf("%s is no line of keep_rules()%s Lines are such as %s; see ?keep_rules.", quoted(line),
                 did_you_mean(line, known),
                 "\"pair of jacks or better\", \"four to a flush\", \"two suited cards of J or better\", \"nothing\""),
         call = call)
}

# Lines as the core takes them. `bound` are the game's hand rules over the kinds of its deck, `make(categories)` gives
# the same of other categories.
core_keep_list <- function(lines, bound, make, pool, call) {
  lapply(lines, function(line) {
    read <- read_keep_line(line, bound$size, call)
    from <- if (is.null(read$from)) 1 else match(read$from, toupper(bound$ranks))
    if (is.na(from)) {
      refuse(sprintf("%s: no card of the deck has the rank %s.", quoted(line), quoted(read$from)), "rules", call)
    }
    list(what = read$what, cards = read$cards, from_rank = from - 1,
         asked = if (!is.null(read$condition)) kept_condition(read$condition, pool, call),
         hands = if (!is.null(read$category)) make(c(read$category, "high card")))
  })
}

# `kept` stands for how many cards there are.
kept_condition <- function(expr, pool, call) {
  named <- function(part) {
    if (identical(part, quote(kept))) return(quote(count(!is.na(card))))
    if (is.call(part)) part[-1] <- lapply(as.list(part)[-1], named)
    part
  }
  checked <- checked_outcome(named(expr), catalogue_of(pool$deck), list(), NULL, call, turns = FALSE)
  without_notes(new_condition(checked, pool, 0, call))$core
}
