#!/usr/bin/env bash
# make.sh OUT: raw output of mypy 0.971 and pylint 2.13.9 on a fruit growers' ledger, and of mypy 1.14.1 and pylint 3.3.3.
set -u
NAME=ledger
OLD="mypy==0.971 pylint==2.13.9 astroid==2.11.7" NEW="mypy==1.14.1 pylint==3.3.3 astroid==3.3.8"
export PYTHONDONTWRITEBYTECODE=1 PIP_DISABLE_PIP_VERSION_CHECK=1 COLUMNS=120 NO_COLOR=1
source "$(dirname "$0")/../case.sh" "$@"
python3 -m venv "$TMP/env" >/dev/null || exit 1
export PATH=$TMP/env/bin:$PATH
check() { rm -rf .mypy_cache; PYLINTHOME=$TMP/lint bash check.sh "$1"; rm -rf .mypy_cache; sed -i -e "s#$TMP/ledger/##g" -e '/^Your code has been rated/d' "$1"/*.log; }
echo "installing $OLD"; pip install -q $OLD requests==2.32.3 types-requests==2.28.0 setuptools==75.0.0 >/dev/null 2>&1 || exit 1
check "$OUT/before"
echo "installing $NEW"; pip install -q $NEW >/dev/null 2>&1 || exit 1
check "$OUT/after"
pip download -q --no-deps --no-binary :all: -d "$TMP/source" mypy==1.14.1 pylint==3.3.3 >/dev/null 2>&1 || exit 1
for t in "$TMP"/source/*.tar.gz; do tar -C "$TMP/source" -xzf "$t"; done
install -m 644 "$TMP/source/mypy-1.14.1/CHANGELOG.md" "$OUT/notes/mypy.md"
install -m 644 "$TMP/source/pylint-3.3.3/doc/whatsnew/2/2.14/summary.rst" "$OUT/notes/pylint-2.14.rst"
install -m 644 "$TMP/source/pylint-3.3.3/doc/whatsnew/2/2.14/full.rst" "$OUT/notes/pylint-2.14-full.rst"
for v in 2.15 2.16 2.17 3.0 3.1 3.2 3.3; do install -m 644 "$TMP/source/pylint-3.3.3/doc/whatsnew/${v%%.*}/$v/index.rst" "$OUT/notes/pylint-$v.rst"; done
cp -r . "$OUT/repo"
echo done
