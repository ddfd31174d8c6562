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
runTests() {
    local out=build/sanitized/$1_tests.log
    if ! build/sanitized/tests/fox_"$1"_tests -w NoAssertions > "$out" 2>&1; then
        tail -80 "$out"
        return 1
    fi
    echo "$1, with the sanitizers: $(tail -n 2 "$out" | head -n 1)"
}
export -f runTests
printf '%s\n' core run | xargs -P 2 -I{} bash -c 'runTests {}'
