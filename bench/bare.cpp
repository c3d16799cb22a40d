// Bare loops that do one job each and nothing else, to hold the package against: the best plain C++ we know how to
// write for a fixed deck, with no seams, no options and no examples kept. Each plays the deals of trials 1 to N of seed
// 1 by the words that the package plays them by, so that what it counts must equal what the package counts.
//
// A library for R's .C(): bare_count(job, trials, threads, counts), with counts as long as bare_size(job, size) says.
#include <cstddef>
#include <cstdint>
#include <string>
#include <thread>
#include <vector>

#include "bare/blackjack.hpp"
#include "bare/cards.hpp"
#include "bare/machine.hpp"
#include "bare/tables.hpp"
#include "bare/war.hpp"

namespace bare {
namespace {

struct Job {
  const char* name;
  void (*run)(std::uint64_t first, std::uint64_t end, Tally& counts);
  std::size_t size;
};

void positions2000(std::uint64_t first, std::uint64_t end, Tally& counts) {
  positions_large<2000, 50>(first, end, counts, [](int card) { return card / 40; });
}
void positions312(std::uint64_t first, std::uint64_t end, Tally& counts) {
  positions_large<312, 52>(first, end, counts, [](int card) { return card % 52; });
}
// The best play of a pay table from 52 cards, as often as there are trials: what it is worth, in millionths.
void machine52(std::uint64_t first, std::uint64_t end, Tally& counts) {
  for (std::uint64_t trial = first; trial < end; ++trial)
    counts[0] = static_cast<std::uint32_t>(1e6 * Machine().solve());
}

const Job jobs[] = {{"positions52", positions<52, 52>, 52 * 52},
                    {"positions312", positions312, 312 * 52},
                    {"positions2000", positions2000, 2000 * 50},
                    {"draw5", draw5, 52},
                    {"question5", question5, 4},
                    {"riffle52", riffle52, 52 * 52},
                    {"naive52", naive52, 52 * 52},
                    {"battery52", battery52, battery_size},
                    {"war52", war52, 5001},
                    {"highcard52", highcard52, 2},
                    {"baccarat416", baccarat416, 3},
                    {"ace52", ace52, 53},
                    {"onebet52", onebet52, 5},
                    {"lift52", lift52, 3 * 53},
                    {"pairs30", pairs30, 200},
                    {"blackjack312", blackjack312, results},
                    {"shoes312", shoes312, results},
                    {"counted312", counted312, counted_results},
                    {"machine52", machine52, 1}};

const Job* find_job(const char* name) {
  for (const Job& job : jobs)
    if (name == std::string(job.name)) return &job;
  return nullptr;
}

}  // namespace
}  // namespace bare

extern "C" {

void bare_size(const char** name, int* size) {
  const bare::Job* job = bare::find_job(*name);
  *size = job ? static_cast<int>(job->size) : 0;
}

void bare_count(const char** name, const double* trials, const int* threads, double* counts) {
  const bare::Job* job = bare::find_job(*name);
  if (!job) return;
  std::vector<std::thread> running;
  std::vector<bare::Tally> tallies(static_cast<std::size_t>(*threads));
  const std::uint64_t all = static_cast<std::uint64_t>(*trials), parts = tallies.size();
  for (std::uint64_t part = 0; part < parts; ++part)
    running.emplace_back([&, part] {
      // Made by the thread that uses it, so that no two lie on one cache line.
      bare::Tally mine(job->size);
      job->run(1 + part * all / parts, 1 + (part + 1) * all / parts, mine);
      tallies[part] = std::move(mine);
    });
  for (auto& thread : running) thread.join();
  for (const bare::Tally& tally : tallies)
    for (std::size_t i = 0; i < tally.size(); ++i) counts[i] += tally[i];
}
}
