#pragma once

#include <cstdint>
#include <map>
#include <vector>

#include "habanera/chance/every.hpp"
#include "habanera/draw/draw.hpp"
#include "habanera/stat/exact_sum.hpp"
#include "habanera/watcher/silent.hpp"

namespace habanera {

// The expected number of times a play reports each outcome, by walking every path of the code that
// simulates.
template <class Play>
std::map<std::uint64_t, double> walk_plays(const Draw& draw, Play play, const WorkBound& path_limit) {
  std::map<std::uint64_t, ExactSum> expected;
  Workspace work;
  Silent silent;
  std::vector<Card> table;
  std::vector<std::uint64_t> reported;
  walk_every_path(path_limit, [&](EveryChance& chance) {
    draw.lay(table, chance);
    reported.clear();
    play(table, [&] { draw(table, work, chance, silent); },
         [&](std::uint64_t outcome) { reported.push_back(outcome); });
    for (const std::uint64_t outcome : reported) expected[outcome].add(chance.probability());
  });
  std::map<std::uint64_t, double> values;
  for (const auto& [outcome, sum] : expected) values[outcome] = sum.value();
  return values;
}

}  // namespace habanera
