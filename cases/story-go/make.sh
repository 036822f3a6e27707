#!/usr/bin/env bash
# make.sh OUT: records the story step by step with the go toolchain alone; the library is our own and lies beside the tree.
set -eu
name=story-go
here=$(cd "$(dirname "$0")" && pwd)
mkdir -p "$1"
out=$(cd "$1" && pwd)
# shellcheck source=../story.sh
. "$here/../story.sh"
export GOFLAGS=-mod=mod GOPROXY=off GOSUMDB=off GOWORK=off GOTOOLCHAIN=local

in_module() { (cd "$1" && "${@:2}"); }
harbour_tests() { record "$1" in_module harbour go test -vet=off -count=1 ./...; }
checks() {
  for m in harbour ferry; do
    record "build-$m.log" in_module "$m" go build ./...
    record "vet-$m.log" in_module "$m" go vet ./...
  done
  harbour_tests tests-harbour.log
  record tests-ferry.log in_module ferry go test -vet=off -count=1 -v ./...
  if [[ ${1:-} == twice ]]; then harbour_tests tests-harbour.again.log; fi
  if [[ ${1:-} == again ]]; then # the order of a map decides: red first, then green
    until grep -q TestCalls "$out/$step/tests-harbour.log"; do harbour_tests tests-harbour.log; done
    harbour_tests tests-harbour.again.log
    while grep -q TestCalls "$out/$step/tests-harbour.again.log"; do harbour_tests tests-harbour.again.log; done
  fi
  commit
}

cp -r "$here/lib/tidewheel-0.8.2" "$work/tidewheel"
step 00-baseline; checks

rm -rf "$work/tidewheel"
cp -r "$here/lib/tidewheel-0.9.0" "$work/tidewheel"
step 01-bump
sed -i 's/tidewheel v0.8.2/tidewheel v0.9.0/' ./*/go.mod
checks

step 02-windows
sed -i 's/tidewheel\.NewSpan/tidewheel.NewWindow/g; s/tidewheel\.Span/tidewheel.Window/g' harbour/*.go ferry/ferry_test.go
checks

step 03-heights; checks
step 04-harbour-builds; checks
step 05-ferry-builds; checks again
step 06-merge-the-summer-plan; checks twice
step 07-green; checks
echo "$name: done"
