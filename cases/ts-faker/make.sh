#!/usr/bin/env bash
# make.sh OUT: raw output of the checks of a market's sample data on faker 7.6.0 and on faker 9.9.0.
set -u
NAME=market
OLD=7.6.0 NEW=9.9.0
export NO_COLOR=1 FORCE_COLOR=0 npm_config_update_notifier=false npm_config_fund=false npm_config_audit=false
source "$(dirname "$0")/../case.sh" "$@"
check() {
  npm run -s check >"$1/tsc.log" 2>&1
  npm run -s test >"$1/test.log" 2>&1
  npm run -s day >"$1/day.log" 2>&1
  sed -i -e "s#file://$TMP/market/##g" -e "s#$TMP/market/##g" -e "s#$TMP/market##g" -e 's/ ([0-9.]*ms)$/ (1ms)/' -e 's/^\(. duration_ms\) .*/\1 1/' "$1"/*.log
}
echo "faker $OLD"; npm install --silent >/dev/null 2>&1 || exit 1
check "$OUT/before"
sed -i "s/\"$OLD\"/\"$NEW\"/" package.json
echo "faker $NEW"; npm install --silent >/dev/null 2>&1 || exit 1
check "$OUT/after"
install -m 644 node_modules/@faker-js/faker/CHANGELOG.md "$OUT/notes/CHANGELOG.md"
rm -rf node_modules package-lock.json; cp -r . "$OUT/repo"
echo done
