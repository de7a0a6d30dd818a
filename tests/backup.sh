#!/usr/bin/env bash
# Backup of a running Reihe, restored into an empty folder: the same tables with the same contents; a cut file changes nothing.
set -u
cd "$(dirname "${BASH_SOURCE[0]}")/.."
RUNNING=$REIHE_DATA
WORK=$(mktemp -d)
trap 'rm -rf "$WORK"' EXIT
. bin/machine.sh
REIHE_DATA=$RUNNING bin/backup "$WORK/all.sql.gz" >/dev/null || exit 1
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
