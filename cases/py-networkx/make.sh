#!/usr/bin/env bash
# make.sh OUT: raw output of the checks of a valley's bus lines on networkx 2.6.3 and on networkx 3.2.1.
set -u
NAME=valley
OLD=2.6.3 NEW=3.2.1
export PYTHONDONTWRITEBYTECODE=1 PIP_DISABLE_PIP_VERSION_CHECK=1 COLUMNS=120 PYTHONHASHSEED=0
source "$(dirname "$0")/../case.sh" "$@"
python3 -m venv "$TMP/env" >/dev/null || exit 1
strip() { sed -e "s#$TMP/valley/##g" -e "s#$TMP/env/lib/[^/]*/##g" -e "s#[^ \"']*/lib/python3#lib/python3#g" -e 's/ in [0-9][0-9.]*s/ in 1s/'; }
check() {
  "$TMP/env/bin/python" -m pytest -p no:cacheprovider -q --tb=short --continue-on-collection-errors 2>&1 | strip >"$1/pytest.log"
  "$TMP/env/bin/python" -W default plan.py 2>&1 | strip >"$1/plan.log"
}
echo "networkx $OLD"; "$TMP/env/bin/pip" install -q pytest==8.3.5 numpy==1.24.4 scipy==1.10.1 "networkx==$OLD" >/dev/null 2>&1 || exit 1
check "$OUT/before"
echo "networkx $NEW"; "$TMP/env/bin/pip" install -q "networkx==$NEW" >/dev/null 2>&1 || exit 1
check "$OUT/after"
"$TMP/env/bin/pip" download -q --no-deps --no-binary :all: -d "$TMP/source" "networkx==$NEW" >/dev/null 2>&1 || exit 1
tar -C "$TMP/source" -xzf "$TMP/source/networkx-$NEW.tar.gz"
for page in release_2.7 release_2.8 release_3.0 release_3.1 release_3.2 migration_guide_from_2.x_to_3.0; do
  install -m 644 "$TMP/source/networkx-$NEW/doc/release/$page.rst" "$OUT/notes/$page.rst"
done
cp -r "$HERE/project" "$OUT/repo"
echo done
