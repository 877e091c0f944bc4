# Single mistakes put in on purpose, one at a time, in a scratch clone: which do the tests notice? See tests/mutants/README.md.

run_mutants() {
  need_dotnet
  need_web_tools
  need_postgres
  need_printing
  start_test_cluster mutants
  node tests/mutants/run.mjs "$@"
}
