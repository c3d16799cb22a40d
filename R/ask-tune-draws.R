# What tune_rules() tunes of draws: a question (its cards and how many are drawn), and what is paid for it.

#' @export
tuning_subject.habanera_question <- function(x, run, call) {
  shown <- play_trials(x, 0, 1)[names(x$columns)]
  numbers <- names(shown)[vapply(shown, is.numeric, NA)]
  flags <- names(shown)[vapply(shown, is.logical, NA)]
  list(
    x = x, words = function(changed) in_words(x), names = c(flags, numbers),
    rules = c("size", "cards"),
    rules_of = function(candidate) list(size = candidate$size, cards = length(candidate$whole)),
    dimensions = function(over) draw_dimensions(x$whole, x$size, over, list(), call),
    change = function(changes) changed_question(x, changes, call),
    present = function(name) x[[name]], line_ups = function(line_ups, over) refuse_line_ups(line_ups, call),
    known = function(tuning, names) exact_questions(tuning, names, run), price = function(...) NULL,
    parts_of = function(name) 1, is_share = function(name) name %in% flags,
    check_played = function(names) invisible(), allowed_unended = function(wishes) 0,
    to_play = function(candidate, players, names) asking_only(candidate, names),
    bounds = function(names, question, tally, done, error, allowed) {
      found <- counted_outcomes(question, tally)
      last <- at_last_turn(found$outcomes)
      tally <- list(rows = found$outcomes[last, , drop = FALSE], n = found$n[last])
      lapply(rlang::set_names(names), function(name) bounds_in_tally(asked_estimator(name, tally$rows), tally, error))
    }
  )
}

refuse_line_ups <- function(line_ups, call) {
  if (!is.null(line_ups)) refuse("Nobody decides here: no `line_ups`.", call = call)
  list(NULL)
}

# What `over` names of draws: `size`, `copies`, and lines and the stake of what is paid.
draw_dimensions <- function(deck, size, over, paid, call) {
  names <- checked_over(over, call)
  unlist(Map(function(name, values) {
    if (name == "copies") return(copies_dimensions(deck, values, call))
    now <- if (name == "size") size else paid[[name]]
    if (is.null(now)) {
      known <- c("copies", "size", names(paid))
      refuse(sprintf("`over` may name %s here; %s is none of them%s", join_words(known), quoted(name),
                     did_you_mean(name, known)), "rules", call)
    }
    values <- unlist(tried_values(values, name, call))
    if (!is.numeric(values) || anyNA(values) || any(values < 0) || anyDuplicated(values)) {
      refuse(sprintf("`%s` must be numbers of 0 or more to try, once each, not %s.", name, said(values)), "rules", call)
    }
    # A line may be called like a rule of its own.
    list(new_dimension(name, as.list(values), values, match(now, values), function(value) {
      if (name == "size") list(size = value) else list(pays = rlang::set_names(list(value), name))
    }, if (name %in% c("size", "stake")) name else paste(name, "pays")))
  }, names, over, USE.NAMES = FALSE), recursive = FALSE)
}

changed_question <- function(question, changes, call) {
  if (!is.null(changes$size)) question$size <- check_whole(changes$size, 1, most_cards, "size", call)
  question_with_deck(question, Reduce(with_copies, changes$copies, question$whole), call)
}

# What an exact answer says of each candidate, where all have one.
exact_questions <- function(tuning, names, run) {
  own <- unique(sub("^now\\((.*)\\)$", "\\1", names))
  found <- tryCatch({
    bar <- local_progress("Working them out", run$progress, length(tuning$candidates))
    rows <- lapply(seq_along(tuning$candidates), function(at) {
      bar$move(at)
      estimates(exact(asking_only(tuning$candidates[[at]], own)), own)$estimate
    })
    list(each = do.call(rbind, rows), present = estimates(exact(asking_only(tuning$subject$x, own)), own)$estimate)
  }, habanera_error_work = function(cnd) NULL)
  if (is.null(found)) return(NULL)
  values <- c(lapply(seq_along(own), function(at) found$each[, at]),
              lapply(found$present, rep, length(tuning$candidates)))
  rlang::set_names(values, c(own, now_name(own)))[names]
}

