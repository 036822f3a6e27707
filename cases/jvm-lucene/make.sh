#!/usr/bin/env bash
# make.sh OUT: raw output of building and testing a seed library's search on Lucene 7.7.2 and on Lucene 8.8.1.
# The notes stand in Debian's source package of Lucene 8.
set -u
OUT=${1:?usage: make.sh OUT}
HERE=$(cd "$(dirname "$0")" && pwd)
OLD=7.7.2 NEW=8.8.1
export LC_ALL=C.UTF-8 TZ=UTC
unset JAVA_TOOL_OPTIONS MAVEN_OPTS MAVEN_ARGS
mkdir -p "$OUT"; OUT=$(cd "$OUT" && pwd)
rm -rf "$OUT/before" "$OUT/after" "$OUT/notes" "$OUT/repo"
mkdir -p "$OUT/before" "$OUT/after" "$OUT/notes"
# the compiler takes files in the order of their paths' hashes: the folder has one name
TMP=${TMPDIR:-/tmp}/seed-library; rm -rf "$TMP"; mkdir -p "$TMP"; trap 'rm -rf "$TMP"' EXIT
cp -r "$HERE/project" "$TMP/library"; cd "$TMP/library" || exit 1
check() {
  rm -rf */target; bash check.sh "$1"
  sed -i -e "s#$TMP/library/##g" -e "s#$TMP/library##g" -e '/^\[INFO\] \(Finished at\|Total time\)/d' "$1"/*
  sed -i '/<properties>/,/<\/properties>/d' "$1/TEST-shelf.xml"
}
mvn -B -q -ntp dependency:resolve >/dev/null 2>&1
echo "checks on Lucene $OLD"; check "$OUT/before"
sed -i "s#<lucene.version>$OLD<#<lucene.version>$NEW<#" pom.xml
mvn -B -q -ntp dependency:resolve >/dev/null 2>&1
echo "checks on Lucene $NEW"; check "$OUT/after"
echo "notes"
bash "$HERE/../debian-source.sh" lucene8 "$NEW" "$TMP/source" || exit 1
tar -C "$TMP/source" --strip-components=1 -xf "$TMP"/source/lucene8_*.orig.tar.* "lucene-$NEW/CHANGES.txt" "lucene-$NEW/MIGRATE.txt"
install -m 644 "$TMP/source/CHANGES.txt" "$TMP/source/MIGRATE.txt" "$OUT/notes"
rm -rf */target; cp -r . "$OUT/repo"
echo done
