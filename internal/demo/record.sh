#!/usr/bin/env bash
# record.sh: builds the projects' git histories stage by stage and records every check of every stage with the real Go
# compiler, the real tsc and the real gcc, into recordings/. Run it again when the project, a library or a stage changed:
#
#     bash internal/demo/record.sh        (after make build: it uses the console's tsc)
set -euo pipefail
here=$(cd "$(dirname "$0")" && pwd)
tsc=$here/../../console/node_modules/.bin/tsc
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
export GOFLAGS=-mod=mod GOWORK=off GOTOOLCHAIN=local NO_COLOR=1 LC_ALL=C.UTF-8 TZ=UTC
export GIT_CONFIG_GLOBAL=/dev/null GIT_AUTHOR_NAME="Orchard Ledger" GIT_AUTHOR_EMAIL=desk@coop.example
export GIT_COMMITTER_NAME=$GIT_AUTHOR_NAME GIT_COMMITTER_EMAIL=$GIT_AUTHOR_EMAIL

cp -r "$here"/project/* "$work/"
cd "$work/ledger"
git init -q -b main
rm -rf "$here/recordings"
clock=$(date -u -d "2031-05-05 07:30" +%s)

stamp() { date -u -d "@$clock" +%Y-%m-%dT%H:%M:%SZ; }

labels() { # installs a version of the label library, as npm would, and locks it
    cp "$work/locks/binlabel-$1.json" package-lock.json
    rm -rf node_modules/@orchardworks
    mkdir -p node_modules/@orchardworks
    cp -r "$work/binlabel-$1" node_modules/@orchardworks/binlabel
}

check() { # check NAME COMMAND…: runs one check and keeps what it printed beside its facts
    local name=$1 exit=0 start
    shift
    start=$(date +%s%3N)
    "$@" >"$out/$name.log" 2>&1 </dev/null || exit=$?
    local millis=$(($(date +%s%3N) - start))
    sed -i "s#$work/##g" "$out/$name.log"
    facts "$name" "${*##*/node_modules/.bin/}" "$exit" "$millis" "$(versions)" "$name.log"
}

facts() { # facts NAME COMMAND EXIT MILLIS VERSIONS FILE: writes down how a run was made
    printf '{"file":"%s","check":"%s","command":"%s","exit":%d,"commit":"%s","subject":"%s","branch":"%s","startedAt":"%s","millis":%d,"versions":{%s},"commits":[%s]}\n' \
        "$6" "$1" "$2" "$3" "$(git rev-parse HEAD)" "$(git log -1 --format=%s)" "$(git branch --show-current)" "$(stamp)" "$4" "$5" \
        "$(git log -1 --format='{"id":"%H","subject":"%s","author":"%an","at":"%aI"}')" >>"$out/runs.jsonl"
    clock=$((clock + 60))
}

versions() { # of the ledger's tools and libraries
    printf '"go":"%s","tsc":"%s","steelyard":"%s","binlabel":"%s"' "$(go env GOVERSION | sed "s,^go,,")" "$("$tsc" --version | cut -d' ' -f2)" \
        "$(sed -n 's/^require .*steelyard[^ ]* v//p' go.mod)" "$(sed -n 's/.*binlabel": "\(.*\)".*/\1/p' package.json)"
}

stage() { # stage UPGRADE/NAME SUBJECT: commits the tree and records every check on it
    out=$here/recordings/$1
    mkdir -p "$out"
    gofmt -w .
    git add -A
    GIT_AUTHOR_DATE=$(stamp) GIT_COMMITTER_DATE=$(stamp) git commit -q --allow-empty -m "$2"
    echo "$1: $2"
    check build go build -gcflags=-e ./...
    check test go test -count=1 -gcflags=-e -json ./...
    check front "$tsc" --pretty false
    check labels go run ./cmd/templatecheck
    git archive --format=zip -o "$out/source.zip" HEAD
    clock=$((clock + 5400))
}

go_files() { find . -name '*.go' "$@"; }

labels 2
stage steelyard-4/00-baseline "Weigh-in, payout and labels"

# The bump: versions and import paths, nothing else.
sed -i 's#steelyard/v3 v3.7.0#steelyard/v4 v4.1.0#; s#steelyard/v3 => ../steelyard-3#steelyard/v4 => ../steelyard-4#' go.mod
go_files -exec sed -i 's#orchardworks.example/steelyard/v3#orchardworks.example/steelyard/v4#' {} +
sed -i 's#2.4.1#3.0.2#' package.json
labels 3
stage steelyard-4/01-bump "Move to steelyard 4 and binlabel 3"

