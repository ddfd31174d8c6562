#!/usr/bin/env bash
# Fails on an include that goes against the arrows of docs/developing.md, or an interface library in the core.
set -euo pipefail
cd "$(dirname "$0")/../src"
declare -A may=(
    [base]="base"
    [formats]="base formats"
    [paper]="base formats paper"
    [holes]="base formats holes"
    [ground]="base formats ground"
    [services]="base formats services"
    [surfaces]="base ground surfaces"
    [sequence]="base formats holes ground surfaces sequence"
    [model]="base formats holes ground surfaces sequence model"
    [blocks]="base formats holes ground surfaces sequence model blocks"
    [layers]="base formats holes ground surfaces sequence model layers"
    [project]="base formats paper holes ground surfaces sequence model blocks layers project"
    [importing]="base formats holes ground surfaces sequence model blocks layers project importing"
    [products]="base formats holes ground surfaces sequence model blocks layers project products"
    [store]="base formats holes ground surfaces sequence model blocks layers project store"
    [sheets]="base formats paper holes ground surfaces sequence model blocks layers project products sheets"
    [handover]="base formats paper holes ground surfaces sequence model blocks layers project importing products sheets handover"
)
bad=0
for folder in core/*/; do
    if [ -z "${may[$(basename "$folder")]-}" ]; then echo "src/$folder is not in this script's table of arrows."; bad=1; fi
done
for module in "${!may[@]}"; do
    allowed=$(echo "${may[$module]}" | tr ' ' '|')
    if grep -nE '#include "[a-z]+/' core/"$module"/*.h core/"$module"/*.cpp | grep -vE "#include \"($allowed)/"; then
        echo "src/core/$module may include only: ${may[$module]}"
        bad=1
    fi
done
if grep -rnE '#include <(Q[A-Z]|vtk)' core run; then echo "The core and the tool have no interface library."; bad=1; fi
if grep -rnE '#include "(shell|stages|dialogs)/' app/views app/style; then echo "Views know neither stages nor the shell."; bad=1; fi
# library types stay out of public headers; the named ones are private to their module
if grep -nE '#include <(CGAL|SQLiteCpp|gdal|ogr|cpl_|vtk|Eigen|nanoflann|tbb)' core/*/*.h app/*/*.h | grep -vE 'core/formats/gdal_session.h|core/store/(geopackage|row_reader|schema).h|core/surfaces/(kriging_system|active_set|triangular_solve).h|app/views/scene_pieces.h'; then
    echo "These libraries stay out of public headers."; bad=1
fi
exit $bad
