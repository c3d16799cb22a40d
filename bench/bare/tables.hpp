#pragma once

// High card, baccarat, cards until an ace, lift, pairs.
#include "deals.hpp"

namespace bare {

// Two cards of 52; the higher wins, a tie is the bank's. Counts defeats and victories.
inline void highcard52(std::uint64_t first, std::uint64_t end, Tally& counts) {
  constexpr std::uint64_t product = batch_product(52, 0, batch_end(52, 0));
  for (std::uint64_t trial = first; trial < end; ++trial) {
    Words next(trial);
    std::uint64_t word = even_word(next, product, (0 - product) % product);
    const auto seat = static_cast<int>(take(word, 52));
    auto bank = static_cast<int>(take(word, 51)) + 1;
    // The first card of the pack lies where the seat's came from.
    if (bank == seat) bank = 0;
    ++counts[rank_of(seat) > rank_of(bank)];
  }
}

// Rounds of baccarat from a fresh shoe of eight packs; counts who wins: player, banker, nobody.
inline void baccarat416(std::uint64_t first, std::uint64_t end, Tally& counts) {
  LateDeck<416> shoe([](int card) { return points_of(card) % 10; });
  const auto sum = [](int total, int more) { return total + more < 10 ? total + more : total + more - 10; };
  for (std::uint64_t trial = first; trial < end; ++trial) {
    shoe.begin(trial);
    int player = shoe.draw(), banker = shoe.draw();
    player = sum(player, shoe.draw());
    banker = sum(banker, shoe.draw());
    if (player < 8 && banker < 8) {
      if (player > 5) {
        if (banker < 6) banker = sum(banker, shoe.draw());
      } else {
        const int third = shoe.draw();
        player = sum(player, third);
        const bool draws = banker < 3 || (banker == 3 && third != 8) || (banker == 4 && third > 1 && third < 8) ||
                           (banker == 5 && third > 3 && third < 8) || (banker == 6 && (third == 6 || third == 7));
        if (draws) banker = sum(banker, shoe.draw());
      }
    }
    ++counts[player > banker ? 0 : player < banker ? 1 : 2];
  }
}

// Cards turned until an ace comes; counts how many.
inline void ace52(std::uint64_t first, std::uint64_t end, Tally& counts) {
  LateDeck<52> deck(rank_of);
  for (std::uint64_t trial = first; trial < end; ++trial) {
    deck.begin(trial);
    while (deck.draw() != ace) {}
    ++counts[static_cast<std::size_t>(deck.drawn())];
  }
}

// Games of lift (inst/examples/lift.cpp) of two seats that go on to fifteen points; counts who wins (nobody, 1, 2) and
// how many cards are turned.
inline void lift52(std::uint64_t first, std::uint64_t end, Tally& counts) {
  LateDeck<52> deck([](int card) { return rank_of(card) == ace ? 1 : rank_of(card) + 2; });
  for (std::uint64_t trial = first; trial < end; ++trial) {
    deck.begin(trial);
    int points[2] = {0, 0}, in_turn = 0, seat = 0;
    while (deck.drawn() < 52 && points[0] < 30 && points[1] < 30) {
      const int rank = deck.draw();
      in_turn += rank;
      if (rank < 11 && in_turn < 15 && points[seat] + in_turn < 30 && deck.drawn() < 52) continue;
      points[seat] += rank < 11 ? in_turn : 0;
      seat = 1 - seat;
      in_turn = 0;
    }
    const int winner = points[0] > points[1] ? 1 : points[0] < points[1] ? 2 : 0;
    ++counts[static_cast<std::size_t>(winner * 53 + deck.drawn())];
  }
}

// Hands of one card of 52 each, an ante and one bet, both seats by tables of chances by rank: the first bets, calls a bet
// after it has checked; the second bets after a check, calls. Counts what the first wins, from -2 to 2.
inline void onebet52(std::uint64_t first, std::uint64_t end, Tally& counts) {
  constexpr std::uint64_t product = batch_product(52, 0, batch_end(52, 0));
  double opens[13], calls[13], bets[13], answers[13];
  for (int rank = 0; rank < 13; ++rank) {
    opens[rank] = rank < 2 ? 0.25 : rank > 9 ? 0.75 : 0;
    bets[rank] = rank < 3 ? 0.5 : rank > 8 ? 1 : 0;
    calls[rank] = answers[rank] = rank > 7 ? 1 : rank > 4 ? 0.5 : 0;
  }
  // The move that comes first among those open is made with its chance.
  const auto second_move = [](double chance, Words& luck) {
    if (chance == 0 || chance == 1) return chance == 1;
    return static_cast<double>(luck() >> 11) * 0x1p-53 >= 1 - chance;
  };
  for (std::uint64_t trial = first; trial < end; ++trial) {
    Words next(trial);
    std::uint64_t word = even_word(next, product, (0 - product) % product);
    const auto one = static_cast<int>(take(word, 52));
    auto two = static_cast<int>(take(word, 51)) + 1;
    if (two == one) two = 0;
    const int mine = rank_of(one), other = rank_of(two);
    Words luck_one(trial, 0), luck_two(trial, 1);
    int net = mine > other ? 1 : mine < other ? -1 : 0;
    if (second_move(opens[mine], luck_one)) {
      net = second_move(answers[other], luck_two) ? 2 * net : 1;
    } else if (second_move(bets[other], luck_two)) {
      net = second_move(calls[mine], luck_one) ? 2 * net : -1;
    }
    ++counts[static_cast<std::size_t>(net + 2)];
  }
}

// Whole games of pairs on a table of 30: what was seen of each place, two seats that remember all. They take the lowest
// known pair, else turn the lowest place not seen; counts the turns.
inline void pairs30(std::uint64_t first, std::uint64_t end, Tally& counts) {
  for (std::uint64_t trial = first; trial < end; ++trial) {
    std::uint16_t deck[30];
    for (int i = 0; i < 30; ++i) deck[i] = static_cast<std::uint16_t>(i);
    Words next(trial);
    settle_all<30, 0>(deck, next, [](int, int) {});
    std::uint32_t lying = (1u << 30) - 1, seen = 0, known_pairs = 0;  // of a known pair the lower place
    std::int8_t at[15], mate_of[30];
    std::memset(at, -1, sizeof at);
    int turns = 0, seat = 0, won[2] = {0, 0};
    const auto kind_at = [&](int place) { return deck[place] / 2; };
    const auto look = [&](int place) {
      if (seen >> place & 1) return;
      seen |= 1u << place;
      std::int8_t& other = at[kind_at(place)];
      if (other < 0) {
        other = static_cast<std::int8_t>(place);
        return;
      }
      const int low = other < place ? other : place, high = other < place ? place : other;
      mate_of[low] = static_cast<std::int8_t>(high);
      known_pairs |= 1u << low;
    };
    while (lying) {
      ++turns;
      int one, two;
      if (known_pairs) {
        one = __builtin_ctz(known_pairs);
        two = mate_of[one];
      } else {
        const std::uint32_t unknown = lying & ~seen;
        one = __builtin_ctz(unknown ? unknown : lying);
        const int mate = at[kind_at(one)];
        look(one);
        if (mate >= 0) {
          two = mate;
        } else {
          const std::uint32_t others = lying & ~seen;
          two = __builtin_ctz(others ? others : lying & ~(1u << one));
          look(two);
        }
      }
      if (kind_at(one) == kind_at(two)) {
        lying &= ~(1u << one | 1u << two);
        known_pairs &= ~(1u << (one < two ? one : two));
        ++won[seat];
      } else {
        seat = 1 - seat;
      }
    }
    ++counts[static_cast<std::size_t>(turns + (won[0] > 100))];
  }
}

}  // namespace bare
