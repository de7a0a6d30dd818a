#!/usr/bin/env bash
# The first start killed (-9) at random moments and started again must work each time, and never end what is not its own.
#   tests/Load/first-start.sh ROUNDS [clean]     clean: every round begins with an empty checkout, so that installing is cut off too
set -u
cd "$(dirname "${BASH_SOURCE[0]}")/../.."
ROUNDS=${1:-20} CLEAN=${2:-} SOURCE=$PWD
WORK=$(mktemp -d)
trap 'rm -rf "$WORK"' EXIT
bad=0
for round in $(seq 1 "$ROUNDS"); do
  rm -rf "$WORK/run"
  dir=$SOURCE longest=6000
  if [ -n "$CLEAN" ]; then dir=$WORK/clone longest=55000; rm -rf "$dir"; git clone -q . "$dir"; fi
  port=$((24000 + RANDOM % 10000))
  after=$(((RANDOM * 32768 + RANDOM) % longest))
  (cd "$dir" && REIHE_DATA="$WORK/run" exec bin/start --port=$port --today=2026-11-25 >"$WORK/first.log" 2>&1) &
  first=$!
  sleep "$(awk "BEGIN { print $after / 1000 }")"
  kill -KILL $first 2>/dev/null
  wait $first 2>/dev/null
  sleep 7200 & bystander=$!   # started after the kill; must be alive in the end
  (cd "$dir" && REIHE_DATA="$WORK/run" exec bin/start --port=$port --today=2026-11-25 >"$WORK/second.log" 2>&1) &
  second=$!
  for _ in $(seq 1 600); do grep -q 'Reihe runs at' "$WORK/second.log" 2>/dev/null && break; kill -0 $second 2>/dev/null || break; sleep 0.3; done
  up=$(curl -fsS -o /dev/null -w '%{http_code}' "http://127.0.0.1:$port/up" 2>/dev/null)
  projects=$(mariadb --no-defaults -uroot --socket="$WORK/run/db/db.sock" -N -e 'SELECT CONCAT(COUNT(*), " ", (SELECT COUNT(*) FROM reihe.baselines), " ", (SELECT COUNT(*) FROM reihe.users)) FROM reihe.projects' 2>/dev/null)
  verdict=fine
  [ "$up" = 200 ] && [ "$projects" = '6 6 6' ] && kill -0 $bystander 2>/dev/null || { verdict=BROKEN bad=$((bad + 1)); tail -n 8 "$WORK/second.log"; }
  printf 'round %d, killed after %d ms (%s): %s\n' "$round" "$after" "$(tail -n 1 "$WORK/first.log" 2>/dev/null | cut -c1-60)" "$verdict"
  kill -TERM $second 2>/dev/null; wait $second 2>/dev/null
  kill $bystander 2>/dev/null; wait $bystander 2>/dev/null
  left=$(pgrep -fc "$WORK/run" || true)
  [ "$left" = 0 ] || { printf 'round %d left %s processes\n' "$round" "$left"; bad=$((bad + 1)); }
done
echo "$ROUNDS rounds, $bad broken"
exit $((bad > 0))
