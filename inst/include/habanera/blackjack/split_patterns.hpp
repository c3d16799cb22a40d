#pragma once

#include <array>
#include <cstddef>

namespace habanera {

// All hands that come of a split, added up over how their second cards can fall.
//
// A hand that gets another card of the pair is split again while there are fewer hands than may be. Which second cards
// pair is a pattern, and given it a hand is played from the shoe less the cards of the pair that went to others, while
// the other hands' second cards are known only not to pair. That is had by inclusion and exclusion: the chance that
// none of b cards pairs is the sum over k of (-1)^k C(b, k) times the chance that k given ones do (Feller 1968, An
// Introduction to Probability Theory, vol. 1, ch. IV). Since cards still unseen are alike in any place, all hands share
// one law, whichever is played first. So the sum over all hands is a sum over r of the chance that r given cards pair
// times (`not_pairing[r]` hands whose second card does not + `any[r]` hands whose second card may), played without
// them.
struct SplitPatterns {
  static constexpr std::size_t most = 8;
  std::array<double, most> not_pairing{}, any{};

  explicit SplitPatterns(std::size_t most_hands) { follow(2, 2, 0, 0, most_hands); }

 private:
  void follow(std::size_t hands, std::size_t unfinished, std::size_t paired, std::size_t not_paired,
              std::size_t most_hands) {
    if (unfinished == 0 || hands == most_hands) return add(paired, not_paired, unfinished);
    follow(hands + 1, unfinished + 1, paired + 1, not_paired, most_hands);
    follow(hands, unfinished - 1, paired, not_paired + 1, most_hands);
  }

  void add(std::size_t paired, std::size_t not_paired, std::size_t unrestricted) {
    for (std::size_t k = 0; k < not_paired; ++k)
      not_pairing[paired + k] += static_cast<double>(not_paired) * signed_ways(not_paired - 1, k);
    for (std::size_t k = 0; k <= not_paired; ++k)
      any[paired + k] += static_cast<double>(unrestricted) * signed_ways(not_paired, k);
  }

  static double signed_ways(std::size_t of, std::size_t k) {
    double ways = 1;
    for (std::size_t i = 0; i < k; ++i) ways *= -static_cast<double>(of - i) / static_cast<double>(i + 1);
    return ways;
  }
};

}  // namespace habanera
