#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <vector>

namespace habanera {

// Probabilities of whole numbers, those that are not nothing side by side.
class Spread {
 public:
  // Less than this at an end is left out; `lost` says how much in all.
  static constexpr double negligible = 1e-20;

  Spread() = default;
  explicit Spread(std::int64_t place) : low_(place), values_{1} {}
  Spread(std::int64_t low, std::int64_t high) : low_(low), values_(static_cast<std::size_t>(high - low + 1), 0) {}

  bool empty() const { return values_.empty(); }
  std::int64_t low() const { return low_; }
  std::int64_t high() const { return low_ + static_cast<std::int64_t>(values_.size()) - 1; }
  double at(std::int64_t place) const {
    return place < low_ || place > high() ? 0 : values_[static_cast<std::size_t>(place - low_)];
  }
  double& operator[](std::int64_t place) { return values_[static_cast<std::size_t>(place - low_)]; }

  // Adds another one, moved by so much, so many times; its places are among ours.
  void add(const Spread& other, std::int64_t by, double times) {
    double* to = values_.data() + (other.low_ + by - low_);
    const double* from = other.values_.data();
    const std::size_t count = other.values_.size();
    std::size_t i = 0;
    // Four at once, which compilers make one step of.
    for (; i + 4 <= count; i += 4) {
      const double a = to[i] + times * from[i], b = to[i + 1] + times * from[i + 1];
      const double c = to[i + 2] + times * from[i + 2], d = to[i + 3] + times * from[i + 3];
      to[i] = a;
      to[i + 1] = b;
      to[i + 2] = c;
      to[i + 3] = d;
    }
    for (; i < count; ++i) to[i] += times * from[i];
  }

  // Takes away all that lies below a place, or from one on, and returns how much it was.
  double take_below(std::int64_t place) {
    const auto count = static_cast<std::size_t>(
        std::clamp<std::int64_t>(place - low_, 0, static_cast<std::int64_t>(values_.size())));
    double taken = 0;
    for (std::size_t i = 0; i < count; ++i) taken += values_[i];
    values_.erase(values_.begin(), values_.begin() + static_cast<std::ptrdiff_t>(count));
    low_ += static_cast<std::int64_t>(count);
    return taken;
  }
  double take_from(std::int64_t place) {
    double taken = 0;
    while (!values_.empty() && high() >= place) {
      taken += values_.back();
      values_.pop_back();
    }
    return taken;
  }
  double trim() {
    double lost = 0;
    std::size_t front = 0;
    while (front < values_.size() && values_[front] < negligible) lost += values_[front++];
    take_below(low_ + static_cast<std::int64_t>(front));
    while (!values_.empty() && values_.back() < negligible) {
      lost += values_.back();
      values_.pop_back();
    }
    return lost;
  }

  template <class Use>
  void each(Use&& use) const {
    for (std::size_t i = 0; i < values_.size(); ++i) use(low_ + static_cast<std::int64_t>(i), values_[i]);
  }

 private:
  std::int64_t low_ = 0;
  std::vector<double> values_;
};

}  // namespace habanera
