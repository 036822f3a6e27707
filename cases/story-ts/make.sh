#!/usr/bin/env bash
# make.sh OUT: records the story step by step with node, tsc 5.6.3, vitest 2.1.5 and mocha 10.8.2; the library is our own and lies beside the tree.
set -eu
name=story-ts
here=$(cd "$(dirname "$0")" && pwd)
mkdir -p "$1"
out=$(cd "$1" && pwd)
# shellcheck source=../story.sh
. "$here/../story.sh"
mkdir "$work/tools"
sed '/"dependencies"/d' package.json >"$work/tools/package.json"
(cd "$work/tools" && npm install --silent --no-audit --no-fund >"$work/npm.log" 2>&1) || { tail -5 "$work/npm.log" >&2; exit 1; }
mv "$work/tools/node_modules" node_modules
export PATH=$PWD/node_modules/.bin:$PATH CI=1 COLUMNS=120

same_time() { sed -i -e 's/ [0-9.]*m\?s$/ 5ms/' -e 's/([0-9]*ms)/(5ms)/' -e 's/ [0-9.]*m\?s (transform.*/ 5ms/' -e '/Start at/d' -e 's/(node:[0-9]*)/(node:1)/' "$out/$step/$1"; }
unit() { record "$1" vitest run --root . --dir unit; same_time "$1"; }
checks() {
  rm -rf dist
  record build.log tsc
  unit unit.log
  record desk.log mocha --reporter dot 'dist/desk/*.js'
  same_time desk.log
  record start.log node dist/src/main.js
  same_time start.log
  if [[ ${1:-} == again ]]; then # lots decide: red first, then green
    until grep -q 'FAIL.*weighs who came first' "$out/$step/unit.log"; do unit unit.log; done
    unit unit.again.log
    while grep -q 'FAIL.*weighs who came first' "$out/$step/unit.again.log"; do unit unit.again.log; done
  fi
  if [[ ${1:-} == green ]]; then while grep -q 'FAIL.*weighs who came first' "$out/$step/unit.log"; do unit unit.log; done; fi
  if [[ ${1:-} == twice ]]; then unit unit.again.log; fi
  rm -rf dist
  commit node_modules
}
shelve() { rm -rf node_modules/hopper; cp -r "$here/lib/$1" node_modules/hopper; }

shelve hopper-3.2.0
step 00-baseline; checks

shelve hopper-4.0.0
step 01-bump
sed -i 's/"hopper": "3.2.0"/"hopper": "4.0.0"/' package.json
checks green

step 02-print
sed -i 's#hopper/tickets#hopper/print#' src/*.ts
checks green

step 03-pounds
sed -i 's/\.pounds()/.toPounds()/g' src/*.ts
sed -i 's/dry(bale, 8)/dry(bale, { hour: 8 })/; s/dry(bale, 1)/dry(bale, { hours: 1 })/' src/kiln.ts
sed -i 's/): Grade {/): Grade | null {/' src/kiln.ts
checks green

step 04-hours
sed -i 's/{ hour: 8 }/{ hours: 8 }/' src/kiln.ts
sed -i 's/ledger(bales).total/ledger(bales).kilos/' src/day.ts
sed -i "s/  it('shows halves'/  it.skip('shows halves'/" unit/weights.test.ts
checks again

step 05-tickets
sed -i "s/'Golding 60 kg'/'Golding 60.0 kg'/" desk/desk.ts
python3 - <<'PY'
path = "desk/desk.ts"
text = open(path).read()
text = text.replace("import { both, shown }", "import { both }")
start = text.index("    it('rounds to the half'")
open(path, "w").write(text[:start] + text[text.index("  });\n});", start):])
PY
checks again

step 06-merge-the-market
cat >src/market.ts <<'TS'
import type { Bale } from 'hopper';

/** What a bale brings at the market, in pence: two for each pound. */
export function price(bale: Bale): number {
  return 2 * bale.pounds();
}
TS
cat >unit/market.test.ts <<'TS'
import { Bale } from 'hopper';
import { expect, it } from 'vitest';
import { price } from '../src/market';

it('pays for a bale', () => expect(price(new Bale(50))).toBe(220));
it('pays nothing for nothing', () => expect(price(new Bale(0))).toBe(0));
TS
sed -i 's/return queue(carts)\[0\]/return carts[0]/; s/ledger, queue }/ledger }/' src/day.ts
checks twice

step 07-green
sed -i 's/\.pounds()/.toPounds()/' src/market.ts
sed -i 's/half(kilos)}/half(kilos + 0.25)}/' src/weights.ts
sed -i "s/it.skip('shows halves'/it('shows halves'/" unit/weights.test.ts
cp "$here/project/desk/desk.ts" desk/desk.ts
sed -i "s/'Golding 60 kg'/'Golding 60.0 kg'/" desk/desk.ts
checks twice
echo "$name: done"
