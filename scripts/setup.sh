# Shared by ./start and ./test: installs what is missing and builds what is out of date.
# Sourced from the project's folder.

say() { printf '  %-10s %s\n' "$1" "$2"; }
stop() { printf 'jagged-pin: %s\n' "$1" >&2; exit 1; }

# Runs a long step with its output in a log under var/, and shows the end of it only when it fails.
quietly() {
    local log="var/log/$1.log"
    shift
    mkdir -p var/log
    if ! "$@" >"$log" 2>&1; then
        tail -n 40 "$log" >&2
        stop "that failed; the whole output is in $log"
    fi
}

# Installs Debian packages whose programs are missing: need PROGRAM PACKAGE [PACKAGE...].
as_root() { if [ "$(id -u)" = 0 ]; then "$@"; else sudo -n "$@"; fi; }
need() {
    local program=$1
    shift
    if command -v "$program" >/dev/null || [ -x "/usr/sbin/$program" ]; then return; fi
    command -v apt-get >/dev/null || stop "$program is missing: install it ($*)"
    if [ "$(id -u)" != 0 ] && ! sudo -n true 2>/dev/null; then
        stop "$program is missing: install it first, as root: apt-get install $*"
    fi
    say packages "installing $* (a minute)"
    quietly apt-update as_root apt-get update -q
    quietly "apt-$program" as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -q --no-install-recommends "$@"
}

need_toolchains() {
    command -v cargo >/dev/null || stop "cargo is missing: install Rust 1.90 or newer"
    command -v npm >/dev/null || stop "npm is missing: install Node.js 20.19 or newer"
    node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 20 || (a === 20 && b >= 19) ? 0 : 1)' ||
        stop "Node.js $(node --version) is too old: 20.19 or newer is needed"
    need cc gcc libc6-dev
}

# Node modules as the lock file says, when it has changed since they were installed.
node_modules() {
    if [ web/node_modules/.package-lock.json -nt web/package-lock.json ]; then return; fi
    say modules "installing node modules (a minute)"
    quietly npm-ci npm --prefix web ci --no-audit --no-fund
    touch web/node_modules/.package-lock.json
}

# The web application, when anything of it has changed since it was built.
web_application() {
    if [ -f web/dist/.built ] && [ -z "$(find web/src web/public web/index.html web/*.json web/vite.config.ts -newer web/dist/.built -print -quit)" ]; then
        return
    fi
    say web "building the web application"
    quietly web-build npm --prefix web run build
    touch web/dist/.built
}
