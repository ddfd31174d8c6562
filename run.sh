#!/usr/bin/env bash
# Installs what is needed, builds, and opens Fox Cellar on the demo site. With no display it makes the demo
# project headless, prints its audit and volumes, and writes one picture a stage.
set -euo pipefail
cd "$(dirname "$0")"
scripts/install-packages.sh
scripts/build.sh release
app=build/release/src/app/fox-cellar
if [ -n "${DISPLAY:-}${WAYLAND_DISPLAY:-}" ]; then
    [ $# -gt 0 ] || set -- --demo
    exec "$app" "$@"
fi
run=build/release/src/run/fox-cellar-run
out=build/demo
mkdir -p "$out"
"$run" build demo/quernbeck/quernbeck.build.json --out "$out/quernbeck.gpkg" > /dev/null
echo "Audit: the model against every hole"
"$run" audit "$out/quernbeck.gpkg"
echo "Volumes"
"$run" volumes "$out/quernbeck.gpkg"
scratch=$(mktemp -d)
trap 'rm -rf "$scratch"' EXIT
export XDG_DATA_HOME=$scratch/data XDG_CONFIG_HOME=$scratch/config XDG_RUNTIME_DIR=$scratch LIBGL_ALWAYS_SOFTWARE=1
for stage in site holes ground sequence model sheets; do
    xvfb-run -a -s "-screen 0 1400x1000x24" "$app" --demo --stage "$stage" --screenshot "$out/$stage.png" --size 1280x800
    echo "Picture of the stage $stage: $out/$stage.png"
done
