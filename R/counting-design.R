#' Tags that follow the effects
#'
#' The tags of so many levels whose correlation with the effects of removal is highest: a count is designed, not only
#' played.
#'
#' Tags rise with the effect: of all tags with a given spread those do best (the sum of squares from the effects,
#' scaled, is least where each tag is the level nearest to its effect). All of these are tried.
#'
#' @param effects What [removal_effects()] gave, of one bet, or the rows of one.
#' @param levels Whole numbers that a tag may be, such as `-2:2`, up to 9 of them.
#' @param balanced TRUE: the tags of a whole pack add up to nothing.
#' @return A `habanera_designed_tags`: a list with `tags` (numbers by value, for [counting_system()]), `correlation`,
#'   and `by_level`, a data frame: `level` (the largest tag), `correlation` (of the best tags up to it) and the tags, a
#'   column for each value.
#' @section Errors: `habanera_error_input` for effects of several bets, levels that are none, and where no balanced tags
#'   are.
#' @examples
#' effects <- removal_effects(game_blackjack(packs = 1), player_basic())
#' design_tags(effects, -2:2)
#' @export
design_tags <- function(effects, levels = -1:1, balanced = TRUE) {
  check_given()
  call <- rlang::current_env()
  fits <- is.data.frame(effects) && all(c("bet", "effect", "copies") %in% names(effects)) &&
    length(unique(effects$bet)) == 1
  if (!fits) {
    refuse("`effects` must be what removal_effects() gave, or rows of it, of one bet.")
  }
  fits <- is.numeric(levels) && !anyNA(levels) && length(unique(levels)) %in% 2:9 &&
    all(levels == round(levels) & abs(levels) <= 100)
  if (!fits) refuse(sprintf("`levels` must be 2 to 9 whole numbers, such as -1:1, not %s.", said(levels)))
  check_flag(balanced)
  if (diff(range(effects$effect)) < 1e-12) refuse("`effects` are all alike: no card tells anything.", call = call)
  levels <- sort(unique(as.double(levels)))
  steps <- setdiff(sort(unique(abs(levels))), 0)
  rows <- lapply(steps, function(most) best_tags(effects, levels[abs(levels) <= most], balanced))
  steps <- steps[!vapply(rows, is.null, NA)]
  rows <- Filter(Negate(is.null), rows)
  if (!length(rows)) {
    refuse("No tags of these levels are balanced: allow more levels, or balanced = FALSE.", call = call)
  }
  best <- rows[[which.max(vapply(rows, `[[`, 0, "correlation"))]]
  table <- cbind(data.frame(level = steps, correlation = vapply(rows, `[[`, 0, "correlation")),
                 do.call(rbind, lapply(rows, function(row) as.data.frame(as.list(row$tags), optional = TRUE))))
  structure(c(best, list(by_level = table)), made = call_made(), class = result_class("habanera_designed_tags"))
}

# The best of the tags that rise with the effect; NULL where none is balanced or all are alike.
best_tags <- function(effects, levels, balanced) {
  if (length(levels) < 2) return(NULL)
  order <- order(effects$effect)
  places <- rising_places(nrow(effects), length(levels))
  tags <- matrix(levels[places], nrow(places))
  copies <- effects$copies[order]
  sums <- as.vector(tags %*% copies)
  usable <- apply(places, 1, function(row) row[1] < row[length(row)]) & (!balanced | sums == 0)
  if (!any(usable)) return(NULL)
  tags <- tags[usable, , drop = FALSE]
  correlation <- apply(tags, 1, weighed_correlation, effects$effect[order], copies)
  best <- which.max(correlation)
  found <- numeric(nrow(effects))
  found[order] <- tags[best, ]
  list(tags = rlang::set_names(found, effects[[1]]), correlation = correlation[best])
}

# All rising rows of `size` numbers from 1 to `levels`, a row each.
rising_places <- function(size, levels) {
  if (levels == 1) return(matrix(1L, 1, size))
  ends <- utils::combn(size + levels - 1, levels - 1)
  t(apply(ends, 2, function(bars) rep(seq_len(levels), times = diff(c(0, bars, size + levels)) - 1)))
}

#' @rawNamespace S3method(generics::tidy, habanera_designed_tags)
tidy.habanera_designed_tags <- function(x, ...) data.frame(term = names(x$tags), estimate = unname(x$tags))

#' @export
as.data.frame.habanera_designed_tags <- function(x, row.names = NULL, optional = FALSE, ...) x$by_level

#' @export
tell.habanera_designed_tags <- function(x, ...) {
  cat_wrapped(sprintf("<designed tags> correlation %.4f with the effects of removal, by tags up to %s.", x$correlation,
                      format_statistic(max(abs(x$tags)))))
  shown <- x$by_level
  shown$correlation <- sprintf("%.4f", shown$correlation)
  shown[-(1:2)] <- lapply(shown[-(1:2)], function(tags) sprintf("%+g", tags))
  print_rows(shown)
  invisible(x)
}
