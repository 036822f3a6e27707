#!/usr/bin/env bash
# make.sh OUT: raw output of the checks of a mill's pages on Flask 1.1.4 and on Flask 3.0.3, with what moves with it.
set -u
NAME=mill
OLD="flask==1.1.4 werkzeug==1.0.1 jinja2==2.11.3 itsdangerous==1.1.0 click==7.1.2 markupsafe==2.0.1"
NEW="flask==3.0.3 werkzeug==3.0.6 jinja2==3.1.3 itsdangerous==2.2.0 click==8.1.7 markupsafe==2.1.5 blinker==1.8.2"
export PYTHONDONTWRITEBYTECODE=1 PIP_DISABLE_PIP_VERSION_CHECK=1 COLUMNS=120 PYTHONHASHSEED=0
source "$(dirname "$0")/../case.sh" "$@"
python3 -m venv "$TMP/env" >/dev/null || exit 1
strip() { sed -e "s#$TMP/mill/##g" -e "s#$TMP/env/lib/[^/]*/##g" -e "s#[^ \"']*/lib/python3#lib/python3#g" -e 's/ in [0-9][0-9.]*s/ in 1s/'; }
check() {
  "$TMP/env/bin/python" -m pytest -p no:cacheprovider --continue-on-collection-errors 2>&1 | strip >"$1/pytest.log"
  "$TMP/env/bin/python" -W default ring.py 2>&1 | strip >"$1/ring.log"
}
echo "Flask 1.1.4"; "$TMP/env/bin/pip" install -q pytest==8.3.5 setuptools==75.0.0 $OLD >/dev/null 2>&1 || exit 1
check "$OUT/before"
echo "Flask 3.0.3"; "$TMP/env/bin/pip" install -q $NEW >/dev/null 2>&1 || exit 1
check "$OUT/after"
# the source packages alone have the notes; they are unpacked, not built
"$TMP/env/bin/python" - "$TMP" flask 3.0.3 werkzeug 3.0.6 jinja2 3.1.3 itsdangerous 2.2.0 click 8.1.7 <<'PY' || exit 1
import json, subprocess, sys, tarfile, urllib.request
from pip._internal.models.index import PyPI
index = subprocess.run([sys.executable, "-m", "pip", "config", "get", "global.index-url"], capture_output=True, text=True).stdout.strip() or PyPI.simple_url
folder, moved = sys.argv[1], sys.argv[2:]
for name, version in zip(moved[::2], moved[1::2]):
    asked = urllib.request.Request(f"{index.rstrip('/')}/{name}/", headers={"Accept": "application/vnd.pypi.simple.v1+json"})
    with urllib.request.urlopen(asked) as answer:
        url = next(f["url"] for f in json.load(answer)["files"] if f["filename"].lower() == f"{name}-{version}.tar.gz")
    archive, _ = urllib.request.urlretrieve(url)
    with tarfile.open(archive) as tar:
        member = next(m for m in tar.getmembers() if m.name.count("/") == 1 and m.name.endswith("/CHANGES.rst"))
        open(f"{folder}/{name}.rst", "wb").write(tar.extractfile(member).read())
PY
for name in flask werkzeug jinja2 itsdangerous click; do install -m 644 "$TMP/$name.rst" "$OUT/notes/$name.rst"; done
cp -r "$HERE/project" "$OUT/repo"
echo done
