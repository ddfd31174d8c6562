#!/usr/bin/env bash
# check-page.sh TOOL: what goes out as page, glTF and IFC, read by a browser and by the standards' own readers (npm, for tests
# only). Leaves with 77, which CTest shows as skipped, where npm, its packages or a browser are missing.
set -euo pipefail
tool=$1
here=$(cd "$(dirname "$0")/.." && pwd)
skip() { echo "SKIPPED: $1"; exit 77; }
command -v npm > /dev/null || skip "npm is missing"
browser=$(command -v chromium) || skip "chromium is missing"
timeout 60 "$browser" --headless --no-sandbox --disable-gpu --disable-dev-shm-usage --dump-dom about:blank > /dev/null 2>&1 ||
    skip "chromium does not start here"
scratch=$(mktemp -d)
trap 'rm -rf "$scratch"' EXIT
cp "$here"/tests/page/* "$scratch"
cd "$scratch"
PUPPETEER_SKIP_DOWNLOAD=1 npm ci --no-audit --no-fund > npm.log 2>&1 || { tail -5 npm.log; skip "npm could not fetch its packages"; }
"$tool" build "$here/demo/quernbeck/quernbeck.build.json" --out demo.gpkg > /dev/null 2>&1
node files.mjs "$tool" demo.gpkg "$scratch" "$here/demo/quernbeck/quernbeck.build.json"
node page.mjs "$tool" demo.gpkg "$scratch" "$browser"
