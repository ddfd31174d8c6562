#!/usr/bin/env bash
# Fuzzes the readers with the address and undefined-behaviour sanitizers: scripts/fuzz.sh [seconds each, default 30].
# Starts from fuzz/corpus; what it finds stays in build/fuzz. Needs build/release, for the dictionaries' text.
set -euo pipefail
cd "$(dirname "$0")/.."
seconds=${1:-30}
mkdir -p build/fuzz
sources=(src/core/base/{text,finding,files}.cpp
         src/core/formats/{ags,ags_row,ags_types,ags_check,ags_dictionary,ags_changes,ags_build,ags_convert,las,table,triangle_mesh}.cpp
         src/core/holes/{hole,ags_holes,hole_checks,las_holes,table_holes,path}.cpp)
flags=(-std=c++20 -O1 -g -fsanitize=address,undefined -fno-sanitize-recover=undefined -Isrc/core -Ibuild/release/src/core)
objects=()
for source in "${sources[@]}"; do
    object=build/fuzz/$(echo "$source" | tr / _).o
    objects+=("$object")
    # an object is made anew if its source or any header is newer
    if [ ! -e "$object" ] || [ "$source" -nt "$object" ] || [ -n "$(find src/core -name '*.h' -newer "$object" -print -quit)" ]; then
        echo "clang++ ${flags[*]} -fsanitize=fuzzer-no-link -c $source -o $object"
    fi
done | xargs -P "$(nproc)" -I{} sh -c '{}'
for source in "${sources[@]}"; do objects+=("build/fuzz/$(echo "$source" | tr / _).o"); done
for reader in ags las table triangles; do
    clang++ "${flags[@]}" -fsanitize=fuzzer fuzz/${reader}_fuzz.cpp "${objects[@]}" -lfmt -lpugixml -o build/fuzz/${reader}_fuzz
    mkdir -p build/fuzz/found_$reader
    if ! build/fuzz/${reader}_fuzz -max_total_time="$seconds" -max_len=4096 -rss_limit_mb=2048 -timeout=10 -print_final_stats=0 -verbosity=0 \
        -artifact_prefix=build/fuzz/crash_${reader}_ build/fuzz/found_$reader fuzz/corpus/$reader > build/fuzz/$reader.log 2>&1; then
        tail -60 build/fuzz/$reader.log
        echo "The $reader reader failed; the input is build/fuzz/crash_${reader}_*."
        exit 1
    fi
    echo "$reader: $(ls build/fuzz/found_$reader | wc -l) inputs, no fault in $seconds s"
done
