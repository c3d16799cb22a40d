#pragma once

#include <cstdint>

namespace habanera {

// How much exact work may be done: so many paths or cases at most, and now and then a pause, in which the caller may
// break it off by an exception.
struct WorkBound {
  using Pause = void (*)();

  WorkBound(std::uint64_t most_cases, Pause at_pause = [] {}) : most(most_cases), pause(at_pause) {}

  std::uint64_t most;
  Pause pause;
};

// Counts steps of work and pauses after every 4,096 of them.
class WorkClock {
 public:
  explicit WorkClock(WorkBound::Pause pause) : pause_(pause) {}
  void tick() {
    if ((++steps_ & 0xfff) == 0) pause_();
  }
  std::uint64_t steps() const { return steps_; }

 private:
  WorkBound::Pause pause_;
  std::uint64_t steps_ = 0;
};

}  // namespace habanera
