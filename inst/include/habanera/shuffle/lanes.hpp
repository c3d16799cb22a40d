#pragma once

#include <cstddef>
#include <cstdint>
#include <cstring>
#include <vector>

namespace habanera {

// Eight small whole numbers at a time (a GCC and Clang extension, on any processor): the statistics
// of an arrangement are mostly comparisons of neighbouring numbers. A comparison gives -1 where true.
typedef std::int16_t Lanes __attribute__((vector_size(16)));
inline constexpr std::size_t lane_count = 8;

// So many blocks of lanes cover n numbers.
inline constexpr std::size_t lane_blocks(std::size_t n) { return (n + lane_count - 1) / lane_count; }

// The numbers need not be aligned.
inline Lanes load_lanes(const std::int16_t* from) {
  Lanes lanes;
  std::memcpy(&lanes, from, sizeof lanes);
  return lanes;
}

inline void store_lanes(std::int16_t* to, const Lanes& lanes) { std::memcpy(to, &lanes, sizeof lanes); }

inline Lanes same_in_all(std::int16_t value) {
  return Lanes{value, value, value, value, value, value, value, value};
}

// -1 in the first `count` lanes.
inline Lanes lanes_before(std::size_t count) {
  return Lanes{0, 1, 2, 3, 4, 5, 6, 7} < same_in_all(static_cast<std::int16_t>(count));
}

inline std::int64_t lane_sum(const Lanes& lanes) {
  std::int64_t sum = 0;
  for (std::size_t i = 0; i < lane_count; ++i) sum += lanes[i];
  return sum;
}

// Numbers with room for whole blocks, also when read `ahead` places further on.
class LaneRow {
 public:
  LaneRow(std::size_t n, std::int16_t padding, std::size_t ahead = 1)
      : numbers_(lane_blocks(n) * lane_count + ahead, padding) {}
  std::int16_t* data() { return numbers_.data(); }
  const std::int16_t* data() const { return numbers_.data(); }
  std::int16_t& operator[](std::size_t i) { return numbers_[i]; }
  std::int16_t operator[](std::size_t i) const { return numbers_[i]; }

 private:
  std::vector<std::int16_t> numbers_;
};

}  // namespace habanera
