#pragma once

#include <cstddef>
#include <cstdint>
#include <memory>
#include <mutex>
#include <utility>
#include <vector>

#include "habanera/video_poker/keep_worth.hpp"

namespace habanera {

// What ways to keep are worth, worked out when somebody asks for it, and read by all threads.
class WorthOnDemand {
 public:
  WorthOnDemand(HandRules rules, std::vector<Card> deck, std::size_t size, std::vector<std::int64_t> pays)
      : rules_(std::move(rules)), deck_(std::move(deck)), size_(size), pays_(std::move(pays)) {}

  const std::vector<Card>& deck() const { return deck_; }
  std::size_t size() const { return size_; }
  const KeepWorth& get() const {
    std::call_once(asked_, [&] {
      worth_ = std::make_unique<const KeepWorth>(std::make_shared<const KeepBook>(rules_, deck_, size_), pays_);
    });
    return *worth_;
  }

 private:
  HandRules rules_;
  std::vector<Card> deck_;
  std::size_t size_;
  std::vector<std::int64_t> pays_;
  mutable std::once_flag asked_;
  mutable std::unique_ptr<const KeepWorth> worth_;
};

}  // namespace habanera
