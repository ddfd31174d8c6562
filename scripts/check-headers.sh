#!/usr/bin/env bash
# Fails if a header of the core does not compile alone.
set -euo pipefail
cd "$(dirname "$0")/../src/core"
find . -name '*.h' -print0 | xargs -0 -P "$(nproc)" -I{} \
    g++ -std=c++20 -fsyntax-only -x c++ -I. -I/usr/include/gdal -I/usr/include/eigen3 -include {} /dev/null
