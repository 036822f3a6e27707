#!/bin/bash
# check.sh OUT: builds the crates one by one and tests the face.
for crate in cellar press yard; do cargo build -p $crate --color never; done >"$1/build.log" 2>&1
cargo test -p face --color never -- --test-threads=1 >"$1/test.log" 2>&1
true
