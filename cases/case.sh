# Sourced by the make.sh of the field cases (but jvm-lucene, whose outputs hold the folder it works in) with the folder OUT that it fills, after it set NAME: empties OUT and goes into a copy of the
# project, $TMP/$NAME, which is removed in the end. HERE is the case's own folder.
OUT=${1:?usage: make.sh OUT}
HERE=$(cd "$(dirname "$0")" && pwd)
export LC_ALL=C.UTF-8 TZ=UTC
rm -rf "$OUT/before" "$OUT/after" "$OUT/notes" "$OUT/repo"
mkdir -p "$OUT/before" "$OUT/after" "$OUT/notes"
OUT=$(cd "$OUT" && pwd)
TMP=$(cd "$(mktemp -d)" && pwd -P)
trap 'rm -rf "$TMP"' EXIT
cp -r "$HERE/project" "$TMP/$NAME"
cd "$TMP/$NAME" || exit 1
