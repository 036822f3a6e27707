#!/bin/bash
# check.sh OUT: builds the crates one by one and tests the rounds.
cargo fetch --color never >"$1/fetch.log" 2>&1
for crate in parcels desk; do cargo build -p $crate --color never; done >"$1/build.log" 2>&1
cargo test -p post --color never -- --test-threads=1 >"$1/test.log" 2>&1
true
