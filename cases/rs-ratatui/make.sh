#!/usr/bin/env bash
# make.sh OUT: raw output of building and testing the screens of a fruit press on ratatui 0.23.0 and on ratatui 0.29.0.
set -u
NAME=press
OLD=0.23.0 NEW=0.29.0
export CARGO_INCREMENTAL=0 RUST_BACKTRACE=0 CARGO_BUILD_JOBS=1 CARGO_TERM_PROGRESS_WHEN=never
unset RUSTFLAGS
source "$(dirname "$0")/../case.sh" "$@"
check() {
  cargo fetch -q 2>/dev/null || exit 1
  (cd face && cargo build -q >/dev/null 2>&1)
  find . -name '*.rs' -exec touch {} +
  bash check.sh "$1"
  sed -i -e "s#$TMP/press/##g" -e "s#$TMP/press##g" -e "s#/[^ ]*/registry/src/[^/]*/##g" -e '/^ *\(Compiling\|Downloaded\|Downloading\) /d' -e 's/ in [0-9.]*s$/ in 1s/' "$1"/*.log
}
echo "checks on $OLD"; check "$OUT/before"
sed -i "s/=$OLD/=$NEW/" Cargo.toml; rm -f Cargo.lock
echo "checks on $NEW"; check "$OUT/after"
crate=$(cargo metadata --format-version 1 2>/dev/null | python3 -c 'import json,sys; print(next(p["manifest_path"] for p in json.load(sys.stdin)["packages"] if p["name"]=="ratatui"))')
install -m 644 "$(dirname "$crate")/BREAKING-CHANGES.md" "$(dirname "$crate")/CHANGELOG.md" "$OUT/notes"
rm -rf target; cp -r . "$OUT/repo"
echo done
