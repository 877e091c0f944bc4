# What the project needs on the machine. Everything that Debian has is installed; the .NET SDK and Node.js must be there.

need_dotnet() {
  command -v dotnet >/dev/null || fail "The .NET 10 SDK is missing. Install it, so that “dotnet --version” prints 10.0 or later."
  local version
  version="$(dotnet --version 2>/dev/null)" || fail "The .NET 10 SDK is missing: “dotnet --version” prints none that global.json accepts."
  [ "${version%%.*}" -ge 10 ] || fail "The .NET SDK is $version, and 10.0 or later is needed."
  export DOTNET_CLI_TELEMETRY_OPTOUT=1 DOTNET_NOLOGO=1 MSBUILDDISABLENODEREUSE=1
}

need_web_tools() {
  command -v node >/dev/null && command -v npm >/dev/null || fail "Node.js 20 with npm is missing. Install it, so that “node --version” prints v20 or later."
  local version
  version="$(node --version)"
  version="${version#v}"
  [ "${version%%.*}" -ge 20 ] || fail "Node.js is $version, and 20 or later is needed."
}

# need_debian PACKAGE FILE-THAT-IT-BRINGS...
need_debian() {
  local package="$1" file
  shift
  for file in "$@"; do
    # shellcheck disable=SC2086
    compgen -G "$file" >/dev/null && return 0
  done
  say "Installing $package …"
  local sudo=""
  if [ "$(id -u)" != 0 ]; then
    command -v sudo >/dev/null || fail "$package is missing. Install it as root: apt-get install $package"
    sudo="sudo"
  fi
  command -v apt-get >/dev/null || fail "$package is missing, and this is no Debian that could install it. Install it by hand."
  # Recommended packages would upgrade systemd in the middle of the run; one repair and one more try is enough for what was seen.
  install_it() {
    export DEBIAN_FRONTEND=noninteractive
    $sudo apt-get update -q \
      && { $sudo apt-get install -y -q --no-install-recommends "$package" \
        || { $sudo dpkg --configure -a; $sudo apt-get -f install -y -q; $sudo apt-get install -y -q --no-install-recommends "$package"; }; }
  }
  step "install-$package" "$package could not be installed. Is there a network? Install it by hand: apt-get install $package." install_it
}

need_postgres() {
  need_debian libicu72 '/usr/lib/*/libicuuc.so.*'
  # Debian's package makes and starts a cluster of its own; ours is another one, and that one is left alone.
  need_debian postgresql '/usr/lib/postgresql/*/bin/initdb'
  PG_BIN="$(compgen -G '/usr/lib/postgresql/*/bin' | sort -V | tail -n 1)"
}

need_chromium() {
  need_debian chromium /usr/bin/chromium
}

# The browser of the tests: the same without a desktop, which takes two thirds of the time.
need_test_browser() {
  need_debian chromium-headless-shell /usr/bin/chromium-headless-shell
}

# What prints papers, in every script that shoppers may write.
need_printing() {
  need_chromium
  need_debian fontconfig /usr/bin/fc-list
  need_debian fonts-noto-core /usr/share/fonts/truetype/noto/NotoSans-Regular.ttf
  need_debian fonts-noto-cjk '/usr/share/fonts/opentype/noto/NotoSansCJK-*'
  need_debian fonts-noto-color-emoji /usr/share/fonts/truetype/noto/NotoColorEmoji.ttf
}

# The other side of files by SFTP, on loopback: the program alone, and no server of the whole machine that everybody could reach.
need_sshd() {
  [ ! -x /usr/sbin/sshd ] || return 0
  local sudo="" policy=/usr/sbin/policy-rc.d
  [ "$(id -u)" = 0 ] || sudo="sudo"
  # What it says keeps Debian's package from starting a server.
  if [ ! -e "$policy" ]; then
    printf '#!/bin/sh\nexit 101\n' | $sudo tee "$policy" >/dev/null
    $sudo chmod 755 "$policy"
  else
    policy=""
  fi
  need_debian openssh-server /usr/sbin/sshd
  [ -z "$policy" ] || $sudo rm -f "$policy"
  if command -v systemctl >/dev/null; then $sudo systemctl disable ssh.service ssh.socket >/dev/null 2>&1 || true; fi
}

# A reader of PDFs that nobody here wrote.
need_poppler() {
  need_debian poppler-utils /usr/bin/pdftotext
}

# The test files of the Unicode Standard.
need_unicode_data() {
  need_debian unicode-data /usr/share/unicode/auxiliary/GraphemeBreakTest.txt
}
