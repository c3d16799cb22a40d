#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/chance/work_bound.hpp"
#include "habanera/game/choices.hpp"
#include "habanera/game/moves.hpp"
#include "habanera/game/play_out.hpp"
#include "habanera/game/table_event.hpp"
#include "habanera/game/unseen.hpp"
#include "habanera/game/view.hpp"
#include "habanera/game/vocabulary.hpp"
#include "habanera/hand/evaluator.hpp"
#include "habanera/video_poker/like_hands.hpp"
#include "habanera/video_poker/worth_on_demand.hpp"

namespace habanera {

// Money is whole, in the unit that makes every payment whole.
struct VideoPokerRules {
  HandRules hands;                  // over the kinds of the deck
  std::vector<std::int64_t> pays;   // of each category, the worst first, for a stake
  std::vector<std::string> lines;   // their names
  std::int64_t stake = 1;
  std::shared_ptr<const WorthOnDemand> worth;  // of the deck, by the pays
};

// A hand is dealt, any of its cards are kept, the others are replaced once, and it is paid by its category.
class VideoPoker : public OneRound {
 public:
  using Rules = VideoPokerRules;
  // A move is the cards kept, a bit for each in the order dealt.
  struct Position {
    std::array<Card, most_kept> dealt{}, hand{};
    std::size_t drawn = 0;     // cards that have come
    std::size_t kept = 0;
    bool decided = false;
    std::array<Card, most_kept> kept_cards{};  // in a row
  };
  // The hand that was dealt.
  class View : public Sight<View> {
   public:
    const std::array<Card, most_kept>& dealt() const { return *dealt_; }
    Shown shown() const { return {shows("dealt", *dealt_)}; }

   private:
    friend class VideoPoker;
    explicit View(const std::array<Card, most_kept>& dealt) : dealt_(&dealt) {}
    const std::array<Card, most_kept>* dealt_;
  };

  struct Outcome {
    std::int64_t net = 0, category = 0, kept = 0, dealt = 0;
    static constexpr std::size_t column_count = 4;
    static const std::vector<Column<Outcome>>& columns() {
      static const std::vector<Column<Outcome>> all{{"net", [](const Outcome& o) { return o.net; }},
                                                    {"category", [](const Outcome& o) { return o.category; }},
                                                    {"dealt", [](const Outcome& o) { return o.dealt; }},
                                                    {"kept", [](const Outcome& o) { return o.kept; }}};
      return all;
    }
  };
  // The categories are the pay table's.
  std::vector<Word> own_words(const std::string& column) const {
    std::vector<Word> words;
    if (column != "category" && column != "dealt") return words;
    for (std::size_t line = 0; line < rules_.lines.size(); ++line)
      words.push_back({static_cast<int>(line), rules_.lines[line]});
    return words;
  }

  enum Action : int { gets, keeps, draws, is_paid, is_not_paid };
  static std::vector<Word> actions() {
    return {{gets, "gets"}, {keeps, "keeps"}, {draws, "draws"}, {is_paid, "is_paid"}, {is_not_paid, "is_not_paid"}};
  }
  std::vector<Zone> zones() const { return {{"stock"}, {"dropped"}, {"hand", 0}}; }

  explicit VideoPoker(Rules rules) : rules_(std::move(rules)), evaluate_(rules_.hands), size_(rules_.worth->size()) {
    if (2 * size_ > cards_used()) throw std::invalid_argument("the deck is too small for a hand and its draw");
    if (rules_.pays.size() != rules_.hands.categories.size())
      throw std::invalid_argument("each category has its pay");
  }

  std::size_t seats() const { return 1; }
  std::size_t cards_used() const { return rules_.worth->deck().size(); }
  std::uint32_t likeness(Card card) const { return card; }

  Position start(std::size_t) const { return {}; }
  NextStep next(const Position& position) const {
    if (position.drawn < size_) return {NextStep::deal};
    if (!position.decided) return {NextStep::decide, 0};
    return {position.drawn < 2 * size_ - kept_count(position) ? NextStep::deal : NextStep::over};
  }
  Moves moves(const Position&) const { return Moves::below(std::size_t{1} << size_); }
  void move(Position& position, std::size_t kept) const {
    position.decided = true;
    position.kept = kept;
    std::size_t at = 0;
    for (std::size_t i = 0; i < size_; ++i)
      if (kept >> i & 1) position.kept_cards[at++] = position.dealt[i];
  }
  void give(Position& position, const NextStep&, Card card) const {
    if (position.drawn < size_) position.dealt[position.drawn] = position.hand[position.drawn] = card;
    else position.hand[dropped_place(position, position.drawn - size_)] = card;
    ++position.drawn;
  }
  View view(const Position& position, std::size_t) const { return View(position.dealt); }

