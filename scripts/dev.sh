# Like the demo, with the pages served by Vite, which rebuilds them as they change.

run_dev() {
  local port="${SEXTON_PORT:-5080}"
  . scripts/demo.sh
  prepare_demo "$port" "${SEXTON_STANDINS_PORT:-5081}" "${SEXTON_SMTP_PORT:-5082}" "$@"
  spawn "$STATE/logs/server.log" dotnet "$SERVER_DLL" --webroot "$SEXTON_ROOT/web/dist" --urls "http://127.0.0.1:$port"
  wait_for server "$port" /health "${PIDS[-1]}" "$STATE/logs/server.log"
  live_in "$port" "${SEXTON_STANDINS_PORT:-5081}"
  tell_demo "http://localhost:5173" "http://localhost:${SEXTON_STANDINS_PORT:-5081}"
  # In the background, so that a signal reaches this script at once.
  SEXTON_PORT="$port" web/node_modules/.bin/vite web &
  PIDS+=($!)
  wait "${PIDS[-1]}" || true
}