# The question without what nobody wishes anything of, which may put an exact answer out of reach.
asking_only <- function(question, names) {
  question$columns <- question$columns[intersect(names(question$columns), names)]
  question_with_deck(question, question$whole, NULL)
}

asked_estimator <- function(name, outcomes) {
  if (is.logical(outcomes[[name]])) list(kind = "share", column = name, code = TRUE) else
    list(kind = "mean", column = name, factor = 1)
}

#' @export
tuning_subject.habanera_payout <- function(x, run, call) {
  if (is.null(names(x$pays$named)) || !inherits(x$of, "habanera_distribution")) {
    refuse("A payout is tuned where it is of exact() and its pays are named by values, as in c(\"3\" = 8, \"2\" = 1).",
           call = call)
  }
  question <- x$of$provenance$experiment
  paid <- c(as.list(x$pays$named), stake = x$stake)
  list(
    x = list(pays = paid, law = x$of), words = function(changed) x$question, names = payout_names,
    rules = names(paid), rules_of = function(candidate) candidate$pays,
    dimensions = function(over) draw_dimensions(question$whole, question$size, over, paid, call),
    change = changed_payout(x, question, paid, call), present = function(name) paid[[name]],
    line_ups = function(line_ups, over) refuse_line_ups(line_ups, call),
    known = function(tuning, names) exact_payouts(tuning, names, x$pays$by),
    price = function(candidate, name, edge) priced_line(candidate, name, edge, x$pays$by),
    parts_of = function(name) 1, is_share = function(name) !name %in% c("mean_pay", "std_deviation")
  )
}

payout_names <- c("edge", "return_to_player", "hit_frequency", "mean_pay", "std_deviation")

# The law of each deck is worked out once.
changed_payout <- function(x, question, paid, call) {
  laws <- new.env()
  function(changes) {
    key <- paste(deparse(changes[c("copies", "size")]), collapse = "")
    if (!length(changes$copies) && is.null(changes$size)) laws[[key]] <- x$of
    if (is.null(laws[[key]])) laws[[key]] <- exact(changed_question(question, changes, call))
    list(pays = utils::modifyList(paid, as.list(changes$pays)), law = laws[[key]])
  }
}

exact_payouts <- function(tuning, names, by) {
  rows <- lapply(c(list(tuning$subject$x), tuning$candidates), payout_estimates, by)
  found <- do.call(rbind, rows)
  present <- function(name) rep(found[1, sub("^now\\((.*)\\)$", "\\1", name)], nrow(found) - 1)
  lapply(rlang::set_names(names), function(name) if (startsWith(name, "now(")) present(name) else found[-1, name])
}

payout_estimates <- function(candidate, by) {
  pays <- unlist(candidate$pays[names(candidate$pays) != "stake"])
  values <- pays[match(value_text(candidate$law$outcomes[[by]]), names(pays))]
  moments <- pay_moments(ifelse(is.na(values), 0, values), candidate$law$probability)
  back <- moments$mean / candidate$pays$stake
  c(edge = 1 - back, return_to_player = back, hit_frequency = moments$hit, mean_pay = moments$mean,
    std_deviation = moments$sd)
}

# The same as priced_rule() of a line that is paid.
priced_line <- function(candidate, name, edge, by) {
  if (!name %in% setdiff(names(candidate$pays), "stake")) return(NULL)
  edge_of <- function(pay) {
    candidate$pays[[name]] <- pay
    payout_estimates(candidate, by)[["edge"]]
  }
  pay <- solved_pay(function(pay) edge_of(pay) - edge, candidate$pays[[name]])
  if (!is.na(pay)) list(pay = pay, edge_of = edge_of)
}