go_files -exec sed -i 's/steelyard\.OpenScale/steelyard.Connect/; s/Options{Tare:/Options{TareMass:/' {} +
sed -i 's/renderLabel/render/g; s/paper:/stock:/' front/*.ts
stage steelyard-4/02-renames "Follow the renames: Connect, TareMass, render, stock"

# The units' package: every file that names a unit imports it, and loses the import that it no longer uses.
go_files -exec sed -i 's/steelyard\.\(Mass\|Gram\|Kilogram\)\b/mass.\1/g' {} +
for f in $(grep -l 'mass\.\(Mass\|Gram\|Kilogram\)' $(go_files)); do
    sed -i 's#^import "orchardworks.example/steelyard/v4"#import (\n\t"orchardworks.example/steelyard/v4"\n)#' "$f"
    sed -i 's#^\t"orchardworks.example/steelyard/v4"#&\n\t"orchardworks.example/steelyard/v4/mass"#' "$f"
    grep -q 'steelyard\.[A-Z]' "$f" || sed -i '/^\t"orchardworks.example\/steelyard\/v4"$/d' "$f"
done
# Only half of the callers of Weigh get their context: the attempt at that cause is wrong.
for f in weighin/weighin.go season/season_test.go report/report_test.go; do
    sed -i 's/\.Weigh(/.Weigh(context.Background(), /; s#^import (#import (\n\t"context"#' "$f"
done
stage steelyard-4/03-units "Units from their own package, and a context for Weigh"

for f in intake/intake.go station/station.go; do
    sed -i 's/\.Weigh(/.Weigh(context.Background(), /; s#^import (#import (\n\t"context"#' "$f"
done
go_files -exec sed -i 's/\.IsStable()/.Settled()/; s/\(reading\|\br\|\bbest\|Best()\)\.Kilos()/\1.Net().Kilograms()/g' {} +
sed -i 's/steelyard.Sum(d.Readings)/steelyard.Sum(d.Readings...).Kilograms()/' intake/intake.go season/season.go
sed -i 's#steelyard.Sum(all) / float64(mass.Kilogram)#steelyard.Sum(all...).Kilograms() / 1000#; /steelyard\/v4\/mass"/d' season/season.go
sed -i 's/steelyard.Sum(s.Readings)/steelyard.Sum(s.Readings...).Kilograms()/' report/report.go
stage steelyard-4/04-compiles "Everything in Go compiles again"

sed -i 's#binlabel/barcode#binlabel/codes#' front/*.ts
sed -i 's/\.width/.size.width/g; s/label\.height/label.size.height/g' front/*.ts
sed -i 's/print(printer, label, 2)/print(printer, label, { copies: 2 })/; s/print(printer, label, crates)/print(printer, label, { copies: crates })/
    s/print(printer, label, 1)/print(printer, label, { copies: 1 })/; s/, times)/, { copies: times })/; s/tall ? 2 : 1)/{ copies: tall ? 2 : 1 })/
    s/sticker(name), 1)/sticker(name), { copies: 1 })/; s/receipt(\[label.text\]), 1)/receipt([label.text]), { copies: 1 })/' front/*.ts
sed -i 's/{ \.\.\.label, height: lines.length \* 6 }/{ ...label, size: { ...label.size, height: lines.length * 6 } }/' front/receipts.ts
sed -i 's/, type LabelError//' front/printing.ts front/batch.ts
sed -i '1a\\nexport interface LabelError { code: number; reason: string }' front/printing.ts
sed -i '1a import type { LabelError } from "./printing";' front/batch.ts
sed -i 's/label.size.width > 90/label.size.widht > 90/' front/batch.ts # a slip of the keyboard
stage steelyard-4/05-front "The front on binlabel 3"

sed -i 's/size.widht/size.width/' front/batch.ts
sed -i 's/Options{})/Options{Samples: 3})/' station/station_test.go
stage steelyard-4/06-samples "Three samples for the watched scale; mend a slip in batch"

sed -i 's/{"half a step", 250 \* mass.Gram, 35}/{"half a step", 250 * mass.Gram, 0}/; s/{"four and a half", 2250 \* mass.Gram, 175}/{"four and a half", 2250 * mass.Gram, 140}/' payout/payout_test.go
sed -i 's/{kg}/{net}/' labels/sample.txt
stage steelyard-4/07-rounding "Take the trade's rounding; the sample label names its unit"

# An upgrade that has only just begun.
stage steelyard-5/00-baseline "Before steelyard 5"

# The next one stands in the middle.
stage binlabel-4/00-baseline "Before binlabel 4"
sed -i 's#3.0.2#4.0.0#' package.json
labels 4
stage binlabel-4/01-bump "Move to binlabel 4"
sed -i 's/export function firstReady(): Printer | undefined {/export async function firstReady(): Promise<Printer | undefined> {/; s/listPrinters()\.find/(await listPrinters()).find/; s/listPrinters/printers/g' front/printing.ts
stage binlabel-4/02-printers "Wait for the printers"

# Orchard Desk, a project of its own, goes to ticket 2 in two legs.
cd "$work/desk"
git init -q -b main
export TICKET_STATE=$work/state
mkdir -p "$TICKET_STATE"
clock=$(date -u -d "2031-04-07 07:30" +%s)

versions() { printf '"go":"%s","orchardworks.example/ticket":"%s"' "$(go env GOVERSION | sed "s,^go,,")" "$(sed -n 's/^require .*ticket[^ ]* v//p' go.mod)"; }

walked() { # walked: keeps what a person saw, read from standard input as TAP
    cat >"$out/walk.log"
    facts "hand out a ticket" "by hand, by Mirja" 0 240000 "$(versions)" walk.log
}

desk() { # desk NAME SUBJECT: commits the tree and records the commands on it, the tests twice
    out=$here/recordings/ticket-2/$1
    mkdir -p "$out"
    gofmt -w .
    git add -A
    GIT_AUTHOR_DATE=$(stamp) GIT_COMMITTER_DATE=$(stamp) git commit -q --allow-empty -m "$2"
    echo "ticket-2/$1: $2"
    rm -f "$TICKET_STATE"/*
    check build go build -gcflags=-e ./...
    check test go test -count=1 -json ./...
    mv "$out/test.log" "$out/test-1.log"
    sed -i 's/"file":"test.log"/"file":"test-1.log"/' "$out/runs.jsonl"
    check test go test -count=1 -json ./...
    check start go run ./cmd/desk
    git archive --format=zip -o "$out/source.zip" HEAD
    clock=$((clock + 5400))
}

move() { # move FROM TO FOLDER: another version of the library
    sed -i "s#ticket\(/v2\)\? v$1#ticket$4 v$2#; s#ticket\(/v2\)\? => .*#ticket$4 => ../$3#" go.mod
    find . -name '*.go' -exec sed -i "s#\"orchardworks.example/ticket\(/v2\)\?\"#\"orchardworks.example/ticket$4\"#" {} +
}

desk 00-baseline "Tickets and the wall"
walked <<'TAP'
TAP version 14
1..3
ok 1 - ask for a ticket
ok 2 - switch the desk off and on again # SKIP the numbers begin anew in 1.4
ok 3 - look at the wall
TAP
git switch -q -c ticket-2
move 1.4.0 1.9.0 ticket-1.9 ""
desk 01-minor "Move to ticket 1.9"
find . -name '*.go' -exec sed -i 's/ticket\.Open/ticket.Dial/' {} +
sed -i 's/^func TestFirst(t \*testing.T) {/&\n\tt.Setenv("TICKET_STATE", t.TempDir())/' queue/queue_test.go
desk 02-dial "Dial in place of Open; the first ticket is the first of a fresh folder"
walked <<'TAP'
TAP version 14
1..3
ok 1 - ask for a ticket
ok 2 - switch the desk off and on again
ok 3 - look at the wall
TAP

move 1.9.0 2.0.0 ticket-2 /v2
desk 03-major "Move to ticket 2"
sed -i 's/ticket.Stamp(d.waiting.Next())/ticket.Stamp(d.waiting.Next(), ticket.Plain)/' queue/queue.go
sed -i 's/ticket.Stamp(w.turn.Next())/ticket.Stamp(w.turn.Next(), ticket.Plain)/' counter/counter.go
desk 04-style "A style for every stamp"
# The wall has room for what it always showed: a workaround until it is replaced.
cat >counter/counter.go <<'GO'
// Package counter shows on the wall whose turn it is.
package counter

import (
	"strings"

	"orchardworks.example/ticket/v2"
)

// Wall is the display on the wall.
type Wall struct{ turn *ticket.Queue }

// New switches the display on.
func New() *Wall { return &Wall{turn: ticket.Dial("counter")} }

// Call shows the next number, which has to fit into four characters.
func (w *Wall) Call() string {
	number := strings.TrimPrefix(ticket.Stamp(w.turn.Next(), ticket.Plain), "No. ")
	// Workaround: the old wall shows leading zeros as eights.
	return strings.TrimLeft(number, "0")
}
GO
mkdir -p evening
printf '// Package evening prints the tickets of the late shift.\npackage evening\n\nimport "orchardworks.example/ticket/v2"\n\n// Last is the last ticket of the day.\nfunc Last(n int) string { return ticket.Stamp(n) }\n' >evening/evening.go
desk 05-merge "Merge the late shift"
sed -i 's/ticket.Stamp(n)/ticket.Stamp(n, ticket.Short)/' evening/evening.go
sed -i 's/"No. 1"/"No. 001"/; s/want No. 1/want No. 001/' queue/queue_test.go
desk 06-green "Three digits on every ticket"
walked <<'TAP'
TAP version 14
1..3
ok 1 - ask for a ticket
ok 2 - switch the desk off and on again
ok 3 - look at the wall
TAP

# Orchard Cellar, which is written in C, gets another compiler and another library at once.
cd "$work/cellar"
git init -q -b main
clock=$(date -u -d "2031-11-03 07:30" +%s)
parts() { # parts COMPILER LIBRARY: installs these versions
    rm -rf "$work/millstone" deps
    mkdir deps
    cp -r "$work/millstone-${1%%.*}" "$work/millstone"
    cp -r "$work/coldchain-${2%%.*}" deps/coldchain
    versions() { printf '"gcc":"%s","millstone":"%s","coldchain":"%s"' "$(gcc -dumpfullversion)" "$compiler" "$library"; }
    compiler=$1 library=$2
}

cellar() { # cellar NAME SUBJECT: commits the tree and records every check on it
    out=$here/recordings/millstone-8/$1
    mkdir -p "$out"
    git add -A
    GIT_AUTHOR_DATE=$(stamp) GIT_COMMITTER_DATE=$(stamp) git commit -q --allow-empty -m "$2"
    echo "millstone-8/$1: $2"
    rm -rf out
    check build make -k -s
    check headers make -s headers
    check test make -k -s test
    check watch make -k -s watch
    git archive --format=zip -o "$out/source.zip" HEAD
    clock=$((clock + 5400))
}

parts 7.4.0 2.3.0
cellar 00-baseline "The cold stores and their probes"
parts 8.0.0 3.0.0
cellar 01-bump "Move to Millstone C 8 and coldchain 3"
sed -i 's/ -fbrief-labels//' Makefile
cellar 02-option "Labels are always brief"
sed -i 's/^int days_kept.*/&\nint round_up(double celsius);\nint note_probe(int store, double celsius);\nint too_warm(double celsius);/' include/cellar.h
sed -i 's/char \*label = since;/int label = since != 0;/; s/^static day/static int day/; 1i #include <string.h>' src/days.c
sed -i 's/long crates/int crates/' src/ledger.c
sed -i 's/^note_probe/int note_probe/' src/note.c
sed -i 's/"cellar.h"/"ledger.h"/; s/coldchain_label/coldchain_name/; s/p->celsius/coldchain_read(p, 100)/' src/print.c
sed -i 's/coldchain_open/coldchain_attach/; s/coldchain_read(&probe)/coldchain_read(\&probe, 100)/; s/probe\.celsius/stores[i].warmest/' src/probe.c
sed -i 's/COLDCHAIN_WARM/COLDCHAIN_ABOVE/' src/state.c
cellar 03-declared "Every function has a declaration; follow coldchain 3"
sed -i 's/^int alarm_level/extern &/; s/^int last_store/extern &/' include/cellar.h
sed -i 's/^#include "cellar.h"/&\n\nint alarm_level;/' src/alarm.c
sed -i 's/^#include "cellar.h"/&\n\nint last_store;/' src/probe.c
cellar 04-linked "One place for each variable"
