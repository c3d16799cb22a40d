#' What a game pays
#'
#' Puts prices on outcomes: the return to the player, the house edge, how often anything is won, the standard
#' deviation per play, and what each line of the pay table contributes. Exact when `x` is.
#'
#' With chance p and pay v of each outcome, the mean pay is m = sum(p v), the return m / stake, the edge
#' 1 - m / stake, the hit frequency the chance that v > 0, and the standard deviation sqrt(sum(p v^2) - m^2)
#' (Epstein 2009, "The theory of gambling and statistical logic", ch. 3). From counts the standard error of m is
#' the standard deviation over the root of the number of trials; of rounds from one shoe
#' it is by shoe, where the pays follow from one outcome (a category, or a straight line of a number), else `NA`.
#'
#' @param x Counts or a distribution with one row of outcomes a trial, such as those of [draws()] with questions.
#' @param pays What the player is handed, the stake included if it comes back: a vector named by the values of
#'   an outcome column (values without a name pay 0), or an expression of outcome columns.
#' @param stake What a play costs, a number above 0.
#' @return A `habanera_payout`. `as.data.frame()` gives the lines: `line` (text), `chance`, `pays`,
#'   `contribution` (chance times pays), `share` (of the mean pay). `tidy()`: `term` (`return_to_player`,
#'   `house_edge`, `hit_frequency`, `mean_pay`, `std_deviation`), `estimate`, from counts `std.error`, `conf.low`,
#'   `conf.high` (95%), and `exact` where it can be had at once.
#' @section Errors: `habanera_error_input` for names that are no values of any column, and for pays below 0;
#'   `habanera_error_language` for an expression that cannot be understood.
#' @examples
#' orchard <- deck_from(demo_file("orchard.csv"))
#' x <- exact(draws(orchard, 3, alike = largest_group(suit)))
#' payout(x, c("3" = 10), stake = 1)
#' payout(x, ifelse(alike == 3, 10, 0))
#' @export
payout <- function(x, pays, stake = 1) {
  check_given()
  call <- rlang::current_env()
  check_payable(x, call)
  check_between(stake, 0, 1e15)
  new_payout(x, given_pays(rlang::enquo(pays), x, call), stake, call)
}

check_payable <- function(x, call) {
  if (!is_result(x)) {
    hint <- if (inherits(x, "habanera_experiment")) "; take exact() or simulate() of it first" else ""
    refuse(sprintf("`x` must be counts or a distribution, not %s%s.", said_result(x), hint), call = call)
  }
  if (isTRUE(x$provenance$entries != 1)) {
    refuse(sprintf("Pays need one row of outcomes a trial; here a trial has %s.", format_count(x$provenance$entries)),
           call = call)
  }
}

said_result <- function(x) if (inherits(x, "habanera_experiment")) "an experiment" else said(x)

# A list of `by` (columns the pay depends on) and either `named` (pays by the values of that column; of no column, one
# pay) or `expr`, checked, over the outcomes.
given_pays <- function(pays, x, call) {
  expr <- rlang::quo_get_expr(pays)
  if (!any(all.vars(expr) %in% names(x$outcomes))) {
    slip <- sprintf("`pays` names no outcome column (%s), and has no value of its own.", join_words(names(x$outcomes)))
    return(pays_by_value(refuse_if_fails(rlang::eval_tidy(pays), slip, "language", call), x, call))
  }
  pays_by_expression(expr, x, rlang::quo_get_env(pays), call)
}

pays_by_expression <- function(expr, x, env, call) {
  expr <- checked_on_outcomes(expr, names(x$outcomes), env, call)
  pays <- list(by = intersect(all.vars(expr), names(x$outcomes)), expr = expr)
  paid_for(pays, x$outcomes, call)
  pays
}

pays_by_value <- function(pays, x, call) {
  check_pays(pays, call)
  if (!is.null(names(pays))) return(list(by = paid_column(names(pays), x, call), named = pays))
  if (length(pays) == 1) return(list(by = character(), named = pays))
  refuse("`pays` must be named by the values of an outcome, as in c(\"2\" = 5, \"3\" = 50).", call = call)
}

