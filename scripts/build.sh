# Building, and only what changed since.

SERVER_DLL="$SEXTON_ROOT/artifacts/bin/Sexton.Server/release/Sexton.Server.dll"
STANDINS_DLL="$SEXTON_ROOT/artifacts/bin/Sexton.StandIns/release/Sexton.StandIns.dll"
BENCH_DLL="$SEXTON_ROOT/artifacts/bin/Sexton.Bench/release/Sexton.Bench.dll"

# Whether a stamp is newer than every file of some folders.  fresh STAMP OUTPUT FOLDER...
fresh() {
  local stamp="$STATE/$1.stamp" output="$2"
  shift 2
  [ -f "$stamp" ] && [ -e "$output" ] && [ -z "$(find "$@" -newer "$stamp" -type f -not -path '*/node_modules/*' -not -path '*/dist/*' -print -quit)" ]
}

# made STAMP STARTED-AT: what was changed while the build ran counts as newer.
made() { touch -d "@$2" "$STATE/$1.stamp"; }

build_server() {
  fresh server "$SERVER_DLL" src Directory.Build.props Directory.Packages.props global.json && return
  local at
  at="$(date +%s)"
  say "Building the server …"
  step build-server "The server could not be built. Without a network the packages must be in the cache already." build_projects src/Sexton.Server src/Sexton.StandIns
  made server "$at"
}

build_projects() {
  local project
  for project in "$@"; do dotnet build "$project" -c Release -clp:NoSummary || return 1; done
}

install_node_packages() {
  [ -f "$1/node_modules/.package-lock.json" ] && [ "$1/node_modules/.package-lock.json" -nt "$1/package-lock.json" ] && return
  say "Installing the packages of $1 …"
  step "npm-$(basename "$1")" "The packages of $1 could not be installed. Is there a network?" npm ci --prefix "$1" --no-progress
}

build_web() {
  install_node_packages web
  fresh web web/dist/shop/index.html web && return
  local at
  at="$(date +%s)"
  say "Building the web pages …"
  step build-web "The web pages could not be built." npm run --prefix web build
  made web "$at"
}
