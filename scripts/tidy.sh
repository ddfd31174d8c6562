#!/usr/bin/env bash
# Runs clang-tidy (.clang-tidy) over the sources of the core and the tool: scripts/tidy.sh [--changed]. With --changed over
# those that the last three commits changed. How each source is compiled is taken from a configuration that builds nothing, in
# which the headers that are compiled once elsewhere stand before each source.
set -euo pipefail
cd "$(dirname "$0")/.."
sources() {
    if [ "${1:-}" = --changed ]; then
        local since
        since=$(git rev-list --max-count=4 HEAD | tail -n 1)
        git diff --name-only --diff-filter=d "$since" -- 'src/core/*.cpp' 'src/run/*.cpp'
    else
        find src/core src/run -name '*.cpp'
    fi
}
mapfile -t files < <(sources "$@")
cmake --preset tidy > /dev/null
[ ${#files[@]} -eq 0 ] || printf '%s\0' "${files[@]}" | xargs -0 -P "$(nproc)" -n 4 clang-tidy -p build/tidy --quiet
echo "clang-tidy: ${#files[@]} sources"
