#!/usr/bin/env bash
# Backup of a running Reihe, restored into an empty folder: the same tables with the same contents, a row of 64 MB among them; a cut
# file changes nothing; a backup that fails says so and leaves no half file.
set -u
cd "$(dirname "${BASH_SOURCE[0]}")/.."
RUNNING=$REIHE_DATA
WORK=$(mktemp -d)
trap 'rm -rf "$WORK"' EXIT
. bin/machine.sh
# a change set of 64 MB, with everything in it that has to be escaped
mariadb --no-defaults -uroot --socket="$RUNNING/db/db.sock" --max-allowed-packet=1G reihe -e "
  UPDATE change_sets SET reason = CONCAT(reason, ' ') WHERE id = (SELECT id FROM (SELECT MIN(id) AS id FROM change_sets) AS m);
  UPDATE change_sets SET operations = CONCAT('[', REPEAT('{\"a\": \"it''s \\\\n\"}, ', 3600000), '{}]') WHERE id = (SELECT id FROM (SELECT MIN(id) AS id FROM change_sets) AS m)" || exit 1
[ "$(mariadb --no-defaults -uroot --socket="$RUNNING/db/db.sock" -N -e 'SELECT MAX(LENGTH(operations)) >= 64000000 FROM reihe.change_sets')" = 1 ] || { echo 'the large row is not there'; exit 1; }
REIHE_DATA=$RUNNING bin/backup "$WORK/all.sql.gz" >/dev/null || exit 1
for broken in "$WORK/nowhere/all.sql.gz" "$WORK/small.sql.gz"; do # a folder that is not there, a file that may not grow
  (ulimit -f 200; REIHE_DATA=$RUNNING exec bin/backup "$broken") >/dev/null 2>&1 && { echo "a backup to $broken was called good"; exit 1; }
  [ ! -e "$broken" ] && [ ! -e "$broken.part" ] || { echo "half a backup was left at $broken"; exit 1; }
done
REIHE_DATA=$RUNNING bin/backup "$WORK/ended.sql.gz" >/dev/null 2>&1 & ended=$!
for _ in $(seq 1 3000); do [ -e "$WORK/ended.sql.gz.part" ] && break; sleep 0.01; done # begun, and far from its end
kill -TERM "$ended" 2>/dev/null; wait "$ended" && { echo 'a backup that was ended was called good'; exit 1; }
[ ! -e "$WORK/ended.sql.gz" ] && [ ! -e "$WORK/ended.sql.gz.part" ] || { echo 'half a backup was left'; exit 1; }
sums() { # SOCKET: checksum of every table that requests do not write to
  local tables; tables=$(mariadb --no-defaults -uroot --socket="$1" -N -e "SELECT GROUP_CONCAT(CONCAT('reihe.\`', table_name, '\`') ORDER BY table_name) FROM information_schema.tables WHERE table_schema = 'reihe' AND table_name NOT IN ('cache', 'cache_locks', 'sessions', 'jobs')" --init-command='SET SESSION group_concat_max_len = 1000000')
  mariadb --no-defaults -uroot --socket="$1" -N -e "CHECKSUM TABLE $tables"
}
REIHE_DATA=$WORK/other bin/restore "$WORK/all.sql.gz" >/dev/null || exit 1
head -c 2000 "$WORK/all.sql.gz" >"$WORK/cut.sql.gz"
REIHE_DATA=$WORK/other bin/restore "$WORK/cut.sql.gz" >/dev/null 2>&1 && { echo 'a cut backup was taken'; exit 1; }
gzip -dc "$WORK/all.sql.gz" | sed 's/`projects`/`project5`/g' | gzip >"$WORK/odd.sql.gz"
REIHE_DATA=$WORK/other bin/restore "$WORK/odd.sql.gz" >/dev/null 2>&1 && { echo 'something else was taken for a backup'; exit 1; }
REIHE_DATA=$RUNNING bin/restore "$WORK/all.sql.gz" >/dev/null 2>&1 && { echo 'a running Reihe was overwritten'; exit 1; }
db_start "$WORK/other/db" "$(free_port)"
trap 'stop "$DB_PID"; rm -rf "$WORK"' EXIT
diff <(sums "$RUNNING/db/db.sock") <(sums "$DB_SOCKET") >"$WORK/differences" || { echo 'the restored tables differ:'; cat "$WORK/differences"; exit 1; }
[ "$(sums "$DB_SOCKET" | wc -l)" -gt 20 ] || { echo 'too few tables'; exit 1; }
