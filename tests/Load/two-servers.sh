#!/usr/bin/env bash
# Two web servers, each with processes and kept parts of its own, at one database or at two nodes of a cluster; planners edit
# at both. Nothing may get lost and nothing stale may stay.
#   tests/Load/two-servers.sh [SECONDS] [PLANNERS] [cluster]     cluster: a second database node (Debian packages galera-4, rsync)
set -u
cd "$(dirname "${BASH_SOURCE[0]}")/../.."
SECONDS_=${1:-60} PLANNERS=${2:-8} CLUSTER=${3:-}
. bin/machine.sh
WORK=$(mktemp -d) PORT=$(free_port) OTHER=$(free_port) NODE=$(free_port) LINE1=$(free_port) LINE2=$(free_port)
FIRST= FPM= NGINX= DB2=
# the folder stays closed: both run as whoever started this
shut() { stop "$NGINX" QUIT; stop "$FPM" QUIT; stop "$DB2"; stop "$FIRST"; rm -rf "$WORK"; }
trap shut EXIT
settings() { # settings LINE PEER: settings of a database node that listens to the other at LINE
  echo "--wsrep-on=ON --wsrep-provider=/usr/lib/galera/libgalera_smm.so --wsrep-cluster-name=reihe --wsrep-cluster-address=gcomm://$2 --wsrep-node-address=127.0.0.1:$1 --wsrep-provider-options=gmcast.listen_addr=tcp://127.0.0.1:$1;ist.recv_addr=127.0.0.1:$(($1 + 2)) --wsrep-sst-method=rsync --wsrep-sst-receive-address=127.0.0.1:$(($1 + 1)) --binlog-format=ROW --innodb-autoinc-lock-mode=2"
}
[ -z "$CLUSTER" ] || REIHE_DB_FLAGS="$(settings "$LINE1" '') --wsrep-new-cluster"
REIHE_DB_FLAGS=${REIHE_DB_FLAGS:-} REIHE_DATA="$WORK/run" bin/start --port="$PORT" --today=2026-11-25 >"$WORK/start.log" 2>&1 &
FIRST=$!
until grep -q 'Reihe runs at' "$WORK/start.log"; do kill -0 "$FIRST" 2>/dev/null || { cat "$WORK/start.log"; exit 1; }; sleep 0.3; done

export DB_CONNECTION=mariadb DB_HOST=127.0.0.1 DB_PORT=$((PORT + 1)) DB_DATABASE=reihe DB_USERNAME=reihe APP_URL="http://127.0.0.1:$PORT" DB_PASSWORD
DB_PASSWORD=$(cat "$WORK/run/db/password")
SECOND_DB=$DB_PORT
if [ -n "$CLUSTER" ]; then
  mkdir -p "$WORK/node"
  mariadb-install-db --no-defaults --user=root --datadir="$WORK/node/data" --auth-root-authentication-method=normal --skip-test-db >"$WORK/node/install.log" 2>&1
  chmod 711 "$WORK"; chown -R nobody "$WORK/node" # the copy of the first state arrives as nobody
  DB_SOCKET=$WORK/node/db.sock REIHE_DB_FLAGS=$(settings "$LINE2" "127.0.0.1:$LINE1")
  db_launch "$WORK/node" "$NODE"; DB2=$DB_PID
  for _ in $(seq 1 240); do mariadb --no-defaults -uroot --socket="$DB_SOCKET" -N -e "SHOW STATUS LIKE 'wsrep_ready'" 2>/dev/null | grep -q ON && break; kill -0 "$DB2" 2>/dev/null || { tail -n 30 "$WORK/node/db.log"; grep -i "sst\|error" "$WORK/run/db/db.log" | tail -n 30; exit 1; }; sleep 0.5; done
  mariadb --no-defaults -uroot --socket="$DB_SOCKET" -N -e "SHOW STATUS LIKE 'wsrep_cluster_size'"
  SECOND_DB=$NODE
fi

# the second server: its own processes and shared memory, the settings of the first but for its ports
mkdir -p "$WORK/two/nginx" "$WORK/two/php"
for file in fpm.conf nginx.conf nginx/app nginx/headers nginx/fastcgi_params; do sed "s#$WORK/run#$WORK/two#g; s#127.0.0.1:$PORT#127.0.0.1:$OTHER#g" "$WORK/run/$file" >"$WORK/two/$file"; done
printf 'env[DB_PORT] = %s\n' "$SECOND_DB" >>"$WORK/two/fpm.conf"
AS_ROOT=(); [ "$(id -u)" -eq 0 ] && AS_ROOT=(-R)
DB_PORT=$SECOND_DB APP_CONFIG_CACHE="$WORK/two/php/config.php" APP_ROUTES_CACHE="$WORK/two/php/routes.php" php-fpm8.2 "${AS_ROOT[@]}" -d pcov.enabled=0 -d apc.enabled=1 -d apc.shm_size=128M --fpm-config "$WORK/two/fpm.conf" &
FPM=$!
for _ in $(seq 1 50); do [ -S "$WORK/two/php/fpm.sock" ] && break; sleep 0.1; done
nginx -e "$WORK/two/nginx.log" -p "$WORK/two/nginx" -c "$WORK/two/nginx.conf" 2>/dev/null &
NGINX=$!
for _ in $(seq 1 50); do curl -fsS -o /dev/null "http://127.0.0.1:$OTHER/up" 2>/dev/null && break; sleep 0.2; done

node tests/Load/planners.mjs "$SECONDS_" "$PLANNERS" "http://127.0.0.1:$PORT" "http://127.0.0.1:$OTHER"; result=$?
stale=$(php artisan reihe:recalculate)
echo "$stale"
[ "$result" = 0 ] && case $stale in '0 results'*) exit 0 ;; esac
exit 1
