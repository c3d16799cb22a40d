#pragma once

#include <cmath>

namespace habanera {

// A compensated sum (Neumaier 1974): what rounding drops is kept and given back at the end.
class ExactSum {
 public:
  void add(double term) {
    const double next = sum_ + term;
    dropped_ += std::fabs(sum_) >= std::fabs(term) ? (sum_ - next) + term : (term - next) + sum_;
    sum_ = next;
  }
  double value() const { return sum_ + dropped_; }

 private:
  double sum_ = 0;
  double dropped_ = 0;
};

}  // namespace habanera
