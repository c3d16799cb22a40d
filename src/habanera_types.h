#include <Rcpp/Lightest>
