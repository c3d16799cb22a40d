#pragma once

#include <cstddef>
#include <cstdint>
#include <utility>
#include <variant>
#include <vector>

#include "habanera/cards/pile.hpp"
#include "habanera/draw/draw.hpp"
#include "habanera/question/keeping.hpp"
#include "habanera/question/words.hpp"

namespace habanera {

// A condition on a hand: whether it holds at each index of its words, turn by turn.
struct Condition {
  Words words;
  std::vector<std::uint8_t> holds;
};

// A hand that meets the condition goes back, all is shuffled again, and so many cards come, of which
// some go under the deck. As often as there are sizes.
struct Redraw {
  Condition condition;
  std::vector<std::size_t> sizes;
  std::vector<std::size_t> put_back;
  std::vector<std::uint8_t> under_first;  // of each kind; others go under after these
};

// Cards that are not kept are laid aside and replaced, so many times.
struct Exchange {
  std::vector<Keep> ways;  // the first that keeps a card
  std::size_t times;
};

// Whether a condition held in every turn so far, or in any.
struct TurnWord {
  Condition condition;
  bool every;
  std::uint64_t step;
};

// A question about what comes off the top: a hand, what is done with it, and the words asked of it.
struct Question {
  std::vector<Card> held;  // in the hand from the start, not in the deck
  std::size_t size;        // cards drawn for the hand
  std::vector<std::variant<Redraw, Exchange>> stages;
  std::size_t turns;       // after the hand, so many times ...
  std::size_t turn_size;   // ... so many cards more
  Words words;
  std::vector<TurnWord> turn_words;
  std::uint64_t cells;     // of all words, those over turns too

  bool is_plain() const { return stages.empty() && turns == 0 && turn_words.empty(); }
};

// Reads whole hands for a condition.
class ConditionReading {
 public:
  explicit ConditionReading(Condition condition)
      : holds_(std::move(condition.holds)), cells_(condition.words.cells), reading_(std::move(condition.words)) {}

  bool holds(const std::vector<Card>& hand, std::size_t held, std::size_t turn) {
    return holds_[turn * cells_ + read_hand(reading_, hand, held)];
  }

  static std::uint64_t read_hand(Reading& reading, const std::vector<Card>& hand, std::size_t held) {
    reading.begin();
    for (std::size_t i = 0; i < hand.size(); ++i)
      i < held ? reading.hold(hand[i]) : reading.draw(hand[i]);
    return reading.index();
  }

 private:
  std::vector<std::uint8_t> holds_;
  std::uint64_t cells_;
  Reading reading_;
};

// One trial of a question, written once for simulation, enumeration and single trials.
class QuestionPlay {
 public:
  explicit QuestionPlay(Question question) : question_(std::move(question)), reading_(question_.words) {
    for (const auto& stage : question_.stages)
      if (const Redraw* redraw = std::get_if<Redraw>(&stage)) redraw_readings_.emplace_back(redraw->condition);
    for (const TurnWord& word : question_.turn_words) turn_readings_.emplace_back(word.condition);
  }

  // `shuffle()` leaves a freshly shuffled deck on `table`, whose first cards are drawn. `report(turn,
  // index)` is told the words' index at each turn, 0 being the hand as it stands after all stages.
  template <class Shuffle, class Report>
  void operator()(const std::vector<Card>& table, Shuffle&& shuffle, Report&& report) {
    shuffle();
    take_hand(table, question_.size);
    auto redraw_reading = redraw_readings_.begin();
    for (const auto& stage : question_.stages) {
      if (const Redraw* redraw = std::get_if<Redraw>(&stage))
        redraw_while(*redraw, *redraw_reading++, table, shuffle);
      else
        exchange(std::get<Exchange>(stage), table);
    }
    turn_state_.clear();
    for (const TurnWord& word : question_.turn_words) turn_state_.push_back(word.every);
    for (std::size_t turn = 0;; ++turn) {
      report(turn, index_at(turn));
      if (turn == question_.turns) return;
      for (std::size_t i = 0; i < question_.turn_size; ++i) hand_.push_back(table[next_++]);
    }
  }

  const std::vector<Card>& hand() const { return hand_; }

 private:
  void take_hand(const std::vector<Card>& table, std::size_t size) {
    hand_ = question_.held;
    hand_.insert(hand_.end(), table.begin(), table.begin() + static_cast<std::ptrdiff_t>(size));
    next_ = size;
  }

  template <class Shuffle>
  void redraw_while(const Redraw& redraw, ConditionReading& reading, const std::vector<Card>& table,
                    Shuffle&& shuffle) {
    for (std::size_t time = 0; time < redraw.sizes.size(); ++time) {
      if (!reading.holds(hand_, question_.held.size(), 0)) return;
      shuffle();
      take_hand(table, redraw.sizes[time]);
      for (std::size_t i = 0; i < redraw.put_back[time]; ++i) put_one_under(redraw.under_first);
    }
  }

  // The last drawn of those that go first, if there is one; else the last drawn.
  void put_one_under(const std::vector<std::uint8_t>& under_first) {
    std::size_t gone = hand_.size() - 1;
    for (std::size_t i = hand_.size(); i-- > question_.held.size();)
      if (under_first[hand_[i]]) {
        gone = i;
        break;
      }
    hand_.erase(hand_.begin() + static_cast<std::ptrdiff_t>(gone));
  }

  void exchange(const Exchange& exchange, const std::vector<Card>& table) {
    for (std::size_t time = 0; time < exchange.times; ++time) {
      keeper_.choose_first(exchange.ways, hand_, kept_);
      for (std::size_t i = 0; i < hand_.size(); ++i)
        if (!kept_[i]) hand_[i] = table[next_++];
    }
  }

  std::uint64_t index_at(std::size_t turn) {
    const std::size_t held = question_.held.size();
    std::uint64_t index = ConditionReading::read_hand(reading_, hand_, held);
    for (std::size_t i = 0; i < turn_readings_.size(); ++i) {
      const TurnWord& word = question_.turn_words[i];
      const bool holds = turn_readings_[i].holds(hand_, held, turn);
      turn_state_[i] = word.every ? turn_state_[i] && holds : turn_state_[i] || holds;
      index += turn_state_[i] ? word.step : 0;
    }
    return index;
  }

  Question question_;
  Reading reading_;
  std::vector<ConditionReading> redraw_readings_, turn_readings_;
  std::vector<Card> hand_;
  std::vector<std::uint8_t> kept_, turn_state_;
  Keeper keeper_;
  std::size_t next_ = 0;
};

// Cards turned one by one until a condition holds, at most so many.
struct Until {
  std::size_t most;
  Condition condition;

  // The number of cards turned, and whether the condition holds then.
  std::pair<std::size_t, bool> operator()(const std::vector<Card>& table, Reading& reading) const {
    reading.begin();
    for (std::size_t turned = 0;; ++turned) {
      if (condition.holds[reading.index()]) return {turned, true};
      if (turned == most) return {turned, false};
      reading.draw(table[turned]);
    }
  }
};

}  // namespace habanera
