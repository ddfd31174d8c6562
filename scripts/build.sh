#!/usr/bin/env bash
# Configures and builds a preset (default: release), quiet unless something fails.
set -euo pipefail
cd "$(dirname "$0")/.."
preset=${1:-release}
log=$(mktemp)
trap 'rm -f "$log"' EXIT
if [ ! -f "build/$preset/build.ninja" ]; then
    cmake --preset "$preset" > "$log" 2>&1 || { cat "$log" >&2; exit 1; }
fi
cmake --build --preset "$preset" > "$log" 2>&1 || { grep -vE '^\[[0-9]+/[0-9]+\]' "$log" >&2 || cat "$log" >&2; exit 1; }
