#pragma once

#include <atomic>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <stdexcept>
#include <utility>
#include <vector>

#include "habanera/game/trial.hpp"

namespace habanera {

// What was recorded of the trials 1 to `trials` of one game and seed, kept as they are played, so that a game which
// stands beside many others is played once. Threads keep different trials at one time.
class RememberedTrials {
 public:
  // Of at most so many numbers: what is not kept is played again.
  RememberedTrials(std::size_t trials, std::int64_t numbers) : kept_(trials), room_(numbers) {}

  bool recall(std::uint64_t trial, Entries& entries) const {
    if (!may_hold(trial)) return false;
    const Kept& kept = kept_[trial - 1];
    if (kept.rows == 0) return false;
    const std::size_t width = kept.values.size() / kept.rows;
    for (std::size_t row = 0; row < kept.rows; ++row) entries.add(kept.values.data() + row * width, width);
    return true;
  }

  void keep(std::uint64_t trial, const Entries& entries) {
    if (!may_hold(trial) || entries.size() == 0) return;
    const auto size = static_cast<std::int64_t>(entries.size() * entries.front().size());
    if (room_.fetch_sub(size) < size) return;
    Kept& kept = kept_[trial - 1];
    kept.rows = entries.size();
    kept.values.reserve(static_cast<std::size_t>(size));
    for (const RowTally::Row& row : entries) kept.values.insert(kept.values.end(), row.begin(), row.end());
  }

 private:
  struct Kept {
    std::size_t rows = 0;
    std::vector<std::int64_t> values;
  };
  bool may_hold(std::uint64_t trial) const { return trial >= 1 && trial <= kept_.size(); }

  std::vector<Kept> kept_;
  std::atomic<std::int64_t> room_;
};

// Plays only trials that are not remembered. What it plays has no deck: that of a remembered trial was never dealt.
class RememberingRunner : public TrialRunner {
 public:
  RememberingRunner(std::unique_ptr<TrialRunner> runner, RememberedTrials& memory)
      : runner_(std::move(runner)), memory_(memory) {}

  std::unique_ptr<TrialRunner> copy() const override {
    return std::make_unique<RememberingRunner>(runner_->copy(), memory_);
  }
  void heed(StopSign& sign) override { runner_->heed(sign); }
  const Entries& play(std::uint64_t seed, std::uint64_t trial) override {
    entries_.clear();
    if (memory_.recall(trial, entries_)) return entries_;
    const Entries& played = runner_->play(seed, trial);
    memory_.keep(trial, played);
    return played;
  }
  const Entries& play_on(const std::vector<Card>& deck, std::uint64_t seed, std::uint64_t trial) override {
    return runner_->play_on(deck, seed, trial);
  }
  const std::vector<Card>& deck() const override { throw std::logic_error("a remembered trial has no deck"); }

 private:
  std::unique_ptr<TrialRunner> runner_;
  RememberedTrials& memory_;
  Entries entries_;
};

}  // namespace habanera
