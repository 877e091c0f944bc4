# Everything at once, with demo data.

DEMO_MANAGER="imre@marrowby.example"
DEMO_SUPPORT="tamsin@marrowby.example"
DEMO_PASSWORD="quince and hornbeam"

run_demo() {
  local port="${SEXTON_PORT:-5080}" stand_ins="${SEXTON_STANDINS_PORT:-5081}" smtp="${SEXTON_SMTP_PORT:-5082}"
  prepare_demo "$port" "$stand_ins" "$smtp" "$@"
  spawn "$STATE/logs/server.log" dotnet "$SERVER_DLL" --webroot "$SEXTON_ROOT/web/dist" --urls "http://127.0.0.1:$port"
  wait_for server "$port" /health "${PIDS[-1]}" "$STATE/logs/server.log"
  live_in "$port" "$stand_ins"
  tell_demo "http://localhost:$port" "http://localhost:$stand_ins"
  # “wait” returns when the server ends, and at once on a signal, whose trap stops everything.
  wait "${PIDS[-1]}" || true
  fail "The server ended by itself; see $STATE/logs/server.log."
}

# Everything but the server.  prepare_demo PORT STAND-INS-PORT SMTP-PORT [--fresh]
prepare_demo() {
  local port="$1" stand_ins="$2" smtp="$3" option="${4:-}"
  [ -z "$option" ] || [ "$option" = --fresh ] || fail "“./sexton demo” knows no $option; there is --fresh."
  need_port "$port" SEXTON_PORT
  need_port "$stand_ins" SEXTON_STANDINS_PORT
  need_port "$smtp" SEXTON_SMTP_PORT
  need_port "${SEXTON_SFTP_PORT:-5083}" SEXTON_SFTP_PORT
  need_dotnet
  need_web_tools
  need_postgres
  need_printing
  need_sshd
  build_web
  build_server

  trap stop_all EXIT
  trap 'say ""; say "Stopping …"; stop_all; exit 0' INT TERM
  if [ "$option" = --fresh ]; then
    PG_HOME="$(cluster_folder demo)"
    stop_cluster
    rm -rf "$PG_HOME" "$STATE/stand-ins" "$STATE/drop"
  fi
  start_cluster demo
  export SEXTON__DATABASE SEXTON__KEY SEXTON__PUBLICURL="http://localhost:$port" SEXTON__MAILPORT="$smtp" \
    SEXTON__BACKOFFICEURL="http://localhost:$stand_ins/back-office/" SEXTON__PAYMENTSURL="http://localhost:$stand_ins/payments/" SEXTON__TAXREGISTRYURL="http://localhost:$stand_ins/tax-registry/" SEXTON__ADDRESSESURL="http://localhost:$stand_ins/addresses/" SEXTON__STANDARDTAXPPM=230000 SEXTON__DROPFOLDER="$STATE/drop" SEXTON__INSIDENETWORKS="127.0.0.0/8, ::1/128" \
    SEXTON__LIMITS__CARTS__EACH=3000 # everybody comes from one address here
  SEXTON__DATABASE="$(connection_to sexton)"
  SEXTON__KEY="$(private_key)"
  load_demo
  start_stand_ins "$STATE/stand-ins" "$stand_ins" "$smtp" "http://localhost:$port http://127.0.0.1:$port"
}

# A database with demo data; one that is there is brought up to date and otherwise left alone.
load_demo() {
  local is_new=""
  IS_LIVED_IN=1
  [ "$(psql_in postgres -c "select 1 from pg_database where datname = 'sexton'")" = 1 ] || { psql_in postgres -c 'create database sexton'; is_new=1; }
  step migrate "The schema of the database does not fit this program; ./sexton demo --fresh starts over." server_command migrate
  if [ -n "$is_new" ] || [ "$(psql_in sexton -c 'select count(*) from accounts')" = 0 ]; then
    step import "The demo data could not be loaded." server_command import demo/catalogue.json
    server_command account "$DEMO_MANAGER" "Imre Halloway" manager <<<"$DEMO_PASSWORD" >/dev/null
    server_command account "$DEMO_SUPPORT" "Tamsin Oakes" support <<<"$DEMO_PASSWORD" >/dev/null
    IS_LIVED_IN=
  fi
}

# Some weeks in the life of a new demo shop.  live_in PORT STAND-INS-PORT
live_in() {
  [ -z "$IS_LIVED_IN" ] || return 0
  say "Letting two hundred people buy …"
  step lived-in "The demo shop could not be filled with orders." node demo/lived-in.mjs "http://localhost:$1" "http://localhost:$2" "$DEMO_MANAGER" "$DEMO_PASSWORD"
  # They bought within a minute; as if it had been the last four weeks.
  psql_in sexton >/dev/null <<'SQL'
create temp table aged as
  select id, interval '27 days' * ((last - number)::float / greatest(last - first, 1)) as age
  from orders, (select min(number) as first, max(number) as last from orders) span;
update orders o set placed_at = o.placed_at - a.age from aged a where a.id = o.id;
update lanes l set settled_at = l.settled_at - a.age from aged a where a.id = l.order_id;
-- What waited for an evening was dropped then: those of the last evening are dropped now.
update lanes l set next_try_at = l.next_try_at - a.age from aged a where a.id = l.order_id and l.destination = 'ledger' and l.settled_at is null;
update tries t set at = t.at - a.age from aged a, lanes l where l.id = t.lane_id and a.id = l.order_id;
SQL
}

tell_demo() {
  cat <<TEXT

Sexton is running.

  the console    $1/console   $DEMO_MANAGER (manager) or $DEMO_SUPPORT (support)
                 password: $DEMO_PASSWORD
  the shop       $1/
  the world      $2/   mailbox, back office, makers, pick-up board, bookkeeper’s inbox, payments and more, simulated

Ctrl+C stops everything and keeps the data; ./sexton demo --fresh starts over.
TEXT
}
