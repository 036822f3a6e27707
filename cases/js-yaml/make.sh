#!/usr/bin/env bash
# make.sh OUT: raw output of the checks of a seed library's catalogue on js-yaml 3.14.1 and on js-yaml 4.1.0.
set -u
OUT=${1:?usage: make.sh OUT}
HERE=$(cd "$(dirname "$0")" && pwd)
OLD=3.14.1 NEW=4.1.0
export LC_ALL=C.UTF-8 TZ=UTC NO_COLOR=1 FORCE_COLOR=0 npm_config_update_notifier=false npm_config_fund=false npm_config_audit=false
mkdir -p "$OUT"; OUT=$(cd "$OUT" && pwd)
rm -rf "$OUT/before" "$OUT/after" "$OUT/notes" "$OUT/repo"
mkdir -p "$OUT/before" "$OUT/after" "$OUT/notes"
TMP=$(mktemp -d); trap 'rm -rf "$TMP"' EXIT
cp -r "$HERE/project" "$TMP/seeds"; cd "$TMP/seeds" || exit 1
check() {
  npm run -s test -- --runInBand --testSequencer ./by-name.js >"$1/test.log" 2>&1
  npm run -s catalogue >"$1/catalogue.log" 2>&1
  sed -i -e "s#$TMP/seeds/##g" -e "s#$TMP/seeds##g" -e 's/ ([0-9.]* m\?s)$//' -e '/^Time: /d' "$1"/*.log
}
echo "js-yaml $OLD"; npm install --silent >/dev/null 2>&1 || exit 1
check "$OUT/before"
sed -i "s/\"$OLD\"/\"$NEW\"/" package.json
echo "js-yaml $NEW"; npm install --silent >/dev/null 2>&1 || exit 1
check "$OUT/after"
install -m 644 node_modules/js-yaml/CHANGELOG.md "$OUT/notes"
rm -rf node_modules package-lock.json; cp -r . "$OUT/repo"
echo done
