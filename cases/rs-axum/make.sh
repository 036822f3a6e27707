#!/usr/bin/env bash
# make.sh OUT: raw output of building and testing a village's post room on axum 0.6.20 and on axum 0.8.1.
set -u
NAME=post
OLD=0.6.20 NEW=0.8.1
export CARGO_INCREMENTAL=0 RUST_BACKTRACE=0 CARGO_BUILD_JOBS=1 CARGO_TERM_PROGRESS_WHEN=never
unset RUSTFLAGS
source "$(dirname "$0")/../case.sh" "$@"
check() {
  cargo fetch -q 2>/dev/null
  bash check.sh "$1"
  sed -i -e "s#$TMP/post/##g" -e "s#$TMP/post##g" -e "s#/[^ ]*/registry/src/[^/]*/##g" -e '/^ *\(Compiling\|Downloaded\|Downloading\|Adding\|Locking\|Updating\) /d' -e 's/ in [0-9.]*s$/ in 1s/' -e "s/ ([0-9]\{3,\}) panicked/ panicked/" "$1"/*.log
}
echo "checks on axum $OLD"; check "$OUT/before"
sed -i "s/=$OLD/=$NEW/" Cargo.toml; rm -f Cargo.lock
echo "checks on axum $NEW"
cargo fetch --color never >"$OUT/after/fetch.log" 2>&1
sed -i "s#$TMP/post/##g; s#$TMP/post##g" "$OUT/after/fetch.log"
cp "$OUT/after/fetch.log" "$TMP/fetch.log"
# nothing is built with a feature that is not there
sed -i 's/, "headers"//' Cargo.toml
check "$OUT/after"; cp "$TMP/fetch.log" "$OUT/after/fetch.log"
crate=$(cargo metadata --format-version 1 2>/dev/null | python3 -c 'import json,sys; print(next(p["manifest_path"] for p in json.load(sys.stdin)["packages"] if p["name"]=="axum"))')
install -m 644 "$(dirname "$crate")/CHANGELOG.md" "$OUT/notes"
core=$(cargo metadata --format-version 1 2>/dev/null | python3 -c 'import json,sys; print(next(p["manifest_path"] for p in json.load(sys.stdin)["packages"] if p["name"]=="axum-core"))')
install -m 644 "$(dirname "$core")/CHANGELOG.md" "$OUT/notes/axum-core.md"
rm -rf target; cp -r . "$OUT/repo"
echo done
