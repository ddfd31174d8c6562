#!/usr/bin/env bash
# Fails if a source is not as .clang-format has it. To put them right: scripts/check-format.sh --fix
set -euo pipefail
cd "$(dirname "$0")/.."
mapfile -t sources < <(git ls-files '*.cpp' '*.h')
if [ "${1-}" = --fix ]; then clang-format -i "${sources[@]}"; else clang-format --dry-run -Werror "${sources[@]}"; fi
