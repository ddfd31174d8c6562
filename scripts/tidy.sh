#!/usr/bin/env bash
# Runs clang-tidy (.clang-tidy) over the core and the tool. Needs the package clang-tidy; not a part of ./test.sh.
set -euo pipefail
cd "$(dirname "$0")/.."
cmake -S . -B build/tidy -G Ninja -DCMAKE_BUILD_TYPE=Debug -DCMAKE_DISABLE_PRECOMPILE_HEADERS=ON > /dev/null
find src/core src/run -name '*.cpp' -print0 | xargs -0 -P "$(nproc)" -n 4 clang-tidy -p build/tidy --quiet
