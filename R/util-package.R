#' Habanera: a laboratory for card games
#'
#' State a deck, a shuffle or a draw as a small object; simulate it or work it out exactly; read
#' counts, distributions, figures and a report. Begin with [draws()] and
#' [simulate()][simulate.habanera_experiment].
#'
#' @useDynLib habanera, .registration = TRUE
#' @importFrom Rcpp evalCpp
#' @importFrom rlang .data
#' @keywords internal
"_PACKAGE"
