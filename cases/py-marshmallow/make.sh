#!/usr/bin/env bash
# make.sh OUT: raw output of the checks of an orchard's data on marshmallow 2.21.0 and on marshmallow 3.21.0.
set -u
NAME=orchard
OLD=2.21.0 NEW=3.21.0
export PYTHONDONTWRITEBYTECODE=1 PIP_DISABLE_PIP_VERSION_CHECK=1 COLUMNS=120
source "$(dirname "$0")/../case.sh" "$@"
python3 -m venv "$TMP/env" >/dev/null || exit 1
strip() { sed -e "s#$TMP/orchard/##g" -e "s#$TMP/env/lib/[^/]*/##g" -e "s#[^ \"']*/lib/python3#lib/python3#g"; }
check() {
  "$TMP/env/bin/python" -m pytest -p no:cacheprovider -q 2>&1 | strip >"$1/pytest.log"
  "$TMP/env/bin/python" -W default run.py 2>&1 | strip >"$1/run.log"
}
echo "installing marshmallow $OLD"; "$TMP/env/bin/pip" install -q pytest==8.3.5 "marshmallow==$OLD" setuptools==75.0.0 >/dev/null 2>&1 || exit 1
echo "checks before"; check "$OUT/before"
echo "installing marshmallow $NEW"; "$TMP/env/bin/pip" install -q "marshmallow==$NEW" >/dev/null 2>&1 || exit 1
echo "checks after"; check "$OUT/after"
"$TMP/env/bin/pip" download -q --no-deps --no-binary :all: -d "$TMP/source" "marshmallow==$NEW" >/dev/null 2>&1 || exit 1
tar -C "$TMP/source" -xzf "$TMP/source/marshmallow-$NEW.tar.gz"
cp "$TMP/source/marshmallow-$NEW/CHANGELOG.rst" "$TMP/source/marshmallow-$NEW/docs/upgrading.rst" "$OUT/notes"
cp -r "$HERE/project" "$OUT/repo"
echo done
