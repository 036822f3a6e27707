#!/usr/bin/env bash
# make.sh OUT: raw output of the checks of a seed library's catalogue on js-yaml 3.14.1 and on js-yaml 4.1.0.
set -u
NAME=seeds
OLD=3.14.1 NEW=4.1.0
export NO_COLOR=1 FORCE_COLOR=0 npm_config_update_notifier=false npm_config_fund=false npm_config_audit=false
source "$(dirname "$0")/../case.sh" "$@"
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
