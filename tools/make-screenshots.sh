#!/bin/sh
# Makes docs/screenshots anew from the demo data. Needs the Debian packages chromium, xvfb, xterm,
# imagemagick and fonts-dejavu-core, and the installed package.
set -eu
cd "$(dirname "$0")/.."
shots=$PWD/docs/screenshots
hall=$PWD/build/lantern-hall
mkdir -p "$shots"
habanera demo --out "$hall" --quiet >/dev/null

page() { # FILE WIDTH HEIGHT NAME
  chromium --headless --no-sandbox --disable-gpu --disable-background-networking --hide-scrollbars \
    --user-data-dir="$(mktemp -d)" --window-size="$2,$3" --screenshot="$shots/$4.png" "file://$1" \
    >/dev/null 2>&1
}

terminal() { # NAME COMMAND [SECONDS]
  cat >build/session.sh <<END
cd "$hall"
printf '\$ %s\n' '$2'
$2
sleep 60
END
  xvfb-run -a -s "-screen 0 1280x800x24" sh -c "
    xterm -fa 'DejaVu Sans Mono' -fs 12 -geometry 128x40+0+0 -bg white -fg black -e sh build/session.sh &
    sleep ${3:-6}; import -window root '$shots/$1.png'; kill \$!" 2>/dev/null || true
}

Rscript tools/make-figures.R "$hall" "$shots"
page "$hall/index.html" 1280 800 page-demo
page "$hall/month.html" 1280 800 page-study
terminal terminal-play "habanera play war --rules quick-game.yaml --seed 44 --trials 2e4"
terminal terminal-replay "habanera replay blackjack --player regular:name=ferryman --seed 44 --trial 7"
terminal terminal-audit "habanera audit naive_swap --seed 1 --diagnose" 60
terminal terminal-own-game "habanera check queue.R; habanera vary queue.R --over stops_at=20,30 --over repeats=1,2 --trials 500 --seed 44 --record takes; habanera replay queue.R --seed 44" 16
terminal terminal-hands "habanera hands prize-hands.txt; habanera category-odds --size 7" 4
