#!/usr/bin/env bash
# make.sh OUT: raw output of the checks of a picking calendar on date-fns 1.30.1 and on date-fns 2.30.0.
set -u
NAME=calendar
OLD=1.30.1 NEW=2.30.0
source "$(dirname "$0")/../case.sh" "$@"
clean() { env -i PATH="$PATH" HOME="$TMP" LANG=C.UTF-8 TZ=UTC NO_COLOR=1 "$@" 2>&1 </dev/null | sed -e "s#$TMP/calendar/##g" -e "s#$TMP/calendar##g"; }
check() {
  clean node node_modules/mocha/bin/mocha.js $(ls test/*.test.js | grep -v weeks) >"$1/tests.log"
  clean node node_modules/mocha/bin/mocha.js test/weeks.test.js >"$1/weeks.log"
  clean node bin/slips.js >"$1/slips.log"
}
install() { npm install --silent --no-audit --no-fund --no-save mocha@10.8.2 "date-fns@$1" >/dev/null 2>&1 || exit 1; }
echo "installing date-fns $OLD"; install "$OLD"
echo "checks before"; check "$OUT/before"
echo "installing date-fns $NEW"; install "$NEW"
echo "checks after"; check "$OUT/after"
cp node_modules/date-fns/CHANGELOG.md "$OUT/notes"
cp -r "$HERE/project" "$OUT/repo"
echo done
