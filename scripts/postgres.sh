# A private PostgreSQL cluster, on loopback, on a port of its own. No other cluster is ever touched.

# PostgreSQL refuses to run as root.
as_postgres() {
  if [ "$(id -u)" = 0 ]; then runuser -u postgres -- "$@"; else "$@"; fi
}

# Where a cluster lies: in .sexton, or, where the postgres user may not go there, in a folder beside Debian's own.
cluster_folder() {
  local wanted="$STATE/$1"
  if [ "$(id -u)" = 0 ] && ! as_postgres test -x "$SEXTON_ROOT"; then
    wanted="/var/tmp/sexton-$(printf '%s' "$SEXTON_ROOT" | cksum | cut -d' ' -f1)-$1"
  fi
  printf '%s' "$wanted"
}

# Starts a cluster, making it where there is none. Sets PG_HOME, PG_PORT, PG_PASSWORD.
#   start_cluster NAME [OPTION...]   options are given to the server
start_cluster() {
  PG_HOME="$(cluster_folder "$1")"
  shift
  if [ ! -f "$PG_HOME/data/PG_VERSION" ]; then
    rm -rf "$PG_HOME"
    mkdir -p "$PG_HOME"
    (umask 077; head -c 24 /dev/urandom | base64 | tr '+/' '-_' >"$PG_HOME/password")
    [ "$(id -u)" != 0 ] || chown -R postgres "$PG_HOME"
    step initdb "The database cluster could not be made." \
      as_postgres "$PG_BIN/initdb" -D "$PG_HOME/data" -U sexton --auth=scram-sha-256 --pwfile="$PG_HOME/password" --encoding=UTF8 --locale=C.UTF-8
  fi
  PG_PASSWORD="$(cat "$PG_HOME/password")"
  if as_postgres "$PG_BIN/pg_ctl" -D "$PG_HOME/data" status >/dev/null 2>&1; then
    PG_PORT="$(sed -n 4p "$PG_HOME/data/postmaster.pid" | tr -d ' ')"
    return
  fi
  PG_PORT="$(free_port)"
  # Not “step”: the server would hold the log of the step open.
  as_postgres "$PG_BIN/pg_ctl" -D "$PG_HOME/data" -l "$PG_HOME/log" -w \
    -o "-p $PG_PORT -c listen_addresses=127.0.0.1 -c unix_socket_directories='' $*" start >/dev/null \
    || fail "The database did not start; see $PG_HOME/log."
}

stop_cluster() {
  [ -z "${PG_HOME:-}" ] || as_postgres "$PG_BIN/pg_ctl" -D "$PG_HOME/data" -m fast -w stop >/dev/null 2>&1 || true
}

# A cluster for tests, which kill servers and never the database: it need not wait for its disk.
start_test_cluster() {
  trap stop_all EXIT
  trap 'stop_all; exit 130' INT TERM
  start_cluster "${1:-tests}" -c fsync=off -c synchronous_commit=off -c full_page_writes=off -c max_connections=200
  export SEXTON_TEST_DATABASE SEXTON_TEST_SERVER="$SERVER_DLL" SEXTON_TEST_STANDINS="$STANDINS_DLL" SEXTON_TEST_ROOT="$SEXTON_ROOT"
  SEXTON_TEST_DATABASE="$(connection_to postgres)"
}

# The connection string of a database of the running cluster.
connection_to() {
  printf 'Host=127.0.0.1;Port=%s;Username=sexton;Password=%s;Database=%s' "$PG_PORT" "$PG_PASSWORD" "$1"
}

psql_in() {
  local database="$1"
  shift
  PGPASSWORD="$PG_PASSWORD" "$PG_BIN/psql" -h 127.0.0.1 -p "$PG_PORT" -U sexton -d "$database" -v ON_ERROR_STOP=1 -qtA "$@"
}
