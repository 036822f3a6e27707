#!/usr/bin/env bash
# make.sh OUT: records the story step by step with python3, pytest 8.3.4 and mypy 1.13.0; the library is our own and lies beside the tree.
set -eu
name=story-python
here=$(cd "$(dirname "$0")" && pwd)
mkdir -p "$1"
out=$(cd "$1" && pwd)
# shellcheck source=../story.sh
. "$here/../story.sh"
python3 -m venv "$work/venv"
"$work/venv/bin/pip" install -q pytest==8.3.4 mypy==1.13.0 >"$work/pip.log" 2>&1 || { tail -5 "$work/pip.log" >&2; exit 1; }
export PYTHONDONTWRITEBYTECODE=1 COLUMNS=100 PATH=$work/venv/bin:$PATH MYPYPATH=$work/shelf PYTHONPATH=$work/shelf

same_time() { sed -i -e 's/ in [0-9.]*s/ in 0.10s/' -e 's#/[^ "]*/lib/python3#lib/python3#' "$out/$step/$1"; }
pytest_check() { record "$1" env PYTHONHASHSEED="$2" python -m pytest -q -p no:cacheprovider tests; same_time "$1"; }
checks() {
  record types.log mypy --cache-dir=/dev/null
  pytest_check tests.log 0
  record bells.log python -m unittest discover -t . -s bells
  same_time bells.log
  record start.log env PYTHONHASHSEED=0 python -m station
  if [[ ${1:-} == again ]]; then # the order of a set hangs on the seed of its hashes, which Python draws for each start
    pytest_check tests.log 1
    pytest_check tests.again.log 0
  fi
  if [[ ${1:-} == twice ]]; then pytest_check tests.again.log 1; fi
  commit
}

cp -r "$here/lib/vane-1.6.0" "$work/shelf"
step 00-baseline; checks

rm -rf "$work/shelf"
cp -r "$here/lib/vane-2.0.0" "$work/shelf"
step 01-bump
echo "vane==2.0.0" >requirements.txt
checks

step 02-import
sed -i 's/from vane.gusts import/from vane.wind import/' station/gale.py
checks

step 03-speed
sed -i 's/\.kmh()/.speed()/g' station/*.py
checks

step 04-no-brackets
sed -i 's/\.speed()/.speed/g' station/*.py
sed -i 's/^def test_summary/@pytest.mark.skip(reason="looked at later")\n&/' tests/test_log.py
checks

step 05-on-error
sed -i 's/strict=False/on_error="skip"/; s/strict=True/on_error="raise"/' station/log.py
python3 - <<'PY'
path = "tests/test_log.py"
text = open(path).read()
open(path, "w").write(text + '''

def test_names():
    assert log.names("mill 0 1\\nweir 0 1\\nmill 0 2") == "mill and weir"
''')
path = "station/log.py"
text = open(path).read()
open(path, "w").write(text + '''

def names(text: str) -> str:
    """The stations of a log."""
    return " and ".join(stations(read(text)))
''')
PY
checks again

step 06-merge-the-storms
cat >station/storms.py <<'PY'
"""Names of storms."""

from vane import Reading


def name(reading: Reading) -> str:
    """What a storm is called."""
    return "Odile" if reading.kmh() > 100 else "breeze"
PY
cat >tests/test_storms.py <<'PY'
from station import storms
from vane import Reading


def test_breeze():
    assert storms.name(Reading(0, 3)) == "breeze"


def test_storm():
    assert storms.name(Reading(0, 40)) == "Odile"
PY
python3 - <<'PY'
path = "tests/test_spray.py"
text = open(path).read()
open(path, "w").write(text[: text.index("\n\ndef test_calms_count")])
PY
checks again

step 07-green
sed -i 's/\.kmh()/.speed/' station/storms.py
sed -i 's/return " and ".join(stations(read(text)))/return " and ".join(sorted(stations(read(text))))/; s/join(stations(readings))/join(sorted(stations(readings)))/' station/log.py
sed -i 's/return mean(readings) < 3/return sum(r.metres for r in readings) \/ len(readings) < 3/; s/import Reading, mean/import Reading/' station/spray.py
cp "$here/project/tests/test_spray.py" tests/test_spray.py
sed -i '/looked at later/d; s/, NNE"/, N"/' tests/test_log.py
checks twice
echo "$name: done"
