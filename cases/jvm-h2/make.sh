#!/usr/bin/env bash
# make.sh OUT: raw output of testing a farm shop's till on H2 1.4.200 and on H2 2.1.214.
# The notes stand in Debian's source package of H2.
set -u
NAME=till
OLD=1.4.200 NEW=2.1.214
unset JAVA_TOOL_OPTIONS MAVEN_OPTS MAVEN_ARGS
source "$(dirname "$0")/../case.sh" "$@"
check() {
  rm -rf target; bash check.sh "$1"
  sed -i -e "s#$TMP/till/##g" -e "s#$TMP/till##g" -e '/^\[INFO\] \(Finished at\|Total time\)/d' "$1"/*
  sed -i '/<properties>/,/<\/properties>/d' "$1"/*.xml
}
mvn -B -q -ntp dependency:resolve >/dev/null 2>&1
echo "checks on H2 $OLD"; check "$OUT/before"
sed -i "s#<h2.version>$OLD<#<h2.version>$NEW<#" pom.xml
mvn -B -q -ntp dependency:resolve >/dev/null 2>&1
echo "checks on H2 $NEW"; check "$OUT/after"
echo "notes"
bash "$HERE/../debian-source.sh" h2database "$NEW" "$TMP/source" || exit 1
tar -C "$TMP/source" -xf "$TMP"/source/h2database_*.orig.tar.* "h2database-$NEW/src/docsrc/html"
for page in migration-to-v2 changelog; do install -m 644 "$TMP/source/h2database-$NEW/src/docsrc/html/$page.html" "$OUT/notes/$page.html"; done
rm -rf target; cp -r . "$OUT/repo"
echo done
