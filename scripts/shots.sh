# The pictures of docs/screenshots, from demo data in a world of their own.

run_shots() {
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
  npm run --prefix tests/e2e shots
}
