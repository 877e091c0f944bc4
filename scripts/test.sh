# The tests: the core, the server on a real database, the browser; all, or those that are named.
# Ends with one line: N passed, N failed, N skipped.

run_test() {
  local parts="${*:-core server browser}" part
  for part in $parts; do
    case "$part" in core | server | browser) ;; *) fail "There is no part “$part” of the tests; there are core, server and browser." ;; esac
  done
  has() { [[ " $parts " == *" $1 "* ]]; }

  # Code that is measured before it is compiled for good costs a quarter more, and nothing here lives long enough to gain by it.
  export DOTNET_TieredPGO=0

  need_dotnet
  need_web_tools
  need_unicode_data
  . scripts/format.sh
  check_form
  if has server || has browser; then
    need_postgres
    need_printing
    need_poppler
    need_sshd
  fi
  if has browser; then
    need_test_browser
    install_node_packages tests/e2e
    step types-e2e "The browser tests have types that do not fit." web/node_modules/.bin/tsc -p tests/e2e
    install_node_packages bench/node
  fi
  # The server's tests serve the pages, too.
  if has server || has browser; then build_web; fi
  say "Building everything …"
  step build-all "Something could not be built." dotnet build Sexton.slnx -c Release -clp:NoSummary
  made server "$(date +%s)"

  RESULTS="$SEXTON_ROOT/artifacts/test-results"
  rm -rf "$RESULTS"
  mkdir -p "$RESULTS"
  if has server || has browser; then start_test_cluster; fi

  local failed=0 core=
  say "Testing: ${parts// /, } …"
  # The core needs one processor and no database, so it is tested beside the server.
  if has core; then
    test_suite Core >"$RESULTS/core.log" 2>&1 &
    core=$!
  fi
  if has server; then watched test_suite Server || failed=1; fi
  if [ -n "$core" ]; then
    wait "$core" || failed=1
    cat "$RESULTS/core.log"
  fi
  if has browser; then
    has core || reference_cases || failed=1
    watched test_browser || failed=1
  fi

  # shellcheck disable=SC2086
  node scripts/sum-tests.mjs "$RESULTS" $parts || failed=1
  return "$failed"
}

# test_suite NAME: its report is NAME.trx in the results.
test_suite() {
  dotnet test --project "tests/Sexton.$1.Tests" -c Release --no-build --results-directory "$RESULTS" \
    --report-xunit-trx --report-xunit-trx-filename "$1.trx"
}

# The core writes down what it decided, and the browser's tests let other libraries judge it.
reference_cases() {
  step reference "The core's cases for other libraries could not be written." \
    dotnet test --project tests/Sexton.Core.Tests -c Release --no-build --filter-class '*ReferenceTests'
}

test_browser() {
  export SEXTON_TEST_BENCH="$BENCH_DLL" SEXTON_BENCH_NODE="$SEXTON_ROOT/bench/node/rules.mjs" PLAYWRIGHT_JSON_OUTPUT_NAME="$RESULTS/browser.json"
  npm run --prefix tests/e2e test
}