# The pay of each row of outcomes.
paid_for <- function(pays, outcomes, call = NULL) {
  if (!is.null(pays$expr)) return(check_pays(on_outcomes(pays$expr, outcomes, call), call))
  if (!length(pays$by)) return(rep(pays$named, nrow(outcomes)))
  found <- unname(pays$named[match(value_text(outcomes[[pays$by]]), names(pays$named))])
  ifelse(is.na(found), 0, found)
}

check_pays <- function(pays, call) {
  amounts <- (is.numeric(pays) || is.logical(pays)) && length(pays) && all(is.finite(pays) & pays >= 0)
  if (amounts) return(as.double(pays))
  refuse("`pays` must be finite numbers of 0 or more.", call = call)
}

# The column whose values the names are. A value that a simulation has not met may be named all the same.
paid_column <- function(names, x, call) {
  known <- lapply(x$outcomes, function(values) unique(value_text(values)))
  met <- vapply(known, function(values) sum(names %in% values), 0)
  best <- which.max(met)
  if (met[best] == length(names)) return(names(known)[best])
  missing <- setdiff(names, known[[best]])[1]
  if (met[best] == 0 || inherits(x, "habanera_distribution")) {
    refuse(sprintf("`pays` names %s, which is no value of an outcome here: %s.", quoted(missing), paste(
      sprintf("%s is %s", names(known), vapply(known, join_some, "", 8)), collapse = "; ")), call = call)
  }
  inform_user(sprintf("`pays` names %s, which never came in these trials.", quoted(missing)))
  names(known)[best]
}

new_payout <- function(x, pays, stake, call) {
  simulated <- inherits(x, "habanera_counts")
  weight <- if (simulated) x$n else x$probability
  law <- if (simulated && inherits(x, "habanera_counts_outcomes")) quick_exact(x$provenance$experiment)
  structure(
    list(lines = pay_lines(x$outcomes, weight, pays), moments = pay_moments(paid_for(pays, x$outcomes), weight),
         stake = stake, error = pay_errors(x, pays$by, paid_for(pays, x$outcomes), weight),
         exact = if (!is.null(law)) pay_moments(paid_for(pays, law$outcomes), law$probability),
         trials = if (simulated) trial_count(x), words = if (simulated) run_in_words(x) else "exact",
         question = in_words(x$provenance$experiment), of = x, pays = pays),
    made = call_made(), class = result_class("habanera_payout")
  )
}

# The standard errors of the mean pay and of the hit frequency, NA where they cannot be had, and the degrees of freedom
# that they are told from.
pay_errors <- function(x, by, values, weight) {
  if (!inherits(x, "habanera_counts")) return(list(mean = 0, hit = 0, freedom = Inf))
  moments <- pay_moments(values, weight)
  if (is.null(x[["sums"]])) {
    plays <- sum(weight)
    # As of any sample: the moments are those of the plays themselves.
    return(list(mean = if (plays > 1) moments$sd / sqrt(plays - 1) else NA_real_,
                hit = sqrt(moments$hit * (1 - moments$hit) / plays), freedom = plays - 1))
  }
  mean <- round_pay_error(x, by, values)
  list(mean = mean$std.error, hit = round_pay_error(x, by, as.double(values > 0))$std.error,
       freedom = mean$freedom)
}

# Of rounds that hang together in their trials: where `values` follow from what trials add up to, since there is one for
# each value of a category, or they rise with a number in a straight line.
round_pay_error <- function(x, by, values) {
  sums <- sums_of_counts(x)
  columns <- names(sums$sum)
  if (length(by) != 1) {
    return(list(std.error = if (length(unique(values)) == 1) 0 else NA_real_, freedom = NA_real_))
  }
  given <- x$outcomes[[by]]
  weights <- rlang::set_names(numeric(length(columns)), columns)
  if (is.character(given)) {
    weights[paste0(by, "=", given)] <- values
  } else {
    ends <- c(which.min(given), which.max(given))
    slope <- if (diff(given[ends]) == 0) 0 else diff(values[ends]) / diff(given[ends])
    start <- values[ends[1]] - slope * given[ends[1]]
    if (any(abs(start + slope * given - values) > 1e-9 * max(1, abs(values)))) return(unknown_ratio)
    weights[c("entries", by)] <- c(start, slope / sums$unit[[by]])
  }
  ratio_of_sums(sums, trial_count(x), weights, as.double(columns == "entries"))
}

most_pay_lines <- 24

