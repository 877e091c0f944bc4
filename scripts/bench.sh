# The benchmarks, each beside its baseline in the same run, on a cluster with durable commits.

run_bench() {
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
}
