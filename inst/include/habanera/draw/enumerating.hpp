#pragma once

#include <cstddef>
#include <cstdint>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/chance/every.hpp"
#include "habanera/draw/draw.hpp"
#include "habanera/stat/exact_sum.hpp"
#include "habanera/watcher/silent.hpp"

namespace habanera {

// The expected number of times each kind comes at each position of the draw, by walking every path:
// entry position * kinds + kind.
inline std::vector<double> walk_draws(const Draw& draw, std::size_t kinds,
                                      const WorkBound& path_limit) {
  const std::size_t size = draw.spec().size;
  std::vector<ExactSum> expected(kinds * size);
  Workspace work;
  walk_every_path(path_limit, [&](EveryChance& chance) {
    std::vector<Card> table = draw.fresh_table();
    Silent silent;
    draw(table, work, chance, silent);
    for (std::size_t i = 0; i < size; ++i) expected[i * kinds + table[i]].add(chance.probability());
  });
  std::vector<double> values;
  for (const ExactSum& sum : expected) values.push_back(sum.value());
  return values;
}

}  // namespace habanera
