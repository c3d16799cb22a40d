#pragma once

#include <atomic>
#include <chrono>
#include <cstdint>
#include <stdexcept>
#include <thread>

#include "habanera/chance/work_bound.hpp"

namespace habanera {

// What a thread throws that was told to stop by another.
struct Stopped : std::runtime_error {
  Stopped() : std::runtime_error("the work was stopped") {}
};

// By which several threads at one piece of work learn that it shall end. The thread that put it up asks the caller, by
// a pause that may throw, 50 times a second at most; the others only read the sign. Whoever leaves by an exception
// raises it.
class StopSign {
 public:
  explicit StopSign(WorkBound::Pause pause) : pause_(pause), asks_(std::this_thread::get_id()) {}

  void raise() { raised_.store(true, std::memory_order_relaxed); }

  // To be called where work may be left, from any thread.
  void look() {
    if (raised_.load(std::memory_order_relaxed)) throw Stopped();
    if (std::this_thread::get_id() != asks_) return;
    const auto now = std::chrono::steady_clock::now();
    if (now - asked_ < std::chrono::milliseconds(20)) return;
    asked_ = now;
    pause_();
  }

 private:
  WorkBound::Pause pause_;
  std::thread::id asks_;
  std::atomic<bool> raised_{false};
  std::chrono::steady_clock::time_point asked_{};
};

// Looks at a sign after every 4,096 steps, for work of short ones.
class StopGlance {
 public:
  void heed(StopSign& sign) { sign_ = &sign; }
  void step() {
    if ((++steps_ & 0xfff) == 0 && sign_) sign_->look();
  }

 private:
  StopSign* sign_ = nullptr;
  std::uint64_t steps_ = 0;
};

// How many threads work, and how the first of them learns whether to go on.
struct Crew {
  Crew(unsigned of, WorkBound::Pause at_pause = [] {}) : threads(of), pause(at_pause) {}

  unsigned threads;
  WorkBound::Pause pause;
};

}  // namespace habanera
