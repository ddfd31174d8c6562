#!/usr/bin/env bash
# Fails if a text of the program, or a document, has words that scripts/replaced-words.txt lists. Names and keys, which have
# no blank in them, are not texts.
set -euo pipefail
cd "$(dirname "$0")/.."
bad=0
while IFS=$'\t' read -r pattern instead; do
    [[ -z "$pattern" || "$pattern" == \#* ]] && continue
    text="\"(?=[^\"]* )(?:[^\"\\\\]|\\\\.)*(?:$pattern)"
    if grep -rnP --include='*.cpp' --include='*.h' "$text" src | grep -v '#include'; then
        echo "  write instead: $instead"; bad=1
    fi
    if grep -nP "$pattern" README.md CHANGELOG.md docs/*.md demo/quernbeck/README.md; then
        echo "  write instead: $instead"; bad=1
    fi
done < scripts/replaced-words.txt
# a number and its noun go through counted(), which knows one from many
if grep -rnP --include='*.cpp' --include='*.h' '"(<b>)?(\{\}|%1) (holes|points|lines|intervals|rows|files|vertices|contacts|findings|outlines)\b' src; then
    echo "  write instead: counted(n, \"hole\")"; bad=1
fi
exit $bad
