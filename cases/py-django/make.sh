#!/usr/bin/env bash
# make.sh OUT: raw output of the checks of a weigh-in on Django 3.2.25 and on Django 5.1.5.
set -u
NAME=weighin
OLD=3.2.25 NEW=5.1.5
export PYTHONDONTWRITEBYTECODE=1 PIP_DISABLE_PIP_VERSION_CHECK=1 COLUMNS=120
source "$(dirname "$0")/../case.sh" "$@"
python3 -m venv "$TMP/env" >/dev/null || exit 1
strip() { sed -e "s#$TMP/weighin/##g" -e "s#$TMP/env/lib/[^/]*/##g" -e "s#[^ \"']*/lib/python3#lib/python3#g" -e 's/^\(Ran [0-9]* tests\) in .*/\1 in 1s/'; }
check() {
  "$TMP/env/bin/python" -W always manage.py check --settings weighin.office 2>&1 | strip >"$1/check.log"
  "$TMP/env/bin/python" -W default manage.py test -v 2 2>&1 | strip >"$1/test.log"
}
echo "installing Django $OLD"; "$TMP/env/bin/pip" install -q "Django==$OLD" pytz==2024.2 setuptools==75.0.0 >/dev/null 2>&1 || exit 1
echo "checks before"; check "$OUT/before"
echo "installing Django $NEW"; "$TMP/env/bin/pip" install -q "Django==$NEW" tzdata==2024.2 >/dev/null 2>&1 || exit 1
"$TMP/env/bin/pip" uninstall -q -y pytz >/dev/null 2>&1
echo "checks after"; check "$OUT/after"
"$TMP/env/bin/pip" download -q --no-deps --no-binary :all: -d "$TMP/source" "Django==$NEW" >/dev/null 2>&1 || exit 1
tar -C "$TMP/source" -xzf "$TMP"/source/[Dd]jango-$NEW.tar.gz
for v in 4.0 4.1 4.2 5.0 5.1; do install -m 644 "$TMP"/source/[Dd]jango-$NEW/docs/releases/$v.txt "$OUT/notes/$v.txt"; done
find . -name __pycache__ -prune -exec rm -rf {} +
cp -r . "$OUT/repo"
echo done
