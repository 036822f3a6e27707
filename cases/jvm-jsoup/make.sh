#!/usr/bin/env bash
# make.sh OUT: raw output of building and testing a farmers' market's pages on jsoup 1.11.3 and on jsoup 1.15.3.
# The notes stand in Debian's source package of jsoup.
set -u
NAME=market
OLD=1.11.3 NEW=1.15.3
unset JAVA_TOOL_OPTIONS MAVEN_OPTS MAVEN_ARGS
source "$(dirname "$0")/../case.sh" "$@"
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
