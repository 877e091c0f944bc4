# The pictures of docs/screenshots, from demo data in a world of their own.

run_shots() {
  need_dotnet
  need_web_tools
  need_postgres
  need_chromium
  install_node_packages tests/e2e
  build_web
  build_server
  trap stop_all EXIT
  trap 'stop_all; exit 130' INT TERM
  start_cluster tests -c fsync=off
  export SEXTON_TEST_DATABASE SEXTON_TEST_SERVER="$SERVER_DLL" SEXTON_TEST_STANDINS="$STANDINS_DLL" SEXTON_TEST_ROOT="$SEXTON_ROOT"
  SEXTON_TEST_DATABASE="$(connection_to postgres)"
  npm run --prefix tests/e2e shots
}
