#include <Rcpp/Light>
