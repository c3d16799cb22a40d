#pragma once

// All that a game of one's own in C++ needs to be stated.

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <string>
#include <vector>

#include "habanera/game/moves.hpp"
#include "habanera/own/game.hpp"
#include "habanera/own/own.hpp"
#include "habanera/own/player.hpp"
