# What bin/start, bin/test and bin/bench share: packages, dependencies, the database. Sourced, not run.

cd "$(dirname "${BASH_SOURCE[0]}")/.." || exit 1
ROOT=$PWD
export PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD=1 COMPOSER_ALLOW_SUPERUSER=1

# as the app runs, and its tests. The compiler works on whole functions: following traces (PHP 8.2's other way) it never comes to an end in some loops
PHP_FLAGS=(-d pcov.enabled=0 -d opcache.max_accelerated_files=20000 -d opcache.jit=function -d opcache.jit_buffer_size=64M)

say() { printf '%s\n' "$*"; }
fail() { printf 'reihe: %s\n' "$*" >&2; exit 1; }

DEBIAN_PACKAGES=(mariadb-server php8.2-mysql php8.2-zip php8.2-gd php8.2-curl php8.2-fpm php8.2-mbstring php8.2-xml php8.2-intl php8.2-bcmath php8.2-apcu php8.2-igbinary nginx-light unzip)

# need_packages COMMAND=PACKAGE …: also these, when the command is missing
need_packages() {
  local missing=() pair
  command -v mariadbd >/dev/null && command -v mariadb-install-db >/dev/null && command -v php-fpm8.2 >/dev/null && command -v nginx >/dev/null && command -v unzip >/dev/null \
    && php -r 'foreach (["pdo_mysql","zip","gd","curl","mbstring","xmlwriter","intl","bcmath","apcu","igbinary"] as $e) if (!extension_loaded($e)) exit(1);' 2>/dev/null || missing+=("${DEBIAN_PACKAGES[@]}")
  command -v composer >/dev/null || missing+=(composer)
  for pair in "$@"; do command -v "${pair%%=*}" >/dev/null || missing+=("${pair#*=}"); done
  [ ${#missing[@]} -eq 0 ] && return
  [ "$(id -u)" -eq 0 ] || fail "these Debian packages are missing, please install them as root: apt-get install ${missing[*]}"
  command -v apt-get >/dev/null || fail "these packages are missing and there is no apt-get here: ${missing[*]}"
  say "installing Debian packages: ${missing[*]}"
  local log; log=$(mktemp)
  { dpkg --configure -a && apt-get update && DEBIAN_FRONTEND=noninteractive apt-get install -y --no-install-recommends "${missing[@]}"; } >"$log" 2>&1 \
    || { tail -n 20 "$log" >&2; fail "the packages could not be installed; the end of apt's log is above"; }
  rm -f "$log"
}

# alone NAME COMMAND…: one at a time on this checkout; what an interrupted start left running is waited for, since it holds the lock too
alone() {
  local name=$1; shift
  mkdir -p "$ROOT/storage"
  exec 8>"$ROOT/storage/$name.lock"
  flock -n 8 || { say "waiting for another start that is busy with the same ($name)"; flock 8; }
  "$@"
  exec 8>&-
}

fingerprint() { sha256sum "$@" | sha256sum | cut -c1-32; }

# Each step is marked when it is done, with what it was done for; an unfinished one is done again from nothing.
need_dependencies() { alone install install_dependencies; }

install_dependencies() {
  local log mark; log=$(mktemp)
  mark=$(fingerprint composer.json)
  if [ "$(cat vendor/.installed 2>/dev/null)" != "$mark" ]; then
    say 'installing PHP packages'
    [ -f vendor/.installed ] || rm -rf vendor
    rm -f vendor/.installed
    composer install --no-interaction --no-progress --no-scripts >"$log" 2>&1 || { tail -n 20 "$log" >&2; fail 'composer could not install the PHP packages; the end of its log is above'; }
    printf '%s' "$mark" >vendor/.installed
  fi
  mark=$(fingerprint package-lock.json)
  if [ "$(cat node_modules/.installed 2>/dev/null)" != "$mark" ]; then
    say 'installing front-end packages'
    rm -rf node_modules
    npm ci --no-audit --no-fund >"$log" 2>&1 || { tail -n 20 "$log" >&2; fail 'npm could not install the front-end packages; the end of its log is above'; }
    printf '%s' "$mark" >node_modules/.installed
  fi
  mkdir -p storage/framework/{cache/data,sessions,views} storage/logs storage/app bootstrap/cache
  rm -f "$log"
}

need_build() { alone build build_front_end; }

build_front_end() {
  if [ ! -f public/build/.built ] || [ ! -f public/build/manifest.json ] || [ -n "$(find resources vite.config.ts package-lock.json -newer public/build/.built -print -quit)" ]; then
    say 'building the front end'
    local log; log=$(mktemp)
    rm -f public/build/.built
    npx vite build >"$log" 2>&1 || { tail -n 30 "$log" >&2; fail 'the front end could not be built; the end of the log is above'; }
    touch public/build/.built
    rm -f "$log"
  fi
}

# need_disk DIRECTORY…: room on the disk of each (of the nearest one that exists)
need_disk() {
  local dir free
  for dir in "$@"; do
    while [ ! -d "$dir" ]; do dir=$(dirname "$dir"); done
    free=$(df -Pk "$dir" | awk 'NR==2 {print $4}')
    [ "$free" -gt "${REIHE_DISK_KB:-1500000}" ] || fail "only $((free / 1024)) MB are free on the disk of $dir; please make room ($((${REIHE_DISK_KB:-1500000} / 1024)) MB) and start again"
  done
}

started_at() { # clock tick at which a process started; with its number it names the process for good
  local line
  { read -r line <"/proc/$1/stat"; } 2>/dev/null || return
  set -- ${line##*) }
  [ "$1" = Z ] || echo "${20}" # what has ended and is not yet buried has ended
}

is_same() { [ -n "$2" ] && [ "$(started_at "$1" 2>/dev/null)" = "$2" ]; } # is_same PID TICK

port_free() { ! (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }

free_port() { local p; while :; do p=$((20000 + RANDOM % 20000)); port_free "$p" && port_free $((p + 1)) && port_free $((p + 2)) && { echo "$p"; return; }; done; }

# Started as root, every process runs as a user of its own: the database as mysql, PHP as reihe, nginx and Lens as www-data. What
# such a user runs begins with AS_DB, AS_PHP or AS_WEB; all are empty when we are nobody to give rights away, or cannot.
OWN= AS_DB=() AS_PHP=() AS_WEB=()
own_users() { # own_users DIRECTORY…: decides it, for what is worked with must be open to them
  [ "$(id -u)" -eq 0 ] && [ -z "$OWN" ] || return 0
  local dir name may why=
  id reihe >/dev/null 2>&1 || useradd --system --user-group --no-create-home --home-dir /nonexistent --shell /usr/sbin/nologin reihe >/dev/null 2>&1 || why='the user reihe cannot be made'
  for name in mysql reihe www-data; do
    [ -z "$why" ] || break
    id "$name" >/dev/null 2>&1 || { why="there is no user $name"; break; }
    for dir in "$ROOT/public/index.php" "$ROOT/vendor/autoload.php" "$@"; do
      while [ ! -e "$dir" ]; do dir=$(dirname "$dir"); done
      [ "${dir##*.}" = php ] && may=-r || may=-x
      setpriv "--reuid=$name" "--regid=$name" --init-groups test "$may" "$dir" || { why="$dir is closed to the user $name"; break 2; }
    done
  done
  [ -z "$why" ] || { OWN=no; say "everything runs as root: $why"; return 0; }
  OWN=yes
  AS_DB=(setpriv --reuid=mysql --regid=mysql --init-groups --no-new-privs)
  AS_PHP=(setpriv --reuid=reihe --regid=reihe --init-groups --no-new-privs)
  AS_WEB=(setpriv --reuid=www-data --regid=www-data --init-groups --no-new-privs)
}
give() { # give OWNER FILE: an empty file if there is none, for that user to write; never what a link leads to
  [ "$OWN" = yes ] || return 0
  [ -e "$2" ] || [ -L "$2" ] || : >"$2"
  chown -h "$1" "$2"
}

# db_start DIRECTORY PORT: MariaDB with its data in the directory, waits until it answers. Sets DB_PID, DB_SOCKET, exports the connection.
db_start() {
  local dir=$1 as=() root=normal
  own_users "$(dirname "$dir")"
  mkdir -p "$dir"
  DB_SOCKET=$dir/db.sock
  [ ${#DB_SOCKET} -lt 100 ] || { DB_SOCKET=$(mktemp -d)/db.sock; [ "$OWN" != yes ] || chown mysql "$(dirname "$DB_SOCKET")"; chmod 711 "$(dirname "$DB_SOCKET")"; }
  [ "$(id -u)" -ne 0 ] || root=socket
  if [ "$OWN" = yes ]; then # others come as far as the socket
    chown root:mysql "$dir"; chmod 1771 "$dir"
    [ ! -d "$dir/data" ] || chown -R mysql:mysql "$dir/data"
    give mysql "$dir/db.log"
  else
    chmod 700 "$dir"
    [ "$(id -u)" -ne 0 ] || as=(--user=root)
  fi
  if [ ! -f "$dir/data/.installed" ] && [ ! -f "$dir/data/ibdata1" -o -f "$dir/installing" ]; then
    touch "$dir/installing"
    rm -rf "$dir/data"
    mkdir "$dir/data"
    [ "$OWN" != yes ] || chown mysql:mysql "$dir/data"
    "${AS_DB[@]}" mariadb-install-db --no-defaults "${as[@]}" --datadir="$dir/data" --auth-root-authentication-method="$root" --skip-test-db >"$dir/install.log" 2>&1 \
      || { tail -n 15 "$dir/install.log" >&2; fail 'the database could not be initialised; the end of its log is above'; }
    touch "$dir/data/.installed"
    rm -f "$dir/installing"
  fi
  [ -s "$dir/password" ] || (umask 077; head -c 18 /dev/urandom | od -An -tx1 | tr -d ' \n' >"$dir/password.new" && mv "$dir/password.new" "$dir/password")
  db_launch "$@"
  db_wait "$dir" || { tail -n 15 "$dir/db.log" >&2; fail 'the database does not start; the end of its log is above'; }
  local password; password=$(cat "$dir/password")
  # root of the database is root of the machine, or who alone can enter the directory; the application has a user of its own
  mariadb --no-defaults -uroot --socket="$DB_SOCKET" -e "
    $([ "$root" = normal ] || echo "ALTER USER 'root'@'localhost' IDENTIFIED VIA unix_socket;")
    DELETE FROM mysql.global_priv WHERE User = 'root' AND Host <> 'localhost'; FLUSH PRIVILEGES;
    CREATE USER IF NOT EXISTS 'reihe'@'localhost' IDENTIFIED BY '$password'; CREATE USER IF NOT EXISTS 'reihe'@'127.0.0.1' IDENTIFIED BY '$password';
    GRANT ALL ON \`reihe%\`.* TO 'reihe'@'localhost'; GRANT ALL ON \`reihe%\`.* TO 'reihe'@'127.0.0.1';
    CREATE DATABASE IF NOT EXISTS reihe; CREATE DATABASE IF NOT EXISTS reihe_test;" || fail 'the database users could not be set up'
  export DB_CONNECTION=mariadb DB_HOST=127.0.0.1 DB_PORT=$2 DB_SOCKET DB_USERNAME=reihe DB_PASSWORD=$password
}

# db_connection DIRECTORY: exports the connection to the database that runs there; false when none does
db_connection() {
  DB_SOCKET=$(tr '\0' '\n' <"/proc/$(cat "$1/db.pid" 2>/dev/null)/cmdline" 2>/dev/null | sed -n 's/^--socket=//p')
  [ -n "$DB_SOCKET" ] && mariadb-admin --no-defaults -uroot --socket="$DB_SOCKET" ping >/dev/null 2>&1 || return 1
  export DB_CONNECTION=mariadb DB_SOCKET DB_USERNAME=reihe DB_PASSWORD; DB_PASSWORD=$(cat "$1/password")
}

db_launch() { # DIRECTORY PORT: only starts it. Sets DB_PID.
  local dir=$1 port=$2 as=()
  [ "$(id -u)" -eq 0 ] && [ "$OWN" != yes ] && as=(--user=root)
  setsid "${AS_DB[@]}" mariadbd --no-defaults "${as[@]}" --open-files-limit=1024 --table-open-cache=400 --datadir="$dir/data" --socket="$DB_SOCKET" --pid-file="$dir/db.pid" --bind-address=127.0.0.1 --port="$port" \
    --skip-name-resolve --character-set-server=utf8mb4 --collation-server=utf8mb4_unicode_ci --max-allowed-packet=1G \
    --innodb-buffer-pool-size=512M --innodb-flush-log-at-trx-commit=1 --log-error="$dir/db.log" ${REIHE_DB_FLAGS:-} 8>&- 9>&- &
  DB_PID=$!
  ! declare -F note >/dev/null || note "$DB_PID" database
}

db_wait() { # DIRECTORY: until the database answers; false when it ended
  local i
  for i in $(seq 1 300); do
    mariadb-admin --no-defaults -uroot --socket="$DB_SOCKET" ping >/dev/null 2>&1 && return 0
    kill -0 "$DB_PID" 2>/dev/null || return 1
    sleep 0.2
  done
  return 1
}

stop() { # stop PID SIGNAL: and wait for it
  [ -n "${1:-}" ] && kill -0 "$1" 2>/dev/null || return 0
  kill "-${2:-TERM}" "$1" 2>/dev/null
  local i; for i in $(seq 1 100); do kill -0 "$1" 2>/dev/null || return 0; sleep 0.1; done
  kill -KILL "$1" 2>/dev/null
}

need_key() { alone key make_key; }

make_key() {
  [ -s .env ] && grep -q '^APP_KEY=base64:' .env && return
  local from=.env; [ -s .env ] || from=.env.example
  (umask 077; sed "s#^APP_KEY=.*#APP_KEY=base64:$(head -c 32 /dev/urandom | base64)#" "$from" >.env.new) && mv .env.new .env
}
