# Sourced by bin/start and bin/test: what this machine needs, installed where it is missing.
need_node() {
	command -v node >/dev/null || { echo "Node 20 or 22 is needed (Debian: see the README)." >&2; exit 1; }
	node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit((a === 20 && b >= 19) || (a === 22 && b >= 12) ? 0 : 1)' ||
		{ echo "Node 20 (from 20.19) or 22 (from 22.12) is needed; this is $(node -v)." >&2; exit 1; }
}
need_packages() {
	# npm writes node_modules/.package-lock.json last: older than our lock file means an unfinished or outdated install
	if [ ! -e node_modules/.package-lock.json ] || [ package-lock.json -nt node_modules/.package-lock.json ]; then
		echo "Installing npm packages…"
		npm ci --no-fund --no-audit --loglevel=error || exit 1
		touch node_modules/.package-lock.json
	fi
}
# need_debian COMMAND-OR-GLOB PACKAGE…
need_debian() {
	local probe=$1
	shift
	compgen -G "$probe" >/dev/null && return
	if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
		echo "Installing $* from Debian's packages…"
		export DEBIAN_FRONTEND=noninteractive
		apt-get install -y -qq --no-install-recommends "$@" >/dev/null 2>&1 || { apt-get update -qq && apt-get install -y -qq --no-install-recommends "$@" >/dev/null; }
	fi
	compgen -G "$probe" >/dev/null || { echo "Missing: $*. Install with:  sudo apt-get install --no-install-recommends $*" >&2; exit 1; }
}
free_port() { node -e 'const s = require("net").createServer(); s.listen(0, "127.0.0.1", () => { console.log(s.address().port); s.close(); })'; }
port_is_free() { node -e 'const s = require("net").createServer(); s.on("error", () => process.exit(1)); s.listen(+process.argv[1], process.argv[2], () => s.close())' "$1" "${2:-127.0.0.1}"; }
answers() { node -e 'fetch(process.argv[1]).then(() => process.exit(0), () => process.exit(1))' "$1" 2>/dev/null; }
