# What bin/start, bin/test and bin/bench share: packages, dependencies, the database. Sourced, not run.

cd "$(dirname "${BASH_SOURCE[0]}")/.." || exit 1
ROOT=$PWD
export PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD=1 COMPOSER_ALLOW_SUPERUSER=1

say() { printf '%s\n' "$*"; }
fail() { printf 'reihe: %s\n' "$*" >&2; exit 1; }

DEBIAN_PACKAGES=(mariadb-server php8.2-mysql php8.2-zip php8.2-gd php8.2-curl php8.2-fpm php8.2-mbstring php8.2-xml php8.2-intl php8.2-bcmath nginx-light unzip)

# need_packages COMMAND=PACKAGE …: also these, when the command is missing
need_packages() {
  local missing=() pair
  command -v mariadbd >/dev/null && command -v mariadb-install-db >/dev/null && command -v php-fpm8.2 >/dev/null && command -v nginx >/dev/null && command -v unzip >/dev/null \
    && php -r 'foreach (["pdo_mysql","zip","gd","curl","mbstring","xmlwriter","intl","bcmath"] as $e) if (!extension_loaded($e)) exit(1);' 2>/dev/null || missing+=("${DEBIAN_PACKAGES[@]}")
  command -v composer >/dev/null || missing+=(composer)
  for pair in "$@"; do command -v "${pair%%=*}" >/dev/null || missing+=("${pair#*=}"); done
  [ ${#missing[@]} -eq 0 ] && return
  [ "$(id -u)" -eq 0 ] || fail "these Debian packages are missing, please install them as root: apt-get install ${missing[*]}"
  command -v apt-get >/dev/null || fail "these packages are missing and there is no apt-get here: ${missing[*]}"
  say "installing Debian packages: ${missing[*]}"
  local log; log=$(mktemp)
  { apt-get update && DEBIAN_FRONTEND=noninteractive apt-get install -y --no-install-recommends "${missing[@]}"; } >"$log" 2>&1 \
    || { tail -n 20 "$log" >&2; fail "the packages could not be installed; the end of apt's log is above"; }
  rm -f "$log"
}

need_dependencies() {
  local log; log=$(mktemp)
  if [ ! -f vendor/composer/installed.json ] || [ composer.json -nt vendor/composer/installed.json ]; then
    say 'installing PHP packages'
    composer install --no-interaction --no-progress --no-scripts >"$log" 2>&1 || { tail -n 20 "$log" >&2; fail 'composer could not install the PHP packages; the end of its log is above'; }
    touch vendor/composer/installed.json
  fi
  if [ ! -f node_modules/.package-lock.json ] || [ package-lock.json -nt node_modules/.package-lock.json ]; then
    say 'installing front-end packages'
    npm ci --no-audit --no-fund >"$log" 2>&1 || { tail -n 20 "$log" >&2; fail 'npm could not install the front-end packages; the end of its log is above'; }
    touch node_modules/.package-lock.json
  fi
  mkdir -p storage/framework/{cache/data,sessions,views} storage/logs storage/app bootstrap/cache
  rm -f "$log"
}

need_build() {
  if [ ! -f public/build/manifest.json ] || [ -n "$(find resources vite.config.ts package-lock.json -newer public/build/manifest.json -print -quit)" ]; then
    say 'building the front end'
    local log; log=$(mktemp)
    npx vite build >"$log" 2>&1 || { tail -n 30 "$log" >&2; fail 'the front end could not be built; the end of the log is above'; }
    rm -f "$log"
  fi
}

need_disk() {
  local free; free=$(df -Pk "$ROOT" | awk 'NR==2 {print $4}')
  [ "$free" -gt 1500000 ] || fail "less than 1.5 GB is free on this disk ($((free / 1024)) MB); please make room first"
}

port_free() { ! (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }

free_port() { local p; while :; do p=$((20000 + RANDOM % 20000)); port_free "$p" && port_free $((p + 1)) && { echo "$p"; return; }; done; }

# db_start DIRECTORY PORT: MariaDB with its data in the directory, waits until it answers. Sets DB_PID, DB_SOCKET, exports the connection.
db_start() {
  local dir=$1 port=$2 as=()
  [ "$(id -u)" -eq 0 ] && as=(--user=root)
  mkdir -p "$dir"; chmod 700 "$dir"
  DB_SOCKET=$dir/db.sock
  [ ${#DB_SOCKET} -lt 100 ] || { DB_SOCKET=$(mktemp -d)/db.sock; }
  local new=
  if [ ! -d "$dir/data/mysql" ]; then
    new=1
    rm -rf "$dir/data"
    mariadb-install-db --no-defaults "${as[@]}" --datadir="$dir/data" --auth-root-authentication-method=normal --skip-test-db >"$dir/install.log" 2>&1 \
      || { tail -n 15 "$dir/install.log" >&2; fail 'the database could not be initialised'; }
  fi
  [ -s "$dir/password" ] || (umask 077; head -c 18 /dev/urandom | od -An -tx1 | tr -d ' \n' >"$dir/password")
  mariadbd --no-defaults "${as[@]}" --open-files-limit=1024 --table-open-cache=400 --datadir="$dir/data" --socket="$DB_SOCKET" --pid-file="$dir/db.pid" --bind-address=127.0.0.1 --port="$port" \
    --skip-name-resolve --character-set-server=utf8mb4 --collation-server=utf8mb4_unicode_ci --max-allowed-packet=256M \
    --innodb-buffer-pool-size=512M --innodb-flush-log-at-trx-commit=1 --log-error="$dir/db.log" &
  DB_PID=$!
  local i
  for i in $(seq 1 150); do
    mariadb-admin --no-defaults -uroot --socket="$DB_SOCKET" ping >/dev/null 2>&1 && break
    kill -0 "$DB_PID" 2>/dev/null || { tail -n 15 "$dir/db.log" >&2; fail 'the database stopped while starting; the end of its log is above'; }
    sleep 0.2
  done
  local password; password=$(cat "$dir/password")
  # root only through the socket in a private directory; the application has a user of its own
  mariadb --no-defaults -uroot --socket="$DB_SOCKET" -e "
    DELETE FROM mysql.global_priv WHERE User = 'root' AND Host <> 'localhost'; FLUSH PRIVILEGES;
    CREATE USER IF NOT EXISTS 'reihe'@'localhost' IDENTIFIED BY '$password'; CREATE USER IF NOT EXISTS 'reihe'@'127.0.0.1' IDENTIFIED BY '$password';
    GRANT ALL ON \`reihe%\`.* TO 'reihe'@'localhost'; GRANT ALL ON \`reihe%\`.* TO 'reihe'@'127.0.0.1';
    CREATE DATABASE IF NOT EXISTS reihe; CREATE DATABASE IF NOT EXISTS reihe_test;" || fail 'the database users could not be set up'
  export DB_CONNECTION=mariadb DB_HOST=127.0.0.1 DB_PORT=$port DB_SOCKET DB_USERNAME=reihe DB_PASSWORD=$password
  DB_NEW=$new
}

stop() { # stop PID SIGNAL: and wait for it
  [ -n "${1:-}" ] && kill -0 "$1" 2>/dev/null || return 0
  kill "-${2:-TERM}" "$1" 2>/dev/null
  local i; for i in $(seq 1 100); do kill -0 "$1" 2>/dev/null || return 0; sleep 0.1; done
  kill -KILL "$1" 2>/dev/null
}

need_key() {
  if [ ! -f .env ]; then cp .env.example .env; chmod 600 .env; fi
  grep -q '^APP_KEY=base64:' .env || sed -i "s#^APP_KEY=.*#APP_KEY=base64:$(head -c 32 /dev/urandom | base64)#" .env
}
