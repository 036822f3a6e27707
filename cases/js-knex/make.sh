#!/usr/bin/env bash
# make.sh OUT: raw output of the checks of a plant nursery's orders on knex 0.16.5 and on knex 3.1.0.
set -u
NAME=nursery
OLD=0.16.5 NEW=3.1.0
export NO_COLOR=1 FORCE_COLOR=0 npm_config_update_notifier=false npm_config_fund=false npm_config_audit=false
source "$(dirname "$0")/../case.sh" "$@"
check() {
  npm run -s test >"$1/test.log" 2>&1
  npm run -s night >"$1/night.log" 2>&1
  sed -i -e "s#$TMP/nursery/##g" -e "s#$TMP/nursery##g" -e 's/ ([0-9]*ms)$//' "$1"/*.log
}
echo "knex $OLD"; npm install --silent >/dev/null 2>&1 || exit 1
check "$OUT/before"
sed -i "s/\"$OLD\"/\"$NEW\"/" package.json
echo "knex $NEW"; npm install --silent >/dev/null 2>&1 || exit 1
check "$OUT/after"
install -m 644 node_modules/knex/CHANGELOG.md node_modules/knex/UPGRADING.md "$OUT/notes"
rm -rf node_modules package-lock.json; cp -r . "$OUT/repo"
echo done
