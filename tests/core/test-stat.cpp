#include <doctest/doctest.h>

#include <vector>

#include "habanera/stat/exact_sum.hpp"

using namespace habanera;

TEST_CASE("a compensated sum keeps what plain addition drops") {
  ExactSum sum;
  for (const double term : std::vector<double>{1.0, 1e100, 1.0, -1e100}) sum.add(term);
  CHECK(sum.value() == 2);
}