  Outcome outcome(const Position& position) const {
    return money(category_of(position.hand), category_of(position.dealt), position.kept);
  }

  // By the player's way with each hand, and how hands go on from there.
  static constexpr bool round_law_is_quick = true;
  template <class Players, class Use>
  void round_law(const std::vector<double>&, const Players& players, const WorkBound& bound, Use&& use) const {
    const KeepWorth& worth = rules_.worth->get();
    const KeepBook& book = worth.book();
    WorkClock work(bound.pause);
    const double all = book.sets().ways(cards_used(), size_);
    // By the category dealt, and how many are kept.
    std::vector<std::vector<double>> laws(book.lines() * (size_ + 1));
    each_like_hand([&](const KeepBook::Hand& hand, double like) {
      work.tick();
      const Position position = dealt(hand);
      const std::size_t category = book.category(book.set_of(hand, (std::size_t{1} << size_) - 1));
      for (const auto& [kept, chance] : chances_of_moves(*players[0], view(position, 0), moves(position))) {
        std::vector<double>& law = laws[category * (size_ + 1) + KeepWorth::count_of(kept)];
        law.resize(book.lines(), 0);
        worth.add_law(hand, kept, chance * like / all, law);
      }
    });
    for (std::size_t at = 0; at < laws.size(); ++at)
      for (std::size_t line = 0; line < laws[at].size(); ++line)
        if (laws[at][line] > negligible)
          use(money(line, at / (size_ + 1), (std::size_t{1} << at % (size_ + 1)) - 1), laws[at][line]);
  }

  // One hand of those that are alike, with how many there are.
  template <class Use>
  void each_like_hand(Use&& use) const {
    LikeHands(rules_.hands, rules_.worth->deck(), size_).each(use);
  }
  // The position in which these cards of the deck are dealt.
  Position dealt(const KeepBook::Hand& hand) const {
    Position position;
    for (std::size_t i = 0; i < size_; ++i) give(position, {NextStep::deal}, rules_.worth->deck()[hand[i]]);
    return position;
  }

  std::string full_key(const Position& position, const UnseenCards&) const {
    std::string all = std::to_string(position.kept) + (position.decided ? "d" : "");
    for (std::size_t i = 0; i < std::min(position.drawn, size_); ++i) all += "," + std::to_string(position.dealt[i]);
    for (std::size_t i = size_; i < position.drawn; ++i)
      all += "," + std::to_string(position.hand[dropped_place(position, i - size_)]);
    return all;
  }

  // For those who look on.

  std::size_t zone_of(const Position& position, std::size_t place) const {
    if (place >= position.drawn) return 0;
    return place < size_ && position.decided && !(position.kept >> place & 1) ? 1 : 2;
  }

  template <class Happened>
  void tell(const NextStep& next, const Position& position, const std::vector<Card>& deck, Happened&& happened) const {
    if (next.what == NextStep::decide) {
      happened(1, TableEvent{0, keeps, position.kept_cards.data(), kept_count(position)});
    } else if (next.what == NextStep::deal) {
      const std::size_t place = position.drawn - 1;
      happened(1, TableEvent{0, place < size_ ? gets : draws, &deck[place], 1});
    }
  }
  TableEvent ending(const Outcome& outcome) const {
    const bool paid = outcome.net + rules_.stake > 0;
    return {0, paid ? is_paid : is_not_paid, nullptr, 0, outcome.category};
  }

 private:
  static constexpr double negligible = 1e-15;  // what rounding leaves of chances that are nothing

  // Apart, since a trial is made one function, in which it would stand over and over.
  [[gnu::noinline]] std::size_t category_of(const std::array<Card, most_kept>& hand) const {
    return evaluate_(hand.data(), size_).category;
  }
  static std::size_t kept_count(const Position& position) { return KeepWorth::count_of(position.kept); }
  // The place of the card that is replaced as number `nth`.
  std::size_t dropped_place(const Position& position, std::size_t nth) const {
    std::size_t place = 0;
    for (;; ++place)
      if (!(position.kept >> place & 1) && nth-- == 0) return place;
  }
  Outcome money(std::size_t category, std::size_t dealt_category, std::size_t kept) const {
    return {rules_.pays[category] - rules_.stake, static_cast<std::int64_t>(category),
            static_cast<std::int64_t>(KeepWorth::count_of(kept)), static_cast<std::int64_t>(dealt_category)};
  }

  Rules rules_;
  HandEvaluator evaluate_;
  std::size_t size_;
};

}  // namespace habanera
