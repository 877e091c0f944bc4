# The pictures of docs/screenshots, from demo data in a world of their own.

run_shots() {
  prepare_pages
  npm run --prefix tests/e2e shots
}
