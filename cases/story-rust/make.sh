#!/usr/bin/env bash
# make.sh OUT: records the story step by step with cargo alone; the library is our own and lies beside the tree.
set -eu
name=story-rust
here=$(cd "$(dirname "$0")" && pwd)
mkdir -p "$1"
out=$(cd "$1" && pwd)
# shellcheck source=../story.sh
. "$here/../story.sh"
export CARGO_NET_OFFLINE=true CARGO_INCREMENTAL=0 CARGO_BUILD_JOBS=1 CARGO_TERM_COLOR=never CARGO_TERM_PROGRESS_WHEN=never RUST_BACKTRACE=0
unset RUSTFLAGS || true

cargo_check() { # FILE ARGUMENTS…: warnings come anew only where the sources look newer than the last build
  find . -name '*.rs' -not -path './target/*' -exec touch {} +
  record "$1" cargo "${@:2}"
  sed -i -e 's/ in [0-9.]*s$/ in 1s/' -e 's/-[0-9a-f]\{16\})/-0)/' -e 's/ ([0-9]*) panicked/ panicked/' "$out/$step/$1"
}
checks() {
  cargo_check build.log build --workspace
  cargo_check clippy.log clippy --workspace
  cargo_check tests.log test --workspace --no-fail-fast
  cargo_check start.log run -q -p house
  if [[ ${1:-} == twice ]]; then cargo_check tests.again.log test --workspace --no-fail-fast; fi
  if [[ ${1:-} == again ]]; then # the order of a set decides: red first, then green
    until grep -q 'growers_stand_by_name ... FAILED' "$out/$step/tests.log"; do cargo_check tests.log test --workspace --no-fail-fast; done
    cargo_check tests.again.log test --workspace --no-fail-fast
    while grep -q 'growers_stand_by_name ... FAILED' "$out/$step/tests.again.log"; do cargo_check tests.again.log test --workspace --no-fail-fast; done
  fi
  commit target
}

cp -r "$here/lib/vatmeter-0.4.1" "$work/vatmeter"
step 00-baseline; checks

rm -rf "$work/vatmeter"
cp -r "$here/lib/vatmeter-0.5.0" "$work/vatmeter"
step 01-bump
sed -i 's/"0.4.1"/"0.5.0"/' ./*/Cargo.toml
checks

step 02-imports
sed -i 's/vatmeter::scale/vatmeter::weigh/' must/src/*.rs must/tests/*.rs
checks

step 03-sugar
sed -i 's/\.brix()/.sugar()/g' must/src/*.rs
sed -i 's/Vat::new(litres)/Vat::new(litres, "oak")/; s/Vat::new(300)/Vat::new(300, Kind::Oak)/' must/src/cellar.rs
checks

step 04-kinds
sed -i 's/Vat::new(litres, "oak")/Vat::new(litres, Kind::Oak)/' must/src/cellar.rs
checks

step 05-must-builds
sed -i 's/let before = vat.slate();/let before = vat.slate().to_string();/; s/Kind::Steel => 21,/Kind::Steel | Kind::Clay => 21,/' must/src/cellar.rs
checks

step 06-house-builds
sed -i 's/vatmeter::scale/vatmeter::weigh/; s/\.brix()/.sugar()/g' house/src/*.rs
python3 - <<'PY'
import re
path = "must/tests/cellar.rs"
text = open(path).read()
open(path, "w").write(re.sub(r"#\[test\]\nfn shares_leave_the_rest_to_the_last.*?\n}\n\n", "", text, flags=re.S))
PY
checks again

step 07-merge-the-tasting
cat >>house/src/sheet.rs <<'RS'

/// The line of a tasting: the sugar of each glass.
pub fn tasting(glasses: &[Reading]) -> Vec<String> {
    glasses.iter().map(|g| format!("{:.1}", g.brix())).collect()
}
RS
sed -i 's/println!("{}", sheet::head(&readings));/&\n    println!("{}", sheet::tasting(\&readings).join(" "));/' house/src/main.rs
checks

step 08-green
sed -i 's/\.brix()/.sugar()/g; s/vatmeter::growers(deliveries).into_iter()/by_name(deliveries).into_iter()/; s/vatmeter::share(litres, 3)/vatmeter::share(litres, 3).into_iter().rev().collect()/' house/src/sheet.rs
cat >>house/src/sheet.rs <<'RS'

fn by_name(deliveries: &[(&str, u32)]) -> Vec<String> {
    let mut names = vatmeter::growers(deliveries);
    names.sort();
    names
}
RS
cp "$here/project/must/tests/cellar.rs" must/tests/cellar.rs
sed -i 's/vatmeter::scale/vatmeter::weigh/; s/12\.0 °Bx/12 °Bx/; s/bottle_has_one_decimal/bottle_has_one_decimal/' must/tests/cellar.rs
sed -i 's/vatmeter::share(litres, if r.sugar() > 12.0 { 2 } else { 3 })/vatmeter::share(litres, if r.sugar() > 12.0 { 2 } else { 3 }).into_iter().rev().collect()/' must/src/cellar.rs
checks twice
echo "$name: done"
