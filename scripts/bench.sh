# The benchmarks, each beside its baseline in the same run, on a cluster with durable commits.

run_bench() {
  # That of the real page runs in a browser, after the others or alone.
  local names
  names="$(printf '%s\n' "$@" | grep -vxE '[0-9]+|short|' || true)"
  [ "$names" = seats ] || run_core_bench "$@"
  [ -n "$names" ] && [ "$names" != seats ] || run_page_bench "$@"
}

# Thirty seats beside three, driven in a world of their own.
run_page_bench() {
  prepare_pages
  local rounds
  rounds="$(printf '%s\n' "$@" | grep -xE '[0-9]+' | head -1 || true)"
  SEXTON_BENCH_ROUNDS="${rounds:-5}" npm run --prefix tests/e2e bench
}

run_core_bench() {
  need_dotnet
  need_web_tools
  need_postgres
  need_printing
  step build-bench "The benchmarks could not be built." dotnet build bench/Sexton.Bench -c Release -clp:NoSummary
  install_node_packages bench/node
  install_node_packages web
  node web/size.mjs
  trap stop_all EXIT
  trap 'stop_all; exit 130' INT TERM
  start_cluster bench
  SEXTON_BENCH_DATABASE="$(connection_to postgres)" SEXTON_BENCH_NODE="$SEXTON_ROOT/bench/node/rules.mjs" dotnet "$BENCH_DLL" "$@"
  stop_all
}
