#pragma once

#include <Rcpp/Light>

#include <memory>
#include <string>
#include <type_traits>
#include <utility>

#include "habanera/game/player.hpp"

// Whether moves are told in words where they are open, as the attribute "words" of the moves.
template <class ToView, class = void>
inline constexpr bool tells_words_of_moves = false;
template <class ToView>
inline constexpr bool tells_words_of_moves<ToView, std::void_t<decltype(ToView::tells_words)>> = ToView::tells_words;

// A player that is an R function of the view and the moves, which `to_view` gives as R has them; moves count from 1
// there. It is only called in R's own thread.
template <class View, class ToView>
class FunctionPlayer : public habanera::Player<View> {
 public:
  FunctionPlayer(Rcpp::Function f, ToView to_view) : f_(std::move(f)), to_view_(std::move(to_view)) {}

  std::unique_ptr<habanera::Player<View>> copy() const override { return std::make_unique<FunctionPlayer>(*this); }
  void begins() override { decision_ = 0; }

  std::size_t choose(const View& view, habanera::Moves moves, habanera::PlayerChance&) override {
    ++decision_;
    Rcpp::IntegerVector open;
    for (std::size_t i = 0; i < moves.count(); ++i) open.push_back(static_cast<int>(moves.at(i)) + 1);
    if constexpr (tells_words_of_moves<ToView>) open.attr("words") = to_view_.words(view, moves);
    const double chosen = Rcpp::as<double>(f_(to_view_(view), open, static_cast<double>(decision_)));
    return static_cast<std::size_t>(chosen) - 1;
  }

 private:
  Rcpp::Function f_;
  ToView to_view_;
  long decision_ = 0;
};

template <class View, class ToView>
std::shared_ptr<const habanera::Player<View>> function_player(SEXP f, ToView to_view) {
  return std::make_shared<FunctionPlayer<View, ToView>>(Rcpp::Function(f), std::move(to_view));
}
