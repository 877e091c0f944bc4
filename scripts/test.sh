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

  # The core needs one processor and no database, so it is tested beside the server.
  say "Testing: core and server …"
  test_suite Core > "$results/core.log" 2>&1 &
  local core=$!
  watched test_suite Server || failed=1
  wait "$core" || failed=1
  cat "$results/core.log"
  say "Testing: browser …"
  install_node_packages bench/node
  export SEXTON_TEST_BENCH="$BENCH_DLL" SEXTON_BENCH_NODE="$SEXTON_ROOT/bench/node/rules.mjs"
  export PLAYWRIGHT_JSON_OUTPUT_NAME="$results/browser.json"
  watched npm run --prefix tests/e2e test || failed=1

  node scripts/sum-tests.mjs "$results" || failed=1
  return "$failed"
}

# test_suite NAME: its report is NAME.trx in the results.
test_suite() {
  dotnet test --project "tests/Sexton.$1.Tests" -c Release --no-build --results-directory "$SEXTON_ROOT/artifacts/test-results" \
    --report-xunit-trx --report-xunit-trx-filename "$1.trx"
}
