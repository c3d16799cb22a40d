#pragma once

namespace habanera {

// How far play is from sound: what seat 1 has by it, and what best answers leave it with and give it at most.
struct SoundProof {
  double value = 0, low = 0, high = 0;
  double gap() const { return high - low; }
};

}  // namespace habanera
