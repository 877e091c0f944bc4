# The description of the API and the types that the web client is generated with. A test fails while they are out of date.

run_api() {
  need_dotnet
  need_web_tools
  build_server
  server_command describe >docs/api/sexton.json.new
  mv docs/api/sexton.json.new docs/api/sexton.json
  install_node_packages web
  npm run --prefix web types
}
