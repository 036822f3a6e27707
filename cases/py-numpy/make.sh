#!/usr/bin/env bash
# make.sh OUT: raw output of the checks of a mill pond's gauges on NumPy 1.24.4 and on NumPy 2.1.3.
set -u
NAME=pond
OLD=1.24.4 NEW=2.1.3
export PYTHONDONTWRITEBYTECODE=1 PIP_DISABLE_PIP_VERSION_CHECK=1 COLUMNS=120
source "$(dirname "$0")/../case.sh" "$@"
python3 -m venv "$TMP/env" >/dev/null || exit 1
strip() { sed -e "s#$TMP/pond/##g" -e "s#$TMP/pond##g" -e "s#$TMP/env/lib/[^/]*/##g" -e "s#[^ \"']*/lib/python3#lib/python3#g" -e 's/ in [0-9.]*s\( =*\)$/ in 1s\1/'; }
check() {
  "$TMP/env/bin/python" -m pytest -p no:cacheprovider --continue-on-collection-errors 2>&1 | strip >"$1/pytest.log"
  "$TMP/env/bin/python" -W default run.py 2>&1 | strip >"$1/run.log"
}
echo "installing NumPy $OLD"; "$TMP/env/bin/pip" install -q pytest==8.3.5 "numpy==$OLD" setuptools==75.0.0 >/dev/null 2>&1 || exit 1
check "$OUT/before"
echo "installing NumPy $NEW"; "$TMP/env/bin/pip" install -q "numpy==$NEW" >/dev/null 2>&1 || exit 1
check "$OUT/after"
# the source package alone has the notes; it is unpacked, not built
"$TMP/env/bin/pip" download -q --no-deps --no-binary :all: --no-build-isolation -d "$TMP/source" "numpy==$NEW" >/dev/null 2>&1
if ! ls "$TMP"/source/numpy-*.tar.gz >/dev/null 2>&1; then
  index=$("$TMP/env/bin/pip" config get global.index-url 2>/dev/null || echo "${PIP_INDEX_URL:-}")
  index=${index:-$("$TMP/env/bin/python" -c 'from pip._internal.models.index import PyPI; print(PyPI.simple_url)')}
  url=$(curl -sL -H 'Accept: application/vnd.pypi.simple.v1+json' "${index%/}/numpy/" | python3 -c 'import json, sys; print(next(f["url"] for f in json.load(sys.stdin)["files"] if f["filename"] == "numpy-'$NEW'.tar.gz"))')
  mkdir -p "$TMP/source"; curl -sL -o "$TMP/source/numpy-$NEW.tar.gz" "$url" || exit 1
fi
tar -C "$TMP/source" -xzf "$TMP/source/numpy-$NEW.tar.gz"
for v in 1.25.0 1.26.0 2.0.0 2.1.0; do install -m 644 "$TMP/source/numpy-$NEW/doc/source/release/$v-notes.rst" "$OUT/notes/$v-notes.rst"; done
install -m 644 "$TMP/source/numpy-$NEW/doc/source/numpy_2_0_migration_guide.rst" "$OUT/notes/numpy_2_0_migration_guide.rst"
find . -name __pycache__ -prune -exec rm -rf {} +
cp -r . "$OUT/repo"
echo done
