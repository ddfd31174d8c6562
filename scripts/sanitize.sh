#!/usr/bin/env bash
# Builds the core, the tool, their tests and the fuzz targets with the address and undefined-behaviour sanitizers, and runs
# the tests.
set -euo pipefail
cd "$(dirname "$0")/.."
[ -f build/sanitized/build.ninja ] || cmake --preset sanitized > /dev/null
log=$(mktemp)
trap 'rm -f "$log"' EXIT
cmake --build --preset sanitized --target fox_core_tests fox_run_tests fox-cellar-run fuzz > "$log" 2>&1 ||
    { grep -vE '^\[[0-9]+/[0-9]+\]' "$log" >&2; exit 1; }
# what GDAL, TBB and fontconfig keep until the end of the process is no leak of ours
export ASAN_OPTIONS=detect_leaks=0 UBSAN_OPTIONS=halt_on_error=1:print_stacktrace=1
for tests in core run; do
    if ! build/sanitized/tests/fox_${tests}_tests -w NoAssertions > "$log" 2>&1; then tail -80 "$log"; exit 1; fi
    echo "$tests, with the sanitizers: $(tail -n 2 "$log" | head -n 1)"
done
