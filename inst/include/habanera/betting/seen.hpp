#pragma once

// What a view tells, which needs the whole game: it is part of betting.hpp.

#include <algorithm>
#include <cstddef>
#include <string>
#include <vector>

#include "habanera/betting/betting.hpp"

namespace habanera {

inline std::size_t BettingView::own_cards() const { return game_->rules().own; }

inline std::string BettingView::actions() const { return game_->actions_text(*position_); }

inline const MoveCode& BettingView::code() const { return game_->code(*position_); }

inline Card BettingView::only_card() const { return game_->stands_for(game_->own_of(*position_, seat_)[0]); }

inline std::vector<Card> BettingView::holding() const {
  const Card* own = game_->own_of(*position_, seat_);
  return {own, own + own_cards()};
}
inline std::vector<Card> BettingView::shared() const {
  return {position_->shared.begin(), position_->shared.begin() + position_->open};
}

[[gnu::noinline]] inline ToldCards BettingView::told_cards() const {
  ToldCards told(game_->table());
  told.begin_group();
  const Card* own = game_->own_of(*position_, seat_);
  for (std::size_t i = 0; i < own_cards(); ++i) told.add(own[i]);
  std::size_t at = 0;
  const auto add_group = [&](std::size_t cards) {
    told.begin_group();
    for (std::size_t i = 0; i < cards && at < position_->open; ++i) told.add(position_->shared[at++]);
  };
  if (!game_->rules().board.empty()) add_group(game_->rules().board.size());
  for (const Street& street : game_->rules().chips.streets)
    if (street.shared > 0) add_group(street.shared);
  told.tell();
  return told;
}

inline Shown BettingView::shown() const {
  const ToldCards told = told_cards();
  const std::string shared = told.text(own_cards(), told.size()), moves = actions();
  const auto words = [](const std::string& text) {
    return text.empty() ? std::vector<std::string>() : std::vector<std::string>{text};
  };
  Shown all{shows_words("holding", {told.text(0, own_cards())})};
  // Of a game in which nothing is ever turned nothing is said of it.
  if (game_->turns_cards()) all.push_back(shows_words("shared", words(shared)));
  all.push_back(shows_words("actions", words(moves)));
  return all;
}

inline Shown BettingView::facts() const {
  const Chips& chips = game_->chips_of(*position_);
  std::size_t others = 0;
  for (std::size_t seat = 0; seat < game_->seats(); ++seat) others += seat != seat_ && chips.is_in(seat);
  return {shows("seat", seat_ + 1), shows("street", chips.street + std::size_t{1}),
          shows("pot", game_->chips().pot(chips)),
          shows("to_call", chips.to_call(seat_)), shows("left", chips.left[seat_]), shows("bets", chips.bets),
          shows("others", others), shows_words("actions", {actions()})};
}

}  // namespace habanera
