#!/usr/bin/env bash
# Installs what is needed, builds, and runs every test without a display. Quiet unless something fails.
set -euo pipefail
cd "$(dirname "$0")"
scripts/install-packages.sh
scripts/build.sh release
cd build/release
log=$(mktemp)
trap 'rm -f "$log"' EXIT
if ! ctest -j2 --output-on-failure "$@" > "$log" 2>&1; then
    cat "$log"
    exit 1
fi
tail -n 4 "$log"
