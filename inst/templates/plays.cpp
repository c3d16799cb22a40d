#include "habanera/own/plays.hpp"
// Two games in one process must not be taken for the same class.
#define Game Game_KEY
#line 1 "FILE"
CODE
#line 1 "what FILE is bound by"
extern "C" const habanera::OwnPlays* habanera_plays() {
  static const habanera::PlaysOf<Game> plays;
  return &plays;
}
