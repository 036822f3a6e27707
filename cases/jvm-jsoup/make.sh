#!/usr/bin/env bash
# make.sh OUT: raw output of building and testing a farmers' market's pages on jsoup 1.11.3 and on jsoup 1.15.3.
# The notes stand in Debian's source package of jsoup.
set -u
OUT=${1:?usage: make.sh OUT}
HERE=$(cd "$(dirname "$0")" && pwd)
OLD=1.11.3 NEW=1.15.3
export LC_ALL=C.UTF-8 TZ=UTC
unset JAVA_TOOL_OPTIONS MAVEN_OPTS MAVEN_ARGS
mkdir -p "$OUT"; OUT=$(cd "$OUT" && pwd)
rm -rf "$OUT/before" "$OUT/after" "$OUT/notes" "$OUT/repo"
mkdir -p "$OUT/before" "$OUT/after" "$OUT/notes"
TMP=$(mktemp -d); trap 'rm -rf "$TMP"' EXIT
cp -r "$HERE/project" "$TMP/market"; cd "$TMP/market" || exit 1
check() {
  rm -rf target ./*/target; bash check.sh "$1"
  sed -i -e "s#$TMP/market/##g" -e "s#$TMP/market##g" -e '/^\[INFO\] \(Finished at\|Total time\)/d' "$1"/*
  sed -i '/<properties>/,/<\/properties>/d' "$1"/*.xml
}
mvn -B -q -ntp dependency:resolve >/dev/null 2>&1
echo "checks on jsoup $OLD"; check "$OUT/before"
sed -i "s#<jsoup.version>$OLD<#<jsoup.version>$NEW<#" pom.xml
mvn -B -q -ntp dependency:resolve >/dev/null 2>&1
echo "checks on jsoup $NEW"; check "$OUT/after"
echo "notes"
bash "$HERE/../debian-source.sh" jsoup "$NEW" "$TMP/source" || exit 1
tar -C "$TMP/source" -xf "$TMP"/source/jsoup_*.orig.tar.* "jsoup-jsoup-$NEW/CHANGES"
install -m 644 "$TMP/source/jsoup-jsoup-$NEW/CHANGES" "$OUT/notes/CHANGES"
rm -rf target ./*/target; cp -r . "$OUT/repo"
echo done
