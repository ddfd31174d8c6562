#!/usr/bin/env bash
# Fails if a header of the core does not compile alone: scripts/check-headers.sh [--changed]. With --changed those that the last
# three commits, or what is not committed yet, changed: all of them take minutes.
set -euo pipefail
cd "$(dirname "$0")/.."
headers() {
    local since
    if [ "${1:-}" = --changed ] && since=$(git rev-list --max-count=4 HEAD 2> /dev/null | tail -n 1) && [ -n "$since" ]; then
        { git diff --name-only --diff-filter=d "$since" -- 'src/core/*.h'; git ls-files --others --exclude-standard -- 'src/core/*.h'; } |
            sed 's#^src/core/##'
    else
        (cd src/core && find . -name '*.h')
    fi
}
mapfile -t files < <(headers "$@")
cd src/core
[ ${#files[@]} -eq 0 ] || printf '%s\0' "${files[@]}" | xargs -0 -P "$(nproc)" -I{} \
    g++ -std=c++20 -fsyntax-only -x c++ -I. -I/usr/include/gdal -I/usr/include/eigen3 -include {} /dev/null
