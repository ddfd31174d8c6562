#!/usr/bin/env bash
# Fuzzes the readers, guided by coverage, with the address and undefined-behaviour sanitizers: scripts/fuzz.sh [seconds each,
# default 30]. Starts from fuzz/corpus; what it finds stays in build/fuzz. Needs what scripts/sanitize.sh builds.
set -euo pipefail
cd "$(dirname "$0")/.."
export seconds=${1:-30}
# what GDAL keeps until the end of the process is no leak of ours; it says on standard error what it refuses
export ASAN_OPTIONS=detect_leaks=0:allocator_may_return_null=1 UBSAN_OPTIONS=halt_on_error=1:print_stacktrace=1 CPL_DEBUG=OFF
fuzzReader() {
    local reader=$1
    local found=build/fuzz/found_$reader
    mkdir -p "$found"
    if ! build/sanitized/fuzz/fox_"${reader}"_fuzz -max_total_time="$seconds" -max_len=16384 -rss_limit_mb=2048 -timeout=20 \
        -print_final_stats=0 -verbosity=1 -artifact_prefix=build/fuzz/crash_"${reader}"_ "$found" fuzz/corpus/"$reader" \
        > build/fuzz/"$reader".log 2>&1; then
        tail -60 build/fuzz/"$reader".log
        echo "The $reader reader failed; the input is build/fuzz/crash_${reader}_*."
        return 1
    fi
    echo "$reader: $(sed -n 's/^Done \([0-9]*\) runs.*/\1/p' build/fuzz/"$reader".log) runs, no fault in $seconds s"
}
export -f fuzzReader
mkdir -p build/fuzz
printf '%s\n' ags las table guess triangles project vectors drawings rasters workbooks archives cells specifications | xargs -P "$(nproc)" -I{} bash -c 'fuzzReader {}'
