# Every test: the core, the server on a real database, the browser. Ends with one line: N passed, N failed, N skipped.

run_test() {
  need_dotnet
  need_web_tools
  need_postgres
  need_chromium
  need_unicode_data
  install_node_packages tests/e2e
  build_web
  say "Building everything …"
  step build-all "Something could not be built." dotnet build Sexton.slnx -c Release -clp:NoSummary
  made server "$(date +%s)"

  local results="$SEXTON_ROOT/artifacts/test-results" failed=0
  rm -rf "$results"
  mkdir -p "$results"
  start_test_cluster

  local suite
  for suite in Core Server; do
    say "Testing: $suite …"
    dotnet test --project "tests/Sexton.$suite.Tests" -c Release --no-build --results-directory "$results" \
      --report-xunit-trx --report-xunit-trx-filename "$suite.trx" || failed=1
  done
  say "Testing: browser …"
  PLAYWRIGHT_JSON_OUTPUT_NAME="$results/browser.json" npm run --prefix tests/e2e test || failed=1

  node scripts/sum-tests.mjs "$results" || failed=1
  return "$failed"
}
