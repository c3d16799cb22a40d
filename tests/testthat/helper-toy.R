# A game that shares nothing with those of the package (tests/core/toy_game.hpp), as a kind of its own: what runs,
# reads, compares, varies, replays, draws and reports games knows no game.
toy_source <- testthat::test_path("..", "core", "toy_game.hpp")

turning_machine <- local({
  compiled <- NULL
  function() {
    if (is.null(compiled)) {
      found <- new.env()
      flags <- c(PKG_CPPFLAGS = paste0("-I", shQuote(system.file("include", package = "habanera")), " -I",
                                       shQuote(dirname(normalizePath(toy_source)))), PKG_CXXFLAGS = "-pthread")
      withr::with_envvar(flags, Rcpp::sourceCpp(env = found, code = "
        // [[Rcpp::plugins(cpp17)]]
        #include <Rcpp/Light>
        #include \"toy_game.hpp\"
        // [[Rcpp::export]]
        SEXP turning(Rcpp::List rules) {
          Turning::Rules own{Rcpp::as<std::vector<std::uint32_t>>(rules[\"stops\"]),
                             Rcpp::as<std::size_t>(rules[\"enough\"])};
          return Rcpp::XPtr<habanera::PlayableGame>(new habanera::Playable<Turning>(own));
        }"))
      compiled <<- found$turning
    }
    compiled
  }
})

turning_kind <- function() {
  new_kind(
    "turning", "Turning", "game", "cards are turned until one stops it.",
    list(rule_deck("the cards turned"), rule_whole("from", 4, 1, 1000, "the least rank that stops"),
         rule_whole("enough", 3, 1, 1000, "cards that are enough")),
    list(turned = list(meaning = "cards turned", told_of = "that were played"),
         how = list(meaning = "how it ended", legend = c(stopped = "a card stopped it", enough = "there were enough"))),
    c("how", "turned"), turning_machine(),
    cards = function(rules, deck, record, kept,
                     call) as.integer(card_attributes(deck[!duplicated(deck)])$rank >= rules$from),
    core = function(rules, cards, dealing) list(stops = cards, enough = rules$enough),
    likeness = function(game) game$spec$rules$stops,
    in_short = function(outcomes, weight, game) sprintf("%s are turned at most.", format_count(max(outcomes$turned))),
    step_words = c(deal = "laid out", turns = "turned:"), examples = list(play = "habanera play turning --exact")
  )
}

local_turning <- function(env = parent.frame()) {
  skip_if_not(file.exists(toy_source), "the core's tests, which are not here")
  kinds <- getFromNamespace("added_kinds", "habanera")
  old <- kinds$all
  kinds$all <- list(turning = turning_kind())
  withr::defer(kinds$all <- old, env)
}
