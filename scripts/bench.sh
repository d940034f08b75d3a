#!/usr/bin/env bash
# npm run bench: the core in a whole process, then the built pages: bundle of the job list, time to interactive of each page.
set -euo pipefail
cd "$(dirname "$0")/.."
. scripts/ensure.sh
need_node
need_packages
[ -e build-node/bench.js ] && [ -z "$(find core bench cli -newer build-node/bench.js -print -quit)" ] || npm run --silent build >/dev/null 2>&1
node build-node/bench.js
echo
node scripts/bench-pages.mjs
