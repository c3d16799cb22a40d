// [[Rcpp::plugins(cpp17)]]
// [[Rcpp::depends(habanera)]]
#include "habanera_r/own_game.hpp"
// Two games in one process must not be taken for the same class.
#define Game Game_KEY
#line 1 "FILE"
CODE
#line 1 "what FILE is bound by"
// [[Rcpp::export]]
SEXP machine(Rcpp::List spec) { return habanera_r::own_game<Game>(spec); }
// [[Rcpp::export]]
Rcpp::List solved(Rcpp::List spec) { return habanera_r::own_solved<Game>(spec); }
// [[Rcpp::export]]
Rcpp::List sound(Rcpp::List spec, double gap, double seconds) { return habanera_r::own_sound<Game>(spec, gap, seconds); }
// [[Rcpp::export]]
SEXP best_answer(Rcpp::List spec, double seat) { return habanera_r::own_best_answer<Game>(spec, seat); }
// [[Rcpp::export]]
SEXP costs(Rcpp::List spec, double seat) { return habanera_r::own_costs<Game>(spec, seat); }
// [[Rcpp::export]]
Rcpp::NumericVector values(Rcpp::List spec) { return habanera_r::own_values<Game>(spec); }
// [[Rcpp::export]]
double failing_step(Rcpp::List spec, Rcpp::IntegerVector deck, double seed, double trial) {
  return habanera_r::own_failing_step<Game>(spec, deck, seed, trial);
}
// [[Rcpp::export]]
Rcpp::List hiding(Rcpp::List spec, Rcpp::IntegerVector deck, double seed, double trial) {
  return habanera_r::own_hiding<Game>(spec, deck, seed, trial);
}
