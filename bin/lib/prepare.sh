# Shared by the commands a person types: brings a machine to where they can run. Sourced, not run.
# shellcheck shell=bash

root="$(cd "$(dirname "${BASH_SOURCE[0]}")/../.." && pwd)"

fail() {
  printf '%s\n' "$1" >&2
  exit 1
}

# Progress goes to stderr; QUIET=1 leaves it out, errors never.
say() { [ -n "${QUIET:-}" ] || printf '%s\n' "$1" >&2; }

# Node 20 or later, with npm.
need_node() {
  command -v node >/dev/null || fail "Node is not installed: install Node 20.19 or later, then try again."
  node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 20 || (a === 20 && b >= 19) ? 0 : 1)' ||
    fail "Node $(node --version) is too old: install Node 20.19 or later, then try again."
  command -v npm >/dev/null || fail "npm is not installed: install it beside Node, then try again."
}

as_root() {
  if [ "$(id -u)" = 0 ]; then "$@"; else
    command -v sudo >/dev/null || fail "Missing system packages ($packages_wanted): install them as root with apt-get install $packages_wanted, then try again."
    sudo "$@"
  fi
}

# Installs Debian packages that are missing: need_packages PROBE PACKAGE…; the probe is a command that succeeds when they are there.
need_packages() {
  local probe="$1"
  shift
  eval "$probe" >/dev/null 2>&1 && return
  packages_wanted="$*"
  say "Installing $packages_wanted …"
  local log
  log="$(mktemp)"
  {
    as_root apt-get update -qq &&
      as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "$@"
  } >"$log" 2>&1 || { tail -5 "$log" >&2; fail "apt-get could not install $packages_wanted: see the lines above (whole log: $log)."; }
  rm -f "$log"
}

# A browser for the tests: Debian's Chromium without a window, which takes a third less work; the one with a window where that is not to be had.
need_test_browser() {
  command -v chromium-headless-shell >/dev/null && return
  (need_packages false chromium-headless-shell) 2>/dev/null || need_packages 'command -v chromium' chromium
}

have_postgres() { ls /usr/lib/postgresql/*/bin/initdb; }

need_postgres() {
  have_postgres >/dev/null 2>&1 && return
  # Debian would start a cluster of its own on 5432; nobody asked for one.
  need_packages false postgresql-common
  local conf=/etc/postgresql-common/createcluster.conf
  if [ -f "$conf" ] && [ -z "$(ls -A /etc/postgresql 2>/dev/null)" ]; then
    as_root sed -i -E 's/^#?create_main_cluster.*/create_main_cluster = false/' "$conf"
    need_packages have_postgres postgresql
    as_root sed -i -E 's/^create_main_cluster = false/#create_main_cluster = true/' "$conf"
  else
    need_packages have_postgres postgresql
  fi
}

# npm packages, exactly as locked; again only when the lock changed.
need_modules() {
  local stamp="$root/node_modules/.still-pine-lock"
  cmp -s "$root/package-lock.json" "$stamp" && return
  say "Installing packages …"
  local log
  log="$(mktemp)"
  (cd "$root" && npm ci --no-progress) >"$log" 2>&1 || { grep -m5 "npm error ." "$log" >&2; fail "npm ci failed: see the lines above (whole log: $log)."; }
  rm -f "$log"
  cp "$root/package-lock.json" "$stamp"
}

# is_there WHAT: whether everything a build of WHAT made is still there.
is_there() {
  local file made="server/dist/assess.cjs"
  [ "$1" = all ] && made="server/dist/start.mjs server/dist/data.mjs server/dist/worker.mjs web/dist/index.html"
  [ -f "$root/.cache/built-$1" ] || return 1
  for file in $made; do [ -f "$root/$file" ] || return 1; done
}

# need_build WHAT: builds when a source is newer than what was built, or what was built is gone. WHAT is all, or assess for that program alone.
need_build() {
  local what="$1" stamp="$root/.cache/built-$1"
  if is_there "$what" && [ -z "$(find "$root/core/src" "$root/contract/src" "$root/server/src" "$root/web/src" "$root/web/index.html" "$root/web/vite.config.ts" "$root/bin/lib/build.mjs" "$root/package-lock.json" -newer "$stamp" -print -quit 2>/dev/null)" ]; then return; fi
  say "Building …"
  mkdir -p "$root/.cache"
  local log
  log="$(mktemp)"
  # The stamp is as old as the beginning of the build: what is edited meanwhile is built next time.
  touch "$stamp.new"
  if [ "$what" = all ]; then node "$root/bin/lib/build.mjs" >"$log" 2>&1; else node "$root/bin/lib/build.mjs" "$what" >"$log" 2>&1; fi ||
    { tail -20 "$log" >&2; fail "The build failed: see the lines above."; }
  rm -f "$log"
  mv "$stamp.new" "$stamp"
}