# A line for each combination of the columns that decide the pay, or, when these are many, for each pay.
pay_lines <- function(outcomes, weight, pays) {
  values <- paid_for(pays, outcomes)
  rows <- gathered_rows(cbind(outcomes[pays$by], pays = values))
  if (nrow(rows$outcomes) > most_pay_lines || !length(pays$by)) rows <- gathered_rows(data.frame(pays = values))
  chance <- rows$sum(weight) / sum(weight)
  by <- setdiff(names(rows$outcomes), "pays")
  line <- if (!length(by)) paste("pays", value_text(rows$outcomes[["pays"]])) else {
    do.call(paste, c(unname(Map(function(name, values) paste(name, "=", value_text(values)), by, rows$outcomes[by])),
                     sep = ", "))
  }
  contribution <- chance * rows$outcomes[["pays"]]
  data.frame(line = line, chance = chance, pays = rows$outcomes[["pays"]], contribution = contribution,
             share = contribution / max(sum(contribution), .Machine$double.xmin))
}

#' @export
as.data.frame.habanera_payout <- function(x, row.names = NULL, optional = FALSE, ...) x$lines

#' @rdname payout
#' @param ... Not used.
#' @rawNamespace S3method(generics::tidy, habanera_payout)
tidy.habanera_payout <- function(x, ...) {
  found <- data.frame(term = pay_terms, estimate = pay_estimates(x$moments, x$stake))
  if (is.null(x$trials)) return(found)
  # The error of a standard deviation depends on moments that pay tables leave wild: none is given.
  error <- x$error$mean
  hit <- if (is.infinite(x$error$freedom) || !isTRUE(x$error$hit > 0)) {
    list(low = NA_real_, high = NA_real_)
  } else {
    share_interval(x$moments$hit, x$error$hit, x$error$freedom)
  }
  half <- student_half_width(error, x$error$freedom)
  found$std.error <- c(error / x$stake, error / x$stake, x$error$hit, error, NA)
  found$conf.low <- found$estimate - c(half / x$stake, half / x$stake, found$estimate[3] - hit$low, half, NA)
  found$conf.high <- found$estimate + c(half / x$stake, half / x$stake, hit$high - found$estimate[3], half, NA)
  found$exact <- if (is.null(x$exact)) NA_real_ else pay_estimates(x$exact, x$stake)
  found
}

pay_terms <- c("return_to_player", "house_edge", "hit_frequency", "mean_pay", "std_deviation")

pay_estimates <- function(moments, stake) {
  c(moments$mean / stake, 1 - moments$mean / stake, moments$hit, moments$mean, moments$sd)
}

#' @export
tell.habanera_payout <- function(x, ...) {
  cat_wrapped("<payout> ", x$question, "; ", x$words)
  for (line in payout_sentences(x)) cat_wrapped(line)
  print_rows(printed_pays(x))
  invisible(x)
}

payout_sentences <- function(x) {
  row <- tidy(x)
  between <- function(i, format) {
    if (is.null(x$trials)) return("")
    exact <- if (is.na(row$exact[i])) "" else sprintf("; exactly %s", format(row$exact[i]))
    interval <- interval_in_words(row$conf.low[i], row$conf.high[i], format)
    if (is.na(interval)) return(if (nzchar(exact)) sprintf(" (%s)", sub("^; ", "", exact)) else "")
    sprintf(" (%s%s)", interval, exact)
  }
  percent <- function(p) format_percent(p, 4)
  c(sprintf("A play at %s hands back %s on average%s: return to player %s, house edge %s%s.", format_money(x$stake),
            format_money(row$estimate[4]), between(4, format_money), percent(row$estimate[1]), percent(row$estimate[2]),
            between(2, percent)),
    sprintf("Something is won in %s of plays%s; the standard deviation of a play is %s.", percent(row$estimate[3]),
            between(3, percent), format_money(row$estimate[5])))
}

# An amount: to five digits, and no digits that say nothing.
format_money <- function(x) format(signif(x, 5), big.mark = ",", scientific = FALSE, trim = TRUE, drop0trailing = TRUE)

printed_pays <- function(x) {
  data.frame(line = x$lines$line, chance = format_percent(x$lines$chance, 4),
             pays = vapply(x$lines$pays, format_money, ""),
             contribution = format_number(x$lines$contribution, 4), share = format_percent(x$lines$share))
}
