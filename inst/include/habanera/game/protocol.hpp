#pragma once

// All that a game of its own needs to be stated, so that it has one line for it.

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <cstdlib>
#include <memory>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

#include "habanera/game/moves.hpp"
#include "habanera/game/play_out.hpp"
#include "habanera/game/player.hpp"
#include "habanera/game/table_event.hpp"
#include "habanera/game/unseen.hpp"
#include "habanera/game/view.hpp"
#include "habanera/game/vocabulary.hpp"
