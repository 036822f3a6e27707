#!/usr/bin/env bash
# make.sh OUT: raw output of building, vetting and testing a cider press's book on fiber 2.52.12 and on fiber 3.1.0.
set -u
NAME=press
OLD=v2.52.12 NEW=v3.1.0
export GOFLAGS=-mod=mod
source "$(dirname "$0")/../case.sh" "$@"
check() { bash check.sh "$1"; sed -i -e "s#$TMP/press/##g" -e "s#[^ (]*/github.com/gofiber#github.com/gofiber#g" "$1"/*.log; }
echo "fiber $OLD"; go get "github.com/gofiber/fiber/v2@$OLD" >/dev/null 2>&1 || exit 1
go mod tidy >/dev/null 2>&1
echo "checks before"; check "$OUT/before"
echo "fiber $NEW"
grep -rl gofiber/fiber/v2 --include=*.go . | xargs sed -i 's#gofiber/fiber/v2#gofiber/fiber/v3#'
go mod edit -droprequire github.com/gofiber/fiber/v2
go get "github.com/gofiber/fiber/v3@$NEW" >/dev/null 2>&1 || exit 1
go mod tidy -e >/dev/null 2>&1
echo "checks after"; check "$OUT/after"
notes=$(go list -m -f '{{.Dir}}' github.com/gofiber/fiber/v3)/docs/whats_new.md
install -m 644 "$notes" "$OUT/notes/whats_new.md"
cp -r "$TMP/press" "$OUT/repo"
echo done
