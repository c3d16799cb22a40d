#include <doctest/doctest.h>

#include <cstdint>
#include <stdexcept>
#include <thread>

#include "habanera/chance/stop_sign.hpp"
#include "habanera/run/blocks.hpp"

using namespace habanera;

namespace {

struct Interrupted : std::runtime_error {
  Interrupted() : std::runtime_error("interrupted") {}
};

// Works for ever, and looks at the sign.
struct Endless {
  StopSign* sign = nullptr;
  void heed(StopSign& at) { sign = &at; }
  void run(std::uint64_t, std::uint64_t) {
    for (;;) sign->look();
  }
  void merge(const Endless&) {}
};

struct Counter {
  std::uint64_t trials = 0;
  void run(std::uint64_t begin, std::uint64_t end) { trials += end - begin; }
  void merge(const Counter& other) { trials += other.trials; }
};

}  // namespace

TEST_CASE("what the pause throws ends the work of all threads, within a trial, and is what is thrown") {
  for (const unsigned threads : {1u, 4u})
    CHECK_THROWS_AS(run_blocks(1, 100, Crew(threads, [] { throw Interrupted(); }), [] { return Endless(); }, 1),
                    Interrupted);
}

TEST_CASE("a pause that throws nothing changes nothing") {
  CHECK(run_blocks(1, 100000, Crew(3, [] {}), [] { return Counter(); }, 64).trials == 100000);
}

TEST_CASE("only the thread that put a sign up calls its pause; the others are told by the sign") {
  static int paused = 0;
  paused = 0;
  StopSign sign([] { ++paused; });
  std::thread([&] { sign.look(); }).join();
  CHECK(paused == 0);
  sign.look();
  CHECK(paused == 1);
  sign.look();  // at once again: not asked
  CHECK(paused == 1);
  sign.raise();
  CHECK_THROWS_AS(sign.look(), Stopped);
}

TEST_CASE("a glance looks after every 4,096 steps") {
  static int paused = 0;
  paused = 0;
  StopSign sign([] { ++paused; });
  StopGlance glance;
  for (int step = 0; step < 10000; ++step) glance.step();  // without a sign
  glance.heed(sign);
  for (int step = 0; step < 4096; ++step) glance.step();
  CHECK(paused == 1);
}
