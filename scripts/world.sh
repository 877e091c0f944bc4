# The running parts: stand-ins and server.

PIDS=()

# A process in a session of its own, so that Ctrl+C reaches this script alone, which then stops the parts in order.
#   spawn LOG COMMAND...
spawn() {
  local log="$1"
  shift
  setsid "$@" >"$log" 2>&1 </dev/null &
  PIDS+=($!)
}

# Runs something long beside this script, so that the script can be stopped meanwhile, and stops it too.
#   watched COMMAND...
watched() {
  # In a process group of its own.
  set -m
  "$@" &
  WATCHED=$!
  set +m
  local result=0
  wait "$WATCHED" || result=$?
  WATCHED=
  return "$result"
}

stop_all() {
  trap - EXIT INT TERM
  [ -z "${WATCHED:-}" ] || kill -TERM -- "-$WATCHED" 2>/dev/null || true
  local i
  # The last started is stopped first: the server before the stand-ins, the database last.
  for ((i = ${#PIDS[@]} - 1; i >= 0; i--)); do
    kill -TERM "${PIDS[i]}" 2>/dev/null || true
    for _ in $(seq 300); do kill -0 "${PIDS[i]}" 2>/dev/null || break; sleep 0.1; done
  done
  stop_cluster
}

server_command() {
  dotnet "$SERVER_DLL" "$@"
}

run_server() {
  say "Sexton serves ${SEXTON_URLS:-http://127.0.0.1:5080}; Ctrl+C stops it." >&2
  exec dotnet "$SERVER_DLL" --webroot "$SEXTON_ROOT/web/dist" --urls "${SEXTON_URLS:-http://127.0.0.1:5080}"
}

# Builds the real pages for a browser that walks them, and starts a cluster for the worlds of such walks.
prepare_pages() {
  need_dotnet
  need_web_tools
  need_postgres
  need_printing
  need_test_browser
  need_sshd
  install_node_packages tests/e2e
  build_web
  build_server
  start_test_cluster
}

# The key of a private installation, made once.
private_key() {
  [ -f "$STATE/key" ] || (umask 077; head -c 32 /dev/urandom | base64 >"$STATE/key")
  cat "$STATE/key"
}

# Starts the stand-ins.  start_stand_ins FOLDER PORT SMTP-PORT SHOP-ORIGINS
start_stand_ins() {
  spawn "$STATE/logs/stand-ins.log" dotnet "$STANDINS_DLL" --Folder "$1" --Urls "http://127.0.0.1:$2" --SmtpPort "$3" --SftpPort "${SEXTON_SFTP_PORT:-5083}" --ShopOrigin "$4" --ReportsUrl "${4%% *}/api/mail/v1/reports"
  wait_for "stand-ins" "$2" /health "${PIDS[-1]}" "$STATE/logs/stand-ins.log"
}
