#!/usr/bin/env bash
# Fails if the demo's maker does not make the files that are committed.
set -euo pipefail
cd "$(dirname "$0")/.."
made=$(mktemp -d)
trap 'rm -rf "$made"' EXIT
"${1:-build/release}"/demo/quernbeck/make/make_quernbeck "$made" 2>/dev/null
# the spreadsheet's and the picture's bytes depend on the versions of their libraries
diff -rq -x make -x README.md -x wells.xlsx -x old_plan.png "$made" demo/quernbeck
