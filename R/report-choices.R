# Rules to be moved by eye: selects over combinations that were worked out, or over effects that are added up. A small
# script on the page reads them; no server is asked.

#' @export
page_parts.habanera_varied_edges <- function(x) {
  parts <- parts_told(x)
  if (nrow(x) > 1 && nrow(x) <= most_choices) parts$choices <- choices_tag(grid_choices(x))
  parts
}

#' @export
page_parts.habanera_rule_effects <- function(x) {
  parts <- parts_told(x)
  if (nrow(x) > 1 && nrow(x) <= most_choices) parts$choices <- choices_tag(effect_choices(x))
  parts
}

# More would make the page large.
most_choices <- 10000

# `rules`, each with its values; `rows`, for each combination the places of its values, from 0, and its edge.
grid_choices <- function(x) {
  names <- attr(x, "rules")
  columns <- lapply(names, function(name) {
    column <- x[[name]]
    list(values = unique(column), place = match(column, unique(column)) - 1)
  })
  rows <- unname(as.list(as.data.frame(t(cbind(do.call(cbind, lapply(columns, `[[`, "place")), x$estimate)))))
  list(kind = "grid", rules = unname(Map(function(name, column) choice_of_rule(name, column$values), names, columns)),
       rows = lapply(rows, unname), share = TRUE, money = TRUE,
       note = "Each combination is worked out exactly.")
}

# The value as it is first, which has no effect, and what each other adds; `pairs` what two do beyond that.
effect_choices <- function(x) {
  by_edge <- attr(x, "of") == "edge"
  table <- plain_table(x)
  base <- table[[if (by_edge) "edge" else "estimate"]][1]
  single <- table[-1, ][!grepl(" + ", table[["rule"]][-1], fixed = TRUE), ]
  rules <- lapply(unique(single$rule), function(rule) {
    rows <- single[single$rule == rule, ]
    c(choice_of_rule(rule, c("as it is", rows$value)), list(effects = I(c(0, rows$effect))))
  })
  both <- table[grepl(" + ", table[["rule"]], fixed = TRUE), ]
  pairs <- if (!is.null(both[["together"]])) lapply(which(!is.na(both$together)), function(row) {
    list(rules = strsplit(both[["rule"]][row], " + ", fixed = TRUE)[[1]],
         values = strsplit(both$value[row], " + ", fixed = TRUE)[[1]], adds = both$together[row])
  })
  list(kind = "sum", rules = rules, pairs = if (is.null(pairs)) list() else pairs, base = base,
       share = by_edge || isTRUE(attr(x, "is_share")), money = by_edge, of = attr(x, "of"),
       note = paste("Effects are added up", if (length(pairs)) "by ones and twos" else "one by one",
                    "as the table has them; what rules do beyond that is not in it."))
}

# The values of a rule as texts, and how each would be printed on a table: halves to tenths as "3 to 2".
choice_of_rule <- function(name, values) {
  texts <- vapply(seq_along(values), function(i) rule_text(values[[i]]), "")
  # Of one value, too, a list of one is written.
  list(name = name, values = I(texts), printed = I(vapply(texts, printed_odds, "", USE.NAMES = FALSE)))
}

# "3 to 2"; "" for a word or a whole number, which is printed as it is, NA for a number no such fraction gives.
printed_odds <- function(text) {
  value <- written_numbers(text)
  if (is.na(value) || value == round(value)) return("")
  fits <- which(abs(value * 1:10 - round(value * 1:10)) < 1e-9)
  if (!length(fits)) return(NA_character_)
  sprintf("%.0f to %d", value * fits[1], fits[1])
}

choices_tag <- function(choices) {
  tags <- htmltools::tags
  field <- function(label, control) tags$div(tags$label(label), control)
  # No rule has a name with a hyphen; blackjack has one called stake.
  numbers <- if (choices$money) list(
    field("Rounds an hour", tags$input(type = "number", name = "an-hour", value = "70", min = "1", max = "100000")),
    field("Stake", tags$input(type = "number", name = "a-bet", value = "1", min = "0", step = "any"))
  )
  # Nothing in JSON may end its own element, or begin another.
  data <- gsub("<", "\\u003c", as.character(jsonlite::toJSON(choices, auto_unbox = TRUE, digits = 10, na = "null")),
               fixed = TRUE)
  tags$form(class = "choices", hidden = NA, tags$p(tags$strong("Move a rule:"), choices$note),
            lapply(choices$rules, function(rule) {
              field(rule$name, tags$select(name = rule$name, lapply(seq_along(rule$values), function(i) {
                tags$option(value = i - 1, rule$values[i])
              })))
            }), numbers, tags$output(), tags$script(type = "application/json", htmltools::HTML(data)))
}
