#!/usr/bin/env bash
# Processes of a running Reihe killed (-9), one or two at once, in any order, the database too: everything is back within seconds, as
# the same seven processes, none of them root's; an end by TERM is over in 10 s and leaves nothing; a dead database is one line in the log.
#   tests/Load/supervision.sh [ROUNDS]
set -u
cd "$(dirname "${BASH_SOURCE[0]}")/../.."
ROUNDS=${1:-6}
. bin/machine.sh
WORK=$(mktemp -d) PORT=$(free_port) bad=0
chmod 711 "$WORK"
NAMES=(database php web worker leveller clock lens)
LOG=$ROOT/storage/logs/laravel.log
broken() { echo "BROKEN: $*"; bad=$((bad + 1)); tail -n 5 "$WORK/start.log"; }
REIHE_DATA="$WORK/run" bin/start --port="$PORT" --demo=small >"$WORK/start.log" 2>&1 & STARTED=$!
trap 'kill -TERM "$STARTED" 2>/dev/null; wait "$STARTED" 2>/dev/null; rm -rf "$WORK"' EXIT
for _ in $(seq 1 600); do grep -q 'Lens, a' "$WORK/start.log" && break; kill -0 "$STARTED" 2>/dev/null || { cat "$WORK/start.log"; exit 1; }; sleep 0.2; done
pid() { tac "$WORK/run/processes" | awk -v name="$1" '$3 == name { print $1, $2; exit }'; } # the newest of a name
whole() { local name; for name in "${NAMES[@]}"; do is_same $(pid "$name") || return 1; done; curl -fsS -m 5 -o /dev/null "http://127.0.0.1:$PORT/up" 2>/dev/null && curl -fsS -m 5 "http://127.0.0.1:$PORT/api/v1/session" 2>/dev/null | grep -q demo; }
heals() { # heals SECONDS WHAT
  local begun=$SECONDS
  until whole; do [ $((SECONDS - begun)) -lt "$1" ] || { broken "not back after $1 s: $2"; return; }; sleep 0.2; done
  echo "back after $((SECONDS - begun)) s: $2"
}
# each a user of its own, but where nobody else may enter the checkout
owners() { local name; for name in "${NAMES[@]}"; do ps -o user:20= -p "$(pid "$name" | cut -d' ' -f1)"; done | tr '\n' ' '; }
whole || broken 'not whole after the start'
[ "$(id -u)" -ne 0 ] || grep -q 'everything runs as root' "$WORK/start.log" || [ "$(owners)" = 'mysql reihe www-data reihe reihe reihe www-data ' ] || broken "whose they are: $(owners)"
for round in $(seq 1 "$ROUNDS"); do
  first=${NAMES[round % 7]} second=${NAMES[RANDOM % 7]}
  read -r one _ <<<"$(pid "$first")"
  read -r two _ <<<"$(pid "$second")"
  if [ $((round % 2)) = 0 ]; then kill -KILL "$one" "$two"; else kill -KILL "$one"; second=; fi
  heals 45 "$first $second"
done
[ "$(id -u)" -ne 0 ] || grep -q 'everything runs as root' "$WORK/start.log" || [ "$(owners)" = 'mysql reihe www-data reihe reihe reihe www-data ' ] || broken "whose they are now: $(owners)"
# the database twice, the second time while its return is waited for
read -r one _ <<<"$(pid database)"; kill -KILL "$one"; sleep 1
read -r one _ <<<"$(pid database)"; kill -KILL "$one" 2>/dev/null
lines=$(wc -l <"$LOG" 2>/dev/null || echo 0)
for _ in $(seq 1 60); do curl -s -m 5 -o /dev/null "http://127.0.0.1:$PORT/api/v1/session"; sleep 0.03; done
heals 45 'database twice'
more=$(($(wc -l <"$LOG" 2>/dev/null || echo 0) - lines))
[ "$more" -le 5 ] || broken "$more lines in the log while the database was away"
begun=$SECONDS
kill -TERM "$STARTED"; wait "$STARTED"
[ $((SECONDS - begun)) -le 10 ] || broken "the end took $((SECONDS - begun)) s"
left=$(for fd in /proc/[0-9]*/fd/7; do [ "$(readlink "$fd" 2>/dev/null)" = "$WORK/run/ours" ] && echo "$fd"; done)
[ -z "$left" ] || broken "left running: $left"
echo "$ROUNDS rounds, $bad broken"
exit $((bad > 0))
