# Telling people what goes on, and what to do when it does not.

STATE="$SEXTON_ROOT/.sexton"
mkdir -p "$STATE/logs"

say() { printf '%s\n' "$*"; }
fail() { printf '%s\n' "$*" >&2; exit 1; }

# Runs a step quietly; when it fails, shows the end of what it printed and says what to do.
#   step LOGNAME "What went wrong." COMMAND...
step() {
  local log="$STATE/logs/$1.log" sentence="$2"
  shift 2
  if ! "$@" >"$log" 2>&1; then
    tail -n 25 "$log" >&2
    fail "$sentence The whole output is in $log."
  fi
}

port_in_use() { (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }

free_port() {
  local port
  for _ in $(seq 200); do
    port=$((20000 + RANDOM % 20000))
    port_in_use "$port" || { printf '%s' "$port"; return; }
  done
  fail "No free port was found on this machine."
}

need_port() {
  port_in_use "$1" && fail "Port $1 is in use. Stop what uses it, or choose another: $2=$(( $1 + 10 )) ./sexton ${3:-demo}"
  return 0
}

# True when the program on a port answers a path with 200.
answers() {
  local status
  {
    exec 3<>"/dev/tcp/127.0.0.1/$1" || return 1
    printf 'GET %s HTTP/1.0\r\nHost: localhost\r\n\r\n' "$2" >&3
    read -r _ status _ <&3
    exec 3>&-
  } 2>/dev/null
  [ "$status" = 200 ]
}

# Waits until a program answers.  wait_for NAME PORT PATH PID LOG
wait_for() {
  for _ in $(seq 300); do
    answers "$2" "$3" && return 0
    if ! kill -0 "$4" 2>/dev/null; then
      tail -n 5 "$5" >&2
      fail "The $1 ended as it started; see $5."
    fi
    sleep 0.1
  done
  fail "The $1 did not answer within 30 seconds; see $5."
}
